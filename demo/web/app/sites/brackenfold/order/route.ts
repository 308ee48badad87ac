import { randomBytes } from "node:crypto";
import { cookies } from "next/headers";
import { cartCookie } from "../../../../../shop/cart";
import { answerShop } from "../../../../../shop/door";
import { cookieOptions, seeOther } from "../../../../../shop/forms";
import { orderCookie, writeOrder } from "../../../../../shop/order";

/** Orders what is in the cart, as a stub: the cart is emptied, nothing is sent. What it costs is reckoned here. */
export async function POST(request: Request): Promise<Response> {
  const jar = await cookies();
  const kept = Object.fromEntries(jar.getAll().map(({ name, value }) => [name, value]));
  const answer = await answerShop({ headers: request.headers, cookies: kept, path: "/checkout", search: "" });
  const total = answer?.decision.cart?.total;
  if (total === undefined || !answer?.visit.cart?.lines?.length) return seeOther("/checkout");
  jar.set(orderCookie, writeOrder({ number: `b-${randomBytes(4).toString("hex")}`, total }), {
    ...cookieOptions,
    maxAge: 3600,
  });
  jar.delete(cartCookie);
  return seeOther("/checkout?said=thanks");
}
