import type { FaultWalk } from "../faults/walk";
import type { Figures } from "../figures/figures";
import { type RunTimes, runTimes } from "../sources/run";
import { measuredAbove } from "./bring-up/measured-above";
import { panelMeter } from "./bring-up/panel-meter";
import { readingOutside } from "./bring-up/reading-outside";
import { readingStale } from "./bring-up/reading-stale";
import { stageSkipped } from "./bring-up/stage-skipped";
import { backupFuse } from "./feeds/backup-fuse";
import { breakingCapacity } from "./feeds/breaking-capacity";
import { chargingPort } from "./feeds/charging-port";
import { coil } from "./feeds/coil";
import { connectorCurrent } from "./feeds/connector-current";
import { connectorFit } from "./feeds/connector-fit";
import { dcContact } from "./feeds/dc-contact";
import { driverFeeds } from "./feeds/driver-feeds";
import { drop } from "./feeds/drop";
import { fuseOverWire } from "./feeds/fuse-over-wire";
import { fusePlace } from "./feeds/fuse-place";
import { fuseTooSmall } from "./feeds/fuse-too-small";
import { fuseVoltage } from "./feeds/fuse-voltage";
import { groupLead } from "./feeds/group-lead";
import { labels } from "./feeds/labels";
import { livePins } from "./feeds/live-pins";
import { misMate } from "./feeds/mis-mate";
import { motorLead } from "./feeds/motor-lead";
import { movingWire } from "./feeds/moving-wire";
import { noFuse } from "./feeds/no-fuse";
import { nodeRating } from "./feeds/node-rating";
import { parallelWires } from "./feeds/parallel-wires";
import { partRating } from "./feeds/part-rating";
import { phaseLead } from "./feeds/phase-lead";
import { plugInrush } from "./feeds/plug-inrush";
import { polarity } from "./feeds/polarity";
import { precharge } from "./feeds/precharge";
import { selective } from "./feeds/selective";
import { shortCircuit } from "./feeds/short-circuit";
import { stopCircuit } from "./feeds/stop-circuit";
import { terminalFit } from "./feeds/terminal-fit";
import { wireOverload } from "./feeds/wire-overload";
import { wiring } from "./feeds/wiring";
import { boardPin } from "./loads/board-pin";
import { bridgeDrop } from "./loads/bridge-drop";
import { driverCurrent } from "./loads/driver-current";
import { endStop } from "./loads/end-stop";
import { estimate } from "./loads/estimate";
import { freewheel } from "./loads/freewheel";
import { layerVoltage } from "./loads/layer-voltage";
import { leadLanding } from "./loads/lead-landing";
import { logicSide } from "./loads/logic-side";
import { missingFigure } from "./loads/missing-figure";
import { railMismatch } from "./loads/rail-mismatch";
import { stepperSetting } from "./loads/stepper-setting";
import { worstFirst } from "./order";
import { barLink } from "./returns/bar-link";
import { boardGround } from "./returns/board-ground";
import { chassisBond } from "./returns/chassis-bond";
import { chassisFault } from "./returns/chassis-fault";
import { commonReference } from "./returns/common-reference";
import { groundLoop } from "./returns/ground-loop";
import { isolation } from "./returns/isolation";
import { lightReturn } from "./returns/light-return";
import { linkOffset } from "./returns/link-offset";
import { linkVolts } from "./returns/link-volts";
import { looseReturn } from "./returns/loose-return";
import { noisePractice } from "./returns/noise-practice";
import { pinCurrent } from "./returns/pin-current";
import { returnRings } from "./returns/return-rings";
import { returnSchool } from "./returns/return-school";
import { sharedReturn } from "./returns/shared-return";
import { switchedReturn } from "./returns/switched-return";
import type { LateReadings, Readings, Rule } from "./rule";
import { agedCold } from "./sources/aged-cold";
import { cleanRail } from "./sources/clean-rail";
import { collapse } from "./sources/collapse";
import { converterLimits } from "./sources/converter-limits";
import { inputWindow } from "./sources/input-window";
import { packCare } from "./sources/pack-care";
import { regeneration } from "./sources/regeneration";
import { runTime } from "./sources/run-time";
import { seriesBlocks } from "./sources/series-blocks";
import { sourceRating } from "./sources/source-rating";
import { supplyLimits } from "./sources/supply-limits";
import { twoSources } from "./sources/two-sources";
import type { Verdict } from "./types";

