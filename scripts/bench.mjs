// npm run bench: bundles the benchmark as a server would (no names kept for debugging) and runs it.
import { mkdirSync } from "node:fs";
import { join } from "node:path";
import { build } from "esbuild";
import { main, root, run } from "./lib/steps.mjs";

await main(async () => {
  const outfile = join(root, ".data/bench.mjs");
  mkdirSync(join(root, ".data"), { recursive: true });
  await build({
    entryPoints: [join(root, "bench/run.ts")],
    outfile,
    bundle: true,
    platform: "node",
    format: "esm",
    target: "node20",
    packages: "external",
    logLevel: "warning",
  });
  await run("node", [outfile, ...process.argv.slice(2)]);
});
