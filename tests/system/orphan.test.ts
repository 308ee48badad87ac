/** What a start leaves behind that was killed is found by the next one, which says so and takes over. */
import { spawn, spawnSync } from "node:child_process";
import { rmSync } from "node:fs";
import pg from "pg";
import { afterAll, expect, it } from "vitest";
import { dataFolder, findBin, program } from "../../scripts/lib/postgres.mjs";

const name = "orphan-of-tests";
const data = dataFolder(name);
const start = `import { startPostgres } from "./scripts/lib/postgres.mjs";
const database = await startPostgres(${JSON.stringify(name)});
console.log("url " + database.url);`;
afterAll(() => {
  program(findBin() as string, "pg_ctl", ["stop", "-D", data, "-m", "immediate", "-w"]);
  for (const path of [data, `${data}.owner`]) rmSync(path, { recursive: true, force: true });
});
const node = (more: string) => ["--input-type=module", "--eval", `${start}\n${more}`];

it("a database whose starter was killed is taken over, with what it holds; one that is in use is not", async () => {
  const first = spawn("node", node("setInterval(() => undefined, 1000);"), { stdio: ["ignore", "pipe", "inherit"] });
  let said = "";
  first.stdout.on("data", (text) => (said += String(text)));
  await expect.poll(() => said, { timeout: 60_000 }).toMatch(/url \S+/);
  const client = new pg.Client({ connectionString: /url (\S+)/.exec(said)?.[1] });
  await client.connect();
  await client.query("create table kept (one integer); insert into kept values (7)");
  await client.end();
  const second = spawnSync("node", node(""), { encoding: "utf8" });
  expect(second.stderr).toContain("is already running");
  const ended = new Promise((done) => first.once("exit", done));
  first.kill("SIGKILL");
  await ended;
  const third = spawnSync("node", node("process.exit(0);"), { encoding: "utf8" });
  expect(third.stdout).toContain("its database is taken over");
  const again = new pg.Client({ connectionString: /url (\S+)/.exec(third.stdout)?.[1] });
  await again.connect();
  expect((await again.query("select one from kept")).rows).toEqual([{ one: 7 }]);
  await again.end();
}, 120_000);
