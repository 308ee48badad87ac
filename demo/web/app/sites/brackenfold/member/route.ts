import { cookies } from "next/headers";
import { memberCookie } from "../../../../../shop/account";
import { backTo, cookieOptions, readForm, seeOther } from "../../../../../shop/forms";

/** Signs in and out, as a stub: the shop tells Mirada of it, and nobody is checked. */
export async function POST(request: Request): Promise<Response> {
  const form = await readForm(request);
  const jar = await cookies();
  if (form.get("do") === "out") jar.delete(memberCookie);
  else jar.set(memberCookie, "yes", cookieOptions);
  return seeOther(backTo(form));
}
