// npm start: the product as it is run for real. PORT and DATABASE_URL come from the environment (docs/install.md).
import { administer, portOf, runProduct } from "./lib/product.mjs";
import { main, Stop } from "./lib/steps.mjs";

await main(async () => {
  const [unknown] = process.argv.slice(2);
  if (unknown)
    throw new Stop(`npm start takes no ${unknown}: what is set stands in the environment (docs/install.md).`);
  const origin = process.env.MIRADA_ORIGIN ?? `http://localhost:${portOf()}`;
  await runProduct({
    async says({ port, database }) {
      const link = (await administer("set-up-link", origin)).trim();
      return `
  Mirada is ready.

  Workbench    ${origin}
  Delivery     ${process.env.MIRADA_DELIVERY ?? `http://localhost:${port + 1}`}
${database ? `\n  There is no DATABASE_URL, so a private PostgreSQL is used, with its data in\n  ${database}\n` : ""}${link ? `\n  Nobody can sign in yet. Set it up, within the hour, at\n\n  ${link}\n` : ""}
  Ctrl-C stops it.
`;
    },
  });
});
