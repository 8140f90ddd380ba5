/** Heat in a linear regulator, W: what falls across it, and its own current. */
export function linearLoss(inV: number, outV: number, outA: number, quiescentA: number): number {
  return (inV - outV) * outA + inV * quiescentA;
}

/** Chip temperature, °C, of a part that makes `watts` behind `kelvinPerWatt` to the air. */
export function junction(ambientC: number, watts: number, kelvinPerWatt: number): number {
  return ambientC + watts * kelvinPerWatt;
}

/** Most output current continuously, A: until the chip reaches `maxC`. Negative: even idle is too warm. */
export function linearMost(inV: number, outV: number, quiescentA: number, ambientC: number, maxC: number, kelvinPerWatt: number): number {
  if (inV <= outV) return Number.POSITIVE_INFINITY;
  return ((maxC - ambientC) / kelvinPerWatt - inV * quiescentA) / (inV - outV);
}

/** Largest heatsink-to-air resistance that keeps the chip at `maxC`, K/W; not positive: no heatsink is enough. */
export function heatsinkMost(watts: number, maxC: number, ambientC: number, caseKelvinPerWatt: number, padKelvinPerWatt: number): number {
  return (maxC - ambientC) / watts - caseKelvinPerWatt - padKelvinPerWatt;
}
