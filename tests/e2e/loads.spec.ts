import type { Load, Machine } from "@/core/machine/schema";
import { accessible, analysed, expect, openMachine, saved, test } from "./app";

const loadOf = (document: { parts: readonly unknown[] }, id: string) => (document.parts as Load[]).find((part) => part.id === id);

test("the whole barge is on one screen: every load, what it runs at, its worst, and the matrix, without scrolling", async ({
  page,
  app,
}) => {
  await openMachine(page, app, "Reedcutter", "loads");
  const rows = page.locator("table tr[data-row]");
  await expect(rows).toHaveCount(18);
  const table = page.getByRole("table");
  const scroll = await table.evaluate((element) => {
    const pane = element.parentElement as HTMLElement;
    return {
      sideways: pane.scrollWidth - pane.clientWidth,
      last: element.querySelector("tr[data-row]:last-child")?.getBoundingClientRect().bottom ?? 0,
      end: pane.getBoundingClientRect().bottom,
    };
  });
  expect(scroll.sideways).toBeLessThanOrEqual(0);
  expect(scroll.last).toBeLessThanOrEqual(scroll.end + 1);
});

test("states are typed in the matrix, filled across by a key, and undone", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  const cell = (mode: string) => page.getByRole("button", { name: `Cutter bar in ${mode}. Edit` });
  const type = async (mode: string, text: string) => {
    await cell(mode).focus();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  };
  await type("Cruise", "run 50 %");
  await expect(cell("Cruise")).toContainText("3.80");
  await expect(cell("Cruise")).toContainText("run 50 %");
  await type("Cruise", "stall 2");
  await expect(page.getByRole("alert").filter({ hasText: "only one" })).toBeVisible();
  await page.keyboard.press("Escape");
  await type("Cruise", "measured 3.1 A");
  await expect(cell("Cruise")).toContainText("read");
  await expect(cell("Cruise")).toContainText("3.10");
  await cell("Cruise").focus();
  await page.keyboard.press("Shift+Enter");
  await expect(cell("Stopped")).toContainText("run 50 %");
  await expect(cell("Stopped")).not.toContainText("read");
  await saved(page);
  expect(loadOf((await app.document(id)).document, "cutter")?.cells.parked).toEqual({ state: "run", percent: 50 });
  await page.keyboard.press("Control+z");
  await expect(cell("Parked")).toContainText("off");
});

test("what is known becomes a figure with its range, its working and a way to narrow it", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await page.locator('tr[data-row="gate"] button').first().click();
  const know = page.getByRole("region", { name: "Gate, what do you know?" });
  await know.getByRole("button", { name: "held still at low volts" }).click();
  await know.getByRole("button", { name: "Take this figure" }).click();
  await expect(know.getByRole("alert").first()).toBeVisible();
  await know.getByLabel("Volts at its terminals").fill("1.5V");
  await know.getByLabel("it drew, held still").fill("150 mA");
  await expect(know.getByText("Narrows it most:")).toBeVisible();
  await accessible(page, "main");
  await know.getByRole("button", { name: "Take this figure" }).click();
  const currents = page.getByRole("region", { name: "Gate, currents" });
  await expect(currents).toContainText("could be");
  await currents.getByRole("button", { name: "how: stalls" }).click();
  await expect(page.getByRole("dialog")).toContainText("could be from");
  await page.keyboard.press("Escape");
  await saved(page);
  const stall = loadOf((await app.document(id)).document, "gate")?.levels?.stall;
  expect(stall).toMatchObject({ provenance: "measured", basis: { method: "lockedRotor" } });
  expect(stall?.low ?? 0).toBeLessThan(stall?.value ?? 0);
  // Numbers that cannot belong together are refused in words.
  await know.getByLabel("Lost in the brushes").fill("1.5");
  await expect(know.getByRole("alert")).toContainText("contradict");
});

