import { checkWhole } from "./background";
import { backUpDaily, noteCount } from "./backups";
import { database } from "./database";
import { thin } from "./thinning";

const FIRST_MS = 20_000;
const EVERY_MS = 3_600_000;

/** What is done beside the work: a backup a day, thinning, a look through the whole file. Each for itself: one that fails stops no other. */
export async function upkeep(now = new Date()): Promise<void> {
  const db = database();
  await backUpDaily(db, now).catch(() => false);
  try {
    await thin(db, now);
    noteCount(db);
  } catch {
    // A file that is in use or cannot be written is thinned the next time.
  }
  checkWhole(db);
}

const holder = globalThis as typeof globalThis & { nodeLedgerUpkeep?: NodeJS.Timeout };

/** Begins the upkeep of this process, a while after its start and then every hour. */
export function beginUpkeep(): void {
  if (holder.nodeLedgerUpkeep) return;
  const run = () => void upkeep().catch(() => undefined);
  setTimeout(run, FIRST_MS).unref();
  holder.nodeLedgerUpkeep = setInterval(run, EVERY_MS);
  holder.nodeLedgerUpkeep.unref();
}
