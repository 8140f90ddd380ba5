import { usualBehaviour } from "../loads/behaviour";
import { canStall } from "../loads/budget";
import { levelsFrom, methodById, whatIsKnown } from "../loads/know";
import type { Inputs } from "../loads/methods/types";
import { START_TIMES } from "../loads/own-draw";
import { newPart } from "../machine/defaults";
import { type Figure, guess } from "../machine/figure";
import type { Level, LevelName } from "../machine/load-schema";
import type { Load } from "../machine/schema";
import { LOGIC_CLASSES, MOTOR_CLASSES } from "../reference/classes";
import { ELECTRONICS } from "../reference/load-kinds";
import { isDriven } from "./demand";
import type { RailVolts } from "./make-driver";
import type { LoadReading, Said } from "./reading";

/** What a line says, as a figure. */
export const figure = ({ value, provenance }: Said): Figure => ({ value: Number(value.toPrecision(6)), provenance });

/** Stall over rated current: what a draft takes, in the machine, and the range of its class, which verdicts weigh. */
interface StallTimes {
  readonly draft: number;
  readonly low: number;
  readonly high: number;
}

const stalls = (draft: number, low: number, high: number): StallTimes => ({ draft, low, high });

/** By class (handbook practice section 3; ranges motors-and-drivers section 1, from memory). */
const STALL_TIMES = {
  toy: stalls(4, 3, 6),
  metal: stalls(5, 4, 8),
  can: stalls(5.5, 5, 10),
  worm: stalls(4, 3, 6),
  scooter: stalls(5.5, 5, 9),
  chair: stalls(6, 6, 12),
  winch: stalls(3, 3, 5),
  actuator: stalls(3, 2, 5),
} as const;

/** Motors of one line from which they share the pack's volts, and what is left of a stall then (handbook practice section 3). */
const MANY = 4;
const MANY_SHARE = 4.5 / 5.5;

/** What a servo draws moving, share of its stall, least and most (common practice, no source). */
const SERVO_MOVES = [0.12, 0.5] as const;
/** Idle of a servo that holds nothing, A, and what that may be off by as a factor (class table, from memory). */
const SERVO_IDLE_A = 0.01;
/** What a brushless drive takes running, share of the most it is printed for, least and most (common practice, no source). */
const BRUSHLESS_RUNS = [0.3, 0.8] as const;
/** Cold over warm current of filament lamps; of light-emitting ones nothing (handbook, from memory). */
const FILAMENT = /halogen|bulb|filament|incandescent|headl(?:ight|amp)/i;
const COLD_TIMES = 10;
/** Volts about its nominal ones within which electronics without a sheet runs, share (typical, from memory). */
const BOARD_WINDOW = { low: 0.94, high: 1.1 };
/** A powered speaker or amplifier, share of its watts that come out as sound at most. */
const between = (low: number, high: number): number => Number(Math.sqrt(low * high).toPrecision(3));

function level(said: Said): Level {
  return { ...figure(said), ...(said.low !== undefined && said.low < said.value ? { low: said.low, high: said.value } : {}) };
}

function guessed(low: number, high: number): Level {
  const value = between(low, high);
  return { value, provenance: "guess", low: Math.min(low, value), high: Math.max(high, value) };
}

function known(method: string, inputs: Inputs, load: Load): Partial<Record<LevelName, Level>> {
  const way = methodById(method);
  const found = way ? whatIsKnown(way, inputs, load) : null;
  if (!way || !found) return {};
  // What follows from a class alone stays a guess until the builder says it fits.
  return Object.fromEntries(
    Object.entries(levelsFrom(way, inputs, found)).map(([name, each]) => [name, { ...each, provenance: "guess" as const }]),
  );
}

/** Class of a motor that turns, by its words and its watts. */
function classOf({ kind, name }: Pick<LoadReading, "kind" | "name">, watts: number): keyof typeof STALL_TIMES {
  if (kind === "actuator") return "actuator";
  if (/wiper|window|worm/i.test(name)) return "worm";
  if (/winch|trolling|windlass|hoist|capstan/i.test(name)) return "winch";
  if (/wheel ?chair|power chair|traction/i.test(name)) return "chair";
  if (kind === "pump" || kind === "fan") return "can";
  return watts < 3 ? "toy" : watts < 40 ? "metal" : watts < 150 ? "can" : "scooter";
}

