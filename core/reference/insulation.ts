import rows from "./data/insulation.json";

/**
 * Wire insulation. Temperatures in °C; `shortCircuitC` is the final temperature a fault may reach, null if unknown. Thermal
 * conductivity in W/(m·K), heat in J/(cm³·K).
 */
export interface Insulation {
  readonly id: string;
  readonly name: string;
  readonly maxC: number;
  readonly shortCircuitC: number | null;
  readonly thermalWPerMK: number;
  readonly heatJPerCm3K: number;
  readonly emissivity: number;
  readonly flexibility: string;
  readonly abrasion: string;
  readonly note: string;
  readonly source: string;
  readonly certainty: string;
}

/** The table of insulations. */
export const INSULATIONS: readonly Insulation[] = rows as readonly Insulation[];

const byId = new Map(INSULATIONS.map((row) => [row.id, row]));

/** An insulation's row. */
export function insulationById(id: string): Insulation | undefined {
  return byId.get(id);
}
