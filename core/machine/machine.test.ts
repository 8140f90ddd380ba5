import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { at, driven, must, part, simple } from "@/tests/support/small";
import { machineJsonSchema, toJson } from "../exchange/json";
import { applyCommand, hangingOn } from "./apply";
import { inverted, withChanges } from "./changes";
import type { Command } from "./commands";
import { newMachine, newPart } from "./defaults";
import { typical } from "./figure";
import { placeUnder } from "./placing";
import { readMachine, readMachineText } from "./read";
import type { Machine } from "./schema";
import { buildLedger } from "./tree";

const refused = (command: Command, machine = simple()) => {
  const result = applyCommand(machine, command);
  return result.ok ? null : result.message;
};

describe("reading a document", () => {
  it("gives back an identical machine from its own export", () => {
    for (const { make } of EXAMPLES) {
      const machine = make();
      const read = readMachineText(toJson(machine));
      expect(read.ok && read.machine).toEqual(machine);
      expect(read.ok && toJson(read.machine)).toBe(toJson(machine));
    }
  });

  it.each<[string, (json: Record<string, unknown>) => unknown, string]>([
    ["an unknown field", (json) => ({ ...json, colour: "red" }), "colour"],
    ["a future version", (json) => ({ ...json, version: 99 }), "version"],
    ["another format", (json) => ({ ...json, format: "something" }), "format"],
    ["an empty name", (json) => ({ ...json, name: "  " }), "name"],
    ["no modes", (json) => ({ ...json, modes: [] }), "modes"],
    ["a list instead of an object", () => [], "(whole file)"],
  ])("refuses %s and says where", (_what, change, path) => {
    const read = readMachine(change(JSON.parse(toJson(simple()))));
    expect(read.ok ? [] : read.problems.map((problem) => problem.path)).toContain(path);
  });

  it("names the path of a nested field", () => {
    const json = JSON.parse(toJson(simple()));
    json.parts[0].internalOhm.value = -1;
    json.wires[1].gauge = "13.5 AWG";
    const first = readMachine(json);
    expect(first.ok ? [] : first.problems.map((problem) => problem.path)).toEqual(["parts[0].internalOhm.value"]);
    json.parts[0].internalOhm.value = 0.02;
    const second = readMachine(json);
    expect(second.ok ? [] : second.problems.map((problem) => problem.path)).toEqual(["wires[1].gauge"]);
  });

  it("tells a truncated file from one that is no JSON", () => {
    const text = toJson(simple());
    const cut = readMachineText(text.slice(0, text.length / 2));
    const other = readMachineText("PK\u0003\u0004");
    expect(cut.ok ? "" : cut.problems[0]?.expected).toContain("complete");
    expect(other.ok ? "" : other.problems[0]?.expected).not.toContain("complete");
  });

  it("never throws, whatever it is given", () => {
    fc.assert(fc.property(fc.anything(), (junk) => void readMachine(junk)));
    fc.assert(fc.property(fc.string(), (junk) => void readMachineText(junk)));
  });

  it("publishes a JSON Schema that names the same fields", () => {
    const schema = machineJsonSchema() as { properties: Record<string, unknown>; required: string[] };
    expect(Object.keys(schema.properties).sort()).toEqual([...Object.keys(simple()), "mission", "signals", "decisions"].sort());
  });
});

