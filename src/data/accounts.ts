import { randomBytes } from "node:crypto";
import { pool, type Queryable } from "./pool";
import { digest, secretName } from "./secret-names";

/** Somebody who may sign in, whatever sites they work on. */
export interface Account {
  id: string;
  name: string;
  email: string;
  /** Makes sites and people, and keeps the installation. */
  administrator: boolean;
}
export interface NewAccount extends Omit<Account, "id"> {
  /** The password's hash. */
  password: string;
  /** A demo's password, which stands on the sign-in page. */
  shownPassword?: string;
}

const columns = "id, name, coalesce(email, '') as email, administrator";

/** Makes an account. @returns its id */
export async function addAccount(account: NewAccount, db: Queryable = pool()): Promise<string> {
  const id = `p-${randomBytes(6).toString("hex")}`;
  await db.query(
    "insert into accounts (id, name, email, password, shown_password, administrator) values ($1, $2, $3, $4, $5, $6)",
    [id, account.name, account.email, account.password, account.shownPassword ?? null, account.administrator],
  );
  return id;
}

/** An account by e-mail address, with the hash of its password. */
export async function accountByEmail(
  email: string,
  db: Queryable = pool(),
): Promise<(Account & { password: string }) | undefined> {
  const found = await db.query<Account & { password: string }>(
    `select ${columns}, password from accounts where lower(email) = lower($1)`,
    [email],
  );
  return found.rows[0];
}

export async function listAccounts(db: Queryable = pool()): Promise<Account[]> {
  return (await db.query<Account>(`select ${columns} from accounts where email is not null order by name, id`)).rows;
}

/** The accounts whose passwords stand on the sign-in page: those of a demo. Whoever has most roles comes first. */
export async function shownAccounts(
  db: Queryable,
): Promise<(Pick<Account, "name" | "email"> & { roles: string[]; password: string })[]> {
  return (
    await db.query<Pick<Account, "name" | "email"> & { roles: string[]; password: string }>(
      `select a.name, a.email, a.shown_password as password, array_agg(distinct role) as roles
       from accounts a join people p on p.id = a.id and p.left_at is null, unnest(p.roles) as role
       where a.shown_password is not null group by a.id order by count(distinct role) desc, a.name`,
    )
  ).rows;
}

/** Whether anybody may sign in at all: an installation without anybody is still to be set up. */
export async function isAnybody(db: Queryable = pool()): Promise<boolean> {
  return (await db.query("select 1 from accounts limit 1")).rows.length > 0;
}

export async function setPassword(id: string, password: string, db: Queryable): Promise<void> {
  await db.query("update accounts set password = $2, shown_password = null where id = $1", [id, password]);
}

/**
 * Makes somebody an administrator, or no longer one. Of two at once the second waits, so that never both of the last two go.
 * @returns false: there would be none left, and nothing was changed
 */
export async function setAdministrator(id: string, administrator: boolean, db: Queryable): Promise<boolean> {
  await db.query("select pg_advisory_xact_lock(4302)");
  if (!administrator) {
    const others = await db.query("select 1 from accounts where administrator and id <> $1 limit 1", [id]);
    if (others.rows.length === 0) return false;
  }
  await db.query("update accounts set administrator = $2 where id = $1", [id, administrator]);
  return true;
}

/** The secret with which this installation seals what its workbench keeps in browsers; made when first asked for. */
export async function installationSecret(db: Queryable = pool()): Promise<Buffer> {
  const ask = () => db.query<{ secret: Buffer }>("select secret from installation");
  let found = await ask();
  if (found.rows.length === 0) {
    await db.query("insert into installation (secret) values ($1) on conflict do nothing", [randomBytes(32)]);
    found = await ask();
  }
  return (found.rows[0] as { secret: Buffer }).secret;
}

/** For how long a set-up link is good, in minutes. */
export const setUpMinutes = 60;

/** Makes the one-time link with which an installation without anybody is set up. @returns the name that the link carries */
export async function makeSetUpLink(db: Queryable = pool()): Promise<string> {
  await installationSecret(db);
  const token = secretName();
  await db.query("update installation set set_up_link = $1, set_up_until = now() + $2 * interval '1 minute'", [
    digest(token),
    setUpMinutes,
  ]);
  return token;
}

/** Whether a set-up link is good. `lock` holds it for the transaction, so that it is used once. */
export async function isSetUpLink(token: string, db: Queryable = pool(), lock = false): Promise<boolean> {
  const found = await db.query<{ good: boolean }>(
    `select set_up_link = $1 and set_up_until > now() as good from installation${lock ? " for update" : ""}`,
    [digest(token)],
  );
  return found.rows[0]?.good === true && !(await isAnybody(db));
}

export async function endSetUpLink(db: Queryable): Promise<void> {
  await db.query("update installation set set_up_link = null, set_up_until = null");
}
