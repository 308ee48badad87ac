import type { CartLine } from "../formats/visit";

/** Something that can be put into a cart; its price in minor units. */
export interface Priced {
  sku: string;
  category: string;
  unitPrice: number;
}

/** The most that one line may hold in a made-up cart. */
const most = 99;

/**
 * A cart of a site's products whose subtotal comes as near to an amount (minor units) as few lines allow: every combination
 * of two products is weighed, with the first as often as it fits. Of equally near ones the cart with fewer pieces wins.
 */
export function cartAbout(amount: number, products: readonly Priced[]): CartLine[] {
  const sold = products.filter((item) => item.unitPrice > 0);
  let best: CartLine[] = [];
  let distance = amount;
  let pieces = 0;
  const weigh = (lines: [Priced, number][]) => {
    const total = lines.reduce((sum, [item, quantity]) => sum + item.unitPrice * quantity, 0);
    const count = lines.reduce((sum, [, quantity]) => sum + quantity, 0);
    const off = Math.abs(total - amount);
    if (off > distance || (off === distance && count >= pieces)) return;
    distance = off;
    pieces = count;
    best = lines
      .filter(([, quantity]) => quantity > 0)
      .map(([{ sku, category, unitPrice }, quantity]) => ({ sku, category, quantity, unitPrice }));
  };
  for (const one of sold)
    for (let count = 0; count <= Math.min(most, Math.ceil(amount / one.unitPrice)); count++) {
      weigh([[one, count]]);
      const left = amount - count * one.unitPrice;
      if (left <= 0) break;
      for (const two of sold) {
        if (two === one) continue;
        const fits = Math.min(most, Math.floor(left / two.unitPrice));
        weigh([
          [one, count],
          [two, fits],
        ]);
        weigh([
          [one, count],
          [two, Math.min(most, fits + 1)],
        ]);
      }
    }
  return best;
}
