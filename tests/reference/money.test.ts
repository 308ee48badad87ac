/** Cart arithmetic against big.js, a decimal library, over generated carts in currencies of 0, 2 and 3 decimals. */
import Big from "big.js";
import { expect, it } from "vitest";
import { exponentOf } from "@/core/money/currency";
import { createEngine } from "@/core/decision/engine";
import { ruleset, site, visit } from "@/core/testing";
import { report } from "./report";

let state = 11;
const random = (n: number): number => ((state = (Math.imul(state, 1664525) + 1013904223) >>> 0) >>> 8) % n;

interface Made {
  percent?: Big;
  amount?: Big;
  threshold: Big;
  categories: string[] | undefined;
  combines: boolean;
}

it("reckons as big.js does", () => {
  let agree = 0;
  const cases = 3000;
  for (let i = 0; i < cases; i++) {
    const currency = ["JPY", "EUR", "KWD"][i % 3]!;
    const exponent = exponentOf(currency)!;
    const unit = new Big(10).pow(exponent);
    const text = (minor: number) => new Big(minor).div(unit).toFixed(exponent);
    const offers: Made[] = Array.from({ length: random(5) }, () => {
      const percent = random(2) === 0;
      return {
        ...(percent ? { percent: new Big(1 + random(10_000)).div(100) } : { amount: new Big(text(1 + random(5000))) }),
        threshold: new Big(text(random(20_000))),
        categories: random(2) === 0 ? undefined : ["x"],
        combines: random(4) > 0,
      };
    });
    const lines = Array.from({ length: 1 + random(6) }, () => ({
      sku: "s",
      category: ["x", "y"][random(2)]!,
      quantity: random(4),
      unitPrice: random(5000),
    }));
    const decision = createEngine(
      ruleset({
        site: { ...site, currency },
        offers: offers.map((item, index) => ({
          id: `o${index}`,
          name: "o",
          label: "o",
          ...(item.threshold.gt(0) ? { threshold: item.threshold.toFixed(exponent) } : {}),
          ...(item.categories ? { scope: { categories: item.categories } } : {}),
          reward: item.percent ? { percent: item.percent.toNumber() } : { amount: item.amount!.toFixed(exponent) },
          combines: item.combines,
        })),
      }),
    ).decide(visit({ cart: { lines } }));

    // The same by decimals in major units: rounding half up to the currency's last decimal, shares by largest remainder.
    const last = new Big(1).div(unit);
    let left = lines.map((line) => new Big(line.unitPrice).div(unit).times(line.quantity));
    let applied = 0;
    let ended = false;
    for (const item of offers) {
      const scope = lines.map((line) => !item.categories || item.categories.includes(line.category));
      const qualifying = left.reduce((sum, amount, k) => (scope[k] ? sum.plus(amount) : sum), new Big(0));
      if (ended || qualifying.lte(0) || qualifying.lt(item.threshold) || (!item.combines && applied > 0)) continue;
      applied++;
      if (!item.combines) ended = true;
      const discount = item.percent
        ? qualifying.times(item.percent).div(100).round(exponent, Big.roundHalfUp)
        : item.amount!.gt(qualifying)
          ? qualifying
          : item.amount!;
      const exactShares = left.map((amount, k) => (scope[k] ? discount.times(amount).div(qualifying) : new Big(0)));
      const shares = exactShares.map((share) => share.round(exponent, Big.roundDown));
      let over = discount.minus(shares.reduce((sum, share) => sum.plus(share), new Big(0)));
      const order = exactShares
        .map((share, k) => ({ k, remainder: discount.times(left[k]!).times(unit).mod(qualifying), share }))
        .filter(({ k }) => scope[k])
        .sort((a, b) => b.remainder.cmp(a.remainder));
      for (const { k } of order) {
        if (over.lte(0)) break;
        shares[k] = shares[k]!.plus(last);
        over = over.minus(last);
      }
      left = left.map((amount, k) => amount.minus(shares[k]!));
    }
    const total = left.reduce((sum, amount) => sum.plus(amount), new Big(0)).times(unit);
    if (total.eq(decision.cart!.total)) agree++;
  }
  expect(report("cart totals, big.js", agree, cases)).toBe(1);
});
