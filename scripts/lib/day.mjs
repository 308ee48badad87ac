// One start of the whole, on whatever date this process has: database, demo, a walk in the browser. Run by scripts/days.mjs.
import { startPostgres } from "./postgres.mjs";
import { freePort, main, run, tsx } from "./steps.mjs";
import { application, delivery, supervise } from "./supervise.mjs";

await main(async () => {
  const database = await startPostgres("day", { reset: true, throwaway: true });
  let stop;
  try {
    const port = await freePort();
    process.env.DATABASE_URL = database.url;
    process.env.PORT = String(port);
    console.log(`It is ${new Date().toISOString()} here.`);
    await tsx("scripts/seed.ts");
    stop = await supervise([application(port), delivery(port + 1)]);
    await run("node", ["node_modules/@playwright/test/cli.js", "test", "--config=tests/days/playwright.config.ts"]);
  } finally {
    await stop?.();
    database.stop();
  }
});
