/** Fills the demo in, if that was not done before, in a database that is up to date. PORT is the workbench's. */
import { tendPartitions } from "@/data/events";
import { allSites, of, pool } from "@/data/pool";
import { setUpOnce } from "@/data/setup";
import { readSite } from "@/data/sites";
import { now } from "@/clock";
import { fillDemo, placeDemo } from "./fill";

const port = Number(process.env.PORT ?? 4300);
await setUpOnce(
  "demo",
  async (db) => {
    // Databases of earlier versions have it, but not the note that it was done.
    if (!(await readSite("brackenfold", db))) await fillDemo(now(), db);
  },
  (interrupted) =>
    console.log(
      interrupted
        ? "The demo was not filled in completely last time, so nothing of it was kept: filling it in anew …"
        : "Filling the demo in …",
    ),
);
await placeDemo(port);
await tendPartitions(of(allSites));
await pool().end();
