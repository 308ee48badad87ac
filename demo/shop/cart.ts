import type { Visit } from "@/core/formats/visit";
import { productBySku } from "./catalogue";

/** The shop's own cookie: "fern-01~2.tool-01~1", in characters that need no encoding. Prices are never taken from it. */
export const cartCookie = "cart";
const mostLines = 50;
const mostOfOne = 99;

/** Reads the cookie: unknown items are dropped, quantities kept within reason. */
export function readCart(cookie: string | undefined): Map<string, number> {
  const cart = new Map<string, number>();
  for (const item of (cookie ?? "").slice(0, 2000).split(".").slice(0, mostLines)) {
    const match = /^([a-z0-9-]+)~(\d{1,2})$/.exec(item);
    const quantity = Number(match?.[2]);
    if (match && productBySku.has(match[1] as string) && quantity > 0) cart.set(match[1] as string, quantity);
  }
  return cart;
}

export const writeCart = (cart: ReadonlyMap<string, number>): string =>
  [...cart].map(([sku, quantity]) => `${sku}~${quantity}`).join(".");

/** A cart with one item set to a quantity (0 takes it out). Unknown items and odd quantities change nothing. */
export function changeCart(cart: ReadonlyMap<string, number>, sku: string, quantity: number): Map<string, number> {
  const next = new Map(cart);
  if (!productBySku.has(sku) || !Number.isInteger(quantity) || quantity < 0) return next;
  if (quantity === 0) next.delete(sku);
  else if (next.has(sku) || next.size < mostLines) next.set(sku, Math.min(quantity, mostOfOne));
  return next;
}

/** The cart as a visit tells it, at the shop's own prices. */
export const visitCart = (cart: ReadonlyMap<string, number>): NonNullable<Visit["cart"]> => ({
  currency: "EUR",
  lines: [...cart].flatMap(([sku, quantity]) => {
    const item = productBySku.get(sku);
    return item ? [{ sku, category: item.category, quantity, unitPrice: item.price }] : [];
  }),
});
