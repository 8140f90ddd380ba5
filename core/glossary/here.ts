import type { Figures } from "../figures/figures";
import type { Load, Part } from "../machine/schema";
import { ledgerOf } from "../machine/tree";
import { say } from "../quantity/format";
import type { Dimension } from "../quantity/units";

/** The largest by a measure, of those that have one. */
function most<T>(items: readonly T[], of: (item: T) => number | undefined): { item: T; value: number } | null {
  let best: { item: T; value: number } | null = null;
  for (const item of items) {
    const value = of(item);
    if (value !== undefined && Number.isFinite(value) && (!best || value > best.value)) best = { item, value };
  }
  return best;
}

/** One bar of a small picture: what it is, its figure in words, and its length as a share of the longest. */
export interface WordBar {
  readonly name: string;
  readonly text: string;
  readonly share: number;
  /** A line that the others are held against: a rating, a limit. */
  readonly limit: boolean;
}

/** What a trade word is in one machine: a sentence with its numbers, and where it helps the same as bars. */
export interface WordHere {
  readonly says: string;
  readonly bars: readonly WordBar[];
}

type Teller = (figures: Figures) => string | WordHere | null;

/** A figure of a picture; null: not known, and not drawn. */
interface Drawn {
  readonly name: string;
  readonly value: number | null | undefined;
  readonly limit?: boolean;
}

/** Bars of one dimension on one scale; none where fewer than two figures are known: there is nothing to compare. */
function pictured(says: string, dimension: Dimension, drawn: readonly Drawn[]): WordHere {
  const known = drawn.flatMap(({ name, value, limit = false }) =>
    typeof value === "number" && Number.isFinite(value) ? [{ name, value, limit }] : [],
  );
  const longest = Math.max(...known.map(({ value }) => value));
  if (known.length < 2 || !(longest > 0)) return { says, bars: [] };
  return {
    says,
    bars: known.map(({ name, value, limit }) => ({
      name,
      text: say(value, dimension, limit ? "down" : "up"),
      share: Math.max(0, value / longest),
      limit,
    })),
  };
}

const loads = ({ machine }: Figures) => machine.parts.filter((part): part is Load => part.kind === "load");
const named = (figures: Figures, kind: Part["kind"]) => figures.machine.parts.find((part) => part.kind === kind);

