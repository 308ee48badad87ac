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

/** A shop's cart code ("fern-01~2.tool-01~1") as lines at the site's prices; undefined if nothing in it is sold here. */
export function cartFromCode(code: string, products: readonly Priced[]): CartLine[] | undefined {
  const lines = code
    .trim()
    .split(".")
    .flatMap((item) => {
      const [sku, count] = item.split("~");
      const product = products.find((one) => one.sku === sku);
      const quantity = Number(count);
      return product && /^\d{1,4}$/.test(count ?? "") && quantity > 0
        ? [{ sku: product.sku, category: product.category, quantity, unitPrice: product.unitPrice }]
        : [];
    });
  return lines.length > 0 ? lines : undefined;
}

const cartDeeds = ["add", "set", "remove", "empty"];

/**
 * What a form of the site makes of a cart, if it is a cart's (sku, do: add, set, remove or empty, quantity); undefined if it is
 * another form, or asks for nothing that can be.
 */
export function changeLines(
  lines: readonly CartLine[],
  form: Readonly<Record<string, string>>,
  products: readonly Priced[],
): CartLine[] | undefined {
  if (!cartDeeds.includes(form.do ?? "")) return undefined;
  if (form.do === "empty") return [];
  const product = products.find((item) => item.sku === form.sku);
  if (!product) return undefined;
  const there = lines.find((line) => line.sku === product.sku);
  const quantity =
    form.do === "remove" ? 0 : form.do === "set" ? Number(form.quantity ?? NaN) : (there?.quantity ?? 0) + 1;
  if (!Number.isInteger(quantity) || quantity < 0) return undefined;
  const rest = lines.filter((line) => line !== there);
  if (quantity === 0) return rest;
  const line = {
    sku: product.sku,
    category: product.category,
    quantity: Math.min(quantity, most),
    unitPrice: product.unitPrice,
  };
  return there ? lines.map((item) => (item === there ? line : item)) : [...rest, line];
}
