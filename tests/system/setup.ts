import { startPostgres } from "../../scripts/lib/postgres.mjs";
import { ensureBuild } from "../../scripts/lib/steps.mjs";

/** System tests have a database and a build, or fail: without DATABASE_URL a database of their own is started. */
export default async function setup(): Promise<() => void> {
  await ensureBuild();
  if (process.env.DATABASE_URL) return () => undefined;
  const database = await startPostgres("system", { reset: true, throwaway: true });
  process.env.DATABASE_URL = database.url;
  return () => database.stop();
}
