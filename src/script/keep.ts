/** Pages that draw themselves: places that come late are filled when they come, what is drawn over is put back once. */
import { fill, type Fillable, type Filling } from "./fill";
import { roots } from "./places";

/**
 * How often one slot is filled on one page: once, and once more where something drew over it, then the page has its way; one that is
 * in many places, some of which come later, more often.
 */
const mostTimes = (each: true | undefined): number => (each ? 20 : 2);
const mostRounds = 200;
/** A page draws in bursts: it is looked at after each, in milliseconds. */
const settle = 30;
/** An element that comes to draw itself apart tells nobody: the page is looked at so often, every so many milliseconds. */
const looks = 50;
const between = 100;

export interface Keeping {
  /** What has been filled so far. */
  filling: Filling;
  /** Ends the watch, and takes everything back. */
  undo: () => void;
}

/**
 * Fills the slots of a page, and watches it for a while.
 * @param span for how long, in milliseconds; @param hear what came later
 */
export function keepFilled(answer: Fillable, span: number, hear: (more: Filling) => void): Keeping {
  const times = new Map<string, number>();
  const filling = fill(answer, () => true);
  const undo = [filling.undo];
  const count = ({ filled }: Filling) => filled.forEach((slot) => times.set(slot, (times.get(slot) ?? 0) + 1));
  count(filling);
  const apart = Object.values(answer.places ?? {}).some(({ within }) => within);
  let rounds = 0;
  let timer: ReturnType<typeof setTimeout> | undefined;
  const again = () => {
    timer = apart && rounds < looks ? setTimeout(again, between) : undefined;
    if (++rounds > mostRounds) return watch.disconnect();
    const more = fill(answer, (slot) => (times.get(slot) ?? 0) < mostTimes(answer.places?.[slot]?.each));
    observe();
    // What was done here is no news of the page's.
    watch.takeRecords();
    count(more);
    filling.drifted = more.drifted;
    undo.push(more.undo);
    if (more.filled.length === 0) return;
    // What was filled once more has been seen.
    more.seen = more.seen.filter(({ slot }) => filling.seen.every((known) => known.slot !== slot));
    filling.seen.push(...more.seen);
    hear(more);
  };
  const soon = () => (timer = timer ?? setTimeout(again, settle));
  const watch = new MutationObserver(soon);
  const observe = () => roots().forEach((root) => watch.observe(root, { childList: true, subtree: true }));
  observe();
  if (apart) soon();
  const end = Number.isFinite(span) ? setTimeout(() => watch.disconnect(), span) : undefined;
  return {
    filling,
    undo() {
      clearTimeout(timer);
      clearTimeout(end);
      watch.disconnect();
      undo.reverse().forEach((step) => step());
    },
  };
}

/**
 * Tells when a page has become another without loading: by the Navigation API, else by the history's own means (HTML, “Session
 * history”).
 * @param hear is given the address before
 */
export function onOtherAddress(hear: (before: string) => void): void {
  let last = location.href;
  const bare = (url: string) => url.split("#")[0];
  const look = () => {
    const before = last;
    last = location.href;
    if (bare(last) !== bare(before)) hear(before);
  };
  // Not in TypeScript’s idea of a window yet.
  const { navigation } = window as unknown as { navigation?: EventTarget };
  if (navigation) {
    navigation.addEventListener("currententrychange", look);
    return;
  }
  for (const name of ["pushState", "replaceState"] as const) {
    const own = history[name];
    history[name] = function (...args) {
      own.apply(this, args);
      look();
    };
  }
  window.addEventListener("popstate", look);
}
