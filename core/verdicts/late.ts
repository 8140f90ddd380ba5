import { type FaultWalk, faultWalk } from "../faults/walk";
import type { Figures } from "../figures/figures";
import type { Machine } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { packModel } from "../packs/pack";
import { type LooseReturn, looseReturns } from "../returns/loose";
import { type RunTimes, runTimes } from "../sources/run";
import { dischargeOf } from "../sources/sag";
import type { LateReadings } from "./rule";
import { evaluateDischarge, evaluatePackBound, evaluateReadings, evaluateShorts } from "./rules";
import type { Verdict } from "./types";

/** Verdicts that take longer than a keystroke: they integrate a discharge or solve the machine again as it will be. */
export interface Late {
  readonly times: RunTimes;
  /** Shorts at every place; null where the machine has none to walk. */
  readonly faults: FaultWalk | null;
  /** For every part that talks: its return comes loose. */
  readonly loose: readonly LooseReturn[];
  readonly verdicts: Verdict[];
}

/**
 * What is late of a machine that cannot be run down and has no wish for it: known at once, without solving anything. Null
 * where there is something to work out.
 */
export function nothingLate(machine: Machine): Late | null {
  if (machine.settings.wantedRunS !== undefined || canShort(machine)) return null;
  const missing: { id: string; name: string; figures: readonly string[] }[] = [];
  for (const part of machine.parts) {
    if (part.kind !== "pack") continue;
    if (part.chemistry !== undefined) return null;
    const read = packModel(part, machine.settings.ambientC);
    if ("missing" in read) missing.push({ id: part.id, name: part.name, figures: read.missing });
  }
  return { times: { missing, mission: null, alone: [] }, faults: null, loose: [], verdicts: [] };
}

/** A source with a wire on it: there is something to short. */
function canShort(machine: Machine): boolean {
  return machine.wires.length > 0 && machine.parts.some(isSource);
}

/** The walk of shorts over a machine; null where it has none to walk. */
export function walkOf(figures: Figures): FaultWalk | null {
  return canShort(figures.machine) ? faultWalk(figures) : null;
}

/**
 * `now`: what the quick rules said of the same figures; `faults`: its walk of shorts, where that is known already; `grounded`: loose returns only
 * where a signal ground can take their current, which is all that the rules speak of.
 */
export function evaluateLate(figures: Figures, now: readonly Verdict[], faults = walkOf(figures), grounded = false): Late {
  const times = runTimes(figures.machine, dischargeOf(figures.solved.circuit));
  const loose = looseReturns(figures, grounded);
  const ran = evaluateDischarge(figures, times);
  const readings: LateReadings = { loose, now: [...now, ...ran], packBound: evaluatePackBound };
  const shorts = faults ? evaluateShorts(figures, faults) : [];
  return { times, faults, loose, verdicts: [...shorts, ...ran, ...evaluateReadings(figures, readings)] };
}
