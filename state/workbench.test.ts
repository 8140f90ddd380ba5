import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { type Edit, keyOf, merge } from "@/core/machine/changes";
import { typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { simple } from "@/tests/support/small";
import type { SavedEdits } from "./api";
import { analysisOf, isBroken } from "./findings";
import type { Entry, Keeper } from "./journal";
import { waitAfter } from "./saving";
import { keepUndo } from "./undo-store";
import { createWorkbench } from "./workbench";

const soon = (ms = 1) => new Promise((resolve) => setTimeout(resolve, ms));

/** A server that remembers one machine, joins edits as the real one does, and answers when told to. */
function fakeServer() {
  let revision = 1;
  let stored: Machine = simple();
  let mode: "ok" | "down" | "deaf" | "missing" | "refuses" = "ok";
  const seen = new Set<string>();
  const waiting: (() => void)[] = [];
  const sent: string[][] = [];
  const save = (base: number, edits: readonly Edit[]): SavedEdits => {
    const known = edits.filter(({ id }) => seen.has(id)).map(({ id }) => id);
    const fresh = edits.filter(({ id }) => !seen.has(id));
    const since = base === revision ? [] : [{ label: "Theirs", origin: "other" }];
    const joined = base !== revision;
    const { machine, clashes, misfits } = merge(stored, fresh);
    if (clashes.length + misfits.length > 0)
      return { ok: false, kind: "conflict", revision, document: structuredClone(stored), known, since };
    for (const { id } of fresh) seen.add(id);
    if (fresh.length > 0) {
      stored = machine;
      revision++;
    }
    return { ok: true, revision, joined: joined ? { document: structuredClone(stored), since } : null };
  };
  const failure = (kind: "offline" | "missing" | "refused"): SavedEdits => ({ ok: false, kind, detail: kind, problems: [] });
  return {
    sent,
    stored: () => stored,
    set: (next: typeof mode) => {
      mode = next;
    },
    editElsewhere: (change: (machine: Machine) => Machine) => {
      stored = change(stored);
      revision++;
    },
    save,
    answer: async () => {
      await soon();
      waiting.shift()?.();
      await soon();
    },
    send: (_id: string, base: number, edits: readonly Edit[]): Promise<SavedEdits> =>
      new Promise((resolve) => {
        sent.push(edits.map(({ label }) => label));
        waiting.push(() => {
          if (mode === "down") return resolve(failure("offline"));
          if (mode === "missing") return resolve(failure("missing"));
          if (mode === "refuses") return resolve(failure("refused"));
          const result = save(base, edits);
          // The edits are in, and nobody here learns of it.
          resolve(mode === "deaf" ? failure("offline") : result);
        });
      }),
  };
}

/** A journal in memory. */
function notes(): Keeper & { entries: Map<string, Entry> } {
  const entries = new Map<string, Entry>();
  const set = (id: string, change: (entry: Entry) => Entry | null) => {
    const entry = entries.get(id);
    const next = entry && change(entry);
    if (next) entries.set(id, next);
    else entries.delete(id);
  };
  return {
    entries,
    put: (entry) => void entries.set(entry.id, { ...entry, window: "here", saved: false }),
    saved: (ids) => {
      for (const id of ids) set(id, (entry) => ({ ...entry, saved: true }));
    },
    drop: (ids) => {
      for (const id of ids) set(id, () => null);
    },
    change: (edits) => {
      for (const edit of edits) set(edit.id, (entry) => ({ ...entry, ...edit }));
    },
  };
}

function open(server = fakeServer(), machine = server.stored(), revision = 1) {
  const keeper = notes();
  const store = createWorkbench({ id: "x", machine, revision, send: server.send, keeper, waitMs: () => 5, settleMs: 0 });
  const rename = (name: string) => store.getState().dispatch({ type: "rename", name });
  const length = (metres: number) => store.getState().dispatch({ type: "updateWire", id: "w2", changes: { lengthM: typical(metres) } });
  return { server, store, keeper, rename, length };
}
const metres = (machine: Machine) => machine.wires.find(({ id }) => id === "w2")?.lengthM?.value;

describe("the open machine", () => {
  it("keeps an edit in the turn it is made, saves one request at a time, and what was typed meanwhile with the next", async () => {
    const { server, store, keeper, rename } = open();
    rename("One");
    expect([...keeper.entries.values()]).toMatchObject([{ label: "Rename machine", base: 1, turn: "do", saved: false }]);
    expect(store.getState().save.kind).toBe("saving");
    await soon();
    rename("Two");
    rename("Three");
    await soon();
    expect(server.sent).toHaveLength(1);
    await server.answer();
    expect(server.stored().name).toBe("One");
    expect([...keeper.entries.values()].map(({ saved }) => saved)).toEqual([true, false, false]);
    await server.answer();
    expect(server.stored().name).toBe("Three");
    expect(store.getState()).toMatchObject({ revision: 3, pending: [], save: { kind: "saved" } });
  });

  it("sends what is more than one save holds with the next, in order", async () => {
    const { server, store, rename } = open();
    server.set("down");
    for (let i = 0; i < 700; i++) rename(`Name ${i}`);
    await server.answer();
    server.set("ok");
    for (let i = 0; i < 4; i++) {
      await soon(8);
      await server.answer();
    }
    expect(server.sent.map(({ length }) => length)).toEqual([300, 300, 300, 100]);
    expect(server.stored().name).toBe("Name 699");
    expect(store.getState()).toMatchObject({ save: { kind: "saved" }, pending: [], machine: { name: "Name 699" } });
  });

  it("undoes and redoes, and an edit after undo ends the redo line", () => {
    const { store, rename } = open();
    rename("One");
    rename("Two");
    expect(store.getState().undo()).toEqual({ label: "Rename machine" });
    expect(store.getState().machine.name).toBe("One");
    store.getState().redo();
    expect(store.getState().machine.name).toBe("Two");
    store.getState().undo();
    rename("Other");
    expect(store.getState().redo()).toBeNull();
    store.getState().undo();
    store.getState().undo();
    expect(store.getState().machine).toEqual(simple());
    expect(store.getState().undo()).toBeNull();
  });

  it("keeps typing possible while the server is away, says when it tries again, and saves all of it when it is back", async () => {
    const { server, store, rename } = open();
    server.set("down");
    rename("Offline");
    await server.answer();
    expect(store.getState().save).toMatchObject({ kind: "waiting", detail: "offline" });
    rename("Still typing");
    server.set("ok");
    await soon(10);
    await server.answer();
    expect(server.stored().name).toBe("Still typing");
    expect(store.getState().save.kind).toBe("saved");
    expect([1, 2, 3, 4, 5, 6, 60].map(waitAfter)).toEqual([1000, 2000, 4000, 8000, 15_000, 30_000, 30_000]);
  });

  it("tries again even when the save breaks off on this side", async () => {
    let tries = 0;
    const send = async (): Promise<SavedEdits> => {
      if (++tries === 1) throw new Error("out of memory");
      return { ok: true, revision: 2, joined: null };
    };
    const store = createWorkbench({ id: "x", machine: simple(), revision: 1, send, waitMs: () => 5, settleMs: 0 });
    store.getState().dispatch({ type: "rename", name: "Mine" });
    await soon(5);
    expect(store.getState().save.kind).toBe("waiting");
    await soon(20);
    expect(store.getState()).toMatchObject({ save: { kind: "saved" }, revision: 2 });
  });

  it("does nothing twice when the answer to a save was lost", async () => {
    const { server, store, rename } = open();
    server.set("deaf");
    rename("Heard");
    await server.answer();
    expect(store.getState().save.kind).toBe("waiting");
    server.set("ok");
    rename("Again");
    await soon(10);
    await server.answer();
    expect(store.getState()).toMatchObject({ revision: 3, save: { kind: "saved" }, machine: { name: "Again" } });
    expect(server.stored().name).toBe("Again");
  });

  it("stays as it is where the server refuses, and where the machine was deleted elsewhere", async () => {
    for (const [mode, kind] of [
      ["refuses", "refused"],
      ["missing", "missing"],
    ] as const) {
      const { server, store, rename } = open();
      server.set(mode);
      rename("Mine");
      await server.answer();
      expect(store.getState()).toMatchObject({ save: { kind }, machine: { name: "Mine" }, pending: [{}] });
      server.set("ok");
      store.getState().retry();
      await server.answer();
      expect(store.getState().save.kind).toBe("saved");
      expect(server.stored().name).toBe("Mine");
    }
  });

  it("joins edits of other figures by itself, and says so", async () => {
    const { server, store, length } = open();
    server.editElsewhere((machine) => ({ ...machine, name: "Theirs" }));
    length(3);
    await server.answer();
    expect(store.getState()).toMatchObject({ machine: { name: "Theirs" }, save: { kind: "saved" }, notice: { kind: "joined" } });
    expect([metres(store.getState().machine), metres(server.stored())]).toEqual([3, 3]);
    expect(server.stored()).toEqual(store.getState().machine);
  });

  it("asks about the same figure with both values, and goes on with what was chosen", async () => {
    for (const choice of ["mine", "theirs"] as const) {
      const { server, store, keeper, length, rename } = open();
      server.editElsewhere((machine) => ({
        ...machine,
        wires: machine.wires.map((wire) => (wire.id === "w2" ? { ...wire, lengthM: typical(9) } : wire)),
      }));
      length(3);
      rename("Mine");
      await server.answer();
      const { save } = store.getState();
      if (save.kind !== "asking") throw new Error(save.kind);
      expect(save.clashes.map((clash) => [keyOf(clash.change), clash.change.after, clash.theirs])).toEqual([
        ["wires/w2/lengthM", typical(3), typical(9)],
      ]);
      store.getState().settle(new Map([["wires/w2/lengthM", choice]]));
      await server.answer();
      expect(store.getState().save.kind).toBe("saved");
      expect(metres(server.stored())).toBe(choice === "mine" ? 3 : 9);
      expect(server.stored()).toMatchObject({ name: "Mine" });
      expect(store.getState().machine).toEqual(server.stored());
      expect([...keeper.entries.values()].every(({ saved }) => saved)).toBe(true);
    }
  });

  it("gives up what is not saved for the other version only when told to", async () => {
    const { server, store, keeper, rename } = open();
    server.editElsewhere((machine) => ({ ...machine, name: "Theirs" }));
    rename("Mine");
    await server.answer();
    store.getState().takeTheirs();
    expect(store.getState()).toMatchObject({ machine: { name: "Theirs" }, revision: 2, pending: [], save: { kind: "saved" } });
    expect(keeper.entries.size).toBe(0);
  });

  it("does not undo what was changed since in another window, and says which figure", async () => {
    const { server, store, length, rename } = open();
    length(3);
    await server.answer();
    rename("Mine");
    await server.answer();
    const theirs = structuredClone(server.stored());
    for (const wire of theirs.wires) if (wire.id === "w2") wire.lengthM = typical(7);
    store.getState().adoptNewer(9, theirs, 3);
    expect(store.getState().undo()).toEqual({ label: "Rename machine" });
    expect(store.getState().undo()?.blocked).toContain("Feed of motor: length");
    expect(metres(store.getState().machine)).toBe(7);
  });

  it("takes over another revision only when nothing here is unsaved, and none that was asked for before a save", async () => {
    const { server, store, rename } = open();
    const newer = { ...simple(), name: "Newer" };
    rename("Unsaved");
    store.getState().adoptNewer(5, newer, 1);
    expect(store.getState().machine.name).toBe("Unsaved");
    await server.answer();
    store.getState().adoptNewer(1, simple(), 1);
    expect(store.getState()).toMatchObject({ revision: 2, machine: { name: "Unsaved" } });
    store.getState().adoptNewer(5, newer, 2);
    expect(store.getState()).toMatchObject({ revision: 5, machine: { name: "Newer" } });
  });

  it("takes up what closed windows left, in front of what was done since, and can undo it", async () => {
    const first = open();
    first.server.set("down");
    first.rename("Left");
    first.length(4);
    first.store.getState().undo();
    const left = [...first.keeper.entries.values()];
    const { server, store, rename } = open(fakeServer());
    rename("Since");
    store.getState().takeLeft(left, []);
    expect(store.getState().notice).toMatchObject({ kind: "left", edits: 3 });
    await server.answer();
    await server.answer();
    // Both are names of the machine: somebody has to say which stands.
    expect(store.getState()).toMatchObject({ save: { kind: "asking" }, machine: { name: "Left" } });
    const again = open(fakeServer());
    again.store.getState().takeLeft(left, []);
    expect(again.store.getState().machine.name).toBe("Left");
    again.store.getState().redo();
    expect(metres(again.store.getState().machine)).toBe(4);
    again.store.getState().undo();
    again.store.getState().undo();
    expect(again.store.getState().machine).toEqual(simple());
  });

  it("doubles no step that a reloaded window has undone before what was left is read", () => {
    const first = open();
    first.server.set("down");
    first.rename("One");
    first.rename("Two");
    const left = [...first.keeper.entries.values()];
    const kept = {
      getItem: () => JSON.stringify({ undo: first.store.getState().undoSteps, redo: [] }),
      setItem: () => {},
      removeItem: () => {},
    };
    const { store } = open(fakeServer());
    keepUndo(store, kept);
    store.getState().undo();
    store.getState().takeLeft(left, []);
    expect(store.getState().undoSteps).toHaveLength(1);
  });

  it("says nothing of left edits that the ledger has already", async () => {
    const first = open();
    first.server.set("deaf");
    first.rename("Saved");
    await first.server.answer();
    const { server, store } = open(first.server, first.server.stored(), 2);
    server.set("ok");
    store.getState().takeLeft([...first.keeper.entries.values()], []);
    expect(store.getState().notice).toBeNull();
    await server.answer();
    await server.answer();
    expect(store.getState()).toMatchObject({ revision: 2, save: { kind: "saved" } });
  });

  it("makes edits of texts that were not left, and tells of one that does not fit", () => {
    const { store } = open();
    const edit = store.getState().rehearse(() => store.getState().dispatch({ type: "rename", name: "Typed" }));
    expect(store.getState().machine.name).toBe("Small");
    const draft = { machine: "x", window: "w", base: 1, field: "Name", text: "Typed" };
    store.getState().takeLeft([], [{ ...draft, edit }]);
    expect(store.getState().machine.name).toBe("Typed");
    store.getState().undo();
    expect(store.getState().machine.name).toBe("Small");
    const other = open();
    other.store.getState().takeLeft([], [{ ...draft, text: "12 q", edit: null }]);
    expect(other.store.getState()).toMatchObject({ notice: { kind: "unfit", text: "12 q" }, save: { kind: "saved" } });
    expect(other.store.getState().rehearse(() => ({ ok: false }))).toBeNull();
  });

  it("puts an old revision in place as one edit, and lets nobody edit one that is only looked at", () => {
    const { store, rename } = open();
    rename("Now");
    expect(store.getState().replaceWith(structuredClone(simple()), "Back to revision 1")).toEqual({ ok: true });
    expect(store.getState().machine).toEqual(simple());
    store.getState().undo();
    expect(store.getState().machine.name).toBe("Now");
    const past = createWorkbench({ id: "x", machine: simple(), revision: 1, send: fakeServer().send, lookedAt: "Only looked at." });
    expect(past.getState().dispatch({ type: "rename", name: "No" })).toEqual({ ok: false, message: "Only looked at." });
    expect(past.getState().undo()).toBeNull();
  });

  it("shows no figures after an analysis that broke off, until the next one succeeds", () => {
    const { store } = open();
    const { machine } = store.getState();
    const { analysis } = analyse(machine);
    store.getState().adoptAnalysis(analysis, machine);
    store.getState().adoptAnalysis(null, machine);
    expect([analysisOf(store.getState()), isBroken(store.getState())]).toEqual([null, true]);
    store.getState().adoptAnalysis(analysis, machine);
    expect(isBroken(store.getState())).toBe(false);
  });

  it("leaves the document alone when a command is refused, and mode choice valid when modes go", () => {
    const { store, keeper } = open();
    const before = store.getState().machine;
    expect(store.getState().dispatch({ type: "rename", name: " " }).ok).toBe(false);
    expect(store.getState().machine).toBe(before);
    expect(keeper.entries.size).toBe(0);
    store.getState().dispatch({ type: "addMode", name: "Second", lastsS: null });
    store.getState().setMode(1);
    store.getState().dispatch({ type: "removeMode", id: "m2" });
    expect(store.getState().mode).toBe("worst");
  });
});
