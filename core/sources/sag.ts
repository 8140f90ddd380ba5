import { oncePer } from "../machine/once";
import type { Machine } from "../machine/schema";
import type { Circuit } from "../network/circuit";
import { metalOf } from "../network/metal";
import { Discharge } from "./discharge";
import type { Stop } from "./stops";

/** Halvings of the charge at which a line is crossed: to 0.006 %. */
const BISECTIONS = 14;

/** Room of a stop at a point of the network, V; minus infinity when there is no point. */
function roomAt(discharge: Discharge, mode: number, charges: ArrayLike<number>, stop: Stop): number {
  const point = discharge.at(mode, charges);
  if (point.status !== "solved") return Number.NEGATIVE_INFINITY;
  return (point.nodeV[stop.pos] as number) - (point.nodeV[stop.neg] as number) - stop.leastV;
}

/** Charges of all packs at their planned state but one. */
function chargesWith(discharge: Discharge, pack: number, charge: number): number[] {
  return discharge.packs.map((model, p) => (p === pack ? charge : (model.pack.plannedCharge?.value ?? 1)));
}

/**
 * Highest charge (0-1) of a pack at which a stop acts in a mode: below it the part no longer works. 0: never; 1: even
 * when full. Found by halving: open-circuit volts rise with charge, so there is one such point.
 */
export function stopCharge(discharge: Discharge, pack: number, mode: number, stop: Stop): number {
  const room = (charge: number) => roomAt(discharge, mode, chargesWith(discharge, pack, charge), stop);
  if (room(1) < 0) return 1;
  if (room(0) >= 0) return 0;
  let [low, high] = [0, 1];
  for (let k = 0; k < BISECTIONS; k++) {
    const mid = (low + high) / 2;
    if (room(mid) < 0) low = mid;
    else high = mid;
  }
  return high;
}

/** The discharge of an analysed machine, built when the first rule asks for it. */
export const dischargeOf = oncePer((circuit: Circuit): Discharge => Discharge.of(circuit.machine, circuit));

/** Where the first thing stops in a mode, and at which charge of the pack. */
export interface SagEnd {
  readonly mode: number;
  readonly charge: number;
  readonly part: string;
  readonly kind: Stop["kind"];
  readonly leastV: number;
}

/** Terminal volts of a pack over its charge, a curve a mode, and where things stop. */
export interface SagPicture {
  readonly pack: string;
  /** Charges (0-1), rising. */
  readonly charges: readonly number[];
  readonly openV: readonly number[];
  /** By mode; null where the network collapses. */
  readonly curves: readonly { readonly mode: number; readonly volts: readonly (number | null)[] }[];
  /** The first thing to stop in each mode where one does. */
  readonly ends: readonly SagEnd[];
  /** Least volts of what hangs straight on the pack's rail, highest first. */
  readonly lines: readonly { readonly name: string; readonly volts: number; readonly kind: Stop["kind"] }[];
  readonly reserve: number;
}

/** Charges at which volts are drawn: every 2 %. */
const POINTS = 51;

/** The sag picture of one pack; null where its figures do not suffice. */
export function sagPicture(machine: Machine, packId: string, discharge = Discharge.of(machine)): SagPicture | null {
  const index = discharge.packs.findIndex(({ pack }) => pack.id === packId);
  const model = discharge.packs[index];
  if (!model) return null;
  const charges = Array.from({ length: POINTS }, (_, i) => i / (POINTS - 1));
  const curves: { mode: number; volts: (number | null)[] }[] = [];
  const ends: SagEnd[] = [];
  machine.modes.forEach((mode, m) => {
    curves.push({
      mode: m,
      volts: charges.map((charge) => {
        const point = discharge.at(m, chargesWith(discharge, index, charge));
        return point.status === "solved" ? discharge.packV(point, index) : null;
      }),
    });
    const lasts = mode.lastsS ?? Number.POSITIVE_INFINITY;
    let first: SagEnd | null = null;
    for (const stop of discharge.stops) {
      if (lasts <= stop.ridesS || !discharge.live(stop, m)) continue;
      const charge = stopCharge(discharge, index, m, stop);
      if (charge > (first?.charge ?? 0)) first = { mode: m, charge, part: stop.part.id, kind: stop.kind, leastV: stop.leastV };
    }
    if (first) ends.push(first);
  });
  const emf = discharge.circuit.emfs.find(({ id }) => id === packId);
  const metal = metalOf(discharge.circuit.nodeCount, discharge.circuit.branches);
  const lines = discharge.stops
    .filter((stop) => emf !== undefined && metal(stop.pos) === metal(emf.pos))
    .map(({ part, leastV, kind }) => ({ name: part.name, volts: leastV, kind }))
    .sort((a, b) => b.volts - a.volts);
  return { pack: packId, charges, openV: charges.map((charge) => model.openV(charge)), curves, ends, lines, reserve: model.reserve };
}
