// Serves the built application and its delivery server (MIRADA_ALONE: the application alone) on a database that is ready.
import { application, delivery, supervise } from "./lib/supervise.mjs";

const port = Number(process.env.PORT ?? 4300);
const stop = await supervise([application(port), ...(process.env.MIRADA_ALONE ? [] : [delivery(port + 1)])]);
console.log(`ready on ${port}`);
for (const signal of ["SIGINT", "SIGTERM"]) process.once(signal, () => void stop().finally(() => process.exit(0)));
