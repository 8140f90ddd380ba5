import { computeFigures, type Figures } from "../figures/figures";
import { solveMachine } from "../figures/solved";
import { fuseLimitAt, limitAt, smallestFuse, thinnest } from "../fuses/pick";
import { leastRating, PLAIN_FUSE } from "../fuses/rating";
import { goesOn } from "../machine/lasting";
import type { Cell, Level } from "../machine/load-schema";
import type { FuseRef, Load, Machine, Pack, Part, Source, Wire } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { familyMaxV } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { usualFuseA } from "../reference/practice";
import { takersOf } from "../sources/demand";
import { runResistance } from "../wires/resistance";
import { mostVolts } from "./offer";

/** Main voltages that parts are sold for. */
const MAIN_VOLTS = [12, 24, 48] as const;
/** A main voltage to compare. */
export type MainVolts = (typeof MAIN_VOLTS)[number];

/** Contact classes of connectors, A a contact: steps in which housings are sold (common practice, no source). */
const CONTACT_CLASSES = [5, 10, 15, 30, 45, 60, 75, 120, 175, 350] as const;
/** Largest main fuse that is looked for, A. */
const MAIN_FUSE_MOST_A = 500;

/** The machine at another main voltage. */
export interface Replan {
  readonly volts: MainVolts;
  /** The voltage the machine is planned at now. */
  readonly present: boolean;
  readonly sourceName: string;
  /** From the main source, A. */
  readonly continuousA: number;
  readonly peakA: number;
  /** Loads without a figure would add to the continuous and to the peak current. */
  readonly continuousAtLeast: boolean;
  readonly peakAtLeast: boolean;
  /** Heat in all wires of the main rail in the hungriest lasting mode, W. */
  readonly wireW: number;
  /** Copper of the main rail's wires, each as thin as its school and its drop allow, kg. */
  readonly copperKg: number;
  readonly thickest: string;
  readonly unsized: number;
  readonly mainFuse: FuseRef | null;
  /** Contact class the main connector needs, A; null: beyond housings, use bolted lugs. */
  readonly contactA: number | null;
  /** Parts that do not take the voltage, and why. */
  readonly refuses: readonly { readonly name: string; readonly why: string }[];
  /** Motors, heaters and lamps wound for another voltage. */
  readonly rewound: readonly string[];
  readonly converters: number;
  readonly collapses: boolean;
  readonly fullV: number;
}

/** The source most of the machine hangs on: what gives most power. */
export function mainSource(figures: Figures): Source | null {
  let best: { part: Source; watts: number } | null = null;
  for (const part of figures.machine.parts) {
    if (!isSource(part) || (part.kind === "supply" && part.make === "charger")) continue;
    const figure = figures.parts[part.id];
    const watts = Math.max(0, ...figures.modes.map((_, m) => (figure?.outV?.[m] ?? 0) * (figure?.amps[m] ?? 0)));
    if (!best || watts > best.watts) best = { part, watts };
  }
  return best?.part ?? null;
}

/** Nominal main voltage a source stands for: the nearest of 12, 24, 48 on a ratio scale. */
export function nominalOf(volts: number): MainVolts {
  return MAIN_VOLTS.reduce((best, each) => (Math.abs(Math.log(volts / each)) < Math.abs(Math.log(volts / best)) ? each : best));
}

function scaled<F extends { value: number } | undefined>(figure: F, by: number): F {
  return figure === undefined ? figure : { ...figure, value: figure.value * by };
}

/** The same cells regrouped, or the same watts from a supply of another voltage. `ratio` is new volts over old. */
function sourceAt(source: Source, ratio: number): Source {
  if (source.kind === "supply") {
    return {
      ...source,
      outputV: scaled(source.outputV, ratio),
      ratedA: scaled(source.ratedA, 1 / ratio),
      limitA: scaled(source.limitA, 1 / ratio),
      outputOhm: scaled(source.outputOhm, ratio ** 2),
    };
  }
  const series = source.series === undefined ? undefined : Math.max(1, Math.round(source.series * ratio));
  // Cells come whole: the voltage moves by what the string really became.
  const real = series === undefined || source.series === undefined ? ratio : series / source.series;
  const pack: Pack = {
    ...source,
    ...(series === undefined ? {} : { series }),
    openCircuitV: scaled(source.openCircuitV, real),
    fullV: scaled(source.fullV, real),
    lowV: scaled(source.lowV, real),
    cutoffV: scaled(source.cutoffV, real),
    internalOhm: scaled(source.internalOhm, real ** 2),
    capacityAh: scaled(source.capacityAh, 1 / real),
    continuousA: scaled(source.continuousA, 1 / real),
    peakA: scaled(source.peakA, 1 / real),
  };
  return pack;
}

