import type { Load } from "../machine/schema";
import { phaseRms } from "./brushless";
import { rmsOfPeak } from "./stepper";

/** What the conductors between a drive and its motor carry, whatever its supply draws. */
export interface PhaseCurrent {
  /** Turning, in each conductor continuously, A r.m.s. */
  readonly rmsA: number;
  /** Held still where one phase carries all of it, A. */
  readonly heldA: number;
  /** Conductors of one motor: three of a brushless motor, two pairs of a stepper. */
  readonly conductors: number;
}

/** Copper that belongs to a load and is no wire of the plan: so many conductors of one size. */
export interface OwnRun {
  readonly lead: NonNullable<Load["ownLead"]>;
  readonly conductors: number;
  readonly from: string;
  readonly to: string;
}

/** The leads a load brings along: of each piece of a group, and between a drive and its motor. */
export function ownRuns(load: Load): OwnRun[] {
  const { ownLead, phaseLead, count, name } = load;
  return [
    ...(ownLead ? [{ lead: ownLead, conductors: 2 * count, from: `feed of ${name}`, to: count > 1 ? `each of ${count}` : name }] : []),
    ...(phaseLead ? [{ lead: phaseLead, conductors: phaseConductors(load) * count, from: `drive of ${name}`, to: "its motor" }] : []),
  ];
}

/** Loads whose motor is fed in phases, by how many conductors. */
const CONDUCTORS = { brushless: 3, stepper: 4 } as const;

/** Conductors between drive and motor; 0 where the motor has no phases of its own. */
export function phaseConductors({ loadKind }: Pick<Load, "loadKind">): number {
  return loadKind === "brushless" || loadKind === "stepper" ? CONDUCTORS[loadKind] : 0;
}

/**
 * Phase current of one motor: a stepper's by what its driver is set to, a brushless motor's by its drive's phase limit
 * (handbook motors-and-drivers sections 3 and 4). Null: it has no phases, or nobody told.
 */
export function phaseCurrent({ loadKind, stepper, brushless }: Pick<Load, "loadKind" | "stepper" | "brushless">): PhaseCurrent | null {
  if (loadKind === "stepper" && stepper?.setA) {
    const rmsA = stepper.scale === "peak" ? rmsOfPeak(stepper.setA.value) : stepper.setA.value;
    return { rmsA, heldA: rmsA * Math.SQRT2, conductors: CONDUCTORS.stepper };
  }
  if (loadKind === "brushless" && brushless?.phaseLimitA) {
    const heldA = brushless.phaseLimitA.value;
    return { rmsA: phaseRms(heldA, brushless.drive), heldA, conductors: CONDUCTORS.brushless };
  }
  return null;
}
