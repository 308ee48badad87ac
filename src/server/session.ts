import { getIronSession } from "iron-session";
import { cookies } from "next/headers";
import type { SignedIn } from "@/data/people";
import { readSession } from "@/data/sessions";
import { sealedWith, sealLife, sessionCookie, type Sealed } from "./sealed-session";
import { site } from "./site";

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
export async function currentPerson(): Promise<SignedIn | undefined> {
  const { name } = await sealed();
  return name ? readSession(site, name) : undefined;
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
  return origin !== null && URL.canParse(origin) && new URL(origin).host === request.headers.get("host");
}
