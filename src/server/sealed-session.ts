import { createHmac } from "node:crypto";
import { unsealData } from "iron-session";
import { readCookies } from "@/core/visit/cookies";
import { installationSecret } from "@/data/accounts";
import { readSession, type SignedInAccount } from "@/data/sessions";

/** What the browser keeps, sealed: the secret name of its session. Who that is, and whether it has ended, the database says. */
export interface Sealed {
  name?: string;
}
export const sessionCookie = "mirada-desk";
/** How long a seal is good, in seconds: as long as a session may last. */
export const sealLife = 14 * 86_400;

let password: Promise<string> | undefined;
/** The same in every process of an installation, so that any of them reads what another has sealed. */
export const sealedWith = (): Promise<string> =>
  (password ??= installationSecret().then(
    (secret) => createHmac("sha256", secret).update("workbench sessions").digest("hex"),
    (error: unknown) => {
      password = undefined;
      throw error;
    },
  ));

/** Who a request's Cookie header says is signed in; undefined: nobody, or the session has ended. */
export async function accountOfCookies(header: string | undefined): Promise<SignedInAccount | undefined> {
  const seal = readCookies(header)[sessionCookie];
  if (!seal) return undefined;
  const { name } = await unsealData<Sealed>(seal, { password: await sealedWith(), ttl: sealLife });
  return name ? readSession(name) : undefined;
}
