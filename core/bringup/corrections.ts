import type { Figures } from "../figures/figures";
import type { Command } from "../machine/commands";
import { type Figure, measured } from "../machine/figure";
import type { Level, LevelName } from "../machine/load-schema";
import type { Converter, Load } from "../machine/schema";
import { say } from "../quantity/format";
import { INSTRUMENTS } from "../reference/instruments";
import { meterDoubt, uncertaintyOf } from "./compare";
import { sourceOhm, sureFigure } from "./derive";
import type { Judged, JudgedStep } from "./judge";
import type { Reading } from "./log";

/** A figure of the plan that readings put right. */
export interface Correction {
  readonly id: string;
  /** What it is, for a row. */
  readonly what: string;
  readonly before: string;
  readonly after: string;
  /** Where it comes from and what stays beside it. */
  readonly why: string;
  readonly command: Command;
}

/** What a reading's doubt is as a share, for the figure's tolerance. */
function toleranceOf(reading: Reading): number {
  const share = reading.value ? Math.abs(uncertaintyOf(reading) / reading.value) : 0;
  return Math.min(1, Math.ceil(share * 1000) / 1000);
}

function asFigure(value: number, reading: Reading): Figure {
  return { ...measured(Number(value.toPrecision(4))), tolerance: toleranceOf(reading) };
}

/** How close a plan's figure must be to what was read to be left alone, as a share. */
const SAME = 0.005;

function differs(before: number | undefined, after: number): boolean {
  return before === undefined || Math.abs(before - after) > SAME * Math.max(Math.abs(before), Math.abs(after));
}

/** Every figure that the readings of a log would put right, in the order of its steps. Only what was read and not struck out counts. */
export function correctionsOf(figures: Figures, judged: Judged): Correction[] {
  const found: Correction[] = [];
  for (const stage of judged.stages)
    for (const step of stage.steps) {
      const made = step.reading && step.state !== "stale" ? correctionOf(figures, step, step.reading) : null;
      if (made) found.push(made);
    }
  return [...new Map([...found, ...packOhms(figures, judged)].map((each) => [each.id, each])).values()];
}

function correctionOf(figures: Figures, { step }: JudgedStep, reading: Reading): Correction | null {
  const { value } = reading;
  const { tells } = step;
  if (tells === null || value === null || !(value > 0)) return null;
  const part = figures.partOf.get(tells.kind === "output" ? tells.converter : tells.load);
  if (tells.kind === "output") return part?.kind === "converter" ? outputCorrection(part, value, reading) : null;
  if (part?.kind !== "load") return null;
  if (tells.kind === "cell") return cellCorrection(figures, part, tells.mode, value, reading);
  return levelCorrection(part, tells.level, tells.level === "stall" ? atNominal(part, step, value) : value / part.count, reading);
}

/** A held motor is its winding: at its nominal volts it would draw this. */
function atNominal(load: Load, step: JudgedStep["step"], amps: number): number {
  const expected = step.expect.kind === "band" ? step.expect.band.value : amps;
  const planned = load.levels?.stall?.value ?? amps;
  return expected > 0 ? (planned * amps) / expected : amps;
}

const LEVEL_WORDS: Readonly<Record<LevelName, string>> = {
  idle: "current at rest or turning free",
  run: "rated current",
  start: "start current",
  stall: "stall current",
};

function levelCorrection(load: Load, level: LevelName, each: number, reading: Reading): Correction | null {
  const before = load.levels?.[level];
  if (before?.provenance === "measured" && !differs(before.value, each)) return null;
  const { estimate: _estimate, ...known } = before ?? {};
  const after: Level = { ...withoutRange(known), ...asFigure(each, reading), ...estimateOf(before) };
  return {
    id: `${level} ${load.id}`,
    what: `${load.name}: ${LEVEL_WORDS[level]}${load.count > 1 ? " of one piece" : ""}`,
    before: before ? `${say(before.value, "current")}, ${before.provenance}` : "not known",
    after: `${say(after.value, "current")}, measured`,
    why: `Read by ${INSTRUMENTS[reading.instrument].name}. ${before ? "What the plan had is kept beside it." : ""}`.trim(),
    command: { type: "updatePart", id: load.id, changes: { levels: { ...load.levels, [level]: after } } },
  };
}

/** What the plan had before anything was read, to be kept beside a reading. */
export function estimateOf(before: Level | undefined): Pick<Level, "estimate"> {
  const estimate =
    before?.estimate ?? (before && before.provenance !== "measured" ? { value: before.value, provenance: before.provenance } : undefined);
  return estimate ? { estimate } : {};
}

