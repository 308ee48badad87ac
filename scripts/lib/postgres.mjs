// A private PostgreSQL on loopback, as root (by way of the postgres user) and as a normal user.
import { spawnSync } from "node:child_process";
import { createHash } from "node:crypto";
import {
  accessSync,
  chmodSync,
  constants,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readdirSync,
  readFileSync,
  renameSync,
  rmSync,
  writeFileSync,
} from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { ensureDebian, freePort, isRoot, root, Stop } from "./steps.mjs";

/** Where the programs of the newest PostgreSQL lie; undefined: none is installed. */
export function findBin() {
  const base = "/usr/lib/postgresql";
  const versions = existsSync(base) ? readdirSync(base).sort((a, b) => Number(b) - Number(a)) : [];
  for (const version of versions) if (existsSync(join(base, version, "bin/initdb"))) return join(base, version, "bin");
  const which = spawnSync("sh", ["-c", "command -v initdb"], { encoding: "utf8" }).stdout.trim();
  return which ? which.replace(/\/initdb$/, "") : undefined;
}

/** How a program is run as the user who may own the data: its name and arguments. */
export const asOwner = (path, args) => (isRoot() ? ["runuser", ["-u", "postgres", "--", path, ...args]] : [path, args]);

/** Runs a PostgreSQL program as that user. */
export function program(bin, name, args) {
  const env = Object.fromEntries(Object.entries(process.env).filter(([key]) => !key.startsWith("PG")));
  return spawnSync(...asOwner(join(bin, name), args), { encoding: "utf8", cwd: "/", env });
}

/** Makes a folder that belongs to that user alone. */
export function ownFolder(path) {
  mkdirSync(path, { recursive: true, mode: 0o700 });
  chmodSync(path, 0o700);
  if (isRoot()) spawnSync("chown", ["postgres:postgres", path]);
}

/** Where data lies: in .data/, or, where the postgres user cannot enter the project's folder, beside other services' data. */
export function dataFolder(name) {
  const own = join(root, ".data");
  mkdirSync(own, { recursive: true });
  if (isRoot() && spawnSync("runuser", ["-u", "postgres", "--", "test", "-x", own], { cwd: "/" }).status !== 0) {
    const other = join("/var/lib", `mirada-${createHash("sha256").update(root).digest("hex").slice(0, 12)}`);
    mkdirSync(other, { recursive: true, mode: 0o755 });
    return join(other, name);
  }
  return join(own, name);
}

/** Whether a process runs; not we ourselves, whose number somebody had before. */
function isRunning(pid) {
  if (pid === process.pid) return false;
  try {
    process.kill(pid, 0);
    return true;
  } catch (error) {
    return error.code === "EPERM";
  }
}

/**
 * Everything belongs to a user that is no superuser, for whom row-level security holds: as in a real installation. What an earlier
 * version made belongs to it from now on.
 */
const plainOwner = `
do $$
declare
  item record;
begin
  if not exists (select from pg_roles where rolname = 'mirada') then
    create role mirada login;
  end if;
  execute format('alter database %I owner to mirada', current_database());
  alter schema public owner to mirada;
  for item in select c.oid::regclass as name from pg_class c
              where c.relnamespace = 'public'::regnamespace and c.relkind in ('r', 'p', 'v')
                and c.relowner <> 'mirada'::regrole loop
    execute format('alter table %s owner to mirada', item.name);
  end loop;
  for item in select p.oid::regprocedure as name from pg_proc p
              where p.pronamespace = 'public'::regnamespace and p.proowner <> 'mirada'::regrole loop
    execute format('alter function %s owner to mirada', item.name);
  end loop;
end $$`;

/**
 * Starts a private PostgreSQL with its data in the folder `name`.
 * @param options.reset forget what was there; options.throwaway: for tests, faster and not safe against a power cut, unless
 * options.durable
 * @returns {{url: string, stop: () => void, data: string, kill: () => void, again: () => void}} `kill` ends it as a power cut
 * would, `again` starts it anew on the same port: for tests of what then happens
 */
