import { said, t, text } from "@/core/messages/t";
import { passwordProblem } from "@/core/people/password";
import { hash, verify } from "@node-rs/argon2";
import { createHash } from "node:crypto";
import { roleWords, type Role } from "@/core/people/roles";
import { accountByEmail, addAccount, setPassword, type NewAccount } from "@/data/accounts";
import { tell } from "@/data/audit";
import {
  addPerson,
  dropInvitation,
  invite,
  listPeople,
  openInvitations,
  readInvitation,
  setLeft,
  setRoles,
  useInvitation as markUsed,
  type Invitation,
  type PersonRow,
  type SignedIn,
} from "@/data/people";
import { allSites, transaction, type Queryable } from "@/data/pool";
import {
  announceDesk,
  beginSession,
  countTry,
  endSession,
  endSessionsOf,
  forgetFailures,
  listSessions,
  takeTryBack,
  type SessionRow,
} from "@/data/sessions";
import { holdSite, listSites } from "@/data/sites";

/** Hashes as OWASP advises for Argon2id (19 MiB, 2 passes, 1 lane), the package's defaults. */
export const hashPassword = (password: string): Promise<string> => hash(password);

let nobody: Promise<string> | undefined;
/** Verified against where there is no such person: so that an unknown address takes as long as a known one. */
const nobodysHash = (): Promise<string> => (nobody ??= hash("nobody has this password"));

export type Entered = { ok: true; session: string } | { ok: false; problem: string; status: number };

const counted = (kind: string, text: string): string =>
  `${kind}:${createHash("sha256").update(text.toLowerCase()).digest("base64url").slice(0, 22)}`;

/**
 * So many wrong passwords within a quarter of an hour: for one address from one network, from one network for any address, and for one
 * address from anywhere. The last is far above the first: who is locked out is the network that guesses, and not the person.
 */
const mostTries = { pair: 8, network: 40, address: 100 };

const waitWords = (seconds: number): string =>
  t("Too many attempts. Try again in {seconds} {seconds2}.", {
    seconds: Math.ceil(seconds / 60),
    seconds2: seconds <= 60 ? "minute" : "minutes",
  });

/**
 * Signs somebody in by e-mail address and password. Tries are counted in the database, so that no number of processes gives more.
 */
export async function signIn(email: string, password: string, network: string, browser: string): Promise<Entered> {
  const [pair, from, address] = [
    counted("pair", `${email} ${network}`),
    counted("net", network),
    counted("mail", email),
  ];
  const wait =
    (await countTry(pair, mostTries.pair)) ||
    (await countTry(from, mostTries.network)) ||
    (await countTry(address, mostTries.address));
  if (wait > 0) return { ok: false, status: 429, problem: waitWords(wait) };
  const person = await accountByEmail(email.trim());
  const right = await verify(person?.password ?? (await nobodysHash()), password).catch(() => false);
  if (!person || !right)
    return { ok: false, status: 401, problem: t("This address and password do not belong together.") };
  await forgetFailures([pair, address]);
  await takeTryBack(from);
  const session = await transaction(allSites, async (db) => {
    for (const site of await listSites(person.id, db))
      await tell(site.id, person.id, { kind: "session", says: t("{person} signed in", { person: person.name }) }, db);
    return beginSession(person.id, browser, db);
  });
  return { ok: true, session };
}

const isAddress = (email: string): boolean => /^[^\s@]{1,64}@[^\s@.]+(\.[^\s@.]+)+$/.test(email) && email.length < 200;

/** What somebody says of themselves to have an account. */
export interface Newcomer {
  name: string;
  email: string;
  password: string;
}
/** What is wrong with what a newcomer says; undefined: nothing. */
export const newcomerProblem = ({ name, email, password }: Newcomer): string | undefined =>
  name.trim() === ""
    ? t("Please say your name.")
    : !isAddress(email.trim())
      ? t("This is no e-mail address.")
      : passwordProblem(password);

