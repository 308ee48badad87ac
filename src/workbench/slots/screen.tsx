"use client";
import { t } from "@/core/messages/t";
import { rich } from "../parts/rich";
import ToggleButton from "@mui/material/ToggleButton";
import ToggleButtonGroup from "@mui/material/ToggleButtonGroup";
import { useSearchParams } from "next/navigation";
import { useMemo } from "react";
import type { Slot } from "@/core/formats/ruleset";
import { standings } from "@/core/draft/standing";
import { useDesk } from "../parts/desk/desk";
import { variantAddress } from "../parts/desk/screens";
import { To } from "../parts/desk/site-address";
import { useGo } from "../parts/desk/use-go";
import { DataTable } from "../parts/table/data-table";
import { slotColumns, slotRows, variantColumns, variantRows } from "./rows";
import { PasteCopied, SeveralSlots, SeveralVariants } from "./several";
import { useSlotPages } from "./use-slot-pages";

/** All slots of all pages, or all their variants: where they are, what is live, what differs, what is odd. */
export function SlotsScreen() {
  const desk = useDesk();
  const { draft, changed, findings, look, live, ruleset } = desk;
  const go = useGo();
  const show = useSearchParams().get("show") === "variants" ? "variants" : "slots";
  const standing = useMemo(() => standings(ruleset, live?.ruleset, changed), [ruleset, live, changed]);
  const { pagesOf, whole } = useSlotPages();
  const { setVisit, visit } = look;
  const columnsOfVariants = useMemo(() => variantColumns(), []);
  const columns = useMemo(
    () =>
      slotColumns((slot: Slot, path: string) => {
        setVisit({ ...visit, url: new URL(path, visit.url).href });
        go(variantAddress(slot.id));
      }),
    [go, setVisit, visit],
  );
  const slots = useMemo(
    () => slotRows({ draft, changed, findings }, standing, (id) => pagesOf.get(id) ?? (whole ? [] : undefined)),
    [draft, changed, findings, standing, pagesOf, whole],
  );
  const variants = useMemo(
    () => variantRows({ draft, changed, findings, look }, standing),
    [draft, changed, findings, look, standing],
  );
  const views = (
    <ToggleButtonGroup
      exclusive
      size="small"
      aria-label={t("Rows")}
      value={show}
      onChange={(_, next: typeof show | null) => next && go(next === "slots" ? "/slots" : "/slots?show=variants")}
    >
      <ToggleButton value="slots">{t("Slots")}</ToggleButton>
      <ToggleButton value="variants">{t("Variants")}</ToggleButton>
    </ToggleButtonGroup>
  );
  const teaches = (
    <>
      {rich("A slot is a part of a page that has versions. {to} to make the first one.", {
        to: <To href="/pages?point=slot">{t("Point at a part of a page")}</To>,
      })}
    </>
  );
  return (
    <main className="tablescreen">
      <div className="row">
        <h1>{t("Slots")}</h1>
        {views}
        <PasteCopied />
      </div>
      {show === "slots" ? (
        <DataTable
          key="slots"
          name={t("Slots")}
          noun={[t("slot"), t("slots")]}
          rows={slots}
          columns={columns}
          idOf={({ slot }) => slot.id}
          nameOf={({ slot }) => slot.name}
          several={(chosen, done) => <SeveralSlots chosen={chosen} done={done} />}
          teaches={teaches}
        />
      ) : (
        <DataTable
          key="variants"
          name={t("Variants")}
          noun={[t("variant"), t("variants")]}
          rows={variants}
          columns={columnsOfVariants}
          idOf={({ slot, variant }) => `${slot} ${variant}`}
          nameOf={({ of, item }) => t("{name} of {name2}", { name: item.name, name2: of.name })}
          several={(chosen, done) => <SeveralVariants chosen={chosen} done={done} />}
          teaches={ruleset.slots.length === 0 ? teaches : t("No slot has a variant yet: open a slot and add one.")}
        />
      )}
    </main>
  );
}
