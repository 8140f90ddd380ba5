import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { randomFrom } from "@/tests/support/random";
import { randomCommand } from "@/tests/support/random-command";
import { seeds } from "@/tests/support/seeds";
import { must, part, simple } from "@/tests/support/small";
import { applyCommand } from "./apply";
import { changeLine, changeLines, changeWords } from "./change-words";
import { type Change, changesBetween, type Edit, editSchema, inverted, keyOf, merge, withChanges } from "./changes";
import type { Command } from "./commands";
import { newMachine } from "./defaults";
import { measured, typical } from "./figure";
import { readMachine } from "./read";
import { renamedApart } from "./rename";
import { sameValue } from "./same-value";
import type { Machine } from "./schema";

let count = 0;
const edit = (changes: Change[], label = "edit"): Edit => ({
  id: `edit-${String(++count).padStart(6, "0")}`,
  at: "2026-01-01T10:00:00Z",
  label,
  changes,
});

/** Does these commands, one after the other, and gives back what they did. */
function editsOf(machine: Machine, ...commands: Command[]): { machine: Machine; edits: Edit[] } {
  const edits = commands.map((command) => {
    const result = applyCommand(machine, command);
    if (!result.ok) throw new Error(result.message);
    machine = result.machine;
    return edit(result.changes, result.label);
  });
  return { machine, edits };
}

const length = (metres: number): Command => ({ type: "updateWire", id: "w2", changes: { lengthM: typical(metres) } });
const valid = (machine: Machine) => {
  const read = readMachine(JSON.parse(JSON.stringify(machine)));
  return read.ok ? [] : read.problems;
};

describe("changes between two versions", () => {
  it("name each figure by ids, its old and its new value, and nothing else", () => {
    const { edits } = editsOf(simple(), length(3), { type: "setCell", loadId: "motor", modeId: "m1", cell: { state: "off" } });
    expect(edits.map(({ changes }) => changes.map(keyOf))).toEqual([["wires/w2/lengthM"], ["parts/motor/cells/m1"]]);
    expect(edits[0]?.changes[0]?.after).toEqual(typical(3));
  });

  it("are found between documents that share nothing, too", () => {
    const before = EXAMPLES[0]?.make() as Machine;
    const copy = structuredClone(before);
    expect(changesBetween(before, copy)).toEqual([]);
    const other = EXAMPLES[1]?.make() as Machine;
    const there = withChanges(before, changesBetween(before, other));
    expect(there.clashes).toEqual([]);
    expect(there.machine).toEqual(other);
    expect(withChanges(other, inverted(changesBetween(before, other))).machine).toEqual(before);
  });

  it("keep what they do not touch the very object it was", () => {
    const before = simple();
    const { machine } = withChanges(before, editsOf(before, length(3)).edits[0]?.changes ?? []);
    expect(machine.parts).toBe(before.parts);
    expect(machine.wires.map((wire, i) => wire === before.wires[i])).toEqual(before.wires.map(({ id }) => id !== "w2"));
  });

  it("bring an element back to its place in the list, and an order back as it was", () => {
    const before = EXAMPLES[0]?.make() as Machine;
    for (const change of [
      { type: "removeMode", id: before.modes[1]?.id ?? "" },
      { type: "moveMode", id: before.modes[1]?.id ?? "", by: 1 },
      { type: "moveMode", id: before.modes[1]?.id ?? "", by: -1 },
    ] satisfies Command[]) {
      const { machine, edits } = editsOf(before, change);
      expect(withChanges(machine, inverted(edits[0]?.changes ?? [])).machine).toEqual(before);
    }
  });

  it("survive their own text, and are refused where they are none", () => {
    const { edits } = editsOf(simple(), length(3));
    expect(editSchema.parse(JSON.parse(JSON.stringify(edits[0])))).toEqual(edits[0]);
    expect(editSchema.safeParse({ ...edits[0], changes: [{ path: [] }] }).success).toBe(false);
    expect(editSchema.safeParse({ ...edits[0], id: "x" }).success).toBe(false);
    const { machine, clashes } = withChanges(simple(), [{ path: ["settings", "__proto__", "polluted"], after: 1 }]);
    expect([clashes.length, "polluted" in machine.settings, "polluted" in {}]).toEqual([1, false, false]);
  });
});

