import type { Machine } from "@/core/machine/schema";
import { accessible, accessibleInBothThemes, analysed, expect, openMachine, saved, test } from "./app";

const wireTo = (document: Machine, part: string) => document.wires.find(({ to, role }) => to.part === part && role !== "return");

/** Waits until the walk of shorts and the runs behind it are those of the plan on screen. */
async function walked(page: import("@playwright/test").Page): Promise<void> {
  await expect(page.locator("[data-waiting]")).toHaveCount(0);
}

test("the ledger's panes read well to a screen reader", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  await walked(page);
  await page.locator('tr[data-row="drive-cutter"] button').first().click();
  for (const tab of ["Sizes", "Conductor", "Ends and way", "Fuse", "Time and current", "Part"]) {
    await page.getByRole("tab", { name: tab, exact: true }).click();
    await accessible(page, ".pane.grid");
  }
  await accessibleInBothThemes(page);
});

test("the other views of the feeds do, in both themes", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  await walked(page);
  for (const [tab, text] of [
    ["Short circuits", "places where a short is not cleared safely"],
    ["Size everything", "under every rule and your schools"],
    ["Plugs and contacts", "With the emergency stop pressed"],
  ] as const) {
    await page.getByRole("tab", { name: tab, exact: true }).click();
    await expect(page.getByText(text, { exact: false }).first()).toBeVisible();
    await accessibleInBothThemes(page, "main");
  }
});

test("the ladder shows why a size will not do, and taking one changes feed and return in one undo", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  await walked(page);
  await page.locator('tr[data-row="pump"] button').first().click();
  const ladder = page.getByRole("table", { name: "Sizes for this feed" });
  await expect(ladder.getByText("now")).toBeVisible();
  await expect(ladder.getByText("← take")).toBeVisible();
  await expect(page.getByText(/is the thinnest that will do/)).toBeVisible();
  await ladder.getByRole("button", { name: "Use 16 AWG" }).click();
  await saved(page);
  const sized = (await app.document(id)).document as Machine;
  const feed = wireTo(sized, "pump");
  expect(feed?.gauge).toBe("16 AWG");
  expect(sized.wires.find(({ pair }) => pair === feed?.id)?.gauge).toBe("16 AWG");
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await saved(page);
  expect(wireTo((await app.document(id)).document as Machine, "pump")?.gauge).toBe("18 AWG");
});

test("a fuse tells what it does in a start, a stall and a short, and its picture opens large", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  await walked(page);
  await page.locator('tr[data-row="drive-cutter"] button').first().click();
  for (const line of [/carries in Cruise/, /start of Cutter bar/, /held still/, /short at Cutter driver/, /opens in/, /wire survives/])
    await expect(page.locator("dt", { hasText: line }).first()).toBeVisible();
  await page.getByRole("tab", { name: "Time and current" }).click();
  await expect(page.locator("canvas")).toHaveCount(1);
  await page.getByRole("button", { name: "Larger" }).click();
  const sheet = page.getByRole("dialog");
  await expect(sheet.getByRole("img", { name: /Time over current/ })).toBeVisible();
  await accessible(page, '[role="dialog"]');
  await page.keyboard.press("Escape");
  await expect(sheet).toHaveCount(0);
});

test("connectors are chosen for both poles, judged at once, and a wire too thin is told and mended", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter-corrected" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  await page.locator('tr[data-row="horn"] button').first().click();
  await page.getByRole("tab", { name: "Ends and way" }).click();
  await page.getByLabel("Far end").selectOption({ label: "2-pole 3.5 mm bullet in keyed housing, 60 A class" });
  await expect(page.getByText("18 AWG is too thin for it.")).toBeVisible();
  const verdicts = page.getByRole("complementary", { name: "Verdicts" });
  await expect(verdicts.getByText(/18 AWG is too thin for a 2-pole/)).toBeVisible();
  await saved(page);
  const document = (await app.document(id)).document as Machine;
  const feed = wireTo(document, "horn");
  expect(feed?.toEnd?.family).toBe("key60");
  // On the return the same housing stands at the other end.
  const back = document.wires.find(({ pair }) => pair === feed?.id);
  expect([back?.fromEnd?.family, back?.toEnd]).toEqual(["key60", undefined]);
  await page.getByLabel("Live half").selectOption({ label: "is recessed" });
  await page.getByLabel("Key or colour").fill("B12");
  await page.keyboard.press("Enter");
  await page.getByLabel("crosses a moving joint").check();
  await expect(verdicts.getByText(/which strands cross the joint/)).toBeVisible();
  await page.getByLabel("Strands").selectOption({ label: "finest, class 6" });
  await page.getByLabel("held on both sides of it").check();
  await expect(verdicts.getByText(/which strands cross the joint/)).toHaveCount(0);
  await page.getByLabel("Contacts a pole").fill("two and a half");
  await page.keyboard.press("Tab");
  await expect(page.getByRole("alert").first()).toBeVisible();
  await expect(page.getByLabel("Contacts a pole")).toHaveValue("two and a half");
});