/** Stall of a load of so many amps, as a draft takes it, with the range of its class; never below what was told. */
function guessedStall(reading: LoadReading, runA: number, volts: number, floorA: number): Level {
  const { draft, low, high } = STALL_TIMES[classOf(reading, runA * volts)];
  const share = reading.count >= MANY && classOf(reading, runA * volts) === "scooter" ? MANY_SHARE : 1;
  const value = Number(Math.max(floorA, runA * draft * share).toPrecision(3));
  return { value, provenance: "guess", low: Math.min(value, Math.max(floorA, runA * low * share)), high: Math.max(value, runA * high) };
}

/**
 * Start of what turns, as a draft takes it: behind a driver what its ramp lets through, switched directly what its kind takes
 * (handbook practice section 2, from memory); never above its stall.
 */
function guessedStart(reading: LoadReading, runA: number, stallA: number, driven: boolean): Level {
  const times = driven ? (PROPELLER.test(reading.name) ? SOFT : RAMPED) : (START_TIMES[reading.kind]?.times ?? 3);
  const value = Number(Math.min(stallA, runA * times).toPrecision(3));
  return { value, provenance: "guess", low: Math.min(value, runA * 1.5), high: stallA };
}

/** Names of propellers: they start softly behind their speed controller (handbook practice section 2: 1 to 1.2). */
export const PROPELLER = /thrust|prop(?!ort)|airscrew/i;
const SOFT = 1.2;
/** Current of a start that a driver's program ramps, times the running one (handbook practice section 2: 2 to 3). */
const RAMPED = 2.5;

/** Group of a class in the method that knows a motor by its watts. */
const powerGroup = (sort: keyof typeof STALL_TIMES) => (sort === "chair" ? "scooter" : sort);

/** The class of a stepper by its phase current, where its frame is not told. */
function stepperClass(phaseA: number): (typeof MOTOR_CLASSES)[number] | undefined {
  return MOTOR_CLASSES.filter(({ type }) => type === "stepper").reduce<(typeof MOTOR_CLASSES)[number] | undefined>(
    (best, each) => (best === undefined || Math.abs((each.ratedA ?? 0) - phaseA) < Math.abs((best.ratedA ?? 0) - phaseA) ? each : best),
    undefined,
  );
}

/** What a drive is set to of what its motor's phase may carry (common practice, no source). */
const SET_SHARE = 0.8;

/** What a stepper takes from its rail, from its phase: held at half of what its drive is set to. */
function stepperLevels(reading: LoadReading, load: Load): Partial<Load> {
  const named = MOTOR_CLASSES.find(({ id }) => id === reading.motorClass);
  const row = named ?? (reading.phaseA ? stepperClass(reading.phaseA.value) : undefined);
  const rated: Figure | undefined = reading.phaseA ? figure(reading.phaseA) : row?.ratedA ? guess(row.ratedA) : undefined;
  if (!rated) return {};
  const ohm: Figure = reading.ohms ? figure(reading.ohms) : guess(row?.windingOhm ?? 1.5);
  const setA = Number((rated.value * SET_SHARE).toPrecision(3));
  const inputs = { setA, scale: "rms", phaseOhm: ohm.value, driverOhm: 0.45, driverW: 0.5, hold: 50, torqueNm: 0.1, rpm: 300 };
  return {
    levels: known("stepperSetting", inputs, load),
    stepper: { ratedA: rated, setA: guess(setA), scale: "rms", phaseOhm: ohm },
  };
}

