/** Rating left at an ambient, share: full up to `fromC`, then falling by `share` a kelvin (typical sheet: 50 °C, 2.5 %; from memory). */
export function derating(ambientC: number, fromC = 50, share = 0.025): number {
  return Math.max(0, Math.min(1, 1 - share * (ambientC - fromC)));
}

/** Seconds to charge `farad` to `volts` from a source that limits at `limitA` while `loadA` flows; endless where nothing is left over. */
export function startTime(farad: number, volts: number, limitA: number, loadA: number): number {
  return limitA > loadA ? (farad * volts) / (limitA - loadA) : Number.POSITIVE_INFINITY;
}

/** Volts a bus rises to when `joules` are pushed into its capacitors and nothing takes them away. */
export function busAfter(volts: number, joules: number, farad: number): number {
  return Math.sqrt(volts ** 2 + (2 * joules) / farad);
}

/** Capacitance that keeps a bus at or below `mostV` when `joules` come back, F. */
export function busCapacitance(volts: number, joules: number, mostV: number): number {
  return (2 * joules) / (mostV ** 2 - volts ** 2);
}
