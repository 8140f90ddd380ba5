import { readFileSync } from "node:fs";
import type { Page } from "@playwright/test";
import type { Machine } from "@/core/machine/schema";
import type { App } from "../support/app";
import { accessible, accessibleInBothThemes, analysed, expect, openMachine, saved, test } from "./app";

const VIEWS = ["Flow", "Offsets", "Signals and loops", "Conductors", "Arrangements", "Chassis and noise"];

async function fresh(page: Page, app: App, key = "reedcutter"): Promise<string> {
  const id = await app.create({ kind: "example", key });
  await page.goto(`${app.url}/m/${id}/returns`);
  await analysed(page);
  return id;
}

const landsOn = async (app: App, id: string, part: string) =>
  ((await app.document(id)).document as Machine).wires.find(({ role, from }) => role === "return" && from.part === part)?.to.part;
const verdicts = (page: Page) => page.getByRole("complementary", { name: "Verdicts" });
const boxOf = (page: Page, name: string) =>
  page.getByRole("region", { name: "Flow picture" }).getByRole("button", { name: new RegExp(`^${name},`) });

test("every view of the returns is accessible in both themes", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "returns");
  await page.locator("tr[data-row] button").nth(3).click();
  for (const view of VIEWS) {
    await page.getByRole("tab", { name: view }).click();
    await expect(page.getByRole("tabpanel").getByRole("table").first()).toBeVisible();
    await accessibleInBothThemes(page, view === VIEWS[0] ? null : "main");
  }
});

test("the picture says which returns share metal, what they do to the controller, and follows its amps", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "returns");
  await page
    .getByRole("region", { name: "Modes" })
    .getByRole("button", { name: /^Cruise/ })
    .click();
  const picture = page.getByRole("region", { name: "Flow picture" });
  await expect(picture.getByRole("listitem").first()).toHaveText(
    /Shared metal: 1\.6\s?m of 14 AWG carries Cutter bar.*Controller’s ground: \+0\.\d+\s?V now/,
  );
  const faded = () => picture.locator('svg [opacity="0.25"]').count();
  await boxOf(page, "Controller").hover();
  expect(await faded()).toBeGreaterThan(20);
  await picture.getByRole("button", { name: /^Bar N2,/ }).focus();
  const byBar = await faded();
  await boxOf(page, "Paddle left").focus();
  expect(await faded()).toBeGreaterThan(byBar);
  // Selection is shared with the tables.
  await boxOf(page, "Computer").click();
  await page.getByRole("tab", { name: "Offsets" }).click();
  await expect(page.locator('tr[data-row="computer"]').first()).toHaveAttribute("aria-selected", "true");
});

