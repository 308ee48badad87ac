/** Brings a change of a visit as near to the visit at hand as will do: the nearest amount, time, place, version. */
import { cartSubtotal } from "../visit/cart-lines";
import { parseInstant, type Visit } from "../formats/visit";
import { day, isDate, minute } from "../calendar/calendar";
import { readDevice } from "../visit/device";
import type { History } from "../visit/reading";
import type { Setting } from "./facet";

export interface Change {
  /** The visit at hand. */
  start: Visit;
  /** The facets that change: as few as can be. */
  facets: readonly string[];
  settings: (facet: string) => readonly Setting[];
  /** A visit with a setting applied. */
  apply: (visit: Visit, setting: Setting) => Visit;
  /** Whether a visit gets what is wanted. */
  isSo: (visit: Visit) => boolean;
  past: (visit: Visit) => History | undefined;
}

/** More settings of a facet than this are not tried. */
const mostTried = 4000;

const subtotalOf = (visit: Visit): number => cartSubtotal(visit.cart?.lines ?? []);
const countOf = (visit: Visit): number => (visit.cart?.lines ?? []).reduce((sum, line) => sum + line.quantity, 0);
const instantOf = (visit: Visit): number => parseInstant(visit.at) as number;

/** How far a visit is from another in one facet; comparable within the facet alone. */
export function distance(facet: string, from: Visit, to: Visit, past: Change["past"]): number {
  switch (facet) {
    case "time":
      return Math.abs(instantOf(to) - instantOf(from)) / minute + (from.zone === to.zone ? 0 : 1e7);
    case "cart": {
      const known = (from.cart === undefined) === (to.cart === undefined) ? 0 : 0.5;
      const currency = (from.cart?.currency ?? "") === (to.cart?.currency ?? "") ? 0 : 1e9;
      // What was in the cart and is not any more weighs more than what is new in it.
      const names = (visit: Visit) => new Set((visit.cart?.lines ?? []).map((line) => `${line.sku} ${line.category}`));
      const [before, after] = [names(from), names(to)];
      const gone = [...before].filter((name) => !after.has(name)).length;
      const others = gone / 2 + [...after].filter((name) => !before.has(name)).length / 4;
      return (
        Math.abs(subtotalOf(to) - subtotalOf(from)) + Math.abs(countOf(to) - countOf(from)) + currency + known + others
      );
    }
    case "width":
      return Math.abs((to.hints?.width ?? 1280) - (from.hints?.width ?? 1280));
    case "device": {
      const [a, b] = [readDevice(from.userAgent, from.hints), readDevice(to.userAgent, to.hints)];
      if (!a || !b) return a === b ? 0 : 1e6;
      const parts = (a.kind === b.kind ? 0 : 4e4) + (a.os === b.os ? 0 : 2e4) + (a.browser === b.browser ? 0 : 2e4);
      return parts + Math.min(1e4, Math.abs((a.version ?? 0) - (b.version ?? 0)));
    }
    case "place": {
      const [a, b] = [from.place, to.place];
      const differs = (key: "country" | "region" | "city" | "lat" | "lon") => (a?.[key] === b?.[key] ? 0 : 1);
      return (
        1000 * differs("country") + 100 * differs("region") + 10 * differs("city") + differs("lat") + differs("lon")
      );
    }
    case "history":
      return historyDistance(past(from), past(to));
    default: {
      const [a, b] = [dataOf(facet, from), dataOf(facet, to)];
      if (typeof a === "number" && typeof b === "number") return Math.abs(a - b);
      if (typeof a === "string" && typeof b === "string" && isDate(a) && isDate(b))
        return Math.abs(Date.parse(a) - Date.parse(b)) / day;
      const parts = (visit: Visit) =>
        JSON.stringify([
          visit.url,
          visit.referrer,
          visit.cookies,
          visit.data,
          visit.page,
          visit.acceptLanguage,
          visit.ip,
        ]);
      const odd = Math.max(0, emptyTexts(to) - emptyTexts(from));
      return Math.abs(parts(to).length - parts(from).length) + (parts(to) === parts(from) ? 0 : 0.5) + 1000 * odd;
    }
  }
}

/** How many values a visit has that are there and say nothing, such as `?choice=`: hardly anybody's. */
const emptyTexts = ({ url, cookies, data, page }: Visit): number =>
  [
    ...new URL(url).searchParams.values(),
    ...[cookies, data, page, page?.data].flatMap((values) => Object.values(values ?? {})),
  ].filter((value) => value === "").length;

