import type { Page } from "@playwright/test";
import { accessible, expect, openMachine, test } from "./app";

const STEPS = ["loads", "sources", "feeds", "returns", "settle", "bring-up", "sheet"] as const;

/** How much wider the page is than the screen, px. */
const overhang = (page: Page) => page.evaluate(() => document.documentElement.scrollWidth - document.documentElement.clientWidth);

for (const [width, height] of [
  [360, 740],
  [820, 1180],
  [640, 400],
] as const)
  test(`every step at ${width} by ${height}: no sideways page, one pane at a time`, async ({ page, app }) => {
    await page.setViewportSize({ width, height });
    await openMachine(page, app, "Marble lift", "feeds");
    const panes = page.getByRole("navigation", { name: "Panes" });
    for (const step of STEPS) {
      await page
        .getByRole("navigation", { name: "Steps" })
        .getByRole("link", { name: new RegExp(`^${step}`, "i") })
        .click();
      await expect(page.getByRole("main")).toBeVisible();
      expect(await overhang(page), step).toBeLessThanOrEqual(0);
      await expect(page.getByRole("complementary", { name: "Verdicts" })).toBeHidden();
    }
    await panes.getByRole("button", { name: /^Verdicts/ }).click();
    await expect(page.getByRole("main")).toBeHidden();
    await expect(page.locator("[data-headline]").first()).toBeVisible();
    expect(await overhang(page)).toBeLessThanOrEqual(0);
    await accessible(page);
  });

test("on a phone a row opens its account, a verdict its row, and dialogs take the whole screen", async ({ page, app }) => {
  await page.setViewportSize({ width: 390, height: 844 });
  await openMachine(page, app, "Marble lift", "feeds");
  await page
    .getByRole("list", { name: "Ledger of feeds" })
    .getByRole("button", { name: /Small bridge/ })
    .click();
  await expect(page.getByRole("region", { name: "Small bridge, account" })).toBeVisible();
  await expect(page.getByRole("list", { name: "Ledger of feeds" })).toBeHidden();
  await accessible(page);
  await page
    .getByRole("navigation", { name: "Panes" })
    .getByRole("button", { name: /^Verdicts/ })
    .click();
  await page.locator("[data-headline]").first().click();
  await expect(page.getByRole("complementary", { name: "Verdicts" })).toBeHidden();
  await page.getByRole("button", { name: "More" }).click();
  await page.getByRole("menuitem", { name: "Settings" }).click();
  const box = await page.getByRole("dialog").boundingBox();
  expect(box).toEqual({ x: 0, y: 0, width: 390, height: 844 });
  await page.keyboard.press("Escape");
});

test("pages beside the workbench fit 360 px", async ({ page, app }) => {
  await page.setViewportSize({ width: 360, height: 740 });
  for (const path of ["/", "/new", "/new?way=kind", "/new?way=example", "/words", "/shelf"]) {
    await page.goto(app.url + path);
    await expect(page.getByRole("heading", { level: 1 })).toBeVisible();
    expect(await overhang(page), path).toBeLessThanOrEqual(0);
    await accessible(page);
  }
});

for (const width of [390, 820, 1024])
  test(`what was understood of a list is not cut off at ${width}`, async ({ page, app }) => {
    await page.setViewportSize({ width, height: 900 });
    await page.goto(`${app.url}/new`);
    await page
      .getByRole("textbox", { name: /What is in the machine/ })
      .fill("4 gearmotors 24 V 250 W, rated 13.4 A\nservo 6 V, stall 2.5 A x 10");
    const understood = page.getByRole("region", { name: "Understood" });
    await expect(understood.getByText("Servo", { exact: true })).toBeVisible();
    const beyond = await understood
      .locator("*")
      .evaluateAll((all) =>
        all.filter((each) => each.getBoundingClientRect().right > innerWidth + 1).map(({ textContent }) => textContent),
      );
    expect(beyond).toEqual([]);
  });

test("above 1,600 px a name and its figures stay together", async ({ page, app }) => {
  await page.setViewportSize({ width: 2560, height: 1200 });
  await openMachine(page, app, "Marble lift", "feeds");
  const table = await page.getByRole("table", { name: /Ledger of feeds/ }).boundingBox();
  expect(table?.width ?? 0).toBeLessThan(1500);
});

test.describe("fingers", () => {
  test.use({ hasTouch: true, viewport: { width: 390, height: 844 }, isMobile: true });

  test("what is touched is 44 px high", async ({ page, app }) => {
    await openMachine(page, app, "Marble lift", "feeds");
    const low = await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>("button:not(.term), nav a, select")]
        .filter((each) => each.offsetParent !== null && each.getBoundingClientRect().height < 43.5)
        .map((each) => each.textContent ?? ""),
    );
    expect(low).toEqual([]);
  });
});
