import { accessible, analysed, expect, openMachine, saved, test } from "./app";

test("a machine is made from blank by keyboard alone", async ({ page, app }) => {
  await page.goto(app.url);
  await page.getByRole("link", { name: "New machine" }).focus();
  await page.keyboard.press("Enter");
  await page.waitForURL(/new/);
  await page.getByRole("textbox", { name: "called" }).focus();
  await page.keyboard.type("Test barge");
  await page.getByRole("button", { name: "Begin with an empty page" }).focus();
  await page.keyboard.press("Enter");
  await page.waitForURL(/feeds/);
  await expect(page.getByRole("heading", { level: 1 })).toHaveText("Test barge");
  await expect(page.getByText("An empty page")).toBeVisible();
  await accessible(page);

  /** Adds a part with the A key: kind by its first letters, then fields by label, all typed. */
  const add = async (kind: string, fields: Record<string, string>, name?: string) => {
    await page.keyboard.press("a");
    const dialog = page.getByRole("dialog");
    await dialog.getByLabel("Kind").focus();
    await page.keyboard.type(kind);
    if (name) {
      await dialog.getByRole("textbox", { name: "Name" }).focus();
      await page.keyboard.type(name);
    }
    // The wire is folded away until somebody has something to say of it.
    const wire = dialog.locator("summary");
    if ((await wire.count()) > 0) {
      await wire.focus();
      await page.keyboard.press("Enter");
    }
    for (const [label, text] of Object.entries(fields)) {
      await dialog.getByLabel(label, { exact: true }).focus();
      await page.keyboard.type(text);
    }
    await page.keyboard.press("Enter");
    await expect(dialog).toHaveCount(0);
  };
  const select = async (part: string) => {
    await page
      .getByRole("row", { name: new RegExp(part) })
      .getByRole("button")
      .first()
      .focus();
  };

  await add("Pack", { "Open-circuit volts": "12.8 V", "Internal resistance": "12 mohm", Capacity: "20Ah" });
  await add("Fuse", { "Length, one way": "150 mm", Conductor: "10awg" }, "Main fuse");
  await select("Main fuse");
  await add("Switch", { "Rated amps": "100A", "Length, one way": "1 ft", Conductor: "10 AWG" }, "Main switch");
  await select("Main switch");
  await add("Positive", { "Length, one way": "0.2", Conductor: "10awg" }, "Plus bar");
  await select("Pack");
  await add("Negative", { "Length, one way": "0.3 m", Conductor: "10awg" }, "Minus bar");
  await select("Plus bar");
  await add(
    "Motor driver",
    { "Continuous, bare board": "20", "Length, one way": "1.2 m", Conductor: "14awg", "Fuse at its start, family": "blade, reg" },
    "Drive",
  );
  await select("Drive");
  await add("Load", { "Volts it is meant for": "12", "Length, one way": "0.4", Conductor: "14awg" }, "Winch");
  await select("Plus bar");
  await add("Converter", { "Output volts": "5", "Rated output amps": "3 A", "Length, one way": "0.5", Conductor: "1.5mm2" }, "Buck");
  await select("Buck");
  await add("Load", { Which: "board", "Volts it is meant for": "5", "Length, one way": "0.3", Conductor: "18awg" }, "Board");

  await saved(page);
  const id = /\/m\/([^/]+)/.exec(page.url())?.[1] ?? "";
  const { document } = await app.document(id);
  const named = (name: string) => document.parts.find((part) => part.name === name)?.id;
  expect(document.parts.map((part) => part.name)).toEqual([
    "Pack",
    "Main fuse",
    "Main switch",
    "Plus bar",
    "Minus bar",
    "Drive",
    "Winch",
    "Buck",
    "Board",
  ]);
  expect(document.wires).toHaveLength(12);
  const driveBack = document.wires.find((wire) => wire.from.part === named("Drive") && wire.to.part === named("Minus bar"));
  expect(driveBack?.gauge).toBe("14 AWG");

  await page.getByRole("link", { name: /^Loads/ }).focus();
  await page.keyboard.press("Enter");
  await page.waitForURL(/loads/);
  await page.getByRole("button", { name: /Winch in Running/ }).focus();
  await page.keyboard.type("8.5A");
  await page.keyboard.press("Enter");
  await page.keyboard.press("ArrowDown");
  await page.keyboard.press("Enter");
  await page.keyboard.type("4W");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("button", { name: "Board in Running. Edit" })).toContainText("0.80");
  await expect(page.getByRole("region", { name: "Modes" })).toContainText("8.93");
});

