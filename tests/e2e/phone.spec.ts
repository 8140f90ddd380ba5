import { expect, type Page, test } from "@playwright/test";
import { App } from "../support/app";
import { accessible } from "./app";

// The phone has a door of its own: these tests start their own application.
let app: App;
let machine = "";
test.beforeAll(async () => {
  app = new App();
  await app.start(true);
  machine = await app.create({ kind: "example", key: "marble-lift-corrected" });
});
test.afterAll(() => app.stop());
test.use({ viewport: { width: 390, height: 780 } });

async function code(): Promise<string> {
  const answer = await fetch(`${app.url}/api/machines/${machine}/phones`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify({ do: "pair" }),
  });
  return ((await answer.json()) as { code: string }).code;
}

async function pair(page: Page): Promise<void> {
  await page.goto(`${app.phoneUrl}/phone?code=${await code()}`);
  await expect(page).not.toHaveURL(/code=/);
  await page.getByRole("button", { name: "Pair" }).click();
  await expect(page.locator("input[data-reading]")).toBeVisible();
}

const stored = async () =>
  ((await (await fetch(`${app.url}/api/machines/${machine}/readings`)).json()) as { log: { readings: { value: number; way: string }[] } })
    .log.readings;
const keep = async (page: Page, text: string) => {
  await page.locator("input[data-reading]").fill(text);
  await page.getByRole("button", { name: "Keep the reading" }).click();
};

test("one step a screen at 390 px: targets of 44 px and more, nothing beyond the edge, accessible", async ({ page }) => {
  await page.goto(`${app.phoneUrl}/phone`);
  await expect(page.getByRole("heading", { name: "Pair this phone" })).toBeVisible();
  await accessible(page);
  await pair(page);
  await accessible(page);
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  const small = await page.evaluate(() =>
    [...document.querySelectorAll("button, select, input, summary")]
      .filter((each) => each.getBoundingClientRect().height > 0 && each.getBoundingClientRect().height < 44)
      .map((each) => each.textContent),
  );
  expect(small).toEqual([]);
});

test("readings wait while the network sleeps, survive a reload, and arrive once", async ({ page, context }) => {
  const before = (await stored()).length;
  await pair(page);
  await keep(page, "0.01");
  await expect.poll(async () => (await stored()).length).toBe(before + 1);
  await context.setOffline(true);
  await expect(page.getByRole("heading", { name: "Fuse of Slide switch's feed" })).toBeVisible();
  await keep(page, "2");
  await page.getByRole("button", { name: "Yes, it is so" }).click();
  await expect(page.getByText("Not sent yet: 2")).toBeVisible();
  expect((await stored()).length).toBe(before + 1);
  // The page comes again while the readings of the phone still sleep: what was kept is there.
  await page.route("**/api/phone/**", (route) => route.abort());
  await context.setOffline(false);
  await page.reload();
  await expect(page.getByText("Not sent yet: 2")).toBeVisible();
  await page.unroute("**/api/phone/**");
  await expect.poll(async () => (await stored()).length).toBe(before + 3);
  await expect(page.getByText("Not sent yet")).toHaveCount(0);
  expect((await stored()).every(({ way }) => way === "phone")).toBe(true);
});

test("a code works once, and an ended pairing is a stranger's", async ({ page, browser }) => {
  const used = await code();
  await page.goto(`${app.phoneUrl}/phone?code=${used}`);
  await page.getByRole("button", { name: "Pair" }).click();
  await expect(
    page
      .locator("input[data-reading]")
      .or(page.getByRole("button", { name: "Yes, it is so" }))
      .first(),
  ).toBeVisible();
  const other = await (await browser.newContext()).newPage();
  await other.goto(`${app.phoneUrl}/phone?code=${used}`);
  await other.getByRole("button", { name: "Pair" }).click();
  await expect(other.getByText("That code is")).toContainText("wrong, was used before, or has run out");
  const { phones } = (await (await fetch(`${app.url}/api/machines/${machine}/phones`)).json()) as { phones: { id: string }[] };
  for (const { id } of phones)
    await fetch(`${app.url}/api/machines/${machine}/phones`, {
      method: "POST",
      headers: { "Content-Type": "application/json" },
      body: JSON.stringify({ do: "end", phone: id }),
    });
  await page.reload();
  await expect(page.getByRole("heading", { name: "Pair this phone" })).toBeVisible();
});
