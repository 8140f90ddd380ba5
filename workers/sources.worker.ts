import * as Comlink from "comlink";
import { analyse, type FullAnalysis } from "@/core/analysis/analyse";
import { type Unasked, unaskedOf } from "@/core/analysis/unasked";
import { type Comparison, compareArrangements } from "@/core/choosing/central";
import { converterCandidates } from "@/core/choosing/converters";
import { packCandidates, ranked, type SourceCandidate } from "@/core/choosing/packs";
import { type Replan, replans } from "@/core/choosing/replan";
import { supplyCandidates } from "@/core/choosing/supplies";
import { type Crossed, crossedFaults } from "@/core/faults/crossed";
import type { FaultWalk } from "@/core/faults/walk";
import type { Machine } from "@/core/machine/schema";
import type { ShelfPart } from "@/core/machine/shelf";
import { compareLayouts, type Layout } from "@/core/returns/arrange";
import { type ChassisFigures, chassisOf, type Slip, slips } from "@/core/returns/chassis";
import { compareLogicSupply, type LogicSupply } from "@/core/returns/logic-supply";
import { type Advice, adviceFor } from "@/core/returns/practice";
import { type SizePlan, sizePlan } from "@/core/sizing/plan";
import type { SizeOptions } from "@/core/sizing/sizing";
import { type BenchRail, benchPlan, type Fitted, fitReading } from "@/core/sources/bench";
import { type RailDemand, railDemand } from "@/core/sources/demand";
import { type SagPicture, sagPicture } from "@/core/sources/sag";
import { evaluateLate, type Late } from "@/core/verdicts/late";
import type { Verdict } from "@/core/verdicts/types";

let last: { machine: Machine; full: FullAnalysis } | null = null;

/** The analysis of a machine, kept for the next question about the same one: each message carries its own copy. */
function analysed(machine: Machine): FullAnalysis {
  if (last && JSON.stringify(last.machine) === JSON.stringify(machine)) return last.full;
  const full = analyse(machine);
  last = { machine, full };
  return full;
}

/** How far a weighing is. The screen answers false to stop it. */
export type Progress = (done: number, of: number) => Promise<boolean>;

/** Frames with what becomes of a plus that touches them, and what practice would fit against noise. */
export interface Practice {
  advice: Advice[];
  frames: (ChassisFigures & { slips: Slip[] })[];
}

/** Between two looks at whether anybody still waits, ms. */
const LOOK_MS = 40;

/** Questions about sources that take longer than a frame. */
const service = {
  late(machine: Machine): Late {
    const { figures, analysis } = analysed(machine);
    return evaluateLate(figures, analysis.verdicts);
  },
  /** What of all that is asked, late verdicts among it, need not be. */
  unasked: (machine: Machine, late: readonly Verdict[]): Unasked | null => unaskedOf(machine, analysed(machine).analysis.verdicts, late),
  sag: (machine: Machine, packId: string): SagPicture | null => sagPicture(machine, packId),
  demands(machine: Machine): RailDemand[] {
    const { figures } = analysed(machine);
    return figures.ledger.rails.map((rail) => railDemand(figures, rail));
  },
  crossed(machine: Machine, walk: FaultWalk): Crossed {
    return crossedFaults(analysed(machine).figures, walk);
  },
  /** What sizing would change, line by line; null when stopped under way. */
  async size(machine: Machine, options: SizeOptions, progress: Progress): Promise<SizePlan | null> {
    const steps = sizePlan(machine, options);
    for (let step = steps.next(); ; step = steps.next()) {
      if (step.done) return step.value;
      if (!(await progress(step.value.done, step.value.of))) return null;
    }
  },
  layouts: (machine: Machine): Layout[] => compareLayouts(analysed(machine).figures),
  logicSupply: (machine: Machine): LogicSupply[] | null => compareLogicSupply(analysed(machine).figures),
  practice(machine: Machine): Practice {
    const { figures } = analysed(machine);
    return {
      advice: adviceFor(figures),
      frames: chassisOf(figures).map((chassis) => ({ ...chassis, slips: slips(figures, chassis.frame) })),
    };
  },
  replans: (machine: Machine): Replan[] | null => replans(analysed(machine).figures),
  arrangements: (machine: Machine, converterId: string): Comparison | null => compareArrangements(analysed(machine).figures, converterId),
  bench: (machine: Machine): BenchRail[] => benchPlan(analysed(machine).figures),
  fit: (machine: Machine, sourceId: string, mode: number, amps: number): Fitted =>
    fitReading(analysed(machine).figures, sourceId, mode, amps),
  /** What could feed a rail, ranked; null when stopped under way. */
  async candidates(
    machine: Machine,
    origin: string,
    shelf: readonly { id: string; part: ShelfPart }[],
    progress: Progress,
  ): Promise<SourceCandidate[] | null> {
    const { figures } = analysed(machine);
    const kind = figures.partOf.get(origin)?.kind;
    if (kind === "converter") return ranked(converterCandidates(figures, origin, shelf));
    if (kind === "supply") return ranked(supplyCandidates(figures, origin, shelf));
    const found: SourceCandidate[] = [];
    let looked = performance.now();
    for (const { done, of, candidate } of packCandidates(figures, origin, shelf)) {
      found.push(candidate);
      if (performance.now() - looked < LOOK_MS) continue;
      if (!(await progress(done, of))) return null;
      looked = performance.now();
    }
    return ranked(found);
  },
};

export type SourcesService = typeof service;

Comlink.expose(service);
