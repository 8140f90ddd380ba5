import type { Stamps } from "./topology";

/** Voltage between the ends of element `i` in a solution. */
export function across(x: Float64Array, stamps: Stamps, i: number): number {
  return (x[stamps.a[i] as number] as number) - (x[stamps.b[i] as number] as number);
}

/** Puts a conductance between the ends of element `i` into the matrix. */
export function addConductance(values: Float64Array, stamps: Stamps, i: number, siemens: number): void {
  const aa = stamps.aa[i] as number;
  const bb = stamps.bb[i] as number;
  const ab = stamps.ab[i] as number;
  values[aa] = (values[aa] as number) + siemens;
  values[bb] = (values[bb] as number) + siemens;
  values[ab] = (values[ab] as number) - siemens;
}

/** A current drawn from a and returned at b. */
export function addDraw(rhs: Float64Array, stamps: Stamps, i: number, amps: number): void {
  const a = stamps.a[i] as number;
  const b = stamps.b[i] as number;
  rhs[a] = (rhs[a] as number) - amps;
  rhs[b] = (rhs[b] as number) + amps;
}