test("a return is landed elsewhere by keyboard in the picture, and undone", async ({ page, app }) => {
  const id = await fresh(page, app);
  await boxOf(page, "Controller").focus();
  await page.keyboard.press("Space");
  const told = page.locator('[id^="DndLiveRegion"]');
  await expect(told).toContainText("Over");
  for (let i = 0; i < 40; i++) {
    const now = (await told.textContent()) ?? "";
    if (now === "Over Bar N1") break;
    await page.keyboard.press("ArrowRight");
    await expect(told).not.toHaveText(now);
  }
  await page.keyboard.press("Space");
  await saved(page);
  expect(await landsOn(app, id, "controller")).toBe("bar-n1");
  await expect(verdicts(page).getByText(/^Controller's ground rides on/)).toHaveCount(0);
  await page.keyboard.press("Control+z");
  await verdicts(page).getByLabel("Find in verdicts").fill("rides on");
  await expect(verdicts(page).getByText(/^Controller's ground rides on/)).toBeVisible();
});

test("a return is dragged onto a bar, and picked from the list", async ({ page, app }) => {
  const id = await fresh(page, app);
  const box = await boxOf(page, "Conveyor").boundingBox();
  const picture = await page.getByRole("region", { name: "Flow picture" }).boundingBox();
  if (!box || !picture) throw new Error("no picture");
  const label = await page.getByRole("region", { name: "Flow picture" }).getByText("Bar N1", { exact: true }).boundingBox();
  if (!label) throw new Error("no bar");
  await page.mouse.move(box.x + box.width / 2, box.y + 20);
  await page.mouse.down();
  await page.mouse.move(box.x + box.width / 2, box.y + 60, { steps: 4 });
  await page.mouse.move(label.x + label.width / 2, label.y - 40, { steps: 8 });
  await expect(page.locator('[id^="DndLiveRegion"]')).toHaveText("Over Bar N1");
  await page.mouse.up();
  await saved(page);
  await expect.poll(() => landsOn(app, id, "drive-conveyor")).toBe("bar-n1");
  await boxOf(page, "Conveyor").click();
  const list = page.getByLabel("Conveyor lands on");
  await list.focus();
  await list.selectOption({ label: "Bar N2" });
  await saved(page);
  await expect.poll(() => landsOn(app, id, "drive-conveyor")).toBe("bar-n2");
});

test("the picture is saved as an SVG document of the chosen mode", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "returns");
  const download = page.waitForEvent("download");
  await page.getByRole("button", { name: "Save as SVG" }).click();
  const text = readFileSync(await (await download).path(), "utf8");
  expect(text).toContain("<svg");
  expect(text).toContain("Controller");
});

test("a link is added, told its levels, given a ground wire, judged, and cured", async ({ page, app }) => {
  const id = await fresh(page, app, "reedcutter-corrected");
  await page.getByRole("tab", { name: "Signals and loops" }).click();
  await page.getByRole("button", { name: "Add a link" }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("From").selectOption({ label: "Camera" });
  await dialog.getByLabel("To", { exact: true }).selectOption({ label: "Camera" });
  await dialog.getByRole("button", { name: "Add the link" }).click();
  await expect(dialog.getByRole("alert")).toContainText("another board");
  await dialog.getByLabel("To", { exact: true }).selectOption({ label: "Cutter driver" });
  await accessible(page, '[role="dialog"]');
  await dialog.getByRole("button", { name: "Add the link" }).click();
  await expect(verdicts(page).getByText(/Camera → Cutter driver: the levels its sender gives/)).toBeVisible();
  const pane = page.getByRole("complementary", { name: "The chosen link" });
  await pane.getByLabel("Sender gives").selectOption({ label: "5 V TTL" });
  await pane.getByLabel("Receiver reads").selectOption({ label: "5 V TTL" });
  await expect(verdicts(page).getByText(/Camera → Cutter driver: grounds/)).toBeVisible();
  await pane.getByLabel("a ground wire of its own").check();
  await pane.getByLabel("Ground wire, size").fill("thin");
  await page.keyboard.press("Enter");
  await expect(pane.getByRole("alert")).toBeVisible();
  await expect(pane.getByLabel("Ground wire, size")).toHaveValue("thin");
  await pane.getByLabel("Ground wire, size").fill("26awg");
  await page.keyboard.press("Enter");
  await pane.getByLabel("Ground wire, length").fill("2 m");
  await page.keyboard.press("Enter");
  const grounds = page.getByRole("table", { name: "Signal grounds" });
  await expect(grounds.getByText("yes: a loop")).toBeVisible();
  await expect(
    page
      .getByRole("table", { name: "What a loose return does" })
      .getByText(/through the signal ground/)
      .first(),
  ).toBeVisible();
  await verdicts(page).getByRole("button", { name: "Isolate the link" }).first().click();
  await expect(grounds).toHaveCount(0);
  await saved(page);
  const { signals } = (await app.document(id)).document as Machine;
  expect(signals?.at(-1)).toMatchObject({ from: "camera", to: "drive-cutter", kind: "opto" });
});

test("an offset opens its working, conductor by conductor", async ({ page, app }) => {
  await openMachine(page, app, "Reedcutter", "returns");
  await page.getByRole("tab", { name: "Offsets" }).click();
  await page.getByRole("button", { name: /^Ground of Controller in Cruise/ }).click();
  const card = page.getByRole("dialog");
  await expect(card).toContainText("Σ I · R along the way home");
  await expect(card).toContainText("link from Bar N2 to Bar N1");
});

test("arrangements are compared, taken as one step and undone as one; a school changes what is said", async ({ page, app }) => {
  const id = await fresh(page, app);
  const before = (await app.document(id)).document;
  await page.getByRole("tab", { name: "Arrangements" }).click();
  const table = page.getByRole("table", { name: "Arrangements compared" });
  await expect(table.getByRole("row")).toHaveCount(5);
  await expect(page.getByRole("table", { name: "Logic supply compared" })).toBeVisible();
  await page.getByRole("button", { name: "Take Single point" }).click();
  await saved(page);
  expect(await landsOn(app, id, "controller")).toBe("buck-5");
  expect(await landsOn(app, id, "drive-cutter")).toBe("bar-n1");
  await page.keyboard.press("Control+z");
  await saved(page);
  await expect.poll(async () => (await app.document(id)).document).toEqual(before);
  await page.getByLabel("Returns", { exact: true }).selectOption({ label: "joined at one point" });
  await expect(verdicts(page).getByText("Power and logic come home together")).toBeVisible();
  await page.getByLabel("Steady offset may use").fill("nothing");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("alert").first()).toBeVisible();
});

test("a frame is added and bonded, and a slipped tool is told by what ends it", async ({ page, app }) => {
  await fresh(page, app, "marble-lift-corrected");
  await page.getByRole("tab", { name: "Chassis and noise" }).click();
  await page.getByRole("button", { name: "Add a frame" }).click();
  await page.getByRole("button", { name: "Add a bond" }).click();
  const dialog = page.getByRole("dialog");
  await accessible(page, '[role="dialog"]');
  await dialog.getByLabel("At").selectOption({ label: "Minus strip" });
  await dialog.getByLabel("Length, one way").fill("10 cm");
  await dialog.getByLabel("Conductor").fill("22awg");
  await dialog.getByRole("button", { name: "Add the bond" }).click();
  const slips = page.getByRole("table", { name: /A tool slipped/ });
  await expect(slips.getByRole("row", { name: /Plus strip/ })).toContainText("A");
  await page.getByRole("button", { name: "Add a bond" }).click();
  await dialog.getByLabel("By").selectOption({ label: "a motor or driver case" });
  await dialog.getByRole("button", { name: "Add the bond" }).click();
  await expect(verdicts(page).getByText(/Chassis is bonded twice/)).toBeVisible();
});

test("a mains-fed machine is told what this plan leaves to others", async ({ page, app }) => {
  await openMachine(page, app, "Carillon", "returns");
  await page.getByRole("tab", { name: "Chassis and noise" }).click();
  await expect(page.getByText(/local codes and licensed people/)).toBeVisible();
  await expect(
    verdicts(page)
      .getByText(/no common reference/)
      .first(),
  ).toBeVisible();
});

test("schools are chosen in the settings too, and links stand on the sheet", async ({ page, app }) => {
  await fresh(page, app, "reedcutter-corrected");
  await page.getByRole("button", { name: "Settings", exact: true }).click();
  const dialog = page.getByRole("dialog");
  await dialog.getByLabel("Chassis", { exact: true }).selectOption({ label: "floating" });
  await dialog.getByLabel("Logic supply", { exact: true }).selectOption({ label: "own pack" });
  await accessible(page, '[role="dialog"]');
  await page.keyboard.press("Escape");
  await expect(verdicts(page).getByText(/though it should float/)).toBeVisible();
  await verdicts(page).getByRole("button", { name: "A pack of its own for logic" }).click();
  await expect(page.getByRole("region", { name: "Flow picture" }).getByRole("button", { name: /^Logic pack,/ })).toBeVisible();
  await page.getByRole("link", { name: /^Sheet/ }).click();
  await page.waitForURL(/sheet/);
  await expect(page.getByRole("region", { name: "Pages" })).toContainText("Cutter driver");
});
