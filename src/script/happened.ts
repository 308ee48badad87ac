/** What happens on a page, told as events: what was seen, clicked and reached. Used by the page script and by the in-process door. */
import { now, nowText } from "../clock";

export interface Seen {
  slot: string;
  variant: string;
  arm: string;
}
export interface Happened extends Seen {
  id: string;
  at: string;
  kind: "exposure" | "click" | "conversion";
  first: boolean;
  name: string;
  value: number;
  source: string;
  receipt?: string;
  /** Which one of its kind it is by this receipt. */
  n: number;
}
interface Options {
  /** Whether the visitor's browser may remember what was seen: without that, nothing is ever a first, and no goal is told. */
  consent: boolean;
  /** Where the visitor came from, in a word; "" where it is not the first page. */
  source: string;
  send: (events: Happened[]) => void;
  /** What came with what is shown, by SLOT/VARIANT/ARM: without it nothing counts. */
  receipts?: Readonly<Record<string, string>> | undefined;
  /** The site's goals on this page; without them no goal is told: it is once a page, not again for what is seen on it later. */
  goals?: readonly PageGoal[];
}

/** What the browser remembers: by variant and arm, on which day it was seen first, and what else has happened since. */
type Past = Record<string, PastItem>;
interface PastItem {
  day: number;
  did: string[];
  /** The receipt of then, and how often each goal was reached by it. */
  r?: string;
  n?: Record<string, number>;
}
const key = "mirada-seen";
const sourceKey = "mirada-source";
/** As in core/decision/holdout.ts, which would bring its hash along. */
const holdoutSlot = "site:holdout";
/** As in delivery/receipts.ts, which reads what is told. */
const mostByReceipt = 20;
const goalsKey = "mirada-goals";
const keepDays = 30;
const mostKept = 200;
const today = (): number => Math.floor(now() / 86_400_000);

function readPast(): Past {
  try {
    const past = JSON.parse(localStorage.getItem(key) ?? "{}") as Past;
    return Object.fromEntries(
      Object.entries(past)
        .filter(([, item]) => item.day > today() - keepDays)
        .slice(-mostKept),
    );
  } catch {
    return {};
  }
}
function writePast(past: Past): void {
  try {
    localStorage.setItem(key, JSON.stringify(past));
  } catch {
    // The browser keeps nothing: then everything is as if seen for the first time, and told as such once a page.
  }
}
/** The source of this visit: that of its first page. */
function visitSource(told: string): string {
  try {
    const kept = sessionStorage.getItem(sourceKey);
    if (kept !== null && (told === "" || told === "direct")) return kept;
    if (told !== "") sessionStorage.setItem(sourceKey, told);
  } catch {
    // Nothing is kept: the page's own will do.
  }
  return told;
}

/** A random UUID; made here because pages without TLS lack `crypto.randomUUID`. */
export const uuid = (): string =>
  // `randomUUID` is there only in secure contexts; the bits are the same.
  crypto.randomUUID?.() ??
  "10000000-1000-4000-8000-100000000000".replace(/[018]/g, (digit) =>
    (Number(digit) ^ ((crypto.getRandomValues(new Uint8Array(1))[0] as number) & (15 >> (Number(digit) / 4)))).toString(
      16,
    ),
  );

/** A goal of the site, as the server tells it: a page view that reaches it, or the part that is clicked in or sent. */
export interface PageGoal {
  id: string;
  way: "page" | "click" | "form";
  at?: { selector: string; within?: readonly string[] };
  /** In minor units of the site's currency. */
  value: number;
  /** For how many days a variant is given it. */
  days: number;
}

const nameOf = ({ slot, variant, arm }: Seen) => `${slot}/${variant}/${arm}`;

/** Which side of the holdout a visitor is on is something seen, like a variant: so goals are told for it. */
export const holdoutSeen = (side: "in" | "out" | undefined): Seen[] =>
  side === undefined ? [] : [{ slot: holdoutSlot, variant: "", arm: side }];

/** The goals that were told in this tab. */
function toldHere(): string[] {
  try {
    return JSON.parse(sessionStorage.getItem(goalsKey) ?? "[]") as string[];
  } catch {
    return [];
  }
}
function noteTold(goal: string): void {
  try {
    sessionStorage.setItem(goalsKey, JSON.stringify([...toldHere(), goal].slice(-100)));
  } catch {
    // Nothing is kept: then it is told once a page.
  }
}

