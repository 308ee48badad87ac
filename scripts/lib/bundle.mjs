// What runs outside Next: bundled to single files beside the build.
import { join } from "node:path";
import { root } from "./steps.mjs";

/** Packages that stay packages: they load files or native code of their own. */
const external = ["pg-native", "@ip-location-db/*", "next"];
const programs = {
  application: "src/front/main.ts",
  delivery: "src/delivery/http/main.ts",
  mirror: "src/mirror/main.ts",
  findings: "src/server/workers/findings.ts",
  places: "src/server/workers/places.ts",
};

/** Bundles a program of Node.js, all but those packages, into one file. */
export async function bundleProgram(entry, outfile) {
  const { build } = await import("esbuild");
  await build({
    entryPoints: [join(root, entry)],
    outfile,
    bundle: true,
    platform: "node",
    target: "node20",
    format: "esm",
    external,
    alias: { "@": join(root, "src") },
    // What is CommonJS inside asks for `require`.
    banner: { js: 'import { createRequire } from "node:module"; const require = createRequire(import.meta.url);' },
    logLevel: "error",
  });
}

/** Bundles the processes, workers and the page script into .next/mirada/. */
export async function bundle() {
  const { build } = await import("esbuild");
  const out = join(root, ".next/mirada");
  for (const [name, entry] of Object.entries(programs)) await bundleProgram(entry, join(out, `${name}.mjs`));
  // What runs in visitors' pages; where a site says that values are read from them, or has goals; and only while a page is looked at.
  for (const name of ["page", "collect", "goals", "look"])
    await build({
      entryPoints: [join(root, `src/script/${name}.ts`)],
      outfile: join(out, `${name}.js`),
      bundle: true,
      minify: true,
      platform: "browser",
      target: "es2020",
      format: "iife",
      alias: { "@": join(root, "src") },
      loader: { ".css": "text" },
      logLevel: "error",
    });
}
