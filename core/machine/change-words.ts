import { capital, say, sayDuration } from "../quantity/format";
import type { Dimension } from "../quantity/units";
import { connectorById } from "../reference/connectors";
import type { Change } from "./changes";
import { nameOfLink, nameOfWire, partName } from "./names";
import { isObject } from "./same-value";
import type { Machine } from "./schema";

/** A change as a person reads it: what it is about, and the two values. */
export interface ChangeWords {
  readonly what: string;
  readonly before: string;
  readonly after: string;
}

/** Fields whose names carry no unit, or read badly without help. */
const FIELD_WORDS: Readonly<Record<string, string>> = {
  gauge: "conductor",
  from: "start",
  to: "end",
  openIn: "open in modes",
  lastsS: "how long it lasts",
  bundle: "loaded conductors together",
  parallel: "in parallel",
  fromEnd: "connector at its start",
  toEnd: "connector at its end",
  loadKind: "kind",
  noLoadRpm: "no-load speed",
  openCircuitV: "open-circuit volts",
  jointOhm: "resistance of an end",
  pair: "belongs together with",
  repeats: "runs over and over",
};

/** The unit a name ends in, what people call such a figure, and how it is written. */
const UNITS: readonly (readonly [suffix: string, noun: string, dimension: Dimension | null])[] = [
  ["Ah", "capacity", "capacity"],
  ["Ohm", "resistance", "resistance"],
  ["Percent", "", null],
  ["Share", "share", null],
  ["Kg", "", "mass"],
  ["Nm", "torque", "torque"],
  ["Rpm", "speed", null],
  ["Mh", "inductance", null],
  ["Mm", "", null],
  ["Um", "", null],
  ["V", "volts", "voltage"],
  ["A", "amps", "current"],
  ["W", "watts", "power"],
  ["M", "", "length"],
  ["S", "time", "time"],
  ["C", "temperature", "temperature"],
  ["K", "kelvin", null],
  ["F", "capacitance", "capacitance"],
  ["J", "energy", "energy"],
];

const spaced = (camel: string) => camel.replace(/([A-Z])/g, (letter) => ` ${letter.toLowerCase()}`).trim();

function unitOf(field: string) {
  return UNITS.find(([suffix]) => field.length > suffix.length && field.endsWith(suffix));
}

/** "ratedA" as "rated amps". */
export function fieldWords(field: string): string {
  const known = FIELD_WORDS[field];
  if (known) return known;
  const unit = unitOf(field);
  if (!unit) return spaced(field);
  const stem = spaced(field.slice(0, -unit[0].length));
  return unit[1] === "" || stem.endsWith(unit[1]) ? stem : `${stem} ${unit[1]}`;
}

/** Longest value written out. */
const VALUE_MAX = 60;

/** What a load does in a mode, and what a meter read. */
function cellWords(machine: Machine, { state, amps, percent, pieces, duty, measured }: Readonly<Record<string, unknown>>): string {
  const words = [
    state === "amps" ? valueWords(machine, "cellA", amps) : String(state),
    ...(percent === undefined ? [] : [`${percent} %`]),
    ...(pieces === undefined ? [] : [`${pieces} of them`]),
    ...(typeof duty === "number" ? [`at ${Math.round(duty * 100)} %`] : []),
  ].join(" ");
  const read = isObject(measured) ? measured.value : undefined;
  return read === undefined ? words : `${words}, read ${valueWords(machine, "cellA", read)}`;
}

/** A value of a field as a person reads it. */
function valueWords(machine: Machine, field: string, value: unknown): string {
  if (value === undefined || value === null) return field === "lastsS" ? "goes on" : "nothing";
  if (typeof value === "boolean") return value ? "yes" : "no";
  if (typeof value === "number") {
    const dimension = unitOf(field)?.[2];
    if (field === "lastsS" || field === "wantedRunS") return sayDuration(value);
    return dimension ? say(value, dimension) : field.endsWith("Percent") ? `${value} %` : String(value);
  }
  if (typeof value === "string") {
    const text = value === "" ? "nothing" : value;
    return text.length > VALUE_MAX ? `${text.slice(0, VALUE_MAX)}…` : text;
  }
  if (Array.isArray(value)) return value.every((each) => typeof each === "string") ? value.join(", ") : `${value.length} entries`;
  const fields = value as Readonly<Record<string, unknown>>;
  if ("state" in fields) return cellWords(machine, fields);
  if ("value" in fields) {
    const figure = valueWords(machine, field, fields.value);
    return typeof fields.provenance === "string" ? `${figure}, ${fields.provenance}` : figure;
  }
  if ("part" in fields) {
    const name = partName(machine, String(fields.part));
    return fields.terminal === "bar" ? name : `${name} ${String(fields.terminal).replace("-", "−")}`;
  }
  if ("ratingA" in fields) return `fuse ${fields.ratingA} A`;
  if ("family" in fields) {
    const family = String(fields.family);
    return [connectorById(family)?.short ?? family, fields.coding].filter(Boolean).join(" ");
  }
  if ("steps" in fields && Array.isArray(fields.steps)) return `${fields.steps.length} steps`;
  return Object.entries(fields)
    .map(([key, each]) => `${fieldWords(key)} ${valueWords(machine, key, each)}`)
    .join(", ")
    .slice(0, VALUE_MAX);
}

