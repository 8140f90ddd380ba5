import type { NextConfig } from "next";

const config: NextConfig = {
  poweredByHeader: false,
  reactStrictMode: true,
  devIndicators: false,
  // The server and the browser share a machine: packing what never leaves it costs both of them more than it saves.
  compress: false,
  // Types are checked by `npm test` (tsc over everything); a builder who only wants the demo need not wait for it.
  typescript: { ignoreBuildErrors: true },
  experimental: { turbopackMinify: false },
  serverExternalPackages: ["better-sqlite3"],
};

export default config;