/** Currents of a load from what its line says; what follows from that is a guess with its range. Empty where nothing tells. */
function levelsOf(reading: LoadReading, load: Load): NonNullable<Load["levels"]> {
  const { amps, watts, kind } = reading;
  const levels: Partial<Record<LevelName, Level>> = {};
  const volts = load.nominalV.value;
  const turns = canStall(load);
  if (amps.run) levels.run = level(amps.run);
  else if (amps.most) levels.run = level(amps.most);
  if (amps.idle) levels.idle = level(amps.idle);
  if (amps.start) levels.start = level(amps.start);
  if (amps.stall) levels.stall = level(amps.stall);
  if (amps.run && amps.most && !turns) levels.start ??= level(amps.most);
  if (!levels.run && watts) {
    if (turns) {
      const from = known("ratedPower", { powerW: watts.value, meant: "shaft", group: powerGroup(classOf(reading, watts.value)) }, load);
      if (from.run) levels.run = from.run;
    } else if (kind === "brushless") levels.run = guessed(watts.value / volts, (watts.value / volts) * 1.5);
    else if (kind === "sound") levels.run = guessed((watts.value / volts) * 0.3, (watts.value / volts) * 1.5);
    else levels.run = { value: Number((watts.value / volts).toPrecision(4)), provenance: watts.provenance };
  }
  if (!levels.run && reading.ohms && (kind === "heater" || kind === "coil" || kind === "light"))
    levels.run = { value: Number((volts / reading.ohms.value).toPrecision(4)), provenance: reading.ohms.provenance };
  const nothing = Object.keys(levels).length === 0;
  if (nothing && reading.motorClass && kind !== "actuator") Object.assign(levels, known("motorClass", { class: reading.motorClass }, load));
  const logic = LOGIC_CLASSES.find(({ id }) => id === reading.logicClass);
  if (nothing && logic && Math.abs(logic.volts - volts) < 0.2 * logic.volts) {
    levels.run = { value: logic.peakA, provenance: "guess", low: logic.runA, high: logic.peakA };
    if (logic.idleA > 0) levels.idle = { value: logic.idleA, provenance: "guess" };
  }
  if (kind === "servo") {
    if (!levels.run && levels.stall) levels.run = guessed(levels.stall.value * SERVO_MOVES[0], levels.stall.value * SERVO_MOVES[1]);
    if (!levels.stall && levels.run) levels.stall = guessed(levels.run.value * 2, levels.run.value * 8);
    if (levels.run) levels.idle ??= { value: SERVO_IDLE_A, provenance: "guess", low: 0.005, high: 0.05 };
  } else if (turns && levels.run && !levels.stall) {
    const floor = Math.max(amps.most?.value ?? 0, amps.start?.value ?? 0);
    levels.stall = guessedStall(reading, levels.run.value, volts, floor);
  } else if (turns && levels.stall && !levels.run) {
    const { draft, low, high } = STALL_TIMES[classOf(reading, (levels.stall.value * volts) / 5)];
    const value = Number((levels.stall.value / draft).toPrecision(3));
    levels.run = { value, provenance: "guess", low: levels.stall.value / high, high: Math.max(value, levels.stall.value / low) };
  }
  if (turns && kind !== "servo" && levels.run && levels.stall)
    levels.start ??= guessedStart(reading, levels.run.value, levels.stall.value, isDriven(reading));
  // Told at most only: what its drive lets through once, and it seldom asks for.
  if (kind === "brushless" && levels.start && !levels.run)
    levels.run = guessed(levels.start.value * BRUSHLESS_RUNS[0], levels.start.value * BRUSHLESS_RUNS[1]);
  if (kind === "light" && levels.run && !levels.start && FILAMENT.test(reading.name))
    levels.start = guessed(levels.run.value * (COLD_TIMES / 2), levels.run.value * COLD_TIMES * 1.5);
  return levels;
}

/**
 * A line's load as it stands on its rail: a usual window is supposed only where the rail keeps within it. On a battery of its volts
 * it is asked for: what is made for such a battery bears all of it, and what is not needs a converter.
 */
export function onRail(load: Partial<Load>, { volts }: LoadReading, { lowV, highV }: RailVolts): Partial<Load> {
  const { inputMinV, inputMaxV, ...rest } = load;
  const told = volts?.low !== undefined;
  const fits = (inputMinV?.value ?? 0) <= lowV && (inputMaxV?.value ?? Infinity) >= highV;
  return told || fits ? load : rest;
}

/** The figures of a load at the volts of its rail. Boards without a window get a usual one, as a guess. */
export function loadFigures(reading: LoadReading, volts: Figure, count: number): Partial<Load> {
  const { kind } = reading;
  const base = { loadKind: kind, count, nominalV: volts, behaviour: usualBehaviour(kind) };
  const load = newPart("load", "any", "any", base);
  const levels = levelsOf(reading, load);
  const span = reading.volts?.low;
  const window =
    span !== undefined && reading.volts
      ? {
          inputMinV: { value: span, provenance: reading.volts.provenance },
          inputMaxV: { value: reading.volts.value, provenance: reading.volts.provenance },
        }
      : ELECTRONICS.has(kind)
        ? {
            inputMinV: guess(Number((volts.value * BOARD_WINDOW.low).toPrecision(3))),
            inputMaxV: guess(Number((volts.value * BOARD_WINDOW.high).toPrecision(3))),
          }
        : {};
  const stepper = kind === "stepper" ? stepperLevels(reading, load) : {};
  const own = Object.keys(levels).length > 0 && kind !== "stepper" ? { levels } : {};
  return {
    ...base,
    ...window,
    ...own,
    ...stepper,
    ...(reading.endSwitches ? { endSwitches: true } : {}),
    ...(kind === "stepper" && stepper.levels === undefined && Object.keys(levels).length > 0 ? { levels } : {}),
    ...(reading.watts && (reading.amps.run || kind === "brushless")
      ? { note: `${Number(reading.watts.value.toPrecision(4))} W printed` }
      : {}),
  };
}
