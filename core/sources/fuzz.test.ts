import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { expectBalanced } from "@/tests/support/balanced";
import { editedAndUndone } from "@/tests/support/edited";
import { randomFrom } from "@/tests/support/random";
import { seeds } from "@/tests/support/seeds";
import { UNREAD } from "@/tests/support/unread";
import { analyseFully } from "../analysis/fully";
import { compareArrangements } from "../choosing/central";
import { composed } from "../choosing/compose";
import { converterCandidates } from "../choosing/converters";
import { packCandidates } from "../choosing/packs";
import { replans } from "../choosing/replan";
import { supplyCandidates } from "../choosing/supplies";
import { differences } from "../exchange/compare";
import { sheetMarkdown } from "../exchange/markdown";
import { checkReport } from "../exchange/report";
import type { Command } from "../machine/commands";
import { newPart } from "../machine/defaults";
import { datasheet, type Figure, guess, measured, typical } from "../machine/figure";
import { joinSource, plusPlaces } from "../machine/join";
import { returnPlaces } from "../machine/placing";
import { type Converter, type Load, MANAGEMENTS, type Machine, type Pack, type Supply } from "../machine/schema";
import { CHEMISTRY_IDS } from "../reference/chemistries";
import { OVERLOADS, SUPPLY_MAKES, USB_PORT_IDS } from "../reference/supplies";
import { sheetOf } from "../sheet/sheet";
import { explain } from "../working/explain";
import type { FigureRef } from "../working/types";
import { benchPlan, fitReading } from "./bench";
import { readConverter } from "./converter";
import { railDemand } from "./demand";
import { Discharge } from "./discharge";
import { sagPicture } from "./sag";

type Random = () => number;

const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
const known = (random: Random, value: number): Figure => pick(random, [measured, datasheet, typical, guess])(value);
/** Sometimes a figure, sometimes taken away again. */
const some = (random: Random, low: number, high: number) => (random() < 0.75 ? known(random, low + random() * (high - low)) : undefined);

function packChanges(random: Random, pack: Pack): Record<string, unknown> {
  if (random() < 0.4) {
    const volts = pack.openCircuitV.value;
    const chemistry = pick(random, CHEMISTRY_IDS);
    const series = Math.max(1, Math.min(40, Math.round(volts / (1.2 + random() * 2.6))));
    return { ...composed({ chemistry, series, parallel: 1 + Math.floor(random() * 3), cellAh: 0.5 + random() * 60 }, -10 + random() * 35) };
  }
  return {
    chemistry: random() < 0.8 ? pick(random, CHEMISTRY_IDS) : undefined,
    internalOhm: some(random, 0.001, 0.2),
    capacityAh: some(random, 0.5, 120),
    continuousA: some(random, 1, 80),
    cutoffV: some(random, 0, pack.openCircuitV.value),
    cutoffS: some(random, 0, 5),
    health: some(random, 0.4, 1),
    peukert: some(random, 1, 1.5),
    ratedH: some(random, 1, 20),
    management: random() < 0.8 ? pick(random, MANAGEMENTS) : undefined,
    diode: random() < 0.3 || undefined,
    massKg: some(random, 0.1, 20),
  };
}

function supplyChanges(random: Random): Record<string, unknown> {
  return {
    make: random() < 0.8 ? pick(random, SUPPLY_MAKES) : undefined,
    overload: random() < 0.8 ? pick(random, OVERLOADS) : undefined,
    usbPort: random() < 0.2 ? pick(random, USB_PORT_IDS) : undefined,
    ratedA: some(random, 0.5, 30),
    limitA: some(random, 1, 40),
    boxW: some(random, 20, 600),
    minLoadA: some(random, 0.01, 3),
    crossShare: some(random, 0, 0.1),
    derateFromC: some(random, 20, 60),
    derateShare: some(random, 0, 0.05),
    startF: some(random, 1e-4, 0.02),
    startS: some(random, 0.01, 0.3),
    sinks: random() < 0.3 || undefined,
    inputF: some(random, 1e-4, 0.01),
    cost: random() < 0.5 ? Math.round(random() * 90) : undefined,
  };
}

function converterChanges(random: Random, part: Converter): Record<string, unknown> {
  const topology = pick(random, ["linear", "buck", "boost", "buck-boost"] as const);
  return {
    topology,
    outputV: { ...part.outputV, tolerance: random() < 0.5 ? random() * 0.1 : undefined },
    printedA: some(random, 1, 10),
    ratedA: some(random, 0.5, 8),
    lossW: some(random, 0, 0.5),
    lossV: some(random, 0, 1),
    lossOhm: some(random, 0, 0.3),
    lossBasis: pick(random, ["in", "out"] as const),
    lossAtV: some(random, 5, 30),
    dropoutV: some(random, 0, 3),
    dutyMax: some(random, 0.7, 1),
    startsAtV: some(random, 4, 20),
    kelvinPerWatt: some(random, 5, 120),
    junctionMaxC: some(random, 100, 150),
    minLoadA: some(random, 0.001, 1),
    startF: some(random, 1e-4, 0.01),
    holdUpF: some(random, 1e-4, 0.1),
    holdUpOhm: some(random, 0, 0.2),
  };
}

function loadChanges(random: Random): Record<string, unknown> {
  return {
    brakingJ: some(random, 0, 50),
    inputF: some(random, 1e-5, 0.01),
    holdUpF: some(random, 1e-4, 0.1),
    holdUpOhm: some(random, 0, 0.2),
    filterMh: some(random, 0.01, 2),
    filterF: some(random, 1e-5, 1e-3),
    filterOhm: some(random, 0, 0.3),
  };
}

