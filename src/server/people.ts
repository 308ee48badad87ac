import { hash, verify } from "@node-rs/argon2";
import { createHash } from "node:crypto";
import { roleWords, type Role } from "@/core/people/roles";
import { tell } from "@/data/audit";
import {
  addPerson,
  dropInvitation,
  invite,
  listPeople,
  openInvitations,
  personByEmail,
  readInvitation,
  setLeft,
  setPassword,
  setRoles,
  useInvitation as markUsed,
  type Invitation,
  type PersonRow,
  type SignedIn,
} from "@/data/people";
import { transaction } from "@/data/pool";
import {
  announceDesk,
  beginSession,
  endSession,
  forgetFailures,
  listSessions,
  noteFailure,
  signInWait,
  type SessionRow,
} from "@/data/sessions";
import { site } from "./site";

/** The shortest password, in characters (NIST SP 800-63B asks for 8 at least; length is what counts). */
export const shortestPassword = 10;

/** Hashes as OWASP advises for Argon2id (19 MiB, 2 passes, 1 lane), the package's defaults. */
export const hashPassword = (password: string): Promise<string> => hash(password);

let nobody: Promise<string> | undefined;
/** Verified against where there is no such person: so that an unknown address takes as long as a known one. */
const nobodysHash = (): Promise<string> => (nobody ??= hash("nobody has this password"));

export type Entered = { ok: true; session: string } | { ok: false; problem: string; status: number };

const counted = (kind: string, text: string): string =>
  `${kind}:${createHash("sha256").update(text.toLowerCase()).digest("base64url").slice(0, 22)}`;

/**
 * Signs somebody in by e-mail address and password. Failures are counted by address and by network, in the database, so that
 * no number of processes gives more tries.
 */
export async function signIn(email: string, password: string, network: string, browser: string): Promise<Entered> {
  const who = [counted("mail", email), counted("net", network)];
  const wait = await signInWait(site, who);
  if (wait > 0)
    return {
      ok: false,
      status: 429,
      problem: `Too many attempts. Try again in ${Math.ceil(wait / 60)} ${wait <= 60 ? "minute" : "minutes"}.`,
    };
  const person = await personByEmail(site, email.trim());
  const right = await verify(person?.password ?? (await nobodysHash()), password).catch(() => false);
  if (!person || !right) {
    await noteFailure(site, who);
    return { ok: false, status: 401, problem: "This address and password do not belong together." };
  }
  await forgetFailures(site, who.slice(0, 1));
  const session = await transaction(async (db) => {
    await tell(site, person.id, { kind: "session", says: `${person.name} signed in` }, db);
    return beginSession(site, person.id, browser, db);
  });
  return { ok: true, session };
}

/** What is wrong with a new password; undefined: nothing. */
export const passwordProblem = (password: string): string | undefined =>
  password.length < shortestPassword
    ? `At least ${shortestPassword} characters, please: a sentence is easy to remember.`
    : password.length > 200
      ? "At most 200 characters, please."
      : undefined;

const isAddress = (email: string): boolean => /^[^\s@]{1,64}@[^\s@.]+(\.[^\s@.]+)+$/.test(email) && email.length < 200;

