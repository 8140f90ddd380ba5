import { wireName } from "../../figures/names";
import { goesOn } from "../../machine/lasting";
import type { Cell } from "../../machine/load-schema";
import type { Load, Mode } from "../../machine/schema";
import { capital } from "../../quantity/format";
import { insulationById } from "../../reference/insulation";
import { settledTemperature } from "../../wires/ampacity";
import { readingU, together } from "../compare";
import { probeKey } from "../probe";
import { BENCH_C, drawKnown, isLogic, moves, type Situation } from "../situation";
import { bandExpect, bandOf, type Maker, plainStep, shownMost, wirePlace } from "../steps";
import type { Stage, Step } from "../types";
import {
  driverParts,
  feedAmpsStep,
  inputSteps,
  logicParts,
  motorVoltsStep,
  onBench,
  packVoltsSteps,
  railSteps,
  settingsOf,
  totalSteps,
  weakest,
} from "./powered";

/** A mode of the plan as a situation: everything plugged in and doing what the mode says. */
export function modeOn(maker: Maker, mode: Mode, own: boolean): Situation {
  const { machine } = maker.figures;
  const cells = new Map<string, Cell>();
  for (const part of machine.parts) if (part.kind === "load") cells.set(part.id, part.cells[mode.id] ?? { state: "off" });
  const open = new Set(machine.parts.flatMap((part) => (part.kind === "switch" && part.openIn.includes(mode.id) ? [part.id] : [])));
  const ids = machine.parts.flatMap((part) => (part.kind === "load" || part.kind === "driver" ? [part.id] : []));
  return onBench(
    maker,
    `mode ${mode.id}${own ? " own" : ""}`,
    `${mode.name}, on ${own ? "the machine's own source" : "the bench supply"}`,
    ids,
    {
      cells,
      open,
      own,
    },
  );
}

/** Modes in which something works: not parked, not stopped. */
export function workingModes(maker: Maker): Mode[] {
  const { machine } = maker.figures;
  const stopped = (mode: Mode) => machine.parts.some((part) => part.kind === "switch" && part.stop && part.openIn.includes(mode.id));
  return machine.modes.filter(
    (mode) =>
      !stopped(mode) &&
      machine.parts.some((part) => part.kind === "load" && moves(part) && (part.cells[mode.id]?.state ?? "off") !== "off"),
  );
}

/** Motors whose stall is known, one held at a time while the rest stands still. */
function stallsOn(maker: Maker, own: boolean): { part: Load; situation: Situation }[] {
  const { machine } = maker.figures;
  const ids = machine.parts.flatMap((part) => (part.kind === "load" || part.kind === "driver" ? [part.id] : []));
  return machine.parts.flatMap((part) => {
    if (part.kind !== "load" || (part.loadKind !== "motor" && part.loadKind !== "actuator") || !drawKnown(part, { state: "stall" }))
      return [];
    const cells = new Map<string, Cell>(
      machine.parts.flatMap((each) => (each.kind === "load" && moves(each) && each !== part ? [[each.id, { state: "off" } as const]] : [])),
    );
    cells.set(part.id, { state: "stall", pieces: 1 });
    const situation = onBench(maker, `stall ${part.id}${own ? " own" : ""}`, `${part.name} held for a second, the rest still`, ids, {
      cells,
      own,
    });
    return [{ part, situation }];
  });
}

/** Under load, at start, and held for a moment. */
export function loadedStage(maker: Maker, own: boolean): Stage | null {
  const modes = workingModes(maker);
  const stalls = stallsOn(maker, own);
  if (modes.length === 0 && stalls.length === 0) return null;
  const situations = modes.map((mode) => ({ mode, situation: modeOn(maker, mode, own) }));
  const worst = [...situations, ...stalls]
    .map(({ situation }) => situation)
    .reduce<Situation | null>((best, each) => (best === null || most(maker, each) > most(maker, best) ? each : best), null);
  const isNews = newsOf();
  return {
    id: "loaded",
    title: "Loaded, start, brief stall",
    setUp:
      "Put the machine to work. Meters that keep the largest and smallest reading need something slower than 0.1 s to see it; a start needs a scope or a fast logger.",
    supply: worst && !own ? settingsOf(maker, worst) : [],
    cautions: ["Hold a motor for a second at most, one at a time, and let it cool.", "Stay out of the way of what it drives."],
    stopWhen: "boards reset, a fuse is hot or opens, a wire or plug passes 60 °C",
    steps: [
      ...situations.flatMap(({ mode, situation }) => workSteps(maker, mode, situation, isNews)),
      ...stalls.flatMap(({ part, situation }) => stallSteps(maker, situation, part, isNews)),
    ],
  };
}

