import * as Comlink from "comlink";
import { type PackedAnalysis, packAnalysis } from "@/core/analysis/packed";
import { Engine } from "@/core/engine/engine";
import type { FaultWalk } from "@/core/faults/walk";
import { applyDelta, type MachineDelta } from "@/core/machine/delta";
import type { Driver, Machine } from "@/core/machine/schema";
import type { FigureRef } from "@/core/working/types";

const engine = new Engine();
let machine: Machine | null = null;

/** What the screen may ask of the core, off its own thread. */
const service = {
  /** Takes what changed since the version sent last. */
  analyse(delta: MachineDelta): PackedAnalysis {
    machine = applyDelta(machine, delta);
    const packed = packAnalysis(engine.analyse(machine));
    return Comlink.transfer(packed, [packed.doubles.buffer, packed.flags.buffer]);
  },
  explain: (ref: FigureRef) => engine.explain(ref),
  account: (partId: string, mode: number) => engine.account(partId, mode),
  channels: (driverId: string) => engine.channels(driverId),
  candidates: (loadId: string, shelf: readonly Driver[]) => engine.candidates(loadId, shelf),
  schools: () => engine.schools(),
  ladder: (wireId: string, walk: FaultWalk | null) => engine.ladder(wireId, walk),
  picture: (of: { kind: "wire" | "part"; id: string }, walk: FaultWalk | null) => engine.picture(of, walk),
  contacts: () => engine.contacts(),
  returns: () => engine.returns(),
};

export type AnalysisService = typeof service;

Comlink.expose(service);
