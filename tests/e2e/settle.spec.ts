import type { Page } from "@playwright/test";
import type { App } from "../support/app";
import { accessible, analysed, expect, saved, test } from "./app";

const verdicts = (page: Page) => page.getByRole("complementary", { name: "Verdicts" });
const settled = (page: Page) => expect(page.getByRole("button", { name: /^Take all/ })).toBeEnabled();

/** A new Reedcutter, opened at its feeds. */
async function reedcutterFeeds(page: Page, app: App): Promise<string> {
  const id = await app.create({ kind: "example", key: "reedcutter" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  return id;
}

test("what settles a plan is looked for at once, and taken one by one or whole, one undo each", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "carillon" });
  await page.goto(`${app.url}/m/${id}/settle`);
  await settled(page);
  const doThis = page.getByRole("region", { name: "Do this" });
  await expect(page.getByText(/changes settle 12 of 13 Stops and Fixes/)).toBeVisible();
  const rows = doThis.getByRole("button", { name: /^Take: / });
  const before = await rows.count();
  expect(before).toBeGreaterThan(2);
  await accessible(page, "main");
  const wires = (await app.document(id)).document.wires;
  await rows.first().click();
  await expect(rows).toHaveCount(before - 1);
  await saved(page);
  expect((await app.document(id)).document.wires).not.toEqual(wires);
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await saved(page);
  expect((await app.document(id)).document.wires).toEqual(wires);
  await settled(page);
  const count = await rows.count();
  await page.getByRole("button", { name: /^Take all/ }).click();
  await expect(verdicts(page).getByRole("button", { name: /^0 Stop/ })).toBeVisible();
  await expect(page.getByRole("heading", { name: /Then only you can decide/ })).toBeVisible();
  await expect(page.getByRole("main").getByText(/A stronger source, starts one after the other/)).toBeVisible();
  for (let i = 0; i < count; i++) await page.getByRole("button", { name: "Undo", exact: true }).click();
  await saved(page);
  expect((await app.document(id)).document.wires).toEqual(wires);
});

test("Settle and the causes are accessible in both themes, wide and narrow", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "carillon" });
  for (const [width, theme] of [
    [1280, "light"],
    [390, "dark"],
  ] as const) {
    await page.setViewportSize({ width, height: 844 });
    await page.emulateMedia({ colorScheme: theme });
    await page.goto(`${app.url}/m/${id}/settle`);
    await settled(page);
    await accessible(page, "body");
    expect(await page.evaluate(() => document.documentElement.scrollWidth - window.innerWidth)).toBeLessThanOrEqual(0);
  }
});

test("a Stop is accepted only with a reason, stands struck through, and is opened again", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "carillon" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  const stops = verdicts(page).getByRole("button", { name: /Stop: show only these/ });
  const open = async () => Number(/^\d+/.exec((await stops.getAttribute("aria-label")) ?? "")?.[0]);
  const before = await open();
  await verdicts(page).getByRole("button", { name: "Accept or put off…" }).first().click();
  const dialog = page.getByRole("dialog");
  await accessible(page, '[role="dialog"]');
  await dialog.getByRole("button", { name: "Accept it" }).click();
  await expect(dialog.getByRole("alert")).toContainText("only with a reason");
  await dialog.getByLabel("Reason").fill("bench rig, watched, pulled from the wall by hand");
  await page.keyboard.press("Enter");
  await expect(dialog).toHaveCount(0);
  const decided = page.getByRole("region", { name: "Accepted or put off" });
  await expect(decided).toContainText("bench rig, watched");
  expect(await open()).toBe(before - 6);
  await saved(page);
  expect((await app.document(id)).document.decisions).toHaveLength(6);
  await page.keyboard.press("7");
  await page.waitForURL(/sheet/);
  await expect(page.getByRole("table", { name: "Accepted or put off" }).last()).toContainText("pulled from the wall by hand");
  for (let i = 0; i < 6; i++) await decided.getByRole("button", { name: "Open it again" }).first().click();
  await expect(decided).toHaveCount(0);
  await saved(page);
  expect((await app.document(id)).document.decisions).toBeUndefined();
});

