import type { Pack } from "@/core/machine/schema";
import { accessible, accessibleInBothThemes, analysed, expect, openMachine, saved, test } from "./app";

const packOf = (document: { parts: readonly unknown[] }) => (document.parts as Pack[]).find((part) => part.kind === "pack");

test("every view of the sources reads well to a screen reader, in both themes", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "sources");
  await page.locator("tr[data-row] button").nth(3).click();
  const ready: Record<string, string> = {
    Rails: "What reaches each part",
    "Run and sag": "First to stop",
    Converters: "One for all, as planned",
    Choose: "Against this rail",
    "12, 24 or 48 V": "Does not take it",
    "On the bench": "Limit to set",
  };
  for (const [tab, text] of Object.entries(ready)) {
    await page.getByRole("tab", { name: tab, exact: true }).click();
    await expect(page.getByText(text, { exact: false }).first()).toBeVisible();
    await accessibleInBothThemes(page, tab === "Rails" ? null : "main");
  }
});

test("the run time, who ends it, and its working; a wish that is missed becomes a verdict", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter-corrected" });
  await page.goto(`${app.url}/m/${id}/sources`);
  await analysed(page);
  await page.getByRole("tab", { name: "Run and sag" }).click();
  const run = page.getByRole("region", { name: "Run time" });
  await expect(run.getByText("2 h 0 min wanted")).toBeVisible();
  await run.getByRole("button", { name: /^Run time: 3 h/ }).click();
  await expect(page.getByRole("dialog").getByText("Peukert", { exact: false }).first()).toBeVisible();
  await page.keyboard.press("Escape");
  await expect(page.locator("canvas")).toBeVisible();
  await page.getByRole("button", { name: "Settings", exact: true }).click();
  await page.getByLabel("Run wanted").fill("5 h");
  await page.keyboard.press("Enter");
  await page.keyboard.press("Escape");
  await expect(page.getByRole("complementary", { name: "Verdicts" }).getByText(/^Runs\s3\sh.*5\sh\s0\smin wanted/)).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(page.getByRole("complementary", { name: "Verdicts" }).getByText(/^Runs\s3\sh/)).toHaveCount(0);
});

test("a pack composed on the spot is planned in one action, rewires nothing, and is undone", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/sources`);
  await analysed(page);
  const before = (await app.document(id)).document;
  await page.getByRole("tab", { name: "Choose" }).click();
  const list = page.getByRole("region", { name: "Candidates" });
  // Each candidate is tried in the plan.
  await expect(list.getByText(/of \d+ fit so far\./)).toBeVisible();
  await list.getByLabel("only what fits").check();
  await list.getByRole("button", { name: "Mass" }).click();
  const first = list.getByRole("button", { name: /^Plan / }).first();
  await first.click();
  await expect(page.getByText("nothing was rewired", { exact: false })).toBeVisible();
  await saved(page);
  const after = (await app.document(id)).document;
  expect(after.wires).toEqual(before.wires);
  expect(packOf(after)?.series).not.toBe(packOf(before)?.series);
  expect(packOf(after)?.internalOhm?.provenance).toBe("typical");
  await page.keyboard.press("Control+z");
  await saved(page);
  expect(packOf((await app.document(id)).document)).toEqual(packOf(before));
});

test("what a pack is made of, and its resistance from two readings, with messages beside the field", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/sources`);
  await analysed(page);
  await page.locator('tr[data-row="cells"] button').first().click();
  const made = page.getByRole("form", { name: "Four AA cells, what it is made of" });
  await made.getByLabel("Cells").selectOption("nimh_aa");
  await made.getByLabel("In series").fill("four");
  await made.getByRole("button", { name: "Write all its figures" }).click();
  await expect(made.getByText("A whole number from 1 to 60.")).toBeVisible();
  await made.getByLabel("In series").fill("5");
  await made.getByLabel("One cell or string holds").fill("2000 mAh");
  await made.getByRole("button", { name: "Write all its figures" }).click();
  await saved(page);
  expect(packOf((await app.document(id)).document)).toMatchObject({
    chemistry: "nimh_aa",
    series: 5,
    capacityAh: { value: 2 },
    internalOhm: { value: 0.15 },
  });

  const readings = page.getByRole("form", { name: "Resistance from two readings" });
  await readings.getByLabel("Without load").fill("6.5 V");
  await readings.getByLabel("Under load").fill("6.6 V");
  await readings.getByLabel("at", { exact: true }).fill("1.2 A");
  await expect(readings.getByText("Under load the volts must be lower", { exact: false })).toBeVisible();
  await readings.getByLabel("Under load").fill("6.2 V");
  await readings.getByRole("button", { name: "Take it" }).click();
  await saved(page);
  expect(packOf((await app.document(id)).document)?.internalOhm).toMatchObject({ value: 0.25, provenance: "measured" });
});

test("a reading on the bench becomes the budget; one that cannot be is refused where it was typed", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter-corrected" });
  await page.goto(`${app.url}/m/${id}/sources`);
  await analysed(page);
  await page.getByRole("tab", { name: "On the bench" }).click();
  const typed = page.getByLabel("Amps the bench supply showed in Cruise for Pack");
  await typed.fill("0.2 A");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "already draw more" })).toBeVisible();
  await typed.fill("25 A");
  await page.keyboard.press("Enter");
  await expect(page.getByText("times their estimate", { exact: false })).toBeVisible();
  await expect(page.getByRole("button", { name: /^Cruise/ }).first()).toContainText(/25\.[01]/);
});

