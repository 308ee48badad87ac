// Starting the product: database, migrations, build, and its processes under one supervisor.
import { startPostgres } from "./postgres.mjs";
import { productPrograms, supervise } from "./supervise.mjs";
import { ensureBuild, ensureFreePort, ensurePackages, Stop, tsx } from "./steps.mjs";

/** The port of the application, from PORT. @throws Stop if it is none */
export function portOf() {
  const port = Number(process.env.PORT ?? 4300);
  if (!Number.isInteger(port) || port < 1 || port > 65_500)
    throw new Stop(`PORT must be a number from 1 to 65500, not "${process.env.PORT}".`);
  return port;
}

/** A command of administration (`mirada`). @returns what it printed */
export const administer = (...args) => tsx("src/cli/mirada.ts", args, { quiet: true });

/**
 * Runs the product until it is told to end.
 * @param options.ports further ports that must be free; options.reset forget what a private database holds; options.prepare done
 * once the database is up to date; options.programs tells what else is kept running; options.says what is printed once all is ready
 */
export async function runProduct({ ports = [], reset = false, prepare, programs = () => [], says }) {
  const port = portOf();
  for (const at of [port, port + 1, port + 3, ...ports]) await ensureFreePort(at);
  process.env.PORT = String(port);
  await ensurePackages();
  const own = process.env.DATABASE_URL ? undefined : await startPostgres("postgres", { reset });
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
    if (own) process.env.DATABASE_URL = own.url;
    process.stdout.write(await administer("migrate"));
    await ensureBuild();
    await prepare?.();
    stopServing = await supervise([...productPrograms(port), ...(await programs())]);
    console.log(await says({ port, database: own?.data }));
  } catch (error) {
    process.exitCode = 1;
    console.error(error instanceof Stop ? error.message : error);
    await stop();
  }
}
