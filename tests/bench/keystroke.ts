import { chromium } from "@playwright/test";
import { CHROMIUM } from "../../playwright.config";
import { App } from "../support/app";

/** Keys pressed per machine; the first ones warm the page up and are not counted. */
const EDITS = 30;
const WARM_UP = 8;

/**
 * Runs in the page before the key is pressed: `took` resolves with ms from the next Enter to the end of the frame that
 * paints the new amps of the mode strip. A message posted in the frame's callback arrives once its paint is done.
 */
const MEASURE = `void (globalThis.took = new Promise((resolve) => {
  let pressed = 0;
  addEventListener("keydown", (event) => { if (event.key === "Enter") pressed = performance.now(); }, { capture: true, once: true });
  const { port1, port2 } = new MessageChannel();
  port1.onmessage = () => resolve(performance.now() - pressed);
  const watch = new MutationObserver(() => {
    watch.disconnect();
    requestAnimationFrame(() => port2.postMessage(null));
  });
  watch.observe(document.querySelector('section[aria-label="Modes"]'), { subtree: true, characterData: true, childList: true });
}))`;

/** From Enter in a load's cell until every figure on screen is new, ms, sorted. */
async function keystrokes(app: App, parts: number): Promise<number[]> {
  const id = await app.create({ kind: "import", document: app.generated(parts, 11) });
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: "reduce" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await page.locator('[data-ready="yes"]').waitFor({ state: "attached" });
  const mode = page.locator('button[aria-label$="Mode 2. Edit"]').first();
  const times: number[] = [];
  for (let i = 0; i < EDITS; i++) {
    await mode.focus();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(i % 2 === 0 ? "3.1 A" : "5.7 A");
    await page.evaluate(MEASURE);
    await page.keyboard.press("Enter");
    const took = await page.evaluate<number>("took");
    if (i >= WARM_UP) times.push(took);
    await page.locator('[data-save="saved"]').waitFor();
  }
  await browser.close();
  return times.sort((a, b) => a - b);
}

const app = new App();
await app.start();
console.log("Keystroke to repainted figures in Chromium, ms (up to one frame of waiting included).");
const p95: number[] = [];
for (const parts of [60, 200]) {
  const times = await keystrokes(app, parts);
  const at = (share: number) => times[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0;
  p95.push(at(0.95));
  console.log(`${String(parts).padStart(4)} parts: median ${at(0.5).toFixed(0)}, 95th percentile ${at(0.95).toFixed(0)}`);
}
console.log(`200 parts against 60: ${((p95[1] ?? 0) / (p95[0] ?? 1)).toFixed(2)} ×`);
await app.stop();
