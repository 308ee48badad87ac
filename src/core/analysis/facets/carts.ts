/** Carts, by value, number and what is in them. */
import { valueReader } from "../../formats/operators";
import type { Condition } from "../../formats/rule";
import type { Domain, Facet, Setting } from "../facet";
import { textCandidates } from "../texts";
import { numberCandidates } from "./numbers";

export function carts(conditions: readonly Condition[], { ruleset }: Domain): Facet {
  const { currency } = ruleset.site;
  const money = valueReader("money", currency);
  const minor = money.limit;
  const on = (prefix: string) => conditions.filter((condition) => condition.signal.startsWith(prefix));
  const amounts = new Set([1000, ...numberCandidates([...on("cart.subtotal"), ...on("cart.total")], true, money)]);
  for (const condition of on("cart.toGo.")) {
    const offer = ruleset.offers.find((item) => item.id === condition.signal.slice(10));
    const threshold = offer?.threshold === undefined ? 0 : minor(offer.threshold);
    for (const number of numberCandidates([condition], true, money)) amounts.add(Math.max(0, threshold - number));
  }
  for (const offer of ruleset.offers)
    if (offer.threshold !== undefined && (on("cart.total").length > 0 || on("cart.toGo.").length > 0))
      for (const near of [-1, 0, 1]) amounts.add(Math.max(0, minor(offer.threshold) + near));
  // What offers take off is put on again, so that a total can come to any limit.
  const limits = numberCandidates(on("cart.total"), true, money);
  for (const offer of on("cart.total").length > 0 ? ruleset.offers : [])
    for (const limit of limits) {
      if ("percent" in offer.reward && offer.reward.percent < 100) {
        const before = limit / (1 - offer.reward.percent / 100);
        for (const near of [Math.floor(before), Math.ceil(before), Math.ceil(before) + 1]) amounts.add(near);
      }
      if ("amount" in offer.reward) amounts.add(limit + minor(offer.reward.amount));
      amounts.add(limit * 2 + 1);
      amounts.add(limit * 10);
    }
  const skus = textCandidates(on("cart.skus"));
  const categories = textCandidates(on("cart.categories"));
  const scopeNames = ruleset.offers.flatMap((offer) => offer.scope?.categories ?? []);
  const kinds: { sku: string; category?: string }[] = [{ sku: "something" }];
  for (const sku of on("cart.skus").length > 0 ? skus.texts : []) kinds.push({ sku });
  const wanted = on("cart.categories").length > 0 ? [...categories.texts, ...scopeNames] : scopeNames;
  for (const category of new Set(wanted)) kinds.push({ sku: "something", category });
  for (const offer of ruleset.offers) for (const sku of offer.scope?.skus ?? []) kinds.push({ sku });
  const counts = numberCandidates(on("cart.count"), true).filter((count) => count > 0);
  const foreign = currency === "USD" ? "EUR" : "USD";
  const settings: Setting[] = [
    (made) => void delete made.visit.cart,
    (made) => void (made.visit.cart = { lines: [] }),
    // In another currency the money is unknown, and all else is told.
    (made) => void (made.visit.cart = { currency: foreign, lines: [] }),
  ];
  for (const kind of kinds)
    for (const amount of amounts)
      for (const count of counts.length > 0 ? counts : [1])
        settings.push((made) => {
          // One piece bears the amount, the rest cost nothing: any subtotal goes with any count.
          made.visit.cart = {
            lines: [
              { ...kind, quantity: 1, unitPrice: amount },
              ...(count > 1 ? [{ ...kind, sku: `${kind.sku}`, quantity: count - 1, unitPrice: 0 }] : []),
            ],
          };
        });
  for (const kind of kinds)
    for (const count of new Set([1, ...counts]))
      settings.push((made) => {
        made.visit.cart = { currency: foreign, lines: [{ ...kind, quantity: count, unitPrice: 1000 }] };
      });
  // A line of no pieces is in the cart, and counts nothing.
  for (const kind of kinds)
    for (const money of [undefined, foreign])
      settings.push((made) => {
        made.visit.cart = { ...(money ? { currency: money } : {}), lines: [{ ...kind, quantity: 0, unitPrice: 1000 }] };
      });
  if (kinds.length > 2)
    settings.push((made) => {
      made.visit.cart = { lines: kinds.map((kind) => ({ ...kind, quantity: 1, unitPrice: 1000 })) };
    });
  const leaning = on("cart.total").length + on("cart.toGo.").length > 0 && ruleset.offers.length > 0;
  return { name: "cart", settings, exact: !leaning && on("cart.skus").length + on("cart.categories").length <= 1 };
}
