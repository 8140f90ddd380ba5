import { typical } from "../machine/figure";
import type { Pack } from "../machine/schema";
import { cellOhm, ocvAt, packOhm, packVolts } from "../packs/chemistry";
import { inSentence } from "../quantity/format";
import { CHEMISTRIES, type Chemistry, type ChemistryId, chemistryOf } from "../reference/chemistries";

/** Links and management of a pack, Ω (handbook 1.3: 2 to 10 mΩ; from memory). */
const LINKS_OHM = 0.004;

/** Beyond this nothing here is planned, A. */
const AMPS_MOST = 2000;

/** Cells of a pack, before it is one. */
export interface Composition {
  readonly chemistry: ChemistryId;
  readonly series: number;
  readonly parallel: number;
  readonly cellAh: number;
}

const digits = (value: number) => Number(value.toPrecision(4));

/**
 * The figures of a pack from its cells, all typical: volts when full (coldest charger included), planned at half charge
 * unless the pack says otherwise, and at its reserve; resistance, currents by C rate, mass by energy.
 */
export function composed({ chemistry: id, series, parallel, cellAh }: Composition, coldestC = 25, plannedCharge = 0.5): Partial<Pack> {
  const chemistry = chemistryOf(id);
  const volts = packVolts(chemistry, series, coldestC);
  const capacity = cellAh * parallel;
  const reserve = 1 - chemistry.usable;
  const planned = Math.max(plannedCharge, reserve);
  return {
    chemistry: id,
    series,
    parallel,
    openCircuitV: typical(digits(series * ocvAt(chemistry, planned))),
    fullV: typical(digits(volts.highestV)),
    lowV: typical(digits(series * ocvAt(chemistry, reserve))),
    plannedCharge: typical(planned),
    lowCharge: typical(digits(reserve)),
    internalOhm: typical(digits(packOhm(cellOhm(chemistry, cellAh), series, parallel, chemistry.family === "lithium" ? LINKS_OHM : 0))),
    capacityAh: typical(capacity),
    continuousA: typical(digits(Math.min(AMPS_MOST, chemistry.continuousC * capacity))),
    peakA: typical(digits(Math.min(AMPS_MOST, chemistry.peakC * capacity))),
    cutoffV: typical(digits(volts.cutV)),
    cutoffS: undefined,
    peukert: undefined,
    ratedH: undefined,
    health: undefined,
    massKg: typical(digits((capacity * chemistry.nominalV * series) / chemistry.wattHoursPerKg)),
  };
}

/** "8S1P lithium iron phosphate, energy, 60 Ah". */
export function compositionName({ chemistry, series, parallel, cellAh }: Composition): string {
  return `${series}S${parallel}P ${inSentence(chemistryOf(chemistry).name)}, ${digits(cellAh * parallel)} Ah`;
}

/** Within this of the rail's nominal volts a string of cells counts as made for it. */
const VOLTS_SPAN = { low: 0.78, high: 1.3 };
/** Capacities looked at, against the one the run asks for. */
const CAPACITY_SPAN = { low: 0.5, high: 3 };
/** Small round cells are welded together by the dozen; everything else is joined in twos and threes, primary cells never. */
const ROUND_CELLS: ReadonlySet<ChemistryId> = new Set(["nmc_energy", "nmc_power", "lifepo4_power"]);
function parallelMost(chemistry: Chemistry): number {
  if (chemistry.family === "alkaline") return 1;
  return ROUND_CELLS.has(chemistry.id) ? 60 : 4;
}

/** Strings of a chemistry near a rail's volts: lead in whole blocks of six cells from 6 V on. */
function stringsFor(chemistry: Chemistry, volts: number): number[] {
  const unit = chemistry.id === "alkaline_9v" ? 6 : chemistry.family === "lead" ? 3 : 1;
  const counts: number[] = [];
  for (let series = unit; series * chemistry.nominalV <= volts * VOLTS_SPAN.high && series <= 60; series += unit) {
    if (series * chemistry.nominalV >= volts * VOLTS_SPAN.low) counts.push(series);
  }
  return counts;
}

/**
 * Packs worth weighing for a rail: every chemistry, string length near its volts and capacity around the one asked for,
 * `most` of them at most, spread evenly over what there is.
 */
export function compositionsFor(volts: number, neededAh: number, most: number): Composition[] {
  const all: Composition[] = [];
  for (const chemistry of CHEMISTRIES) {
    for (const series of stringsFor(chemistry, volts)) {
      for (const cellAh of chemistry.sizesAh) {
        let last = 0;
        for (let parallel = 1; parallel <= parallelMost(chemistry); parallel++) {
          const ah = cellAh * parallel;
          if (ah > neededAh * CAPACITY_SPAN.high && parallel > 1) break;
          // Steps of a fifth: nobody chooses between 31 and 32 cells in parallel.
          if (ah < neededAh * CAPACITY_SPAN.low || ah < last * 1.2) continue;
          last = ah;
          all.push({ chemistry: chemistry.id, series, parallel, cellAh });
        }
      }
    }
  }
  if (all.length <= most) return all;
  return Array.from({ length: most }, (_, i) => all[Math.floor((i * all.length) / most)] as Composition);
}
