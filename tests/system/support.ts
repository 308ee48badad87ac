import { roles, type Role } from "@/core/people/roles";
import { addPerson, type SignedIn } from "@/data/people";
import { pool } from "@/data/pool";
import { beginSession, readSession } from "@/data/sessions";
import { randomBytes } from "node:crypto";

/** An id that no other run has used: tests may run again and again on one database. */
export const uniqueId = (stem: string): string => `${stem}-${randomBytes(5).toString("hex")}`;

/** Somebody who works on a site, signed in; with every role unless told otherwise. Their password is none that anybody has. */
export async function somebody(site: string, name: string, own: readonly Role[] = roles): Promise<SignedIn> {
  const id = await addPerson(site, { name, email: `${name}@${site}.example`, roles: [...own], password: "none" });
  const session = await beginSession(site, id, "a test", pool());
  const who = await readSession(site, session);
  if (!who) throw new Error("the session has not begun");
  return who;
}
