import { applyCommand } from "@/core/machine/apply";
import type { Command } from "@/core/machine/commands";
import { newMachine, newPart } from "@/core/machine/defaults";
import { datasheet as f, typical } from "@/core/machine/figure";
import type { Machine, PartKind, PartOf, TerminalRef, Wire } from "@/core/machine/schema";

export function at(text: string): TerminalRef {
  const [part = "", terminal = "bar"] = text.split(".");
  return { part, terminal };
}

export function must(machine: Machine, command: Command): Machine {
  const result = applyCommand(machine, command);
  if (!result.ok) throw new Error(result.message);
  return result.machine;
}

export function part<K extends PartKind>(
  machine: Machine,
  kind: K,
  id: string,
  over: Partial<Omit<PartOf<K>, "id" | "name" | "kind">>,
  feed?: { from?: string; back?: string; wire?: Partial<Wire> },
): Machine {
  return must(machine, {
    type: "addPart",
    part: newPart(kind, id, id, over),
    ...(feed
      ? { feed: { ...(feed.from ? { from: at(feed.from) } : {}), ...(feed.back ? { back: at(feed.back) } : {}), wire: feed.wire ?? {} } }
      : {}),
  });
}

export interface Simple {
  amps?: number;
  gauge?: string;
  metres?: number;
  behaviour?: "current" | "resistance" | "power";
  fuse?: Wire["fuse"];
  internalOhm?: number;
  bundle?: number;
}

/** Pack, fuse close to it, and one load on its own feed: the smallest machine that every rule can judge. */
export function simple({
  amps = 5,
  gauge = "14 AWG",
  metres = 1,
  behaviour = "current",
  fuse,
  internalOhm = 0.02,
  bundle = 1,
}: Simple = {}): Machine {
  let machine = newMachine("Small");
  machine = part(machine, "pack", "pack", {
    openCircuitV: typical(12),
    fullV: typical(14.6),
    lowV: typical(11.6),
    internalOhm: typical(internalOhm),
    continuousA: typical(60),
    peakA: typical(90),
  });
  machine = part(
    machine,
    "fuse",
    "main",
    { fuse: fuse ?? { family: "blade_regular_32v", ratingA: 20 } },
    { from: "pack.+", wire: { gauge: "10 AWG", lengthM: typical(0.1) } },
  );
  return part(
    machine,
    "load",
    "motor",
    { behaviour, nominalV: typical(12), cells: { m1: { state: "amps", amps: typical(amps) } } },
    { from: "main.out", back: "pack.-", wire: { gauge, lengthM: typical(metres), bundle } },
  );
}

/** Both conductors of a source onto what others feed too: "bar" or "part.terminal". `fuse`: in the supply conductor alone. */
export function beside(machine: Machine, source: string, plus: string, minus: string, run: Partial<Wire>, fuse?: Wire["fuse"]): Machine {
  const wire = { gauge: "12 AWG", lengthM: f(0.2), parallel: 1, insulation: "pvc80", ...run };
  const out = { ...wire, role: "supply" as const, from: at(`${source}.+`), to: at(plus), ...(fuse ? { fuse } : {}) };
  const back = { ...wire, role: "return" as const, from: at(minus), to: at(`${source}.-`) };
  return must(must(machine, { type: "addWire", wire: out }), { type: "addWire", wire: back });
}

/** A pack, its fuse, one driver and one motor on its first channel; everything known, nothing wrong. */
export function driven(drive: Partial<PartOf<"driver">> = {}, motor: Partial<PartOf<"load">> = {}, packV = 24): Machine {
  let machine = newMachine("Driven");
  machine = part(machine, "pack", "pack", {
    openCircuitV: typical(packV),
    fullV: typical(packV * 1.05),
    lowV: typical(packV * 0.96),
    internalOhm: typical(0.005),
    continuousA: typical(100),
    peakA: typical(150),
  });
  const heavy = { gauge: "4 AWG", lengthM: typical(0.15) };
  machine = part(machine, "fuse", "main", { fuse: { family: "strip_m5_58v", ratingA: 60 } }, { from: "pack.+", wire: heavy });
  machine = part(
    machine,
    "driver",
    "drive",
    {
      bridgeOhm: typical(0.01),
      ownA: typical(0.02),
      continuousA: typical(30),
      peakA: typical(60),
      inputMinV: typical(6),
      inputMaxV: typical(60),
      ...drive,
    },
    { from: "main.out", back: "pack.-", wire: heavy },
  );
  return part(
    machine,
    "load",
    "motor",
    {
      nominalV: typical(packV),
      levels: { idle: typical(0.5), run: typical(6), stall: typical(25) },
      cells: { m1: { state: "run", percent: 100 } },
      ...motor,
    },
    { from: "drive.1a", back: "drive.1b", wire: { ...heavy, lengthM: typical(0.5) } },
  );
}

/** A lamp between the bars "plus" and "minus". */
export function lampOn(machine: Machine): Machine {
  const cells = { m1: { state: "amps" as const, amps: f(5) } };
  const lamp = { behaviour: "resistance" as const, nominalV: f(12), cells };
  return part(machine, "load", "lamp", lamp, { from: "plus", back: "minus", wire: { gauge: "12 AWG", lengthM: f(1) } });
}

/** A supply that holds its current, and a fused battery behind a diode, on one pair of bars with a lamp. */
export function backedUp(limitA: number, mainsV = 13): Machine {
  let machine = newMachine("Backed up");
  const run = { gauge: "8 AWG", lengthM: f(0.5) };
  machine = part(machine, "supply", "mains", {
    outputV: f(mainsV),
    outputOhm: f(0.01),
    ratedA: f(limitA),
    limitA: f(limitA),
    overload: "constant current",
  });
  machine = part(machine, "pack", "battery", { openCircuitV: f(12), fullV: f(12.8), lowV: f(11.8), internalOhm: f(0.02), diode: true });
  machine = part(machine, "bar", "plus", { side: "positive" }, { from: "mains.+", wire: run });
  machine = part(machine, "bar", "minus", { side: "negative" }, { back: "mains.-", wire: run });
  machine = beside(machine, "battery", "plus", "minus", run, { family: "blade_maxi_32v", ratingA: 30 });
  return lampOn(machine);
}
