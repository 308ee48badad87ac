/** The account of a cart: step by step, how its total came about, in words. */
import { said, t, text } from "../messages/t";
import type { Offer, Ruleset } from "../formats/ruleset";
import type { Visit } from "../formats/visit";
import { RuleCompiler } from "../rules/compile";
import { RuleContext } from "../rules/condition";
import type { Reading } from "../visit/reading";
import { formatMoney } from "../money/currency";
import { readyOffers, type OfferStep, type OfferVerdict, type Reckoning } from "./offers";

/** One line of the account. Amounts in minor units. */
export interface AccountLine {
  offer: string;
  name: string;
  verdict: OfferVerdict;
  says: string;
  discount: number;
  toGo: number;
  /** What is left of the cart after this step. */
  left: number;
}

const reasons: Record<Exclude<OfferVerdict, "applied" | "below threshold" | "nothing in scope">, string> = said({
  off: text("switched off"),
  "outside its dates": text("outside its dates"),
  "rule false": text("its rule is not met"),
  "rule unknown": text("its rule cannot be told for this visitor"),
  "does not combine": text("another offer applied already, and it stands alone"),
  "list ended": text("an offer that stands alone applied before it"),
});

/** Makes the reckoning of any reading's cart; null if the cart is not told or in another currency. */
export function reckoner(ruleset: Ruleset): (reading: Reading) => Reckoning | null {
  const compiler = new RuleCompiler(new RuleContext(ruleset));
  return readyOffers(ruleset, (rule) => compiler.compile(rule));
}

/** The account of a reckoning, in the order in which offers were judged. */
export function accountOf(reckoning: Reckoning, ruleset: Ruleset): AccountLine[] {
  const money = (minor: number): string => formatMoney(minor, ruleset.site.currency, ruleset.site.language);
  let left = reckoning.subtotal;
  return reckoning.steps.map((step) => {
    left -= step.discount;
    return {
      offer: step.offer.id,
      name: step.offer.name,
      verdict: step.verdict,
      says: stepText(step, money),
      discount: step.discount,
      toGo: step.toGo,
      left,
    };
  });
}

const scopeText = ({ scope }: Offer): string =>
  scope
    ? t("what is in scope ({value})", { value: [...(scope.categories ?? []), ...(scope.skus ?? [])].join(", ") })
    : t("the cart");

function stepText(step: OfferStep, money: (minor: number) => string): string {
  const { offer, verdict, qualifying, discount, toGo } = step;
  const { reward, threshold } = offer;
  switch (verdict) {
    case "applied": {
      const reached = threshold === undefined ? "" : t(", at least its threshold");
      if ("freeDelivery" in reward)
        return t("{offer} comes to {qualifying}{reached}: delivery is free", {
          offer: scopeText(offer),
          qualifying: money(qualifying),
          reached,
        });
      if ("percent" in reward)
        return t("{percent} % of {qualifying} ({offer}){reached}: {discount} off", {
          percent: reward.percent,
          qualifying: money(qualifying),
          offer: scopeText(offer),
          reached,
          discount: money(discount),
        });
      return t("{discount} off {qualifying} ({offer}){reached}", {
        discount: money(discount),
        qualifying: money(qualifying),
        offer: scopeText(offer),
        reached,
      });
    }
    case "below threshold":
      return t("{offer} comes to {qualifying}: {toGo} are missing", {
        offer: scopeText(offer),
        qualifying: money(qualifying),
        toGo: money(toGo),
      });
    case "nothing in scope":
      return t("nothing of {offer} is left to take from", { offer: scopeText(offer) });
    default:
      return reasons[verdict];
  }
}

/** A point of the curve of totals over cart values. Minor units. */
export interface CurvePoint {
  subtotal: number;
  total: number;
  toGo: Record<string, number>;
}

/**
 * What a visitor would pay at each cart value up to `most`: one line of the cart's first category (or of no category) is made
 * to come to the value. Thresholds and the values just below them are always among the points.
 */
export function curve(
  ruleset: Ruleset,
  read: (visit: Visit) => Reading,
  visit: Visit,
  most: number,
  thresholds: readonly number[],
): CurvePoint[] {
  const reckon = reckoner(ruleset);
  const model = visit.cart?.lines[0];
  const line = {
    sku: model?.sku ?? "something",
    ...(model?.category === undefined ? {} : { category: model.category }),
  };
  const values = new Set<number>();
  for (let step = 0; step <= 80; step++) values.add(Math.round((most * step) / 80));
  for (const threshold of thresholds)
    for (const near of [threshold - 1, threshold]) if (near >= 0 && near <= most) values.add(near);
  return [...values]
    .sort((a, b) => a - b)
    .flatMap((subtotal) => {
      const reckoning = reckon(
        read({ ...visit, cart: { lines: subtotal === 0 ? [] : [{ ...line, quantity: 1, unitPrice: subtotal }] } }),
      );
      return reckoning ? [{ subtotal, total: reckoning.total, toGo: Object.fromEntries(reckoning.toGo) }] : [];
    });
}
