import { cookies } from "next/headers";
import { changeWishes, readWishes, wishCookie } from "../../../../../shop/account";
import { backTo, cookieOptions, readForm, seeOther } from "../../../../../shop/forms";

/** Puts an item on the wish list, or takes it off. */
export async function POST(request: Request): Promise<Response> {
  const form = await readForm(request);
  const jar = await cookies();
  const wishes = changeWishes(readWishes(jar.get(wishCookie)?.value), String(form.get("sku") ?? ""));
  jar.set(wishCookie, wishes.join("."), cookieOptions);
  return seeOther(backTo(form));
}
