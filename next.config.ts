import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // Types are checked by the tests, together with everything else.
  typescript: { ignoreBuildErrors: true },
  // Place data and archives are sent whole; what lies beyond this would be cut off.
  experimental: { proxyClientMaxBodySize: "400mb" },
  serverExternalPackages: ["pg"],
  outputFileTracingRoot: import.meta.dirname,
  turbopack: {
    root: import.meta.dirname,
    resolveAlias: { postcss: { browser: "./src/workbench/parts/no-postcss.ts" } },
  },
};
export default config;
