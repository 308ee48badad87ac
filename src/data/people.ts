import { createHash, randomBytes } from "node:crypto";
import type { Role } from "@/core/people/roles";
import { pool, type Queryable } from "./pool";

/** Who works on a site. */
export interface Person {
  id: string;
  name: string;
  email: string;
  roles: Role[];
}
/** Somebody with what only people settings show. */
export interface PersonRow extends Person {
  joinedAt: string;
  leftAt: string | null;
}
/** Somebody who is signed in. */
export interface SignedIn extends Person {
  site: string;
  /** The session's id, as it stands in the database. */
  session: string;
}

/** What is kept of a secret name: its SHA-256, so that the database alone opens nothing. */
export const digest = (name: string): string => createHash("sha256").update(name).digest("base64url");
/** A name that cannot be guessed: 192 random bits. */
export const secretName = (): string => randomBytes(24).toString("base64url");

export async function addPerson(
  site: string,
  person: Omit<Person, "id"> & { password: string; shownPassword?: string },
  db: Queryable = pool(),
): Promise<string> {
  const id = `p-${randomBytes(6).toString("hex")}`;
  await db.query(
    "insert into people (site, id, name, email, roles, password, shown_password) values ($1, $2, $3, $4, $5, $6, $7)",
    [site, id, person.name, person.email, person.roles, person.password, person.shownPassword ?? null],
  );
  return id;
}

/** The demo's accounts, with their passwords, which stand on the sign-in page. A real site has none. */
export async function shownAccounts(
  site: string,
): Promise<(Pick<Person, "name" | "email" | "roles"> & { password: string })[]> {
  return (
    await pool().query<Pick<Person, "name" | "email" | "roles"> & { password: string }>(
      `select name, email, roles, shown_password as password from people
       where site = $1 and shown_password is not null and left_at is null order by cardinality(roles) desc, name`,
      [site],
    )
  ).rows;
}

export async function listPeople(site: string, db: Queryable = pool()): Promise<PersonRow[]> {
  const found = await db.query<Person & { joined_at: Date; left_at: Date | null }>(
    "select id, name, email, roles, joined_at, left_at from people where site = $1 order by left_at is not null, name, id",
    [site],
  );
  return found.rows.map(({ joined_at, left_at, ...person }) => ({
    ...person,
    joinedAt: joined_at.toISOString(),
    leftAt: left_at?.toISOString() ?? null,
  }));
}

/** Somebody by e-mail address, with the hash of the password; whoever has left is not found. */
export async function personByEmail(site: string, email: string): Promise<(Person & { password: string }) | undefined> {
  const found = await pool().query<Person & { password: string }>(
    `select id, name, email, roles, password from people
     where site = $1 and lower(email) = lower($2) and left_at is null`,
    [site, email],
  );
  return found.rows[0];
}

/** Sets what somebody is. Undefined if there is no such person; the roles from before otherwise. */
export async function setRoles(
  site: string,
  id: string,
  roles: readonly Role[],
  db: Queryable,
): Promise<PersonRow | undefined> {
  const before = (await listPeople(site, db)).find((person) => person.id === id);
  await db.query("update people set roles = $3 where site = $1 and id = $2", [site, id, roles]);
  return before;
}

/** Lets somebody go, or come back. Their sessions end at once. */
export async function setLeft(site: string, id: string, left: boolean, db: Queryable): Promise<void> {
  await db.query("update people set left_at = case when $3 then now() end where site = $1 and id = $2", [
    site,
    id,
    left,
  ]);
  if (left) await db.query("delete from sessions where site = $1 and person = $2", [site, id]);
}

export async function setPassword(site: string, id: string, password: string, db: Queryable): Promise<void> {
  await db.query("update people set password = $3, shown_password = null where site = $1 and id = $2", [
    site,
    id,
    password,
  ]);
}

/** An invitation that is open. */
export interface Invitation {
  id: string;
  name: string;
  roles: Role[];
  expiresAt: string;
}

/** Invites somebody for a week. @returns the secret name that the link carries */
export async function invite(
  site: string,
  by: string,
  name: string,
  roles: readonly Role[],
  db: Queryable,
): Promise<string> {
  const token = secretName();
  await db.query(
    `insert into invitations (site, id, name, roles, by_person, expires_at)
     values ($1, $2, $3, $4, $5, now() + interval '7 days')`,
    [site, digest(token), name, roles, by],
  );
  return token;
}

export async function openInvitations(site: string): Promise<Invitation[]> {
  const found = await pool().query<Invitation & { expires_at: Date }>(
    `select id, name, roles, expires_at from invitations
     where site = $1 and used_by is null and expires_at > now() order by expires_at`,
    [site],
  );
  return found.rows.map(({ id, name, roles, expires_at }) => ({
    id,
    name,
    roles,
    expiresAt: expires_at.toISOString(),
  }));
}

export async function dropInvitation(site: string, id: string, db: Queryable): Promise<void> {
  await db.query("delete from invitations where site = $1 and id = $2 and used_by is null", [site, id]);
}

/** An invitation by the name in its link; undefined if it was used, has expired or never was. */
export async function readInvitation(site: string, token: string, db: Queryable = pool(), lock = false) {
  const found = await db.query<{ id: string; name: string; roles: Role[] }>(
    `select id, name, roles from invitations
     where site = $1 and id = $2 and used_by is null and expires_at > now()${lock ? " for update" : ""}`,
    [site, digest(token)],
  );
  return found.rows[0];
}

export async function useInvitation(site: string, id: string, person: string, db: Queryable): Promise<void> {
  await db.query("update invitations set used_by = $3 where site = $1 and id = $2", [site, id, person]);
}
