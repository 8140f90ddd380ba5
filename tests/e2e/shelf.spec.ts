import { readFileSync } from "node:fs";
import { App } from "../support/app";
import { accessible, accessibleInBothThemes, analysed, expect, saved, test } from "./app";

test("a list goes onto the shelf with its wrong rows told; what lies there is changed, found, saved and taken off again", async ({
  page,
  app,
}) => {
  await page.goto(`${app.url}/shelf`);
  await expect(page.getByText("Nothing lies on it yet")).toBeVisible();
  await accessibleInBothThemes(page);
  await page.getByRole("button", { name: "Import a list" }).click();
  const dialog = page.getByRole("dialog");
  const list = "Kind,Name,How many,Volts,Amps,Family\ndriver,Blue board,2,,10,\nfuse,,12,,15,blade regular 32 V\nfuse,,4,,17,\n";
  await dialog.getByLabel("A table", { exact: true }).setInputFiles({ name: "shelf.csv", mimeType: "text/csv", buffer: Buffer.from(list) });
  await expect(dialog.getByRole("status")).toContainText("2 of 3 rows understood");
  await expect(dialog.getByText(/fuses are made in/)).toBeVisible();
  await accessible(page, '[role="dialog"]');
  await dialog.getByRole("button", { name: "Put 2 on the shelf" }).click();
  // What was not understood stays to be mended.
  await expect(dialog.getByRole("status")).toContainText("0 of 1 row understood");
  await expect(dialog.getByLabel(/Paste a table/)).toHaveValue(/fuse,,4,,17/);
  await page.keyboard.press("Escape");
  await expect(page.getByRole("row", { name: /Blue board/ })).toContainText("10 A a channel continuously");
  await expect(page.getByRole("row", { name: /Fuse 15 A/ })).toContainText("12");

  await page.getByRole("button", { name: "Blue board", exact: true }).click();
  await page.getByLabel("How many").fill("many");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("alert").filter({ hasText: "Write a whole number" })).toBeVisible();
  await page.getByLabel("How many").fill("3");
  await page.getByLabel("Found out").fill("runs warm above 8 A");
  await page.getByRole("button", { name: "Keep" }).click();
  await expect(page.getByRole("row", { name: /Blue board/ })).toContainText("runs warm above 8 A");

  await page.getByLabel("Find on the shelf").fill("warm");
  await expect(page.getByRole("row", { name: /Fuse 15 A/ })).toHaveCount(0);
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as CSV" }).click();
  expect(readFileSync(await (await download).path(), "utf8")).toContain("Blue board");
  await page.getByRole("button", { name: "Take Blue board off the shelf" }).click();
  await expect(page.getByRole("button", { name: "Blue board", exact: true })).toHaveCount(0);
  await page.getByRole("button", { name: "Undo" }).click();
  await expect(page.getByRole("row", { name: /Blue board/ })).toContainText("runs warm above 8 A");

  // It is offered where a part is added, and known to be used from then on.
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  await page.locator('tr[data-row="strip"] button, tr[data-row] button').filter({ hasText: "Plus strip" }).first().click();
  await page.keyboard.press("a");
  await page.getByLabel("From the shelf").selectOption({ label: "Blue board, 3 there" });
  await page.getByRole("button", { name: /^Add Blue board/ }).click();
  await saved(page);
  await page.goto(`${app.url}/shelf`);
  await expect(page.getByRole("row", { name: /Blue board/ }).getByRole("link", { name: "Marble lift" })).toBeVisible();
});

