/** Steps of set-up are done once, whole or not at all. */
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import { migrate } from "@/data/migrate";
import { pool } from "@/data/pool";
import { setUpOnce } from "@/data/setup";
import { everything, uniqueId } from "./support";

const rows = async (name: string) =>
  Number((await everything.query("select count(*) from failed_sign_ins where who = $1", [name])).rows[0].count);

describe("a step of set-up", () => {
  beforeAll(() => migrate());
  afterAll(() => pool().end());

  it("is done once; one that was interrupted leaves nothing, says so, and is done anew", async () => {
    const name = uniqueId("step");
    const said: boolean[] = [];
    const work = (fails: boolean) =>
      setUpOnce(
        name,
        async (db) => {
          await db.query("insert into sites (site, name, settings) values ($1, $1, '{}') on conflict do nothing", [
            name,
          ]);
          await db.query("insert into failed_sign_ins (who) values ($1)", [name]);
          if (fails) throw new Error("the power went out");
        },
        (interrupted) => said.push(interrupted),
      );
    await expect(work(true)).rejects.toThrow("the power went out");
    expect(await rows(name)).toBe(0);
    expect(await work(false)).toBe("done anew");
    expect(await work(false)).toBe("done before");
    expect([await rows(name), said]).toEqual([1, [false, true]]);
  });

  it("of two processes that come at once one does it", async () => {
    const name = uniqueId("step");
    let times = 0;
    const work = () =>
      setUpOnce(name, async (db) => {
        times += 1;
        await db.query("select pg_sleep(0.2)");
      });
    expect((await Promise.all([work(), work()])).sort()).toEqual(["done", "done before"]);
    expect(times).toBe(1);
  });
});
