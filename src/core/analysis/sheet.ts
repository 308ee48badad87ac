/** A sheet of visits side by side: who sees what, and in what two cells differ. */
import type { Engine } from "../decision/engine";
import type { Decision } from "../decision/decision";
import type { Visit } from "../formats/visit";
import { day as dayLength, minute, weekday } from "../calendar/calendar";
import type { Zone } from "../calendar/zone";
import { onPage, type PageFacts } from "../lens/pages";
import { visitAt } from "../lens/travel";

export interface SheetVisitor {
  id: string;
  name: string;
  visit: Visit;
}
/** What runs across: pages by path, or instants (epoch ms). */
export type Across =
  { pages: readonly { path: string; title: string }[] } | { times: readonly { at: number; title: string }[] };

export interface SheetCell {
  key: string;
  row: string;
  column: string;
  visit: Visit;
  decision: Decision;
}

/**
 * The cells of a sheet, row by row: each visitor on each page, or at each time.
 * @param facts what the site tells of its pages, by path
 */
export function sheetCells(
  engine: Engine,
  visitors: readonly SheetVisitor[],
  across: Across,
  facts: PageFacts,
): SheetCell[] {
  const { origin } = engine.ruleset.site;
  return visitors.flatMap(({ id, name, visit }) => {
    const made: [string, string, Visit][] =
      "pages" in across
        ? across.pages.map(({ path, title }) => {
            // Campaign tags belong to the arrival and stay on every page of the sheet.
            const { search } = new URL(visit.url);
            return [path, title, { ...visit, url: new URL(`${path}${search}`, origin).href }];
          })
        : across.times.map(({ at, title }) => [String(at), title, visitAt(visit, at)]);
    return made.map(([column, title, at]) => {
      const asked = onPage(at, facts);
      return { key: `${id} ${column}`, row: name, column: title, visit: asked, decision: engine.decide(asked) };
    });
  });
}

const shownIn = (decision: Decision, slot: string): string | undefined => {
  const shown = decision.slots[slot];
  return shown && JSON.stringify(shown.map((item) => [item.variant, item.arm, item.content]));
};

/**
 * The slots in which two decisions differ, of those that both pages have; `*redirect`, `*popup` and `*cart` besides, where
 * those do.
 */
export function differingParts(a: Decision, b: Decision): string[] {
  const out = Object.keys(a.slots).filter((slot) => b.slots[slot] && shownIn(a, slot) !== shownIn(b, slot));
  if (a.redirect?.location !== b.redirect?.location) out.push("*redirect");
  if (a.popup?.id !== b.popup?.id) out.push("*popup");
  if (a.cart?.total !== b.cart?.total) out.push("*cart");
  return out;
}

/** Whether a cell shows a variant. */
export const showsVariant = ({ decision }: SheetCell, slot: string, variant: string | null): boolean =>
  decision.slots[slot]?.some((item) => item.variant === variant) === true;

/** The next instant at or after `from` that falls on a weekday (0 is Monday) and minute of the day in a zone. */
export function nextWeekday(from: number, wanted: number, minuteOfDay: number, zone: Zone): number {
  for (let number = Math.floor(zone.toLocal(from) / dayLength); ; number++) {
    const at = zone.toInstant(number * dayLength + minuteOfDay * minute);
    if (weekday(number) === wanted && at >= from) return at;
  }
}
