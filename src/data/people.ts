import type { Role } from "@/core/people/roles";
import type { Account } from "./accounts";
import { allSites, of, type Queryable } from "./pool";
import { digest, secretName } from "./secret-names";

/** Who works on a site. */
export interface Person extends Pick<Account, "id" | "name" | "email"> {
  roles: Role[];
}
/** Somebody with what only people settings show. */
export interface PersonRow extends Person {
  joinedAt: string;
  leftAt: string | null;
}
/** Somebody who is signed in, and at which site. */
export interface SignedIn extends Person {
  site: string;
  administrator: boolean;
  /** The session's id, as it stands in the database. */
  session: string;
}

/** Makes somebody with an account one of a site's people, or brings them back with these roles. */
export async function addPerson(site: string, id: string, roles: readonly Role[], db: Queryable): Promise<void> {
  await db.query(
    `insert into people (site, id, roles) values ($1, $2, $3)
     on conflict (site, id) do update set roles = excluded.roles, left_at = null`,
    [site, id, roles],
  );
}

export async function listPeople(site: string, db: Queryable = of(site)): Promise<PersonRow[]> {
  const found = await db.query<Person & { joined_at: Date; left_at: Date | null }>(
    `select p.id, a.name, coalesce(a.email, '') as email, p.roles, p.joined_at, p.left_at
     from people p join accounts a on a.id = p.id where p.site = $1 order by p.left_at is not null, a.name, p.id`,
    [site],
  );
  return found.rows.map(({ joined_at, left_at, ...person }) => ({
    ...person,
    joinedAt: joined_at.toISOString(),
    leftAt: left_at?.toISOString() ?? null,
  }));
}

/** The roles of an account on a site; undefined: it is none of the site's people. */
export async function rolesOn(site: string, id: string, db: Queryable = of(site)): Promise<Role[] | undefined> {
  const found = await db.query<{ roles: Role[] }>(
    "select roles from people where site = $1 and id = $2 and left_at is null",
    [site, id],
  );
  return found.rows[0]?.roles;
}

/** Sets what somebody is. */
export async function setRoles(site: string, id: string, roles: readonly Role[], db: Queryable): Promise<void> {
  await db.query("update people set roles = $3 where site = $1 and id = $2", [site, id, roles]);
}

/** Lets somebody go, or come back. */
export async function setLeft(site: string, id: string, left: boolean, db: Queryable): Promise<void> {
  await db.query("update people set left_at = case when $3 then now() end where site = $1 and id = $2", [
    site,
    id,
    left,
  ]);
}

/** An invitation that is open. */
export interface Invitation {
  id: string;
  name: string;
  roles: Role[];
  expiresAt: string;
}
/** What whoever has its link is invited to. */
export interface Invited {
  id: string;
  name: string;
  /** The sites, by id and name, with what one is to be there. */
  sites: { site: string; name: string; roles: Role[] }[];
}

/** Invites somebody to a site for a week. `token`: the name that an invitation to another site has already. @returns that name */
export async function invite(
  site: string,
  by: string,
  name: string,
  roles: readonly Role[],
  db: Queryable,
  token = secretName(),
): Promise<string> {
  await db.query(
    `insert into invitations (site, id, name, roles, by_person, expires_at)
     values ($1, $2, $3, $4, $5, now() + interval '7 days')`,
    [site, digest(token), name, roles, by],
  );
  return token;
}

export async function openInvitations(site: string): Promise<Invitation[]> {
  const found = await of(site).query<Invitation & { expires_at: Date }>(
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

/** An invitation by the name in its link, with all its sites; undefined if it was used, has expired or never was. */
export async function readInvitation(
  token: string,
  db: Queryable = of(allSites),
  lock = false,
): Promise<Invited | undefined> {
  const found = await db.query<{ id: string; name: string; site: string; site_name: string; roles: Role[] }>(
    `select i.id, i.name, i.site, s.name as site_name, i.roles from invitations i join sites s on s.site = i.site
     where i.id = $1 and i.used_by is null and i.expires_at > now() order by s.name${lock ? " for update of i" : ""}`,
    [digest(token)],
  );
  const [first] = found.rows;
  return (
    first && {
      id: first.id,
      name: first.name,
      sites: found.rows.map(({ site, site_name, roles }) => ({ site, name: site_name, roles })),
    }
  );
}

export async function useInvitation(id: string, person: string, db: Queryable): Promise<void> {
  await db.query("update invitations set used_by = $2 where id = $1 and used_by is null", [id, person]);
}
