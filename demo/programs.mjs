// The demo's own processes beside the product's: the shop with the stand-ins, and two websites that know nothing of either.
import { networkInterfaces } from "node:os";
import { join } from "node:path";
import { bundleProgram } from "../scripts/lib/bundle.mjs";
import { buildOnce, nextBuild, root, tsx } from "../scripts/lib/steps.mjs";

const file = join(root, "demo/web/.next/demo.mjs");

/** Where the demo's parts listen, by the workbench's port. */
export const shopPort = (port) => port + 10;
export const sitesPort = (port) => port + 20;

/** Builds the shop, if it has changed. */
export const ensureDemoBuild = () =>
  buildOnce({
    what: "the demo’s shop",
    of: ["package-lock.json", "src", "demo"],
    mark: join(root, "demo/web/.next/mirada-build"),
    async work() {
      await nextBuild("demo/web");
      await bundleProgram("demo/web/main.ts", file);
    },
  });

/** An address of this machine under which a phone on the same network finds it; undefined: it has none. */
const network = () =>
  Object.values(networkInterfaces())
    .flat()
    .find((item) => item !== undefined && !item.internal && item.family === "IPv4")?.address;

/** The demo's processes. The tags in the partner's pages are asked for, as their maker would. */
export async function demoPrograms(port) {
  const tags = await tsx("demo/tags.ts", [], { quiet: true, env: { PORT: String(port) } });
  const address = network();
  return [
    {
      name: "the demo’s shop",
      file,
      ready: "demo ready",
      env: {
        PORT: String(shopPort(port)),
        MIRADA_ROOT: root,
        MIRADA_ORIGIN: `http://localhost:${port}`,
        NODE_ENV: "production",
        NEXT_TELEMETRY_DISABLED: "1",
        ...(address ? { MIRADA_NETWORK: address } : {}),
      },
    },
    {
      name: "the demo’s other sites",
      file: join(root, "demo/sites/serve.mjs"),
      ready: "sites ready",
      env: { PORT: String(sitesPort(port)), SHOP: `http://brackenfold.localhost:${shopPort(port)}`, TAGS: tags.trim() },
    },
  ];
}

/** Fills the demo in, if that was not done before. */
export const fillIn = (port) => tsx("demo/seed.ts", [], { env: { PORT: String(port) } });
