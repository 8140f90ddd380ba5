import type { Page } from "@playwright/test";
import { analysed, expect, openMachine, saved, test } from "./app";

test("arrows travel between cells, Enter opens what a cell holds", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  const focused = () =>
    page.evaluate(() => {
      const cell = document.activeElement as HTMLElement | null;
      return `${cell?.closest("tr")?.dataset.row} ${cell?.dataset.c}`;
    });
  await page.locator('tr[data-row="drive-cutter"] [data-c="0"]').focus();
  await page.keyboard.press("ArrowRight");
  expect(await focused()).toBe("drive-cutter 1");
  await page.keyboard.press("ArrowDown");
  expect(await focused()).toBe("cutter 1");
  await page.keyboard.press("ArrowRight");
  await page.keyboard.press("ArrowRight");
  expect(await focused(), "a motor lead has no fuse cell: it is skipped").toBe("cutter 4");
  await page.keyboard.press("ArrowUp");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toContainText("I = (V_from − V_to) / R");
  await page.keyboard.press("Escape");
  await expect.poll(focused).toBe("drive-cutter 4");
});

test("sizes, lengths and fuses are typed in the ledger and saved", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  const type = async (cell: RegExp, text: string) => {
    await page.getByRole("button", { name: cell }).focus();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(text);
    await page.keyboard.press("Enter");
  };
  await type(/^Size of the feed of Cutter driver\./, "2.5mm2");
  await type(/^Length of the feed of Cutter driver\./, "3 ft");
  await type(/^Fuse in the feed of Cutter driver\./, "15");
  await saved(page);
  const { document } = await app.document(id);
  const wires = document.wires.filter((wire) => wire.to.part === "drive-cutter" || wire.from.part === "drive-cutter");
  expect(wires.filter((wire) => wire.gauge === "2.5 mm²")).toHaveLength(2);
  expect(JSON.stringify(document.wires.find((wire) => wire.to.part === "drive-cutter"))).toContain('"ratingA":15');
  await type(/^Fuse in the feed of Cutter driver\./, "16");
  await expect(page.getByRole("alert").filter({ hasText: "15, 20" })).toBeVisible();
  await page.keyboard.press("Escape");
  for (let i = 0; i < 3; i++) await page.keyboard.press("Control+z");
  await saved(page);
  expect((await app.document(id)).document.wires.find((wire) => wire.to.part === "drive-cutter")?.gauge).toBe("16 AWG");
});

test("settings change results: warmer air and the other fuse school", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift-corrected" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  await page.locator('tr[data-row="bridge"] button').first().click();
  await page.getByRole("tab", { name: "Conductor", exact: true }).click();
  const limit = page.getByRole("button", { name: /^May carry continuously/ });
  const before = Number.parseFloat((await limit.textContent()) ?? "");
  await page.getByRole("button", { name: "Settings" }).click();
  const dialog = page.getByRole("dialog");
  const air = dialog.getByLabel("Air around the wires");
  await air.fill("hot");
  await air.press("Enter");
  await expect(dialog.getByRole("alert")).toBeVisible();
  await air.fill("60 °C");
  await air.press("Enter");
  await dialog.getByLabel("Fuse load factor").selectOption("80 %");
  await page.keyboard.press("Escape");
  await expect.poll(async () => Number.parseFloat((await limit.textContent()) ?? "")).toBeLessThan(before);
  await page.getByRole("button", { name: /^Least fuse/ }).click();
  await expect(page.getByRole("dialog")).toContainText("Fuse load factor 80 %");
});

test("how a figure is known is shown and can be changed", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  await page.locator('tr[data-row="micro"] button').first().click();
  await page.getByLabel("Amps typed in its modes are").selectOption("typical");
  await expect(page.getByRole("button", { name: "Microcontroller in Running. Edit" })).toContainText("typical");
  await page.locator('tr[data-row="screw"] button').first().click();
  await page.getByLabel("How runs is known").selectOption("measured");
  await expect(page.locator('tr[data-row="screw"]')).toContainText("measured");
  await page.getByLabel("How Volts it is meant for is known").selectOption("guess");
  await saved(page);
  expect(JSON.stringify((await app.document(id)).document)).toContain('"nominalV":{"value":6,"provenance":"guess"}');
});

test("an open contact cuts off its branch in that mode only", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter, corrected", "feeds");
  const strip = page.getByRole("region", { name: "Modes" });
  await strip.getByRole("button", { name: /^Stopped/ }).click();
  await expect(page.locator('tr[data-row="drive-cutter"]')).toContainText("off");
  await expect(page.locator('tr[data-row="buck-5"]')).not.toContainText("off");
  await strip.getByRole("button", { name: /^Cruise/ }).click();
  await expect(page.locator('tr[data-row="drive-cutter"]')).not.toContainText("off");
});

