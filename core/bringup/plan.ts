import type { Figures } from "../figures/figures";
import { oncePer } from "../machine/once";
import { sourcesOf } from "./situation";
import { driversStage, freeStage, logicStage, signalsStage, singleStage, treeStage } from "./stages/bench";
import { inspectStage } from "./stages/inspect";
import { sourceStage, stopStage } from "./stages/stop";
import { loadedStage, modeOn, soakStage, workingModes } from "./stages/work";
import { type Maker, makerOf } from "./steps";
import { type BringUp, type Kit, type Stage, USUAL_KIT } from "./types";

/** Whether the bench supply at hand can stand in for the machine's own source under load. */
function benchCarries(maker: Maker): boolean {
  const { kit } = maker;
  const sources = sourcesOf(maker.figures.machine);
  return workingModes(maker).every((mode) => {
    const { built, point } = maker.stand(modeOn(maker, mode, false));
    return built.circuit.emfs.every(
      (emf, i) => emf.converter >= 0 || (emf.volts <= kit.supplyV && (point.emfA[i] as number) <= kit.supplyA / sources.length),
    );
  });
}

/**
 * The stages of a first power-up of a machine, in order. Where the bench supply at hand cannot carry the loaded machine, the stop
 * is proved and the machine's own source comes in before anything is loaded.
 */
export function bringUpOf(figures: Figures, kit: Kit = USUAL_KIT): BringUp {
  const maker = makerOf(figures, kit);
  if (sourcesOf(figures.machine).length === 0) return { stages: [], kit };
  const own = !benchCarries(maker);
  const first = [
    inspectStage(maker),
    treeStage(maker),
    logicStage(maker),
    driversStage(maker),
    signalsStage(maker),
    singleStage(maker),
    freeStage(maker),
  ];
  const loaded = [loadedStage(maker, own), soakStage(maker, own)];
  const last = [stopStage(maker, false), sourceStage(maker)];
  const all = own ? [...first, ...last, ...loaded] : [...first, ...loaded, ...last];
  return { stages: all.filter((stage): stage is Stage => stage !== null && stage.steps.length > 0), kit };
}

/** The same, made once for figures that did not change, with the usual kit. */
export const usualBringUp = oncePer((figures: Figures) => bringUpOf(figures));
