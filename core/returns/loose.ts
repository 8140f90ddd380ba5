import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import { solveMachine } from "../figures/solved";
import type { Machine, Part, Wire } from "../machine/schema";
import { groundOf, wiresOf } from "./ground";
import { leastLimit } from "./loops";
import { homesOf } from "./shared";

/** A return that came off, and where its current goes then. */
export interface LooseReturn {
  /** The return, and the part it comes from. */
  wire: string;
  part: string;
  /** The conductor that takes most of it, with its worst current, A, and what it may carry; null: no metal is left. */
  into: { wire: string; mode: number; amps: number; limitA: number | null } | null;
  /** Links without a ground wire of their own, through whose pins it would go; only where no metal is left. */
  pins: string[];
  /** With the return in place, A in the same conductor and mode. */
  beforeA: number;
}

/** More than this share of the current must change for a conductor to count as the one that takes it. */
const TAKES_A = 1e-3;

/**
 * For every part that talks: its return comes loose. Either a signal ground or shield takes the current, or nothing does and it
 * looks for a way through signal pins. `grounded`: only parts with a signal ground or shield, which alone can take it. Each
 * case is the whole machine solved again without that conductor.
 */
export function looseReturns(figures: Figures, grounded = false): LooseReturn[] {
  const { machine } = figures;
  const talking = new Set((machine.signals ?? []).flatMap(({ from, to }) => [from, to]));
  const ends = new Set(machine.wires.flatMap(({ role, from, to }) => (role === "signal" ? [from.part, to.part] : [])));
  const homes = homesOf(figures);
  const found: LooseReturn[] = [];
  for (const id of talking) {
    if (grounded && !ends.has(id)) continue;
    const part = figures.partOf.get(id);
    const own = part && homes.of.get(id)?.find((wire) => wire.role === "return" && wire.from.part === id);
    if (part && own) found.push(without(figures, part, own));
  }
  return found.sort((a, b) => over(b) - over(a) || (b.into?.amps ?? 0) - (a.into?.amps ?? 0));
}

/** How far beyond what it may carry the conductor goes that takes the current. */
function over({ into }: LooseReturn): number {
  return into?.limitA ? into.amps / into.limitA : into ? 1 : 0;
}

function without(figures: Figures, part: Part, own: Wire): LooseReturn {
  const machine: Machine = { ...figures.machine, wires: figures.machine.wires.filter(({ id }) => id !== own.id) };
  const solved = solveMachine(machine);
  const before = new Map(figures.machine.wires.map((wire, i) => [wire.id, i]));
  let into: LooseReturn["into"] = null;
  let beforeA = 0;
  let gained = TAKES_A;
  machine.wires.forEach((wire, i) => {
    if (wire.role !== "signal" || (wire.from.part !== part.id && wire.to.part !== part.id)) return;
    machine.modes.forEach((_, m) => {
      for (const [points, was] of [
        [solved.planned, figures.solved.planned],
        [solved.low, figures.solved.low],
      ] as const) {
        const amps = Math.abs(points[m]?.branchA[i] ?? 0);
        const earlier = Math.abs(was[m]?.branchA[before.get(wire.id) as number] ?? 0);
        if (points[m]?.status !== "solved" || amps - earlier <= gained) continue;
        gained = amps - earlier;
        beforeA = earlier;
        into = { wire: wire.id, mode: m, amps, limitA: leastLimit(figures, wire) };
      }
    });
  });
  return { wire: own.id, part: part.id, into, pins: into ? [] : pinsOf(figures, part, own), beforeA };
}

/** Links whose pins are all that is left between a part and the rest once its return is off. */
function pinsOf(figures: Build, part: Part, own: Wire): string[] {
  const ground = groundOf(figures);
  const start = ground.nodeOf(part.id);
  const stillJoined = ground.chords.some(
    ({ wire, way }) => wiresOf(figures, way).includes(own) && [wire.from.part, wire.to.part].some((id) => ground.nodeOf(id) === start),
  );
  if (stillJoined) return [];
  return (figures.machine.signals ?? [])
    .filter(({ from, to, kind }) => (from === part.id || to === part.id) && kind !== "opto" && kind !== "isolated supply")
    .map(({ id }) => id);
}
