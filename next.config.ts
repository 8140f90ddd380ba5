import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // Types are checked by `npm test` (tsc over everything); a builder who only wants the demo need not wait for it.
  typescript: { ignoreBuildErrors: true },
  experimental: { turbopackMinify: false },
  serverExternalPackages: ["better-sqlite3"],
};

export default config;
