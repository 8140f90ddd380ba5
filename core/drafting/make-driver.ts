import { driverCandidates, driverFromClass } from "../choosing/drivers";
import { hasLimit, usualLimit } from "../drivers/usual-limit";
import { type Figure, guess, typical } from "../machine/figure";
import type { Level } from "../machine/load-schema";
import type { Driver, Load } from "../machine/schema";
import { DRIVER_CLASSES } from "../reference/classes";
import { figure } from "./make-load";
import type { DriverReading } from "./reading";

/** The rail a driver hangs on. */
export interface RailVolts {
  readonly lowV: number;
  readonly highV: number;
}

/** What a bare board holds of what is printed on it (handbook motors-and-drivers section 2, from memory: a third to all of it). */
const PRINTED_SHARE = 0.5;
/** What is left of a source's rested volts at its drivers in the worst start (common practice, no source). */
const SAG = 0.75;
/** Room over the highest volts of the rail: what a braking motor adds (common practice, no source). */
const ABOVE = 1.12;

/** Capacitance at a driver's input, F an amp it gives for good: 10 A need about 400 µF (handbook grounding section 5). */
export const INPUT_F_PER_A = 40e-6;
const inputFor = (amps: number) => Number(Math.max(1e-4, amps * INPUT_F_PER_A).toPrecision(2));

const isTwo = (bridgeType: string) => /^[2-9]x/.test(bridgeType);

/** The usual limit of a motor's driver as a guess; null where none helps. */
function limitFor(load: Pick<Load, "levels">, peakA: number): Figure | null {
  const limit = usualLimit(load, peakA);
  return limit === null ? null : guess(limit);
}

/** A driver as it is planned: its figures, and how many motors it takes. */
export interface PlannedDriver {
  readonly figures: Partial<Driver>;
  readonly channels: number;
  readonly className: string;
}

/** Figures of a class as supposed ones: the builder has not said that it is this one. */
function supposed(figures: Partial<Driver>): Partial<Driver> {
  return Object.fromEntries(
    Object.entries(figures)
      .filter(([, value]) => value !== undefined)
      .map(([key, value]) => [
        key,
        typeof value === "object" && value !== null && "provenance" in value ? { ...value, provenance: "guess" as const } : value,
      ]),
  ) as Partial<Driver>;
}

/** The class of driver the chooser proposes for a motor, with as many channels as are wanted; null where no class drives it. */
export function proposedDriver(
  load: Load,
  { lowV: restV, highV: fullV }: RailVolts,
  wanted: number | null,
  many: number,
): PlannedDriver | null {
  const runA = load.levels?.run?.value ?? 0;
  const stallA = load.levels?.stall?.value ?? load.levels?.start?.value ?? runA;
  if (runA === 0 && stallA === 0) return unknownDriver({ lowV: restV, highV: fullV }, wanted ?? 1);
  const lowV = restV * SAG;
  const highV = fullV * ABOVE;
  const fits = (peakA: number, stall: Level | undefined) =>
    driverCandidates(
      {
        load: stall ? { ...load, levels: { ...load.levels, stall } } : load,
        continuousA: runA * 1.1,
        peakA,
        highestV: highV,
        lowestV: lowV,
      },
      [],
    ).filter((each) => each.refused.length === 0 && each.stall !== "refused" && !each.oneWay);
  // A limit that is set tames a stall: a driver that bears all of it is heavier than the motor asks for.
  const limitA = limitFor(load, Number.POSITIVE_INFINITY)?.value;
  const limited = limitA === undefined ? [] : fits(limitA, guess(limitA)).filter(({ id }) => classHasLimit(id));
  const whole = fits(stallA, undefined);
  const bears = whole.filter(({ stall }) => stall !== "brief");
  const [chosen] = limited.length > 0 ? limited : bears.length > 0 ? bears : whole;
  const row = DRIVER_CLASSES.find(({ id }) => id === chosen?.id);
  const made = chosen ? driverFromClass(chosen.id) : null;
  const channels = wanted ?? (row && isTwo(row.bridgeType) ? Math.min(2, many) : 1);
  if (!row || !made) return custom(load, runA, stallA, { lowV, highV }, channels);
  const limit = classHasLimit(row.id) ? limitFor(load, row.peakA ?? Number.POSITIVE_INFINITY) : null;
  return {
    figures: supposed({
      ...made,
      channels,
      freewheel: "inside",
      inputF: guess(inputFor(runA * channels)),
      ...(limit ? { limitA: limit } : {}),
    }),
    channels,
    className: row.name,
  };
}