function cellAt(cell: Cell, by: number): Cell {
  if (cell.state === "off") return cell;
  const read = cell.measured ? { measured: scaled(cell.measured, by) } : {};
  return cell.state === "amps" ? { ...cell, amps: scaled(cell.amps, by), ...read } : { ...cell, ...read };
}

function levelAt(level: Level | undefined, by: number): Level | undefined {
  if (!level) return undefined;
  const { basis: _basis, low, high, ...figure } = level;
  return {
    ...figure,
    value: figure.value * by,
    ...(low === undefined ? {} : { low: low * by }),
    ...(high === undefined ? {} : { high: high * by }),
  };
}

/** A load of the same power made for another voltage. */
function loadAt(load: Load, ratio: number): Load {
  const by = 1 / ratio;
  return {
    ...load,
    nominalV: scaled(load.nominalV, ratio),
    ...(load.levels
      ? {
          levels: {
            idle: levelAt(load.levels.idle, by),
            run: levelAt(load.levels.run, by),
            start: levelAt(load.levels.start, by),
            stall: levelAt(load.levels.stall, by),
          },
        }
      : {}),
    cells: Object.fromEntries(Object.entries(load.cells).map(([mode, cell]) => [mode, cellAt(cell, by)])),
  };
}

/**
 * Behind a driver that chops its current the same winding runs on any main voltage: its amps in the winding stay, and what it
 * takes from the rail falls as the volts rise.
 */
function isChopped({ loadKind }: Load): boolean {
  return loadKind === "stepper";
}

/** Loads whose current would be another one on another main voltage: on the main rail, straight or behind a driver. */
function onMain(figures: Figures, source: Source): Load[] {
  return figures.machine.parts.filter((part): part is Load => part.kind === "load" && railOrigin(figures.ledger, part.id) === source.id);
}

/** Wires that carry the main rail: between the source and everything that hangs on it. */
function mainWires(figures: Figures, source: Source): Wire[] {
  const converters = new Set(figures.machine.parts.flatMap((part) => (part.kind === "converter" ? [part.id] : [])));
  const own = (id: string) =>
    id === source.id || railOrigin(figures.ledger, id) === source.id || figures.ledger.rowOf.get(id)?.rail == null;
  return figures.machine.wires.filter((wire) => {
    if (wire.from.terminal.startsWith("out") && converters.has(wire.from.part)) return false;
    if (wire.to.terminal.startsWith("out") && converters.has(wire.to.part)) return false;
    return own(wire.from.part) && own(wire.to.part);
  });
}

/** The machine planned at another main voltage: cells regrouped, loads of the same power, everything else as it is. */
export function replanned(figures: Figures, source: Source, volts: MainVolts): Machine {
  const ratio = volts / nominalOf(source.kind === "pack" ? source.openCircuitV.value : source.outputV.value);
  if (ratio === 1) return figures.machine;
  const moved = new Set(onMain(figures, source).map(({ id }) => id));
  return {
    ...figures.machine,
    parts: figures.machine.parts.map((part): Part => {
      if (part.id === source.id) return sourceAt(source, ratio);
      return part.kind === "load" && moved.has(part.id) ? loadAt(part, ratio) : part;
    }),
  };
}

/** The machine at 12, 24 and 48 V side by side; null without a source. */
export function replans(figures: Figures): Replan[] | null {
  const source = mainSource(figures);
  if (!source) return null;
  const present = nominalOf(source.kind === "pack" ? source.openCircuitV.value : source.outputV.value);
  return MAIN_VOLTS.map((volts) => at(figures, source, volts, volts === present));
}

