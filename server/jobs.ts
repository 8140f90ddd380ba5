import Database from "better-sqlite3";
import { analyseFully } from "@/core/analysis/fully";
import { readVerdicts } from "@/core/analysis/readings";
import { EMPTY_LOG } from "@/core/bringup/log";
import { USUAL_KIT } from "@/core/bringup/types";
import { type Differences, differences } from "@/core/exchange/compare";
import { worstOfModes } from "@/core/figures/worst";
import { readMachineText } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import type { MachineOverview, OverviewState } from "@/core/machine/summary";
import { wishedRun } from "@/core/sources/end";
import { openAndDecided } from "@/core/verdicts/decided";
import { askBench, revealed } from "./bench-sessions";
import type { StoredLog } from "./readings";

/** Something that takes long. Documents travel as they are stored. */
export type Job =
  /** With what was read of it. */
  | { kind: "overview"; document: string; log?: StoredLog }
  /** Lines to a simulated bench, which is kept by its session for the next lines. */
  | { kind: "bench"; session: string; document: string; seed: number; drill: boolean; lines: readonly string[] }
  /** What was hidden in a session's machine. */
  | { kind: "reveal"; session: string }
  | { kind: "compare"; a: string; b: string }
  /** Looks through the whole file, indexes and all. */
  | { kind: "check"; path: string };

/** What came of it. */
export type JobAnswer =
  | { kind: "overview"; overview: OverviewState }
  /** A line a query; null where the machine cannot be read or its analysis breaks off. */
  | { kind: "bench"; answers: readonly (string | null)[] | null }
  | { kind: "reveal"; fault: { id: string; words: string; size: string } | null }
  /** Null where one of the two cannot be read or its analysis breaks off. */
  | { kind: "compare"; differences: Differences | null }
  /** The first thing that is wrong; null: nothing. */
  | { kind: "check"; wrong: string | null };

function overviewOf(machine: Machine, { log, kit }: Pick<StoredLog, "log" | "kit">): MachineOverview {
  const { figures, analysis } = analyseFully(machine);
  const verdicts = [...analysis.verdicts, ...readVerdicts(figures, log, kit)];
  const { open, decided } = openAndDecided(verdicts);
  const count = (severity: string) => open.filter((verdict) => verdict.severity === severity).length;
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
    accepted: decided.length,
  };
}

/** Works out what the list says of a stored document. Where its analysis breaks off nothing is said of it. */
function workOut(document: string, log: Pick<StoredLog, "log" | "kit"> = { log: EMPTY_LOG, kit: USUAL_KIT }): OverviewState {
  const read = readMachineText(document);
  if (!read.ok) return { kind: "unreadable" };
  try {
    return { kind: "known", ...overviewOf(read.machine, log) };
  } catch {
    return { kind: "broken" };
  }
}

function compared(a: string, b: string): Differences | null {
  const [before, after] = [readMachineText(a), readMachineText(b)];
  if (!before.ok || !after.ok) return null;
  const look = (machine: Machine) => {
    const full = analyseFully(machine);
    const run = wishedRun(full.late.times)?.run;
    return { machine, full, run: run && run.end.cause !== "endless" ? { value: run.end.seconds, bound: run.atMost } : null };
  };
  try {
    return differences(look(before.machine), look(after.machine));
  } catch {
    return null;
  }
}

function wrongIn(path: string): string | null {
  try {
    const db = new Database(path, { readonly: true, fileMustExist: true });
    try {
      const [first] = db.pragma("integrity_check(1)") as { integrity_check: string }[];
      return first?.integrity_check === "ok" ? null : (first?.integrity_check ?? "no answer");
    } finally {
      db.close();
    }
  } catch (error) {
    // A file that is in use or out of reach is found out elsewhere.
    if (error instanceof Database.SqliteError && /^SQLITE_(CORRUPT|NOTADB)/.test(error.code)) return error.message;
    return null;
  }
}

/** Does a job; what breaks off is answered as such. */
export async function answerJob(job: Job): Promise<JobAnswer> {
  switch (job.kind) {
    case "overview":
      return { kind: "overview", overview: workOut(job.document, job.log) };
    case "compare":
      return { kind: "compare", differences: compared(job.a, job.b) };
    case "check":
      return { kind: "check", wrong: wrongIn(job.path) };
    case "bench":
      return { kind: "bench", answers: askBench(job) };
    case "reveal":
      return { kind: "reveal", fault: revealed(job.session) };
  }
}
