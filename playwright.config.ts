import { defineConfig } from "@playwright/test";

/**
 * What Playwright switches off in the browser, and the pages that it draws for its own address bar: nobody sees those without a
 * window, and they cost as much processor as a page of the application does, for every test. A second list replaces the first.
 */
const WITHOUT = [
  "AvoidUnnecessaryBeforeUnloadCheckSync",
  "DestroyProfileOnBrowserClose",
  "HttpsUpgrades",
  "HttpsFirstBalancedModeAutoEnable",
  "LensOverlay",
  "MediaRouter",
  "PaintHolding",
  "ThirdPartyStoragePartitioning",
  "AvoidCorsURLLoaderRestartOnRedirect",
  "OptimizationHints",
  "NetworkTimeServiceQuerying",
  "AimEnabled",
  "PreconnectToSearch",
  "WebUIOmniboxPopup",
  "WebUIOmniboxAimPopup",
  "WebUIOmniboxFullPopup",
];

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
    `--disable-features=${WITHOUT.join(",")}`,
  ],
};

export default defineConfig({
  testDir: "tests/e2e",
  outputDir: "test-results/e2e",
  workers: 2,
  // A busy two-core machine now and then delays a frame past an expectation; a second try begins with a fresh application.
  // Limits only end what hangs: on a shared machine a test has been seen to take four times what it takes on a quiet one.
  retries: process.env.CI ? 1 : 0,
  timeout: 300_000,
  expect: { timeout: 60_000 },
  reporter: [["list"], ["json"]],
  use: {
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    acceptDownloads: true,
    contextOptions: { reducedMotion: "reduce" },
  },
});
