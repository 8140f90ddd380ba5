import type { Level, LevelName } from "../machine/load-schema";
import type { Load } from "../machine/schema";
import type { LoadKind } from "../reference/load-kinds";
import { lift, wheel } from "./methods/driven";
import { lockedRotor, motorClass, noLoad, ratedPower, terminals } from "./methods/motors";
import { amplifier, brushless, coil, heater, logicClass, pixels, stepper, stepperClass } from "./methods/others";
import type { Inputs, KnownField, Method, Outcome } from "./methods/types";

/** Every way from what a builder knows to currents, best first within a kind. */
export const METHODS: readonly Method[] = [
  lockedRotor,
  terminals,
  noLoad,
  ratedPower,
  wheel,
  lift,
  stepper,
  stepperClass,
  brushless,
  heater,
  pixels,
  amplifier,
  coil,
  motorClass,
  logicClass,
];

const byId = new Map(METHODS.map((method) => [method.id, method]));

/** A method by its id. */
export function methodById(id: string): Method | undefined {
  return byId.get(id);
}

/** Methods that suit a kind of load. */
export function methodsFor(kind: LoadKind): readonly Method[] {
  return METHODS.filter((method) => method.kinds.includes(kind));
}

/** Whether a field is asked for, given what the others say. */
export function asked(field: KnownField, inputs: Inputs): boolean {
  return field.when === undefined || field.when.is.includes(String(inputs[field.when.key] ?? ""));
}

/** A current with the range it could be in. */
export interface Estimate extends Outcome {
  low: number;
  high: number;
}

/** What a method makes of what the builder told it. */
export interface Known {
  estimates: Estimate[];
  /** The one measurement that would narrow the last figure most, and what share of its spread it is. */
  narrow: { measure: string; share: number };
  notes: string[];
}

/**
 * Currents from what is known, each with the range it could be in: what every input may be off by and the method's own
 * error, as the root of the sum of squares. Null when the inputs contradict each other (a negative resistance).
 */
export function whatIsKnown(method: Method, inputs: Inputs, load: Load): Known | null {
  const found = method.outcomes(inputs, load);
  if (found.length === 0 || found.some(({ value }) => !Number.isFinite(value) || value < 0)) return null;
  const uncertain = method.fields.filter(
    (field) => (field.spread ?? 0) > 0 && asked(field, inputs) && typeof inputs[field.key] !== "string",
  );
  const shifted = uncertain.map((field) => {
    const at = (factor: number) => method.outcomes({ ...inputs, [field.key]: times(inputs[field.key], factor) }, load);
    return { field, up: at(1 + (field.spread ?? 0)), down: at(1 / (1 + (field.spread ?? 0))) };
  });
  let widest = { measure: method.better, share: 0 };
  const estimates = found.map((outcome, i): Estimate => {
    const { value } = outcome;
    let above = (method.error.high * value) ** 2;
    let below = (method.error.low * value) ** 2;
    if (outcome.high !== undefined) above += (outcome.high - value) ** 2;
    if (outcome.low !== undefined) below += (value - outcome.low) ** 2;
    const parts = [{ measure: method.better, size: Math.max(above, below) }];
    for (const { field, up, down } of shifted) {
      const ends = [up[i]?.value ?? value, down[i]?.value ?? value].map((each) => (Number.isFinite(each) ? each : value));
      const high = Math.max(value, ...ends) - value;
      const low = value - Math.min(value, ...ends);
      above += high ** 2;
      below += low ** 2;
      if (field.measure !== undefined) parts.push({ measure: field.measure, size: Math.max(high, low) ** 2 });
    }
    const most = parts.reduce((best, each) => (each.size > best.size ? each : best));
    const total = parts.reduce((sum, each) => sum + each.size, 0);
    if (i === found.length - 1) widest = { measure: most.measure, share: total > 0 ? most.size / total : 0 };
    return { ...outcome, low: Math.max(0, value - Math.sqrt(below)), high: value + Math.sqrt(above) };
  });
  return { estimates, narrow: widest, notes: method.notes?.(inputs, load) ?? [] };
}

function times(input: Inputs[string] | undefined, factor: number): Inputs[string] {
  if (Array.isArray(input)) return input.map((each) => each * factor);
  return typeof input === "number" ? input * factor : (input ?? 0);
}

/** The figures a method writes into a load, with their provenance, range and basis. */
export function levelsFrom(method: Method, inputs: Inputs, known: Known): Partial<Record<LevelName, Level>> {
  return Object.fromEntries(
    known.estimates.map(({ level, value, low, high }): [LevelName, Level] => [
      level,
      // Four digits: the range is a hundred times wider, and a person reads them.
      {
        value: Number(value.toPrecision(4)),
        provenance: method.provenance,
        ...rangeOf(value, low, high),
        basis: { method: method.id, inputs },
      },
    ]),
  );
}

/** Outwards, so that the range still holds what it held. */
function rangeOf(value: number, low: number, high: number): { low: number; high: number } {
  const rounded = Number(value.toPrecision(4));
  return { low: Math.min(rounded, low), high: Math.max(rounded, high) };
}
