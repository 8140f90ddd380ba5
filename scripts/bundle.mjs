// The server's own programs, beside the pages that Next builds: what answers requests, and the thread that works things out.
import { build } from "esbuild";
import { rulesVersion } from "./rules-version.mjs";

await build({
  entryPoints: { main: "server/main.ts", "analysis.worker": "server/analysis.worker.ts" },
  outdir: ".next/node-ledger",
  outExtension: { ".js": ".mjs" },
  bundle: true,
  platform: "node",
  target: "node20",
  format: "esm",
  packages: "external",
  tsconfig: "tsconfig.json",
  logLevel: "warning",
  define: { "process.env.LEDGER_RULES": JSON.stringify(rulesVersion()) },
});