/** A range and a derivation are of the estimate, not of what was read. */
function withoutRange(level: Partial<Level>): Partial<Level> {
  const { low: _low, high: _high, basis: _basis, ...rest } = level;
  return rest;
}

function cellCorrection(figures: Figures, load: Load, mode: string, amps: number, reading: Reading): Correction | null {
  const cell = load.cells[mode];
  const name = figures.machine.modes.find(({ id }) => id === mode)?.name;
  if (!cell || cell.state === "off" || name === undefined) return null;
  const before = "measured" in cell ? cell.measured : undefined;
  if (before && !differs(before.value, amps)) return null;
  const m = figures.machine.modes.findIndex(({ id }) => id === mode);
  const planned = figures.parts[load.id]?.amps[m] ?? 0;
  const figure = asFigure(amps, reading);
  return {
    id: `cell ${load.id} ${mode}`,
    what: `${load.name} in ${name}`,
    before: before ? `${say(before.value, "current")}, measured` : `${say(planned, "current")}, as estimated`,
    after: `${say(amps, "current")}, measured`,
    why: `Read by ${INSTRUMENTS[reading.instrument].name}. The estimate stays beside it.`,
    command: {
      type: "setCell",
      loadId: load.id,
      modeId: mode,
      cell: { ...cell, measured: figure },
    },
  };
}

function outputCorrection(part: Converter, volts: number, reading: Reading): Correction | null {
  if (part.outputV.provenance === "measured" && !differs(part.outputV.value, volts)) return null;
  return {
    id: `output ${part.id}`,
    what: `${part.name}: output`,
    before: `${say(part.outputV.value, "voltage")}, ${part.outputV.provenance}`,
    after: `${say(volts, "voltage")}, measured`,
    why: `Read without load by ${INSTRUMENTS[reading.instrument].name}.`,
    command: { type: "updatePart", id: part.id, changes: { outputV: asFigure(volts, reading) } },
  };
}

/** Packs whose resistance follows from two readings on their own feet: at rest with everything on, and at work. */
function packOhms(figures: Figures, judged: Judged): Correction[] {
  const steps = judged.stages.flatMap((stage) => stage.steps);
  return figures.machine.parts.flatMap((pack): Correction[] => {
    if (pack.kind !== "pack") return [];
    const at = new Map<string, { volts?: Reading; amps?: Reading }>();
    for (const { step, reading, state } of steps) {
      if (!reading || reading.value === null || state === "stale" || step.at?.kind !== "network" || step.at.situation.fedBy !== "own")
        continue;
      const { probe, situation } = step.at;
      const pair = at.get(situation.id) ?? {};
      if (probe.kind === "amps" && "source" in probe && probe.source === pack.id) pair.amps = reading;
      else if (probe.kind === "volts" && probe.red.part === pack.id && probe.red.terminal === "+" && probe.black.part === pack.id)
        pair.volts = reading;
      at.set(situation.id, pair);
    }
    const pairs = [...at.values()].flatMap(({ volts, amps }) => (volts && amps ? [{ volts, amps }] : []));
    pairs.sort((a, b) => (a.amps.value as number) - (b.amps.value as number));
    const [low, high] = [pairs[0], pairs.at(-1)];
    if (!low || !high || low === high) return [];
    const ohm = packOhm(low, high);
    const before = pack.internalOhm;
    if (!ohm || (before?.provenance === "measured" && !differs(before.value, ohm.value))) return [];
    return [
      {
        id: `ohm ${pack.id}`,
        what: `${pack.name}: resistance`,
        before: before ? `${say(before.value, "resistance")}, ${before.provenance}` : "not known",
        after: `${say(ohm.value, "resistance")} ±${say(ohm.u, "resistance", "up")}, measured`,
        why: `From ${say(low.volts.value as number, "voltage")} at ${say(low.amps.value as number, "current")} and ${say(high.volts.value as number, "voltage")} at ${say(high.amps.value as number, "current")}.`,
        command: {
          type: "updatePart",
          id: pack.id,
          changes: {
            internalOhm: sureFigure(ohm),
          },
        },
      },
    ];
  });
}

/** Resistance of a pack from two pairs of readings, volts and amps each by the instrument of the first. */
function packOhm(low: { volts: Reading; amps: Reading }, high: { volts: Reading; amps: Reading }) {
  const pair = ({ volts, amps }: { volts: Reading; amps: Reading }) => ({ volts: volts.value ?? 0, amps: amps.value ?? 0 });
  const doubtOf = ({ instrument, quantity, value }: Reading) => meterDoubt(instrument, quantity, value ?? 0);
  return sourceOhm(pair(low), pair(high), doubtOf(low.volts), doubtOf(high.amps));
}
