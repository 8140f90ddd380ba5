import type { Dimension } from "./units";

/** Which way a figure is rounded when it is said: demands up, limits down. */
export type Rounding = "nearest" | "up" | "down";

/** A number ready to print: digits and unit apart, so that the unit can be set small and light. */
export interface Printed {
  readonly digits: string;
  readonly unit: string;
}

function fixed(value: number, decimals: number, rounding: Rounding): string {
  const scale = 10 ** decimals;
  let scaled = value * scale;
  // The epsilon keeps 4.1 from becoming 4.2 because 4.1 * 10 is 40.99999 or 41.00001.
  if (rounding === "up") scaled = Math.ceil(scaled - 1e-9 * Math.max(1, Math.abs(scaled)));
  else if (rounding === "down") scaled = Math.floor(scaled + 1e-9 * Math.max(1, Math.abs(scaled)));
  else scaled = Math.round(scaled);
  const text = (Math.abs(scaled) / scale).toFixed(decimals);
  return scaled < 0 ? `−${text}` : text;
}

function decimalsFor(magnitude: number): number {
  if (magnitude >= 100) return 0;
  if (magnitude >= 10) return 1;
  return 2;
}

function print(value: number, unit: string, decimals: number, rounding: Rounding): Printed {
  return { digits: fixed(value, decimals, rounding), unit };
}

/**
 * Prints an SI value in the unit a builder reads most easily, with about three significant digits.
 * `rounding` "up" is for demands set against a limit and "down" for limits, so that rounding never hides a breach.
 */
export function formatQuantity(value: number, dimension: Dimension, rounding: Rounding = "nearest"): Printed {
  if (!Number.isFinite(value)) return { digits: "–", unit: "" };
  const size = Math.abs(value);
  switch (dimension) {
    case "current":
      if (size > 0 && size < 0.0995) return print(value * 1e3, "mA", size < 0.00995 ? 1 : 0, rounding);
      return print(value, "A", decimalsFor(size), rounding);
    case "voltage":
      if (size > 0 && size < 0.0995) return print(value * 1e3, "mV", size < 0.00995 ? 1 : 0, rounding);
      return print(value, "V", size >= 100 ? 1 : 2, rounding);
    case "resistance":
      if (size < 1) return print(value * 1e3, "mΩ", decimalsFor(size * 1e3), rounding);
      if (size >= 999.5)
        return size >= 999_500
          ? print(value / 1e6, "MΩ", decimalsFor(size / 1e6), rounding)
          : print(value / 1e3, "kΩ", decimalsFor(size / 1e3), rounding);
      return print(value, "Ω", decimalsFor(size), rounding);
    case "power":
      if (size > 0 && size < 0.0995) return print(value * 1e3, "mW", 0, rounding);
      return print(value, "W", decimalsFor(size), rounding);
    case "length":
      return print(value, "m", size < 1 ? 2 : size < 10 ? 1 : 0, rounding);
    case "capacity":
      return print(value, "Ah", size < 10 ? 1 : 0, rounding);
    case "time":
      if (size > 0 && size < 0.0995) return print(value * 1e3, "ms", size < 0.00995 ? 1 : 0, rounding);
      if (size < 60) return print(value, "s", size < 10 ? 1 : 0, rounding);
      return print(value / 60, "min", size < 600 ? 1 : 0, rounding);
    case "temperature":
      return print(value, "°C", 0, rounding);
    case "percent":
      return print(value, "%", size < 10 ? 1 : 0, rounding);
    case "mass":
      return print(value, "kg", decimalsFor(size), rounding);
    case "torque":
      return print(value, "N·m", decimalsFor(size), rounding);
    case "speed":
      return print(value, "rpm", 0, rounding);
    case "inductance":
      return print(value, "mH", decimalsFor(size), rounding);
    case "capacitance":
      if (size < 0.0995) {
        // Farads are too large a unit for what stands on a board.
        const micro = value * 1e6;
        return size < 9.95e-4
          ? print(micro, "µF", decimalsFor(Math.abs(micro)), rounding)
          : print(value * 1e3, "mF", decimalsFor(size * 1e3), rounding);
      }
      return print(value, "F", decimalsFor(size), rounding);
    case "energy":
      return size >= 10000 ? print(value / 1000, "kJ", decimalsFor(size / 1000), rounding) : print(value, "J", decimalsFor(size), rounding);
    case "section":
      return print(value, "mm²", decimalsFor(size), rounding);
    case "angle":
      return print(value, "°", size < 10 ? 1 : 0, rounding);
    case "ratio":
    case "count":
      return { digits: String(value), unit: "" };
  }
}

/** `formatQuantity` as one string with a no-break space before the unit. */
export function say(value: number, dimension: Dimension, rounding: Rounding = "nearest"): string {
  const { digits, unit } = formatQuantity(value, dimension, rounding);
  return unit ? `${digits}\u00a0${unit}` : digits;
}

/** With a capital first letter, as a name or a sentence begins. */
export function capital(text: string): string {
  return text.charAt(0).toUpperCase() + text.slice(1);
}

/** A name of a catalogue in the middle of a sentence: "lead-acid, sealed (AGM)", but "NiMH, AA" and "USB type A". */
export function inSentence(name: string): string {
  return /^[A-Z][a-z]+\b(?![A-Z])/.test(name) ? name.charAt(0).toLowerCase() + name.slice(1) : name;
}

/** With its article, by how it is said: "an 8 A fuse", "a 10 A fuse", "an 18 AWG wire", "an insulated splice". */
export function withArticle(text: string): string {
  return `${/^(8|1[18](?!\d)|[aeio])/i.test(text) ? "an" : "a"} ${text}`;
}

/** A run time in words, never more than it is: "3 h 12 min", "48 min", "35 s". */
export function sayDuration(seconds: number): string {
  if (!Number.isFinite(seconds)) return "–";
  if (seconds < 60) return `${Math.floor(seconds)}\u00a0s`;
  const minutes = Math.floor(seconds / 60 + 1e-9);
  if (minutes < 60) return `${minutes}\u00a0min`;
  const hours = Math.floor(minutes / 60);
  return hours >= 100 ? `${hours}\u00a0h` : `${hours}\u00a0h\u00a0${minutes % 60}\u00a0min`;
}

/** The shortest text that `parseQuantity` reads back to exactly this value: what an editor opens with. */
export function editText(value: number, dimension: Dimension): string {
  const unit = { current: "A", voltage: "V", resistance: "Ω", length: "m", power: "W", capacity: "Ah" } as const;
  if (dimension === "resistance" && value < 1) {
    const milli = Number((value * 1e3).toPrecision(12));
    if (milli / 1e3 === value || milli * 1e-3 === value) return `${milli} mΩ`;
  }
  const more = {
    time: "s",
    temperature: "°C",
    percent: "%",
    mass: "kg",
    torque: "N·m",
    speed: "rpm",
    inductance: "mH",
    angle: "°",
    capacitance: "F",
    energy: "J",
    section: "mm²",
  } as const;
  const all: Partial<Record<Dimension, string>> = { ...unit, ...more };
  const known = all[dimension];
  return known === undefined ? `${value}` : `${value} ${known}`;
}