/** All rules, in working order. Adding a rule is adding a file and naming it here (`npm run new-rule`). */
export const RULES: readonly Rule[] = [
  missingFigure,
  polarity,
  collapse,
  estimate,
  railMismatch,
  driverCurrent,
  layerVoltage,
  logicSide,
  bridgeDrop,
  freewheel,
  boardPin,
  stepperSetting,
  endStop,
  leadLanding,
  sourceRating,
  supplyLimits,
  twoSources,
  packCare,
  inputWindow,
  converterLimits,
  regeneration,
  cleanRail,
  noFuse,
  fuseOverWire,
  fuseVoltage,
  fuseTooSmall,
  fusePlace,
  backupFuse,
  wireOverload,
  parallelWires,
  movingWire,
  nodeRating,
  connectorCurrent,
  connectorFit,
  livePins,
  misMate,
  partRating,
  dcContact,
  stopCircuit,
  chargingPort,
  motorLead,
  drop,
  wiring,
  commonReference,
  switchedReturn,
  pinCurrent,
  linkOffset,
  groundLoop,
  sharedReturn,
  returnSchool,
  barLink,
  lightReturn,
  returnRings,
  isolation,
  chassisBond,
  noisePractice,
  labels,
  shortCircuit,
  breakingCapacity,
  selective,
  driverFeeds,
  precharge,
  plugInrush,
  coil,
  groupLead,
  phaseLead,
  terminalFit,
  chassisFault,
  looseReturn,
  boardGround,
  linkVolts,
  runTime,
  agedCold,
  seriesBlocks,
  readingOutside,
  measuredAbove,
  readingStale,
  stageSkipped,
  panelMeter,
];

type Reads<R extends Rule["reads"]> = Extract<Rule, { reads: R }>;

const reading = <R extends Rule["reads"]>(...kinds: readonly R[]): readonly Reads<R>[] =>
  RULES.filter((rule): rule is Reads<R> => kinds.some((kind) => kind === rule.reads));

const QUICK = reading("build", "figures");
const SHORTS = reading("shorts");
const DISCHARGE = reading("discharge");
const LOG = reading("log");
const LATE = reading("late");
const PACK_BOUND = QUICK.filter(({ packBound }) => packBound);
const RUN_BOUND = DISCHARGE.filter(({ packBound }) => packBound);

/** Rules by id, under every id they speak with. */
export const RULE_OF: ReadonlyMap<string, Rule> = new Map(RULES.flatMap((rule) => rule.says.map(({ id }) => [id, rule])));

/** What the quick rules say, worst first. */
export function evaluateAll(figures: Figures): Verdict[] {
  return worstFirst(...QUICK.map((rule) => rule.evaluate(figures)));
}

/** What the rules say that hang on what a pack can push, in working order; it runs the packs down. */
export function evaluatePackBound(figures: Figures): Verdict[] {
  const times = RUN_BOUND.length > 0 ? runTimes(figures.machine) : null;
  return [
    ...PACK_BOUND.flatMap((rule) => rule.evaluate(figures)),
    ...(times ? RUN_BOUND.flatMap((rule) => rule.evaluate(figures, times)) : []),
  ];
}

/** What the rules say that read the walk of shorts, in working order. */
export function evaluateShorts(figures: Figures, walk: FaultWalk): Verdict[] {
  return SHORTS.flatMap((rule) => rule.evaluate(figures, walk));
}

/** What the rules say that read how long full packs last, in working order. */
export function evaluateDischarge(figures: Figures, times: RunTimes): Verdict[] {
  return DISCHARGE.flatMap((rule) => rule.evaluate(figures, times));
}

/** What the rules say that wait until edits pause, in working order. */
export function evaluateReadings(figures: Figures, late: LateReadings): Verdict[] {
  return LATE.flatMap((rule) => rule.evaluate(figures, late));
}

const LATE_SIZED = LATE.filter(({ sized }) => sized);

/** What the late rules say that sizes can settle, in working order; none of them reads what others said. */
export function evaluateLateSized(figures: Figures): Verdict[] {
  const late: LateReadings = { loose: [], now: [], packBound: () => [] };
  return LATE_SIZED.flatMap((rule) => rule.evaluate(figures, late));
}

/** What the rules say of what was read at the machine, in working order. */
export function evaluateLog(figures: Figures, readings: Readings): Verdict[] {
  return LOG.flatMap((rule) => rule.evaluate(figures, readings));
}
