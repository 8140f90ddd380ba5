import { temperatureFactor } from "../wires/resistance";
/**
 * The brushed permanent-magnet motor by two points: no load and stall. SI units (V, A, Ω, N·m, rad/s, s, °C).
 * Source: handbook motors-and-drivers section 1 (Fitzgerald, Kingsley & Umans, Electric Machinery, from memory).
 */

/** Stall current of a winding (A): what is left after the brush drop, over everything in the loop. */
export function stallCurrent(volts: number, loopOhm: number, brushV = 0): number {
  return Math.max(0, volts - brushV) / loopOhm;
}

/** Winding resistance (Ω) from a locked-rotor test at low voltage. */
export function lockedRotorOhm(testV: number, testA: number, brushV: number, leadOhm: number): number {
  return (testV - brushV) / testA - leadOhm;
}

/** Winding resistance (Ω) from readings at several shaft positions less that of the shorted leads. */
export function terminalOhm(readings: readonly number[], leadOhm: number): number {
  return readings.reduce((sum, each) => sum + each, 0) / readings.length - leadOhm;
}

/** By how much copper resistance rises from `fromC` to `toC`; a hot winding stalls at 1 over this. */
export function windingFactor(toC: number, fromC = 20): number {
  return temperatureFactor(toC) / temperatureFactor(fromC);
}

/** A motor's no-load and stall points. */
export interface TwoPoint {
  /** Supply the two points hold at, V. */
  volts: number;
  noLoadA: number;
  noLoadRpm: number;
  stallA: number;
  /** N·m at the same shaft as the speed. */
  stallTorque: number;
}

/** A brushed motor as the constants of its two points. */
export interface MotorModel {
  ohm: number;
  /** Back-EMF constant, V·s, and torque constant, N·m/A. */
  ke: number;
  kt: number;
  /** Most mechanical power, W; best efficiency (0-1) and the current it is reached at, A. */
  maxPowerW: number;
  maxEfficiency: number;
  bestA: number;
  /** k_t/k_e: about 1 for a bare motor, the apparent gear efficiency behind a gear; outside 0.3-1.05 the sheet contradicts itself. */
  agreement: number;
}

const perSecond = (rpm: number) => (rpm * 2 * Math.PI) / 60;

/** The model of a motor from its two points. */
export function twoPointModel({ volts, noLoadA, noLoadRpm, stallA, stallTorque }: TwoPoint): MotorModel {
  const ohm = volts / stallA;
  const speed = perSecond(noLoadRpm);
  const ke = (volts - noLoadA * ohm) / speed;
  const kt = stallTorque / (stallA - noLoadA);
  return {
    ohm,
    ke,
    kt,
    maxPowerW: (stallTorque * speed) / 4,
    maxEfficiency: (1 - Math.sqrt(noLoadA / stallA)) ** 2,
    bestA: Math.sqrt(noLoadA * stallA),
    agreement: kt / ke,
  };
}

/** Current (A) and speed (rpm) at a torque (N·m): straight lines between the two points. */
export function atTorque(motor: TwoPoint, torque: number): { amps: number; rpm: number } {
  const share = torque / motor.stallTorque;
  return { amps: motor.noLoadA + (motor.stallA - motor.noLoadA) * share, rpm: motor.noLoadRpm * (1 - share) };
}

/** Speed at one voltage and current against that at another: back-EMF is what the winding leaves. Negative is none. */
export function speedRatio(volts: number, nominalV: number, ohm: number, amps: number): number {
  return Math.max(0, volts - amps * ohm) / (nominalV - amps * ohm);
}

/** Mechanical time constant τ = J·R/k² (s) with the vehicle's mass seen through the gear. */
export function startTimeConstant(input: {
  rotorInertia: number;
  massKg: number;
  radiusM: number;
  gear: number;
  ohm: number;
  k: number;
}): number {
  const inertia = input.rotorInertia + (input.massKg * input.radiusM ** 2) / input.gear ** 2;
  return (inertia * input.ohm) / input.k ** 2;
}

/** Current (A) a time (s) after switching on at rest: I_s·e^(−t/τ), never below what the load takes anyway. */
export function inrushAt(stallA: number, tau: number, seconds: number, runA = 0): number {
  return Math.max(runA, stallA * Math.exp(-seconds / tau));
}

/** Melting energy let through by a start, A²s: I_s²·τ/2. */
export function startLetThrough(stallA: number, tau: number): number {
  return (stallA ** 2 * tau) / 2;
}

/**
 * Current at the first instant of a reversal at full speed (plugging), A: supply and back-EMF add up. Back-EMF at a
 * running current is what stall leaves of it, so at no load it is nearly twice stall.
 */
export function pluggingCurrent(stallA: number, runningA: number): number {
  return stallA + Math.max(0, stallA - runningA);
}
