import { DIMENSIONS, type Dimension } from "./units";

/** A typed quantity in SI, or a message in the builder's words saying what to write instead. */
export type Parsed = { ok: true; value: number } | { ok: false; message: string };

interface Bounds {
  min?: number;
  max?: number;
}

const NUMBER = /^([+-]?(?:\d+(?:\.\d*)?|\.\d+)(?:e[+-]?\d+)?)\s*(.*)$/i;

function fail(message: string): Parsed {
  return { ok: false, message };
}

/** "2,3" is a decimal comma; "1,500" could be either, so it is asked about, never guessed. */
function normaliseCommas(text: string): string | null {
  if (!text.includes(",")) return text;
  if (/\d,\d{3}(?!\d)/.test(text) && !/^\D*0,/.test(text)) return null;
  if ((text.match(/,/g) ?? []).length > 1 || text.includes(".")) return null;
  return text.replace(",", ".");
}

function unitFactor(dimension: Dimension, unit: string): number | undefined {
  const { units } = DIMENSIONS[dimension];
  const spelled = unit.replace("Ω", "Ω").replace("μ", "µ").trim();
  // "MΩ" must never be read as "mΩ": a capital M with a unit that has a milli form is refused.
  if (/^M(?=[AVWΩo])/.test(spelled)) return undefined;
  return units[spelled] ?? units[spelled.toLowerCase()] ?? units[spelled.replace(/\s+/g, "").toLowerCase()];
}

function outside(dimension: Dimension, value: number, bounds: Bounds): string | null {
  const info = DIMENSIONS[dimension];
  const min = bounds.min ?? info.min;
  const max = bounds.max ?? info.max;
  const unit = info.unit ? ` ${info.unit}` : "";
  if (value < 0 && min >= 0) return `A ${info.label} cannot be negative here. Direction is drawn by the wire.`;
  if (value < min) return `Too small: the least this field takes is ${min}${unit}.`;
  if (value > max) return `Too large: the most this field takes is ${max}${unit}.`;
  return null;
}

/**
 * Reads a quantity as people write it: `2.3A`, `800 mA`, `3 ft`, `250W @ 24V` (power at a voltage, for a current).
 * A bare number is taken in the SI unit of the dimension.
 * @returns the value in SI, or a message to show beside the field. Never throws, never guesses an ambiguous comma.
 */
export function parseQuantity(text: string, dimension: Dimension, bounds: Bounds = {}): Parsed {
  const info = DIMENSIONS[dimension];
  const trimmed = text.trim().replace("−", "-");
  if (trimmed === "") return fail(`Write a ${info.label}, for example ${info.example}.`);

  const at = trimmed.split("@");
  if (dimension === "current" && at.length === 2) {
    const watts = parseQuantity(at[0] ?? "", "power");
    if (!watts.ok) return watts;
    const volts = parseQuantity(at[1] ?? "", "voltage", { min: 0.1 });
    if (!volts.ok) return volts;
    return bounded(dimension, watts.value / volts.value, bounds);
  }

  const normal = normaliseCommas(trimmed);
  if (normal === null) return fail(`"${text.trim()}" can be read two ways. Write it without a thousands comma.`);
  const match = NUMBER.exec(normal);
  if (!match) return fail(`"${text.trim()}" is not a ${info.label}. Write it like ${info.example}.`);
  const number = Number(match[1]);
  const unit = (match[2] ?? "").trim();
  const factor = unit === "" ? 1 : unitFactor(dimension, unit);
  if (factor === undefined) {
    if (dimension === "current" && unitFactor("power", unit) !== undefined) {
      return fail(`Watts need a voltage: write "${text.trim()} @ 24 V".`);
    }
    return fail(`"${unit}" is not a unit of ${info.label}. Write it like ${info.example}.`);
  }
  return bounded(dimension, number * factor, bounds);
}

function bounded(dimension: Dimension, value: number, bounds: Bounds): Parsed {
  if (!Number.isFinite(value)) return fail(`That number is too large for a ${DIMENSIONS[dimension].label}.`);
  const problem = outside(dimension, value, bounds);
  return problem ? fail(problem) : { ok: true, value };
}
