import type { Cell, LevelName } from "../machine/load-schema";
import type { Load, Machine, Pack, Part, Wire } from "../machine/schema";
import { happens } from "../machine/terminals";
import { cellOhm, packOhm } from "../packs/chemistry";
import { say } from "../quantity/format";
import type { Dimension } from "../quantity/units";
import { chemistryOf } from "../reference/chemistries";
import { WINDOWED } from "../reference/load-kinds";

/** An end of what a figure may be: `weak` costs most volts or draws most, `strong` least. */
export type End = "weak" | "usual" | "strong";

/** A figure that nobody gave, with the range it is bound to lie in. */
export interface Missing {
  /** Part or wire it belongs to, and the step where it is given. */
  readonly row: string;
  /** Every part and wire that it is asked about at. */
  readonly about: readonly string[];
  readonly step: "loads" | "sources" | "feeds";
  /** "Internal resistance of Pack". */
  readonly what: string;
  /** "8 mΩ to 75 mΩ". */
  readonly range: string;
  /** The machine with it given. */
  readonly given: (machine: Machine, end: End) => Machine;
}

interface Range {
  readonly weak: number;
  readonly usual: number;
  readonly strong: number;
}

/** Length of a conductor inside a machine, m (common practice, no source); it counts as one metre until it is known. */
const LENGTH_M: Range = { weak: 10, usual: 1, strong: 0.1 };
/** What both switches of a bridge lose together at what it carries continuously, V: a bipolar one has three (common practice, no source). */
const BRIDGE_LOSS_V: Range = { weak: 3, usual: 0.3, strong: 0.02 };
/** A contact, Ω (common practice, no source). */
const CONTACT_OHM: Range = { weak: 0.01, usual: 3e-4, strong: 1e-4 };
/** What a source loses at its rated current, share of its volts; a plug-in supply need not regulate (common practice, no source). */
const SUPPLY_LOSS: Range = { weak: 0.2, usual: 0.01, strong: 0.0005 };
const CONVERTER_LOSS: Range = { weak: 0.05, usual: 0.01, strong: 0.0005 };
/** A pack's resistance against that of new, warm cells of its kind: old and cold ones have several times as much (handbook's rows, from memory). */
const PACK_FACTOR: Range = { weak: 4, usual: 1, strong: 0.5 };
/** What a board is sure to run between, share of the volts it is made for (5 % either way: common practice, no source). */
const WINDOW: Range = { weak: 0.05, usual: 0.1, strong: 0.3 };
/** Waiting against running at most: a stepper holds its place with more than it turns with (common practice, no source). */
const IDLE_MOST = 1.5;
/** Starting or held still against running, times (common practice, no source; a brushed motor's is two to twelve). */
const STALL_TIMES: Range = { weak: 12, usual: 5, strong: 1 };

const spoken = (dimension: Dimension, range: Range) => {
  const [low, high] = [Math.min(range.weak, range.strong), Math.max(range.weak, range.strong)];
  return `${say(low, dimension)} to ${say(high, dimension)}`;
};

const scaled = ({ weak, usual, strong }: Range, by: number): Range => ({ weak: weak * by, usual: usual * by, strong: strong * by });

/** As sure as can be: what it may be off by is what the ends are for. */
const sure = (value: number) => ({ value, provenance: "measured" as const });

function withPart(machine: Machine, id: string, changed: (part: Part) => Part): Machine {
  return { ...machine, parts: machine.parts.map((part) => (part.id === id ? changed(part) : part)) };
}

/** A field of a part that is one figure. */
function field(part: Part, key: string, what: string, dimension: Dimension, range: Range): Missing {
  return {
    row: part.id,
    about: [part.id],
    step: part.kind === "driver" || part.kind === "switch" ? "feeds" : "sources",
    what: `${what} of ${part.name}`,
    range: spoken(dimension, range),
    given: (machine, end) => withPart(machine, part.id, (now) => ({ ...now, [key]: sure(range[end]) }) as Part),
  };
}

function ofPack(pack: Pack): Missing[] {
  const { chemistry: id, series, parallel = 1, capacityAh } = pack;
  if (pack.internalOhm || id === undefined || series === undefined || !capacityAh) return [];
  const ohm = packOhm(cellOhm(chemistryOf(id), capacityAh.value / parallel), series, parallel, 0);
  return [field(pack, "internalOhm", "Internal resistance", "resistance", scaled(PACK_FACTOR, ohm))];
}

/** A window of electronics, where the volts it is made for are known: whatever it is, it holds them and a little either way. */
function ofWindow(load: Load): Missing[] {
  if (!WINDOWED.has(load.loadKind) || (load.inputMinV && load.inputMaxV)) return [];
  const volts = load.nominalV.value;
  const at = (end: End) => ({
    ...(load.inputMinV ? {} : { inputMinV: sure(volts * (1 - WINDOW[end])) }),
    ...(load.inputMaxV ? {} : { inputMaxV: sure(volts * (1 + WINDOW[end])) }),
  });
  return [
    {
      row: load.id,
      about: [load.id],
      step: "sources",
      what: `The volts ${load.name} runs between`,
      range: `any that reach from ${say(volts * (1 - WINDOW.weak), "voltage")} to ${say(volts * (1 + WINDOW.weak), "voltage")}`,
      given: (machine, end) => withPart(machine, load.id, (now) => ({ ...now, ...at(end) }) as Part),
    },
  ];
}

