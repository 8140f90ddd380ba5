import { leastInput } from "../converters/window";
import type { Figures } from "../figures/figures";
import { missionFigures, missionOf } from "../loads/mission";
import { goesOn } from "../machine/lasting";
import type { Part } from "../machine/schema";
import { isConsumer } from "../machine/terminals";
import { type Rail, railOrigin } from "../machine/tree";

/** A part that sets an end of the window of volts a rail must stay in. */
export interface WindowEnd {
  readonly volts: number;
  readonly part: string;
}

/** What a rail asks of whatever feeds it. */
export interface RailDemand {
  readonly rail: Rail;
  readonly name: string;
  /** Largest current that goes on continuously, A, and its mode. */
  readonly continuousA: number;
  readonly continuousMode: number;
  readonly peakA: number;
  readonly peakMode: number;
  /** How long the peak lasts, s; null: continuously. */
  readonly peakS: number | null;
  /** Over the mission; null without one. */
  readonly rmsA: number | null;
  readonly meanA: number | null;
  /** Least and most volts that everything on the rail accepts. */
  readonly least: WindowEnd | null;
  readonly most: WindowEnd | null;
  /** Some load has no figure in that mode, or in any: it is the least it can be. */
  readonly continuousAtLeast: boolean;
  readonly peakAtLeast: boolean;
}

/** Least volts a part works with, V; null where it does not say. */
function leastVolts(part: Part): number | null {
  if (part.kind === "converter") return leastInput(part);
  return part.kind === "load" || part.kind === "driver" ? (part.inputMinV?.value ?? null) : null;
}

/** Parts that hang straight on the rail of a source or converter and draw from it. */
export function takersOf(figures: Figures, origin: string): Part[] {
  return figures.machine.parts.filter((part) => isConsumer(part) && railOrigin(figures.ledger, part.id) === origin);
}

/** What a rail asks of whatever feeds it. */
export function railDemand(figures: Figures, rail: Rail): RailDemand {
  const part = figures.parts[rail.origin];
  const given = part?.outA ?? part?.amps ?? new Float64Array(figures.modes.length);
  const plan = missionOf(figures.machine);
  const worst = part?.worstOut ?? { amps: 0, mode: 0, low: false };
  let continuousA = 0;
  let continuousMode = 0;
  figures.machine.modes.forEach((mode, m) => {
    if (!goesOn(mode) || (given[m] ?? 0) <= continuousA) return;
    continuousA = given[m] ?? 0;
    continuousMode = m;
  });
  const mission = plan && plan.steps.length > 0 ? missionFigures(plan, given, null, 1) : null;
  let least: WindowEnd | null = null;
  let most: WindowEnd | null = null;
  for (const taker of takersOf(figures, rail.origin)) {
    const low = leastVolts(taker);
    if (low !== null && low > (least?.volts ?? 0)) least = { volts: low, part: taker.name };
    const high = "inputMaxV" in taker ? taker.inputMaxV?.value : undefined;
    if (high !== undefined && high < (most?.volts ?? Number.POSITIVE_INFINITY)) most = { volts: high, part: taker.name };
  }
  return {
    rail,
    name: figures.partOf.get(rail.origin)?.name ?? rail.tag,
    continuousA,
    continuousMode,
    peakA: worst.amps,
    peakMode: worst.mode,
    peakS: figures.machine.modes[worst.mode]?.lastsS ?? null,
    rmsA: mission?.rmsA ?? null,
    meanA: mission?.meanA ?? null,
    least,
    most,
    continuousAtLeast: !part || part.atLeast[continuousMode] === 1,
    peakAtLeast: part?.worstAtLeast ?? true,
  };
}