const ORDER_WORDS: Readonly<Record<string, string>> = {
  parts: "Order of parts",
  wires: "Order of wires",
  modes: "Order of modes",
  signals: "Order of links",
  decisions: "Order of decisions",
};

/** An element of a list by what people call it. An element that only the change knows is named by the change. */
function elementName(machine: Machine, change: Change): string {
  const [list, id = ""] = change.path;
  const value = (change.after ?? change.before) as Readonly<Record<string, unknown>> | undefined;
  const whole = change.path.length === 2 && typeof value === "object" && value !== null;
  if (list === "parts") return machine.parts.find((part) => part.id === id)?.name ?? (whole ? String(value.name) : "a part that is gone");
  if (list === "modes")
    return `mode ${machine.modes.find((mode) => mode.id === id)?.name ?? (whole ? String(value.name) : "that is gone")}`;
  if (list === "signals") return nameOfLink(machine, id);
  if (list === "decisions") {
    const decision = machine.decisions?.find((each) => each.id === id);
    return `decision on “${decision?.headline ?? (whole ? String(value.headline) : "a verdict that is gone")}”`;
  }
  return nameOfWire(machine, id);
}

/** What changed, in the builder's words, by the names the machine has. */
export function changeWords(machine: Machine, change: Change): ChangeWords {
  const { path, before, after } = change;
  const [list = "", id] = path;
  const field = path.at(-1) ?? "";
  const inList = list in ORDER_WORDS;
  if (inList && id === undefined) return { what: ORDER_WORDS[list] as string, before: "as it was", after: "another" };
  if (inList && path.length === 2)
    return {
      what: capital(elementName(machine, change)),
      before: before === undefined ? "not there" : "there",
      after: after === undefined ? "removed" : before === undefined ? "added" : "replaced",
    };
  const mode = path[2] === "cells" ? machine.modes.find((each) => each.id === path[3])?.name : undefined;
  const name = path[2] === "cells" ? `in ${mode ?? "a mode that is gone"}` : fieldWords(field);
  const within = inList && path.length > 3 && path[2] !== "cells" ? `${fieldWords(path[2] ?? "")}, ` : "";
  const owner = inList ? `${capital(elementName(machine, change))}: ` : list === "settings" ? "Settings: " : "Machine: ";
  const said = (value: unknown) => valueWords(machine, path[2] === "cells" || path[2] === "levels" ? "cellA" : field, value);
  return { what: `${owner}${within}${name}`, before: said(before), after: said(after) };
}

/** A change on one line: "Feed of Gate: conductor 16 AWG → 10 AWG". */
export function changeLine(machine: Machine, change: Change): string {
  const { what, before, after } = changeWords(machine, change);
  return ["added", "removed", "replaced"].includes(after) || before === "as it was"
    ? `${what} ${after === "another" ? "changed" : after}`
    : `${what} ${before} → ${after}`;
}

/** Lines kept of one revision. */
const LINES_MAX = 12;

/** What changed between two versions, in lines: the names of what came are the newer version's, of what went the older's. */
export function changeLines(before: Machine, after: Machine, changes: readonly Change[]): string[] {
  // A part and its wires come and go together: the part says it for all of them.
  const partsToo = new Set(changes.flatMap(({ path }) => (path[0] === "parts" && path.length === 2 ? [path[1]] : [])));
  const endsOn = (value: unknown) => {
    const wire = value as { from?: { part?: string }; to?: { part?: string } } | undefined;
    return partsToo.has(wire?.from?.part) || partsToo.has(wire?.to?.part);
  };
  const said = changes.filter(({ path, before: was, after: is }) => !(path[0] === "wires" && path.length === 2 && endsOn(is ?? was)));
  const lines = said.map((change) => changeLine(change.after === undefined && change.path.length === 2 ? before : after, change));
  return lines.length <= LINES_MAX ? lines : [...lines.slice(0, LINES_MAX), `and ${lines.length - LINES_MAX} figures more`];
}