describe("commands", () => {
  it("add a part with its supply and return in one step", () => {
    const machine = part(simple(), "load", "fan", {}, { from: "main.out", back: "pack.-", wire: { gauge: "18 AWG" } });
    const [supply, back] = machine.wires.slice(-2);
    expect(supply).toMatchObject({ role: "supply", from: at("main.out"), to: at("fan.+"), gauge: "18 AWG" });
    expect(back).toMatchObject({ role: "return", from: at("fan.-"), to: at("pack.-"), pair: supply?.id });
  });

  it("undo and redo every kind of edit exactly", () => {
    const commands: Command[] = [
      { type: "rename", name: "Other" },
      { type: "setSettings", changes: { ambientC: 45 } },
      { type: "addPart", part: newPart("load", "p9", "Lamp"), feed: { from: at("main.out"), back: at("pack.-") } },
      { type: "updatePart", id: "motor", changes: { name: "Motor A", inputMinV: typical(9) } },
      { type: "removePart", id: "motor" },
      { type: "removePart", id: "main", moveTo: at("pack.+") },
      { type: "setFeed", id: "w2", changes: { gauge: "12 AWG", lengthM: undefined } },
      { type: "setFuse", wireId: "w2", fuse: { family: "blade_regular_32v", ratingA: 10 } },
      { type: "reland", wireId: "w2", end: "from", at: at("pack.+") },
      { type: "removeWire", id: "w2" },
      { type: "addMode", name: "Start", lastsS: 1, copyFrom: "m1" },
      { type: "updateMode", id: "m1", changes: { name: "Go", lastsS: 5 } },
      { type: "setCell", loadId: "motor", modeId: "m1", cell: { state: "off" } },
      {
        type: "batch",
        label: "two",
        commands: [
          { type: "rename", name: "B" },
          { type: "setFuse", wireId: "w2", fuse: null },
        ],
      },
    ];
    for (const command of commands) {
      const before = simple();
      const result = applyCommand(before, command);
      if (!result.ok) throw new Error(`${command.type}: ${result.message}`);
      expect(withChanges(result.machine, inverted(result.changes)).machine, command.type).toEqual(before);
      expect(withChanges(before, result.changes).machine, command.type).toEqual(result.machine);
    }
  });

  it("refuse a cell of a mode that is gone, or that no load could have, and leave the rest as it was", () => {
    const machine = simple();
    const cell = { state: "amps" as const, amps: typical(3) };
    expect(refused({ type: "setCell", loadId: "motor", modeId: "gone", cell })).toContain("mode of this machine");
    expect(refused({ type: "setCell", loadId: "motor", modeId: "m1", cell: { ...cell, amps: typical(-3) } })).toContain("does not fit");
    expect(refused({ type: "setCell", loadId: "pack", modeId: "m1", cell })).toContain("not a load");
    expect(machine).toEqual(simple());
  });

  it("copy, reorder and delete modes with the currents and open switches that belong to them", () => {
    let machine = part(simple(), "switch", "stop", { openIn: ["m1"] }, { from: "main.out" });
    machine = must(machine, { type: "addMode", name: "Second", lastsS: null, copyFrom: "m1" });
    expect(machine.parts.find((each) => each.id === "motor")).toMatchObject({ cells: { m2: { state: "amps", amps: { value: 5 } } } });
    machine = must(machine, { type: "moveMode", id: "m2", by: -1 });
    expect(machine.modes.map((mode) => mode.id)).toEqual(["m2", "m1"]);
    machine = must(machine, { type: "removeMode", id: "m1" });
    expect(machine.parts.find((each) => each.id === "stop")).toMatchObject({ openIn: ["m2"] });
    expect(refused({ type: "removeMode", id: "m2" }, machine)).toContain("at least one mode");
  });

  it("refuse what would break the plan, in words, and change nothing", () => {
    const machine = simple();
    const before = structuredClone(machine);
    const messages = [
      refused({ type: "reland", wireId: "w2", end: "from", at: at("motor.+") }, machine),
      refused({ type: "updatePart", id: "motor", changes: { name: "" } }, machine),
      refused({ type: "updatePart", id: "pack", changes: { openCircuitV: typical(-3) } }, machine),
      refused({ type: "updatePart", id: "motor", changes: { kind: "pack" } as object }, machine),
      refused({ type: "setFeed", id: "w2", changes: { gauge: "fat" } }, machine),
      refused({ type: "setFuse", wireId: "w2", fuse: { family: "blade_regular_32v", ratingA: 11 } }, machine),
      refused({ type: "updatePart", id: "gone", changes: { name: "x" } }, machine),
    ];
    for (const message of messages) expect(message?.length ?? 0).toBeGreaterThan(15);
    expect(machine).toEqual(before);
  });

  it("say what hangs on a part, and move it on request", () => {
    const machine = simple();
    expect(hangingOn(machine, "main").map((each) => each.id)).toEqual(["motor"]);
    expect(refused({ type: "removePart", id: "main" })).toContain("motor");
    const moved = must(machine, { type: "removePart", id: "main", moveTo: at("pack.+") });
    expect(moved.wires.find((wire) => wire.to.part === "motor")?.from).toEqual(at("pack.+"));
    expect(moved.wires.some((wire) => wire.from.part === "main" || wire.to.part === "main")).toBe(false);
  });

  it("remove a motor from its driver without asking where the driver should go", () => {
    let machine = part(simple(), "driver", "drive", {}, { from: "main.out", back: "pack.-" });
    machine = part(machine, "load", "b", {}, { from: "drive.1a", back: "drive.1b" });
    expect(hangingOn(machine, "b")).toEqual([]);
    expect(must(machine, { type: "removePart", id: "b" }).parts.some((each) => each.id === "b")).toBe(false);
    const moved = must(machine, { type: "removePart", id: "drive", moveTo: at("main.out") });
    const leads = moved.wires.filter((wire) => wire.from.part === "b" || wire.to.part === "b");
    expect(leads).toMatchObject([
      { role: "supply", from: at("main.out") },
      { role: "return", to: at("pack.-") },
    ]);
  });

  it("move the returns of a removed converter to a minus, never to the plus its feeds go to", () => {
    let machine = part(simple(), "converter", "buck", { outputV: typical(5) }, { from: "main.out", back: "pack.-" });
    machine = part(machine, "converter", "other", { outputV: typical(5) }, { from: "main.out", back: "pack.-" });
    machine = part(machine, "load", "board", {}, { from: "buck.out+", back: "buck.out-" });
    const ends = (target: string) => {
      const { wires } = must(machine, { type: "removePart", id: "buck", moveTo: at(target) });
      return wires.flatMap((wire) => (wire.to.part === "board" ? [wire.from] : wire.from.part === "board" ? [wire.to] : []));
    };
    expect(ends("other.out+")).toEqual([at("other.out+"), at("other.out-")]);
    expect(ends("main.out")).toEqual([at("main.out"), at("pack.-")]);
  });

  it("refuse to take away a driver channel that is wired", () => {
    let machine = part(simple(), "driver", "drive", { channels: 2 }, { from: "main.out", back: "pack.-" });
    machine = part(machine, "load", "b", {}, { from: "drive.2a", back: "drive.2b" });
    expect(refused({ type: "updatePart", id: "drive", changes: { channels: 1 } }, machine)).toContain("channel");
  });
});

