import { urlOf } from "@/core/text/is-url";
import { getIronSession } from "iron-session";
import { cookies } from "next/headers";
import type { SignedIn } from "@/data/people";
import { readSession, type SignedInAccount } from "@/data/sessions";
import { asPerson } from "./members";
import { sealedWith, sealLife, sessionCookie, type Sealed } from "./sealed-session";

async function sealed() {
  return getIronSession<Sealed>(await cookies(), {
    password: await sealedWith(),
    cookieName: sessionCookie,
    ttl: sealLife,
    cookieOptions: {
      httpOnly: true,
      sameSite: "lax",
      path: "/",
      // Behind a proxy with TLS the cookie must never travel without it.
      secure: (process.env.MIRADA_ORIGIN ?? "").startsWith("https:"),
    },
  });
}

/** Who is signed in; undefined: nobody, or the session has ended. */
export async function currentAccount(): Promise<SignedInAccount | undefined> {
  const { name } = await sealed();
  return name ? readSession(name) : undefined;
}

/** Who is signed in, as one of the people of a site; undefined: nobody, or none of them. */
export async function currentPerson(site: string): Promise<SignedIn | undefined> {
  const account = await currentAccount();
  return account && asPerson(account, site);
}

/** Hands the browser a session that has just begun: whatever it held before counts no more. */
export async function keepSession(name: string): Promise<void> {
  const session = await sealed();
  session.name = name;
  await session.save();
}

export async function dropSession(): Promise<void> {
  (await sealed()).destroy();
}

/** Whether a request that changes something comes from a page of the workbench itself: another site's page can send none such. */
export function isOwnRequest(request: Request): boolean {
  const origin = request.headers.get("origin");
  return origin !== null && urlOf(origin)?.host === request.headers.get("host");
}
