import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { NextRequest } from "next/server";
import { afterAll, beforeAll, describe, expect, it } from "vitest";
import * as duplicateRoute from "@/app/api/machines/[id]/duplicate/route";
import * as exportRoute from "@/app/api/machines/[id]/export/route";
import * as restoreRoute from "@/app/api/machines/[id]/restore/route";
import * as machineRoute from "@/app/api/machines/[id]/route";
import * as listRoute from "@/app/api/machines/route";
import * as shelfItemRoute from "@/app/api/shelf/[id]/route";
import * as shelfRoute from "@/app/api/shelf/route";
import * as usesRoute from "@/app/api/shelf/uses/route";
import { readMachineText } from "@/core/machine/read";
import { entryOf, type ShelfPart } from "@/core/machine/shelf";
import { proxy } from "@/proxy";
import { packed } from "@/tests/support/packed";
import { simple } from "@/tests/support/small";
import { database } from "./database";

const folder = mkdtempSync(join(tmpdir(), "node-ledger-routes-"));

beforeAll(() => {
  process.env.NODE_LEDGER_DB = join(folder, "routes.db");
});
afterAll(() => {
  database().close();
  rmSync(folder, { recursive: true });
});

const url = "http://127.0.0.1:4830/api/machines";
const send = (method: string, body: unknown) =>
  new Request(url, { method, body: JSON.stringify(body), headers: { "Content-Type": "application/json" } });
const params = (id: string) => ({ params: Promise.resolve({ id }) });
const create = async (body: unknown) => listRoute.POST(send("POST", body));
const created = async (): Promise<string> => ((await (await create({ kind: "import", document: simple() })).json()) as { id: string }).id;

describe("the machine routes", () => {
  it("create, list, read, save and delete", async () => {
    const id = await created();
    const list = (await (await listRoute.GET()).json()) as { id: string; name: string }[];
    expect(list.map((row) => row.id)).toContain(id);
    const save = await machineRoute.PUT(send("PUT", { base: 1, label: "edit", document: { ...simple(), name: "Edited" } }), params(id));
    expect(await save.json()).toEqual({ revision: 2 });
    expect(await (await machineRoute.GET(new Request(url), params(id))).json()).toMatchObject({
      revision: 2,
      document: { name: "Edited" },
    });
    expect((await machineRoute.DELETE(new Request(url), params(id))).status).toBe(204);
    expect((await machineRoute.GET(new Request(url), params(id))).status).toBe(404);
    expect((await restoreRoute.POST(new Request(url), params(id))).status).toBe(204);
    expect((await machineRoute.GET(new Request(url), params(id))).status).toBe(200);
  });

  it("say why a machine of a newer version cannot be read, and give its file out as it is stored", async () => {
    const id = await created();
    database().prepare("UPDATE machine SET document = json_set(document, '$.version', 99) WHERE id = ?").run(id);
    const answers = [
      await machineRoute.GET(new Request(url), params(id)),
      await duplicateRoute.POST(new Request(url), params(id)),
      await machineRoute.PUT(send("PUT", { base: 7, label: "edit", document: simple() }), params(id)),
    ];
    for (const answer of answers) {
      expect(answer.status).toBe(422);
      expect(await answer.json()).toMatchObject({ problems: [{ path: "version" }] });
    }
    const file = (await (await exportRoute.GET(new Request(url), params(id))).json()) as { version: number; parts: unknown[] };
    expect(file).toEqual({ ...simple(), version: 99 });
  });

  it("answer a stale save with 409 and what is stored", async () => {
    const id = await created();
    await machineRoute.PUT(send("PUT", { base: 1, label: "first", document: { ...simple(), name: "First" } }), params(id));
    const stale = await machineRoute.PUT(send("PUT", { base: 1, label: "second", document: { ...simple(), name: "Second" } }), params(id));
    expect(stale.status).toBe(409);
    expect(stale.headers.get("content-type")).toContain("application/problem+json");
    expect(await stale.json()).toMatchObject({ status: 409, current: { revision: 2, document: { name: "First" } } });
  });

  it("refuse what is no machine with the paths, and change nothing", async () => {
    const id = await created();
    const broken = await machineRoute.PUT(send("PUT", { base: 1, label: "edit", document: { ...simple(), modes: [] } }), params(id));
    expect(broken.status).toBe(422);
    expect(await broken.json()).toMatchObject({ problems: [{ path: "modes" }] });
    expect((await machineRoute.PUT(send("PUT", { label: "no base" }), params(id))).status).toBe(400);
    expect((await machineRoute.PUT(send("PUT", { base: 1, label: "edit", document: simple() }), params("nobody"))).status).toBe(404);
    expect((await create({ kind: "blank", name: "" })).status).toBe(422);
    expect((await create({ kind: "something" })).status).toBe(422);
    expect(await (await machineRoute.GET(new Request(url), params(id))).json()).toMatchObject({ revision: 1 });
  });

  it("export a file that imports to the same machine, and duplicate under a name of its own", async () => {
    const id = await created();
    const file = await exportRoute.GET(new Request(url), params(id));
    expect(file.headers.get("content-disposition")).toBe('attachment; filename="small.json"');
    const read = readMachineText(await file.text());
    expect(read.ok && read.machine).toEqual(simple());
    const copy = (await (await duplicateRoute.POST(new Request(url), params(id))).json()) as { id: string };
    expect(await (await machineRoute.GET(new Request(url), params(copy.id))).json()).toMatchObject({ document: { name: "Small, copy" } });
    for (const route of [exportRoute.GET, duplicateRoute.POST, restoreRoute.POST])
      expect((await route(new Request(url), params("nobody"))).status).toBe(404);
  });
});

