/**
 * What Mirada keeps in a visitor's browser (docs/engine.md, section 9). To callers it is an opaque JSON object; here are its shape,
 * a lenient reader and a writer that keeps it small. All instants are epoch milliseconds.
 */

export interface MarkerMemory {
  count: number;
  /** When it is gone; 0: not held. */
  until: number;
  used: number;
}
export interface PopupMemory {
  ever: number;
  /** The visit in which it was last decided, and how often then. */
  visit: number;
  inVisit: number;
  /** The day (site's zone) on which it was last decided, and how often then. */
  day: number;
  inDay: number;
  used: number;
}
export interface Memory {
  visits: number;
  /** When this visit began. */
  began: number;
  /** The last page view; 0 if there was none. */
  last: number;
  /** The last page view of the visit before; 0 if there was none. */
  previous: number;
  /** Pages in this visit. */
  views: number;
  landing: string;
  categories: Map<string, { views: number; used: number }>;
  markers: Map<string, MarkerMemory>;
  variants: Map<string, { shown: number }>;
  popups: Map<string, PopupMemory>;
  redirects: Map<string, { visit: number; used: number }>;
  /** When any pop-up was last decided; 0 if never. */
  lastPopup: number;
}

/** A visit ends after this long without a page view: common practice in web analytics. */
export const visitGap = 30 * 60_000;
/** The longest that memory may be as a cookie's value, in bytes: 3.5 kB with room for a visitor's name and a signature. */
export const longestCookie = 3584 - 48;
/** Base64url makes four bytes of three. */
const longestJson = Math.floor(longestCookie / 4) * 3;
/** The end of the year 9999: an instant beyond it is damage. */
const latest = 253_402_300_799_999;

export const emptyMemory = (): Memory => ({
  visits: 0,
  began: 0,
  last: 0,
  previous: 0,
  views: 0,
  landing: "",
  categories: new Map(),
  markers: new Map(),
  variants: new Map(),
  popups: new Map(),
  redirects: new Map(),
  lastPopup: 0,
});

const count = (value: unknown): number =>
  typeof value === "number" && Number.isSafeInteger(value) && value >= 0 ? value : 0;

/** Rows `[name, number, …]` of a list, leniently. */
function rows(value: unknown, width: number): [string, number[]][] {
  if (!Array.isArray(value)) return [];
  const out: [string, number[]][] = [];
  for (const row of value.slice(0, 1000)) {
    if (!Array.isArray(row) || typeof row[0] !== "string") continue;
    out.push([row[0], Array.from({ length: width }, (_, index) => count(row[index + 1]))]);
  }
  return out;
}

/** The number of visits that memory knows of, the present one among them; 0: it knows of none. */
export const visitsIn = (input: unknown): number => count((input as Partial<MemoryJson> | null)?.h?.[0]);

/** Reads memory leniently: what is not as it should be counts as empty, never as an error. */
export function readMemory(input: unknown): Memory {
  const memory = emptyMemory();
  if (typeof input !== "object" || input === null || Array.isArray(input)) return memory;
  const raw = input as Record<string, unknown>;
  if (raw.v !== 1 || !Array.isArray(raw.h)) return memory;
  const [visits, began, last, previous, views, lastPopup] = Array.from({ length: 6 }, (_, i) =>
    count((raw.h as unknown[])[i]),
  );
  if ([began, last, previous, lastPopup].some((at) => (at as number) > latest)) return memory;
  if (visits && last) Object.assign(memory, { visits, began, last, previous, views });
  memory.lastPopup = lastPopup as number;
  memory.landing = typeof raw.l === "string" ? raw.l : "";
  for (const [name, [n = 0, used = 0]] of rows(raw.c, 2)) memory.categories.set(name, { views: n, used });
  for (const [id, [n = 0, until = 0, used = 0]] of rows(raw.m, 3)) memory.markers.set(id, { count: n, until, used });
  for (const [id, [shown = 0]] of rows(raw.s, 1)) memory.variants.set(id, { shown });
  for (const [id, [ever = 0, visit = 0, inVisit = 0, day = 0, inDay = 0, used = 0]] of rows(raw.p, 6))
    memory.popups.set(id, { ever, visit, inVisit, day, inDay, used });
  for (const [id, [visit = 0, used = 0]] of rows(raw.r, 2)) memory.redirects.set(id, { visit, used });
  return memory;
}

type Row = [string, ...number[]];
export interface MemoryJson {
  v: 1;
  h: number[];
  l: string;
  c?: Row[];
  m?: Row[];
  s?: Row[];
  p?: Row[];
  r?: Row[];
}

const bytes = (text: string): number => new TextEncoder().encode(text).length;

/** The JSON of memory, no longer than the cookie may be: entries longest unused leave first, whatever their kind. */
export function writeMemory(memory: Memory): MemoryJson {
  const { visits, began, last, previous, views, lastPopup } = memory;
  const entries: { key: "c" | "m" | "s" | "p" | "r"; row: Row; used: number }[] = [];
  for (const [name, c] of memory.categories) entries.push({ key: "c", row: [name, c.views, c.used], used: c.used });
  for (const [id, m] of memory.markers)
    if (m.count > 0 || m.until > 0) entries.push({ key: "m", row: [id, m.count, m.until, m.used], used: m.used });
  for (const [id, s] of memory.variants) entries.push({ key: "s", row: [id, s.shown], used: s.shown });
  for (const [id, p] of memory.popups)
    entries.push({ key: "p", row: [id, p.ever, p.visit, p.inVisit, p.day, p.inDay, p.used], used: p.used });
  for (const [id, r] of memory.redirects) entries.push({ key: "r", row: [id, r.visit, r.used], used: r.used });
  entries.sort((a, b) => b.used - a.used);

  const json: MemoryJson = { v: 1, h: [visits, began, last, previous, views, lastPopup], l: memory.landing };
  let size = bytes(JSON.stringify(json)) + 5 * '"c":[],'.length;
  for (const { key, row } of entries) {
    size += bytes(JSON.stringify(row)) + 1;
    if (size > longestJson) break;
    (json[key] ??= []).push(row);
  }
  return json;
}

/** The cookie's value for memory. A landing path that is longer than a cookie may be is cut short there. */
export const encodeMemory = (memory: MemoryJson): string => {
  const json = { ...memory };
  while (json.l && bytes(JSON.stringify(json)) > longestJson) json.l = json.l.slice(0, Math.floor(json.l.length * 0.9));
  let binary = "";
  for (const byte of new TextEncoder().encode(JSON.stringify(json))) binary += String.fromCharCode(byte);
  return btoa(binary).replaceAll("+", "-").replaceAll("/", "_").replace(/=+$/, "");
};

/** Reads a cookie's value back; undefined if it is damaged or too long. */
export function decodeMemory(cookie: string): unknown {
  if (cookie.length > longestCookie || !/^[A-Za-z0-9_-]+$/.test(cookie)) return undefined;
  try {
    const binary = atob(cookie.replaceAll("-", "+").replaceAll("_", "/"));
    return JSON.parse(new TextDecoder().decode(Uint8Array.from(binary, (char) => char.charCodeAt(0))));
  } catch {
    return undefined;
  }
}
