import { cookies } from "next/headers";
import { cartCookie, changeCart, readCart, writeCart } from "@/storefront/brackenfold/cart";

/** Changes the cart and shows it. Prices and items come from the shop, never from the form. */
export async function POST(request: Request): Promise<Response> {
  const form = await request.formData().catch(() => new FormData());
  const jar = await cookies();
  const cart = readCart(jar.get(cartCookie)?.value);
  const sku = String(form.get("sku") ?? "");
  const quantity = form.get("do") === "set" ? Number(form.get("quantity") ?? NaN) : (cart.get(sku) ?? 0) + 1;
  jar.set(cartCookie, writeCart(changeCart(cart, sku, quantity)), { httpOnly: true, sameSite: "lax", path: "/" });
  return new Response(null, { status: 303, headers: { location: "/cart" } });
}
