// npm start: the user's own database, at NODE_LEDGER_DB or data/node-ledger.db.
import { resolve } from "node:path";
import { prepare, serve } from "./setup.mjs";

await prepare();
await serve(resolve(process.env.NODE_LEDGER_DB ?? "data/node-ledger.db"));