/** Whether what happened along a path is on the part that a goal names; of a form, it may be anything in it. */
function isOn({ at, way }: PageGoal, path: readonly Element[]): boolean {
  const isThere = (one: string) =>
    path.some((it) => it.matches(one)) || (way === "form" && path[0]?.querySelector(one) != null);
  try {
    return at !== undefined && [at.selector, ...(at.within ?? [])].every(isThere);
  } catch {
    // A selector that this browser does not take.
    return false;
  }
}

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
  /** How often what is shown here was told of, by kind. */
  const told: Record<string, number> = {};
  // Read anew each time: other parts of the page write there, too.
  let past = consent ? readPast() : {};
  const make = (kind: Happened["kind"], seen: Seen, name = "", value = 0): Happened => {
    // One visitor may follow several links of a variant, and has clicked in it once.
    const what = kind === "conversion" ? `${kind} ${name}` : kind;
    const item = past[nameOf(seen)];
    const first =
      consent && (kind === "exposure" ? item === undefined : item !== undefined && !item.did.includes(what));
    if (first && kind === "exposure") past[nameOf(seen)] = { day: today(), did: [] };
    else if (first) item?.did.push(what);
    const { slot, variant, arm } = seen;
    // A goal counts by the receipt of what was seen first; what was seen before there were any gets its next one.
    const here = receipts[nameOf(seen)];
    const known = past[nameOf(seen)];
    if (known && here !== undefined) known.r ??= here;
    const receipt = kind === "conversion" ? known?.r : here;
    const counts = kind === "conversion" && known ? (known.n ??= {}) : told;
    const by = kind === "conversion" ? name : `${kind} ${nameOf(seen)}`;
    const n = counts[by] ?? 0;
    counts[by] = n + 1;
    const event = { id: uuid(), at: nowText(), kind, slot, variant, arm, first, name, value, source, n };
    return receipt === undefined ? event : { ...event, receipt };
  };
  /** A goal for whatever was seen within so many days. */
  const reached = (name: string, value: number, days = keepDays): Happened[] =>
    Object.entries(past).flatMap(([known, { day }]) => {
      const [slot, variant, arm] = known.split("/");
      return slot && variant !== undefined && arm !== undefined && day > today() - days
        ? [make("conversion", { slot, variant, arm }, name, value)]
        : [];
    });
  // On which side of the holdout somebody is is told once: it is nothing that is looked at.
  const events = shown.map((seen) => make("exposure", seen)).filter(({ slot, first }) => slot !== holdoutSlot || first);
  for (const goal of consent && goals ? document.querySelectorAll<HTMLElement>("[data-mirada-goal]") : []) {
    const { miradaGoal: name = "", miradaValue, miradaOnce } = goal.dataset;
    const once = `once ${name} ${miradaOnce}`;
    // A page that is looked at again has reached nothing anew.
    if (miradaOnce !== undefined && past["*"]?.did.includes(once)) continue;
    if (miradaOnce !== undefined) (past["*"] ??= { day: today(), did: [] }).did.push(once);
    const value = Math.max(0, Math.round(Number(miradaValue ?? 0))) || 0;
    events.push(...reached(name.slice(0, 80), value));
  }
  // A page that is a goal is one once a visit, however often it is looked at.
  for (const { id, way, value, days } of (consent && goals) || []) {
    if (way !== "page" || toldHere().includes(id)) continue;
    const now = reached(id, value, days);
    // Whoever had seen nothing yet may still reach it for what comes.
    if (now.length > 0) noteTold(id);
    events.push(...now);
  }
  const tell = (list: Happened[]) => {
    if (list.length === 0) return;
    if (consent) writePast(past);
    // By one receipt no more count.
    const good = list.filter(({ n }) => n < mostByReceipt);
    if (good.length > 0) send(good);
  };
  tell(events);

  const later = (more: () => Happened[]) => {
    past = consent ? readPast() : {};
    tell(more());
  };
  const elements = (event: Event) => event.composedPath().filter((one) => one instanceof HTMLElement);
  const clicked = (path: HTMLElement[]): Happened[] => {
    // Also within what draws itself apart, where the event's own target is what it stands in.
    const at = (selector: string) => path.find((one) => one.matches(selector));
    const place = at("[data-mirada-slot], [data-mirada-popup]");
    if (!place || !at("a[href], button")) return [];
    const slot = place.dataset.miradaSlot ?? `popup:${place.dataset.miradaPopup}`;
    const here = shown.filter((item) => item.slot === slot);
    if (here.length === 0) return [];
    // In a list of several, the one that was clicked; they stand in their order.
    const index = here.length > 1 ? [...place.children].findIndex((child) => path.includes(child as HTMLElement)) : 0;
    const seen = here[index] ?? here[0];
    if (!seen) return [];
    return [make("click", seen, (at("a")?.getAttribute("href") ?? "").split("?")[0]?.slice(0, 80))];
  };
  const goalsBy = (way: PageGoal["way"], path: HTMLElement[]): Happened[] =>
    ((consent && goals) || [])
      .filter((goal) => goal.way === way && isOn(goal, path))
      .flatMap(({ id, value, days }) => reached(id, value, days));
  const click = (event: Event) => later(() => [...clicked(elements(event)), ...goalsBy("click", elements(event))]);
  const submit = (event: Event) => later(() => goalsBy("form", elements(event)));
  document.addEventListener("click", click, true);
  document.addEventListener("submit", submit, true);
  return () => {
    document.removeEventListener("click", click, true);
    document.removeEventListener("submit", submit, true);
  };
}
