import driverRows from "./data/driver-classes.json";
import logicRows from "./data/logic-loads.json";
import motorRows from "./data/motor-classes.json";
import type { LoadKind } from "./load-kinds";

/**
 * Typical figures by class of part: a last resort, never a proof. All from memory, to be verified; certainty H, M (±30 %)
 * or L (up to twice either way). Source: handbook motors-and-drivers and its class tables.
 */
export interface MotorClass {
  readonly id: string;
  readonly name: string;
  readonly type: "brushed_pm" | "stepper" | "hobby_servo" | "bldc";
  readonly nominalV: number;
  readonly idleA: number | null;
  readonly noLoadA: number | null;
  readonly ratedA: number | null;
  readonly stallA: number | null;
  readonly stallMinA: number | null;
  readonly stallMaxA: number | null;
  readonly busLimitA: number | null;
  readonly phasePeakA: number | null;
  readonly windingOhm: number | null;
  readonly inductanceMh: number | null;
  readonly powerW: number | null;
  readonly certainty: "H" | "M" | "L";
  readonly notes: string;
}

/** Classes of motors. */
export const MOTOR_CLASSES = motorRows as readonly MotorClass[];

/** A kind of motor driver as sold: headline against what the bare board holds. Fields are null where a class has none. */
export interface DriverClass {
  readonly id: string;
  readonly name: string;
  readonly bridgeType: string;
  readonly inputMinV: number;
  readonly inputMaxV: number;
  readonly headlineA: number | null;
  readonly bareA: number | null;
  readonly peakA: number | null;
  readonly dropTypV: number | null;
  readonly dropAtA: number | null;
  readonly rdsOhm: number | null;
  readonly onboardRegulator: string;
  readonly logicFeed: string;
  readonly freewheel: string;
  readonly currentSense: string;
  readonly currentLimit: string;
  readonly certainty: "H" | "M" | "L";
  readonly notes: string;
}

/** Classes of motor drivers. */
export const DRIVER_CLASSES = driverRows as unknown as readonly DriverClass[];

/** Idle, typical and peak amps of boards, sensors, radios, displays, fans and coils at their voltage. */
export interface LogicClass {
  readonly id: string;
  readonly name: string;
  readonly kinds: readonly LoadKind[];
  readonly volts: number;
  readonly idleA: number;
  readonly runA: number;
  readonly peakA: number;
}

/** Classes of boards and small loads. */
export const LOGIC_CLASSES = logicRows as readonly LogicClass[];

/** Spread of a class figure either way, by certainty. */
export const CLASS_SPREAD: Readonly<Record<"H" | "M" | "L", number>> = { H: 0.1, M: 0.3, L: 1 };
