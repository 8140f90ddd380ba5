import { defineConfig } from "@playwright/test";

/** Debian's Chromium, headless, without the services that would call out. */
export const CHROMIUM = {
  executablePath: "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    "--disable-gpu",
    "--disable-quic",
    "--no-first-run",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
  ],
};

export default defineConfig({
  testDir: "tests/e2e",
  outputDir: "test-results/e2e",
  workers: 2,
  // A busy two-core machine now and then delays a frame past an expectation; a second try begins with a fresh application.
  retries: process.env.CI ? 1 : 0,
  timeout: 90_000,
  expect: { timeout: 10_000 },
  reporter: [["list"], ["json"]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    acceptDownloads: true,
    contextOptions: { reducedMotion: "reduce" },
  },
});
