import rows from "./data/regulators.json";

/**
 * A converter as sold. Losses of switching ones are `lossW` + `lossV`·I_out + `lossOhm`·I², I at the output or the input
 * by `basis`, at `atInV`. `printedA` is the label, `stillAirA` what holds continuously at 25 °C without moving air.
 * Typical, from memory, to be verified.
 */
export interface RegulatorClass {
  readonly id: string;
  readonly kind: "linear" | "buck" | "boost" | "buck-boost" | "isolated";
  readonly name: string;
  readonly inputMinV: number;
  readonly inputMaxV: number;
  readonly absMaxV: number | null;
  readonly outMinV: number;
  readonly outMaxV: number;
  readonly printedA: number;
  readonly stillAirA: number;
  readonly dropoutV: number | null;
  readonly dutyMax: number | null;
  readonly quiescentA: number | null;
  readonly lossW: number | null;
  readonly lossV: number | null;
  readonly lossOhm: number | null;
  readonly basis: "in" | "out" | null;
  readonly atInV: number;
  readonly atOutV: number;
  readonly efficiency: number;
  readonly switchingKHz: number | null;
  readonly startsAtV: number | null;
  readonly limitA: number | null;
  readonly kelvinPerWatt: number | null;
  readonly caseKelvinPerWatt: number | null;
  readonly junctionMaxC: number | null;
  readonly notes: string;
  readonly status: string;
}

/** Classes of regulators. */
export const REGULATORS = rows as unknown as readonly RegulatorClass[];