describe("the ledger and where parts may hang", () => {
  it("indents from source to load and tags rails by order and nominal volts", () => {
    const machine = EXAMPLES[0]?.make() ?? simple();
    const ledger = buildLedger(machine);
    expect(ledger.rails.map((rail) => rail.tag)).toEqual(["A24", "B12", "C6", "D5"]);
    expect(ledger.rows).toHaveLength(machine.parts.length);
    for (const row of ledger.rows) {
      const parent = row.parent === null ? null : ledger.rowOf.get(row.parent);
      if (parent) expect(row.depth).toBe(parent.depth + 1);
    }
  });

  it("shows parts in a loop of feeds once each", () => {
    let machine = part(newMachine("Loop"), "switch", "a", {});
    machine = part(machine, "switch", "b", {}, { from: "a.out" });
    machine = must(machine, {
      type: "addWire",
      wire: { role: "supply", from: at("b.out"), to: at("a.in"), parallel: 1, insulation: "pvc80" },
    });
    expect(
      buildLedger(machine)
        .rows.map((row) => row.part.id)
        .sort(),
    ).toEqual(["a", "b"]);
  });

  it("lands returns on the bar of the same source, motors on a free channel, and new sources on nothing", () => {
    const machine = EXAMPLES[0]?.make() ?? simple();
    const place = (id: string | null) => placeUnder(machine, buildLedger(machine), id);
    expect(place("bar-p1").landings[0]?.at).toEqual(at("bar-n1"));
    expect(place("buck-5")).toMatchObject({ from: at("buck-5.out+"), landings: [{ at: at("buck-5.out-") }, {}, {}] });
    expect(place("drive-left").kinds).toEqual([]);
    expect(place(null).kinds).toEqual(["pack", "supply"]);
    expect(place("bar-n1")).toMatchObject({ kinds: ["returnBar"], from: null });
    expect(place("camera").parent?.id).toBe("buck-5");
  });
});

