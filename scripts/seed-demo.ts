import { EXAMPLES } from "@/demo/index";
import { openDatabase } from "@/server/database";
import { createMachine, machineNames } from "@/server/machines";

/** Puts the example machines into a demo database, once: edits made in the demo are kept between starts. */
const [path] = process.argv.slice(2);
if (!path) throw new Error("usage: seed-demo PATH");
const db = openDatabase(path);
if (machineNames(db).length === 0) {
  for (const { make } of EXAMPLES) createMachine(db, make(), "Example");
  console.log(`${EXAMPLES.length} example machines in ${path}`);
}
db.close();
