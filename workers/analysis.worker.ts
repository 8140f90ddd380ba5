import * as Comlink from "comlink";
import { type PackedAnalysis, packAnalysis } from "@/core/analysis/packed";
import { type Ask, Engine } from "@/core/engine/engine";
import { applyDelta, type MachineDelta } from "@/core/machine/delta";
import type { Machine } from "@/core/machine/schema";

const engine = new Engine();
let machine: Machine | null = null;

/** What the screen may ask of the core, off its own thread. */
export interface AnalysisService {
  /** Takes what changed since the version sent last. */
  analyse: (delta: MachineDelta) => Promise<PackedAnalysis>;
  ask: Ask;
}

const service: AnalysisService = {
  analyse: async (delta) => {
    machine = applyDelta(machine, delta);
    const packed = packAnalysis(engine.analyse(machine));
    return Comlink.transfer(packed, [packed.doubles.buffer, packed.flags.buffer]);
  },
  ask: engine.ask,
};

Comlink.expose(service);
