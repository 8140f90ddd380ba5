import type { Pack } from "../machine/schema";
import { type Chemistry, chemistryOf } from "../reference/chemistries";
import { agedOhmFactor, capacityFactor, chargeAt, chargeOhmFactor, coldOhmFactor, ocvAt, packVolts } from "./chemistry";

/** Charge kept back when the plan does not say: what the usable depth of the chemistry leaves. */
export function reserveOf(pack: Pack): number | null {
  if (pack.lowCharge) return pack.lowCharge.value;
  if (pack.chemistry === undefined) return null;
  const chemistry = chemistryOf(pack.chemistry);
  if (pack.lowV && pack.series) return chargeAt(chemistry, pack.lowV.value / pack.series);
  return 1 - chemistry.usable;
}

/** State of charge (0-1) of the plan's open-circuit volts; null where the chemistry or the cells are not known. */
export function plannedChargeOf(pack: Pack): number | null {
  if (pack.plannedCharge) return pack.plannedCharge.value;
  if (pack.chemistry === undefined || !pack.series) return null;
  return chargeAt(chemistryOf(pack.chemistry), pack.openCircuitV.value / pack.series);
}

/** The highest a pack can show, charger included, V: as entered, else by its chemistry and cells; null where neither tells. */
export function fullVoltsOf(pack: Pack, coldestC: number | undefined): number | null {
  if (pack.fullV) return pack.fullV.value;
  if (pack.chemistry === undefined || !pack.series) return null;
  return packVolts(chemistryOf(pack.chemistry), pack.series, coldestC).highestV;
}

/** The lowest a pack may rest at, V: as entered, else where its chemistry is to be cut off; null where neither tells. */
export function emptyVoltsOf(pack: Pack): number | null {
  if (pack.lowV) return pack.lowV.value;
  if (pack.chemistry === undefined || !pack.series) return null;
  return packVolts(chemistryOf(pack.chemistry), pack.series).cutV;
}

/** Resistance of a pack against its figure at 25 °C, new and half full; 1 where its chemistry is not known. */
export function ohmFactor(pack: Pack, ambientC: number, charge: number | null): number {
  if (pack.chemistry === undefined) return 1;
  const chemistry = chemistryOf(pack.chemistry);
  const measured = pack.internalOhm?.provenance === "measured";
  // A reading was taken on the pack as old as it is; cold and charge still come on top.
  const age = measured ? 1 : agedOhmFactor(chemistry, pack.health?.value ?? 1);
  return coldOhmFactor(chemistry, ambientC) * age * (charge === null ? 1 : chargeOhmFactor(chemistry, charge));
}

/** Everything a discharge needs to know of a pack. */
export interface PackModel {
  readonly pack: Pack;
  readonly chemistry: Chemistry;
  readonly series: number;
  /** What it holds now: nameplate, age and cold taken off, Ah. */
  readonly capacityAh: number;
  /** Age taken off, not cold: what Peukert's law is applied to, Ah. */
  readonly peukertAh: number;
  readonly peukert: number;
  readonly ratedH: number;
  readonly reserve: number;
  openV(charge: number): number;
  ohm(charge: number): number;
}

/** The model of a pack at an ambient, or what is missing for one, in words. */
export function packModel(pack: Pack, ambientC: number): { model: PackModel } | { missing: string[] } {
  const missing = [
    ...(pack.chemistry === undefined ? ["its chemistry"] : []),
    ...(pack.series === undefined ? ["cells in series"] : []),
    ...(pack.capacityAh ? [] : ["its capacity"]),
    ...(pack.internalOhm ? [] : ["its internal resistance"]),
  ];
  const { series, capacityAh, internalOhm } = pack;
  if (missing.length > 0 || pack.chemistry === undefined || series === undefined || !capacityAh || !internalOhm) return { missing };
  const chemistry = chemistryOf(pack.chemistry);
  const aged = capacityAh.value * (pack.health?.value ?? 1);
  return {
    model: {
      pack,
      chemistry,
      series,
      capacityAh: aged * capacityFactor(chemistry, ambientC),
      peukertAh: aged,
      peukert: pack.peukert?.value ?? chemistry.peukert,
      ratedH: pack.ratedH?.value ?? chemistry.ratedH,
      reserve: reserveOf(pack) ?? 1 - chemistry.usable,
      openV: (charge) => series * ocvAt(chemistry, charge),
      ohm: (charge) => internalOhm.value * ohmFactor(pack, ambientC, charge),
    },
  };
}
