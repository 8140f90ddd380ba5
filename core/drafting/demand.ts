import { canStall } from "../loads/budget";
import type { Load } from "../machine/schema";
import { ELECTRONICS, MOVERS } from "../reference/load-kinds";
import type { LoadReading } from "./reading";

/** A line about a load with its figures at the volts of a rail. */
export interface Listed {
  readonly reading: LoadReading;
  readonly number: number;
  /** Nominal volts of the rail it is to hang on. */
  readonly volts: number;
  readonly load: Partial<Load>;
}

/** Which side of the machine a load is on: what moves and heats, or what thinks. */
export function sideOf(kind: Load["loadKind"]): "power" | "logic" {
  return ELECTRONICS.has(kind) ? "logic" : "power";
}

/** Whether a load moves something that can hurt: what the emergency stop has to reach. */
export function moves(kind: Load["loadKind"]): boolean {
  return MOVERS.has(kind) && kind !== "fan" && kind !== "coil" && kind !== "servo";
}

/** Kinds that bring their drive with them, or are none a driver of motors turns. */
const OWN_DRIVE: ReadonlySet<Load["loadKind"]> = new Set(["stepper", "servo", "brushless"] as const);

/** Whether a motor driver stands before it: before motors unless none is wanted, before other movers where one is told. */
export function isDriven({ kind, perDriver }: LoadReading): boolean {
  if (kind === "motor" || kind === "actuator") return perDriver !== 0;
  return perDriver !== null && perDriver > 0 && MOVERS.has(kind) && !OWN_DRIVE.has(kind);
}

/** What one piece draws running, and at most, A at its volts; 0 where nothing tells. */
export function ampsOf({ levels }: Partial<Load>, kind: Load["loadKind"]): { runA: number; peakA: number } {
  const runA = levels?.run?.value ?? 0;
  const peakA = Math.max(runA, levels?.start?.value ?? 0, canStallKind(kind) ? (levels?.stall?.value ?? 0) : 0);
  return { runA, peakA };
}

function canStallKind(kind: Load["loadKind"]): boolean {
  return canStall({ loadKind: kind } as Load);
}

/** What a rail's loads ask together: all running, and all starting at once. */
export function askOf(listed: readonly Listed[]): { continuousA: number; peakA: number } {
  return listed.reduce(
    (sum, { reading, load }) => {
      const { runA, peakA } = ampsOf(load, reading.kind);
      return { continuousA: sum.continuousA + runA * reading.count, peakA: sum.peakA + peakA * reading.count };
    },
    { continuousA: 0, peakA: 0 },
  );
}
