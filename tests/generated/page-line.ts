/** The workbench's line to a page in a frame, as one script to be put into a page by a test: as `window.line`. */
import { build } from "esbuild";

export async function pageLineScript(): Promise<string> {
  const bundled = await build({
    stdin: {
      contents: 'export { pageLink } from "./src/workbench/parts/page-frame/page-link";',
      resolveDir: ".",
      loader: "ts",
    },
    bundle: true,
    write: false,
    format: "iife",
    globalName: "line",
    target: "es2022",
    alias: { "@": "./src" },
    // While a test puts it in, code may be made of text; later the page's policy forbids it.
    banner: { js: "globalThis.__zod_globalConfig = { jitless: true };" },
  });
  return `${bundled.outputFiles[0]?.text}; window.line = line;`;
}
