import { newPart } from "../machine/defaults";
import { guess } from "../machine/figure";
import type { Load } from "../machine/schema";
import { nominalOf } from "../machine/tree";
import { usualSizes } from "../reference/gauges";
import { usualAreaMm2 } from "../reference/practice";
import { at, type Builder } from "./builder";
import { type Listed, moves, sideOf } from "./demand";
import { wordsOf } from "./links";
import { limitedFor, namedDriver, type PlannedDriver, proposedDriver } from "./make-driver";
import { figure, onRail } from "./make-load";
import type { RailPlace, Sourced } from "./rails";
import type { DriverReading, PartReading } from "./reading";
import { leaveOut, NO_SOURCE, type Sorted } from "./sorted";

/** Kinds that share one feed where several are alike; all others get one each. */
const GROUPED: ReadonlySet<Load["loadKind"]> = new Set(["light", "servo", "sensor", "coil", "heater", "display", "fan", "sound"] as const);
/** Most pieces of other kinds that get a feed of their own. */
const APART_MOST = 12;

/** A driver that the list names, with the rail it hangs on where no motor says another. */
interface ToldDriver {
  readonly planned: PlannedDriver;
  readonly name: string;
  readonly reading: DriverReading;
  readonly rail: RailPlace;
}

/** Whether a driver is told for a load: by its name, or by what sort it is. */
function isFor({ forWhat }: DriverReading, { reading }: Listed): boolean {
  const words = wordsOf(forWhat ?? "");
  const own = [...wordsOf(reading.name), reading.kind];
  return words.length > 0 && words.every((word) => own.includes(word));
}

/** Size of the phases between a drive and its motor: 18 AWG, or what goes with 1.25 times its running current and with its limit. */
function phaseGauge({ loadKind, levels }: Partial<Load>): string {
  const amps = loadKind === "brushless" ? Math.max((levels?.run?.value ?? 0) * PHASE_ROOM, levels?.start?.value ?? 0) : 0;
  const area = Math.max(usualAreaMm2(amps), PHASE_LEAST_MM2) * 0.99;
  return usualSizes("awg").find(({ areaMm2 }) => areaMm2 >= area)?.id ?? "4/0 AWG";
}

/** Room over the running current (handbook practice section 6), and 18 AWG, which a phase is at least. */
const PHASE_ROOM = 1.25;
const PHASE_LEAST_MM2 = 0.82;

/** Hangs loads on the rails of a draft. */
export class Hanger {
  private readonly told: ToldDriver[] = [];

  constructor(
    private readonly builder: Builder,
    private readonly sourced: Sourced,
    said: Sorted,
  ) {
    const highest = [...sourced.rails].sort((a, b) => b.volts - a.volts)[0];
    const has = (kind: Load["loadKind"]) => sourced.loads.some(({ reading }) => reading.kind === kind);
    for (const reading of said.drivers) {
      // The drive of these is part of them.
      if (reading.forBrushless && has("brushless")) continue;
      if (reading.forSteppers) {
        if (!has("stepper")) leaveOut(said, reading, "Its stepper stands in no line: write the stepper, its drive is part of it.");
        continue;
      }
      const rail = sourced.rails.find(({ volts }) => reading.volts && volts === nominalOf(reading.volts.value)) ?? highest;
      if (!rail) {
        leaveOut(said, reading, NO_SOURCE);
        continue;
      }
      const planned = namedDriver(reading, rail);
      // What is named and stands in no line is no reason to leave a driver unused.
      const forWhat = sourced.loads.some((each) => isFor(reading, each)) ? reading.forWhat : null;
      for (let i = 1; i <= Math.min(reading.count, 40); i++)
        this.told.push({
          planned,
          name: reading.count > 1 ? `${reading.name} ${i}` : reading.name,
          reading: { ...reading, forWhat },
          rail,
        });
    }
  }

  /** The driver of the list that comes next for a motor: one told for it before one told for nothing. */
  private nextTold(each: Listed): ToldDriver | undefined {
    const own = this.told.findIndex(({ reading }) => reading.forWhat !== null && isFor(reading, each));
    const at = own >= 0 ? own : this.told.findIndex(({ reading }) => reading.forWhat === null);
    return at < 0 ? undefined : this.told.splice(at, 1)[0];
  }

