import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { expectBalanced } from "@/tests/support/balanced";
import { editedAndUndone } from "@/tests/support/edited";
import { generateMachine } from "@/tests/support/generate";
import { randomFrom } from "@/tests/support/random";
import { seeds } from "@/tests/support/seeds";
import { UNREAD } from "@/tests/support/unread";
import { analyse } from "../analysis/analyse";
import { compareSchools } from "../analysis/schools";
import { railShares } from "../analysis/shares";
import { driverCandidates } from "../choosing/drivers";
import { sheetMarkdown } from "../exchange/markdown";
import { checkReport, verdictTable } from "../exchange/report";
import { channelsOf } from "../figures/channels";
import type { Command } from "../machine/commands";
import { type Figure, guess, measured, typical } from "../machine/figure";
import { type Cell, LEVELS } from "../machine/load-schema";
import { type Driver, type Load, type Machine, PEAK_BUDGETS } from "../machine/schema";
import { sheetOf } from "../sheet/sheet";
import { explain } from "../working/explain";
import type { FigureRef } from "../working/types";
import { PRESETS, presetCommand } from "./presets";

type Random = () => number;

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
const maybe = <T>(random: Random, make: () => T): T | undefined => (random() < 0.6 ? make() : undefined);
const known = (random: Random, value: number): Figure => pick(random, [measured, typical, guess])(value);

function randomCell(random: Random, load: Load): Cell {
  const reading = random() < 0.2 ? { measured: measured(random() * 9) } : {};
  const pieces = load.count > 1 && random() < 0.5 ? { pieces: 1 + Math.floor(random() * load.count) } : {};
  return pick<Cell>(random, [
    { state: "off" },
    { state: "idle", ...reading },
    { state: "run", percent: Math.round(5 + random() * 150), ...reading, ...(random() < 0.4 ? { duty: 0.1 + 0.9 * random() } : {}) },
    { state: "start", ...pieces, ...reading },
    { state: "stall", ...pieces, ...reading, ...(random() < 0.3 ? { duty: 0.1 + 0.9 * random() } : {}) },
    { state: "reverse", ...pieces },
    { state: "amps", amps: known(random, random() * 12), ...reading },
  ]);
}

/** Figures of a load or driver as a builder who knows some of them would enter them. */
function randomPhysics(random: Random, part: Load | Driver): Record<string, unknown> {
  const onboard = maybe(random, () => ({
    outputV: typical(5),
    inputMinV: typical(5 + random() * 4),
    inputMaxV: typical(10 + random() * 30),
    type: pick(random, ["linear", "buck"] as const),
    jumper: pick(random, ["in", "out", "fixed"] as const),
    ...(random() < 0.5 ? { outputA: typical(0.05 + random()), kelvinPerWatt: typical(30 + random() * 90) } : {}),
  }));
  if (part.kind === "driver") {
    return {
      bridge: pick(random, ["mosfet", "bipolar", "low side", "relay"] as const),
      bridgeV: maybe(random, () => typical(random() * 2)),
      continuousA: maybe(random, () => known(random, 1 + random() * 30)),
      heatsinkA: maybe(random, () => typical(5 + random() * 30)),
      cooling: pick(random, ["none", "heatsink", "air"] as const),
      peakA: maybe(random, () => typical(5 + random() * 60)),
      peakS: maybe(random, () => typical(0.1 + random() * 5)),
      limitA: maybe(random, () => typical(1 + random() * 40)),
      dutyCap: maybe(random, () => typical(0.1 + random() * 0.9)),
      freewheel: pick(random, [undefined, "inside", "fitted", "missing"] as const),
      layers: maybe(random, () => [{ layer: "chip" as const, maxV: typical(10 + random() * 40), continuousA: typical(1 + random() * 30) }]),
      // A logic terminal that has a wire must stay.
      ...(part.logic === undefined ? {} : { logicA: maybe(random, () => typical(random() * 0.05)), onboard }),
    };
  }
  const amps = 0.05 + random() * 8;
  return {
    levels: {
      ...(random() < 0.7 ? { idle: known(random, amps * 0.2) } : {}),
      ...(random() < 0.8 ? { run: { ...known(random, amps), low: amps * 0.7, high: amps * 1.6 } } : {}),
      ...(random() < 0.7 ? { stall: known(random, amps * (2 + random() * 6)) } : {}),
      ...(random() < 0.3 ? { start: known(random, amps * 2) } : {}),
    },
    count: 1 + Math.floor(random() * 4),
    endSwitches: pick(random, [undefined, true, false]),
  };
}

