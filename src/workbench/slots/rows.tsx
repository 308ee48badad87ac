"use client";
import { locale, said, t, text } from "@/core/messages/t";
import { isFault, type Finding } from "@/core/analysis/findings";
import { picksNothing } from "@/core/draft/picks";
import type { Difference } from "@/core/draft/difference";
import type { InSlot } from "@/core/draft/several";
import type { Slot, Variant } from "@/core/formats/ruleset";
import type { Standing } from "@/core/draft/standing";
import { ruleText } from "@/core/rules/sentence";
import { variantAddress } from "../parts/desk/screens";
import { To } from "../parts/desk/site-address";
import type { DeskState } from "../parts/desk/desk";
import type { Column } from "../parts/table/table-view";
import { Swatch } from "../parts/variants";

/** How something stands beside what is live, in a word or two. */
export const standingWords: Record<Standing, string> = said({
  same: text("As live"),
  changed: text("Changed"),
  new: text("Not live yet"),
});

interface Noted {
  live: string;
  /** In what it differs from what is live. */
  differs: string;
  faults: number;
  remarks: number;
}
export interface SlotRow extends Noted {
  slot: Slot;
  /** The paths on which it is; undefined: not found out yet. */
  pages: readonly string[] | undefined;
  on: number;
}
export interface VariantRow extends Noted, InSlot {
  of: Slot;
  item: Variant;
  place: number;
  who: string;
  state: string;
}

const findingsOf = (list: readonly Finding[]): { faults: number; remarks: number } => {
  const faults = list.filter(isFault).length;
  return { faults, remarks: list.length - faults };
};
const differsText = (list: readonly Difference[]): string => list.map(({ what, says }) => `${what} ${says}`).join("; ");

/** The rows of the table of slots. */
export function slotRows(
  { draft, changed, findings }: Pick<DeskState, "draft" | "changed" | "findings">,
  standing: ReadonlyMap<string, Standing>,
  pagesOf: (slot: string) => readonly string[] | undefined,
): SlotRow[] {
  return draft.ruleset.slots.map((slot) => ({
    slot,
    pages: pagesOf(slot.id),
    on: slot.variants.filter((variant) => variant.on).length,
    live: standingWords[standing.get(slot.id) ?? "new"],
    differs: differsText(changed.filter((item) => item.slot === slot.id)),
    ...findingsOf(findings.list.filter((item) => item.slot === slot.id)),
  }));
}

/** The rows of the table of variants: slot by slot, in the order in which they are asked. */
export function variantRows(
  { draft, changed, findings, look }: Pick<DeskState, "draft" | "changed" | "findings" | "look">,
  standing: ReadonlyMap<string, Standing>,
): VariantRow[] {
  const { ruleset } = draft;
  const text = (variant: Variant): string => (variant.rule ? ruleText(variant.rule, ruleset) : t("everyone"));
  return ruleset.slots.flatMap((slot) =>
    slot.variants.map((item, place) => ({
      of: slot,
      item,
      slot: slot.id,
      variant: item.id,
      place,
      who: text(item),
      state: look.runnable.unfinished.has(item.id)
        ? t("Not finished")
        : !item.on
          ? t("Off")
          : picksNothing(ruleset, item)
            ? t("Nothing to show")
            : t("On"),
      live: standingWords[standing.get(`${slot.id} ${item.id}`) ?? "new"],
      differs: differsText(changed.filter((one) => one.slot === slot.id && one.variant === item.id)),
      ...findingsOf(findings.list.filter((one) => one.slot === slot.id && one.variant === item.id)),
    })),
  );
}

function Odd({ faults, remarks, slot }: Noted & { slot: Slot }) {
  if (faults + remarks === 0) return <span className="quiet">–</span>;
  return (
    <To href={`/findings?only-where=${encodeURIComponent(slot.name)}`}>
      {faults > 0 && <span className="no">{t("{faults, plural, one {# fault} other {# faults}}", { faults })}</span>}
      {faults > 0 && remarks > 0 && ", "}
      {remarks > 0 && t("{remarks, plural, one {# remark} other {# remarks}}", { remarks })}
    </To>
  );
}

