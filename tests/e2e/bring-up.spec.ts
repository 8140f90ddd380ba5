import type { Page } from "@playwright/test";
import type { App } from "../support/app";
import { accessible, accessibleInBothThemes, analysed, expect, openMachine, saved, test } from "./app";

const stages = (page: Page) => page.getByRole("navigation", { name: "Stages" });
const verdicts = (page: Page) => page.getByRole("complementary", { name: "Verdicts" });
const field = (page: Page) => page.locator("input[data-reading]").first();

async function fresh(page: Page, app: App, key = "marble-lift-corrected"): Promise<string> {
  const id = await app.create({ kind: "example", key });
  await page.goto(`${app.url}/m/${id}/bring-up`);
  await analysed(page);
  await expect(stages(page)).toBeVisible();
  return id;
}

const stored = async (app: App, id: string) =>
  (
    (await (await fetch(`${app.url}/api/machines/${id}/readings`)).json()) as {
      log: { readings: { step: string; value: number | null }[]; waivers: object[] };
    }
  ).log;

async function leaveStage(page: Page): Promise<void> {
  await page.getByRole("button", { name: /Leave the rest of this stage/ }).click();
  await page.getByLabel(/The rest of this stage is left/).fill("known good");
  await page.getByRole("button", { name: "Go on", exact: true }).click();
}

test("every view of the bring-up is accessible in both themes, at 1280 and at 390", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter, corrected", "bring-up");
  await expect(stages(page)).toBeVisible();
  for (const view of ["Stages", "Log", "Corrections", "Current log", "Drill"]) {
    await page.getByRole("tab", { name: view, exact: true }).click();
    await accessibleInBothThemes(page, view === "Stages" ? null : "main");
  }
  for (const dialog of ["Instruments", "Phones"]) {
    await page.getByRole("button", { name: dialog, exact: true }).click();
    await accessible(page, "[role=dialog]");
    await page.keyboard.press("Escape");
  }
  await page.setViewportSize({ width: 390, height: 780 });
  await page.getByRole("tab", { name: "Stages", exact: true }).click();
  await expect(field(page)).toBeVisible();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});

test("readings are typed with the keyboard, kept, and lead on; one that is outside says what would explain it", async ({ page, app }) => {
  const id = await fresh(page, app);
  await expect(page.getByRole("heading", { name: /No volts left/ })).toBeVisible();
  await field(page).focus();
  await page.keyboard.type("0.02");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Fuse of Slide switch's feed" })).toBeVisible();
  await field(page).fill("hot");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "hot" })).toBeVisible();
  // What was typed is there again after a look at another step.
  await page.getByRole("button", { name: "Next", exact: true }).click();
  await expect(page.getByRole("heading", { name: "Fuse of Slide switch's feed" })).toBeHidden();
  await page.getByRole("button", { name: "Back", exact: true }).click();
  await expect(field(page)).toHaveValue("hot");
  await field(page).fill("15");
  await page.keyboard.press("Enter");
  // A larger fuse than planned is a Stop, stays where it is, and the next stage does not open.
  await expect(verdicts(page).getByText("Fuse of Slide switch's feed: 15 A")).toBeVisible();
  await expect(verdicts(page).getByText("Stop", { exact: true }).first()).toBeVisible();
  await expect(page.getByRole("region", { name: "What would explain it" })).toContainText("Another fuse than planned in Slide switch feed");
  await stages(page)
    .getByRole("button", { name: /Power tree alone/ })
    .click();
  await expect(page.getByText("This stage opens when the one before holds")).toBeVisible();
  // Smoke is said wherever one stands, in a stage that is not open too.
  await page.getByRole("button", { name: "Smoke: stop" }).click();
  await page.getByLabel(/Smoke, heat or smell/).fill("the buck smells");
  await page.getByRole("button", { name: "Stop here" }).click();
  await expect(verdicts(page).getByText("Stopped: the buck smells")).toBeVisible();
  await expect.poll(async () => (await stored(app, id)).readings.length).toBe(3);
  await page.reload();
  await expect(verdicts(page).getByText("Fuse of Slide switch's feed: 15 A")).toBeVisible();
});

test("a stage that is left with a reason opens the next, and stands among the verdicts until that is taken back", async ({ page, app }) => {
  await fresh(page, app);
  await leaveStage(page);
  await expect(verdicts(page).getByText("Nothing connected was left after 0 of 18")).toBeVisible();
  await stages(page)
    .getByRole("button", { name: /Power tree alone/ })
    .click();
  await expect(field(page)).toBeEnabled();
  await stages(page)
    .getByRole("button", { name: /Nothing connected/ })
    .click();
  await page.getByRole("button", { name: "Take that back" }).click();
  await expect(verdicts(page).getByText("Nothing connected was left")).toHaveCount(0);
});

test("the bench is asked over its line; a search names the hidden fault's place next", async ({ page, app }) => {
  const id = await fresh(page, app);
  await page.getByRole("button", { name: "Use the bench" }).click();
  await stages(page)
    .getByRole("button", { name: /Nothing connected/ })
    .click();
  await page.getByRole("button", { name: /Feed of Slide switch, end to end/ }).click();
  await page.getByRole("button", { name: "Read from the bench" }).click();
  await expect.poll(async () => (await stored(app, id)).readings.length).toBe(1);
  // Somebody types what cannot be: a wire that is open.
  await page.getByRole("button", { name: /Feed of Plus strip, end to end/ }).click();
  await page.getByRole("button", { name: "No reading (OL)" }).click();
  const explained = page.getByRole("region", { name: "What would explain it" });
  await expect(explained.getByRole("listitem").first()).toContainText("Feed of Plus strip is open");
});