function randomCommand(random: Random, machine: Machine, turn: number): Command {
  const of = <K extends Machine["parts"][number]["kind"]>(kind: K) => machine.parts.filter((part) => part.kind === kind);
  const packs = of("pack") as Pack[];
  const supplies = of("supply") as Supply[];
  const converters = of("converter") as Converter[];
  const loads = of("load") as Load[];
  switch (Math.floor(random() * 7)) {
    case 0:
    case 1: {
      const pack = pick(random, packs);
      if (pack) return { type: "updatePart", id: pack.id, changes: packChanges(random, pack) };
      break;
    }
    case 2: {
      const supply = pick(random, supplies);
      if (supply) return { type: "updatePart", id: supply.id, changes: supplyChanges(random) };
      const part = newPart("supply", `extra-${turn}`, `Extra ${turn}`, { outputV: typical(5 + random() * 25), ...supplyChanges(random) });
      return { type: "addPart", part };
    }
    case 3: {
      const converter = pick(random, converters);
      if (converter) return { type: "updatePart", id: converter.id, changes: converterChanges(random, converter) };
      break;
    }
    case 4: {
      const source = pick(random, [...packs, ...supplies]);
      const [plus, minus] = [pick(random, plusPlaces(machine)), pick(random, returnPlaces(machine))];
      if (source && plus && minus && minus.at.part !== source.id)
        return joinSource(machine, source.id, plus.at, minus.at, {
          gauge: pick(random, ["10 AWG", "14 AWG"]),
          lengthM: typical(0.1 + random()),
        });
      break;
    }
    case 5:
      return {
        type: "setSettings",
        changes: {
          ambientC: Math.round(-15 + random() * 70),
          coldestC: random() < 0.6 ? Math.round(-20 + random() * 30) : undefined,
          wantedRunS: random() < 0.6 ? Math.round(60 + random() * 20000) : undefined,
        },
      };
    default:
      break;
  }
  return { type: "updatePart", id: pick(random, loads).id, changes: loadChanges(random) };
}

/** As JSON, but with numbers that JSON would quietly turn into null. Margins of what has no limit, and shorts that nothing ends, are endless by design. */
function text(value: unknown): string {
  return (
    JSON.stringify(value, (key, each: unknown) => {
      if (["margin", "fastestS", "slowestS"].includes(key) || typeof each !== "number") return each;
      return Number.isFinite(each) ? each : String(each);
    }) ?? ""
  );
}

/** Everything the sources screens and exports can show of a machine, as text. */
function everything(machine: Machine): string {
  const full = analyseFully(machine);
  const { figures, analysis, late } = full;
  expectBalanced(figures);
  const sources = machine.parts.filter((part) => part.kind === "pack" || part.kind === "supply");
  const converters = machine.parts.filter((part): part is Converter => part.kind === "converter");
  const refs: FigureRef[] = [
    { kind: "run", mode: null },
    { kind: "run", mode: 0 },
    ...[...sources, ...converters].map((part): FigureRef => ({ kind: "rating", part: part.id })),
    ...converters.flatMap((part): FigureRef[] => [
      { kind: "worstInput", part: part.id },
      { kind: "efficiency", part: part.id, mode: 0 },
      { kind: "chip", part: part.id, mode: 0 },
      { kind: "converterInput", part: part.id, mode: 0 },
    ]),
  ];
  const readings = converters.map((part) => {
    const figure = figures.parts[part.id];
    return figure && figures.modes[0]?.collapsed === false ? readConverter(part, figure, 0, machine.settings) : null;
  });
  const pack = machine.parts.find((part) => part.kind === "pack");
  const supply = machine.parts.find((part) => part.kind === "supply");
  return [
    text(late),
    text(refs.map((ref) => explain(figures, ref))),
    text(readings),
    text(figures.ledger.rails.map((rail) => railDemand(figures, rail))),
    text(pack ? sagPicture(machine, pack.id) : null),
    text(pack ? [...packCandidates(figures, pack.id, [], 6)] : null),
    text(supply ? supplyCandidates(figures, supply.id, []) : null),
    text(converters.slice(0, 1).map((part) => [converterCandidates(figures, part.id, []), compareArrangements(figures, part.id)])),
    text(replans(figures)),
    text(benchPlan(figures)),
    text(sources[0] ? fitReading(figures, sources[0].id, 0, 1.7) : null),
    text(differences({ machine, full, run: null }, { machine, full, run: { value: 5, bound: true } })),
    text(checkReport(machine, analysis)),
    sheetMarkdown(machine, sheetOf(figures, analysis, { judged: UNREAD })),
  ].join("\n");
}

describe("whatever is entered of sources and converters", () => {
  it.each(seeds(1, 12))("leaves valid documents, balanced accounts and finite words, and undoes exactly: run %d", (seed) => {
    const random = randomFrom(seed * 131);
    const start = EXAMPLES[seed % EXAMPLES.length]?.make() as Machine;
    editedAndUndone(start, { turns: 9, command: (machine, turn) => randomCommand(random, machine, turn), everything });
  });
});

describe("a discharge solved at one charge after another", () => {
  it.each(EXAMPLES.map(({ key, make }) => [key, make] as const))(
    "finds on %s what a fresh one finds at that charge alone",
    (_key, make) => {
      const machine = make();
      const kept = Discharge.of(machine);
      for (const charge of [1, 0.6, 0.62, 0.3, 0.1, 0.02, 0.9]) {
        const charges = kept.packs.map(() => charge);
        machine.modes.forEach((_, m) => {
          const [again, fresh] = [kept.at(m, charges), Discharge.of(machine).at(m, charges)];
          expect(again.status).toBe(fresh.status);
          again.nodeV.forEach((volts, n) => {
            expect(Math.abs(volts - (fresh.nodeV[n] ?? 0))).toBeLessThan(1e-8);
          });
        });
      }
    },
  );
});
