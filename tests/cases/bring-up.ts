import { analyse } from "@/core/analysis/analyse";
import { ALARM_STEP } from "@/core/bringup/alarm";
import { basisOf, expectedOf } from "@/core/bringup/judge";
import type { Log, Reading } from "@/core/bringup/log";
import { PANEL_STEP } from "@/core/bringup/panel";
import { bringUpOf } from "@/core/bringup/plan";
import type { Step } from "@/core/bringup/types";
import type { Machine } from "@/core/machine/schema";
import { marbleLift } from "@/demo/marble-lift";
import { must } from "../support/small";
import { type Case, withLog } from "./support";

const machine = () => marbleLift(true);
const AT = "2026-03-01T10:00:00.000Z";

/** A step of the machine's bring-up whose id ends so. */
function stepOf(of: Machine, ending: string): { step: Step; basis: string } {
  const { figures } = analyse(of);
  const step = bringUpOf(figures)
    .stages.flatMap((stage) => stage.steps)
    .find(({ id }) => id.endsWith(ending));
  if (!step) throw new Error(`no step ${ending}`);
  return { step, basis: basisOf(figures, step) };
}

/** A log with one reading at a step. */
export function readAt(of: Machine, ending: string, value: number | null, over: Partial<Reading> = {}): Log {
  const { step, basis } = stepOf(of, ending);
  const reading: Reading = {
    queueId: `read-${ending.replace(/[^a-z0-9]+/gi, "-").toLowerCase()}`.slice(0, 60),
    step: step.id,
    stage: step.stage,
    place: step.title,
    quantity: step.quantity,
    value,
    instrument: step.instrument,
    uncertainty: null,
    takenAt: AT,
    note: "",
    way: "typed",
    expected: expectedOf(step.expect),
    basis,
    struck: false,
    ...over,
  };
  return { readings: [reading], waivers: [] };
}

/** A panel meter that shows so much where the reference shows 12 V. */
function panel(shown: number): Log {
  const log = readAt(machine(), "tree rail cells", shown);
  return {
    ...log,
    readings: log.readings.map((each) => ({ ...each, step: PANEL_STEP, stage: null, value: shown, expected: 12, basis: null })),
  };
}

/** Somebody saw smoke. */
function smoke(struck: boolean): Log {
  const log = readAt(machine(), "fuse w1", 2);
  return {
    ...log,
    readings: log.readings.map((each) => ({ ...each, step: ALARM_STEP, quantity: "yes", value: 0, note: "smoke at the bridge", struck })),
  };
}

const waived = (ended: boolean): Log => ({
  readings: [],
  waivers: [{ queueId: "waiver-1", stage: "inspect", step: null, reason: "no time today", at: AT, ended }],
});

/** The plan after its bridge's feed became longer: what was read there is of an older one. */
const longer = () => must(machine(), { type: "setFeed", id: "w4", changes: { gauge: "18 AWG" } });

// The rail is set to 5.20 V; supply ±0.5 % (k = 2: ±0.030), meter ±0.032 at 5.20 V: passes up to 5.244, outside from 5.262 on.
export const BRING_UP: readonly Case[] = [
  withLog(
    "reading-outside",
    "a rail on the bench supply, past both doubts",
    "fix",
    machine,
    (of) => readAt(of, "tree rail cells", 5.19),
    (of) => readAt(of, "tree rail cells", 5.3),
  ),
  withLog(
    "reading-outside",
    "a rail between root sum and sum of the doubts",
    "watch",
    machine,
    (of) => readAt(of, "tree rail cells", 5.24),
    (of) => readAt(of, "tree rail cells", 5.255),
  ),
  withLog(
    "reading-outside",
    "a fuse other than planned",
    "stop",
    machine,
    (of) => readAt(of, "fuse w1", 2),
    (of) => readAt(of, "fuse w1", 15),
  ),
  withLog(
    "reading-outside",
    "a rail against its return: 5.2 V over a 2 A fuse is 2.6 Ω, and the meter's doubt",
    "stop",
    machine,
    (of) => readAt(of, "return cells", 3.2),
    (of) => readAt(of, "return cells", 2.5),
  ),
  withLog(
    "reading-outside",
    "smoke, until it is struck out",
    "stop",
    machine,
    () => smoke(true),
    () => smoke(false),
  ),
  // Gate turning free: 0.15 A typical, x/÷ 1.7; passes up to 0.258.
  withLog(
    "measured-above",
    "a motor that turns free at more than the plan's doubt",
    "fix",
    machine,
    (of) => readAt(of, "amps gate", 0.25),
    (of) => readAt(of, "amps gate", 0.27),
  ),
  withLog(
    "reading-stale",
    "a feed that was replaced since",
    "ask",
    longer,
    (of) => readAt(of, "tree volts bridge", 5.2),
    () => readAt(machine(), "tree volts bridge", 5.2),
  ),
  withLog(
    "stage-skipped",
    "a stage left with a reason",
    "watch",
    machine,
    () => waived(true),
    () => waived(false),
  ),
  // 1 % of 12 V, a digit of 0.1 V and the hand meter's ±0.092 V: allowed 0.312 V.
  withLog(
    "panel-meter",
    "a panel meter at 12 V, allowed 0.31 V",
    "fix",
    machine,
    () => panel(12.3),
    () => panel(12.33),
  ),
];