  /** Drivers that the list names and no motor asks for are planned all the same, with their channels free. */
  spare(): void {
    const { builder } = this;
    for (const { planned, name, rail } of this.told.splice(0))
      builder.add("driver", name, planned.figures, {
        from: rail.moving,
        back: rail.back,
        lengthM: builder.length("driver"),
        gauge: builder.gauge("driver"),
      });
  }

  private railOf({ volts, reading }: Listed): RailPlace | undefined {
    const side = sideOf(reading.kind);
    const same = this.sourced.rails.filter((rail) => rail.volts === volts);
    return same.find((rail) => rail.side === side) ?? same.find((rail) => rail.side === "both") ?? same[0];
  }

  /** Motors with the drivers they need: as told, else the chooser's class. */
  driven(each: Listed): void {
    const { builder } = this;
    const rail = this.railOf(each);
    if (!rail) return;
    const { reading } = each;
    const about = newPart("load", "any", "any", { ...each.load, count: 1 });
    let left = reading.count;
    let n = 0;
    let driverNo = 0;
    while (left > 0) {
      const own = this.nextTold(each);
      const planned = own ? limitedFor(own.planned, about) : proposedDriver(about, rail, reading.perDriver, left);
      if (!planned) return;
      driverNo++;
      const takes = Math.min(left, planned.channels, reading.perDriver ?? planned.channels);
      const total = Math.ceil(reading.count / takes);
      const name = own?.name ?? `${reading.name} driver${total > 1 ? ` ${driverNo}` : ""}`;
      const driver = builder.add("driver", name, planned.figures, {
        from: rail.moving,
        back: rail.back,
        lengthM: builder.length("driver"),
        gauge: builder.gauge("driver"),
      });
      for (let channel = 1; channel <= takes; channel++) {
        n++;
        builder.add(
          "load",
          reading.count > 1 ? `${reading.name} ${n}` : reading.name,
          { ...each.load, count: 1 },
          {
            from: at(driver, `${channel}a`),
            back: at(driver, `${channel}b`),
            lengthM: builder.length("motor", reading.kind, reading.lengthM ? figure(reading.lengthM) : null),
            gauge: reading.gauge ?? builder.gauge("motor", reading.kind),
          },
        );
      }
      left -= takes;
    }
  }

  /** What hangs on a rail without a driver. */
  straight(each: Listed): void {
    const { builder } = this;
    const rail = this.railOf(each);
    if (!rail) return;
    const { reading } = each;
    const moving = moves(reading.kind);
    const alone = !GROUPED.has(reading.kind) && reading.count > 1 && reading.count <= APART_MOST;
    const lengthM = builder.length(
      "load",
      reading.kind === "computer" ? "board" : reading.kind,
      reading.lengthM ? figure(reading.lengthM) : null,
    );
    const hang = {
      from: moving || (reading.kind === "servo" && rail.side !== "logic") ? rail.moving : rail.steady,
      back: sideOf(reading.kind) === "logic" ? rail.logicBack : rail.back,
      lengthM,
      gauge: reading.gauge ?? builder.gauge("load", reading.kind === "computer" ? "board" : reading.kind),
    };
    const phases =
      reading.kind === "stepper" || reading.kind === "brushless"
        ? { phaseLead: { gauge: phaseGauge(each.load), insulation: "pvc80", lengthM: builder.length("motor", reading.kind) } }
        : {};
    for (let i = 1; i <= (alone ? reading.count : 1); i++)
      builder.add(
        "load",
        alone ? `${reading.name} ${i}` : reading.name,
        {
          ...onRail(each.load, reading, rail),
          ...phases,
          count: alone ? 1 : reading.count,
          ...(!alone && reading.count > 1 ? { ownLead: { gauge: "20 AWG", insulation: "pvc80", lengthM: guess(0.3) } } : {}),
        },
        hang,
      );
  }

  /** A charging port at the pack. Fuse, switch, stop and bars are in the plan already, with the names and amps that were told. */
  others(parts: readonly PartReading[]): void {
    const port = parts.find(({ is }) => is === "port");
    const rail = this.sourced.rails[0];
    if (!port || !rail) return;
    const amps = port.amps ? figure(port.amps) : guess(10);
    this.builder.add(
      "switch",
      port.name,
      { device: "charging port", ratedA: amps, breakA: amps, breakV: guess(Math.ceil(rail.highV * 1.2)) },
      { from: rail.steady, lengthM: this.builder.length("source") },
    );
  }
}
