/**
 * Losses of a switching converter: `watts` + `volts`·I_out + `ohm`·I², I at its output or (`atInput`) its input.
 * Taken at `atV` in; elsewhere `watts` and half of `volts` go with the input voltage (handbook 5.2, common practice).
 */
export interface LossModel {
  readonly watts: number;
  readonly volts: number;
  readonly ohm: number;
  readonly atInput: boolean;
  /** null: the losses are taken as they are at every input voltage. */
  readonly atV: number | null;
}

/** Loss apart from the square term at the input, W. */
function fixedLoss(loss: LossModel, outA: number, inV: number): number {
  const scale = loss.atV === null ? 1 : inV / loss.atV;
  const square = loss.atInput ? 0 : loss.ohm * outA ** 2;
  return loss.watts * scale + loss.volts * (0.5 + 0.5 * scale) * outA + square;
}

/**
 * Power a converter takes at its input, W, to give `outW` as `outA`. NaN when the input cannot carry it: the loss at the
 * input grows faster than what comes through.
 */
export function inputPower(loss: LossModel, outW: number, outA: number, inV: number): number {
  const asked = outW + fixedLoss(loss, outA, inV);
  if (!loss.atInput || loss.ohm === 0) return asked;
  const root = inV ** 2 - 4 * loss.ohm * asked;
  return root < 0 ? Number.NaN : (inV * (inV - Math.sqrt(root))) / (2 * loss.ohm);
}

/** Share of the input power that leaves, 0-1; NaN where it cannot deliver. */
export function efficiencyAt(loss: LossModel, outV: number, outA: number, inV: number): number {
  return (outV * outA) / inputPower(loss, outV * outA, outA, inV);
}

/** Output current of the best efficiency, A: where fixed and square losses are alike. */
export function bestAt(loss: LossModel): number {
  return Math.sqrt(loss.watts / loss.ohm);
}

/**
 * Losses through three sheet points (A, efficiency 0-1) at one output voltage: Po·(1/η − 1) = Pq + a·I + b·I². A negative
 * coefficient is no loss: it is set to 0 and told.
 */
export function fitLoss(
  outV: number,
  points: readonly [readonly [number, number], readonly [number, number], readonly [number, number]],
): { loss: LossModel; forced: boolean } {
  const [[x0, e0], [x1, e1], [x2, e2]] = points;
  const lossOf = (amps: number, eta: number) => outV * amps * (1 / eta - 1);
  const [y0, y1, y2] = [lossOf(x0, e0), lossOf(x1, e1), lossOf(x2, e2)];
  // Newton's divided differences of the parabola through the three points.
  const d01 = (y1 - y0) / (x1 - x0);
  const d12 = (y2 - y1) / (x2 - x1);
  const ohm = (d12 - d01) / (x2 - x0);
  const volts = d01 - ohm * (x0 + x1);
  const watts = y0 - volts * x0 - ohm * x0 ** 2;
  const kept = [watts, volts, ohm].map((each) => Math.max(0, each));
  return {
    loss: { watts: kept[0] as number, volts: kept[1] as number, ohm: kept[2] as number, atInput: false, atV: null },
    forced: Math.min(watts, volts, ohm) < 0,
  };
}

/** Hottest a module's own parts may be, °C (handbook 5.3, common practice). */
export const MODULE_MAX_C = 105;
/** Air in which a data sheet gives its rating, °C, unless it says otherwise. */
const RATED_AT_C = 25;

/**
 * Output current that holds continuously at an ambient, A, for a module that holds `stillAirA` at 25 °C: the loss it may make
 * shrinks with what is left to its hottest temperature.
 */
export function moduleMost(loss: LossModel, stillAirA: number, ambientC: number, maxC = MODULE_MAX_C): number {
  if (ambientC >= maxC) return 0;
  const lossAt = (amps: number) => loss.watts + loss.volts * amps + loss.ohm * amps ** 2;
  const allowed = (lossAt(stillAirA) * (maxC - Math.max(ambientC, RATED_AT_C))) / (maxC - RATED_AT_C);
  const rest = allowed - loss.watts;
  if (rest <= 0) return 0;
  if (loss.ohm === 0) return loss.volts === 0 ? stillAirA : rest / loss.volts;
  return (Math.sqrt(loss.volts ** 2 + 4 * loss.ohm * rest) - loss.volts) / (2 * loss.ohm);
}

/** Least input of a buck without synchronous rectifier, V: its switch may be on for `dutyMax` of the time at most. */
export function buckLeastInput(outV: number, outA: number, dutyMax: number, coilOhm: number, switchOhm: number, diodeV: number): number {
  return (outV + outA * coilOhm + (1 - dutyMax) * diodeV) / dutyMax + outA * switchOhm;
}

/** Most output current of a boost whose switch may carry `switchA`, A. */
export function boostMost(switchA: number, ripple: number, inV: number, efficiency: number, outV: number): number {
  return ((switchA / (1 + ripple / 2)) * inV * efficiency) / outV;
}