export async function startPostgres(name, { reset = false, throwaway = false, durable = !throwaway } = {}) {
  await ensureDebian(["postgresql"], () => findBin() !== undefined);
  const bin = findBin();
  const data = dataFolder(name);
  const owner = `${data}.owner`;
  if (existsSync(join(data, "postmaster.pid")) && program(bin, "pg_ctl", ["status", "-D", data]).status === 0) {
    // Whoever started it may have been killed, and could not stop it.
    const isUsed = !existsSync(owner) || isRunning(Number(readFileSync(owner, "utf8")));
    if (!throwaway && isUsed)
      throw new Stop(`The database in ${data} is already running: is another demo open? Stop that one first.`);
    if (!throwaway) console.log("What started the database last time was killed: its database is taken over.");
    program(bin, "pg_ctl", ["stop", "-D", data, "-m", throwaway ? "immediate" : "fast", "-w"]);
  }
  if (reset) rmSync(data, { recursive: true, force: true });
  if (!existsSync(data)) {
    // Made beside its place and then moved there: what was interrupted is never taken for a database.
    const making = `${data}.making`;
    if (existsSync(making)) console.log("The database was not made completely last time: making it anew …");
    rmSync(making, { recursive: true, force: true });
    ownFolder(making);
    const made = program(bin, "initdb", ["-D", making, "-U", "app", "-A", "trust", "-E", "UTF8", "--locale=C.UTF-8"]);
    if (made.status !== 0)
      throw new Stop(
        `PostgreSQL could not make its data directory ${data}: ${(made.stderr || made.stdout).trim().split("\n").at(-1)}`,
      );
    renameSync(making, data);
  } else if (!existsSync(join(data, "PG_VERSION"))) {
    throw new Stop(
      `The data directory ${data} is damaged (no PG_VERSION). To start over and lose its data: npm run demo -- --reset`,
    );
  }
  const port = await freePort();
  const sockets = mkdtempSync(join(tmpdir(), "mirada-"));
  chmodSync(sockets, 0o777);
  const log = join(sockets, "log");
  const fast = !durable ? " -c fsync=off -c full_page_writes=off -c synchronous_commit=off" : "";
  const args = [
    "start",
    "-w",
    "-t",
    "60",
    "-D",
    data,
    "-l",
    log,
    "-o",
    `-p ${port} -k ${sockets} -c listen_addresses=127.0.0.1${fast}`,
  ];
  const started = program(bin, "pg_ctl", args);
  if (started.status !== 0) {
    const last = existsSync(log) ? (readFileSync(log, "utf8").trim().split("\n").at(-1) ?? "") : started.stderr.trim();
    throw new Stop(
      `PostgreSQL could not start on ${data}: ${last}. To start over and lose its data: npm run demo -- --reset`,
    );
  }
  const owned = program(bin, "psql", [
    "--host=127.0.0.1",
    `--port=${port}`,
    "--username=app",
    "--dbname=postgres",
    "--quiet",
    "--set=ON_ERROR_STOP=1",
    "--command",
    plainOwner,
  ]);
  if (owned.status !== 0) throw new Stop(`The database in ${data} could not be made ready: ${owned.stderr.trim()}`);
  writeFileSync(owner, String(process.pid));
  return {
    url: `postgresql://mirada@127.0.0.1:${port}/postgres`,
    data,
    kill: () => void program(bin, "pg_ctl", ["stop", "-D", data, "-m", "immediate", "-w"]),
    again: () => void program(bin, "pg_ctl", args),
    stop() {
      program(bin, "pg_ctl", ["stop", "-D", data, "-m", "fast", "-w"]);
      rmSync(sockets, { recursive: true, force: true });
    },
  };
}

export const isExecutable = (path) => {
  try {
    accessSync(path, constants.X_OK);
    return true;
  } catch {
    return false;
  }
};
