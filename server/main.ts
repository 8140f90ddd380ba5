import next from "next";
import { frontServer } from "./front";
import { beginUpkeep } from "./upkeep";

/** Starts the built application: `node main.mjs HOST PORT`. */
const [host = "127.0.0.1", port = "4830"] = process.argv.slice(2);
const app = next({ dev: false, dir: process.cwd(), hostname: host, port: Number(port) });
await app.prepare();
const handle = app.getRequestHandler();
frontServer((request, response) => handle(request, response)).listen(Number(port), host, beginUpkeep);
