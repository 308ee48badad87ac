import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  serverExternalPackages: ["pg"],
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
};
export default config;
