/** Filling the slots of a page with what was decided for it. */
import { draw, type DrawnBlock, type Kinds } from "./draw";
import type { Seen } from "./happened";
import { applyOwn, hidden, type OwnChange } from "./own";
import { findThere, placesHere, placesOf } from "./places";

interface Shown {
  variant: string | null;
  arm: string | null;
  content: DrawnBlock | null;
}
/** Where a slot is that no mark in the page names. */
interface Place {
  selector: string;
  how: "replace" | "before" | "after" | "first" | "last";
  /** Elements whose open shadow roots it lies in, from the outermost on. */
  within?: string[];
  /** Everything that is found is a place of the slot. */
  each?: true;
  /** A page without it is as it should be. */
  ifThere?: true;
}
export interface Fillable {
  slots: Record<string, Shown[]>;
  kinds: Kinds;
  places?: Record<string, Place>;
}
export interface Drifted {
  slot: string;
  /** The version that does not fit; "": the slot's place is not there. */
  variant: string;
  why: string;
}
export interface Filling {
  seen: Seen[];
  /** The slots that were filled just now, in one place or several. */
  filled: string[];
  /** Slots whose place was not found once, or whose version does not fit the page any more: the page's own content stands. */
  drifted: Drifted[];
  /** Takes everything back: the page is as it came. */
  undo: () => void;
}

const isObject = (value: unknown): value is Record<string, unknown> => typeof value === "object" && value !== null;

/** Whether an answer is one: whatever else comes is as none at all. */
export const isFillable = (answer: unknown): answer is Fillable =>
  isObject(answer) &&
  isObject(answer.slots) &&
  isObject(answer.kinds) &&
  Object.values(answer.slots).every((shown) => Array.isArray(shown));

/** The height of an element as its `min-height` would count it. */
function innerHeightOf(element: HTMLElement): number {
  const { height } = element.getBoundingClientRect();
  const style = getComputedStyle(element);
  if (style.boxSizing === "border-box") return height;
  const edges = [style.paddingTop, style.paddingBottom, style.borderTopWidth, style.borderBottomWidth];
  return edges.reduce((left, edge) => left - (parseFloat(edge) || 0), height);
}

const ways = { before: "beforebegin", after: "afterend", first: "afterbegin", last: "beforeend" } as const;
/** What the places that were made lean on. */
const leansOn = new WeakMap<Element, Element>();

/** Puts blocks into a place. @returns what takes them back; undefined: they do not fit the page any more */
function put(place: HTMLElement, blocks: readonly DrawnBlock[], kinds: Kinds): (() => void) | undefined {
  const [first] = blocks;
  if (first?.type === "@own") return applyOwn(place, (first.fields.changes ?? []) as OwnChange[]);
  if (first?.type === "@hidden") return hidden(place);
  const before = [...place.childNodes];
  const { minHeight } = place.style;
  // The room that the slot has stays its room, so that nothing below it moves.
  if (place.dataset.miradaMade === undefined) place.style.minHeight = `${innerHeightOf(place)}px`;
  place.replaceChildren(...blocks.filter((block) => !block.type.startsWith("@")).map((block) => draw(block, kinds)));
  return () => {
    place.replaceChildren(...before);
    place.style.minHeight = minHeight;
  };
}

/** Marks or makes the places that slots have by selectors, but for those that the page marks itself. */
export function locateAll(places: Fillable["places"] = {}): Pick<Filling, "drifted" | "undo"> {
  const drifted: Filling["drifted"] = [];
  const undo: (() => void)[] = [];
  for (const [slot, { selector, how, within, each, ifThere }] of Object.entries(places)) {
    const there = placesOf(slot);
    if (there.length > 0 && !each) continue;
    let found: HTMLElement[] = [];
    try {
      found = findThere(selector, within).filter((element) => element instanceof HTMLElement);
    } catch {
      // The browser takes no such selector: then nothing is found by it.
    }
    const times = found.length;
    if (times === 0 ? !ifThere : times > 1 && !each) {
      drifted.push({ slot, variant: "", why: `its place was ${times === 0 ? "not found" : `found ${times} times`}` });
      continue;
    }
    const held = there.map((one) => leansOn.get(one) ?? one);
    for (const element of found) {
      if (held.includes(element)) continue;
      const place = how === "replace" ? element : document.createElement("div");
      place.dataset.miradaSlot = slot;
      if (how === "replace") undo.push(() => delete place.dataset.miradaSlot);
      else {
        place.dataset.miradaMade = "";
        leansOn.set(place, element);
        element.insertAdjacentElement(ways[how], place);
        undo.push(() => place.remove());
      }
    }
  }
  return { drifted, undo: () => undo.reverse().forEach((step) => step()) };
}

/** What stands in the filled places: a place in which something else is drawn now is to be filled anew. */
const inPlace = new WeakMap<HTMLElement, readonly ChildNode[]>();
const isFilled = (place: HTMLElement): boolean => {
  if (place.dataset.miradaFilled === undefined) return false;
  const nodes = inPlace.get(place);
  return nodes === undefined || nodes.length === 0 || nodes.some((node) => place.contains(node));
};

/**
 * Fills every slot that is on the page and was not filled before.
 * @param may whether a slot may still be filled
 */
export function fill({ slots, kinds, places }: Fillable, may: (slot: string) => boolean): Filling {
  const seen: Seen[] = [];
  const filled = new Set<string>();
  const located = locateAll(places);
  const drifted = new Map(located.drifted.map((one) => [one.slot, one]));
  const undo: (() => void)[] = [located.undo];
  for (const place of placesHere()) {
    const slot = place.dataset.miradaSlot as string;
    const shown = slots[slot];
    if (!shown || isFilled(place) || !may(slot)) continue;
    const blocks = shown.flatMap((item) => (item.content === null ? [] : [item.content]));
    // An empty answer leaves the page's own content: it is the fallback of whoever made the page.
    const back = blocks.length > 0 ? put(place, blocks, kinds) : () => undefined;
    if (!back) {
      drifted.set(slot, { slot, variant: shown[0]?.variant ?? "", why: "the page has changed under this version" });
      continue;
    }
    place.dataset.miradaFilled = "";
    inPlace.set(place, blocks.length > 0 ? [...place.childNodes] : []);
    undo.push(() => delete place.dataset.miradaFilled, back);
    // Seen once, in however many places.
    if (filled.has(slot)) continue;
    filled.add(slot);
    for (const item of shown) seen.push({ slot, variant: item.variant ?? "", arm: item.arm ?? "" });
  }
  return {
    seen,
    filled: [...filled],
    drifted: [...drifted.values()],
    undo: () => undo.reverse().forEach((step) => step()),
  };
}
