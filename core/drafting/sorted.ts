import { typical } from "../machine/figure";
import { nominalOf } from "../machine/tree";
import type { Listed } from "./demand";
import { figure, loadFigures } from "./make-load";
import { isQuiet } from "./read-list";
import type { ConverterReading, DriverReading, LoadReading, PackReading, PartReading, ReadLine, SupplyReading } from "./reading";

/** A line that is not in the draft, and why. */
export interface LeftOut {
  readonly number: number;
  readonly text: string;
  readonly why: string;
}

/** What the lines say, by sort; lines with trouble are left out and named. */
export interface Sorted {
  readonly loads: readonly { readonly reading: LoadReading; readonly number: number; readonly text: string }[];
  readonly packs: readonly PackReading[];
  readonly supplies: readonly SupplyReading[];
  readonly converters: readonly ConverterReading[];
  readonly drivers: readonly DriverReading[];
  readonly parts: readonly PartReading[];
  readonly lines: readonly ReadLine[];
  readonly left: LeftOut[];
}

/** Why a line has no place in a machine that nothing feeds. */
export const NO_SOURCE = "Nothing feeds this machine yet: add a source first.";

/** Most lines about loads that are planned at once: a draft is made while somebody waits. */
export const LOADS_MOST = 150;

/** Sorts the lines of a list by what they are about. */
export function sorted(lines: readonly ReadLine[]): Sorted {
  const left: LeftOut[] = [];
  let loads = 0;
  const good = lines.filter((line) => {
    const { reading, troubles, number, text } = line;
    if (reading !== null && isQuiet(reading)) return false;
    if (reading?.is === "load" && troubles.length === 0 && ++loads > LOADS_MOST) {
      left.push({
        number,
        text,
        why: `At most ${LOADS_MOST} lines with loads are planned at once. Add the rest in the machine, with the key +.`,
      });
      return false;
    }
    if (reading !== null && troubles.length === 0) return true;
    left.push({ number, text, why: troubles[0]?.why ?? "It was not understood." });
    return false;
  });
  const of = <K extends NonNullable<ReadLine["reading"]>["is"]>(is: K) =>
    good.flatMap(({ reading }) => (reading?.is === is ? [reading as Extract<NonNullable<ReadLine["reading"]>, { is: K }>] : []));
  const volts = good.flatMap(({ reading }) => (reading?.is === "load" && reading.volts ? [reading.volts.value] : []));
  return {
    loads: good.flatMap(({ reading, number, text }) => (reading?.is === "load" ? [{ reading, number, text }] : [])),
    packs: of("pack").map((pack) => joined(pack, volts)),
    supplies: of("supply"),
    converters: of("converter"),
    drivers: of("driver"),
    parts: (["stop", "switch", "fuse", "bar", "port", "diode"] as const).flatMap((is) => of(is)) as PartReading[],
    lines: good,
    left,
  };
}

/** Names the line of a reading that finds no place in the plan, and why. */
export function leaveOut({ lines, left }: Sorted, reading: ReadLine["reading"], why: string): void {
  const line = lines.find((each) => each.reading === reading);
  if (line && left.every(({ number }) => number !== line.number)) left.push({ number: line.number, text: line.text, why });
}

/** Blocks of which nobody says how they are joined: as the loads' volts ask for; one after the other where they leave it open. */
function joined(pack: PackReading, loads: readonly number[]): PackReading {
  if (pack.unjoined === null) return pack;
  const own = pack.volts?.value;
  const at = (volts: number) => loads.some((each) => nominalOf(each) === nominalOf(volts));
  const sideBySide = own !== undefined && at(own) && !at(own * pack.unjoined);
  if (sideBySide)
    return {
      ...pack,
      parallel: pack.parallel * pack.unjoined,
      capacityAh: pack.capacityAh && { ...pack.capacityAh, value: pack.capacityAh.value * pack.unjoined },
    };
  return { ...pack, blocks: pack.unjoined, volts: pack.volts && { ...pack.volts, value: pack.volts.value * pack.unjoined } };
}

/** Kinds that run on whatever their rail has: a stepper's drive makes its own current. */
const ANY_VOLTS: ReadonlySet<LoadReading["kind"]> = new Set(["stepper"] as const);

/** Loads with the volts they are to hang on; those without are left out and named. */
export function listedLoads({ loads, left }: Sorted, rails: readonly number[], mainV: number | null): Listed[] {
  return loads.flatMap(({ reading, number, text }): Listed[] => {
    const volts = voltsFor(reading, rails, mainV);
    if (volts === null) {
      left.push({ number, text, why: "Without volts nobody can tell which rail it hangs on. Write them in its line." });
      return [];
    }
    const told = reading.volts && reading.volts.low === undefined ? figure(reading.volts) : typical(volts);
    return [{ reading, number, volts: nominalOf(volts), load: loadFigures(reading, told, reading.count) }];
  });
}

function voltsFor({ volts, kind }: LoadReading, rails: readonly number[], mainV: number | null): number | null {
  if (!volts) return ANY_VOLTS.has(kind) ? mainV : null;
  const { low, value } = volts;
  if (low === undefined) return value;
  // A window: the highest rail there is within it, else its middle.
  const within = rails.filter((each) => each >= low && each <= value);
  return within.length > 0 ? Math.max(...within) : (low + value) / 2;
}
