import { readFileSync } from "node:fs";
import Database from "better-sqlite3";
import { accessible, analysed, expect, openMachine, saved, test } from "./app";

test("machines are duplicated, opened from the list and named by their title", async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole("button", { name: "Duplicate Carillon", exact: true }).click();
  await page.getByRole("link", { name: "Carillon, copy", exact: true }).click();
  await analysed(page);
  await expect(page).toHaveTitle(/Carillon, copy/);
  await page.getByRole("link", { name: "All machines" }).click();
  await expect(page.getByRole("link", { name: "Carillon", exact: true })).toBeVisible();
});

test("a machine of a newer version stays on the list, says what it is, and its file can be taken out", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  const db = new Database(app.database);
  db.prepare("UPDATE machine SET name = 'From tomorrow', document = json_set(document, '$.version', 99), revision = 2 WHERE id = ?").run(
    id,
  );
  db.close();
  await page.goto(app.url);
  await expect(page.getByRole("row", { name: /From tomorrow/ })).toContainText("Ask");
  await accessible(page);
  await page.getByRole("link", { name: "From tomorrow", exact: true }).click();
  await expect(page.getByRole("heading", { name: /^From tomorrow/ })).toBeVisible();
  await expect(page.getByText("version 99", { exact: false })).toBeVisible();
  await accessible(page);
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: /^Export/ }).click();
  expect(JSON.parse(readFileSync(await (await download).path(), "utf8"))).toMatchObject({ version: 99 });
  await page.getByRole("link", { name: "Back to the machines" }).click();
  await expect(page.getByRole("link", { name: "Carillon", exact: true })).toBeVisible();
});

test("a new machine can start from an example", async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole("link", { name: "New machine" }).click();
  await page.getByRole("tab", { name: "Example" }).click();
  await page.getByRole("button", { name: "Open Marble lift, corrected" }).click();
  await page.waitForURL(/feeds/);
  await analysed(page);
  await expect(page.locator('tr[data-row="bridge"]')).toBeVisible();
});

test("a verdict jumps to its row, on whichever step that is", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "sheet");
  await page.getByRole("button", { name: "Level sensor has no way back to its source" }).click();
  await page.waitForURL(/returns/);
  await openMachine(page, app, "Reedcutter", "feeds");
  await page.getByRole("button", { name: /^Feed of Buck 5 V/ }).click();
  await expect(page.locator('tr[data-row="buck-5"]')).toHaveAttribute("aria-selected", "true");
  await expect(page.getByRole("table", { name: "Sizes for this feed" })).toBeVisible();
});

test("a load without a way back gets its return by one remedy, with Undo beside it", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/returns`);
  await analysed(page);
  await page.getByRole("tab", { name: "Conductors" }).click();
  // What settles a verdict is tried once it is in view.
  await page.getByRole("button", { name: "Level sensor has no way back to its source" }).scrollIntoViewIfNeeded();
  await page.getByRole("button", { name: /^Add a return to Buck 5 V minus/ }).click();
  await expect(page.locator('tr[data-row="level"]')).toHaveCount(1);
  await expect(page.getByRole("button", { name: "Level sensor has no way back to its source" })).toHaveCount(0);
  const said = page.getByRole("status").filter({ hasText: "Done: Add a return" });
  await said.getByRole("button", { name: "Undo" }).click();
  await expect(page.locator('tr[data-row="level"]')).toHaveCount(0);
});

test("the add dialog names what is wrong beside its field and keeps what was typed", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  await page.locator('tr[data-row="bar-p1"] button').first().click();
  await page.keyboard.press("a");
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Kind").selectOption({ label: "Converter" });
  await dialog.getByText("Its feed, out and back").click();
  await dialog.getByLabel("Length, one way").fill("far");
  await dialog.getByLabel("Conductor").fill("thick");
  await dialog.getByLabel("Rated output amps").fill("-2");
  await dialog.getByRole("button", { name: /^Add Converter/ }).click();
  await expect(dialog.getByRole("alert")).toHaveCount(4);
  await expect(dialog.getByLabel("Conductor")).toHaveValue("thick");
  await dialog.getByLabel("Output volts").fill("9");
  await dialog.getByLabel("Length, one way").fill("40 cm");
  await dialog.getByLabel("Conductor").fill("18 AWG");
  await dialog.getByLabel("Rated output amps").fill("2");
  await dialog.getByLabel("Return lands on").selectOption({ label: "Bar N1" });
  await dialog.getByRole("button", { name: /^Add Converter/ }).click();
  await expect(dialog).toHaveCount(0);
  await page.getByRole("link", { name: /^Sources/ }).click();
  await expect(page.getByRole("button", { name: "Converter: which input voltage does it take?" })).toBeVisible();
});

test("a driver with all channels taken says so instead of offering a form", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  await page.locator('tr[data-row="drive-left"] button').first().click();
  await page.getByRole("region", { name: "Paddle left driver, account" }).getByRole("button", { name: /^Add/ }).click();
  await expect(page.getByRole("dialog")).toContainText("All channels of Paddle left driver are taken");
});

test("the theme chosen is kept", async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole("button", { name: "Dark theme" }).click();
  await expect(page.locator("html")).toHaveClass(/dark/);
  await page.reload();
  await expect(page.locator("html")).toHaveClass(/dark/);
  await page.getByRole("button", { name: "Light theme" }).click();
  await expect(page.locator("html")).not.toHaveClass(/dark/);
});

test("a machine of 500 parts in twelve modes is analysed aside: its figures move, a working answers for them", async ({ page, app }) => {
  const id = await app.create({ kind: "import", document: app.generated(500, 5, 12) });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  const strip = page.getByRole("region", { name: "Modes" }).getByRole("button", { name: /^Mode 2/ });
  const before = await strip.textContent();
  const cell = page.locator('button[aria-label$="Mode 2. Edit"]').first();
  await cell.focus();
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("37 A");
  await page.keyboard.press("Enter");
  await expect.poll(() => strip.textContent()).not.toBe(before);
  await page
    .getByRole("button", { name: /, worst: .* Show the working/ })
    .first()
    .click();
  await expect(page.getByRole("dialog")).toContainText("I_worst");
  await saved(page);
});

test("a machine of 200 parts scrolls through every row, by keys too", async ({ page, app }) => {
  const large = app.generated(200, 5);
  const id = await app.create({ kind: "import", document: large });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  await expect(page.locator("tr[data-row]").first()).toBeVisible();
  expect(await page.locator("tr[data-row]").count()).toBeLessThan(large.parts.length);
  await page.locator("tr[data-row] [data-c='0']").first().focus();
  for (let i = 0; i < 45; i++) await page.keyboard.press("ArrowDown");
  await expect.poll(() => page.evaluate(() => Number((document.activeElement as HTMLElement | null)?.dataset.r ?? 0))).toBeGreaterThan(30);
  await saved(page);
});
