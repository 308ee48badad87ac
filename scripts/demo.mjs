// npm run demo: everything from a fresh machine to an open address. Ctrl-C stops all of it.
import { startPostgres } from "./lib/postgres.mjs";
import { application, delivery, supervise } from "./lib/supervise.mjs";
import { ensureBuild, ensureFreePort, ensurePackages, main, Stop, tsx } from "./lib/steps.mjs";

await main(async () => {
  const args = process.argv.slice(2);
  const unknown = args.find((arg) => arg !== "--reset");
  if (unknown)
    throw new Stop(`There is no option ${unknown}. npm run demo -- --reset starts over with fresh demo data.`);
  const port = Number(process.env.PORT ?? 4300);
  if (!Number.isInteger(port) || port < 1 || port > 65_535)
    throw new Stop(`PORT must be a number from 1 to 65535, not "${process.env.PORT}".`);
  await ensureFreePort(port);
  await ensureFreePort(port + 1);
  process.env.PORT = String(port);
  await ensurePackages();

  const own = process.env.DATABASE_URL
    ? undefined
    : await startPostgres("postgres", { reset: args.includes("--reset") });
  const url = own?.url ?? process.env.DATABASE_URL;
  let stopServing;
  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    await stopServing?.().catch(() => undefined);
    own?.stop();
    process.exit(process.exitCode ?? 0);
  };
  for (const signal of ["SIGINT", "SIGTERM", "SIGHUP"]) process.on(signal, () => void stop());
  try {
    process.env.DATABASE_URL = url;
    await tsx("scripts/seed.ts");
    await ensureBuild();
    stopServing = await supervise([application(port), delivery(port + 1)]);
    console.log(`
  Mirada is ready.

  Workbench    http://localhost:${port}
  Storefront   http://brackenfold.localhost:${port}
  A partner    http://stone-and-moss.localhost:${port}
  Delivery     http://localhost:${port + 1}   (description: /openapi.json)

  Ctrl-C stops it. Its data stays${own ? ` in ${own.data}` : ""}.
`);
  } catch (error) {
    process.exitCode = 1;
    console.error(error instanceof Stop ? error.message : error);
    await stop();
  }
});