test("Tab takes what was typed and goes on to the next cell, Shift and Tab goes back", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await analysed(page);
  const focused = () => page.evaluate(() => document.activeElement?.getAttribute("aria-label"));
  const cell = page.getByRole("button", { name: "Bilge pump in Cruise. Edit" });
  await cell.focus();
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("3.4 A");
  await page.keyboard.press("Tab");
  await expect.poll(focused).toBe("Bilge pump in Start both. Edit");
  await expect(cell).toContainText("3.40");
  await page.keyboard.press("F2");
  await page.keyboard.press("Shift+Tab");
  await expect.poll(focused).toBe("Bilge pump in Start both. Edit");
  await expect(page.getByRole("textbox", { name: "Bilge pump in Start both" })).toHaveCount(0);
});

for (const [step, tab] of [
  ["loads", null],
  ["feeds", null],
  ["returns", "Conductors"],
] as const)
  test(`rows of a long table line up with their heads and with each other, wide and narrow: ${step}`, async ({ page, app }) => {
    await openMachine(page, app, "Reedcutter", step);
    if (tab) await page.getByRole("tab", { name: tab }).click();
    await expect(page.locator("table.rows tbody tr").first()).toBeVisible();
    for (const width of [1280, 1024]) {
      await page.setViewportSize({ width, height: 800 });
      const rows = await page.locator("table.rows tr").evaluateAll((all) =>
        all.map((row) => ({
          height: row.closest("tbody") ? row.getBoundingClientRect().height : null,
          columns: [...row.children]
            .map((cell) => cell.getBoundingClientRect())
            .filter((box) => box.width > 0)
            .map((box) => `${Math.round(box.left)} ${Math.round(box.right)}`),
        })),
      );
      const [head, ...body] = rows;
      expect(body.length).toBeGreaterThan(15);
      for (const row of body) expect(row.columns).toEqual(head?.columns);
      expect(new Set(body.map(({ height }) => height)).size).toBe(1);
    }
  });

test("a message under the last row of a table can be scrolled to", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  await page
    .getByRole("button", { name: /^Length of/ })
    .last()
    .focus();
  await page.keyboard.press("F2");
  await page.keyboard.press("Control+a");
  await page.keyboard.type("far");
  await page.keyboard.press("Enter");
  const message = page.getByRole("alert").filter({ hasText: "length" });
  await message.scrollIntoViewIfNeeded();
  await expect(message).toBeInViewport({ ratio: 1 });
  await page.keyboard.press("Escape");
  await expect(message).toHaveCount(0);
});

/** Rows whose cells are not numbered one after another, or that hold a figure no arrow key finds. */
const misnumbered = (page: Page) =>
  page.locator("main table tr").evaluateAll((rows) =>
    rows.flatMap((row) => {
      const cells = [...row.querySelectorAll<HTMLElement>("[data-c]")];
      const lost = [...row.querySelectorAll("button.fig[aria-haspopup=dialog]:not([data-c])")];
      const rises = cells.every((cell, i) => i === 0 || Number(cell.dataset.c) > Number(cells[i - 1]?.dataset.c));
      const oneRow = new Set(cells.map((cell) => cell.dataset.r)).size <= 1;
      return rises && oneRow && lost.length === 0 ? [] : [`${cells.map((cell) => cell.dataset.c)} ${row.textContent?.slice(0, 60)}`];
    }),
  );

for (const step of ["loads", "sources", "feeds", "returns"]) {
  test(`arrow keys find every figure of every table, in order: ${step}`, async ({ page, app }) => {
    await openMachine(page, app, "Reedcutter", step);
    let figures = 0;
    for (const tab of await page.getByRole("tablist").first().getByRole("tab").all()) {
      await tab.click();
      await expect(tab).toHaveAttribute("aria-selected", "true");
      await expect(page.getByRole("tabpanel").first()).toBeVisible();
      await expect(page.locator("[data-waiting]")).toHaveCount(0);
      expect.soft(await misnumbered(page), (await tab.textContent()) ?? "").toEqual([]);
      figures += await page.locator("main table button.fig[data-c]").count();
    }
    expect(figures).toBeGreaterThan(20);
  });
}

test("in Rails, arrow keys pass no column by", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "sources");
  const row = page.locator('tr[data-row="pack"]').first();
  await row.locator('[data-c="0"]').focus();
  const heads = await row.locator("xpath=ancestor::table").locator("th").allTextContents();
  const seen: string[] = [];
  for (let step = 0; step < heads.length; step++) {
    await page.keyboard.press("ArrowRight");
    seen.push(
      heads[await page.evaluate(() => (document.activeElement?.closest("td") as HTMLTableCellElement | null)?.cellIndex ?? -1)] ?? "",
    );
  }
  expect(seen.some((head) => head.startsWith("Continuous"))).toBe(true);
  expect(seen.map((head) => heads.indexOf(head))).toEqual(seen.map((head) => heads.indexOf(head)).toSorted((a, b) => a - b));
});