function most(maker: Maker, situation: Situation): number {
  return maker.stand(situation).point.emfA.reduce((sum, amps) => Math.max(sum, amps), 0);
}

/** Whether a step expects something that no earlier one did of the same place: the same number twice is not read twice. */
function newsOf(): (place: string, step: Step) => boolean {
  const seen = new Map<string, number[]>();
  return (place, { expect }) => {
    if (expect.kind !== "band") return true;
    const before = seen.get(place) ?? [];
    const { value } = expect.band;
    if (before.some((each) => Math.abs(each - value) <= SAME_SHARE * Math.abs(each))) return false;
    seen.set(place, [...before, value]);
    return true;
  };
}

/** Two expectations this close are one. */
const SAME_SHARE = 0.02;

type IsNews = ReturnType<typeof newsOf>;

function onlyNews(steps: readonly Step[], isNews: IsNews): Step[] {
  return steps.filter((step) => isNews(step.at?.kind === "network" ? probeKey(step.at.probe) : step.id, step));
}

function workSteps(maker: Maker, mode: Mode, situation: Situation, isNews: IsNews): Step[] {
  const { name } = mode;
  const { feeds } = maker.figures.solved.circuit;
  const working = maker.figures.machine.parts.filter(
    (part): part is Load => part.kind === "load" && !isLogic(part) && (situation.cells.get(part.id)?.state ?? "off") !== "off",
  );
  const motorVolts = (part: Load) =>
    motorVoltsStep(maker, "loaded", situation, part, `${name}: volts at the terminals of ${part.name}`) ?? [];
  return [
    ...totalSteps(maker, "loaded", situation, `${name}: amps out of`),
    ...(situation.fedBy === "own" ? packVoltsSteps(maker, "loaded", situation, name) : []),
    ...onlyNews(
      [
        ...working.flatMap(
          (part) =>
            feedAmpsStep(maker, "loaded", situation, part, `${name}: amps of ${part.name}`, {
              kind: "cell",
              load: part.id,
              mode: mode.id,
            }) ?? [],
        ),
        ...inputSteps(
          maker,
          "loaded",
          situation,
          [
            ...weakest(maker, situation, logicParts(maker)),
            ...weakest(maker, situation, driverParts(maker)),
            ...working.filter(({ id }) => !feeds.has(id)),
          ],
          at(name),
        ),
        ...working.filter(({ id }) => feeds.has(id)).flatMap(motorVolts),
      ],
      isNews,
    ),
  ];
}

function at(when: string): (name: string) => string {
  return (name) => `${when}: volts at ${name}`;
}

function stallSteps(maker: Maker, situation: Situation, part: Load, isNews: IsNews): Step[] {
  const amps = feedAmpsStep(maker, "loaded", situation, part, `${part.name} held: amps`, {
    kind: "level",
    load: part.id,
    level: "stall",
  });
  const host = maker.figures.solved.circuit.feeds.get(part.id)?.driver;
  const boards = weakest(maker, situation, logicParts(maker));
  return onlyNews(
    [...(amps ? [amps] : []), ...inputSteps(maker, "loaded", situation, [...(host ? [host] : []), ...boards], at(`${part.name} held`))],
    isNews,
  );
}

/** When the soak is read, minutes. */
export const SOAK_MINUTES = [5, 15, 30] as const;
/** Places that are read in a soak, the hottest first. */
const SOAK_PLACES = 5;
/** Insulation keeps this far from its limit in the plan's hottest air, K (handbook grounding section 9). */
const KEEPS_K = 15;
/** What a wire's rise may be off, as a share (handbook uncertainty section 2, heat model and bundle). */
const RISE_OFF = 0.35;
/** A wire below this rise is not worth a thermometer of its own, K. */
const WARM_K = 4;
/** A plug may rise by this much (handbook grounding section 9), K. */
const PLUG_K = 30;

