import { newPart } from "../machine/defaults";
import { guess } from "../machine/figure";
import type { Load } from "../machine/schema";
import { nominalOf } from "../machine/tree";
import { at, type Builder } from "./builder";
import { type Listed, moves, sideOf } from "./demand";
import { namedDriver, type PlannedDriver, proposedDriver } from "./make-driver";
import { figure } from "./make-load";
import type { RailPlace, Sourced } from "./rails";
import type { PartReading } from "./reading";
import type { Sorted } from "./sorted";

/** Kinds that share one feed where several are alike; all others get one each. */
const GROUPED: ReadonlySet<Load["loadKind"]> = new Set(["light", "servo", "sensor", "coil", "heater", "display", "fan", "sound"] as const);
/** Most pieces of other kinds that get a feed of their own. */
const APART_MOST = 12;

/** Hangs loads on the rails of a draft. */
export class Hanger {
  private readonly unused: PlannedDriver[] = [];
  private readonly names: string[] = [];

  constructor(
    private readonly builder: Builder,
    private readonly sourced: Sourced,
    said: Sorted,
  ) {
    const highest = [...sourced.rails].sort((a, b) => b.volts - a.volts)[0];
    for (const reading of said.drivers) {
      if (reading.forSteppers) continue;
      for (let i = 0; i < Math.min(reading.count, 40); i++) {
        const rail = sourced.rails.find(({ volts }) => reading.volts && volts === nominalOf(reading.volts.value)) ?? highest;
        if (!rail) continue;
        this.unused.push(namedDriver(reading, rail));
        this.names.push(reading.name);
      }
    }
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
      const own = this.unused.shift();
      const ownName = own ? this.names.shift() : undefined;
      const planned = own ?? proposedDriver(about, rail, reading.perDriver, left);
      if (!planned) return;
      driverNo++;
      const takes = Math.min(left, planned.channels, reading.perDriver ?? planned.channels);
      const total = Math.ceil(reading.count / takes);
      const name = ownName ?? `${reading.name} driver${total > 1 ? ` ${driverNo}` : ""}`;
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
        ? { phaseLead: { gauge: "18 AWG", insulation: "pvc80", lengthM: builder.length("motor", reading.kind) } }
        : {};
    for (let i = 1; i <= (alone ? reading.count : 1); i++)
      builder.add(
        "load",
        alone ? `${reading.name} ${i}` : reading.name,
        {
          ...each.load,
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
