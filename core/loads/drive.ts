/**
 * Motor current from what it drives: wheels, tracks, a drum. SI units; angles in degrees.
 * Source: handbook motors-and-drivers section 1 (Wong, Theory of Ground Vehicles, from memory, and derived).
 */

/** Standard gravity, m/s². */
export const GRAVITY = 9.81;

/** What a wheel rolls on. */
export interface Ground {
  massKg: number;
  slopeDeg: number;
  /** Rolling resistance coefficient. */
  crr: number;
  /** Acceleration, m/s², with a share for turning masses already in it. */
  acceleration?: number;
}

/** Force to drive straight, N. */
export function straightForce({ massKg, slopeDeg, crr, acceleration = 0 }: Ground): number {
  const slope = (slopeDeg * Math.PI) / 180;
  return massKg * GRAVITY * (Math.sin(slope) + crr * Math.cos(slope)) + massKg * acceleration;
}

/** Force (N) on each side to turn on the spot with four wheels: friction μ sideways over wheelbase L and track width B. */
export function pivotForceWheels(massKg: number, crr: number, friction: number, wheelbase: number, track: number): number {
  const half = (massKg * GRAVITY) / 2;
  return (friction * half * wheelbase) / Math.hypot(wheelbase, track) + crr * half;
}

/** The same on tracks with uniform pressure. */
export function pivotForceTracks(massKg: number, crr: number, friction: number, length: number, track: number): number {
  const weight = massKg * GRAVITY;
  return (friction * weight * length) / (4 * track) + (crr * weight) / 2;
}

/** What sits between a motor and what it drives. */
export interface Train {
  radiusM: number;
  gear: number;
  /** Share of the motor's torque that reaches the wheel, 0-1. */
  efficiency: number;
  /** Motor constant before the gear, N·m/A. */
  k: number;
  noLoadA: number;
}

/** Motor current (A) for a force (N) at the rim of one motor's wheel or drum. */
export function currentForForce(force: number, { radiusM, gear, efficiency, k, noLoadA }: Train): number {
  return noLoadA + (force * radiusM) / (gear * efficiency * k);
}

/** Back-EMF constant (V·s = N·m/A) from no load: volts, rpm before the gear, amps and winding resistance. */
export function motorConstant(volts: number, noLoadRpm: number, noLoadA: number, ohm: number): number {
  return (volts - noLoadA * ohm) / ((noLoadRpm * 2 * Math.PI) / 60);
}