function randomCommand(random: Random, machine: Machine): Command {
  const loads = machine.parts.filter((part): part is Load => part.kind === "load");
  const drivers = machine.parts.filter((part): part is Driver => part.kind === "driver");
  const load = pick(random, loads);
  const mode = pick(random, machine.modes);
  switch (Math.floor(random() * 6)) {
    case 0:
    case 1:
      return { type: "setCell", loadId: load.id, modeId: mode.id, cell: random() < 0.1 ? null : randomCell(random, load) };
    case 2:
      return { type: "updatePart", id: load.id, changes: randomPhysics(random, load) };
    case 3: {
      const driver = pick(random, drivers);
      return driver
        ? { type: "updatePart", id: driver.id, changes: randomPhysics(random, driver) }
        : { type: "rename", description: "nothing" };
    }
    case 4: {
      const schools = {
        ...machine.settings.schools,
        peakBudget: pick(random, PEAK_BUDGETS),
        motorLeads: pick(random, ["unfused", "fused"] as const),
        stepperSum: pick(random, ["sum", "simultaneity"] as const),
      };
      return { type: "setSettings", changes: { schools } };
    }
    default: {
      const steps = Array.from({ length: 1 + Math.floor(random() * 4) }, () => ({
        mode: pick(random, machine.modes).id,
        seconds: 0.5 + random() * 200,
      }));
      const preset = machine.modes.length < 10 && random() < 0.3 ? presetCommand(machine, pick(random, PRESETS)) : null;
      return preset ?? { type: "setMission", mission: random() < 0.2 ? null : { steps, repeats: random() < 0.5 } };
    }
  }
}

/** As JSON, but with numbers that JSON would quietly turn into null. */
function text(value: unknown): string {
  return JSON.stringify(value, (_, each: unknown) => (typeof each === "number" && !Number.isFinite(each) ? String(each) : each)) ?? "";
}

/** Everything that can be read or asked of a machine, as text. */
function everything(machine: Machine): string {
  const { analysis, figures } = analyse(machine);
  const refs: FigureRef[] = figures.machine.parts.flatMap((part): FigureRef[] => [
    ...LEVELS.map((level): FigureRef => ({ kind: "level", part: part.id, level })),
    ...figures.modes.flatMap((_, mode): FigureRef[] => [
      { kind: "partAmps", part: part.id, mode },
      { kind: "partVolts", part: part.id, mode },
    ]),
  ]);
  expectBalanced(figures);
  const drivers = machine.parts.filter((part): part is Driver => part.kind === "driver");
  const load = machine.parts.find((part): part is Load => part.kind === "load");
  const weighed = load ? driverCandidates({ load, continuousA: 3, peakA: 9, highestV: 25, lowestV: 20 }, drivers) : [];
  return [
    text(refs.map((ref) => explain(figures, ref))),
    text(drivers.map((driver) => channelsOf(figures, driver).map(({ modes }) => modes))),
    text(figures.ledger.rails.map((rail) => railShares(machine, figures.ledger, analysis, rail.origin))),
    text(weighed.map(({ refused, notes }) => [refused, notes])),
    text(checkReport(machine, analysis)),
    sheetMarkdown(machine, sheetOf(figures, analysis, { judged: UNREAD })),
    verdictTable(machine, analysis),
  ].join("\n");
}

describe("whatever is known of loads and drivers", () => {
  it.each(seeds(1, 12))("edits leave valid documents, balanced accounts and finite words, and undo exactly: run %d", (seed) => {
    const random = randomFrom(seed * 77);
    const start =
      seed % 2 === 0
        ? generateMachine({ parts: 22, seed, driven: true, meshed: seed % 4 === 0 })
        : (EXAMPLES[seed % EXAMPLES.length]?.make() as Machine);
    const { edited } = editedAndUndone(start, { turns: 14, command: (machine) => randomCommand(random, machine), everything });
    expect(text(compareSchools(edited))).not.toMatch(/NaN|Infinity|undefined/);
  });
});
