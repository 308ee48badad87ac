import { roles, type Role } from "@/core/people/roles";
import { addAccount } from "@/data/accounts";
import { addPerson, type SignedIn } from "@/data/people";
import { allSites, of, pool, transaction } from "@/data/pool";
import { beginSession, readSession } from "@/data/sessions";
import { asPerson } from "@/server/members";
import { randomBytes } from "node:crypto";

/** An id that no other run has used: tests may run again and again on one database. */
export const uniqueId = (stem: string): string => `${stem}-${randomBytes(5).toString("hex")}`;

/** Everything in the database, whichever site it belongs to. */
export const everything = of(allSites);

/** An account with a role on a site, or several; nobody knows its password, unless its hash is given. @returns its id */
export const newPerson = (site: string, name: string, own: readonly Role[], password = "none"): Promise<string> =>
  transaction(allSites, async (db) => {
    const account = { name, email: `${name}@${site}.example`, password, administrator: false };
    const id = await addAccount(account, db);
    await addPerson(site, id, own, db);
    return id;
  });

/** A person of a site by the secret name of a session; undefined: it has ended. */
export async function bySession(site: string, session: string): Promise<SignedIn | undefined> {
  const account = await readSession(session);
  return account && asPerson(account, site);
}

/** Somebody who works on a site, signed in; with every role unless told otherwise. */
export async function somebody(site: string, name: string, own: readonly Role[] = roles): Promise<SignedIn> {
  const id = await newPerson(site, name, own);
  const who = await bySession(site, await beginSession(id, "a test", pool()));
  if (!who) throw new Error("the session has not begun");
  return who;
}
