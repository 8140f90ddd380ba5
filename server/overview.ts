import { analyseFully } from "@/core/analysis/analyse";
import { worstOfModes } from "@/core/figures/worst";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import type { MachineOverview } from "@/core/machine/summary";
import type { Db } from "./database";

function overviewOf(machine: Machine): MachineOverview {
  const { analysis } = analyseFully(machine);
  const count = (severity: string) => analysis.verdicts.filter((verdict) => verdict.severity === severity).length;
  const source = machine.parts.find((part) => part.kind === "pack" || part.kind === "supply");
  const mainV = source?.kind === "pack" ? source.openCircuitV.value : source?.kind === "supply" ? source.outputV.value : null;
  const worst = worstOfModes(analysis.modes);
  return {
    parts: machine.parts.length,
    mainV,
    worstA: source ? worst.amps : null,
    worstAtLeast: worst.atLeast,
    stops: count("stop"),
    fixes: count("fix"),
    watches: count("watch"),
    asks: count("ask"),
  };
}

/** Null where the document is none this version can read, or its analysis breaks off: nothing is then said of it. */
function readOverview(document: string): MachineOverview | null {
  try {
    const read = readMachine(JSON.parse(document));
    return read.ok ? overviewOf(read.machine) : null;
  } catch {
    return null;
  }
}

/** By machine, what was worked out of which revision; gone with the process, so that no verdict outlives the rules that gave it. */
const known = new WeakMap<Db, Map<string, { revision: number; overview: MachineOverview | null }>>();

/** What the list says of a stored machine: worked out when the list is opened, so that a save computes nothing. */
export function storedOverview(db: Db, id: string, revision: number): MachineOverview | null {
  const all = known.get(db) ?? new Map();
  known.set(db, all);
  const before = all.get(id);
  if (before?.revision === revision) return before.overview;
  const row = db.prepare<[string], { document: string }>("SELECT document FROM machine WHERE id = ?").get(id);
  const overview = row ? readOverview(row.document) : null;
  all.set(id, { revision, overview });
  return overview;
}