/** An account as it is kept. Its password may be slow to hash: do it before a transaction. */
export const accountOf = async ({ name, email, password }: Newcomer, administrator: boolean): Promise<NewAccount> => ({
  name: name.trim(),
  email: email.trim(),
  administrator,
  password: await hashPassword(password),
});

const gone = said({
  ok: false,
  status: 404,
  problem: text("This invitation was used already, or has expired. Ask for another."),
});

/** Makes somebody one of the people of every site that an invitation is to, and uses it up. */
async function takeUp(token: string, id: string, name: string, db: Queryable): Promise<boolean> {
  const invited = await readInvitation(token, db, true);
  if (!invited) return false;
  for (const { site, roles } of invited.sites) {
    await addPerson(site, id, roles, db);
    await tell(site, id, { kind: "people", says: t("{name} joined", { name }), after: { roles } }, db);
    await announceDesk(site, db);
  }
  await markUsed(invited.id, id, db);
  return true;
}

/**
 * Takes up an invitation: makes the account, and signs it in. Whoever has an account with this address already takes it up by that
 * account's password.
 */
export async function join(token: string, input: Newcomer, network: string, browser: string): Promise<Entered> {
  const wrong = newcomerProblem(input);
  if (wrong) return { ok: false, status: 422, problem: wrong };
  if (!(await readInvitation(token))) return gone;
  const known = await accountByEmail(input.email.trim());
  if (known) {
    const entered = await signIn(input.email, input.password, network, browser);
    if (!entered.ok)
      return entered.status === 401
        ? {
            ok: false,
            status: 401,
            problem: t("Somebody has an account with this address already. If it is yours, join with its password."),
          }
        : entered;
    const done = await transaction(allSites, (db) => takeUp(token, known.id, known.name, db));
    return done ? entered : gone;
  }
  const account = await accountOf(input, false);
  return transaction<Entered>(allSites, async (db) => {
    const id = await addAccount(account, db);
    if (!(await takeUp(token, id, account.name, db))) throw new Error("used meanwhile");
    return { ok: true, session: await beginSession(id, browser, db) };
  }).catch((error: unknown) => {
    if (error instanceof Error && error.message === "used meanwhile") return gone;
    throw error;
  });
}

/** The people of a site as settings show them. */
export interface PeopleNow {
  people: PersonRow[];
  invitations: Invitation[];
  sessions: SessionRow[];
  /** One's own session, by its id. */
  own: string;
}

/** Everybody who works here. Sessions and invitations: only one's own sessions, unless one keeps the people. */
export async function peopleNow(who: SignedIn, keeps: boolean): Promise<PeopleNow> {
  const [people, invitations, sessions] = await Promise.all([
    listPeople(who.site),
    keeps ? openInvitations(who.site) : [],
    listSessions(who.site),
  ]);
  return {
    people,
    invitations,
    own: who.session,
    sessions: keeps ? sessions : sessions.filter((row) => row.person === who.id),
  };
}

const rolesText = (roles: readonly Role[]): string => roles.map((role) => `${role} (${roleWords[role]})`).join(", ");

/** Invites somebody to one's site, and to others that one keeps the people of. @returns the path of the link, which is shown once */
export async function inviteSomebody(
  who: SignedIn,
  name: string,
  roles: readonly Role[],
  others: readonly string[],
): Promise<string> {
  return transaction(allSites, async (db) => {
    let token: string | undefined;
    for (const site of new Set([who.site, ...others])) {
      token = await invite(site, who.id, name, roles, db, token);
      await tell(
        site,
        who.id,
        { kind: "people", says: t("{name} was invited", { name }), after: { roles: rolesText(roles) } },
        db,
      );
    }
    return `/join/${token}`;
  });
}

