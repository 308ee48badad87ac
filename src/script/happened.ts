/** What happens on a page, told as events: what was seen, clicked and reached. Used by the page script and by the in-process door. */
import { now, nowText } from "../clock";
import { lasting, read, readJson, write } from "./store";

export interface Seen {
  slot: string;
  variant: string;
  arm: string;
}
export interface Happened extends Seen {
  at: string;
  kind: "exposure" | "click" | "conversion";
  first: boolean;
  name: string;
  value: number;
  source: string;
  receipt: string | undefined;
  /** Which one of its kind it is by this receipt. */
  n: number;
}
interface Options {
  /** Whether the visitor's browser may remember what was seen: without that, nothing is ever a first, and no goal is told. */
  consent: boolean;
  /** Where the visitor came from (core/formats/event.ts, `sourceText`); "" where it is not the first page. */
  source: string;
  send: (events: Happened[]) => void;
  /** What came with what is shown, by SLOT/VARIANT/ARM: without it nothing counts. */
  receipts?: Readonly<Record<string, string>> | undefined;
  /**
   * Watches for the site's goals, and answers what ends that. Without it no goal is told, nor those that stand in the page: it is
   * once a page, not again for what is seen on it later.
   */
  goals?: (reach: Reach) => (() => void) | undefined;
}

/** What the browser remembers: by variant and arm, on which day it was seen first, and what else has happened since. */
type Past = Record<string, PastItem>;
interface PastItem {
  day: number;
  did: string[];
  /** The receipt of then. */
  r?: string | undefined;
}
const key = "mirada-seen";
const sourceKey = "mirada-source";
/** As in core/decision/holdout.ts, which would bring its hash along. */
const holdoutSlot = "site:holdout";
const keepDays = 30;
const mostKept = 200;
/** So often each thing counts, as delivery/receipts.ts has it. */
const most = 20;
const today = (): number => Math.floor(now() / 86_400_000);

const readPast = (): Past =>
  Object.fromEntries(
    Object.entries(readJson<Past>(key, {}, lasting))
      .filter(([, item]) => item.day > today() - keepDays)
      .slice(-mostKept),
  );
/** The source of this visit: that of its first page. */
function visitSource(told: string): string {
  const kept = read(sourceKey);
  // Nowhere in particular, and by no campaign.
  if (kept && /^(direct)?(\|\||$)/.test(told)) return kept;
  if (told) write(sourceKey, told);
  return told;
}

/** Tells a goal for whatever was seen within so many days; false: nothing was. */
export type Reach = (name: string, value: number, days: number) => boolean;

const nameOf = ({ slot, variant, arm }: Seen) => `${slot}/${variant}/${arm}`;

/** Which side of the holdout a visitor is on is something seen, like a variant: so goals are told for it. */
export const holdoutSeen = (side: "in" | "out" | undefined): Seen[] =>
  side === undefined ? [] : [{ slot: holdoutSlot, variant: "", arm: side }];

/**
 * Watches one page: tells what is shown on it, clicks on links and buttons in its slots, and goals: those of the site, and those that
 * stand in the page as `data-mirada-goal="order" data-mirada-value="2590" data-mirada-once="ORDER"`. A goal is told for whatever this
 * visitor had seen.
 * @returns a function that stops watching
 */
export function watch(
  shown: readonly Seen[],
  { consent, source: toldSource, send, goals, receipts = {} }: Options,
): () => void {
  const source = visitSource(toldSource);
  /** What was told of somebody who is not remembered. */
  const told: string[] = [];
  // Read anew each time: other parts of the page write there, too.
  let past = consent ? readPast() : {};
  const make = (kind: Happened["kind"], seen: Seen, name = "", value = 0): Happened => {
    const id = nameOf(seen);
    let item = past[id];
    const isNew = consent && !item;
    if (isNew && kind === "exposure") past[id] = item = { day: today(), did: [] };
    // One visitor may follow several links of a variant, and has clicked in it once: the first is the first.
    const did = item?.did ?? told;
    const what = kind === "conversion" ? `${kind} ${name}` : kind;
    const n = did.filter((one) => one === what).length;
    if (kind !== "exposure" && n < most) did.push(what);
    const first = kind === "exposure" ? isNew : item !== undefined && n === 0;
    // A goal counts by the receipt of what was seen first; what was seen before there were any gets its next one.
    if (item) item.r = item.r ?? receipts[id];
    const receipt = kind === "conversion" ? item?.r : receipts[id];
    return { ...seen, at: nowText(), kind, first, name, value, source, receipt, n };
  };
  /** A goal for whatever was seen within so many days. */
  const reached = (name: string, value: number, days = keepDays): Happened[] =>
    Object.entries(past).flatMap(([known, { day }]) => {
      const [slot = "", variant = "", arm = ""] = known.split("/");
      // What stands under the star is no variant.
      return slot !== "*" && day > today() - days ? [make("conversion", { slot, variant, arm }, name, value)] : [];
    });
  // On which side of the holdout somebody is is told once: it is nothing that is looked at.
  const events = shown.map((seen) => make("exposure", seen)).filter(({ slot, first }) => slot !== holdoutSlot || first);
  for (const goal of consent && goals ? document.querySelectorAll<HTMLElement>("[data-mirada-goal]") : []) {
    const { miradaGoal: name = "", miradaValue, miradaOnce } = goal.dataset;
    const once = `once ${name} ${miradaOnce}`;
    // A page that is looked at again has reached nothing anew.
    if (miradaOnce !== undefined) {
      const all = (past["*"] = past["*"] ?? { day: today(), did: [] });
      if (all.did.includes(once)) continue;
      all.did.push(once);
    }
    const value = Math.max(0, Math.round(Number(miradaValue))) || 0;
    events.push(...reached(name.slice(0, 80), value));
  }
  const tell = (list: Happened[]) => {
    if (list.length === 0) return;
    if (consent) write(key, JSON.stringify(past), lasting);
    send(list);
  };
  tell(events);

  const clicked = (path: HTMLElement[]): Happened[] => {
    // Also within what draws itself apart, where the event's own target is what it stands in.
    const at = (selector: string) => path.find((one) => one.matches(selector));
    const place = at("[data-mirada-slot], [data-mirada-popup]");
    if (!place || !at("a[href], button")) return [];
    const slot = place.dataset.miradaSlot ?? `popup:${place.dataset.miradaPopup}`;
    const here = shown.filter((item) => item.slot === slot);
    // In a list of several, the one that was clicked; they stand in their order.
    const index = [...place.children].findIndex((child) => path.includes(child as HTMLElement));
    const seen = here[here.length > 1 ? index : 0] ?? here[0];
    return seen ? [make("click", seen, (at("a")?.getAttribute("href") ?? "").split("?")[0]?.slice(0, 80))] : [];
  };
  const click = (event: Event) => {
    past = consent ? readPast() : {};
    tell(clicked(event.composedPath().filter((one) => one instanceof HTMLElement)));
  };
  document.addEventListener("click", click, true);
  const end =
    consent &&
    goals?.((name, value, days) => {
      past = readPast();
      const list = reached(name, value, days);
      tell(list);
      return list.length > 0;
    });
  return () => {
    document.removeEventListener("click", click, true);
    if (end) end();
  };
}
