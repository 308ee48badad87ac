// Serves the built application and its delivery server (MIRADA_ALONE: the application alone; MIRADA_DEMO: with the demo's sites) on
// a database that is ready.
import { productPrograms, supervise } from "./lib/supervise.mjs";

const port = Number(process.env.PORT ?? 4300);
const programs = productPrograms(port).slice(0, process.env.MIRADA_ALONE ? 1 : undefined);
if (process.env.MIRADA_DEMO) programs.push(...(await (await import("../demo/programs.mjs")).demoPrograms(port)));
const stop = await supervise(programs);
console.log(`ready on ${port}`);
for (const signal of ["SIGINT", "SIGTERM"]) process.once(signal, () => void stop().finally(() => process.exit(0)));
