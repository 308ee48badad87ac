"use client";
import { t } from "@/core/messages/t";
import IconButton from "@mui/material/IconButton";
import Menu from "@mui/material/Menu";
import MenuItem from "@mui/material/MenuItem";
import Tooltip from "@mui/material/Tooltip";
import { ListChecks } from "lucide-react";
import { useSnackbar } from "notistack";
import { useState } from "react";
import { makeCheck } from "@/core/checks/make";
import { expectationText } from "@/core/checks/run";
import type { Check, Expectation } from "@/core/formats/check";
import type { Slot } from "@/core/formats/ruleset";
import { freshName } from "../parts/fresh";
import { useDesk } from "../parts/desk/desk";
import { useKeep } from "../parts/desk/use-keep";

/** Keeps an expectation of the visit at hand as a check. */
export function useKeepCheck(): (expect: Expectation, of?: Pick<Check, "visit" | "steps">) => Promise<void> {
  const { look, ruleset } = useDesk();
  const { keep } = useKeep("checks");
  const { enqueueSnackbar } = useSnackbar();
  return async (expect, of = { visit: look.visit, steps: [] }) => {
    const check = makeCheck(freshName("check"), of.visit, expect, ruleset, t("Saved here"), of.steps);
    if (await keep([check]))
      enqueueSnackbar(t("Saved as a check: {expectationText}", { expectationText: expectationText(expect, ruleset) }));
  };
}

/** Keeps what is on screen as a check, in one click: the variant, the text, the total, or being sent on. */
export function KeepCheck({ slot }: { slot: Slot | undefined }) {
  const { look, ruleset } = useDesk();
  const keepCheck = useKeepCheck();
  const [menu, setMenu] = useState<HTMLElement | null>(null);
  const { decision } = look;
  const expectations: Expectation[] = [];
  if (decision.redirect) expectations.push({ redirect: decision.redirect.location });
  const shown = slot && decision.slots[slot.id]?.[0];
  if (slot && shown) {
    expectations.push({ slot: slot.id, variant: shown.variant });
    const fields = ruleset.blockTypes.find((type) => type.id === shown.content?.type)?.fields ?? [];
    const text = fields
      .filter((field) => field.kind === "line" || field.kind === "text")
      .map((field) => shown.content?.fields[field.id])
      .find((value): value is string => typeof value === "string" && value.trim() !== "");
    if (text) expectations.push({ slot: slot.id, text });
  }
  if (decision.cart && decision.cart.subtotal > 0) expectations.push({ total: decision.cart.total });
  const keep = (expect: Expectation) => {
    setMenu(null);
    void keepCheck(expect);
  };
  return (
    <>
      <Tooltip title={t("Save what is on screen as a check")}>
        <span>
          <IconButton
            aria-label={t("Save as check")}
            aria-haspopup="menu"
            disabled={expectations.length === 0}
            onClick={(event) => setMenu(event.currentTarget)}
          >
            <ListChecks size={16} />
          </IconButton>
        </span>
      </Tooltip>
      <Menu open={menu !== null} anchorEl={menu} onClose={() => setMenu(null)}>
        {expectations.map((expect) => (
          <MenuItem key={JSON.stringify(expect)} onClick={() => keep(expect)}>
            {t("This visitor, here and then: {expectationText}", {
              expectationText: expectationText(expect, ruleset).slice(0, 90),
            })}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}
