import { rolesOn, type SignedIn } from "@/data/people";
import type { SignedInAccount } from "@/data/sessions";

/** An account as one of the people of a site; undefined: it is none of them. An administrator may look into any site. */
export async function asPerson(account: SignedInAccount, site: string): Promise<SignedIn | undefined> {
  const roles = (await rolesOn(site, account.id)) ?? (account.administrator ? [] : undefined);
  const { id, name, email, administrator, session } = account;
  return roles && { id, name, email, administrator, session, roles, site };
}
