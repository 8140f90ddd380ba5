import rows from "./data/gauges.json";

/** One conductor size. `r20OhmPerKm` is the design value at 20 °C (AWG × 1.02 for stranding, IEC 60228 class 5 for metric). */
export interface Gauge {
  readonly id: string;
  readonly system: "awg" | "metric";
  readonly awgN: number | null;
  readonly areaMm2: number;
  readonly r20OhmPerKm: number;
  readonly copperGPerM: number;
  /** Reprinted handbook's chassis-wiring column, A; null where the column has no entry for the size. */
  readonly chassisA: number | null;
  /** Building-wire table at 30 °C, up to three loaded conductors, A for 60, 75 and 90 °C terminations; null: not in it. */
  readonly buildingA: readonly [number | null, number | null, number | null] | null;
  /** Largest fuse that table allows for thin sizes, A; null: no such limit. */
  readonly buildingFuseA: number | null;
  /** Boat practice at 30 °C with 105 °C insulation, A; null: not in it. */
  readonly boatA: number | null;
  readonly source: string;
  readonly certainty: string;
}

/** All sizes of both systems, thin to thick. */
export const GAUGES: readonly Gauge[] = (rows as unknown as readonly Gauge[]).slice().sort((a, b) => a.areaMm2 - b.areaMm2);

const byId = new Map(GAUGES.map((gauge) => [gauge.id, gauge]));

/** A wire size's row. */
export function gaugeById(id: string): Gauge | undefined {
  return byId.get(id);
}

/** Sizes a builder can buy easily: the even AWG series and the metric series. */
export function usualSizes(system: Gauge["system"]): readonly Gauge[] {
  return USUAL[system];
}

const usual = (system: Gauge["system"]) =>
  GAUGES.filter((gauge) => gauge.system === system && (gauge.awgN === null || gauge.awgN <= 0 || gauge.awgN % 2 === 0));
const USUAL = { awg: usual("awg"), metric: usual("metric") };

/** Columns of the published tables. */
type Column = "chassisA" | "buildingA" | "boatA";

const withColumn = (column: Column) => GAUGES.filter((row) => row[column] !== null && row.system === "awg");
const referencesOf = (column: Column) => {
  const rows = withColumn(column);
  return new Map(
    GAUGES.map((gauge) => [gauge, gauge[column] !== null ? gauge : rows.findLast((row) => row.areaMm2 <= gauge.areaMm2 * 1.0001)]),
  );
};
const REFERENCES = { chassisA: referencesOf("chassisA"), buildingA: referencesOf("buildingA"), boatA: referencesOf("boatA") };

/** The AWG size whose table figure applies: itself, or else the next AWG that is not thicker (safe side). */
export function tableReference(gauge: Gauge, column: Column): Gauge | undefined {
  return REFERENCES[column].get(gauge);
}

/**
 * Reads a gauge as people write it: `14awg`, `14 AWG`, `#14`, `1/0`, `1.5mm2`, `1,5 mm²`.
 * A bare whole number is an AWG size. Returns null when no such size is in the table.
 */
export function parseGauge(text: string): Gauge | null {
  const t = text.trim().toLowerCase().replace(",", ".");
  const metric = /^(\d+(?:\.\d+)?)\s*(?:mm2|mm²|mm\^2|sqmm|qmm)$/.exec(t);
  if (metric) return byId.get(`${Number(metric[1])} mm²`) ?? null;
  const awg = /^(?:awg\s*|#\s*)?(\d{1,2}|[1-4]\/0)\s*(?:awg|ga|gauge)?$/.exec(t);
  if (awg) {
    const size = awg[1] === "0" ? "1/0" : awg[1];
    return byId.get(`${size} AWG`) ?? null;
  }
  return null;
}
