import { request } from "node:http";
import { accessible, expect, test } from "./app";

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
  const stale = await fetch(`${app.url}/api/machines/nobody`, {
    method: "PUT",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ base: "x" }),
  });
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
