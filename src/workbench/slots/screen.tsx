"use client";
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
      aria-label="Rows"
      value={show}
      onChange={(_, next: typeof show | null) => next && go(next === "slots" ? "/slots" : "/slots?show=variants")}
    >
      <ToggleButton value="slots">Slots</ToggleButton>
      <ToggleButton value="variants">Variants</ToggleButton>
    </ToggleButtonGroup>
  );
  const teaches = (
    <>
      A slot is a part of a page that has versions. <To href="/pages?point=slot">Point at a part of a page</To> to make
      the first one.
    </>
  );
  return (
    <main className="tablescreen">
      <div className="row">
        <h1>Slots</h1>
        {views}
        <PasteCopied />
      </div>
      {show === "slots" ? (
        <DataTable
          key="slots"
          name="Slots"
          noun={["slot", "slots"]}
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
          name="Variants"
          noun={["variant", "variants"]}
          rows={variants}
          columns={variantColumns}
          idOf={({ slot, variant }) => `${slot} ${variant}`}
          nameOf={({ of, item }) => `${item.name} of ${of.name}`}
          several={(chosen, done) => <SeveralVariants chosen={chosen} done={done} />}
          teaches={ruleset.slots.length === 0 ? teaches : "No slot has a variant yet: open a slot and add one."}
        />
      )}
    </main>
  );
}
