/** The commands of administration. Each prints what it did; bad input is said in one line. */
import { passwordProblem } from "@/core/people/password";
import { parseArgs } from "node:util";
import { roles, type Role } from "@/core/people/roles";
import {
  accountByEmail,
  addAccount,
  isAnybody,
  listAccounts,
  makeSetUpLink,
  setAdministrator,
  setPassword,
  setUpMinutes,
} from "@/data/accounts";
import { tell } from "@/data/audit";
import { endKey, listKeys, makeKey } from "@/data/keys";
import { migrate as bringUpToDate, WrongDatabase } from "@/data/migrate";
import { addPerson, listPeople, setLeft } from "@/data/people";
import { allSites, isDatabaseAway, isLockedOut, pool, transaction } from "@/data/pool";
import { endSessionsOf } from "@/data/sessions";
import { listSites, readSite } from "@/data/sites";
import { accountOf, hashPassword, newcomerProblem } from "@/server/people";
import { archiveSite, makeSite, removeSite } from "@/server/sites";

/** The command cannot be done as it was given: said in one line. */
export class Wrong extends Error {}

/** Who does what is done from here, in the audit trail. */
const admin = { id: "mirada", name: "Mirada" };
const say = (line: string): void => void process.stdout.write(`${line}\n`);

type Options = Record<string, { type: "string" | "boolean" }>;
function read(args: string[], usage: string, words: number, options: Options = {}) {
  try {
    const { values, positionals } = parseArgs({ args, options, allowPositionals: true });
    if (positionals.length !== words) throw new Error("another number of words is expected");
    return { values: values as Record<string, string | boolean | undefined>, words: positionals };
  } catch (error) {
    throw new Wrong(`${(error as Error).message.replaceAll(/\s+/g, " ")}; usage: mirada ${usage}`);
  }
}

/** A password from the environment or standard input: never from the command line, where others may read it. */
async function password(): Promise<string> {
  if (process.env.MIRADA_PASSWORD !== undefined) return process.env.MIRADA_PASSWORD;
  if (process.stdin.isTTY) process.stderr.write("Password (it is shown as you type), then Enter: ");
  for await (const chunk of process.stdin) {
    const [line = ""] = String(chunk).split(/\r?\n/);
    return line;
  }
  return "";
}

async function siteOf(id: string) {
  const row = await readSite(id);
  if (!row) throw new Wrong(`there is no site ${id}`);
  return row;
}
async function accountOfAddress(email: string) {
  const account = await accountByEmail(email);
  if (!account) throw new Wrong(`nobody has an account with the address ${email}`);
  return account;
}

async function migrate(args: string[]): Promise<void> {
  read(args, "migrate", 0);
  const { applied, warning } = await bringUpToDate();
  if (applied.length > 0) say(`The database was brought up to date: ${applied.join(", ")}`);
  if (warning) process.stderr.write(`${warning}\n`);
}

/** Prints the link with which an installation without anybody is set up; nothing, where there is somebody. */
async function setUpLink(args: string[]): Promise<void> {
  const { words } = read(args, "set-up-link ORIGIN", 1);
  if (await isAnybody()) return;
  say(`${(words[0] as string).replace(/\/+$/, "")}/set-up/${await makeSetUpLink()}`);
  process.stderr.write(`It is good once, for ${setUpMinutes} minutes.\n`);
}

async function site(args: string[]): Promise<void> {
  const [what, ...rest] = args;
  switch (what) {
    case "list":
      read(rest, "site list", 0);
      for (const row of await listSites())
        say(
          [
            row.id,
            row.name,
            row.origins.join(" "),
            row.archivedAt ? "archived" : `release ${row.release ?? "none"}`,
          ].join("\t"),
        );
      return;
    case "add": {
      const options = {
        id: "string",
        zone: "string",
        currency: "string",
        language: "string",
        owner: "string",
      } as const;
      const { words, values } = read(
        rest,
        "site add NAME ORIGIN --owner ADDRESS [--id ID] [--zone Europe/Lisbon] [--currency EUR] [--language en]",
        2,
        Object.fromEntries(Object.entries(options).map(([name, type]) => [name, { type }])),
      );
      const text = (name: keyof typeof options, usual = "") => String(values[name] ?? usual);
      const owner = await accountOfAddress(text("owner"));
      const made = await makeSite(owner, {
        name: words[0] as string,
        origin: words[1] as string,
        id: text("id"),
        zone: text("zone", "UTC"),
        currency: text("currency", "EUR"),
        language: text("language", "en"),
        copyOf: "",
      });
      if (!made.ok) throw new Wrong(`${made.field}: ${made.problem}`);
      return say(`The site ${made.site} was made; ${owner.email} has every role there`);
    }
    case "archive":
    case "unarchive": {
      const { words } = read(rest, `site ${what} ID`, 1);
      await siteOf(words[0] as string);
      await archiveSite(admin, words[0] as string, what === "archive");
      return say(`The site ${words[0]} ${what === "archive" ? "is archived" : "is worked on again"}`);
    }
    case "delete": {
      const { words } = read(rest, "site delete ID NAME", 2);
      await siteOf(words[0] as string);
      const problem = await removeSite(words[0] as string, words[1] as string);
      if (problem) throw new Wrong(problem);
      return say(`The site ${words[0]} is deleted`);
    }
    default:
      throw new Wrong("usage: mirada site list | add | archive | unarchive | delete");
  }
}

const rolesOf = (text: string): Role[] => {
  const named = text.split(",").filter(Boolean);
  const odd = named.find((name) => !roles.includes(name as Role));
  if (odd !== undefined || named.length === 0)
    throw new Wrong(`roles are some of ${roles.join(", ")}, parted by commas`);
  return roles.filter((role) => named.includes(role));
};

