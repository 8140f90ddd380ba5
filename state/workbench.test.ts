import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import type { Machine } from "@/core/machine/schema";
import { simple } from "@/tests/support/small";
import type { Saved } from "./api";
import { analysisOf, isBroken } from "./findings";
import { createWorkbench } from "./workbench";

const soon = () => new Promise((resolve) => setTimeout(resolve, 1));

/** A server that remembers one machine and answers when told to. */
function fakeServer() {
  let revision = 1;
  let stored: Machine = simple();
  let mode: "ok" | "down" = "ok";
  const waiting: (() => void)[] = [];
  const sent: string[] = [];
  return {
    sent,
    stored: () => stored,
    setDown: (down: boolean) => {
      mode = down ? "down" : "ok";
    },
    editElsewhere: (name: string) => {
      stored = { ...stored, name };
      revision++;
    },
    answer: async () => {
      await soon();
      waiting.shift()?.();
      await soon();
    },
    send: (_id: string, base: number, machine: Machine, label: string): Promise<Saved> =>
      new Promise((resolve) => {
        sent.push(label);
        waiting.push(() => {
          if (mode === "down") resolve({ ok: false, kind: "offline", detail: "down", problems: [] });
          else if (base !== revision) resolve({ ok: false, kind: "conflict", revision, document: stored });
          else {
            stored = machine;
            revision++;
            resolve({ ok: true, revision });
          }
        });
      }),
  };
}

function open() {
  const server = fakeServer();
  const store = createWorkbench({ id: "x", machine: server.stored(), revision: 1, send: server.send, retryMs: 5, settleMs: 0 });
  const rename = (name: string) => store.getState().dispatch({ type: "rename", name });
  return { server, store, rename };
}

describe("the open machine", () => {
  it("saves one request at a time, and what was typed meanwhile with the next", async () => {
    const { server, store, rename } = open();
    rename("One");
    expect(store.getState().save.kind).toBe("saving");
    await soon();
    rename("Two");
    rename("Three");
    await soon();
    expect(server.sent).toHaveLength(1);
    await server.answer();
    expect(server.stored().name).toBe("One");
    expect(store.getState().save.kind).toBe("saving");
    await server.answer();
    expect(server.stored().name).toBe("Three");
    expect(store.getState()).toMatchObject({ revision: 3, save: { kind: "saved" } });
  });

  it("undoes and redoes, and an edit after undo ends the redo line", async () => {
    const { store, rename } = open();
    rename("One");
    rename("Two");
    expect(store.getState().undo()).toBe("Rename machine");
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

  it("keeps typing possible while the server is away, and saves all of it when it is back", async () => {
    const { server, store, rename } = open();
    server.setDown(true);
    rename("Offline");
    await server.answer();
    expect(store.getState().save.kind).toBe("offline");
    rename("Still typing");
    server.setDown(false);
    await server.answer();
    await new Promise((resolve) => setTimeout(resolve, 20));
    await server.answer();
    expect(server.stored().name).toBe("Still typing");
    expect(store.getState().save.kind).toBe("saved");
  });

  it("offers both versions after a conflict; the one not taken is one undo away", async () => {
    for (const keep of ["mine", "theirs"] as const) {
      const { server, store, rename } = open();
      server.editElsewhere("Theirs");
      rename("Mine");
      await server.answer();
      expect(store.getState().save).toMatchObject({ kind: "conflict", theirs: { name: "Theirs" } });
      rename("Mine, more");
      store.getState().resolve(keep);
      await server.answer();
      expect(store.getState().save.kind).toBe("saved");
      expect(server.stored().name).toBe(keep === "mine" ? "Mine, more" : "Theirs");
      store.getState().undo();
      expect(store.getState().machine.name).toBe(keep === "mine" ? "Theirs" : "Mine, more");
    }
  });

  it("takes over a newer revision only when nothing here is unsaved", async () => {
    const { server, store, rename } = open();
    const newer = { ...simple(), name: "Newer" };
    rename("Unsaved");
    store.getState().adoptNewer(5, newer);
    expect(store.getState().machine.name).toBe("Unsaved");
    await server.answer();
    store.getState().adoptNewer(5, newer);
    expect(store.getState()).toMatchObject({ revision: 5, machine: { name: "Newer" } });
    store.getState().adoptNewer(4, simple());
    expect(store.getState().machine.name).toBe("Newer");
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
    const { store } = open();
    const before = store.getState().machine;
    expect(store.getState().dispatch({ type: "rename", name: " " }).ok).toBe(false);
    expect(store.getState().machine).toBe(before);
    store.getState().dispatch({ type: "addMode", name: "Second", lastsS: null });
    store.getState().setMode(1);
    store.getState().dispatch({ type: "removeMode", id: "m2" });
    expect(store.getState().mode).toBe("worst");
  });
});