/** A value of the site's own data, where the facet is one. */
const dataOf = (facet: string, visit: Visit): unknown =>
  facet.startsWith("data.")
    ? visit.data?.[facet.slice(5)]
    : facet.startsWith("page.data.")
      ? visit.page?.data?.[facet.slice(10)]
      : undefined;

/** How far one past is from another: a visit more weighs more than a page more. */
function historyDistance(a: History | undefined, b: History | undefined): number {
  if (!a || !b) return a === b ? 0 : 1e6;
  const days = Math.abs((a.daysSinceLast ?? 0) - (b.daysSinceLast ?? 0));
  return (
    100 * Math.abs(a.visits - b.visits) +
    10 * Math.abs(a.views - b.views) +
    days +
    Math.abs(a.minutes - b.minutes) / 10 +
    (a.landing === b.landing ? 0 : 5)
  );
}

/** The cart at hand at another subtotal: its last piece costs what is missing, or one more that does is in it. */
function cartsAt(start: Visit, found: Visit, subtotal: number): Visit[] {
  const lines = start.cart?.lines ?? [];
  const now = subtotalOf(start);
  const out: Visit[] = [];
  const last = lines.at(-1);
  if (last && last.quantity === 1 && last.unitPrice + subtotal - now >= 0)
    out.push({
      ...start,
      cart: { ...start.cart, lines: [...lines.slice(0, -1), { ...last, unitPrice: last.unitPrice + subtotal - now }] },
    });
  for (const model of [last, found.cart?.lines[0]])
    if (model && subtotal >= now)
      out.push({
        ...start,
        cart: { ...start.cart, lines: [...lines, { ...model, quantity: 1, unitPrice: subtotal - now }] },
      });
  // Nothing of what was in it: the cart that was found, at this subtotal.
  const [first, ...rest] = found.cart?.lines ?? [];
  if (first) {
    const others = cartSubtotal(rest);
    if (subtotal >= others)
      out.push({
        ...found,
        cart: { ...found.cart, lines: [{ ...first, quantity: 1, unitPrice: subtotal - others }, ...rest] },
      });
  }
  return out.map((visit) => ({ ...found, cart: visit.cart as NonNullable<Visit["cart"]> }));
}

/** The nearest visit to the one at hand in which the same facets changed, as far as is known; `found` itself, if none is nearer. */
export function nearer(change: Change, found: Visit): Visit {
  const { start, facets, isSo, past } = change;
  let best = found;
  for (const facet of facets) {
    const far = (visit: Visit) => distance(facet, start, visit, past);
    const candidates: Visit[] = change
      .settings(facet)
      .slice(0, mostTried)
      .map((setting) => change.apply(best, setting));
    // Settings stand at the beginning of stretches: from behind, the last minute before one is nearer.
    if (facet === "time")
      for (const visit of [...candidates]) candidates.push(timeAt(change, visit, instantOf(visit) - minute));
    if (facet === "cart")
      for (const subtotal of new Set(candidates.map(subtotalOf))) candidates.push(...cartsAt(start, best, subtotal));
    for (const visit of candidates.sort((a, b) => far(a) - far(b))) {
      if (far(visit) >= far(best)) break;
      if (isSo(visit)) best = visit;
    }
    if (facet === "time")
      best = closest(best, instantOf(start), instantOf(best), minute, (at) => [timeAt(change, best, at)], isSo);
    if (facet === "cart" && best.cart)
      best = closest(best, subtotalOf(start), subtotalOf(best), 1, (subtotal) => cartsAt(start, best, subtotal), isSo);
  }
  return best;
}

const timeAt = (change: Change, visit: Visit, at: number): Visit => change.apply(visit, (made) => void (made.at = at));

/** Halves the way from a value to one that does, as long as what is made of the half still does; steps of `unit`. */
function closest(
  best: Visit,
  from: number,
  to: number,
  unit: number,
  make: (value: number) => Visit[],
  isSo: (visit: Visit) => boolean,
): Visit {
  let [no, yes] = [from, to];
  while (Math.abs(yes - no) > unit) {
    const middle = no + Math.round((yes - no) / 2 / unit) * unit;
    if (middle === no || middle === yes) break;
    const does = make(middle).find(isSo);
    if (does) {
      best = does;
      yes = middle;
    } else no = middle;
  }
  return best;
}