test("drivers: limits are edited, the logic side is wired, another driver is weighed and planned", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  const verdicts = page.getByRole("complementary", { name: "Verdicts" });
  await page.getByRole("tab", { name: "Drivers" }).click();
  await accessible(page, "main");
  await page.locator('tr[data-row="drive-conveyor"] button').first().click();
  await expect(verdicts.getByText("its logic side has no supply")).toBeVisible();
  const logic = page.getByRole("region", { name: "Conveyor driver, logic side" });
  await logic.getByLabel("5 V wire from").selectOption({ label: "Buck 5 V" });
  await expect(verdicts.getByText("its logic side has no supply")).toHaveCount(0);
  // The new wire is asked about on Feeds; its size and length are entered where it was made.
  await logic.getByLabel("that wire, one way").fill("60 cm");
  await logic.getByLabel("Size of the 5 V wire").fill("nothing");
  await logic.getByLabel("Size of the 5 V wire").press("Enter");
  await expect(logic.getByRole("alert")).toContainText("not a wire size");
  await logic.getByLabel("Size of the 5 V wire").fill("20awg");
  await logic.getByLabel("Size of the 5 V wire").press("Enter");
  await expect(logic.getByRole("alert")).toHaveCount(0);
  const stall = verdicts.getByText("Conveyor held still pulls");
  await expect(stall).toBeVisible();
  const limit = page.getByRole("button", { name: "Conveyor driver, current limit set. Edit" });
  await limit.focus();
  await page.keyboard.press("F2");
  await page.keyboard.type("15 A");
  await page.keyboard.press("Enter");
  await expect(stall).toHaveCount(0);
  await page.getByRole("button", { name: "Choose a driver" }).click();
  const dialog = page.getByRole("dialog");
  await expect(dialog.getByText("Refused").first()).toBeVisible();
  await accessible(page, '[role="dialog"]');
  const first = () => dialog.locator("tbody tr").first().textContent();
  await dialog.getByRole("button", { name: "Continuous" }).click();
  await dialog.getByRole("button", { name: "Continuous" }).click();
  await expect(dialog.getByRole("columnheader", { name: "Continuous" })).toHaveAttribute("aria-sort", "descending");
  expect(await first()).toContain("2x60");
  await dialog.getByRole("button", { name: "Plan discrete MOSFET bridge board, 24 V 25 A" }).click();
  await expect(dialog).toHaveCount(0);
  await saved(page);
  const { document } = await app.document(id);
  expect(document.wires.find(({ to }) => (to as { terminal?: string }).terminal === "5v")).toMatchObject({
    gauge: "20 AWG",
    lengthM: { value: 0.6 },
  });
  expect(document.parts.find((part) => part.id === "drive-conveyor")).toMatchObject({
    continuousA: { value: 20, provenance: "typical" },
    bridge: "mosfet",
  });
});

test("a mission heats, schools stand side by side and change the strip, charts hold the figures of their table", async ({ page, app }) => {
  const shipped = (await app.document(await app.create({ kind: "example", key: "reedcutter-corrected" }))).document;
  const { mission: _planned, ...example } = shipped as unknown as Machine;
  const id = await app.create({ kind: "import", document: example });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await page.getByRole("tab", { name: "Mission" }).click();
  for (const mode of ["Cruise", "Blade jammed", "Lift"]) await page.getByLabel("Add a step").selectOption({ label: mode });
  await expect(page.getByRole("region", { name: "What the mission does" })).toContainText("on average");
  await accessible(page, "main");
  await page.getByRole("button", { name: "Step 3 earlier" }).click();
  await page.getByRole("button", { name: "Remove step 1" }).click();
  await saved(page);
  const { mission } = (await app.document(id)).document as unknown as Machine;
  expect(mission?.steps.map(({ mode }) => mode)).toEqual(["lift", "jam"]);

  await page.getByRole("tab", { name: "Peak schools" }).click();
  const strip = page.getByRole("region", { name: "Modes" });
  await expect(strip).not.toContainText("All stalled");
  await page.getByRole("radio", { name: "All stalled at once" }).check();
  await expect(strip).toContainText("All stalled");
  await accessible(page, "main");
  await page.getByRole("radio", { name: "Named modes" }).check();
  await expect(strip).not.toContainText("All stalled");

  await page.getByRole("tab", { name: "Charts" }).click();
  await expect(page.getByRole("img", { name: /Stacked amps/ })).toBeVisible();
  await page.getByRole("combobox", { name: /^Rail/ }).selectOption({ label: "D5 · Buck 5 V" });
  await expect(page.getByRole("table", { name: "The same figures as a table" })).toContainText("Computer");
  await accessible(page, "main");
});

test("modes come from a pattern in one step, and go again with one undo", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await page.keyboard.press("m");
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Pattern").selectOption({ label: "Lifts and lowers" });
  await dialog.getByRole("button", { name: "Add 5 modes" }).click();
  await page.keyboard.press("Escape");
  await expect(page.getByRole("columnheader", { name: "Into its end" })).toBeVisible();
  await expect(page.getByRole("button", { name: "Lift screw in Into its end. Edit" })).toContainText("stall");
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("columnheader", { name: "Into its end" })).toHaveCount(0);
});
