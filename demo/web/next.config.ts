import { dirname, join } from "node:path";
import type { NextConfig } from "next";

/** The customer's own application: its files lie here, the product's code beside it. */
const root = join(import.meta.dirname, "../..");

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // Types are checked by the tests, together with everything else.
  typescript: { ignoreBuildErrors: true },
  serverExternalPackages: ["pg"],
  distDir: "../../.next/demo",
  outputFileTracingRoot: root,
  turbopack: { root: dirname(join(root, "package.json")) },
};
export default config;