describe("edits that meet another version", () => {
  const start = simple();

  it("go in beside edits of other figures, of the same part and of others", () => {
    const theirs = editsOf(
      start,
      { type: "updateWire", id: "w2", changes: { gauge: "8 AWG" } },
      { type: "rename", name: "Theirs" },
    ).machine;
    const { edits } = editsOf(start, length(3), { type: "setSettings", changes: { ambientC: 41 } });
    const merged = merge(theirs, edits);
    expect([merged.clashes, merged.misfits]).toEqual([[], []]);
    expect(merged.machine.wires.find(({ id }) => id === "w2")).toMatchObject({ gauge: "8 AWG", lengthM: typical(3) });
    expect([merged.machine.name, merged.machine.settings.ambientC]).toEqual(["Theirs", 41]);
  });

  it("ask about the same figure with both values, once, however often it was edited here", () => {
    const theirs = editsOf(start, length(9)).machine;
    const { edits } = editsOf(start, length(3), { type: "rename", name: "Mine" }, length(4));
    const merged = merge(theirs, edits);
    expect(merged.clashes.map((clash) => [keyOf(clash.change), clash.change.after, clash.theirs])).toEqual([
      ["wires/w2/lengthM", typical(4), typical(9)],
    ]);
    expect(merged.machine.name).toBe("Mine");
    const figure = (choice: "mine" | "theirs") =>
      merge(theirs, edits, new Map([["wires/w2/lengthM", choice]])).machine.wires.find(({ id }) => id === "w2")?.lengthM;
    expect([figure("mine"), figure("theirs")]).toEqual([typical(4), typical(9)]);
  });

  it("do nothing twice: what is there already is not asked about", () => {
    const { machine, edits } = editsOf(start, length(3), { type: "rename", name: "Mine" });
    const merged = merge(machine, edits);
    expect(merged.machine).toBe(machine);
    expect(merged.done).toHaveLength(2);
  });

  it("are left out, and said, where what they change is gone or the machine would not be one", () => {
    const theirs = editsOf(start, { type: "removePart", id: "motor" }).machine;
    const { edits } = editsOf(start, { type: "updatePart", id: "motor", changes: { name: "Winch" } }, { type: "rename", name: "Mine" });
    const merged = merge(theirs, edits);
    expect(merged.misfits.map((misfit) => misfit.edit)).toEqual([edits[0]]);
    expect(merged.machine.name).toBe("Mine");
    // A wire to a part that is no longer there.
    const wired = editsOf(start, {
      type: "addWire",
      wire: {
        role: "return",
        from: { part: "motor", terminal: "-" },
        to: { part: "pack", terminal: "-" },
        parallel: 1,
        insulation: "pvc80",
      },
    });
    expect(merge(theirs, wired.edits).misfits).toHaveLength(1);
    expect(valid(merge(theirs, wired.edits).machine)).toEqual([]);
  });

  it("of a removal ask when the other version changed what would go", () => {
    const theirs = editsOf(start, { type: "updatePart", id: "motor", changes: { count: 4 } }).machine;
    const { edits } = editsOf(start, { type: "removePart", id: "motor" });
    expect(merge(theirs, edits).clashes.map(({ change }) => keyOf(change))).toEqual(["parts/motor"]);
    expect(merge(theirs, edits, new Map([["parts/motor", "mine"]])).machine.parts.some(({ id }) => id === "motor")).toBe(false);
  });

  it("that added a part under the same id get another, and everything that names it follows", () => {
    const theirs = part(start, "load", "p9", { count: 7 }, { from: "main.out", wire: { gauge: "14 AWG" } });
    const mine = part(start, "load", "p9", { count: 2 }, { from: "main.out", wire: { gauge: "10 AWG" } });
    const edits = [edit(changesBetween(start, mine))];
    const met = merge(theirs, edits);
    expect(met.clashes.every(({ kind }) => kind === "id")).toBe(true);
    const rename = renamedApart(theirs, edits, met.clashes);
    const merged = merge(
      theirs,
      edits.map((each) => ({ ...each, changes: rename?.(each.changes) ?? [] })),
    );
    expect([merged.clashes, merged.misfits, valid(merged.machine)]).toEqual([[], [], []]);
    expect(
      merged.machine.parts.filter((each) => each.kind === "load" && each.count < 9).map((each) => each.kind === "load" && each.count),
    ).toEqual(expect.arrayContaining([7, 2]));
    expect(merged.machine.wires.length).toBe(theirs.wires.length + mine.wires.length - start.wires.length);
    expect(renamedApart(theirs, edits, [])).toBeNull();
  });

  it("of a whole machine beside another with the very same ids leave both whole", () => {
    for (const { make } of EXAMPLES) {
      const mine = make();
      const empty = { ...newMachine("Empty"), modes: mine.modes };
      const theirs = { ...mine, parts: mine.parts.map((each) => ({ ...each, name: `Other ${each.name.slice(0, 60)}` })) };
      const lists = changesBetween(empty, mine).filter(({ path }) => ["parts", "wires", "signals"].includes(path[0] ?? ""));
      const other = withChanges(empty, changesBetween(empty, theirs)).machine;
      const differing = {
        ...other,
        wires: other.wires.map((wire) => ({ ...wire, colour: "other" })),
        ...(other.signals ? { signals: other.signals.map((signal) => ({ ...signal, allowsV: measured(1) })) } : {}),
      };
      const edits = [edit(lists)];
      const rename = renamedApart(differing, edits, merge(differing, edits).clashes);
      const merged = merge(differing, [edit(rename?.(lists) ?? [])]);
      expect([merged.clashes, merged.misfits, valid(merged.machine)], mine.name).toEqual([[], [], []]);
      expect(merged.machine.parts).toHaveLength(2 * mine.parts.length);
      expect(merged.machine.wires).toHaveLength(2 * mine.wires.length);
      // The second half is the same machine under other names.
      const shape = (wires: Machine["wires"], parts: Machine["parts"]) =>
        wires.map((wire) => [wire.from, wire.to].map((at) => `${parts.find(({ id }) => id === at.part)?.name} ${at.terminal}`)).sort();
      const half = merged.machine.parts.filter(({ name }) => !name.startsWith("Other "));
      const own = new Set(half.map(({ id }) => id));
      expect(
        shape(
          merged.machine.wires.filter((wire) => own.has(wire.from.part)),
          half,
        ),
      ).toEqual(shape(mine.wires, mine.parts));
    }
  });

  it.each(seeds(1, 24))(
    "leave a machine that can be saved, whatever the two did, and keep what only one of them changed: seed %d",
    (seed) => {
      const random = randomFrom(seed * 77);
      const base = EXAMPLES[seed % EXAMPLES.length]?.make() as Machine;
      const walk = (turns: number) => {
        let machine = base;
        const edits: Edit[] = [];
        for (let turn = 0; turn < turns; turn++) {
          const result = applyCommand(machine, randomCommand(machine, random));
          if (!result.ok || result.changes.length === 0) continue;
          machine = result.machine;
          edits.push(edit(result.changes, result.label));
        }
        return { machine, edits };
      };
      const [mine, theirs] = [walk(25), walk(25)];
      const met = merge(theirs.machine, mine.edits);
      const rename = renamedApart(theirs.machine, mine.edits, met.clashes) ?? ((changes: readonly Change[]) => [...changes]);
      const edits = mine.edits.map((each) => ({ ...each, changes: rename(each.changes) }));
      const asked = merge(theirs.machine, edits);
      expect(asked.clashes.every(({ kind }) => kind === "figure")).toBe(true);
      for (const choice of ["mine", "theirs"] as const) {
        let { machine, clashes } = asked;
        const choices = new Map<string, "mine" | "theirs">();
        for (let round = 0; clashes.length > 0 && round < 40; round++) {
          for (const clash of clashes) choices.set(keyOf(clash.change), choice);
          ({ machine, clashes } = merge(theirs.machine, edits, choices));
        }
        expect(clashes).toEqual([]);
        expect(valid(machine), choice).toEqual([]);
        const untouched = new Set(asked.misfits.flatMap(({ edit: { changes } }) => changes.map(keyOf)));
        // Figures that only the other window changed stand as it left them.
        const theirChanges = changesBetween(base, theirs.machine);
        const myKeys = edits.flatMap(({ changes }) => changes.map(({ path }) => path.slice(0, 2).join("/")));
        const only = theirChanges.filter((change) => change.path.length > 2 && !myKeys.includes(change.path.slice(0, 2).join("/")));
        const lost = only.filter((change) => withChanges(machine, [change]).machine !== machine && !untouched.has(keyOf(change)));
        expect(lost.map(keyOf), choice).toEqual([]);
      }
    },
  );
});

