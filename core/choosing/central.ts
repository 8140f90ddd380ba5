import { computeFigures, type Figures } from "../figures/figures";
import { solveMachine } from "../figures/solved";
import { goesOn } from "../machine/lasting";
import type { Converter, Load, Machine, Part, Wire } from "../machine/schema";

/** One way to feed the loads of a rail: from one place or at each load. */
export interface Arrangement {
  readonly converters: number;
  /** Drawn from the source by all of the machine in the hungriest lasting mode, W; lost in wires and in converters of this rail. */
  readonly inputW: number;
  readonly wiresW: number;
  readonly convertersW: number;
  /** Lowest volts over all modes, by load. */
  readonly lowest: readonly { readonly name: string; readonly volts: number; readonly leastV: number | null }[];
  /** Largest move of any load's volts between modes, V: what one load's current does to the others. */
  readonly swingV: number;
  readonly swingAt: string | null;
}

/** One regulator for all against one at each point of use. */
export interface Comparison {
  readonly central: Arrangement;
  readonly pointOfUse: Arrangement;
  readonly mode: string;
}

/** Wire between a regulator and the load beside it, m. */
const BESIDE_M = 0.1;
/** What a regulator is chosen for, times what it gives (common practice, no source). */
const SPARE = 1.25;

/** The loads straight on a converter's output, with both their wires. */
function loadsOf(figures: Figures, converter: Converter): { load: Load; feed: Wire; back: Wire }[] {
  return figures.machine.parts.flatMap((part) => {
    const row = figures.ledger.rowOf.get(part.id);
    if (part.kind !== "load" || !row?.feed || !row.back) return [];
    return row.feed.from.part === converter.id && row.feed.from.terminal === "out+" ? [{ load: part, feed: row.feed, back: row.back }] : [];
  });
}

/** Both arrangements; null where fewer than two loads hang straight on the converter. */
export function compareArrangements(figures: Figures, converterId: string): Comparison | null {
  const converter = figures.partOf.get(converterId);
  const row = figures.ledger.rowOf.get(converterId);
  if (converter?.kind !== "converter" || !row?.feed || !row.back) return null;
  const loads = loadsOf(figures, converter);
  if (loads.length < 2) return null;
  const { machine } = figures;
  const twin = spread(figures, converter, row.feed, row.back, loads);
  const then = computeFigures(solveMachine(twin.machine));
  const mode = hungriest(figures, converter);
  const wires = loads.flatMap(({ feed, back }) => [feed.id, back.id]);
  const names = loads.map(({ load }) => load);
  return {
    central: read(figures, [converter.id], [...wires, row.feed.id, row.back.id], names, mode),
    pointOfUse: read(then, twin.converters, [...wires, ...twin.wires], names, mode),
    mode: machine.modes[mode]?.name ?? "",
  };
}

function hungriest(figures: Figures, converter: Converter): number {
  let best = 0;
  let amps = -1;
  figures.machine.modes.forEach((mode, m) => {
    const now = figures.parts[converter.id]?.outA?.[m] ?? 0;
    if (!goesOn(mode) || now <= amps) return;
    amps = now;
    best = m;
  });
  return best;
}

/** The machine with a regulator of the same make at each load, fed over the load's own wires from where the one was fed. */
function spread(
  figures: Figures,
  converter: Converter,
  feed: Wire,
  back: Wire,
  loads: readonly { load: Load; feed: Wire; back: Wire }[],
): { machine: Machine; converters: string[]; wires: string[] } {
  const parts: Part[] = figures.machine.parts.filter(({ id }) => id !== converter.id);
  const moved = new Map<string, Wire>();
  const added: Wire[] = [];
  const converters: string[] = [];
  loads.forEach((each, i) => {
    const id = `point-of-use-${i}`;
    converters.push(id);
    const amps = figures.parts[each.load.id]?.worst.amps ?? 0;
    parts.push({
      ...converter,
      id,
      name: `${converter.name} at ${each.load.name}`.slice(0, 80),
      ratedA: { value: amps * SPARE, provenance: "guess" },
    });
    moved.set(each.feed.id, { ...each.feed, from: feed.from, to: { part: id, terminal: "in+" } });
    moved.set(each.back.id, { ...each.back, from: { part: id, terminal: "in-" }, to: back.to });
    const short = {
      lengthM: { value: BESIDE_M, provenance: "typical" as const },
      parallel: 1,
      insulation: each.feed.insulation,
      ...(each.feed.gauge ? { gauge: each.feed.gauge } : {}),
    };
    const out: Wire = {
      ...short,
      id: `${id}-out`,
      role: "supply",
      from: { part: id, terminal: "out+" },
      to: { part: each.load.id, terminal: "+" },
    };
    added.push(out, {
      ...short,
      id: `${id}-back`,
      role: "return",
      from: { part: each.load.id, terminal: "-" },
      to: { part: id, terminal: "out-" },
      pair: out.id,
    });
  });
  const gone = new Set([feed.id, back.id]);
  const touches = (wire: Wire) => wire.from.part === converter.id || wire.to.part === converter.id;
  // Whatever else hung on the one regulator would dangle: it is no part of the comparison.
  const wires = figures.machine.wires.flatMap((wire) => {
    if (gone.has(wire.id)) return [];
    const now = moved.get(wire.id) ?? wire;
    return touches(now) ? [] : [now];
  });
  return { machine: { ...figures.machine, parts, wires: [...wires, ...added] }, converters, wires: added.map(({ id }) => id) };
}

function read(
  figures: Figures,
  converters: readonly string[],
  wires: readonly string[],
  loads: readonly Load[],
  mode: number,
): Arrangement {
  let swingV = 0;
  let swingAt: string | null = null;
  const lowest = loads.map((load) => {
    const figure = figures.parts[load.id];
    const volts = figures.modes.flatMap((_, m) => (figure?.live[m] ? [figure.volts[m] ?? 0] : []));
    const swing = volts.length > 1 ? Math.max(...volts) - Math.min(...volts) : 0;
    if (swing > swingV) {
      swingV = swing;
      swingAt = load.name;
    }
    return { name: load.name, volts: figure?.lowestV?.volts ?? 0, leastV: load.inputMinV?.value ?? null };
  });
  const sum = (ids: readonly string[], of: (id: string) => number) => ids.reduce((total, id) => total + of(id), 0);
  return {
    converters: converters.length,
    inputW: sum(converters, (id) => (figures.parts[id]?.volts[mode] ?? 0) * (figures.parts[id]?.amps[mode] ?? 0)),
    wiresW: sum([...new Set(wires)], (id) => figures.wires[id]?.heatW[mode] ?? 0),
    convertersW: sum(converters, (id) => figures.parts[id]?.lossW?.[mode] ?? 0),
    lowest,
    swingV,
    swingAt,
  };
}
