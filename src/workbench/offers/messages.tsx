"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import MenuItem from "@mui/material/MenuItem";
import TextField from "@mui/material/TextField";
import { To } from "../parts/desk/site-address";
import { useState } from "react";
import { beginOf, makeMessages, messagesOf } from "@/core/draft/cart-messages";
import type { Offer } from "@/core/formats/ruleset";
import { useDesk } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { RuleSentence } from "../parts/sentence-text";

/** The messages about an offer; or the one step that makes them, tied to it: change its threshold or label and they follow. */
export function Messages({ offer }: { offer: Offer }) {
  const { ruleset, draft } = useDesk();
  const [slotId, setSlotId] = useState<string>();
  const [begin, setBegin] = useState("50");
  const made = messagesOf(offer.id, ruleset);
  const share = Number(begin);
  const good = /^\d{1,2}$/.test(begin) && share > 0;
  const slot =
    ruleset.slots.find((item) => item.id === slotId) ??
    ruleset.slots.find((item) => /cart/.test(item.id)) ??
    ruleset.slots[0];
  const from = beginOf(offer, ruleset);
  if (offer.threshold === undefined)
    return <span className="quiet">{t("Without a threshold nothing is missing: there is nothing to say.")}</span>;
  return (
    <div className="stack">
      {made.map(({ slot: where, variant }) => (
        <div key={variant.id} className="row line" style={{ alignItems: "baseline" }}>
          <To
            href={variantAddress(where.id, variant.id)}
            style={{ color: "inherit", fontWeight: 600, whiteSpace: "nowrap" }}
          >
            {variant.name.replace(`${offer.name}: `, "")}
          </To>
          <span className="rule" style={{ flex: 1 }}>
            <RuleSentence rule={variant.rule} names={ruleset} />
          </span>
          <span className="quiet">{where.name}</span>
        </div>
      ))}
      {made.length > 0 && from !== undefined && (
        <span className="quiet">
          {t(
            "“Nearly” begins at {from} % of the threshold. Another threshold or label is taken up by these messages by itself.",
            { from: Math.round(from * 100) },
          )}
        </span>
      )}
      <div className="row" style={{ alignItems: "flex-start" }}>
        <TextField
          select
          label={t("In the slot")}
          value={slot?.id ?? ""}
          onChange={(event) => setSlotId(event.target.value)}
          sx={{ maxWidth: 220 }}
        >
          {ruleset.slots.map((item) => (
            <MenuItem key={item.id} value={item.id}>
              {item.name}
            </MenuItem>
          ))}
        </TextField>
        <TextField
          label={t("“Nearly” from, % of the threshold")}
          value={begin}
          error={!good}
          helperText={
            good
              ? undefined
              : t("From 1 to 99.{share}", {
                  share: /^0+$/.test(begin)
                    ? t(" At 0 % an empty cart would be nearly there, and nothing be left for “not yet”.")
                    : share >= 100
                      ? t(" At 100 % it is reached already.")
                      : "",
                })
          }
          onChange={(event) => setBegin(event.target.value)}
          sx={{ maxWidth: 220 }}
        />
        <Button
          sx={{ py: 1.5 }}
          disabled={!slot || !good}
          onClick={() =>
            slot &&
            draft.edit(
              t("Messages about {offer}", { offer: offer.name }),
              makeMessages(offer, slot, ruleset, share / 100).edits,
            )
          }
        >
          {made.length === 0 ? t("Make the messages") : t("Make them here too")}
        </Button>
      </div>
    </div>
  );
}
