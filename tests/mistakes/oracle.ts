import { analyseFully } from "@/core/analysis/fully";
import type { Figures } from "@/core/figures/figures";
import { applyCommand } from "@/core/machine/apply";
import type { Command } from "@/core/machine/commands";
import type { Load, Machine, Part, Wire } from "@/core/machine/schema";
import type { Severity, Verdict } from "@/core/verdicts/types";
import { afterC, INSULATION_C, settlesC } from "../support/physics";

/** One realistic mistake put into a machine that was in order, and the least that must be said of it. */
export interface Mistake {
  kind: string;
  place: string;
  machine: Machine;
  least: Severity;
  /** The most it deserves, where saying more would cry wolf. */
  most?: Severity;
}

/** What a mistake is made in: the machine as it was, with its currents solved. */
export interface Sound {
  machine: Machine;
  figures: Figures;
  verdicts: readonly Verdict[];
}

export function sound(machine: Machine): Sound {
  const { figures, analysis } = analyseFully(machine);
  return { machine, figures, verdicts: analysis.verdicts };
}

/** The machine after an edit; null where the edit does not fit, as a screen would refuse it. */
export function edited(machine: Machine, command: Command): Machine | null {
  const result = applyCommand(machine, command);
  return result.ok ? result.machine : null;
}

const lasting = (machine: Machine, m: number) => {
  const seconds = machine.modes[m]?.lastsS ?? null;
  return seconds === null || seconds >= 600;
};

/** Largest current of a wire in modes that go on, A (the network is checked against ngspice elsewhere). */
export function lastingA({ machine, figures }: Sound, wire: Wire): number {
  return largest(figures, wire, (m) => lasting(machine, m));
}

export function anyA({ figures }: Sound, wire: Wire): number {
  return largest(figures, wire, () => true);
}

function largest({ machine, solved }: Figures, wire: Wire, counts: (m: number) => boolean): number {
  const branch = machine.wires.indexOf(machine.wires.find(({ id }) => id === wire.id) as Wire);
  let amps = 0;
  machine.modes.forEach((_, m) => {
    if (!counts(m)) return;
    for (const points of [solved.planned, solved.low]) amps = Math.max(amps, Math.abs(points[m]?.branchA[branch] ?? 0));
  });
  return amps;
}

/** Largest current of a part in modes that go on, A. */
export function partLastingA({ machine, figures }: Sound, part: Part): number {
  const figure = figures.parts[part.id];
  return Math.max(0, ...machine.modes.map((_, m) => (lasting(machine, m) ? Math.abs((figure?.outA ?? figure?.amps)?.[m] ?? 0) : 0)));
}

/** Smallest fuse or limit on the way from a source to a wire, A, by the wires of the plan alone; infinite: nothing. */
export function guardA(machine: Machine, wire: Wire): number {
  const parts = new Map(machine.parts.map((part) => [part.id, part]));
  const seen = new Set<string>();
  let limit = Number.POSITIVE_INFINITY;
  const into = (id: string) =>
    machine.wires.find(
      ({ role, to }) =>
        (role === "supply" || role === "phase") && to.part === id && !/^(5v|c\+)$/.test(to.terminal) && !to.terminal.endsWith("-"),
    );
  const feed = wire.pair === undefined ? wire : (machine.wires.find(({ id }) => id === wire.pair) ?? wire);
  for (let at: Wire | undefined = feed; at && !seen.has(at.id); ) {
    seen.add(at.id);
    if (at.fuse) limit = Math.min(limit, at.fuse.ratingA);
    const from: Part | undefined = parts.get(at.from.part);
    if (from?.kind === "fuse") limit = Math.min(limit, from.fuse.ratingA);
    if ((from?.kind === "supply" || from?.kind === "converter") && from.limitA) return Math.min(limit, from.limitA.value);
    if (from?.kind === "pack" || from?.kind === "supply" || from?.kind === "converter") return limit;
    at = from && into(from.id);
  }
  return limit;
}

/** What heat makes of a wire that carries an amount continuously: over what it bears by 20 K it is destroyed. */
export function byHeat(machine: Machine, wire: Wire, amps: number): Severity | null {
  const bears = INSULATION_C[wire.insulation];
  if (!wire.gauge || bears === undefined || !Number.isFinite(amps)) return Number.isFinite(amps) ? null : "stop";
  const { ambientC, boxRiseK = 0, bundle } = machine.settings;
  const airC = ambientC + (wire.surroundings === "box" ? boxRiseK : 0);
  const hot = settlesC(wire.gauge, amps / wire.parallel, airC, wire.bundle ?? bundle);
  // Tables and balances differ by a few kelvin, or a tenth of a large rise: what is that close is no mistake anybody must notice.
  return hot > bears + Math.max(22, 20 + 0.08 * (hot - airC)) ? "stop" : hot > bears + 3 ? "fix" : null;
}

/** The same after a mode's seconds, from cold. */
export function byBriefHeat(s: Sound, wire: Wire): Severity | null {
  const { machine, figures } = s;
  const bears = INSULATION_C[wire.insulation];
  const branch = figures.machine.wires.findIndex(({ id }) => id === wire.id);
  if (!wire.gauge || bears === undefined) return null;
  let worst: Severity | null = null;
  machine.modes.forEach(({ lastsS }, m) => {
    if (lastsS === null || lasting(machine, m)) return;
    const amps = Math.abs(figures.solved.planned[m]?.branchA[branch] ?? 0) / wire.parallel;
    const hot = afterC(wire.gauge as string, amps, machine.settings.ambientC, wire.bundle ?? machine.settings.bundle, lastsS);
    if (hot > bears + 3) worst = "fix";
  });
  return worst;
}

const RANK: Readonly<Record<Severity, number>> = { stop: 0, fix: 1, watch: 2, ask: 3 };

/** The worse of several. */
export function worse(...list: (Severity | null)[]): Severity | null {
  return list.reduce<Severity | null>((a, b) => (b !== null && (a === null || RANK[b] < RANK[a]) ? b : a), null);
}

/** Verdicts of a changed machine that the sound one did not have, or had milder. */
export function newVerdicts(before: readonly Verdict[], after: readonly Verdict[]): Verdict[] {
  const known = new Map(before.map(({ id, severity }) => [id, severity]));
  return after.filter(({ id, severity }) => {
    const was = known.get(id);
    return was === undefined || RANK[severity] < RANK[was];
  });
}

/** Whether what is new is as bad as it must be, and not worse than it may be. An Ask is no lesser Fix: what is asked must be asked. */
export function noticed(mistake: Pick<Mistake, "least" | "most">, found: readonly Verdict[]): "right" | "too mild" | "missed" | "shouts" {
  if (found.length === 0) return "missed";
  const { least, most } = mistake;
  const enough = found.some(({ severity }) => (least === "ask" ? severity === "ask" : severity !== "ask" && RANK[severity] <= RANK[least]));
  if (!enough) return "too mild";
  return most && found.some(({ severity }) => RANK[severity] < RANK[most]) ? "shouts" : "right";
}

export const loadsOf = (machine: Machine): Load[] => machine.parts.filter((part): part is Load => part.kind === "load");
