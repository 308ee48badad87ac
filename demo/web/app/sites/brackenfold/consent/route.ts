import { cookies } from "next/headers";
import { consentCookie, cookieAge, memoryCookie } from "@/delivery/memory-cookie";
import { backTo, cookieOptions, readForm, seeOther } from "../../../../../shop/forms";

/** Keeps what a visitor answered to the consent bar; a no also forgets what was remembered. */
export async function POST(request: Request): Promise<Response> {
  const form = await readForm(request);
  const jar = await cookies();
  const yes = form.get("answer") === "yes";
  jar.set(consentCookie, yes ? "yes" : "no", { ...cookieOptions, maxAge: cookieAge });
  if (!yes) jar.delete(memoryCookie);
  return seeOther(backTo(form));
}
