/** Hostile requests to the product as it is built: application, delivery server and mirror, on a database of its own. */
import { startPostgres } from "./postgres.mjs";
import { serve } from "../../tests/system/served";
import { fuzzHttp, type HttpFuzzReport } from "./fuzz-http";
import { freePorts } from "./steps.mjs";
import { productPrograms, supervise } from "./supervise.mjs";

/** Asks so many times; the same `seed` asks the same. */
export async function fuzzProduct(
  count: number,
  seed?: number,
  progress?: (done: number) => void,
): Promise<HttpFuzzReport> {
  const site = "fuzzed";
  const origin = "https://shop.example";
  const database = await startPostgres("fuzz", { reset: true, throwaway: true });
  const port = await freePorts([1, 2, 3]);
  Object.assign(process.env, { MIRADA_PER_MINUTE: "100000000", MIRADA_LOG: "off" });
  const on = await serve(site, database.url);
  await on.putLive("first");
  const [{ makeKey }, { transaction }, { saveDelivery }] = await Promise.all([
    import("@/data/keys"),
    import("@/data/pool"),
    import("@/data/delivery"),
  ]);
  const open = await transaction(site, (db) => makeKey(site, "public", "fuzz", "test", db));
  await saveDelivery(site, "origins", [origin]);
  const stop = await supervise(productPrograms(port));
  try {
    const ports = [
      {
        name: "delivery",
        port: port + 1,
        paths: [
          ...["/v1/page", "/v1/decide", "/v1/events", "/v1/opened", "/v1/drift", "/v1/look"].map(
            (path) => ["POST", path] as const,
          ),
          ...["/v1/ruleset", "/v1/page.js", "/v1/look.js", "/ready", "/openapi.json"].map(
            (path) => ["GET", path] as const,
          ),
        ],
      },
      {
        name: "application",
        port,
        paths: [
          ...["/", "/sign-in", `/s/${site}/pages`, "/health", "/join/x", "/shared-results/x", "/calendar/x.ics"].map(
            (path) => ["GET", path] as const,
          ),
          ...["/enter", `/s/${site}/act/change`, "/act/sites", `/s/${site}/news`].map(
            (path) => ["POST", path] as const,
          ),
        ],
      },
      {
        name: "mirror",
        port: port + 3,
        paths: [
          ["GET", "/"],
          ["POST", "/~mirada/look"],
          ["GET", "/~mirada/look.js"],
        ] as const,
      },
    ];
    return await fuzzHttp(ports, { open, secret: on.secret, origin }, count, seed, progress);
  } finally {
    await stop();
    await on.end();
    database.stop();
  }
}
