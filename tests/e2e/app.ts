import { AxeBuilder } from "@axe-core/playwright";
import { test as base, expect, type Page } from "@playwright/test";
import { App } from "../support/app";

/** One application a file; every page fails its test on a console error. */
export const test = base.extend<{ page: Page }, { app: App }>({
  app: [
    async ({ browserName }, use) => {
      expect(browserName).toBe("chromium");
      const app = new App();
      app.seed();
      await app.start();
      await use(app);
      await app.stop();
    },
    { scope: "worker" },
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
  const list = (await (await fetch(`${app.url}/api/machines`)).json()) as { id: string; name: string }[];
  const id = list.find((each) => each.name === name)?.id ?? "";
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

/**
 * No accessibility violation that axe can find, on the page or in one part of it (the rest is covered by its own test). Themes
 * differ in colours alone: what is asked of the light one whole is asked of the dark one by its contrasts.
 */
export async function accessible(page: Page, within?: string): Promise<void> {
  // The application has no frames: asked in one piece, and only for what is wrong, axe is three times as fast.
  const builder = new AxeBuilder({ page }).setLegacyMode().options({ resultTypes: ["violations"] });
  if (await page.evaluate(() => document.documentElement.classList.contains("dark")))
    builder.withRules(["color-contrast", "link-in-text-block"]);
  const { violations } = await (within ? builder.include(within) : builder).analyze();
  expect(
    violations.map(
      ({ id, nodes }) =>
        `${id}: ${nodes
          .map((node) => node.target.join(" "))
          .slice(0, 3)
          .join(" | ")}`,
    ),
  ).toEqual([]);
}

export { expect };