/** A trade word with this machine's own numbers, by its id. */
const HERE: Readonly<Record<string, Teller>> = {
  stall: (figures) => {
    const found = most(loads(figures), ({ levels }) => levels?.stall?.value);
    if (!found) return null;
    const { name, levels } = found.item;
    return pictured(`${name} held still pulls ${say(found.value, "current", "up")}: that is its stall.`, "current", [
      { name: "Turning free", value: levels?.idle?.value },
      { name: "Running", value: levels?.run?.value },
      { name: "Starting", value: levels?.start?.value },
      { name: "Held still", value: found.value },
    ]);
  },
  "internal-resistance": (figures) => {
    const pack = named(figures, "pack");
    if (pack?.kind !== "pack" || !pack.internalOhm) return null;
    const ohm = pack.internalOhm.value;
    const amps = figures.parts[pack.id]?.worstContinuous.amps ?? 10;
    const rested = pack.openCircuitV.value;
    return pictured(
      `${pack.name}: ${say(ohm, "resistance")} inside. At ${say(amps, "current")} that loses ${say(amps * ohm, "voltage", "up")}.`,
      "voltage",
      [
        { name: "At rest", value: rested, limit: true },
        { name: `At ${say(amps, "current")}`, value: Math.max(0, rested - amps * ohm), limit: true },
      ],
    );
  },
  drop: (figures) => {
    const found = most(Object.keys(figures.wires), (id) => Math.max(...(figures.wires[id]?.dropV ?? [0])));
    const wire = found && figures.wireOf.get(found.item);
    const part = wire && figures.partOf.get(wire.pair === undefined ? wire.to.part : wire.from.part);
    if (!found || !part || !(found.value > 0)) return null;
    const reaches = figures.parts[part.id]?.reachesV;
    return pictured(`The most here: ${say(found.value, "voltage")} in the wire of ${part.name}.`, "voltage", [
      { name: `Reaches ${part.name}`, value: reaches, limit: true },
      { name: "Lost in this wire", value: found.value },
    ]);
  },
  rail: ({ machine }) => {
    const rails = ledgerOf(machine).rails.slice(0, 4);
    return rails.length > 0
      ? `Here: ${rails.map(({ tag, origin }) => `${tag} is what ${machine.parts.find(({ id }) => id === origin)?.name ?? "a source"} gives`).join(", ")}.`
      : null;
  },
  bar: (figures) => {
    const bars = figures.machine.parts.filter((part) => part.kind === "bar");
    const found = most(bars, ({ id }) => figures.parts[id]?.worst.amps);
    return (
      found &&
      pictured(`${found.item.name} takes up to ${say(found.value, "current", "up")}.`, "current", [
        { name: "At most, briefly", value: found.value },
        { name: "Continuously", value: figures.parts[found.item.id]?.worstContinuous.amps },
        { name: "Made for", value: found.item.ratedA?.value, limit: true },
      ])
    );
  },
  school: ({ machine }) => {
    const { schools } = machine.settings;
    const chosen = [schools.ampacity && `wires by ${schools.ampacity}`, schools.driverFeeds, schools.returns].filter(Boolean);
    return chosen.length > 0 ? `Chosen here: ${chosen.join(", ")}.` : "None is chosen here beyond the usual ones: see Settings.";
  },
  provenance: ({ machine }) => {
    const text = JSON.stringify(machine);
    const count = (how: string) => text.split(`"provenance":"${how}"`).length - 1;
    return `Here: ${count("measured")} figures measured, ${count("datasheet")} from sheets, ${count("typical")} typical, ${count("guess")} guessed.`;
  },
  gauge: (figures) => {
    const sized = figures.machine.wires.filter(({ gauge }) => gauge !== undefined);
    const found = most(sized, ({ id }) => figures.wires[id]?.worst.amps);
    if (!found) return null;
    const wire = figures.wires[found.item.id];
    return pictured(`The busiest wire here is ${found.item.gauge} and carries up to ${say(found.value, "current", "up")}.`, "current", [
      { name: "At most, briefly", value: found.value },
      { name: "Continuously", value: wire?.worstContinuous.amps },
      { name: `${found.item.gauge} may carry`, value: wire?.limitA, limit: true },
    ]);
  },
  fuse: (figures) => {
    const main = named(figures, "fuse");
    if (main?.kind !== "fuse") return null;
    const figure = figures.parts[main.id];
    return pictured(
      `${main.name}: ${main.fuse.ratingA} A, and ${say(figure?.worstContinuous.amps ?? 0, "current", "up")} go through it continuously.`,
      "current",
      [
        { name: "At most, briefly", value: figure?.worst.amps },
        { name: "Continuously", value: figure?.worstContinuous.amps },
        { name: "Rated", value: main.fuse.ratingA, limit: true },
      ],
    );
  },
  mode: ({ machine }) =>
    `Here: ${machine.modes
      .slice(0, 6)
      .map(({ name }) => name)
      .join(", ")}.`,
  converter: (figures) => {
    const found = named(figures, "converter");
    if (found?.kind !== "converter") return null;
    const gives = figures.parts[found.id]?.worstOut?.amps ?? 0;
    return pictured(
      `${found.name} makes ${say(found.outputV.value, "voltage")} and gives up to ${say(gives, "current", "up")}.`,
      "current",
      [
        { name: "Gives at most", value: gives },
        { name: "Takes at most", value: figures.parts[found.id]?.worst.amps },
        { name: "Rated", value: found.ratedA?.value, limit: true },
      ],
    );
  },
  driver: (figures) => {
    const found = figures.machine.parts.find((part) => part.kind === "driver" && part.continuousA);
    if (found?.kind !== "driver" || !found.continuousA) return null;
    return pictured(
      `${found.name}: its bare board carries ${say(found.continuousA.value, "current", "down")} continuously${found.headlineA ? `, ${say(found.headlineA.value, "current")} is printed on it` : ""}.`,
      "current",
      [
        { name: "Printed on it", value: found.headlineA?.value },
        { name: "Bare board, continuously", value: found.continuousA.value, limit: true },
        { name: "For seconds", value: found.peakA?.value, limit: true },
      ],
    );
  },
  sag: (figures) => {
    const pack = named(figures, "pack");
    const low = pack && figures.parts[pack.id]?.lowestV?.volts;
    if (pack?.kind !== "pack" || low === undefined) return null;
    const rested = pack.openCircuitV.value;
    return pictured(`${pack.name} rests at ${say(rested, "voltage")} and falls to ${say(low, "voltage", "down")} at worst.`, "voltage", [
      { name: "At rest", value: rested, limit: true },
      { name: "At worst", value: low, limit: true },
      { name: "Ends the run", value: pack.cutoffV?.value },
    ]);
  },
  "amp-hours": (figures) => {
    const pack = named(figures, "pack");
    return pack?.kind === "pack" && pack.capacityAh ? `${pack.name}: ${say(pack.capacityAh.value, "capacity")}.` : null;
  },
};

/** What a trade word is in this machine, with its own numbers; null where it says nothing of it. */
export function wordHere(figures: Figures, id: string): WordHere | null {
  const told = HERE[id]?.(figures) ?? null;
  return typeof told === "string" ? { says: told, bars: [] } : told;
}