async function person(args: string[]): Promise<void> {
  const [what, ...rest] = args;
  switch (what) {
    case "list": {
      const { values } = read(rest, "person list [--site ID]", 0, { site: { type: "string" } });
      if (values.site === undefined)
        for (const one of await listAccounts())
          say([one.email, one.name, one.administrator ? "administrator" : ""].join("\t"));
      else
        for (const one of await listPeople((await siteOf(String(values.site))).id))
          say([one.email, one.name, one.leftAt ? "left" : one.roles.join(",")].join("\t"));
      return;
    }
    case "add": {
      const { words, values } = read(rest, "person add NAME ADDRESS [--administrator] (password: standard input)", 2, {
        administrator: { type: "boolean" },
      });
      const newcomer = { name: words[0] as string, email: words[1] as string, password: await password() };
      const problem = newcomerProblem(newcomer);
      if (problem) throw new Wrong(problem);
      if (await accountByEmail(newcomer.email)) throw new Wrong(`${newcomer.email} has an account already`);
      await addAccount(await accountOf(newcomer, values.administrator === true));
      return say(`${newcomer.email} may sign in${values.administrator ? ", as an administrator" : ""}`);
    }
    case "password": {
      const { words } = read(rest, "person password ADDRESS (password: standard input)", 1);
      const account = await accountOfAddress(words[0] as string);
      const fresh = await password();
      const problem = passwordProblem(fresh);
      if (problem) throw new Wrong(problem);
      const hash = await hashPassword(fresh);
      await transaction(allSites, async (db) => {
        await setPassword(account.id, hash, db);
        await endSessionsOf(account.id, db);
      });
      return say(`${account.email} has another password, and is signed out everywhere`);
    }
    case "administrator": {
      const { words, values } = read(rest, "person administrator ADDRESS [--no]", 1, { no: { type: "boolean" } });
      const account = await accountOfAddress(words[0] as string);
      const done = await transaction(allSites, (db) => setAdministrator(account.id, values.no !== true, db));
      if (!done) throw new Wrong("somebody must keep the installation: at least one administrator stays");
      return say(`${account.email} is ${values.no ? "no administrator any more" : "an administrator"}`);
    }
    case "role": {
      const { words } = read(rest, "person role ADDRESS SITE ROLES", 3);
      const account = await accountOfAddress(words[0] as string);
      const { id } = await siteOf(words[1] as string);
      const own = rolesOf(words[2] as string);
      await transaction(id, async (db) => {
        await addPerson(id, account.id, own, db);
        await tell(id, admin.id, { kind: "people", says: `${account.name} is ${own.join(", ")}` }, db);
      });
      return say(`${account.email} is ${own.join(", ")} of ${id}`);
    }
    case "remove": {
      const { words } = read(rest, "person remove ADDRESS SITE", 2);
      const account = await accountOfAddress(words[0] as string);
      const { id } = await siteOf(words[1] as string);
      await transaction(id, async (db) => {
        await setLeft(id, account.id, true, db);
        await tell(id, admin.id, { kind: "people", says: `${account.name} left` }, db);
      });
      return say(`${account.email} is none of the people of ${id} any more`);
    }
    default:
      throw new Wrong("usage: mirada person list | add | password | administrator | role | remove");
  }
}

async function key(args: string[]): Promise<void> {
  const [what, ...rest] = args;
  switch (what) {
    case "list": {
      const { words } = read(rest, "key list SITE", 1);
      for (const one of await listKeys((await siteOf(words[0] as string)).id))
        say([one.id, one.kind, one.name, one.key ?? "", one.endedAt ? "ended" : ""].join("\t"));
      return;
    }
    case "add": {
      const { words } = read(rest, "key add SITE public|secret NAME", 3);
      const { id } = await siteOf(words[0] as string);
      const kind = words[1];
      if (kind !== "public" && kind !== "secret") throw new Wrong("a key is public or secret");
      const made = await transaction(id, async (db) => {
        await tell(id, admin.id, { kind: "keys", says: `A ${kind} key was made: ${words[2]}` }, db);
        return makeKey(id, kind, words[2] as string, admin.id, db);
      });
      return say(made);
    }
    case "end": {
      const { words } = read(rest, "key end SITE ID", 2);
      const { id } = await siteOf(words[0] as string);
      if (!(await listKeys(id)).some((one) => one.id === words[1])) throw new Wrong(`there is no key ${words[1]}`);
      await transaction(id, async (db) => {
        await endKey(id, words[1] as string, db);
        await tell(id, admin.id, { kind: "keys", says: `A key was ended: ${words[1]}` }, db);
      });
      return say(`The key ${words[1]} is ended`);
    }
    default:
      throw new Wrong("usage: mirada key list | add | end");
  }
}

export const commands: Record<string, (args: string[]) => Promise<void>> = {
  migrate,
  "set-up-link": setUpLink,
  site,
  person,
  key,
};

/** Runs a command of administration to its end. @throws Wrong with one line, if it cannot be done */
export async function administer(name: string, args: string[]): Promise<number> {
  if (!process.env.DATABASE_URL) throw new Wrong("DATABASE_URL is not set: it says which PostgreSQL database is used");
  try {
    await commands[name]?.(args);
    return 0;
  } catch (error) {
    if (error instanceof WrongDatabase) throw new Wrong(error.message);
    if (isLockedOut(error)) throw new Wrong(`the database lets nobody in by DATABASE_URL: ${(error as Error).message}`);
    if (isDatabaseAway(error)) throw new Wrong(`the database cannot be reached: ${(error as Error).message}`);
    throw error;
  } finally {
    await pool().end();
  }
}
