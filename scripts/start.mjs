// npm start: the user's own database, at NODE_LEDGER_DB or data/node-ledger.db.
import { resolve } from "node:path";
import { build, install, serve } from "./setup.mjs";

await install();
await build();
await serve(resolve(process.env.NODE_LEDGER_DB ?? "data/node-ledger.db"));
