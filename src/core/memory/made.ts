/** Memory as people say it: made by hand for a lens, and told back. */
import { day, minute } from "../calendar/calendar";
import { emptyMemory, readMemory, visitGap, writeMemory, type MemoryJson } from "./memory";

/** What a visitor did before the page view at hand. */
export interface Past {
  /** Visits before this one, or with this one if pages of it were seen already. */
  visits: number;
  /** Pages seen in this visit before this one; 0: this page begins a new visit. */
  views: number;
  /** Whole minutes since this visit began, if it has begun. */
  minutes: number;
  /** Whole days since the last page view of the visit before; undefined if there was none. */
  daysSinceLast: number | undefined;
  /** The path on which this visit began, if it has begun. */
  landing: string;
  categories: Record<string, number>;
  markers: Record<string, { held: boolean; count: number }>;
  /** Variants shown, by id: days ago. */
  variants: Record<string, number>;
  /** How often pop-ups were shown, ever. */
  popups: Record<string, number>;
  redirects: string[];
}

export const noPast: Past = {
  visits: 0,
  views: 0,
  minutes: 0,
  daysSinceLast: undefined,
  landing: "",
  categories: {},
  markers: {},
  variants: {},
  popups: {},
  redirects: [],
};

/** A visit lasts on if the last page was seen less than half an hour ago: a lens's last page was a minute ago. */
const lately = minute;

/**
 * Memory in which a past took place, as seen at `at` (epoch ms).
 * @param markerDays how long a marker that is held still lasts, in days, by its id
 */
export function makeMemory(past: Past, at: number, markerDays: ReadonlyMap<string, number>): MemoryJson {
  const memory = emptyMemory();
  const begun = past.views > 0;
  if (past.visits > 0) {
    // The visit before ended long enough ago that this one is another; so many whole days ago all the same.
    const previous = at - (past.daysSinceLast ?? 1) * day - visitGap;
    memory.visits = past.visits;
    memory.last = begun ? at - lately : previous;
    memory.began = begun ? at - Math.max(past.minutes * minute, lately) : previous;
    memory.previous = begun && past.visits > 1 ? previous : 0;
    memory.views = begun ? past.views : 1;
    memory.landing = past.landing;
  }
  const used = memory.last || at;
  for (const [name, views] of Object.entries(past.categories))
    if (views > 0) memory.categories.set(name, { views, used });
  for (const [id, { held, count }] of Object.entries(past.markers))
    memory.markers.set(id, { count, until: held ? at + (markerDays.get(id) ?? 1) * day : 0, used });
  for (const [id, daysAgo] of Object.entries(past.variants)) memory.variants.set(id, { shown: at - daysAgo * day });
  const today = Math.floor(at / day);
  for (const [id, times] of Object.entries(past.popups)) {
    memory.popups.set(id, {
      ever: times,
      visit: begun ? past.visits : 0,
      inVisit: begun ? times : 0,
      day: begun ? today : 0,
      inDay: begun ? times : 0,
      used,
    });
    memory.lastPopup = begun ? at - lately : at - day;
  }
  for (const id of past.redirects) memory.redirects.set(id, { visit: begun ? past.visits : 0, used });
  return writeMemory(memory);
}

/** What memory says of a past, as seen at `at`. */
export function pastOf(input: unknown, at: number): Past {
  const memory = readMemory(input);
  const begun = memory.visits > 0 && at - memory.last < visitGap;
  const previous = begun ? memory.previous : memory.last;
  return {
    visits: memory.visits,
    views: begun ? memory.views : 0,
    minutes: begun ? Math.floor((at - memory.began) / minute) : 0,
    daysSinceLast: previous > 0 ? Math.max(0, Math.floor((at - previous) / day)) : undefined,
    landing: begun ? memory.landing : "",
    categories: Object.fromEntries([...memory.categories].map(([name, { views }]) => [name, views])),
    markers: Object.fromEntries([...memory.markers].map(([id, { count, until }]) => [id, { count, held: until > at }])),
    variants: Object.fromEntries(
      [...memory.variants].map(([id, { shown }]) => [id, Math.max(0, Math.round(((at - shown) / day) * 10) / 10)]),
    ),
    popups: Object.fromEntries([...memory.popups].map(([id, { ever }]) => [id, ever])),
    redirects: [...memory.redirects.keys()],
  };
}

/** Memory moved in time as a whole: a lens that travels takes its past along. */
export function shiftMemory(input: unknown, by: number): MemoryJson | undefined {
  if (input === undefined || input === null) return undefined;
  const memory = readMemory(input);
  const moved = (at: number): number => (at > 0 ? Math.max(1, at + by) : 0);
  memory.began = moved(memory.began);
  memory.last = moved(memory.last);
  memory.previous = moved(memory.previous);
  memory.lastPopup = moved(memory.lastPopup);
  for (const entry of memory.categories.values()) entry.used = moved(entry.used);
  for (const entry of memory.markers.values()) {
    entry.used = moved(entry.used);
    entry.until = moved(entry.until);
  }
  for (const entry of memory.variants.values()) entry.shown = moved(entry.shown);
  for (const entry of memory.popups.values()) {
    entry.used = moved(entry.used);
    entry.day += Math.round(by / day);
  }
  for (const entry of memory.redirects.values()) entry.used = moved(entry.used);
  return writeMemory(memory);
}
