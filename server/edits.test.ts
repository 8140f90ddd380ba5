import { afterEach, beforeEach, describe, expect, it } from "vitest";
import { applyCommand } from "@/core/machine/apply";
import type { Command } from "@/core/machine/commands";
import { typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { simple } from "@/tests/support/small";
import { type Db, openDatabase } from "./database";
import { saveEdits } from "./edits";
import { historyOf, machineAt } from "./history";
import { createMachine, getMachine, removeMachine, saveMachine } from "./machines";
import { giveBack, goneRevisions, thin } from "./thinning";

let db: Db;
let id = "";
beforeEach(() => {
  db = openDatabase(":memory:");
  id = createMachine(db, simple(), "Created").id;
});
afterEach(() => db.close());

let count = 0;
function edit(machine: Machine, command: Command) {
  const result = applyCommand(machine, command);
  if (!result.ok) throw new Error(result.message);
  return { id: `edit-${++count}-0000`, at: new Date().toISOString(), label: result.label, changes: result.changes };
}
const length = (metres: number): Command => ({ type: "updateWire", id: "w2", changes: { lengthM: typical(metres) } });
const save = (base: number, ...edits: ReturnType<typeof edit>[]) => saveEdits(db, id, { base, origin: "here", edits });
const now = () => getMachine(db, id);

describe("a save of edits", () => {
  it("makes one revision, with what it changed in words and the window it came from", () => {
    expect(save(1, edit(simple(), length(3)), edit(simple(), { type: "rename", name: "Mine" }))).toEqual({
      ok: true,
      revision: 2,
      known: [],
      joined: null,
    });
    expect(now()?.document).toMatchObject({ name: "Mine" });
    const [line] = historyOf(db, id);
    expect(line).toMatchObject({ revision: 2, origin: "here", label: "2 edits, Rename machine the last" });
    expect(line?.lines).toEqual(expect.arrayContaining([expect.stringMatching(/^Feed of motor: length 1.* → 3/)]));
  });

  it("that comes twice is known, whole or in part, and changes nothing", () => {
    const [one, two] = [edit(simple(), length(3)), edit(simple(), { type: "rename", name: "Mine" })];
    save(1, one);
    expect(save(1, one)).toMatchObject({ ok: true, revision: 2, known: [one.id], joined: { since: [{ label: one.label }] } });
    expect(save(2, one, two)).toMatchObject({ ok: true, revision: 3, known: [one.id] });
    expect(save(3, one, two)).toMatchObject({ ok: true, revision: 3, joined: null });
    expect(historyOf(db, id)).toHaveLength(3);
  });

  it("on an older revision goes in beside other figures, and says what came of both", () => {
    save(1, edit(simple(), { type: "rename", name: "Theirs" }));
    const result = save(1, edit(simple(), length(3)));
    expect(result).toMatchObject({ ok: true, revision: 3, joined: { document: { name: "Theirs" }, since: [{ origin: "here" }] } });
    expect(now()?.document.wires.find((wire) => wire.id === "w2")?.lengthM?.value).toBe(3);
  });

  it("of a figure that was changed meanwhile writes nothing, not even its other edits", () => {
    save(1, edit(simple(), length(9)));
    const result = save(1, edit(simple(), { type: "rename", name: "Mine" }), edit(simple(), length(3)));
    expect(result).toMatchObject({ ok: false, reason: "clash", current: { revision: 2, document: { name: "Small" } } });
    expect(now()).toMatchObject({ revision: 2, document: { name: "Small" } });
  });

  it("of a machine that is deleted or of nonsense is refused", () => {
    expect(
      save(1, { ...edit(simple(), length(3)), changes: [{ path: ["wires", "w2", "gauge"], before: "14 AWG", after: "no size" }] }),
    ).toMatchObject({ ok: false });
    expect(save(1, { ...edit(simple(), length(3)), changes: [{ path: ["paint"], after: "red" }] })).toMatchObject({ ok: false });
    expect(now()?.document).toEqual(simple());
    removeMachine(db, id);
    expect(save(1, edit(simple(), length(3)))).toEqual({ ok: false, reason: "missing" });
  });

  it("reads the newest version whoever wrote it", () => {
    save(1, edit(simple(), length(3)));
    const whole = { ...simple(), name: "Whole" };
    expect(saveMachine(db, id, 2, whole, "whole")).toMatchObject({ ok: true });
    expect(save(3, edit(whole, length(5)))).toMatchObject({ ok: true, revision: 4, joined: null });
    expect(now()?.document).toMatchObject({ name: "Whole" });
  });
});

describe("the history", () => {
  it("gives every kept revision back as it was, one of an older ledger as well", () => {
    save(1, edit(simple(), length(3)));
    db.prepare("UPDATE revision SET document = ? WHERE revision = 1").run(JSON.stringify({ ...simple(), name: "As text" }));
    expect(machineAt(db, id, 1)?.document.name).toBe("As text");
    expect(machineAt(db, id, 2)?.document).toEqual(now()?.document);
    expect(machineAt(db, id, 3)).toBeNull();
    db.prepare("UPDATE revision SET document = ? WHERE revision = 2").run(Buffer.from([1, 2, 3]));
    expect(() => machineAt(db, id, 2)).toThrow("cannot be read");
  });

  it("is thinned with age: all of a day, then one an hour, then one a day, the first and the newest always", () => {
    const now = new Date("2026-06-30T12:00:00Z");
    const minutes = 60_000;
    const revisions = Array.from({ length: 60 * 24 * 20 }, (_, i) => ({
      revision: i + 1,
      at: new Date(now.getTime() - (60 * 24 * 20 - i) * minutes).toISOString(),
    }));
    const gone = new Set(goneRevisions(revisions, now));
    const kept = revisions.filter(({ revision }) => !gone.has(revision));
    const aged = (from: number, to: number) =>
      kept.filter(({ at }) => (now.getTime() - Date.parse(at)) / 86_400_000 > from && (now.getTime() - Date.parse(at)) / 86_400_000 <= to)
        .length;
    expect(aged(0, 1)).toBe(1440);
    expect(aged(1, 14)).toBeGreaterThanOrEqual(13 * 24);
    expect(aged(1, 14)).toBeLessThanOrEqual(13 * 24 + 2);
    expect(aged(14, 21)).toBeLessThanOrEqual(9);
    expect([gone.has(1), gone.has(revisions.length)]).toEqual([false, false]);
    // Thinning again changes nothing.
    expect(goneRevisions(kept, now)).toEqual([]);
    expect(
      goneRevisions(
        [
          { revision: 1, at: "2020-01-01T00:00:00.000Z" },
          { revision: 2, at: "2020-01-01T00:01:00.000Z" },
        ],
        now,
      ),
    ).toEqual([]);
  });

  it("gives space back to the disk, and forgets what was deleted a month ago", async () => {
    for (let base = 1; base <= 300; base++) saveMachine(db, id, base, { ...simple(), name: `Rev ${base}` }, "edit");
    const other = createMachine(db, simple(), "Created").id;
    removeMachine(db, other);
    db.prepare("UPDATE machine SET deleted_at = '2026-01-01T00:00:00.000Z' WHERE id = ?").run(other);
    db.prepare("UPDATE revision SET created_at = '2026-01-01T00:00:00.000Z' WHERE machine_id = ?").run(id);
    const pages = () => db.pragma("page_count", { simple: true }) as number;
    const before = pages();
    expect(await thin(db, new Date("2026-02-15T00:00:00Z"))).toEqual({ revisions: 299, machines: 1 });
    expect(pages()).toBeLessThan(before / 2);
    await giveBack(db);
    expect(historyOf(db, id).map(({ revision }) => revision)).toEqual([301, 1]);
    expect(await thin(db, new Date("2026-02-16T00:00:00Z"))).toEqual({ revisions: 0, machines: 0 });
  });
});