export const takeInvitationBack = (who: SignedIn, id: string): Promise<void> =>
  transaction(who.site, async (db) => {
    await dropInvitation(who.site, id, db);
    await tell(who.site, who.id, { kind: "people", says: t("An invitation was taken back") }, db);
  });

/** Changes somebody of a site's people. Of two changes at once the second waits, so that never the last developer goes. */
function changePerson(
  who: SignedIn,
  id: string,
  work: (person: PersonRow, people: readonly PersonRow[], db: Queryable) => Promise<string | undefined>,
): Promise<string | undefined> {
  return transaction(who.site, async (db) => {
    await holdSite(who.site, db);
    const people = await listPeople(who.site, db);
    const person = people.find((item) => item.id === id);
    if (!person) return t("There is no such person.");
    const me = people.find((item) => item.id === who.id && !item.leftAt);
    if (!who.administrator && !me?.roles.includes("developer")) return t("You keep the people no longer.");
    const problem = await work(person, people, db);
    if (problem === undefined) await announceDesk(who.site, db);
    return problem;
  });
}

/** Sets somebody's roles. A problem in words, or nothing: at least one person keeps the people. */
export const changeRoles = (who: SignedIn, id: string, roles: readonly Role[]): Promise<string | undefined> =>
  changePerson(who, id, async (person, people, db) => {
    const keepers = people.filter(
      (item) => !item.leftAt && (item.id === id ? roles : item.roles).includes("developer"),
    );
    if (keepers.length === 0) return t("Somebody must keep the people: at least one developer stays.");
    await setRoles(who.site, id, roles, db);
    await tell(
      who.site,
      who.id,
      {
        kind: "people",
        says: t("{person} has other roles", { person: person.name }),
        before: { roles: person.roles.join(", ") },
        after: { roles: roles.join(", ") },
      },
      db,
    );
    return undefined;
  });

/** Lets somebody go from a site, or back in. Whoever goes sees nothing of it any more, at once. */
export const letGo = (who: SignedIn, id: string, left: boolean): Promise<string | undefined> =>
  changePerson(who, id, async (person, _people, db) => {
    if (left && id === who.id) return t("You cannot let yourself go: ask another developer.");
    await setLeft(who.site, id, left, db);
    await tell(
      who.site,
      who.id,
      {
        kind: "people",
        says: left ? t("{person} left", { person: person.name }) : t("{person} is back", { person: person.name }),
      },
      db,
    );
    return undefined;
  });

/** Ends a session: one's own, or that of one of the people for whoever keeps them. */
export async function signOutSession(who: SignedIn, id: string, keeps: boolean): Promise<string | undefined> {
  const found = (await listSessions(who.site)).find((session) => session.id === id);
  if (!found || (!keeps && found.person !== who.id)) return t("There is no such session.");
  await transaction(who.site, async (db) => {
    await endSession(id, db);
    await announceDesk(who.site, db);
    await tell(
      who.site,
      who.id,
      { kind: "session", says: found.person === who.id ? t("Ended a session") : t("Ended a session of somebody else") },
      db,
    );
  });
  return undefined;
}

/** Changes one's own password, and ends all other sessions. A problem in words, or nothing. */
export async function changePassword(who: SignedIn, old: string, fresh: string): Promise<string | undefined> {
  const wrong = passwordProblem(fresh);
  if (wrong) return wrong;
  const tries = counted("change", who.id);
  const wait = await countTry(tries, mostTries.pair);
  if (wait > 0) return waitWords(wait);
  const account = await accountByEmail(who.email);
  if (!account || !(await verify(account.password, old).catch(() => false)))
    return t("This is not your current password.");
  await forgetFailures([tries]);
  const password = await hashPassword(fresh);
  await transaction(allSites, async (db) => {
    await setPassword(who.id, password, db);
    await endSessionsOf(who.id, db, who.session);
    await tell(who.site, who.id, { kind: "people", says: t("{who} changed their password", { who: who.name }) }, db);
  });
  return undefined;
}
