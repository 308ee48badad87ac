import type { CartLine } from "../formats/visit";

/** What one line of a cart comes to before offers, in minor units. */
export const lineTotal = (line: CartLine): bigint => BigInt(line.quantity) * BigInt(line.unitPrice);

/** What a cart comes to before offers, in minor units. It needs no offers, so their own rules may ask for it. */
export const cartSubtotal = (lines: readonly CartLine[]): number =>
  Number(lines.reduce((sum, line) => sum + lineTotal(line), 0n));
