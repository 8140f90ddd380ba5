import type { Figures } from "../figures/figures";
import { type Standing, steady } from "../figures/standing";
import * as backupFuse from "./feeds/backup-fuse";
import * as chargingPort from "./feeds/charging-port";
import * as connectorCurrent from "./feeds/connector-current";
import * as connectorFit from "./feeds/connector-fit";
import * as dcContact from "./feeds/dc-contact";
import * as drop from "./feeds/drop";
import * as fuseOverWire from "./feeds/fuse-over-wire";
import * as fusePlace from "./feeds/fuse-place";
import * as fuseTooSmall from "./feeds/fuse-too-small";
import * as fuseVoltage from "./feeds/fuse-voltage";
import * as labels from "./feeds/labels";
import * as livePins from "./feeds/live-pins";
import * as misMate from "./feeds/mis-mate";
import * as motorLead from "./feeds/motor-lead";
import * as movingWire from "./feeds/moving-wire";
import * as noFuse from "./feeds/no-fuse";
import * as nodeRating from "./feeds/node-rating";
import * as parallelWires from "./feeds/parallel-wires";
import * as partRating from "./feeds/part-rating";
import * as stopCircuit from "./feeds/stop-circuit";
import * as wireOverload from "./feeds/wire-overload";
import * as wiring from "./feeds/wiring";
import * as boardPin from "./loads/board-pin";
import * as bridgeDrop from "./loads/bridge-drop";
import * as driverCurrent from "./loads/driver-current";
import * as endStop from "./loads/end-stop";
import * as estimate from "./loads/estimate";
import * as freewheel from "./loads/freewheel";
import * as layerVoltage from "./loads/layer-voltage";
import * as logicSide from "./loads/logic-side";
import * as missingFigure from "./loads/missing-figure";
import * as railMismatch from "./loads/rail-mismatch";
import * as stepperSetting from "./loads/stepper-setting";
import * as barLink from "./returns/bar-link";
import * as chassisBond from "./returns/chassis-bond";
import * as commonReference from "./returns/common-reference";
import * as groundLoop from "./returns/ground-loop";
import * as isolation from "./returns/isolation";
import * as lightReturn from "./returns/light-return";
import * as linkOffset from "./returns/link-offset";
import * as noisePractice from "./returns/noise-practice";
import * as pinCurrent from "./returns/pin-current";
import * as returnRings from "./returns/return-rings";
import * as returnSchool from "./returns/return-school";
import * as sharedReturn from "./returns/shared-return";
import * as switchedReturn from "./returns/switched-return";
import * as cleanRail from "./sources/clean-rail";
import * as collapse from "./sources/collapse";
import * as converterLimits from "./sources/converter-limits";
import * as inputWindow from "./sources/input-window";
import * as packCare from "./sources/pack-care";
import * as regeneration from "./sources/regeneration";
import * as sourceRating from "./sources/source-rating";
import * as supplyLimits from "./sources/supply-limits";
import * as twoSources from "./sources/two-sources";
import { type Rule, SEVERITIES, type Severity, type Verdict } from "./types";

/** A rule that no load's current has a say in: what it said stands until something else than a cell is edited. */
function steadily({ id, title, evaluate }: { id: string; title: string; evaluate: (still: Standing) => Verdict[] }): Rule {
  return { id, title, evaluate: steady(evaluate) };
}

/** All rules, in working order. Adding a rule is adding a file and naming it here. */
export const RULES: readonly Rule[] = [
  missingFigure,
  collapse,
  estimate,
  railMismatch,
  driverCurrent,
  steadily(layerVoltage),
  logicSide,
  bridgeDrop,
  steadily(freewheel),
  boardPin,
  steadily(stepperSetting),
  endStop,
  sourceRating,
  supplyLimits,
  twoSources,
  packCare,
  inputWindow,
  converterLimits,
  steadily(regeneration),
  cleanRail,
  noFuse,
  fuseOverWire,
  steadily(fuseVoltage),
  fuseTooSmall,
  steadily(fusePlace),
  steadily(backupFuse),
  wireOverload,
  steadily(parallelWires),
  steadily(movingWire),
  nodeRating,
  connectorCurrent,
  connectorFit,
  steadily(livePins),
  steadily(misMate),
  partRating,
  dcContact,
  steadily(stopCircuit),
  steadily(chargingPort),
  motorLead,
  drop,
  steadily(wiring),
  commonReference,
  steadily(switchedReturn),
  pinCurrent,
  linkOffset,
  groundLoop,
  sharedReturn,
  returnSchool,
  barLink,
  steadily(lightReturn),
  returnRings,
  steadily(isolation),
  chassisBond,
  noisePractice,
  steadily(labels),
];

export function severityRank(severity: Severity): number {
  return SEVERITIES.indexOf(severity);
}

/** Worst first, in working order within a severity. */
export function worstFirst(...lists: readonly (readonly Verdict[])[]): Verdict[] {
  const by: Record<Severity, Verdict[]> = { stop: [], fix: [], watch: [], ask: [] };
  for (const list of lists) for (const verdict of list) by[verdict.severity].push(verdict);
  return by.stop.concat(by.fix, by.watch, by.ask);
}

/** Every rule's verdicts, worst first. */
export function evaluateAll(figures: Figures): Verdict[] {
  return worstFirst(...RULES.map((rule) => rule.evaluate(figures)));
}