function at(figures: Figures, source: Source, volts: MainVolts, present: boolean): Replan {
  const machine = replanned(figures, source, volts);
  const then = present ? figures : computeFigures(solveMachine(machine));
  const supply = machine.parts.find(({ id }) => id === source.id) as Source;
  const fullV = supply.kind === "pack" ? (supply.fullV?.value ?? supply.openCircuitV.value) : supply.outputV.value;
  const lowV = supply.kind === "pack" ? (supply.lowV?.value ?? supply.openCircuitV.value) : supply.outputV.value;
  const given = then.parts[source.id];
  const collapses = then.modes.some((mode) => mode.collapsed || mode.collapsedLow);
  let mode = 0;
  let continuousA = 0;
  machine.modes.forEach((each, m) => {
    if (!goesOn(each) || (given?.amps[m] ?? 0) <= continuousA) return;
    continuousA = given?.amps[m] ?? 0;
    mode = m;
  });
  const wires = mainWires(figures, source);
  const refuses = takersOf(figures, source.id).flatMap((part) => {
    // Loads on the main rail are planned anew for its volts; what has a window, or hangs there as it is, must bear them.
    const rewound = part.kind === "load" && !part.inputMinV && !part.inputMaxV && !present;
    if (rewound) return [];
    const most = mostVolts(part) ?? undefined;
    const least = "inputMinV" in part ? part.inputMinV?.value : undefined;
    if (most !== undefined && fullV > most) return [{ name: part.name, why: `bears ${round(most)} V, the rail reaches ${round(fullV)} V` }];
    if (least !== undefined && lowV < least)
      return [{ name: part.name, why: `needs ${round(least)} V, the rail falls to ${round(lowV)} V` }];
    return [];
  });
  const peakA = given?.worstOut?.amps ?? 0;
  const { settings } = machine;
  const least = leastRating(continuousA, PLAIN_FUSE, settings.schools.fuseLoadFactor, settings.ambientC);
  const mainFuse = smallestFuse(least, MAIN_FUSE_MOST_A, fullV, familyMaxV("strip_m5_58v") >= fullV ? "strip_m5_58v" : null);
  const sizes = wires.map((wire) => sized(then, wire, volts, mainFuse?.ratingA ?? 0));
  return {
    volts,
    present,
    sourceName:
      supply.kind === "pack" && supply.series !== undefined
        ? `${supply.series}S, ${round(supply.capacityAh?.value ?? 0)} Ah`
        : `${round(supply.kind === "pack" ? supply.openCircuitV.value : supply.outputV.value)} V`,
    continuousA,
    peakA,
    continuousAtLeast: given?.atLeast[mode] === 1,
    peakAtLeast: given?.worstAtLeast ?? true,
    wireW: wires.reduce((sum, wire) => sum + (then.wires[wire.id]?.heatW[mode] ?? 0), 0),
    copperKg: sizes.reduce((sum, each) => sum + (each?.kg ?? 0), 0),
    thickest:
      sizes.reduce<{ id: string; area: number } | null>((best, each) => (each && each.area > (best?.area ?? 0) ? each : best), null)?.id ??
      "–",
    unsized: sizes.filter((each) => each === null).length,
    mainFuse,
    contactA: CONTACT_CLASSES.find((each) => each >= continuousA) ?? null,
    refuses,
    rewound: present ? [] : onMain(figures, source).flatMap((load) => (isChopped(load) ? [] : [load.name])),
    converters: refuses.length,
    collapses,
    fullV,
  };
}

const round = (volts: number) => Math.round(volts * 10) / 10;

/** The thinnest size of a wire for what it carries then: behind that main fuse, by its school and by its share of the drop the plan allows. */
function sized(figures: Figures, wire: Wire, volts: number, fuseA: number): { id: string; area: number; kg: number } | null {
  const figure = figures.wires[wire.id];
  const { settings } = figures.machine;
  if (!figure || wire.lengthM === undefined) return null;
  const lengthM = wire.lengthM.value;
  // A way out and back of a few wires in a row: each may take a quarter of what is allowed.
  const allowedV = (volts * settings.dropPowerPercent) / 100 / 4;
  const gauge = thinnest(wire, (each) => {
    const ohm = runResistance(each.r20OhmPerKm, lengthM, settings.conductorC, settings.jointOhm, wire.parallel);
    if (fuseLimitAt(each, wire, settings) < fuseA || usualFuseA(each.areaMm2) < fuseA) return false;
    return limitAt(each, wire, settings) >= figure.worstContinuous.amps && figure.worstContinuous.amps * ohm <= allowedV;
  });
  if (!gauge) return null;
  const area = gaugeById(gauge.id)?.areaMm2 ?? 0;
  return { id: gauge.id, area: area * wire.parallel, kg: (gauge.copperGPerM * lengthM * wire.parallel) / 1000 };
}
