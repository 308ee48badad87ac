// One start of the whole, on whatever date this process has: database, demo, a walk in the browser; with --whole all tests, too. Run by
// scripts/days.mjs.
import { startPostgres } from "./postgres.mjs";
import { demoPrograms, fillIn } from "../../demo/programs.mjs";
import { administer } from "./product.mjs";
import { freePorts, main, run } from "./steps.mjs";
import { productPrograms, supervise } from "./supervise.mjs";

await main(async () => {
  const database = await startPostgres("day", { reset: true, throwaway: true });
  let stop;
  const whole = process.argv.includes("--whole");
  try {
    const port = await freePorts([1, 2, 3, 10, 20]);
    process.env.DATABASE_URL = database.url;
    process.env.PORT = String(port);
    console.log(`It is ${new Date().toISOString()} here.`);
    process.env.MIRADA_PRIVATE_HOSTS = "yes";
    if (whole) process.env.MIRADA_DEMO_WAIT = "3000";
    if (whole) await run("node", ["node_modules/vitest/vitest.mjs", "run"]);
    await administer("migrate");
    await fillIn(port);
    stop = await supervise([...productPrograms(port), ...(await demoPrograms(port))]);
    await run("node", ["node_modules/@playwright/test/cli.js", "test", "--config=tests/days/playwright.config.ts"]);
    if (whole) await run("node", ["node_modules/@playwright/test/cli.js", "test", "--retries=1"]);
  } finally {
    await stop?.();
    database.stop();
  }
});
