/** The `mirada` command: `npm run -s mirada -- COMMAND`. Exit 0 on success, 1 if the answer is negative, 2 on bad input. */
import { check } from "./check";
import { decide } from "./decide";
import { BadInput, exitBy } from "./input";
import { inspect } from "./inspect";
import { replay } from "./replay";
import { validate } from "./validate";

/** Administration asks the database: it is only loaded when it is asked for. */
const administration = (name: string) => async (args: string[]) => {
  const { administer, Wrong } = await import("@/admin/commands");
  return administer(name, args).catch((error: unknown) => {
    throw error instanceof Wrong ? new BadInput(error.message) : error;
  });
};

const commands: Record<string, (args: string[]) => Promise<number>> = {
  validate,
  decide,
  inspect,
  check,
  replay,
  migrate: administration("migrate"),
  "set-up-link": administration("set-up-link"),
  site: administration("site"),
  person: administration("person"),
  key: administration("key"),
};
const usage = `usage: mirada validate RULESET
       mirada decide RULESET VISITS [--trace] [--content] [--carry] [--places FILE]…
       mirada inspect RULESET
       mirada check RULESET CHECKS [--places FILE]…
       mirada replay RULESET ACCESS_LOG [--against OTHER] [--consent] [--places FILE]…
and, on the database of DATABASE_URL,
       mirada migrate
       mirada set-up-link ORIGIN
       mirada site list | add | archive | unarchive | delete
       mirada person list | add | password | administrator | role | remove
       mirada key list | add | end`;

exitBy(async () => {
  const [name, ...args] = process.argv.slice(2);
  const command = name !== undefined && Object.hasOwn(commands, name) ? commands[name] : undefined;
  if (!command)
    throw new BadInput(
      name === undefined ? usage : `no command "${name}"; there are ${Object.keys(commands).join(", ")}`,
    );
  return command(args);
});
