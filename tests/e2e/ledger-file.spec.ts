import { existsSync, readdirSync, rmSync, statSync, truncateSync, writeFileSync } from "node:fs";
import Database from "better-sqlite3";
import { App } from "../support/app";
import { accessible, analysed, expect, test } from "./app";

/** An application of its own, whose ledger may be hurt. */
async function own(): Promise<App> {
  const app = new App();
  await app.start();
  await app.seed(["carillon", "marble-lift", "marble-lift-corrected"]);
  return app;
}

test("a ledger that is cut off shows what was found and the ways back; its machines are read out of it", async ({ page }) => {
  const app = await own();
  await page.goto(app.url);
  await expect(page.getByRole("link", { name: "Carillon", exact: true })).toBeVisible();
  await page.getByRole("button", { name: /^Backups/ }).click();
  await page.getByRole("button", { name: "Back up now" }).click();
  await expect(page.getByText("A backup was made.")).toBeVisible();
  await accessible(page, '[role="dialog"]');
  await app.kill();
  const quiet = new Database(app.database);
  quiet.pragma("wal_checkpoint(TRUNCATE)");
  quiet.close();
  truncateSync(app.database, Math.floor(statSync(app.database).size * 0.6));
  await app.start();
  await page.goto(app.url);
  await expect(page.getByRole("heading", { level: 1 })).toContainText("is cut off");
  await accessible(page);
  await page.goto(`${app.url}/m/any/feeds`);
  await expect(page.getByRole("heading", { level: 1 })).toContainText("is cut off");
  await page.getByRole("textbox", { name: "Another ledger file" }).fill("/nowhere/ledger.db");
  await page.getByRole("button", { name: "Use a copy of it" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "no sound ledger" })).toBeVisible();
  await expect(page.getByText(/^Read out \d+ machines/)).toBeVisible();
  await page.goto(app.url);
  await page.getByRole("button", { name: "Read them out" }).click();
  await expect(page.getByRole("link", { name: "Marble lift, corrected", exact: true })).toBeVisible();
  await expect(page.getByText(/were read out of the damaged file/)).toBeVisible();
  expect(readdirSync(app.folder).some((name) => name.includes(".aside-"))).toBe(true);
  await app.stop();
});

test("a file of another program is left alone, and a new ledger begun beside it", async ({ page }) => {
  const app = new App();
  writeFileSync(app.database, "These are my notes.\n");
  await app.start();
  await page.goto(app.url);
  await expect(page.getByRole("heading", { level: 1 })).toContainText("text file");
  await accessible(page);
  await page.getByRole("button", { name: "Begin it" }).click();
  await expect(page.getByRole("heading", { name: /first machine/ })).toBeVisible();
  expect(existsSync(app.database.replace(".db", "-2.db"))).toBe(true);
  await app.stop();
});

test("a ledger that is removed while it is in use is noticed at the next save; edits wait, and are saved when it is back", async ({
  page,
}) => {
  const app = await own();
  const id = app.example("Marble lift");
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  for (const file of ["", "-wal", "-shm"]) rmSync(app.database + file, { force: true });
  await page.getByRole("button", { name: "Lift screw in Running. Edit" }).focus();
  await page.keyboard.type("0.47 A");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Not saved yet" }).click();
  await expect(page.getByRole("dialog")).toContainText("was removed while Node Ledger was running");
  const other = await page.context().newPage();
  await other.goto(app.url);
  await other.getByRole("button", { name: "Write it again" }).click();
  await expect(other.getByRole("link", { name: "Marble lift", exact: true })).toBeVisible();
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
  await other.close();
  await app.stop();
});

test("a backup is restored in one action, and that is taken back in one", async ({ page }) => {
  const app = await own();
  await page.goto(app.url);
  await page.getByRole("button", { name: /^Backups/ }).click();
  await page.getByRole("button", { name: "Back up now" }).click();
  await expect(page.getByRole("button", { name: /^Restore the backup/ })).toBeVisible();
  await page.keyboard.press("Escape");
  await page.getByRole("button", { name: "Delete Carillon", exact: true }).click();
  await expect(page.getByRole("link", { name: "Carillon", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: /^Backups/ }).click();
  await page
    .getByRole("button", { name: /^Restore the backup/ })
    .first()
    .click();
  await expect(page.getByRole("link", { name: "Carillon", exact: true })).toBeVisible();
  await page.getByRole("button", { name: "Take it back" }).click();
  await expect(page.getByRole("link", { name: "Carillon", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: /^Deleted machines/ }).click();
  await accessible(page, '[role="dialog"]');
  await page.getByRole("button", { name: "Delete Carillon for good" }).click();
  await page.getByRole("button", { name: "Forget it for good" }).click();
  await expect(page.getByText("Carillon is forgotten.")).toBeVisible();
  await expect(page.getByRole("button", { name: /^Deleted machines/ })).toHaveCount(0);
  await app.stop();
});