/** Levels that a mode asks for and nobody gave, between those that are known. */
function ofLevels(load: Load): Missing[] {
  const { idle, run, start, stall } = load.levels ?? {};
  const asked = (name: LevelName, state: Cell["state"]) =>
    load.levels?.[name] === undefined && Object.values(load.cells).some((cell) => cell?.state === state);
  if (!run) return [];
  // What starts it may be less than what it takes held still, where something softens the start.
  const most = stall?.value ?? Math.max(start?.value ?? 0, STALL_TIMES.weak * run.value);
  const held = { weak: most, usual: stall?.value ?? start?.value ?? STALL_TIMES.usual * run.value, strong: run.value };
  const ranges: Partial<Record<LevelName, Range>> = {
    ...(asked("idle", "idle") && !idle ? { idle: { weak: IDLE_MOST * run.value, usual: run.value / 3, strong: 0 } } : {}),
    ...(asked("start", "start") ? { start: held } : {}),
    ...(asked("stall", "stall") || asked("stall", "reverse") ? { stall: held } : {}),
  };
  const words: Readonly<Record<LevelName, string>> = { idle: "idle", run: "running", start: "starting", stall: "held still" };
  return (Object.keys(ranges) as LevelName[]).map((level) => ({
    row: load.id,
    about: [load.id],
    step: "loads" as const,
    what: `Current of ${load.name}, ${words[level]}`,
    range: spoken("current", ranges[level] as Range),
    given: (machine, end) =>
      withPart(machine, load.id, (now) =>
        now.kind === "load" ? { ...now, levels: { ...now.levels, [level]: sure((ranges[level] as Range)[end]) } } : now,
      ),
  }));
}

/** The most a load can draw, whatever it does; null where nobody can know: boards and motors draw more than they were seen to. */
function fullCell(load: Load): Cell | null {
  const { run, stall } = load.levels ?? {};
  if (stall) return { state: "stall" };
  if (load.loadKind !== "heater" && load.loadKind !== "light") return null;
  const told = Object.values(load.cells).flatMap((cell) => (cell?.state === "amps" ? [cell.amps.value] : []));
  if (run) return { state: "run", percent: 100 };
  return told.length > 0 ? { state: "amps", amps: sure(Math.max(...told)) } : null;
}

/** What a load does in a mode that nobody told, where the most it can draw is known: from nothing to that. */
function ofCells(machine: Machine, load: Load): Missing[] {
  const missing = machine.modes.filter(({ id }) => load.cells[id] === undefined);
  const full = fullCell(load);
  if (missing.length === 0 || full === null) return [];
  const usual: Cell = load.levels?.run ? { state: "run", percent: 100 } : full;
  const cells: Readonly<Record<End, Cell>> = { weak: full, usual, strong: { state: "off" } };
  return [
    {
      row: load.id,
      about: [load.id],
      step: "loads",
      what: `What ${load.name} does in ${missing.map(({ name }) => name).join(", ")}`,
      range: full.state === "stall" ? "from nothing to held still" : "from nothing to the most it draws",
      given: (now, end) =>
        withPart(now, load.id, (part) =>
          part.kind === "load"
            ? { ...part, cells: { ...part.cells, ...Object.fromEntries(missing.map(({ id }) => [id, cells[end]])) } }
            : part,
        ),
    },
  ];
}

function ofPart(machine: Machine, part: Part): Missing[] {
  switch (part.kind) {
    case "pack":
      return ofPack(part);
    case "supply":
    case "converter":
      if (part.outputOhm || !part.ratedA) return [];
      return [
        field(
          part,
          "outputOhm",
          "Output resistance",
          "resistance",
          scaled(part.kind === "supply" ? SUPPLY_LOSS : CONVERTER_LOSS, part.outputV.value / part.ratedA.value),
        ),
      ];
    case "driver":
      if (part.bridgeOhm || part.bridgeV || !part.continuousA) return [];
      return [field(part, "bridgeOhm", "Bridge resistance", "resistance", scaled(BRIDGE_LOSS_V, 1 / part.continuousA.value))];
    case "switch":
      return part.contactOhm ? [] : [field(part, "contactOhm", "Contact resistance", "resistance", CONTACT_OHM)];
    case "load":
      return [...ofWindow(part), ...ofLevels(part), ...ofCells(machine, part)];
    default:
      return [];
  }
}

/** A feed and its return are asked about together: they run the same way. */
function ofWire(machine: Machine, wire: Wire): Missing[] {
  if (wire.lengthM || happens(wire) || (wire.pair !== undefined && !machine.wires.find(({ id }) => id === wire.pair)?.lengthM)) return [];
  const to = machine.parts.find(({ id }) => id === (wire.role === "return" ? wire.from.part : wire.to.part));
  const own = new Set([wire.id, ...machine.wires.filter(({ pair, lengthM }) => pair === wire.id && !lengthM).map(({ id }) => id)]);
  return [
    {
      row: wire.id,
      about: [...own],
      step: "feeds",
      what: `Length of the ${wire.role === "return" ? "return" : wire.role === "signal" ? "ground" : "feed"} of ${to?.name ?? "a part"}`,
      range: spoken("length", LENGTH_M),
      given: (now, end) => ({
        ...now,
        wires: now.wires.map((each) => (own.has(each.id) ? { ...each, lengthM: sure(LENGTH_M[end]) } : each)),
      }),
    },
  ];
}

/** Every figure of a plan that nobody gave and that lies in a range all the same. What has none, such as a size of wire, is always asked. */
export function missingFigures(machine: Machine): Missing[] {
  return [...machine.parts.flatMap((part) => ofPart(machine, part)), ...machine.wires.flatMap((wire) => ofWire(machine, wire))];
}
