import { afterEach, describe, expect, it, vi } from "vitest";
import { simple } from "@/tests/support/small";
import { createBlank, deleteMachine, fetchMachine, importDocument, saveMachine } from "./api";

function answer(status: number, body: unknown): void {
  vi.stubGlobal("fetch", async () => new Response(body === null ? null : JSON.stringify(body), { status }));
}

afterEach(() => vi.unstubAllGlobals());

describe("talking to the server", () => {
  it("saves and learns the new revision", async () => {
    answer(200, { revision: 8 });
    expect(await saveMachine("x", 7, simple(), "edit")).toEqual({ ok: true, revision: 8 });
  });

  it("brings both versions home after a conflict", async () => {
    answer(409, {
      title: "Edited elsewhere",
      detail: "…",
      status: 409,
      current: { id: "x", revision: 9, document: { ...simple(), name: "Theirs" } },
    });
    expect(await saveMachine("x", 7, simple(), "edit")).toMatchObject({
      ok: false,
      kind: "conflict",
      revision: 9,
      document: { name: "Theirs" },
    });
  });

  it("passes on the server's words and the fields it named", async () => {
    answer(422, {
      title: "Not accepted",
      detail: "The file is not a machine.",
      status: 422,
      problems: [{ path: "modes", expected: "a list" }],
    });
    expect(await importDocument(simple())).toMatchObject({
      ok: false,
      kind: "refused",
      detail: "The file is not a machine.",
      problems: [{ path: "modes" }],
    });
    answer(404, { title: "Not found", detail: "Gone.", status: 404 });
    expect(await saveMachine("x", 1, simple(), "edit")).toMatchObject({ ok: false, kind: "missing" });
  });

  it("tells an unreachable server from one that refuses, and survives nonsense", async () => {
    vi.stubGlobal("fetch", async () => Promise.reject(new TypeError("refused")));
    expect(await createBlank("x")).toMatchObject({ ok: false, kind: "offline" });
    expect(await deleteMachine("x")).toBe(false);
    expect(await fetchMachine("x")).toBeNull();
    vi.stubGlobal("fetch", async () => new Response("<html>", { status: 500 }));
    expect(await createBlank("x")).toMatchObject({ ok: false, kind: "refused" });
    answer(200, { revision: 1, document: { format: "other" } });
    expect(await fetchMachine("x")).toBeNull();
  });
});
