import { test as base, expect, type Page } from "@playwright/test";
import axe, { type Result } from "axe-core";
import { App } from "../support/app";

/** One application a file; every page fails its test on a console error. */
export const test = base.extend<{ page: Page; emptied: undefined }, { app: App }>({
  app: [
    async ({ browserName }, use) => {
      expect(browserName).toBe("chromium");
      const app = new App();
      await app.start();
      await app.seed();
      await use(app);
      await app.stop();
    },
    { scope: "worker" },
  ],
  emptied: [
    async ({ app }, use) => {
      await use(undefined);
      await app.clear();
    },
    { auto: true },
  ],
  page: async ({ page }, use) => {
    const errors: string[] = [];
    page.on("console", (message) => {
      if (message.type() === "error") errors.push(message.text());
    });
    page.on("pageerror", (error) => errors.push(error.message));
    await use(page);
    // A refused or unreachable request is the subject of some tests; the browser logs those itself,
    // a worker that was about to start among them.
    expect(errors.filter((text) => !/Failed to load resource|net::ERR|importScripts/.test(text))).toEqual([]);
  },
});

export async function openMachine(page: Page, app: App, name: string, step: string): Promise<string> {
  const id = app.example(name);
  await page.goto(`${app.url}/m/${id}/${step}`);
  await analysed(page);
  return id;
}

/** Waits until the figures on the screen are those of the plan. */
export async function analysed(page: Page): Promise<void> {
  await expect(page.locator('[data-ready="yes"]')).toBeAttached();
}

export async function saved(page: Page): Promise<void> {
  await expect(page.locator('[data-save="saved"]')).toBeVisible();
}

/** What axe found wrong, each with the first places. */
async function violations(page: Page, within: string | null, rules: string[] | null): Promise<string[]> {
  // Asked directly, and only for what is wrong: a page that has the script keeps it, warm, for the next question.
  if (!(await page.evaluate(() => "axe" in globalThis))) await page.evaluate(axe.source);
  const found = await page.evaluate(
    async ({ within, rules }) => {
      const { axe } = globalThis as unknown as { axe: Pick<typeof import("axe-core"), "run"> };
      // Rows beyond the first are built by the same code, and looking at each contrast of a long table takes seconds.
      const context = { include: within ?? document, exclude: "tbody tr:nth-child(n+9)" };
      return axe.run(context, { resultTypes: ["violations"], ...(rules && { runOnly: rules }) });
    },
    { within, rules },
  );
  const places = ({ nodes }: Result) => nodes.map(({ target }) => target.join(" ")).slice(0, 3);
  return found.violations.map((violation) => `${violation.id}: ${places(violation).join(" | ")}`);
}

/** No accessibility violation that axe can find, on the page or in one part of it (the rest is covered by its own test). */
export async function accessible(page: Page, within: string | null = null): Promise<void> {
  expect(await violations(page, within, null)).toEqual([]);
}

/** The same in the other theme too: themes differ in colours alone, so the dark one is asked for its contrasts. */
export async function accessibleInBothThemes(page: Page, within: string | null = null): Promise<void> {
  await accessible(page, within);
  await page.getByRole("button", { name: "Dark theme" }).click();
  await expect(page.locator("html")).toHaveClass(/dark/);
  expect(await violations(page, within, ["color-contrast", "link-in-text-block"])).toEqual([]);
  await page.getByRole("button", { name: "Light theme" }).click();
  await expect(page.locator("html")).not.toHaveClass(/dark/);
}

export { expect };
