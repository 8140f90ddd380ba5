import { chromium } from "@playwright/test";
import { CHROMIUM } from "../../playwright.config";
import { App } from "../support/app";
import { generateMachine } from "../support/generate";

/** Keys pressed per machine; the first ones warm the page up and are not counted. */
const EDITS = 60;
const WARM_UP = 15;

/** From Enter in a load's cell to the frame after every figure on screen is new, ms, sorted. */
async function keystrokes(app: App, parts: number): Promise<number[]> {
  const id = await app.create({ kind: "import", document: generateMachine({ parts, seed: 11, meshed: true, modes: 6 }) });
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: "reduce" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await page.locator('[data-ready="yes"]').waitFor({ state: "attached" });
  const mode = page.getByRole("button", { name: /Mode 2\. Edit$/ }).first();
  const times: number[] = [];
  for (let i = 0; i < EDITS; i++) {
    await mode.focus();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(i % 2 === 0 ? "3.1 A" : "5.7 A");
    const repaint = page.evaluate(
      () =>
        new Promise<number>((resolve) => {
          const strip = document.querySelector('section[aria-label="Modes"]');
          let pressed = 0;
          const onKey = (event: KeyboardEvent) => {
            if (event.key !== "Enter") return;
            pressed = performance.now();
            window.removeEventListener("keydown", onKey, true);
          };
          window.addEventListener("keydown", onKey, true);
          const watch = new MutationObserver(() => {
            watch.disconnect();
            requestAnimationFrame(() => requestAnimationFrame(() => resolve(performance.now() - pressed)));
          });
          if (strip) watch.observe(strip, { subtree: true, characterData: true, childList: true });
        }),
    );
    await page.keyboard.press("Enter");
    const took = await repaint;
    if (i >= WARM_UP) times.push(took);
    await page.locator('[data-save="saved"]').waitFor();
  }
  await browser.close();
  return times.sort((a, b) => a - b);
}

const app = new App();
await app.start();
console.log("Keystroke to repainted figures in Chromium, ms (the repaint includes up to two frames of waiting).");
const p95: number[] = [];
for (const parts of [60, 200]) {
  const times = await keystrokes(app, parts);
  const at = (share: number) => times[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0;
  p95.push(at(0.95));
  console.log(`${String(parts).padStart(4)} parts: median ${at(0.5).toFixed(0)}, 95th percentile ${at(0.95).toFixed(0)}`);
}
console.log(`200 parts against 60: ${((p95[1] ?? 0) / (p95[0] ?? 1)).toFixed(2)} ×`);
await app.stop();
