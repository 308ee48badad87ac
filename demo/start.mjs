// npm run demo: the product with the demo's sites, from a fresh machine to an open address. Ctrl-C stops all of it.
import { portOf, runProduct } from "../scripts/lib/product.mjs";
import { main, Stop } from "../scripts/lib/steps.mjs";
import { demoPrograms, ensureDemoBuild, fillIn, shopPort, sitesPort } from "./programs.mjs";

await main(async () => {
  const args = process.argv.slice(2);
  const unknown = args.find((arg) => arg !== "--reset");
  if (unknown)
    throw new Stop(`There is no option ${unknown}. npm run demo -- --reset starts over with fresh demo data.`);
  const port = portOf();
  // The demo's sites stand on this machine.
  process.env.MIRADA_PRIVATE_HOSTS ??= "yes";
  await runProduct({
    ports: [shopPort(port), sitesPort(port)],
    reset: args.includes("--reset"),
    async prepare() {
      await fillIn(port);
      await ensureDemoBuild();
    },
    programs: () => demoPrograms(port),
    says: ({ database }) => `
  Mirada is ready.

  Workbench    http://localhost:${port}
  The shop     http://brackenfold.localhost:${shopPort(port)}
  A partner    http://stone-and-moss.localhost:${sitesPort(port)}   (static pages with the tag)
  A hotel      http://lantern-quay.localhost:${sitesPort(port)}   (drawn in the browser, no tag yet)
  Delivery     http://localhost:${port + 1}   (description: /openapi.json)

  Ctrl-C stops it. Its data stays${database ? ` in ${database}` : ""}.
`,
  });
});