describe("logic terminals", () => {
  const brain = (machine: Machine, from: string, back: string) =>
    part(
      machine,
      "load",
      "brain",
      { loadKind: "board", nominalV: typical(5) },
      { from, back, wire: { gauge: "22 AWG", lengthM: typical(0.2) } },
    );

  it("a driver has one only once its logic side is planned, and keeps it while a wire is on it", () => {
    const machine = driven();
    const wire = { role: "supply" as const, from: at("main.out"), to: at("drive.5v"), parallel: 1, insulation: "pvc80" };
    expect(applyCommand(machine, { type: "addWire", wire }).ok).toBe(false);
    const planned = must(machine, { type: "updatePart", id: "drive", changes: { logic: "own input" } });
    const wired = must(planned, { type: "addWire", wire });
    expect(applyCommand(wired, { type: "updatePart", id: "drive", changes: { logic: undefined } }).ok).toBe(false);
  });

  it("what hangs on a board's pin moves to another board's, and its return to that board's minus", () => {
    let machine = brain(driven({}, {}, 6), "main.out", "pack.-");
    machine = part(machine, "load", "other", { loadKind: "board", nominalV: typical(5) }, { from: "main.out", back: "pack.-" });
    machine = part(machine, "load", "probe", { loadKind: "sensor", nominalV: typical(5) }, { from: "brain.5v", back: "brain.-" });
    const moved = must(machine, { type: "removePart", id: "brain", moveTo: at("other.5v") });
    const ends = moved.wires.filter(({ from, to }) => from.part === "probe" || to.part === "probe").map(({ from, to }) => [from, to]);
    expect(ends).toEqual([
      [at("other.5v"), at("probe.+")],
      [at("probe.-"), at("other.-")],
    ]);
  });

  it("a mission, a range and a regulator that contradict themselves are refused with their path", () => {
    const broken = (change: (document: Record<string, unknown>) => void) => {
      const document = structuredClone(driven()) as unknown as Record<string, unknown>;
      change(document);
      const read = readMachine(document);
      return read.ok ? [] : read.problems.map(({ path }) => path);
    };
    expect(broken((document) => Object.assign(document, { mission: { steps: [{ mode: "gone", seconds: 5 }], repeats: true } }))).toEqual([
      "mission.steps[0].mode",
    ]);
    expect(broken((document) => Object.assign(document, { mission: { steps: [], repeats: true } }))).toEqual(["mission.steps"]);
    const onboard = { outputV: typical(5), inputMinV: typical(12), inputMaxV: typical(7), type: "buck", jumper: "in" };
    expect(broken((document) => Object.assign((document.parts as object[])[2] ?? {}, { logic: "onboard", onboard }))).toEqual([
      "parts[2].onboard.inputMinV",
    ]);
  });
});

describe("outputs of one box", () => {
  const box = (id: string, over: object = {}) => ({
    id,
    name: id,
    kind: "supply" as const,
    outputV: typical(id === "a" ? 12 : 5),
    ...over,
  });
  const twoOutputs = () =>
    must(must(newMachine("Box"), { type: "addPart", part: box("a") }), { type: "addPart", part: box("b", { box: "a" }) });

  it("name the first one, which must be a supply and no output of another", () => {
    const path = (part: object) => {
      const read = readMachine({ ...twoOutputs(), parts: [box("a"), box("b", { box: "a" }), { ...part }] });
      return read.ok ? null : read.problems[0]?.path;
    };
    expect(path(box("c", { box: "a" }))).toBeNull();
    expect(path(box("c", { box: "b" }))).toBe("parts[2].box");
    expect(path(box("c", { box: "c" }))).toBe("parts[2].box");
    expect(path(box("c", { box: "gone" }))).toBe("parts[2].box");
  });

  it("stand alone when the first one goes, and are joined again by undo", () => {
    const result = applyCommand(twoOutputs(), { type: "removePart", id: "a" });
    if (!result.ok) throw new Error(result.message);
    expect(result.machine.parts).toEqual([box("b")]);
    expect(withChanges(result.machine, inverted(result.changes)).machine).toEqual(twoOutputs());
  });

  it("a setting that is taken away leaves no trace", () => {
    const set = must(newMachine("Wish"), { type: "setSettings", changes: { wantedRunS: 60, coldestC: -5 } });
    expect(must(set, { type: "setSettings", changes: { wantedRunS: undefined, coldestC: undefined } })).toEqual(newMachine("Wish"));
  });
});
