import rows from "./data/chemistries.json";
import ocvRows from "./data/ocv.json";

/** Chemistries of the table. */
export const CHEMISTRY_IDS = [
  "lead_flooded",
  "lead_agm",
  "lifepo4_energy",
  "lifepo4_power",
  "nmc_energy",
  "nmc_power",
  "lipo",
  "nimh_aa",
  "nimh_power",
  "alkaline_aa",
  "alkaline_d",
  "alkaline_9v",
] as const;
/** A chemistry of the table. */
export type ChemistryId = (typeof CHEMISTRY_IDS)[number];

/**
 * A battery chemistry by the cell, 25 °C, new. Typical, from memory, to be verified: the sheet of the real cell always wins.
 * Resistance is `kDc` mΩ·Ah divided by the capacity, or `cellOhm` where it does not follow it. Capacity and resistance
 * factors are at 0 and −10 °C and at the end of life. `wattHoursPerKg` is of whole packs, common figures, no source.
 */
export interface Chemistry {
  readonly id: ChemistryId;
  readonly name: string;
  readonly family: "lead" | "lithium" | "nimh" | "alkaline";
  readonly ocv: string;
  readonly nominalV: number;
  readonly restV: number;
  readonly chargeStdV: number | null;
  readonly chargeMaxV: number | null;
  readonly floatV: number | null;
  readonly cutV: number;
  readonly cutAbsV: number;
  readonly kDc: number | null;
  readonly kDcLow: number | null;
  readonly kDcHigh: number | null;
  readonly kFault: number | null;
  readonly cellOhm: number | null;
  readonly cellFaultOhm: number | null;
  readonly continuousC: number;
  readonly peakC: number;
  readonly peukert: number;
  readonly ratedH: number;
  readonly usable: number;
  readonly ageing: number;
  readonly capacity0C: number;
  readonly capacityM10C: number;
  readonly ohm0C: number;
  readonly ohmM10C: number;
  readonly ohmAged: number;
  readonly selfDischarge: number;
  readonly chargeC: number;
  readonly regenC: number;
  readonly chargeMinC: number | null;
  readonly chargeMaxC: number | null;
  readonly management: string;
  readonly wattHoursPerKg: number;
  /** Capacities one cell or block is sold in, Ah. */
  readonly sizesAh: readonly number[];
  readonly notes: string;
  readonly status: string;
}

/** The table of chemistries. */
export const CHEMISTRIES = rows as unknown as readonly Chemistry[];

const byId = new Map(CHEMISTRIES.map((row) => [row.id, row]));

/** A chemistry's row. */
export function chemistryOf(id: ChemistryId): Chemistry {
  const row = byId.get(id);
  if (!row) throw new Error(`no chemistry ${id}`);
  return row;
}

/** Rested open-circuit volts of one cell against state of charge (0-1), rising; points to interpolate between. */
export interface OcvCurve {
  readonly toleranceV: number;
  readonly points: readonly (readonly [soc: number, volts: number])[];
}

/** Open-circuit volts of a cell over its charge. */
export function ocvCurve(chemistry: Chemistry): OcvCurve {
  const curve = (ocvRows as unknown as Readonly<Record<string, OcvCurve>>)[chemistry.ocv];
  if (!curve) throw new Error(`no open-circuit table ${chemistry.ocv}`);
  return curve;
}

/** Where the table of chemistries comes from. */
export const CHEMISTRY_SOURCE = "Handbook sources-and-regulators, sections 1.1 to 1.4: typical, from memory, to be verified.";