describe("the guard before every request", () => {
  const ask = (init: { method?: string; headers?: Record<string, string> }) => proxy(new NextRequest(url, init));

  it("turns away other hosts, other origins and bodies that announce too much", () => {
    expect(ask({ headers: { host: "ledger.example" } }).status).toBe(421);
    expect(ask({ headers: {} }).status).toBe(421);
    expect(ask({ method: "POST", headers: { host: "127.0.0.1:4830", origin: "http://ledger.example" } }).status).toBe(403);
    expect(ask({ method: "POST", headers: { host: "127.0.0.1:4830", "content-length": String(9 * 1024 * 1024) } }).status).toBe(413);
    expect(ask({ method: "POST", headers: { host: "127.0.0.1:4830", origin: "http://127.0.0.1:4830" } }).status).toBe(200);
  });

  it("lets another name in only when it is configured", () => {
    process.env.NODE_LEDGER_HOSTS = "workshop.local";
    expect(ask({ headers: { host: "workshop.local:4830" } }).status).toBe(200);
    delete process.env.NODE_LEDGER_HOSTS;
    expect(ask({ headers: { host: "workshop.local:4830" } }).status).toBe(421);
  });

  it("gives each page a nonce of its own and no inline script beside it", () => {
    const policy = () => ask({ headers: { host: "localhost:4830" } }).headers.get("content-security-policy") ?? "";
    const nonce = (text: string) => /'nonce-([^']+)'/.exec(text)?.[1];
    expect(nonce(policy())).toBeDefined();
    expect(nonce(policy())).not.toBe(nonce(policy()));
    expect(policy()).toMatch(/script-src 'self' 'nonce-[^']+' 'strict-dynamic'/);
    expect(policy()).not.toContain("unsafe-eval");
  });
});

describe("the shelf routes", () => {
  it("take what lies on a shelf, list it, change it, and let it go", async () => {
    const [part] = packed().parts;
    const entry = entryOf(part as ShelfPart);
    const put = await shelfRoute.POST(send("POST", [entry]));
    expect(put.status).toBe(201);
    const [{ id }] = (await put.json()) as [{ id: string }];
    expect(((await (await shelfRoute.GET()).json()) as { id: string }[]).map((item) => item.id)).toEqual([id]);
    for (const wrong of [
      [],
      entry,
      [entry, { ...entry, count: -1 }],
      [{ ...entry, thing: { sort: "part", part: { ...part, kind: "load" } } }],
    ])
      expect((await shelfRoute.POST(send("POST", wrong))).status).toBe(422);
    expect((await shelfItemRoute.PUT(send("PUT", { ...entry, count: 2 }), params(id))).status).toBe(204);
    expect((await shelfItemRoute.PUT(send("PUT", { ...entry, surprise: 1 }), params(id))).status).toBe(422);
    expect((await shelfItemRoute.PUT(send("PUT", entry), params("../x"))).status).toBe(404);
    expect(await (await shelfRoute.GET()).json()).toMatchObject([{ id, count: 2 }]);
    expect(((await (await usesRoute.GET()).json()) as { of: string }[]).filter((use) => use.of === id)).toEqual([]);
    expect((await shelfItemRoute.DELETE(new Request(url), params(id))).status).toBe(204);
    expect((await shelfItemRoute.DELETE(new Request(url), params(id))).status).toBe(404);
    expect(await (await shelfRoute.GET()).json()).toEqual([]);
  });
});