test("the worst problem is found, understood, cured and undone in a few keystrokes, and the next is one key away", async ({
  page,
  app,
}) => {
  const id = await reedcutterFeeds(page, app);
  const first = verdicts(page).locator("[data-cause]").first();
  await expect(first.locator("[data-remedy]").first()).toBeEnabled();
  const headline = (await first.locator("[data-headline]").textContent()) ?? "";
  const wires = (await app.document(id)).document.wires;
  const keys: string[] = [];
  const press = async (key: string) => {
    keys.push(key);
    await page.keyboard.press(key);
  };
  await press("n");
  await expect(first.locator("[data-headline]")).toBeFocused();
  await press("g");
  await expect(page.locator('tr[aria-selected="true"]')).toBeInViewport();
  await press("n");
  await press("p");
  await press("r");
  await expect(first.locator("[data-remedy]").first()).toBeFocused();
  await press("Enter");
  await expect(verdicts(page).getByRole("status").filter({ hasText: "Done:" })).toBeVisible();
  await expect(verdicts(page).getByText(headline, { exact: true })).toHaveCount(0);
  await expect.poll(() => page.evaluate(() => document.activeElement?.closest("[data-cause]") !== null)).toBe(true);
  await press("Control+z");
  await expect(verdicts(page).getByText(headline, { exact: true })).toBeVisible();
  await saved(page);
  expect((await app.document(id)).document.wires).toEqual(wires);
  expect(keys.length).toBeLessThanOrEqual(12);
});

test("steps, parts, verdicts and commands are found by name; what is chosen is in sight; every dialog gives the focus back", async ({
  page,
  app,
}) => {
  await reedcutterFeeds(page, app);
  await page.keyboard.press("Control+k");
  const menu = page.getByRole("dialog");
  await accessible(page, '[role="dialog"]');
  await page.keyboard.type("lift position");
  await page.keyboard.press("Enter");
  await expect(menu).toHaveCount(0);
  const row = page.locator('tr[data-row="lift-sense"]');
  await expect(row).toHaveAttribute("aria-selected", "true");
  const clear = async () => {
    const [box, head] = [await row.boundingBox(), await page.locator("main table thead").first().boundingBox()];
    return box !== null && head !== null && box.y >= head.y + head.height - 1;
  };
  expect(await clear()).toBe(true);
  await page.keyboard.press("5");
  await page.waitForURL(/settle/);
  const goTo = async (key: string, what: string) => {
    await page.keyboard.press(key);
    await expect(menu.getByRole("combobox")).toBeFocused();
    await page.keyboard.type(what);
    await page.keyboard.press("Enter");
  };
  await goTo("k", "step loads");
  await page.waitForURL(/loads/);
  await page.keyboard.press("3");
  await page.waitForURL(/feeds/);
  const name = page.locator('tr[data-row="pack"] button').first();
  for (const key of ["a", "m", "h", "?", "k", "x"]) {
    await name.focus();
    await page.keyboard.press(key);
    await expect(page.getByRole("dialog")).toBeVisible();
    await page.keyboard.press("Escape");
    await expect(page.getByRole("dialog")).toHaveCount(0);
    if (key !== "x") await expect(name, key).toBeFocused();
  }
  // A chosen part above the fold comes out from under the head.
  await goTo("Control+k", "part main fuse");
  const main = page.locator('tr[data-row="main-fuse"]');
  await expect(main).toHaveAttribute("aria-selected", "true");
  const [box, head] = [await main.boundingBox(), await page.locator("main table thead").first().boundingBox()];
  expect(box && head && box.y >= head.y + head.height - 1).toBe(true);
});

test("a part that is added is chosen and shown; a reload keeps what can be undone", async ({ page, app }) => {
  const id = await app.create({ kind: "example", key: "marble-lift" });
  await page.goto(`${app.url}/m/${id}/feeds`);
  await analysed(page);
  const parts = (await app.document(id)).document.parts.length;
  await page.locator("tr[data-row] button").first().click();
  await page.keyboard.press("a");
  await page.getByRole("dialog").getByLabel("Name").fill("Late lamp");
  await page.keyboard.press("Enter");
  await expect(page.getByRole("dialog")).toHaveCount(0);
  const row = page.getByRole("row").filter({ hasText: "Late lamp" });
  await expect(row).toHaveAttribute("aria-selected", "true");
  await expect(row).toBeInViewport();
  await saved(page);
  await page.reload();
  await analysed(page);
  await expect(page.getByRole("button", { name: "Undo", exact: true })).toBeEnabled();
  await page.getByRole("button", { name: "Undo", exact: true }).click();
  await expect(row).toHaveCount(0);
  await saved(page);
  expect((await app.document(id)).document.parts).toHaveLength(parts);
  await page.reload();
  await analysed(page);
  await page.getByRole("button", { name: "Redo", exact: true }).click();
  await expect(row).toHaveCount(1);
});