test("a remedy applies in one action, is undone and redone, and outlives a reload", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  const wire = async () => (await app.document(id)).document.wires.find((each) => each.to.part === "buck-5")?.gauge;
  await page.locator('tr[data-row="buck-5"] button').first().click();
  const verdict = page.getByRole("listitem").filter({ hasText: /Feed of Buck 5 V: the 80 A fuse does not protect 20 AWG/ });
  await verdict.getByRole("button", { name: /^Size this feed: 18 AWG/ }).click();
  await expect(verdict).toHaveCount(0);
  await saved(page);
  expect(await wire()).toBe("18 AWG");
  await page.keyboard.press("Control+z");
  await expect(verdict).toHaveCount(1);
  await saved(page);
  expect(await wire()).toBe("20 AWG");
  await page.keyboard.press("Control+y");
  await expect(verdict).toHaveCount(0);
  await saved(page);
  await page.reload();
  await analysed(page);
  await expect(verdict).toHaveCount(0);
  expect(await wire()).toBe("18 AWG");
});

test("bad input stays in its cell with a message, Escape gives the old value back", async ({ page, app }) => {
  await openMachine(page, app, "Marble lift", "loads");
  const cell = page.getByRole("button", { name: "Lift screw in Running. Edit" });
  for (const bad of ["-3 A", "abc", "1e9", "250 V"]) {
    await cell.focus();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(bad);
    await page.keyboard.press("Enter");
    await expect(page.getByRole("alert").filter({ hasText: /./ }).first()).toBeVisible();
    await expect(page.getByRole("textbox", { name: /Lift screw in Running/ })).toHaveValue(bad);
    if (bad === "abc") await accessible(page, "table");
    await page.keyboard.press("Escape");
    await expect(cell).toContainText("0.30");
  }
  await page.locator('tr[data-row="screw"] button').first().click();
  const name = page.getByRole("textbox", { name: "Name of the part" });
  await name.fill("");
  await name.press("Enter");
  await expect(page.getByRole("alert").filter({ hasText: "name" })).toBeVisible();
});

test("modes are added with the currents of another, renamed, reordered and deleted", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await page.keyboard.press("m");
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("New mode").fill("Stalled");
  await dialog.getByLabel("Currents from").selectOption({ label: "Running" });
  await dialog.getByRole("button", { name: "Add mode" }).click();
  await dialog.getByRole("button", { name: "Move Stalled up" }).click();
  await dialog.getByRole("textbox", { name: "Name of Stalled" }).fill("Jam");
  await dialog.getByRole("textbox", { name: "Name of Stalled" }).press("Enter");
  await dialog.getByRole("button", { name: "Delete Waiting" }).click();
  await page.keyboard.press("Escape");
  const heads = ["Load", "Driven by", "Runs", "Peak", "Worst", "Known by", "Running", "Jam", "Both start", "Verdict"];
  await expect(page.getByRole("columnheader")).toHaveText(heads);
  await expect(page.getByRole("button", { name: "Lift screw in Jam. Edit" })).toContainText("0.30");
});

test("a return is re-landed and a tie is added; the solver shares the current between them", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/returns`);
  await analysed(page);
  await page.getByRole("tab", { name: "Conductors" }).click();
  const row = page.locator('tr[data-row="controller"]').first();
  const offset = () => row.getByRole("button", { name: /^Ground offset of Controller/ }).textContent();
  const before = await offset();
  // The list of places is made when the field gets the focus.
  await row.getByLabel("Controller lands on").focus();
  await row.getByLabel("Controller lands on").selectOption({ label: "Bar N1" });
  await expect.poll(offset).not.toBe(before);
  await page.getByRole("button", { name: "Add a return or a tie" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("From").selectOption({ label: "Bar N1" });
  await dialog.getByLabel("Lands on").selectOption({ label: "Bar N1" });
  await dialog.getByRole("button", { name: "Add the wire" }).click();
  await expect(dialog.getByRole("alert")).toContainText("begins");
  await dialog.getByLabel("From").selectOption({ label: "Controller −" });
  await dialog.getByLabel("Lands on").selectOption({ label: "Bar N2" });
  await dialog.getByLabel("Length, one way").fill("0.5 m");
  await dialog.getByLabel("Conductor").fill("22awg");
  await dialog.getByRole("button", { name: "Add the wire" }).click();
  // Its return, its tie, and the ground of its link with the cutter's driver.
  await expect(page.locator('tr[data-row="controller"]')).toHaveCount(3);
});

test("removing a bar asks, lists what hangs on it, and moves it", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  await page.locator('tr[data-row="bar-p1"] button').first().focus();
  await page.keyboard.press("Delete");
  const dialog = page.getByRole("dialog");
  await expect(dialog).toContainText("5 parts hang on it");
  await expect(dialog).toContainText("Cutter driver");
  await dialog.getByLabel("Move their wires to").selectOption({ label: "Stop contactor out" });
  await dialog.getByRole("button", { name: /^Move them/ }).click();
  await expect(page.locator('tr[data-row="bar-p1"]')).toHaveCount(0);
  await saved(page);
  const { document } = await app.document(id);
  expect(document.wires.find((wire) => wire.to.part === "drive-cutter")?.from.part).toBe("stop");
});
