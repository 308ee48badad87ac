/** The mirror as a process. PORT, HOST and DATABASE_URL come from the environment. */
import { join } from "node:path";
import { announce } from "@/data/processes";
import { mirrorServer } from "./server";

const port = Number(process.env.PORT ?? 4303);
const host = process.env.HOST ?? "127.0.0.1";
const server = mirrorServer({
  pattern: process.env.MIRADA_MIRROR ?? `http://*.mirror.localhost:${port}`,
  workbench: process.env.MIRADA_ORIGIN ?? `http://localhost:${port - 3}`,
  look: join(import.meta.dirname, "look.js"),
});
await new Promise<void>((ready) => server.listen(port, host, ready));
console.log(`mirror ready on ${port}`);
// It serves no visitors, and has no events.
const leave = announce("mirror", port, () => Promise.resolve({ ready: true, waiting: 0, refused: 0, dropped: 0 }));

/** No new requests; those under way have a moment to end. */
function stop(): void {
  const left = leave();
  server.close(() => void left.finally(() => process.exit(0)));
  server.closeIdleConnections();
  setTimeout(() => process.exit(0), 3000).unref();
}
for (const signal of ["SIGINT", "SIGTERM"] as const) process.once(signal, stop);
// Whoever started it is gone: nobody could stop it later.
process.once("disconnect", stop);
