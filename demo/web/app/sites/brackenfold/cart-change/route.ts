import { cookies } from "next/headers";
import { cartCookie, changeCart, readCart, writeCart } from "../../../../../shop/cart";
import { cookieOptions, readForm, seeOther } from "../../../../../shop/forms";

/** Changes the cart and shows it. Prices and items come from the shop, never from the form. */
export async function POST(request: Request): Promise<Response> {
  const form = await readForm(request);
  const jar = await cookies();
  const cart = readCart(jar.get(cartCookie)?.value);
  const sku = String(form.get("sku") ?? "");
  const what = form.get("do");
  const quantity =
    what === "remove" ? 0 : what === "set" ? Number(form.get("quantity") ?? NaN) : (cart.get(sku) ?? 0) + 1;
  const next = what === "empty" ? new Map<string, number>() : changeCart(cart, sku, quantity);
  jar.set(cartCookie, writeCart(next), cookieOptions);
  return seeOther("/cart");
}
