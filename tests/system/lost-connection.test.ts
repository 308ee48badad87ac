/** A connection that is lost between two statements fails what was done over it, and nothing else. */
import { afterAll, expect, it } from "vitest";
import { migrate } from "@/data/migrate";
import { allSites, isDatabaseAway, of, pool, transaction } from "@/data/pool";

afterAll(() => pool().end());

it("fails the transaction that has it, and the process goes on", async () => {
  await migrate();
  const failure = await transaction(allSites, async (client) => {
    const { rows } = await client.query<{ pid: number }>("select pg_backend_pid() as pid");
    const lost = new Promise((next) => client.once("end", next));
    await of(allSites).query("select pg_terminate_backend($1)", [rows[0]?.pid]);
    // Nobody asks anything while the connection goes.
    await lost;
    await client.query("select 1");
  }).catch((error: unknown) => error);
  expect(isDatabaseAway(failure)).toBe(true);
  expect((await of(allSites).query<{ one: number }>("select 1 as one")).rows).toEqual([{ one: 1 }]);
});