/** Takes up an invitation: makes the person, and signs them in. */
export async function join(
  token: string,
  input: { name: string; email: string; password: string },
  browser: string,
): Promise<Entered> {
  const wrong =
    input.name.trim() === ""
      ? "Please say your name."
      : !isAddress(input.email.trim())
        ? "This is no e-mail address."
        : passwordProblem(input.password);
  if (wrong) return { ok: false, status: 422, problem: wrong };
  const password = await hashPassword(input.password);
  return transaction<Entered>(async (db) => {
    const found = await readInvitation(site, token, db, true);
    if (!found)
      return { ok: false, status: 404, problem: "This invitation was used already, or has expired. Ask for another." };
    if ((await listPeople(site, db)).some((person) => person.email.toLowerCase() === input.email.trim().toLowerCase()))
      return { ok: false, status: 422, problem: "Somebody works here with this address already." };
    const name = input.name.trim();
    const id = await addPerson(site, { name, email: input.email.trim(), roles: found.roles, password }, db);
    await markUsed(site, found.id, id, db);
    await tell(site, id, { kind: "people", says: `${name} joined`, after: { roles: found.roles } }, db);
    await announceDesk(site, db);
    return { ok: true, session: await beginSession(site, id, browser, db) };
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

/** Invites somebody. @returns the path of the link, which is shown once */
export async function inviteSomebody(who: SignedIn, name: string, roles: readonly Role[]): Promise<string> {
  return transaction(async (db) => {
    const token = await invite(who.site, who.id, name, roles, db);
    await tell(
      who.site,
      who.id,
      { kind: "people", says: `${name} was invited`, after: { roles: rolesText(roles) } },
      db,
    );
    return `/join/${token}`;
  });
}

export const takeInvitationBack = (who: SignedIn, id: string): Promise<void> =>
  transaction(async (db) => {
    await dropInvitation(who.site, id, db);
    await tell(who.site, who.id, { kind: "people", says: "An invitation was taken back" }, db);
  });

/** Sets somebody's roles. A problem in words, or nothing: at least one person keeps the people. */
export function changeRoles(who: SignedIn, id: string, roles: readonly Role[]): Promise<string | undefined> {
  return transaction(async (db) => {
    const people = await listPeople(who.site, db);
    const person = people.find((item) => item.id === id);
    if (!person) return "There is no such person.";
    const keepers = people.filter(
      (item) => !item.leftAt && (item.id === id ? roles : item.roles).includes("developer"),
    );
    if (keepers.length === 0) return "Somebody must keep the people: at least one developer stays.";
    await setRoles(who.site, id, roles, db);
    await tell(
      who.site,
      who.id,
      {
        kind: "people",
        says: `${person.name} has other roles`,
        before: { roles: person.roles.join(", ") },
        after: { roles: roles.join(", ") },
      },
      db,
    );
    await announceDesk(who.site, db);
    return undefined;
  });
}

/** Lets somebody go, or back in. Whoever goes is signed out everywhere, at once. */
export function letGo(who: SignedIn, id: string, left: boolean): Promise<string | undefined> {
  return transaction(async (db) => {
    const people = await listPeople(who.site, db);
    const person = people.find((item) => item.id === id);
    if (!person) return "There is no such person.";
    if (left && id === who.id) return "You cannot let yourself go: ask another developer.";
    await setLeft(who.site, id, left, db);
    await tell(who.site, who.id, { kind: "people", says: left ? `${person.name} left` : `${person.name} is back` }, db);
    await announceDesk(who.site, db);
    return undefined;
  });
}

/** Ends a session: one's own, or anybody's for whoever keeps the people. */
export async function signOutSession(who: SignedIn, id: string, keeps: boolean): Promise<string | undefined> {
  const found = (await listSessions(who.site)).find((session) => session.id === id);
  if (!found || (!keeps && found.person !== who.id)) return "There is no such session.";
  await transaction(async (db) => {
    await endSession(who.site, id, db);
    await tell(
      who.site,
      who.id,
      { kind: "session", says: found.person === who.id ? "Ended a session" : "Ended a session of somebody else" },
      db,
    );
  });
  return undefined;
}

/** Changes one's own password, and ends all other sessions. A problem in words, or nothing. */
export async function changePassword(who: SignedIn, old: string, fresh: string): Promise<string | undefined> {
  const wrong = passwordProblem(fresh);
  if (wrong) return wrong;
  const person = await personByEmail(who.site, who.email);
  if (!person || !(await verify(person.password, old).catch(() => false))) return "This is not your password of now.";
  const password = await hashPassword(fresh);
  const others = (await listSessions(who.site)).filter((row) => row.person === who.id && row.id !== who.session);
  await transaction(async (db) => {
    await setPassword(who.site, who.id, password, db);
    for (const session of others) await endSession(who.site, session.id, db);
    await tell(who.site, who.id, { kind: "people", says: `${who.name} changed their password` }, db);
  });
  return undefined;
}
