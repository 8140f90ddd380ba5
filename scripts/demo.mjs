// npm run demo: everything from nothing to the three example machines in a browser, in a database of their own.
import { resolve } from "node:path";
import { prepare, run, serve } from "./setup.mjs";

const database = resolve(process.env.NODE_LEDGER_DEMO_DB ?? "data/demo.db");
await prepare();
if (run("node_modules/.bin/tsx", ["scripts/seed-demo.ts", database]) !== 0) process.exit(1);
await serve(database);
