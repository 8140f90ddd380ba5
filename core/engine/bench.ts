import { figuresOf } from "../analysis/analyse";
import { evenly, type Hidden, SimulatedBench } from "../bringup/bench";
import { singleFaults, tellingSize } from "../bringup/faults";
import { bringUpOf } from "../bringup/plan";
import { BenchSession } from "../bringup/protocol";
import type { Situation } from "../bringup/situation";
import type { Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";

/** A simulated bench with a machine on it, what may be said to it line by line, and what is hidden in it. */
export interface OpenBench {
  readonly session: BenchSession;
  readonly bench: SimulatedBench;
  readonly hidden: Hidden | null;
}

/**
 * Builds a machine from a plan on a simulated bench.
 * @param seed the same seed builds the same machine, meters and, with `drill`, the same hidden fault
 */
export function openBench(machine: Machine, seed: number, drill: boolean): OpenBench {
  const figures = figuresOf(machine, new TopologyCache());
  const situations = new Map<string, Situation>();
  for (const stage of bringUpOf(figures).stages)
    for (const { at } of stage.steps) if (at?.kind === "network") situations.set(at.situation.id, at.situation);
  const faults = drill ? singleFaults(figures) : [];
  const fault = faults[Math.floor(evenly(seed, "which fault") * faults.length)];
  const hidden = fault ? { fault, size: tellingSize(figures, fault) } : null;
  const bench = new SimulatedBench(figures, seed, hidden);
  return { bench, hidden, session: new BenchSession(bench, situations) };
}
