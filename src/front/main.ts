/**
 * The workbench as a process. PORT, DATABASE_URL and MIRADA_ROOT (the product's folder) come from the environment. It listens on
 * this machine alone: a proxy in front of it brings it to others.
 */
import { announce } from "@/data/processes";
import { ownState } from "@/delivery/ready";
import { accountOfCookies } from "@/server/sealed-session";
import { serve } from "./serve";

const port = Number(process.env.PORT ?? 4300);

await serve({
  onServing: () => announce("application", port, ownState),
  name: "application",
  speaks: true,
  port,
  folder: process.env.MIRADA_ROOT ?? process.cwd(),
  isSignedIn: async (cookies) => Boolean(await accountOfCookies(cookies)),
  places: [
    { host: "127.0.0.1", port },
    { host: "::1", port },
    // Shared lenses alone are served to the network, on a port of their own: phones look at them there.
    {
      host: "0.0.0.0",
      port: port + 2,
      only: ({ pathname }) => /^\/(shared|_next\/static)\//.test(pathname),
      spare: "Shared lenses cannot be reached from the network",
    },
  ],
});
