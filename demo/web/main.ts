/**
 * Brackenfold and the stand-ins around it as a process of their own: a customer's application that has the in-process door. PORT,
 * DATABASE_URL, MIRADA_ROOT (the product's folder) and MIRADA_ORIGIN (the workbench's) come from the environment.
 */
import { join } from "node:path";
import { serve } from "@/front/serve";

const port = Number(process.env.PORT ?? 4310);

await serve({
  name: "demo",
  port,
  folder: join(process.env.MIRADA_ROOT ?? process.cwd(), "demo/web"),
  isSignedIn: async () => false,
  places: [
    { host: "127.0.0.1", port },
    { host: "::1", port },
    ...(process.env.MIRADA_NETWORK
      ? [
          {
            host: process.env.MIRADA_NETWORK,
            port,
            // From the network only what a shared lens shows is there, and the files that it needs.
            only: ({ pathname, searchParams }: URL) =>
              searchParams.has("shared") || /^\/(_next\/static|brackenfold)\//.test(pathname),
            spare: "Shared lenses of the shop cannot be seen from the network",
          },
        ]
      : []),
  ],
});
