import type { Command } from "@/core/machine/commands";
import { freshId, newPart } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import { placeUnder } from "@/core/machine/placing";
import { BOND_MAKERS, type Machine, type Part, type PartKind } from "@/core/machine/schema";
import { LINK_KINDS } from "@/core/machine/signal-schema";
import { buildLedger } from "@/core/machine/tree";
import { GAUGES } from "@/core/reference/gauges";
import { LOGIC_IDS } from "@/core/reference/logic";

/** One random edit of the kind a builder makes, sensible or not. */
export function randomCommand(machine: Machine, random: () => number): Command {
  const pick = <T>(list: readonly T[]): T | undefined => list[Math.floor(random() * list.length)];
  const part = pick(machine.parts);
  const wire = pick(machine.wires);
  const other = pick(machine.parts);
  const mode = pick(machine.modes);
  const terminals: Record<string, string[]> = {
    pack: ["+", "-"],
    supply: ["+", "-"],
    load: ["+", "-"],
    bar: ["bar"],
    switch: ["in", "out"],
    fuse: ["in", "out"],
    converter: ["in+", "in-", "out+", "out-"],
    driver: ["in+", "in-", "1a", "1b"],
  };
  const anywhere = () => ({ part: other?.id ?? "none", terminal: pick(terminals[other?.kind ?? "load"] ?? ["+"]) ?? "+" });
  const signal = pick(machine.signals ?? []);
  switch (Math.floor(random() * 16)) {
    case 0: {
      const placing = placeUnder(machine, buildLedger(machine), part?.id ?? null);
      const choice = pick(placing.kinds) ?? "load";
      const kind: PartKind = choice === "returnBar" ? "bar" : choice;
      const id = freshId("p", machine.parts);
      const fresh: Part = choice === "returnBar" ? newPart("bar", id, "New bar", { side: "negative" }) : newPart(kind, id, `New ${kind}`);
      return {
        type: "addPart",
        part: fresh,
        feed: { ...(placing.from ? { from: placing.from } : {}), ...(placing.landings[0] ? { back: placing.landings[0].at } : {}) },
      };
    }
    case 1:
      return { type: "removePart", id: part?.id ?? "none", ...(random() < 0.7 ? { moveTo: anywhere() } : {}) };
    case 2:
      return { type: "reland", wireId: wire?.id ?? "none", end: random() < 0.5 ? "from" : "to", at: anywhere() };
    case 3:
      return { type: "removeWire", id: wire?.id ?? "none" };
    case 4:
      return {
        type: "updateWire",
        id: wire?.id ?? "none",
        changes: {
          gauge: random() < 0.2 ? undefined : pick(GAUGES)?.id,
          lengthM: random() < 0.2 ? undefined : typical(0.01 + random() * 9),
        },
      };
    case 5:
      return {
        type: "addWire",
        wire: {
          role: random() < 0.5 ? "supply" : "return",
          from: anywhere(),
          to: anywhere(),
          parallel: 1,
          insulation: "pvc80",
          gauge: "16 AWG",
          lengthM: typical(random() + 0.1),
        },
      };
    case 6:
      return {
        type: "setCell",
        loadId: part?.id ?? "none",
        modeId: mode?.id ?? "none",
        cell: random() < 0.2 ? null : { state: "amps", amps: typical(random() * 60) },
      };
    case 7:
      return {
        type: "addMode",
        name: `Mode ${Math.floor(random() * 99)}`,
        lastsS: random() < 0.5 ? null : 1 + random() * 20,
        ...(mode ? { copyFrom: mode.id } : {}),
      };
    case 8:
      return { type: "removeMode", id: mode?.id ?? "none" };
    case 9:
      return {
        type: "updatePart",
        id: part?.id ?? "none",
        changes: part?.kind === "load" ? { behaviour: pick(["current", "resistance", "power"]) } : { name: "Renamed" },
      };
    case 10:
      return { type: "setSettings", changes: { ambientC: Math.round(random() * 90), bundle: 1 + Math.floor(random() * 12) } };
    case 11:
      return {
        type: "addSignal",
        signal: {
          from: part?.id ?? "none",
          to: other?.id ?? "none",
          kind: pick(LINK_KINDS) ?? "logic",
          ...(random() < 0.7 ? { sender: pick(LOGIC_IDS), receiver: pick(LOGIC_IDS) } : {}),
          bothWays: random() < 0.3,
          ...(random() < 0.5 ? { fullScaleV: typical(5), bits: 10, busV: typical(3.3) } : {}),
        },
      };
    case 12:
      return {
        type: "addWire",
        wire: {
          role: "signal",
          signal: signal?.id ?? "none",
          from: { part: signal?.from ?? "none", terminal: random() < 0.5 ? "-" : "in-" },
          to: { part: signal?.to ?? "none", terminal: random() < 0.5 ? "-" : "in-" },
          parallel: 1,
          insulation: "pvc80",
          ...(random() < 0.8 ? { gauge: "26 AWG", lengthM: typical(random() + 0.1) } : {}),
          ...(random() < 0.3 ? { resistorOhm: typical(47) } : {}),
          ...(random() < 0.3 ? { shield: true } : {}),
        },
      };
    case 13: {
      const frame = machine.parts.find((each) => each.kind === "bar" && each.form === "chassis");
      if (!frame)
        return { type: "addPart", part: newPart("bar", freshId("p", machine.parts), "Frame", { side: "negative", form: "chassis" }) };
      return {
        type: "addWire",
        wire: {
          role: random() < 0.8 ? "bond" : "return",
          from: anywhere(),
          to: { part: frame.id, terminal: "bar" },
          parallel: 1,
          insulation: "pvc80",
          bondBy: pick(BOND_MAKERS),
          ...(random() < 0.3 ? { resistorOhm: typical(1e6) } : {}),
        },
      };
    }
    case 14:
      return signal && random() < 0.3
        ? { type: "removeSignal", id: signal.id }
        : {
            type: "updateSignal",
            id: signal?.id ?? "none",
            changes: { kind: pick(LINK_KINDS), allowsV: random() < 0.3 ? typical(0.1) : undefined },
          };
    default:
      return {
        type: "setFuse",
        wireId: wire?.id ?? "none",
        fuse: random() < 0.3 ? null : { family: "blade_regular_32v", ratingA: pick([2, 5, 10, 20, 40]) ?? 10 },
      };
  }
}
