import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // Sitemaps and logs are handed over as text.
  experimental: { serverActions: { bodySizeLimit: "12mb" } },
  serverExternalPackages: ["pg"],
  outputFileTracingRoot: import.meta.dirname,
  turbopack: { root: import.meta.dirname },
};
export default config;
