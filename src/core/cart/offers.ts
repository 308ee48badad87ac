import type { CartLine } from "../formats/visit";
import type { Offer, Ruleset } from "../formats/ruleset";
import type { Rule } from "../formats/rule";
import { parseLocal } from "../calendar/calendar";
import { zoneOf } from "../calendar/zone";
import type { Judge } from "../rules/compile";
import { YES, type Truth } from "../rules/truth";
import type { CartFigures, Reading } from "../visit/reading";
import { toMinor } from "../money/currency";
import { lineTotal } from "../visit/cart-lines";

/** Why an offer applied or did not. */
export type OfferVerdict =
  | "applied"
  | "off"
  | "outside its dates"
  | "rule false"
  | "rule unknown"
  | "nothing in scope"
  | "below threshold"
  | "does not combine"
  | "list ended";

/** What happened to one offer at its turn. Amounts in minor units. */
export interface OfferStep {
  offer: Offer;
  verdict: OfferVerdict;
  qualifying: number;
  discount: number;
  toGo: number;
}

/** What offers make of a cart (docs/engine.md, section 10). Amounts in minor units. */
export interface Reckoning extends CartFigures {
  steps: OfferStep[];
  freeDelivery: boolean;
}

interface ReadyOffer {
  offer: Offer;
  judge: Judge;
  threshold: bigint;
  from: number;
  until: number;
  inScope: (line: CartLine) => boolean;
}

/** Makes a ruleset's offers ready to reckon carts. */
export function readyOffers(ruleset: Ruleset, compile: (rule: Rule) => Judge): (r: Reading) => Reckoning | null {
  const zone = zoneOf(ruleset.site.zone);
  const { currency } = ruleset.site;
  const bound = (local: string | undefined, otherwise: number): number =>
    local === undefined ? otherwise : zone.toInstant(parseLocal(local) as number);
  const minor = (text: string): bigint => BigInt(toMinor(text, currency) as number);
  const ready: ReadyOffer[] = ruleset.offers.map((offer) => {
    const categories = new Set(offer.scope?.categories);
    const skus = new Set(offer.scope?.skus);
    return {
      offer,
      judge: compile(offer.rule),
      threshold: offer.threshold === undefined ? 0n : minor(offer.threshold),
      from: bound(offer.from, -Infinity),
      until: bound(offer.until, Infinity),
      inScope: offer.scope
        ? (line) => skus.has(line.sku) || (line.category !== undefined && categories.has(line.category))
        : () => true,
    };
  });

  return (r) => {
    if (!r.cartTold || !r.visit.cart) return null;
    const { lines } = r.visit.cart;
    const left = lines.map(lineTotal);
    const sum = (amounts: Iterable<bigint>): bigint => {
      let total = 0n;
      for (const amount of amounts) total += amount;
      return total;
    };
    const subtotal = sum(left);
    const toGo = new Map<string, number>();
    const steps: OfferStep[] = [];
    let applied = 0;
    let ended = false;
    let freeDelivery = false;
    for (const { offer, judge, threshold, from, until, inScope } of ready) {
      const scoped = lines.map((line, index) => (inScope(line) ? index : -1)).filter((index) => index >= 0);
      const qualifying = sum(scoped.map((index) => left[index] as bigint));
      const missing = threshold > qualifying ? threshold - qualifying : 0n;
      toGo.set(offer.id, Number(missing));
      const truth = offer.on && r.at >= from && r.at < until ? judge(r) : undefined;
      const verdict = verdictOf(offer, truth, ended, applied > 0, qualifying, missing);
      let discount = 0n;
      if (verdict === "applied") {
        applied += 1;
        if (!offer.combines) ended = true;
        if ("freeDelivery" in offer.reward) freeDelivery = true;
        else {
          discount =
            "percent" in offer.reward
              ? percentOf(qualifying, offer.reward.percent)
              : smaller(minor(offer.reward.amount), qualifying);
          share(discount, scoped, left, qualifying);
        }
      }
      steps.push({ offer, verdict, qualifying: Number(qualifying), discount: Number(discount), toGo: Number(missing) });
    }
    return { subtotal: Number(subtotal), total: Number(sum(left)), toGo, steps, freeDelivery };
  };
}

function verdictOf(
  offer: Offer,
  truth: Truth | undefined,
  ended: boolean,
  others: boolean,
  qualifying: bigint,
  missing: bigint,
): OfferVerdict {
  if (!offer.on) return "off";
  if (truth === undefined) return "outside its dates";
  if (ended) return "list ended";
  if (truth !== YES) return truth === 1 ? "rule unknown" : "rule false";
  if (qualifying <= 0n) return "nothing in scope";
  if (missing > 0n) return "below threshold";
  if (!offer.combines && others) return "does not combine";
  return "applied";
}

const smaller = (a: bigint, b: bigint): bigint => (a < b ? a : b);

/** A percentage (at most two decimals) of an amount, exact, rounded half up to the minor unit. */
const percentOf = (amount: bigint, percent: number): bigint =>
  (amount * BigInt(Math.round(percent * 100)) + 5000n) / 10_000n;

/** Takes a discount off lines in proportion to what is left of each: rounded down, the rest to the largest remainders. */
function share(discount: bigint, scoped: number[], left: bigint[], qualifying: bigint): void {
  const parts = scoped.map((index) => {
    const exact = discount * (left[index] as bigint);
    return { index, part: exact / qualifying, remainder: exact % qualifying };
  });
  let over = discount - parts.reduce((total, item) => total + item.part, 0n);
  // Sorting is stable, so of equal remainders earlier lines come first.
  for (const item of [...parts].sort((a, b) =>
    a.remainder === b.remainder ? 0 : a.remainder > b.remainder ? -1 : 1,
  )) {
    if (over <= 0n) break;
    item.part += 1n;
    over -= 1n;
  }
  for (const item of parts) left[item.index] = (left[item.index] as bigint) - item.part;
}
