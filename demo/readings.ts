import { analyse } from "@/core/analysis/analyse";
import { SimulatedBench } from "@/core/bringup/bench";
import { singleFaults } from "@/core/bringup/faults";
import { basisOf, expectedOf } from "@/core/bringup/judge";
import type { Reading, Waiver } from "@/core/bringup/log";
import { bringUpOf } from "@/core/bringup/plan";
import type { Step } from "@/core/bringup/types";
import type { Machine } from "@/core/machine/schema";

/** What was wrong in the invented machine: the 5 V converter's trimmer was never set. */
const FAULT = { id: "set buck-5", size: 1.06 };

/**
 * An invented log for the demo: a bench builds the machine with one fault in it, and its builder went through the stage without
 * power and came as far as the rail that is wrong.
 * @param now when the last reading was taken
 */
export function demoLog(machine: Machine, now: Date): { readings: Reading[]; waivers: Waiver[] } {
  const { figures } = analyse(machine);
  const fault = singleFaults(figures).find(({ id }) => id === FAULT.id);
  const bench = new SimulatedBench(figures, SEED, fault ? { fault, size: FAULT.size } : null);
  const [inspect, tree] = bringUpOf(figures).stages;
  const wrong = tree?.steps.findIndex(({ id }) => id === "tree:tree rail buck-5") ?? 0;
  const steps = [...(inspect?.steps ?? []), ...(tree?.steps.slice(0, wrong + 1) ?? [])];
  const readings = steps.map((step, i): Reading => {
    const value = step.at ? bench.read(step.at, step.instrument) : lookedAt(step);
    return {
      queueId: `demo-reading-${String(i).padStart(4, "0")}`,
      step: step.id,
      stage: step.stage,
      place: `${step.title} (${step.places.map(({ at }) => at).join(" to ")})`.slice(0, 300),
      quantity: step.quantity,
      value,
      instrument: step.instrument,
      uncertainty: null,
      takenAt: new Date(now.getTime() - (steps.length - i) * EVERY_MS).toISOString(),
      note: "",
      way: step.at ? "bench" : "typed",
      expected: expectedOf(step.expect),
      basis: basisOf(figures, step),
      struck: false,
    };
  });
  return { readings, waivers: [] };
}

/** What somebody sees where all is as it should be. */
function lookedAt({ expect }: Step): number | null {
  if (expect.kind === "yes") return 1;
  if (expect.kind === "least") return expect.open ? null : expect.limit * 1.2;
  return expect.kind === "exact" ? expect.value : 0;
}

/** Between two readings, ms; the bench's seed. */
const EVERY_MS = 40_000;
const SEED = 11;
