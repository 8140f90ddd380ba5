import { afterEach, describe, expect, it, vi } from "vitest";
import { simple } from "@/tests/support/small";
import { createBlank, deleteMachine, fetchHistory, fetchMachine, goWay, importDocument, lastWords, saveEdits } from "./api";

function answer(status: number, body: unknown): void {
  vi.stubGlobal("fetch", async () => new Response(body === null ? null : JSON.stringify(body), { status }));
}

afterEach(() => vi.unstubAllGlobals());

const problem = (status: number, detail: string, more = {}) => ({ title: "No", detail, status, ...more });
const edit = { id: "edit-0001", at: "2026-01-01T10:00:00Z", label: "edit", changes: [] };
const save = () => saveEdits("x", 7, [edit], "here");

describe("talking to the server", () => {
  it("saves, learns the new revision, and what came of edits made elsewhere", async () => {
    answer(200, { revision: 8, known: [], joined: null });
    expect(await save()).toEqual({ ok: true, revision: 8, joined: null });
    answer(200, { revision: 9, known: [], joined: { document: { ...simple(), name: "Both" }, since: [{ label: "Edit", origin: null }] } });
    expect(await save()).toMatchObject({ ok: true, revision: 9, joined: { document: { name: "Both" }, since: [{ label: "Edit" }] } });
  });

  it("brings both versions home where the same figure was changed", async () => {
    const current = { id: "x", revision: 9, document: { ...simple(), name: "Theirs" } };
    answer(409, problem(409, "…", { current, known: ["edit-0000"], since: [] }));
    expect(await save()).toMatchObject({ ok: false, kind: "conflict", revision: 9, document: { name: "Theirs" }, known: ["edit-0000"] });
  });

  it("tells what will pass from what will not", async () => {
    const kinds: [number, unknown, string][] = [
      [507, problem(507, "The disk is full."), "offline"],
      [503, problem(503, "The ledger file is in use."), "offline"],
      [500, "<html>", "offline"],
      [502, null, "offline"],
      [404, problem(404, "Gone."), "missing"],
      [422, problem(422, "Not a machine."), "refused"],
      [413, "too large", "refused"],
      // An answer that is cut off, or something else altogether: whether it was saved nobody knows, so it is sent again.
      [200, { rev: 1 }, "offline"],
      [200, null, "offline"],
      [409, { current: null }, "offline"],
    ];
    for (const [status, body, kind] of kinds) {
      answer(status, body);
      expect(await save(), `${status} ${JSON.stringify(body)}`).toMatchObject({ ok: false, kind });
    }
    vi.stubGlobal("fetch", async () => Promise.reject(new TypeError("refused")));
    expect(await save()).toMatchObject({ ok: false, kind: "offline" });
    vi.stubGlobal("fetch", async () => new Response('{"revision": 8, "jo', { status: 200 }));
    expect(await save()).toMatchObject({ ok: false, kind: "offline" });
  });

  it("passes on the server's words and the fields it named", async () => {
    answer(422, problem(422, "The file is not a machine.", { problems: [{ path: "modes", expected: "a list" }] }));
    expect(await importDocument(simple())).toMatchObject({
      kind: "refused",
      detail: "The file is not a machine.",
      problems: [{ path: "modes" }],
    });
    answer(409, problem(409, "That backup is not there any more."));
    expect(await goWay({ action: "restore", backup: "x" })).toMatchObject({ ok: false, detail: "That backup is not there any more." });
    answer(200, [{ revision: 3, at: "t", label: "Edit", origin: null, lines: ["a"], name: "first" }]);
    expect(await fetchHistory("x")).toMatchObject([{ revision: 3, lines: ["a"], name: "first" }]);
  });

  it("survives an unreachable server and nonsense", async () => {
    vi.stubGlobal("fetch", async () => Promise.reject(new TypeError("refused")));
    expect(await createBlank("x")).toMatchObject({ ok: false, kind: "offline" });
    expect(await deleteMachine("x")).toBe(false);
    expect(await fetchMachine("x")).toBeNull();
    answer(200, { revision: 1, document: { format: "other" } });
    expect(await fetchMachine("x")).toBeNull();
    answer(204, null);
    expect(await fetchMachine("x", 3)).toBe("same");
  });

  it("says last words only as long as a browser sends them", () => {
    const sent: RequestInit[] = [];
    vi.stubGlobal("fetch", async (_path: string, init: RequestInit) => {
      sent.push(init);
      return new Response(null, { status: 200 });
    });
    lastWords("x", 1, [edit], "here");
    lastWords("x", 1, [{ ...edit, changes: [{ path: ["description"], after: "a".repeat(70_000) }] }], "here");
    expect(sent.map(({ keepalive }) => keepalive)).toEqual([true]);
  });
});
