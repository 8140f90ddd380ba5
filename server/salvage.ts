import { randomUUID } from "node:crypto";
import { type Reading, readingSchema, type Waiver, waiverSchema } from "@/core/bringup/log";
import { readMachineText } from "@/core/machine/read";
import { type Machine, stockSchema } from "@/core/machine/schema";
import { entriesOf, entryOf, type ShelfItem, shelfItemSchema, shelfPartSchema } from "@/core/machine/shelf";
import { textOf } from "./history";
import { type Cell, rowsOf } from "./sqlite-pages";

/** A revision found in a damaged file, as it is stored there. */
export interface FoundRevision {
  readonly id: string;
  readonly revision: number;
  readonly label: string;
  readonly origin: string | null;
  readonly lines: string | null;
  readonly at: string;
  readonly document: string | Buffer;
}

/** A machine found in a damaged file. */
export interface Found {
  readonly id: string;
  readonly revision: number;
  readonly machine: Machine;
  /** When it was made, changed, and taken off the list, as far as its own row tells; only revisions of it: nothing is known. */
  readonly createdAt: string | null;
  readonly updatedAt: string | null;
  readonly deletedAt: string | null;
}

/** Everything that could be read out of a file. */
export interface Salvaged {
  readonly machines: readonly Found[];
  readonly revisions: readonly FoundRevision[];
  readonly shelf: readonly ShelfItem[];
  readonly readings: readonly FoundReading[];
  readonly waivers: readonly FoundWaiver[];
}

/** What was read at a machine, and what was left with a reason, as found in a damaged file. */
export interface FoundReading {
  readonly id: string;
  readonly reading: Reading;
}
export interface FoundWaiver {
  readonly id: string;
  readonly waiver: Waiver;
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/;
const TIME = /^\d{4}-\d\d-\d\dT/;

const isText = (cell: Cell | undefined): cell is string => typeof cell === "string";

function parsed(text: string): unknown {
  try {
    return JSON.parse(text);
  } catch {
    return null;
  }
}

/** The document among the cells of a row: text that begins like one, or bytes that unpack to it. */
function documentIn(row: readonly Cell[]): string | Buffer | undefined {
  return row.find((cell): cell is string | Buffer => (isText(cell) ? cell.startsWith("{") : cell instanceof Buffer));
}

/** A row as one of a revision, by whichever version of the schema it was written: its number stands second. */
function revisionIn(row: readonly Cell[]): FoundRevision | null {
  const [id, revision, label] = row;
  const document = documentIn(row);
  if (!isText(id) || typeof revision !== "number" || !isText(label) || document === undefined) return null;
  const [origin = null, lines = null] = row.length === 7 ? [row[3], row[4]] : [];
  const at = row.slice(3).find((cell): cell is string => isText(cell) && TIME.test(cell));
  return {
    id,
    revision,
    label,
    origin: isText(origin) ? origin : null,
    lines: isText(lines) ? lines : null,
    at: at ?? new Date(0).toISOString(),
    document,
  };
}

/** A row as one of a machine: its name stands second, its number somewhere after. */
function machineIn(row: readonly Cell[]): Found | null {
  const [id, name] = row;
  const document = documentIn(row);
  const revision = row.find((cell): cell is number => typeof cell === "number" && cell > 0);
  if (!isText(id) || !isText(name) || !isText(document) || revision === undefined) return null;
  const read = readMachineText(document);
  const [createdAt = null, updatedAt = null, deletedAt = null] = row.filter((cell): cell is string => isText(cell) && TIME.test(cell));
  return read.ok ? { id, revision, machine: read.machine, createdAt, updatedAt, deletedAt } : null;
}

/** A thing on the shelf: id, sort, name, times, document; before version 7 a part with its document in the fourth place. */
function shelfItemIn(row: readonly Cell[]): ShelfItem | null {
  const [id, , , before] = row;
  const document = row.at(-1);
  const item = isText(document) ? parsed(document) : null;
  const read = typeof item === "object" ? shelfItemSchema.safeParse({ id, ...item }).data : undefined;
  if (read) return read;
  const part = isText(before) ? shelfPartSchema.safeParse(parsed(before)).data : undefined;
  return part && isText(id) ? { id, ...entryOf(part) } : null;
}

/** A row as a reading, by the order of its table. */
function readingIn(row: readonly Cell[]): FoundReading | null {
  const [id, queueId, , stage, step, place, quantity, value, , instrument, uncertainty, expected, basis, takenAt, note, way, struck] = row;
  if (row.length !== 17 || !isText(id)) return null;
  const reading = {
    queueId,
    stage,
    step,
    place,
    quantity,
    value,
    instrument,
    uncertainty,
    expected,
    basis,
    takenAt,
    note,
    way,
    struck: struck === 1,
  };
  const read = readingSchema.safeParse(reading);
  return read.success ? { id, reading: read.data } : null;
}

/** A row as a waiver. */
function waiverIn(row: readonly Cell[]): FoundWaiver | null {
  const [id, queueId, stage, step, reason, at, ended] = row;
  if (row.length !== 7 || !isText(id)) return null;
  const read = waiverSchema.safeParse({ queueId, stage, step, reason, at, ended: ended === 1 });
  return read.success ? { id, waiver: read.data } : null;
}

/**
 * All machines, revisions, readings and shelf parts in a file that can still be read, each machine in the newest version found, whatever
 * else of the file is damaged. The file is only read. Pages that were given up hold older versions: those of a machine that is
 * there twice count by revision.
 */
export function salvage(path: string): Salvaged {
  const machines = new Map<string, Found>();
  const revisions = new Map<string, FoundRevision>();
  const shelf = new Map<string, ShelfItem>();
  const readings = new Map<string, FoundReading>();
  const waivers = new Map<string, FoundWaiver>();
  for (const row of rowsOf(path)) {
    const [id] = row;
    // Before version 7 there was one list of sizes, fuses and connectors.
    if (id === null && row.length === 2 && isText(row[1]))
      for (const entry of entriesOf(stockSchema.safeParse(parsed(row[1])).data ?? {}))
        shelf.set(JSON.stringify(entry.thing), { id: randomUUID(), ...entry });
    if (!isText(id) || !UUID.test(id)) continue;
    const reading = readingIn(row);
    if (reading) readings.set(`${id} ${reading.reading.queueId}`, reading);
    const waiver = waiverIn(row);
    if (waiver) waivers.set(`${id} ${waiver.waiver.queueId}`, waiver);
    if (reading || waiver) continue;
    const revision = revisionIn(row);
    if (revision) {
      revisions.set(`${id} ${revision.revision}`, revision);
      continue;
    }
    const machine = machineIn(row);
    if (machine && (machines.get(id)?.revision ?? 0) <= machine.revision) machines.set(id, machine);
    const item = machine ? null : shelfItemIn(row);
    if (item) shelf.set(id, item);
  }
  // Where the row of a machine is lost, or older than its newest revision, that revision is the machine.
  for (const { id, revision, document } of revisions.values()) {
    const known = machines.get(id);
    if (known && known.revision >= revision) continue;
    const read = readMachineText(textOf(document));
    const times = known ?? { createdAt: null, updatedAt: null, deletedAt: null };
    if (read.ok) machines.set(id, { ...times, id, revision, machine: read.machine });
  }
  return {
    machines: [...machines.values()].sort((a, b) => (a.createdAt ?? "").localeCompare(b.createdAt ?? "")),
    revisions: [...revisions.values()],
    shelf: [...shelf.values()],
    readings: [...readings.values()],
    waivers: [...waivers.values()],
  };
}
