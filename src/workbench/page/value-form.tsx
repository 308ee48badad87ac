"use client";
import { t } from "@/core/messages/t";
import Button from "@mui/material/Button";
import { useState } from "react";
import { kindOfSignal, nameOfSignal } from "@/core/collect/sources";
import { likelyDecimal, readValue } from "@/core/collect/values";
import type { Collect } from "@/core/formats/collect";
import type { Pointed } from "@/core/preview/messages";
import { CollectSignal, DecimalSign } from "../parts/collect/fields";
import { ReadOnPages } from "../parts/collect/on-pages";
import { ReadAs } from "./read-as";
import { useDesk } from "../parts/desk/desk";

interface Props {
  at: Pointed;
  onDone: () => void;
}

/** A part that was pointed at tells a value: which, how it is read, and what it reads on the site's pages. */
export function ValueForm({ at, onDone }: Props) {
  const { ruleset, draft } = useDesk();
  const says = at.says ?? at.text ?? "";
  const [signal, setSignal] = useState(/\d/.test(says) ? "cart.subtotal" : "page.category");
  const [decimal, setDecimal] = useState<"." | ",">(likelyDecimal(says) ?? ".");
  const kind = kindOfSignal(signal, ruleset) ?? "text";
  const counts = kind === "number" || kind === "money";
  const entry: Collect = { signal, from: { selector: at.selector }, ...(counts ? { decimal } : {}) };
  const value = readValue(says, kind, decimal);
  const { collect } = ruleset;
  const before = collect.filter((item) => item.signal === signal);
  const lacksValue = signal === "cart.count" && !collect.some((item) => item.signal === "cart.subtotal");
  const save = () => {
    draft.edit(t("{nameOfSignal} is read from the page", { nameOfSignal: nameOfSignal(signal, ruleset) }), [
      {
        do: "set",
        at: ["collect"],
        before: collect,
        after: [...collect.filter((item) => JSON.stringify(item.from) !== JSON.stringify(entry.from)), entry],
      },
    ]);
    onDone();
  };
  return (
    <>
      <CollectSignal label={t("What it tells")} value={signal} onChange={setSignal} />
      {counts && <DecimalSign value={decimal} onChange={setDecimal} />}
      <ReadAs says={says} kind={kind} signal={signal} value={value}>
        {lacksValue && <span className="missing">{t("A cart is known by its value: point at that first.")}</span>}
        {before.length > 0 && (
          <span className="quiet">
            {t(
              "It is read {before, plural, one {in one place} other {in # places}} already; this one is asked after {before, plural, one {it} other {them}}.",
              { before: before.length },
            )}
          </span>
        )}
      </ReadAs>
      <ReadOnPages entry={entry} />
      <div className="row">
        <Button variant="contained" disabled={value === undefined || lacksValue} onClick={save}>
          {t("Read it from the page")}
        </Button>
      </div>
    </>
  );
}
