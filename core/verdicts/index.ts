import type { Figures } from "../analysis/figures";
import { type Standing, steady } from "../analysis/standing";
import * as backupFuse from "./backup-fuse";
import * as barLink from "./bar-link";
import * as boardPin from "./board-pin";
import * as bridgeDrop from "./bridge-drop";
import * as chargingPort from "./charging-port";
import * as chassisBond from "./chassis-bond";
import * as cleanRail from "./clean-rail";
import * as collapse from "./collapse";
import * as commonReference from "./common-reference";
import * as connectorCurrent from "./connector-current";
import * as connectorFit from "./connector-fit";
import * as converterLimits from "./converter-limits";
import * as dcContact from "./dc-contact";
import * as driverCurrent from "./driver-current";
import * as drop from "./drop";
import * as endStop from "./end-stop";
import * as estimate from "./estimate";
import * as freewheel from "./freewheel";
import * as fuseOverWire from "./fuse-over-wire";
import * as fusePlace from "./fuse-place";
import * as fuseTooSmall from "./fuse-too-small";
import * as fuseVoltage from "./fuse-voltage";
import * as groundLoop from "./ground-loop";
import * as inputWindow from "./input-window";
import * as isolation from "./isolation";
import * as labels from "./labels";
import * as layerVoltage from "./layer-voltage";
import * as lightReturn from "./light-return";
import * as linkOffset from "./link-offset";
import * as livePins from "./live-pins";
import * as logicSide from "./logic-side";
import * as misMate from "./mis-mate";
import * as missingFigure from "./missing-figure";
import * as motorLead from "./motor-lead";
import * as movingWire from "./moving-wire";
import * as noFuse from "./no-fuse";
import * as nodeRating from "./node-rating";
import * as noisePractice from "./noise-practice";
import * as packCare from "./pack-care";
import * as parallelWires from "./parallel-wires";
import * as partRating from "./part-rating";
import * as pinCurrent from "./pin-current";
import * as railMismatch from "./rail-mismatch";
import * as regeneration from "./regeneration";
import * as returnRings from "./return-rings";
import * as returnSchool from "./return-school";
import * as sharedReturn from "./shared-return";
import * as sourceRating from "./source-rating";
import * as stepperSetting from "./stepper-setting";
import * as stopCircuit from "./stop-circuit";
import * as supplyLimits from "./supply-limits";
import * as switchedReturn from "./switched-return";
import * as twoSources from "./two-sources";
import { type Rule, SEVERITIES, type Severity, type Verdict } from "./types";
import * as wireOverload from "./wire-overload";
import * as wiring from "./wiring";

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
