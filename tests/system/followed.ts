/** A database with a standby that follows it, behind a line that can go silent and lead to the other one (docs/operations.md). */
import { rmSync } from "node:fs";
import { dataFolder, findBin, ownFolder, program, startPostgres } from "../../scripts/lib/postgres.mjs";
import { freePort } from "../../scripts/lib/steps.mjs";
import { silentLine } from "./silent-line";

/** The same database at another port. */
const at = (url: string, port: number): string => Object.assign(new URL(url), { port: String(port) }).href;

/** @param name of its folder of data */
export async function followedDatabase(name: string) {
  const bin = findBin() as string;
  const must = (what: string, ...args: string[]): void => {
    const done = program(bin, what, args);
    if (done.status !== 0) throw new Error(`${what}: ${done.stderr || done.stdout}`);
  };
  const primary = await startPostgres(name, { reset: true, throwaway: true, durable: true });
  const port = Number(new URL(primary.url).port);
  const [host, copy] = ["127.0.0.1", dataFolder(`${name}-standby`)];
  const drop = () => {
    program(bin, "pg_ctl", ["stop", "-D", copy, "-m", "immediate", "-w"]);
    rmSync(copy, { recursive: true, force: true });
  };
  drop();
  ownFolder(copy);
  must("pg_basebackup", "-h", host, "-p", String(port), "-U", "app", "-D", copy, "-R", "-X", "stream", "-c", "fast");
  const standbyPort = await freePort();
  const settings = `-p ${standbyPort} -k /tmp -c listen_addresses=${host}`;
  must("pg_ctl", "start", "-w", "-D", copy, "-l", `${copy}/log.txt`, "-o", settings);
  // Every commit waits for it: what was answered is on both.
  for (const sql of ["alter system set synchronous_standby_names = '*'", "select pg_reload_conf()"])
    must("psql", "-h", host, "-p", String(port), "-U", "app", "-d", "postgres", "-q", "-c", sql);
  const line = await silentLine(port);
  return {
    line,
    /** By the line. */
    url: at(primary.url, line.port),
    /** The standby itself, once it has taken over. */
    standbyUrl: at(primary.url, standbyPort),
    /** The first machine is lost. */
    lose: () => primary.kill(),
    /** The standby takes over, and the line leads there. */
    promote() {
      must("pg_ctl", "promote", "-w", "-D", copy);
      line.leadTo(standbyPort);
    },
    stop() {
      line.close();
      primary.stop();
      drop();
    },
  };
}