test("shorts stand by danger, in a chosen state, bolted or not, with crossed wires below", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "feeds");
  await walked(page);
  await page.getByRole("tab", { name: "Short circuits" }).click();
  const rows = page.getByRole("table", { name: "Shorts by danger" }).getByRole("row");
  await expect(rows.nth(1)).toContainText("wire burns");
  await expect(rows.filter({ hasText: "Bar P1" }).first()).toContainText("fuse may burst");
  const count = await rows.count();
  await page.getByLabel("Short", { exact: true }).selectOption("resistive");
  await expect(rows).toHaveCount(count);
  await page.getByLabel("In", { exact: true }).selectOption({ label: "Stopped" });
  await expect(rows.filter({ hasText: "Cutter driver" })).toHaveCount(0);
  await expect(
    page
      .getByRole("region", { name: "Two rails joined" })
      .getByText(/die|dies/)
      .first(),
  ).toBeVisible();
  await expect(page.getByRole("region", { name: "Plus and minus swapped" }).getByText("Cutter driver")).toBeVisible();
  await rows.filter({ hasText: "Bar P0" }).first().getByRole("button").first().click();
  await page.getByRole("tab", { name: "Ledger", exact: true }).click();
  await expect(page.locator('tr[data-row="bar-p0"]')).toHaveAttribute("aria-selected", "true");
});

test("everything is sized, taken line by line or whole, and one undo takes it back", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  const before = (await app.document(id)).document as Machine;
  await page.getByRole("tab", { name: "Size everything" }).click();
  const list = page.getByRole("table", { name: "Changes, before and after" });
  await expect(list).toBeVisible();
  const lines = (await list.getByRole("row").count()) - 1;
  expect(lines).toBeGreaterThan(10);
  await accessible(page, "main");
  await list.getByRole("checkbox", { name: /Feed of Buck 5 V/ }).uncheck();
  await page.getByRole("button", { name: `Take ${lines - 1} of ${lines}` }).click();
  await saved(page);
  const sized = (await app.document(id)).document as Machine;
  expect(wireTo(sized, "buck-5")).toEqual(wireTo(before, "buck-5"));
  expect(wireTo(sized, "drive-cutter")?.gauge).not.toBe(wireTo(before, "drive-cutter")?.gauge);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await saved(page);
  expect(((await app.document(id)).document as Machine).wires).toEqual(before.wires);
});

test("one feed is sized from the ledger, what is pinned stays, and only what is at hand is taken", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  await page.locator('tr[data-row="drive-cutter"] button').first().click();
  await page.getByRole("button", { name: "Size this with its fuse and plugs" }).click();
  await expect(page.getByText(/Sizes the feed of/)).toBeVisible();
  const list = page.getByRole("table", { name: "Changes, before and after" });
  await expect(list.getByRole("row")).toHaveCount(2);
  await expect(list.getByText("Feed of Cutter driver")).toBeVisible();
  await page.getByText("Use what I have").click();
  await page.getByRole("group", { name: "Wire sizes" }).getByLabel("12 AWG", { exact: true }).check();
  await expect(list.getByText(/^12 AWG/).first()).toBeVisible();
  await page.getByRole("button", { name: "Take all of it" }).click();
  await saved(page);
  expect(wireTo((await app.document(id)).document as Machine, "drive-cutter")?.gauge).toBe("12 AWG");
  await page.getByRole("button", { name: "Put what is ticked on the shelf" }).click();
  await expect(page.getByText("On the shelf, for all your machines")).toBeVisible();
  const other = await app.create({ kind: "example", key: "reedcutter-corrected" });
  await page.goto(`${app.url}/m/${other}/feeds`);
  await page.getByRole("tab", { name: "Size everything" }).click();
  await page.getByText("Use what I have").click();
  await page.getByRole("button", { name: "Take what lies on the shelf (1 size)" }).click();
  await expect(page.getByText(": only 1 size")).toBeVisible();
  await saved(page);
  expect(((await app.document(other)).document as Machine).settings.stock).toEqual({ gauges: ["12 AWG"] });
});

test("schools, contacts and the stop are settings that change verdicts", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "reedcutter-corrected" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  const verdicts = page.getByRole("complementary", { name: "Verdicts" });
  await page.getByRole("button", { name: "Settings", exact: true }).click();
  await page.getByLabel("Wire current").selectOption({ label: "Building-wire table" });
  await expect(page.getByText(/long enclosed runs that nobody watches/)).toBeVisible();
  await accessible(page, '[role="dialog"]');
  await page.keyboard.press("Escape");
  await expect(verdicts.getByText(/not protect|too thin/).first()).toBeVisible();
  await page.keyboard.press("Control+z");
  await expect(verdicts.getByText(/not protect|too thin/)).toHaveCount(0);
  await page.locator('tr[data-row="stop"] button').first().click();
  await page.getByLabel("reset is a button of its own").uncheck();
  await expect(verdicts.getByText(/releasing the button lets the machine go again/)).toBeVisible();
  await page.getByRole("tab", { name: "Plugs and contacts" }).click();
  await expect(page.getByRole("region", { name: "Emergency stop" }).getByText("Stop contactor")).toBeVisible();
  await expect(page.getByRole("region", { name: "Contacts" }).getByText(/to fill, peak/)).toBeVisible();
});