test("a reading put into the plan changes what is expected; the difference is shown before, and one undo takes it back", async ({
  page,
  app,
}) => {
  const id = await fresh(page, app);
  for (const stage of ["Nothing connected", "Power tree alone", "Logic only", "Drivers, no motors", "Signals"]) {
    await stages(page)
      .getByRole("button", { name: new RegExp(stage) })
      .click();
    await leaveStage(page);
    await expect(stages(page).getByRole("button", { name: new RegExp(stage) })).toContainText("left with a reason");
  }
  await stages(page)
    .getByRole("button", { name: /One motor at a time/ })
    .click();
  await page.getByRole("button", { name: /Amps of Lift screw, turning free/ }).click();
  await expect(page.getByText("What Lift screw draws is not known")).toBeVisible();
  await field(page).fill("0.12 A");
  await page.keyboard.press("Enter");
  await page.getByRole("tab", { name: "Corrections" }).click();
  await expect(page.getByText("Lift screw: current at rest or turning free")).toBeVisible();
  await page.getByRole("button", { name: "What it changes" }).click();
  await page.getByRole("button", { name: "Take it into the plan" }).click();
  await saved(page);
  const screw = async () =>
    ((await app.document(id)).document as { parts: { id: string; levels?: { idle?: { value: number } } }[] }).parts.find(
      (part) => part.id === "screw",
    );
  expect((await screw())?.levels?.idle).toMatchObject({ value: 0.12, provenance: "measured" });
  await page.getByRole("tab", { name: "Stages", exact: true }).click();
  await stages(page)
    .getByRole("button", { name: /All on, unloaded/ })
    .click();
  await expect(page.getByText("What Lift screw draws is not known")).toHaveCount(0);
  await page.getByRole("button", { name: "Undo", exact: true }).first().click();
  await saved(page);
  expect((await screw())?.levels?.idle).toBeUndefined();
});

test("the log is filtered, struck out, and goes to a file and back", async ({ page, app }) => {
  const id = await fresh(page, app);
  await field(page).fill("0.01");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: "Fuse of Slide switch's feed" })).toBeVisible();
  await field(page).fill("2");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("heading", { name: /Every crimp/ })).toBeVisible();
  await page.getByRole("tab", { name: "Log", exact: true }).click();
  const rows = page.getByRole("table", { name: /Readings/ }).getByRole("row");
  await expect(rows).toHaveCount(3);
  const [file] = await Promise.all([page.waitForEvent("download"), page.getByRole("button", { name: "Readings as CSV" }).click()]);
  await page.getByLabel("Filter").fill("fuse");
  await expect(rows).toHaveCount(2);
  await page.getByRole("button", { name: "Strike out" }).click();
  await expect(page.getByText("struck out", { exact: true })).toBeVisible();
  await expect.poll(async () => (await stored(app, id)).readings.length).toBe(2);
  // Into another machine: each reading once, however often the file is taken in.
  const other = await fresh(page, app);
  await page.getByRole("tab", { name: "Log", exact: true }).click();
  for (let i = 0; i < 2; i++) await page.getByLabel("A CSV of readings").setInputFiles(await file.path());
  await expect.poll(async () => (await stored(app, other)).readings.length).toBe(2);
});

test("a log of a current becomes a load's figure in a mode", async ({ page, app }) => {
  const id = await fresh(page, app);
  await page.getByRole("tab", { name: "Current log" }).click();
  const text = `time,amps,volts\n${Array.from({ length: 40 }, (_, i) => `${i / 10},${i % 20 < 10 ? 0.4 : 0},5.1`).join("\n")}`;
  await page.getByLabel("A log of a current").setInputFiles({ name: "log.csv", mimeType: "text/csv", buffer: Buffer.from(text) });
  await expect(page.getByText("r.m.s.", { exact: true })).toBeVisible();
  await page.getByLabel("load", { exact: true }).selectOption({ label: "Lift screw" });
  await page.getByLabel("mode", { exact: true }).selectOption({ label: "Running" });
  await page.getByRole("button", { name: "Take it into the plan" }).click();
  await saved(page);
  const parts = ((await app.document(id)).document as { parts: { id: string; cells?: Record<string, { measured?: { value: number } }> }[] })
    .parts;
  expect(parts.find((part) => part.id === "screw")?.cells?.run?.measured?.value).toBeCloseTo(0.28, 1);
});

test("a drill hides a fault, reads from the bench alone, and tells what it was", async ({ page, app }) => {
  const id = await fresh(page, app);
  await page.getByRole("tab", { name: "Drill" }).click();
  await page.getByRole("button", { name: "Begin" }).click();
  await page.getByText("Nothing connected", { exact: false }).first().click();
  await page.getByRole("button", { name: /Fuse of Slide switch/ }).click();
  await expect(page.getByRole("heading", { name: "1 reading taken" })).toBeVisible();
  await page.getByLabel("The fault").selectOption({ index: 1 });
  await page.getByRole("button", { name: "Say so" }).click();
  await expect(page.getByText(/^Hidden was: /)).toBeVisible();
  expect((await stored(app, id)).readings).toEqual([]);
});