test("a part put on the shelf is offered in another machine, and taken off again", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter, corrected", "sources");
  await page.locator('tr[data-row="buck-5"] button').first().click();
  await page.getByRole("button", { name: "To the shelf" }).click();
  await expect(page.getByText("is on the shelf", { exact: false })).toBeVisible();
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/sources`);
  await analysed(page);
  await page.getByRole("tab", { name: "Choose" }).click();
  await page.getByLabel("Rail to feed").selectOption("buck-5");
  const list = page.getByRole("region", { name: "Candidates" });
  await expect(list.getByText("on your shelf", { exact: false })).toBeVisible();
  await list.getByRole("button", { name: "Take Buck 5 V off the shelf" }).click();
  await expect(list.getByText("on your shelf", { exact: false })).toHaveCount(0);
});

test("two machines side by side from the list", async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole("link", { name: "Compare Reedcutter", exact: true }).first().click();
  await expect(page.getByText("Choose the two machines.")).toBeVisible();
  await accessible(page);
  await page.getByLabel("To machine").selectOption({ label: "Reedcutter, corrected" });
  await expect(page.getByRole("heading", { name: /Settled in Reedcutter, corrected/ })).toBeVisible();
  const gained = page.getByRole("heading", { name: /New in Reedcutter, corrected/ }).locator("..");
  await expect(gained.getByText("Watch").first()).toBeVisible();
  await expect(gained.getByText(/Fix|Stop|Ask/)).toHaveCount(0);
  await expect(page.getByRole("row", { name: /Runs on one charge/ })).toContainText("3 h");
  await accessible(page);
});

test("another output of a supply's box shares its minus and its rating", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "carillon" });
  await page.goto(`${app.url}/m/${id}/sources`);
  await analysed(page);
  await page.locator('tr[data-row="supply-24"] button').first().click();
  await page.getByLabel("All outputs together").fill("150 W");
  await page.keyboard.press("Enter");
  await page.getByRole("button", { name: "Its box has another output" }).click();
  await expect(page.getByText("One of the outputs of Supply 24 V", { exact: false })).toBeVisible();
  await expect(page.getByRole("complementary", { name: "Verdicts" }).getByText(/its outputs together give/)).toBeVisible();
  await saved(page);
  const made = ((await app.document(id)).document.parts as readonly unknown[] as { box?: string }[]).filter(
    ({ box }) => box === "supply-24",
  );
  expect(made).toHaveLength(1);
});

test("a charger joined to the pack's rail gives its limit, the pack the rest; parted again by undo", async ({ page, app }) => {
  const example = (await app.document(await app.create({ kind: "example", key: "reedcutter-corrected" }))).document;
  const datasheet = (value: number) => ({ value, provenance: "datasheet" });
  const charger = {
    id: "charger",
    name: "Charger",
    kind: "supply",
    make: "charger",
    overload: "constant current",
    outputV: datasheet(28.8),
    outputOhm: datasheet(0.01),
    ratedA: datasheet(1),
    limitA: datasheet(1),
  };
  const id = await app.create({ kind: "import", document: { ...example, parts: [...example.parts, charger] } });
  await page.goto(`${app.url}/m/${id}/sources`);
  await analysed(page);
  await page.locator('tr[data-row="charger"] button').first().click();
  const dock = page.getByRole("region", { name: "Charger, how it behaves" });
  await dock.getByRole("button", { name: "Join it to a rail" }).click();
  await accessible(page, '[role="dialog"]');
  await page.getByLabel("Its plus to").selectOption({ label: "Bar P0" });
  await page.getByLabel("Its minus to").selectOption({ label: "Bar N1" });
  await page.getByLabel("Length, one way").fill("0.4 m");
  await page.getByLabel("Conductor").fill("14awg");
  await page.getByRole("button", { name: "Join", exact: true }).click();
  await expect(dock.getByText("back from Bar N1", { exact: false })).toBeVisible();
  await expect(page.locator('tr[data-row="charger"] td.num').first()).toContainText("1.00");
  await page.keyboard.press("Control+z");
  await expect(dock.getByText("back from Bar N1", { exact: false })).toHaveCount(0);
});

test("losses from three points of a sheet become a curve; points that cannot be are told", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter-corrected" });
  await page.goto(`${app.url}/m/${id}/sources`);
  await analysed(page);
  await page.getByRole("tab", { name: "Converters" }).click();
  await page.locator('tr[data-row="buck-12"] button').first().click();
  const form = page.getByRole("form", { name: "Losses from three points of its sheet" });
  for (const [i, [amps, percent]] of [
    ["0.5 A", "86 %"],
    ["1.5 A", "90"],
    ["1.5 A", "87"],
  ].entries()) {
    await form.getByLabel(`Amps of point ${i + 1}`).fill(amps ?? "");
    await form.getByLabel(`Efficiency of point ${i + 1}`).fill(percent ?? "");
  }
  await form.getByLabel("Input volts of the sheet").fill("24 V");
  await form.getByRole("button", { name: "Take the curve" }).click();
  await expect(form.getByRole("alert")).toContainText("Three different currents");
  await form.getByLabel("Amps of point 3").fill("5 A");
  await form.getByRole("button", { name: "Take the curve" }).click();
  await expect(page.getByRole("region", { name: /efficiency over load/ }).locator("canvas")).toBeVisible();
  await saved(page);
  const buck = ((await app.document(id)).document.parts as readonly unknown[] as { id: string; lossW?: { provenance: string } }[]).find(
    (part) => part.id === "buck-12",
  );
  expect(buck?.lossW?.provenance).toBe("datasheet");
});
