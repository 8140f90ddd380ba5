import { accessible, accessibleInBothThemes, analysed, expect, openMachine, test } from "./app";

test("the list shows each machine with its worst amps and open verdicts", async ({ page, app }) => {
  await page.goto(app.url);
  const row = page.getByRole("row", { name: /Reedcutter A pond-weed/ }).first();
  await expect(row).toContainText("Stop");
  await expect(row).toContainText("A");
  const corrected = page.getByRole("row", { name: /Reedcutter, corrected/ }).first();
  await expect(corrected).toContainText("Watch");
  await expect(corrected).not.toContainText("Stop");
  await accessible(page);
});

// Sources, feeds, returns and the sheet are asked where those are tested.
test("loads are accessible in both themes, with a row chosen", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "loads");
  await page.locator("tr[data-row] button").nth(3).click();
  await accessibleInBothThemes(page);
});

test("dialogs are accessible and close with Escape", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  for (const key of ["?", "m", "a"]) {
    await page.keyboard.press(key);
    await expect(page.getByRole("dialog")).toBeVisible();
    await accessible(page, '[role="dialog"]');
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toHaveCount(0);
  }
  await page.getByRole("button", { name: "Settings" }).click();
  await accessible(page, '[role="dialog"]');
});

test("every figure is for the chosen mode, and Worst is the largest", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  const amps = async () =>
    (await page
      .locator('tr[data-row="drive-cutter"]')
      .getByRole("button", { name: /^Amps to Cutter driver/ })
      .textContent()) ?? "";
  const strip = page.getByRole("region", { name: "Modes" });
  await strip.getByRole("button", { name: /^Cruise/ }).click();
  const cruise = await amps();
  await strip.getByRole("button", { name: /^Blade jammed/ }).click();
  const jammed = await amps();
  await page.keyboard.press("w");
  const worst = await amps();
  expect(Number.parseFloat(cruise)).toBeLessThan(Number.parseFloat(jammed));
  expect(worst).toBe(jammed);
  await page.keyboard.press("]");
  await expect(strip.getByRole("button", { name: /^Parked/ })).toHaveAttribute("aria-pressed", "true");
});

test("any figure opens its working: formula, numbers, inputs with how they are known, source", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  await page
    .locator('tr[data-row="drive-cutter"]')
    .getByRole("button", { name: /^Drop in the supply wire/ })
    .click();
  const card = page.getByRole("dialog");
  await expect(card).toContainText("U = I · R");
  await expect(card).toContainText("Ohm's law");
  await accessible(page, '[role="dialog"]');
  await page.keyboard.press("Escape");
  await page.getByRole("tab", { name: "Conductor" }).click();
  await page.getByRole("button", { name: /^May carry continuously/ }).click();
  await expect(page.getByRole("dialog")).toContainText("I_z = I_table · k_T · k_B");
  await expect(page.getByRole("dialog")).toContainText("16 AWG");
});

test("the working follows the plan, closes on a second click, and gives the focus back", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  const figure = page.locator('tr[data-row="drive-cutter"]').getByRole("button", { name: /^Drop in the supply wire/ });
  await figure.focus();
  await page.keyboard.press("Enter");
  const card = page.getByRole("dialog");
  await expect(card).toContainText("U = I · R");
  const before = await card.textContent();
  await page
    .getByRole("tabpanel", { name: "Sizes" })
    .getByRole("button", { name: "Use 12 AWG", exact: true })
    .evaluate((button: HTMLElement) => button.click());
  await expect.poll(() => card.textContent()).not.toBe(before);
  await page.keyboard.press("Escape");
  await expect(figure).toBeFocused();
  await figure.click();
  await expect(card).toBeVisible();
  await figure.click();
  await expect(card).toHaveCount(0);
});

test("the account of a node balances", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  await page.locator('tr[data-row="bar-p1"] button').first().click();
  const account = page.getByRole("region", { name: "Bar P1, account" });
  await expect(account).toContainText("from Stop contactor");
  await expect(account.getByText("balance").locator("..")).toContainText("0.00");
});

test("export and import give the same machine again", async ({ page, app }) => {
  const id = await openMachine(page, app, "Carillon", "sheet");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as", exact: true }).click();
  await page.getByRole("menuitem", { name: "Whole machine" }).click();
  const path = await (await download).path();
  await page.goto(app.url);
  await page
    .getByLabel("Machine file")
    .setInputFiles({ name: "carillon.json", mimeType: "application/json", buffer: (await import("node:fs")).readFileSync(path) });
  await page.waitForURL(/\/m\/.*\/feeds/);
  await analysed(page);
  const copy = /\/m\/([^/]+)/.exec(page.url())?.[1] ?? "";
  expect(copy).not.toBe(id);
  expect((await app.document(copy)).document).toEqual((await app.document(id)).document);
});

test("works at 1024 wide without sideways scrolling of the page", async ({ page, app }) => {
  await page.setViewportSize({ width: 1024, height: 768 });
  for (const step of ["bring-up", "loads", "feeds", "returns"]) {
    await openMachine(page, app, "Reedcutter", step);
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(1024);
    if (step === "bring-up") continue;
    const table = page.locator("main table").first();
    const scroller = table.locator("..");
    expect(await scroller.evaluate((box) => box.scrollWidth - box.clientWidth), step).toBeLessThanOrEqual(0);
  }
});