function Live({ live, differs }: Noted) {
  return (
    <span className={live === standingWords.same ? "quiet" : "unsure"} title={differs || undefined}>
      {live}
    </span>
  );
}

/** @param goTo leads to the slot on one of its pages */
export const slotColumns = (goTo: (slot: Slot, path: string) => void): Column<SlotRow>[] => [
  {
    id: "slot",
    name: t("Slot"),
    share: 1.6,
    value: ({ slot }) => `${slot.name} ${slot.id}`,
    cell: ({ slot }) => (
      <>
        <To href={variantAddress(slot.id)}>
          <b>{slot.name}</b>
        </To>{" "}
        <code className="quiet">{slot.id}</code>
      </>
    ),
  },
  {
    id: "pages",
    name: t("On pages"),
    share: 1.5,
    value: ({ pages }) => pages?.length ?? -1,
    cell: ({ slot, pages }) => {
      const [first, ...others] = pages ?? [];
      if (!pages) return <span className="quiet">{t("Being found out …")}</span>;
      if (first === undefined) return <span className="no">{t("On no page that is known")}</span>;
      return (
        <>
          <button
            type="button"
            className="link"
            title={t("Go to {slot} on {first}", { slot: slot.name, first })}
            onClick={() => goTo(slot, first)}
          >
            {first}
          </button>
          {others.length > 0 && (
            <span className="quiet" title={others.slice(0, 30).join("\n")}>
              {" "}
              {t("and {others} more", { others: others.length.toLocaleString(locale()) })}
            </span>
          )}
        </>
      );
    },
  },
  {
    id: "variants",
    name: t("Variants"),
    value: ({ slot }) => slot.variants.length,
    cell: ({ slot, on }) =>
      slot.variants.length === 0
        ? t("None")
        : t("{variants}, {on} on", {
            variants: slot.variants.length,
            on: on === slot.variants.length ? t("all") : on === 0 ? t("none") : on,
          }),
  },
  {
    id: "fallback",
    name: t("Fallback"),
    share: 0.8,
    few: true,
    value: ({ slot }) => (slot.fallback ? t("Its own") : t("None")),
  },
  { id: "live", name: t("Beside live"), few: true, value: ({ live }) => live, cell: (row) => <Live {...row} /> },
  {
    id: "odd",
    name: t("Findings"),
    value: ({ faults, remarks }) => faults * 1000 + remarks,
    cell: (row) => <Odd {...row} />,
  },
];

export const variantColumns = (): Column<VariantRow>[] => [
  {
    id: "variant",
    name: t("Variant"),
    share: 1.6,
    value: ({ item }) => item.name,
    cell: ({ item, of, place }) => (
      <span className="named">
        <Swatch index={place} />
        <To href={variantAddress(of.id, item.id)}>
          <b>{item.name}</b>
        </To>
      </span>
    ),
  },
  { id: "slot", name: t("Slot"), few: true, value: ({ of }) => of.name },
  {
    id: "who",
    name: t("Shown when"),
    share: 2.6,
    value: ({ who }) => who,
    cell: ({ who }) => <span className="rule">{who}</span>,
  },
  {
    id: "state",
    name: t("Switch"),
    share: 0.8,
    few: true,
    value: ({ state }) => state,
    cell: ({ state }) => (
      <span className={state === t("On") ? "yes" : state === t("Off") ? "quiet" : "unsure"}>{state}</span>
    ),
  },
  {
    id: "live",
    name: t("Beside live"),
    share: 0.9,
    few: true,
    value: ({ live }) => live,
    cell: (row) => <Live {...row} />,
  },
  {
    id: "odd",
    name: t("Findings"),
    value: ({ faults, remarks }) => faults * 1000 + remarks,
    cell: (row) => <Odd {...row} slot={row.of} />,
  },
];