/** Reports whether a class has a current limit that a builder sets. */
const classHasLimit = (id: string) => /yes|adjustable|set by/.test(DRIVER_CLASSES.find((each) => each.id === id)?.currentLimit ?? "");

/** Of a motor nobody knows anything of no driver can be proposed: what it must bear is asked for. */
function unknownDriver({ lowV, highV }: RailVolts, channels: number): PlannedDriver {
  const window = { inputMinV: guess(Number((lowV * 0.7).toPrecision(2))), inputMaxV: guess(Math.ceil(highV * 1.2)) };
  return {
    figures: { channels, bridge: "mosfet", bridgeOhm: guess(0.02), ownA: typical(0.05), freewheel: "inside", ...window },
    channels,
    className: "a driver",
  };
}

/** No class bears it: what one would have to bear. */
function custom(load: Load, runA: number, stallA: number, { lowV, highV }: RailVolts, channels: number): PlannedDriver {
  const continuousA = Number((runA * 1.5).toPrecision(2));
  const limit = limitFor(load, Number.POSITIVE_INFINITY);
  return {
    figures: {
      channels,
      bridge: "mosfet",
      inputF: guess(inputFor(runA * channels)),
      bridgeOhm: guess(0.01),
      ownA: typical(0.05),
      continuousA: guess(Math.max(1, continuousA)),
      peakA: guess(Math.max(1.5, Number(((limit?.value ?? stallA) * 1.2).toPrecision(2)))),
      ...(limit ? { limitA: limit } : {}),
      inputMinV: guess(Number((lowV * 0.7).toPrecision(2))),
      inputMaxV: guess(Math.ceil(highV * 1.2)),
      freewheel: "inside",
      note: "No class here bears its motor: this is what one has to bear.",
    },
    channels,
    className: "a driver made for it",
  };
}

/** A named driver with the limit that is set in it for its motor, where it is of a size that has one and the list tells none. */
export function limitedFor(planned: PlannedDriver, load: Pick<Load, "levels">): PlannedDriver {
  const { figures } = planned;
  const printed = figures.headlineA?.value ?? figures.peakA?.value ?? 0;
  const limit = figures.limitA || !hasLimit(figures) ? null : limitFor(load, figures.peakA?.value ?? printed);
  return limit ? { ...planned, figures: { ...figures, limitA: limit } } : planned;
}

/** A driver the list names: what is printed on it, of which its bare board holds a part. */
export function namedDriver(reading: DriverReading, { lowV, highV }: RailVolts): PlannedDriver {
  const channels = Math.min(8, Math.max(1, reading.channels ?? 1));
  const printed: Figure | undefined = reading.amps ? figure(reading.amps) : undefined;
  const peak = reading.peakA ? figure(reading.peakA) : printed ? guess(printed.value) : undefined;
  return {
    figures: {
      channels,
      bridge: "mosfet",
      inputF: guess(inputFor((printed?.value ?? 2) * PRINTED_SHARE * channels)),
      bridgeOhm: guess(0.02),
      ownA: typical(0.05),
      freewheel: "inside",
      ...(printed ? { headlineA: printed, continuousA: guess(Number((printed.value * PRINTED_SHARE).toPrecision(3))) } : {}),
      ...(peak ? { peakA: peak } : {}),
      inputMinV: guess(Number(Math.min(lowV * 0.8, 7).toPrecision(2))),
      inputMaxV: guess(Math.ceil(Math.max(highV, reading.volts?.value ?? 0) * 1.15)),
    },
    channels,
    className: reading.name,
  };
}