/** Half an hour in the worst mode that goes on. */
export function soakStage(maker: Maker, own: boolean): Stage | null {
  const { figures } = maker;
  const { machine } = figures;
  const lasting = machine.modes.map((mode, m) => ({ mode, m })).filter(({ mode }) => goesOn(mode) && workingModes(maker).includes(mode));
  const worst = lasting.reduce<{ mode: Mode; m: number } | null>(
    (best, each) => (best === null || (figures.modes[each.m]?.sourceA ?? 0) > (figures.modes[best.m]?.sourceA ?? 0) ? each : best),
    null,
  );
  if (!worst) return null;
  const { ambientC } = machine.settings;
  const hot = machine.wires
    .flatMap((wire) => {
      const figure = figures.wires[wire.id];
      if (!figure?.ampacity || !insulationById(wire.insulation)) return [];
      // Of this mode alone: the plan's own figure is of the worst one, and would let a wire pass that is too warm for this one.
      const rise = settledTemperature(wire, figure.ampacity, Math.abs(figure.amps[worst.m] ?? 0)) - figure.ampacity.airC;
      if (!Number.isFinite(rise) || !(rise > 0)) return [];
      const isAtLeast = figure.atLeast[worst.m] === 1;
      return [{ wire, rise, isAtLeast, tauS: figure.ampacity.tauS, maxC: figure.ampacity.maxC, airC: figure.ampacity.airC }];
    })
    .sort((a, b) => b.rise - a.rise);
  // Where all stay cool by the plan, the least cool one tells whether they do.
  const read = hot.filter(({ rise }, i) => i === 0 || (i < SOAK_PLACES && rise >= WARM_K));
  const situation = modeOn(maker, worst.mode, own);
  const steps = read.flatMap(({ wire, rise, isAtLeast, tauS, maxC, airC }) =>
    SOAK_MINUTES.map((minutes) => {
      const now = rise * (1 - Math.exp((-60 * minutes) / tauS));
      const most = maxC - KEEPS_K - (Math.max(airC, ambientC) - BENCH_C);
      const band = bandOf(BENCH_C + now, together(RISE_OFF * now, AIR_OFF_K), readingU("probe", "celsius", BENCH_C + now) ?? 0, {
        ceiling: shownMost("probe", "celsius", most),
      });
      return plainStep({
        stage: "soak",
        what: `wire ${wire.id} ${minutes}`,
        title: `${capital(wireName(figures, wire))} after ${minutes} minutes`,
        quantity: "celsius",
        instrument: "probe",
        places: [wirePlace(figures, wire, "touch")],
        expect: isAtLeast ? { kind: "most", limit: shownMost("probe", "celsius", most), usual: null } : bandExpect(band, "celsius"),
        outside:
          "Hot along its length: gauge, bundle, or more amps than planned. Hot at one end: that joint. A joint that rises faster than its wire is about to fail.",
        about: [wire.id],
      });
    }),
  );
  const plugs = hot.slice(0, 3).map(({ wire }) =>
    plainStep({
      stage: "soak",
      what: `joint ${wire.id}`,
      title: `The hotter end of the ${wireName(figures, wire)}, after 30 minutes`,
      quantity: "celsius",
      instrument: "probe",
      places: [wirePlace(figures, wire, "touch")],
      expect: { kind: "most", limit: shownMost("probe", "celsius", BENCH_C + PLUG_K), usual: null },
      outside: "Crimp, torque or plating: read the millivolts across it and make it again.",
      about: [wire.id],
    }),
  );
  const drivers = driverParts(maker).map((part) =>
    plainStep({
      stage: "soak",
      what: `part ${part.id}`,
      title: `${part.name} after 30 minutes`,
      quantity: "celsius",
      instrument: "probe",
      places: [{ what: "touch", at: `the hottest chip of ${part.name}` }],
      expect: { kind: "most", limit: shownMost("probe", "celsius", CHIP_C - Math.max(0, ambientC - BENCH_C)), usual: null },
      outside: "Its cooling is not what the plan says: heatsink, air, or more amps.",
      about: [part.id],
    }),
  );
  if (steps.length + drivers.length === 0) return null;
  return {
    id: "soak",
    title: "Half an hour, warm",
    setUp: `Let it work in ${worst.mode.name} for half an hour and read at 5, 15 and 30 minutes. From three readings the end is worked out; go on for longer while it still climbs by a kelvin in five minutes.`,
    supply: own ? [] : settingsOf(maker, situation),
    cautions: ["Touchable metal above 48 °C burns skin that rests on it."],
    stopWhen: "a joint rises faster than its wire, millivolts over a joint grow, a battery or capacitor passes its rating",
    steps: [...steps, ...plugs, ...drivers],
  };
}

/** Air at the bench may be this far from what is taken, K. */
const AIR_OFF_K = 4;
/** A driver's case in the plan's hottest air (common practice, no source), °C. */
const CHIP_C = 85;

/** Rails, boards and sources again, on the machine's own source: what the bench supply hid shows now. */
export function ownSteps(maker: Maker): { situation: Situation; steps: Step[] } {
  const loads = maker.figures.machine.parts.filter((part) => part.kind === "load" || part.kind === "driver");
  const on = onBench(
    maker,
    "own",
    "the machine's own source, motors turning free",
    loads.map(({ id }) => id),
    { own: true },
  );
  return {
    situation: on,
    steps: [
      ...totalSteps(maker, "source", on),
      ...railSteps(maker, "source", on),
      ...inputSteps(maker, "source", on, maker.figures.machine.parts.filter(isLogic)),
    ],
  };
}