test("machines and shelf move to another computer by one file alone", async ({ page, app }) => {
  await fetch(`${app.url}/api/shelf`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify([
      { thing: { sort: "wire", gauge: "12 AWG", insulation: "pvc80" }, count: 7, cost: null, note: "on the reel", quirks: "" },
      { thing: { sort: "connector", family: "key60" }, count: null, cost: null, note: "", quirks: "" },
    ]),
  });
  await page.goto(app.url);
  await page.getByRole("button", { name: /the ledger as one file/ }).click();
  const download = page.waitForEvent("download");
  await page.getByRole("link", { name: "Save everything as one file" }).click();
  const file = await (await download).path();

  const other = new App();
  await other.start();
  await page.goto(other.url);
  await expect(page.getByRole("heading", { name: /first machine/ })).toBeVisible();
  // On the way: from an empty ledger to a plan by one line.
  await accessible(page);
  await page.getByRole("link", { name: "Write what is in it" }).click();
  await page.getByRole("textbox", { name: /What is in the machine/ }).fill("2 gearmotors 24 V 6.5 A, stall 40 A");
  await page.getByRole("button", { name: "Draft it" }).click();
  await page.waitForURL(/\/m\//);
  await analysed(page);
  await expect(page.getByRole("row", { name: /Gearmotor 2/ }).first()).toBeVisible();
  await saved(page);
  await page.goto(other.url);
  await page.getByRole("button", { name: /the ledger as one file/ }).click();
  await page
    .getByLabel("Ledger file")
    .setInputFiles({ name: "notes.db", mimeType: "application/octet-stream", buffer: Buffer.from("not a ledger") });
  await expect(page.getByRole("alert").filter({ hasText: "no ledger of Node Ledger" })).toBeVisible();
  await page.getByLabel("Ledger file").setInputFiles(file);
  await expect(page.getByText(/holds 6 machines: Reedcutter/)).toBeVisible();
  await accessible(page, '[role="dialog"]');
  await page.getByRole("button", { name: "Put it in the place of this ledger" }).click();
  await expect(page.getByRole("link", { name: "Marble lift, corrected", exact: true })).toBeVisible();
  await page.goto(`${other.url}/shelf`);
  await expect(page.getByRole("row", { name: /Wire 12 AWG/ })).toContainText("on the reel");
  // A class number is for a short time: what stands beside it is what a contact bears continuously.
  await expect(page.getByRole("row", { name: /60 A class/ })).toContainText("30 A a contact");
  await other.stop();
});

test("a list given in place of a machine file becomes a machine", async ({ page, app }) => {
  await page.goto(app.url);
  const list = "name,volts,amps\nGate motor,12,1.8\nLamp,6,0.4\nNonsense,none,1\n";
  await page.getByLabel("Machine file").setInputFiles({ name: "sluice gate.csv", mimeType: "text/csv", buffer: Buffer.from(list) });
  await page.waitForURL(/\/new/);
  await expect(page.getByRole("textbox", { name: /What is in the machine/ })).toHaveValue(list);
  await expect(page.getByRole("textbox", { name: "called" })).toHaveValue("sluice gate");
  await expect(page.getByRole("status")).toContainText(/of 3 lines understood|A 12 V plan/);
  await page.getByRole("button", { name: "Draft it" }).click();
  await page.waitForURL(/\/m\//);
  await analysed(page);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("sluice gate");
  await expect(page.getByRole("row", { name: /Gate motor/ }).first()).toBeVisible();
  const id = /\/m\/([^/]+)/.exec(page.url())?.[1] ?? "";
  await fetch(`${app.url}/api/machines/${id}`, { method: "DELETE" });
});

test("the list is searched, sorted and put aside with undo; an empty one says how to begin", async ({ page, app }) => {
  await page.goto(app.url);
  const names = () => page.locator("tbody tr td:first-child a").allTextContents();
  await page.getByLabel("Find a machine").fill("organ");
  await expect.poll(names).toEqual(["Carillon", "Carillon, corrected"]);
  await page.getByLabel("Find a machine").fill("");
  await page.getByRole("button", { name: "Machine", exact: true }).click();
  await expect.poll(async () => (await names())[0]).toBe("Carillon");
  await page.getByRole("button", { name: "Open verdicts" }).click();
  await expect.poll(async () => (await names())[0]).toBe("Reedcutter");
  await page.getByRole("button", { name: "Put Marble lift aside" }).click();
  await expect.poll(async () => (await names()).includes("Marble lift")).toBe(false);
  await page.getByLabel(/put aside, too/).check();
  await expect(page.getByRole("row", { name: /Marble lift put aside/ })).toBeVisible();
  await page.getByRole("button", { name: "Take Marble lift back" }).click();
  await expect(page.getByRole("row", { name: /Marble lift put aside/ })).toHaveCount(0);
});

test("a version is named and compared in words, and two machines the same way", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await page.getByRole("button", { name: "Gate in Running. Edit" }).click();
  await page.keyboard.press("Control+a");
  await page.keyboard.type("run 80 %");
  await page.keyboard.press("Enter");
  await saved(page);
  await page.getByRole("button", { name: "History" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByRole("button", { name: "Name revision 1" }).click();
  await dialog.getByLabel("Name of revision 1").fill("as drawn");
  await page.keyboard.press("Enter");
  await expect(dialog.getByRole("heading", { name: "Named versions" })).toBeVisible();
  await dialog.getByRole("button", { name: "What changed since revision 1" }).first().click();
  await expect(dialog.getByRole("region", { name: "What changed" })).toContainText(/Gate in Running .* → run 80 %/);
  await accessible(page, '[role="dialog"]');
  await page.goto(`${app.url}/compare?a=${app.example("Marble lift")}&b=${id}`);
  await expect(page.getByText(/Gate in Running .* → run 80 %/)).toBeVisible();
  await accessible(page);
});
