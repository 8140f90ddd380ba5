import type { NextConfig } from "next";
import { rulesVersion } from "./scripts/rules-version.mjs";

const config: NextConfig = {
  poweredByHeader: false,
  env: process.env.NODE_ENV === "production" ? { LEDGER_RULES: rulesVersion() } : {},
  reactStrictMode: true,
  devIndicators: false,
  // Types are checked by `npm test` (tsc over everything); a builder who only wants the demo need not wait for it.
  typescript: { ignoreBuildErrors: true },
  experimental: { turbopackMinify: false },
  // Between a server and a browser on one machine, packing costs more than it saves; what leaves the machine is packed.
  compress: Boolean(process.env.NODE_LEDGER_BIND),
  serverExternalPackages: ["better-sqlite3"],
};

export default config;
