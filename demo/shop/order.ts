/** The shop's own cookie after an order: "b-3f9c~2590", its number and total in cents. Orders are made up, and kept nowhere. */
export const orderCookie = "order";

export interface Order {
  number: string;
  total: number;
}
export const writeOrder = ({ number, total }: Order): string => `${number}~${total}`;
export function readOrder(cookie: string | undefined): Order | undefined {
  const [, number, total] = /^(b-[0-9a-f]{8})~(\d{1,9})$/.exec(cookie ?? "") ?? [];
  return number && total ? { number, total: Number(total) } : undefined;
}
