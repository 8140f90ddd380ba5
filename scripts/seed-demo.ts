import { EXAMPLES } from "@/demo/index";
import { demoLog } from "@/demo/readings";
import { demoShelf } from "@/demo/shelf";
import { openDatabase } from "@/server/database";
import { createMachine, machineNames } from "@/server/machines";
import { keepReadings } from "@/server/readings";
import { putAllOnShelf } from "@/server/shelf";

/** Puts the example machines into a demo database, once: edits made in the demo are kept between starts. */
const [path] = process.argv.slice(2);
if (!path) throw new Error("usage: seed-demo PATH");
const db = openDatabase(path);
if (machineNames(db).length === 0) {
  for (const { key, make } of EXAMPLES) {
    const { id, document } = createMachine(db, make(), "Example");
    // One of them is on the bench already, with something to find.
    if (key === "reedcutter-corrected") keepReadings(db, id, demoLog(document, new Date()));
  }
  putAllOnShelf(db, demoShelf());
  console.log(`${EXAMPLES.length} example machines in ${path}`);
}
db.close();