describe("a change in words", () => {
  const words = (before: Machine, command: Command) => changeWords(before, changesBetween(before, must(before, command))[0] as Change);

  it("names the thing, the figure and both values with their units", () => {
    expect(words(simple({ metres: 2 }), length(3))).toMatchObject({
      what: "Feed of motor: length",
      before: expect.stringMatching(/^2/),
      after: expect.stringMatching(/^3.*m/),
    });
    expect(words(simple(), { type: "setSettings", changes: { ambientC: 41 } }).what).toBe("Settings: ambient temperature");
    expect(words(simple(), { type: "setCell", loadId: "motor", modeId: "m1", cell: { state: "run", percent: 70 } })).toMatchObject({
      what: "Motor: in Running",
      after: "run 70 %",
    });
    const read = { state: "stall", pieces: 2, duty: 0.3, measured: measured(7) } as const;
    const group = must(simple(), { type: "updatePart", id: "motor", changes: { count: 4 } });
    expect(words(group, { type: "setCell", loadId: "motor", modeId: "m1", cell: read }).after.replace(/\s/g, " ")).toBe(
      "stall 2 of them at 30 %, read 7.00 A",
    );
    expect(words(simple(), { type: "rename", name: "Other" })).toEqual({ what: "Machine: name", before: "Small", after: "Other" });
  });

  it("never shows the insides of a document, on any example and any random edit", () => {
    for (const seed of seeds(1, 12)) {
      const random = randomFrom(seed);
      let machine = EXAMPLES[seed % EXAMPLES.length]?.make() as Machine;
      for (let turn = 0; turn < 40; turn++) {
        const result = applyCommand(machine, randomCommand(machine, random));
        if (!result.ok) continue;
        const lines = changeLines(machine, result.machine, result.changes);
        expect(lines.join("\n")).not.toMatch(/NaN|undefined|\[object|[{}]|null/);
        expect(lines.length).toBeLessThanOrEqual(13);
        machine = result.machine;
      }
    }
  });

  it("tells a part with its wires as one thing that came or went", () => {
    const before = simple();
    const after = part(before, "load", "winch", {}, { from: "main.out", wire: {} });
    expect(changeLines(before, after, changesBetween(before, after))).toEqual(["Winch added"]);
    expect(changeLines(after, before, changesBetween(after, before))).toEqual(["Winch removed"]);
    expect(changeLine(before, { path: ["modes"], before: ["m1"], after: ["m1"] })).toBe("Order of modes changed");
  });
});

it("values are the same whatever the order of their fields", () => {
  expect(sameValue({ a: 1, b: [1, { c: 2 }] }, { b: [1, { c: 2 }], a: 1, d: undefined })).toBe(true);
  expect([sameValue({ a: 1 }, { a: 2 }), sameValue([1], [1, 2]), sameValue({}, null), sameValue([], {})]).toEqual([
    false,
    false,
    false,
    false,
  ]);
});
