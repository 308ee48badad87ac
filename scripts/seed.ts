/** Brings the database up to date and, if that was not done before, fills the demo in. Run by scripts/demo.mjs and the tests. */
import { siteExists } from "@/data/draft";
import { tendPartitions } from "@/data/events";
import { migrate } from "@/data/migrate";
import { pool } from "@/data/pool";
import { setUpOnce } from "@/data/setup";
import { now } from "@/clock";
import { fillDemo } from "../demo/fill";

await migrate();
await setUpOnce(
  "demo",
  async (db) => {
    // Databases of earlier versions have it, but not the note that it was done.
    if (!(await siteExists("brackenfold"))) await fillDemo(now(), Number(process.env.PORT ?? 4300), db);
  },
  (interrupted) =>
    console.log(
      interrupted
        ? "The demo was not filled in completely last time, so nothing of it was kept: filling it in anew …"
        : "Filling the demo in …",
    ),
);
await tendPartitions(pool());
await pool().end();
