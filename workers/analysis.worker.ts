import * as Comlink from "comlink";
import { type Account, accountOf } from "@/core/analysis/account";
import { analyse, type FullAnalysis } from "@/core/analysis/analyse";
import { type PackedAnalysis, packAnalysis } from "@/core/analysis/packed";
import { applyDelta, type MachineDelta } from "@/core/machine/delta";
import type { Machine } from "@/core/machine/schema";
import { TopologyCache } from "@/core/network/topology";
import { explain } from "@/core/working/explain";
import type { FigureRef, Working } from "@/core/working/types";

const cache = new TopologyCache();
let machine: Machine | null = null;
let last: FullAnalysis | null = null;

/** What the screen may ask of the core, off its own thread. */
const service = {
  /** Takes what changed since the version sent last. */
  analyse(delta: MachineDelta): PackedAnalysis {
    machine = applyDelta(machine, delta);
    last = null;
    last = analyse(machine, cache);
    const packed = packAnalysis(last.analysis);
    return Comlink.transfer(packed, [packed.doubles.buffer, packed.flags.buffer]);
  },
  explain(ref: FigureRef): Working | null {
    return last ? explain(last.figures, ref) : null;
  },
  account(partId: string, mode: number): Account | null {
    return last ? accountOf(last.figures, partId, mode) : null;
  },
};

export type AnalysisService = typeof service;

Comlink.expose(service);
