import { request } from "node:http";
import Database from "better-sqlite3";
import { accessible, analysed, expect, saved, test } from "./app";

test("kill -9 in the middle of editing loses nothing that was acknowledged", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  const cell = page.getByRole("button", { name: "Lift screw in Running. Edit" });
  const type = async (amps: string) => {
    await cell.focus();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(amps);
    await page.keyboard.press("Enter");
  };
  await type("0.44 A");
  await saved(page);
  await app.kill();
  await type("0.55 A");
  await expect(page.getByText("Not saved. Try again")).toBeVisible();
  // Read while the server is dead: the page saves its newer edit as soon as it answers again.
  const database = new Database(app.database);
  const row = database.prepare("SELECT document FROM machine WHERE id = ?").get(id) as { document: string };
  database.close();
  expect(row.document).toContain('"value":0.44');
  await app.start();
  await saved(page);
  await page.reload();
  await analysed(page);
  await expect(cell).toContainText("0.55");
});

test("a second tab editing the same machine is told, and both versions are offered", async ({ page, app, context }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  const other = await context.newPage();
  for (const tab of [page, other]) {
    await tab.goto(`${app.url}/m/${id}/feeds`);
    await analysed(tab);
  }
  const rename = async (tab: typeof page, name: string) => {
    await tab.locator('tr[data-row="gate"] button').first().click();
    await tab.getByRole("textbox", { name: "Name of the part" }).fill(name);
    await tab.getByRole("textbox", { name: "Name of the part" }).press("Enter");
  };
  await rename(page, "Gate one");
  await saved(page);
  await rename(other, "Gate two");
  const dialog = other.getByRole("dialog");
  await expect(dialog).toContainText("Edited in another window");
  await accessible(other, '[role="dialog"]');
  await dialog.getByRole("button", { name: "Keep mine" }).click();
  await saved(other);
  expect((await app.document(id)).document.parts.map((part) => part.name)).toContain("Gate two");
  await other.getByRole("button", { name: "Undo" }).click();
  await saved(other);
  expect((await app.document(id)).document.parts.map((part) => part.name)).toContain("Gate one");
});

test("files that are no machine are refused with where and what, nothing lost", async ({ page, app }) => {
  await page.goto(app.url);
  const before = await page.getByRole("row").count();
  const whole = await (await fetch(`${app.url}/api/machines/${await app.create({ kind: "example", key: "marble-lift" })}/export`)).text();
  const cases: [string, Buffer, RegExp][] = [
    ["truncated.json", Buffer.from(whole.slice(0, whole.length / 2)), /complete file/],
    ["other.json", Buffer.from("{}"), /format/],
    ["future.json", Buffer.from(whole.replace('"version": 1', '"version": 7')), /version 7/],
    ["unknown.json", Buffer.from(whole.replace('"version": 1', '"version": 1, "paint": "red"')), /paint/],
    ["photo.json", Buffer.alloc(9 * 1024 * 1024, 32), /at most 8 MB/],
  ];
  for (const [name, buffer, message] of cases) {
    await page.getByLabel("Machine file").setInputFiles({ name, mimeType: "application/json", buffer });
    const dialog = page.getByRole("dialog");
    await expect(dialog).toContainText(message);
    await expect(dialog).toContainText("Nothing was changed");
    // One dialog for all of them.
    if (name === "truncated.json") await accessible(page, '[role="dialog"]');
    await page.keyboard.press("Escape");
  }
  await page.reload();
  expect(await page.getByRole("row").count()).toBe(before + 1);
});

test("the server refuses 200 MB, strangers and other origins, and sets its headers", async ({ app }) => {
  const status = (headers: Record<string, string>, method = "GET", path = "/api/machines") =>
    new Promise<number>((resolve, reject) => {
      const { hostname, port } = new URL(app.url);
      const call = request({ hostname, port, path, method, headers }, (answer) => {
        answer.resume();
        resolve(answer.statusCode ?? 0);
        call.destroy();
      });
      call.on("error", reject);
      if (method === "GET") call.end();
      else call.write("{}");
    });
  expect(await status({ Host: "evil.example" })).toBe(421);
  expect(await status({ Origin: "http://evil.example", "Content-Length": "2" }, "POST")).toBe(403);
  const huge = await fetch(`${app.url}/api/machines`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: new Uint8Array(200 * 1024 * 1024),
  });
  expect(huge.status).toBe(413);
  const answer = await fetch(app.url);
  const policy = answer.headers.get("content-security-policy") ?? "";
  expect(policy).toContain("frame-ancestors 'none'");
  expect(policy).not.toMatch(/script-src[^;]*unsafe-inline/);
  expect(answer.headers.get("x-content-type-options")).toBe("nosniff");
  const missing = await fetch(`${app.url}/api/machines/nobody`);
  expect(missing.status).toBe(404);
  expect(missing.headers.get("content-type")).toContain("application/problem+json");
  const stale = await fetch(`${app.url}/api/machines/nobody`, { method: "PUT", body: JSON.stringify({ base: "x" }) });
  expect(stale.status).toBe(400);
});

test("a deleted machine comes back with Undo", async ({ page, app }) => {
  const id = await app.create({ kind: "blank", name: "To be deleted" });
  await page.goto(app.url);
  await page.getByRole("button", { name: "Delete To be deleted" }).click();
  await expect(page.getByRole("link", { name: "To be deleted", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("link", { name: "To be deleted", exact: true })).toBeVisible();
  await page.goto(`${app.url}/m/${id}/nowhere`);
  await expect(page.getByText("not in the ledger")).toBeVisible();
});
