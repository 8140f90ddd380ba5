import { chromium } from "@playwright/test";
import { CHROMIUM } from "../../playwright.config";
import { App } from "../support/app";

/** Keys pressed per machine; the first ones warm the page up and are not counted. */
const EDITS = 60;
const WARM_UP = 12;

/**
 * Runs in the page before the key is pressed: `took` resolves with ms from the next Enter to the end of the frame that
 * paints the next change of an element. A message posted in the frame's callback arrives once its paint is done.
 */
const MEASURE = (selector: string) => `void (globalThis.took = new Promise((resolve) => {
  let pressed = 0;
  addEventListener("keydown", (event) => { if (event.key === "Enter") pressed = performance.now(); }, { capture: true, once: true });
  const { port1, port2 } = new MessageChannel();
  port1.onmessage = () => resolve(performance.now() - pressed);
  const watch = new MutationObserver(() => {
    watch.disconnect();
    requestAnimationFrame(() => port2.postMessage(null));
  });
  watch.observe(document.querySelector('${selector}'), { subtree: true, characterData: true, childList: true });
}))`;

/** What any page pays here: a key that only writes one text into the open application, no code of ours. */
const BARE = `document.body.insertAdjacentHTML("beforeend", '<button id="bare" style="position:fixed;inset:0 auto auto 0">0</button>');
  document.querySelector("#bare").addEventListener("keydown", (event) => { event.preventDefault(); event.stopPropagation(); event.currentTarget.textContent = String(Math.random()); });`;

/** The same arithmetic every time: how evenly this machine runs at all. */
const LOOP = `(() => {
  const start = performance.now();
  for (let i = 0, x = 0; i < 2e6; i++) x += i % 7;
  return performance.now() - start;
})()`;

interface Times {
  edit: number[];
  bare: number[];
  loop: number[];
}

/** From Enter in a load's cell until every figure on screen is new and what a bare change costs, ms, sorted. */
async function keystrokes(app: App, document: unknown): Promise<Times> {
  const id = await app.create({ kind: "import", document });
  const browser = await chromium.launch(CHROMIUM);
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, reducedMotion: "reduce" });
  await page.goto(`${app.url}/m/${id}/loads`);
  await page.locator('[data-ready="yes"]').waitFor({ state: "attached" });
  const mode = page.locator('button[aria-label$="Mode 2. Edit"]').first();
  const edit: number[] = [];
  const bare: number[] = [];
  const loop: number[] = [];
  await page.evaluate(BARE);
  for (let i = 0; i < EDITS; i++) {
    await mode.focus();
    await page.keyboard.press("F2");
    await page.keyboard.press("Control+a");
    await page.keyboard.type(i % 2 === 0 ? "3.1 A" : "5.7 A");
    await page.evaluate(MEASURE('section[aria-label="Modes"]'));
    await page.keyboard.press("Enter");
    if (i >= WARM_UP) edit.push(await page.evaluate<number>("took"));
    await page.locator('[data-save="saved"]').waitFor();
    await page.locator("#bare").focus();
    await page.evaluate(MEASURE("#bare"));
    await page.keyboard.press("Enter");
    if (i >= WARM_UP) bare.push(await page.evaluate<number>("took"));
    if (i >= WARM_UP) loop.push(await page.evaluate<number>(LOOP));
  }
  await browser.close();
  for (const times of [edit, bare, loop]) times.sort((a, b) => a - b);
  return { edit, bare, loop };
}

const app = new App();
await app.start();
console.log("Keystroke to repainted figures in Chromium, ms (up to one frame of waiting included), against a bare text change.");
const at = (times: readonly number[], share: number) => times[Math.min(times.length - 1, Math.floor(times.length * share))] ?? 0;
/** A machine of forty loads in twelve modes, with drivers that chop and limit. */
function fortyLoads(): unknown {
  for (let parts = 60; ; parts += 2) {
    const document = app.generated(parts, 11, 12, true);
    if (document.parts.filter(({ kind }) => kind === "load").length >= 40) return document;
  }
}

const MACHINES: readonly [string, () => unknown][] = [
  ["40 loads, 12 modes", fortyLoads],
  ["60 parts", () => app.generated(60, 11)],
  ["200 parts", () => app.generated(200, 11)],
  ["500 parts", () => app.generated(500, 11)],
];
for (const [name, make] of MACHINES) {
  const { edit, bare, loop } = await keystrokes(app, make());
  const words = (times: readonly number[]) => `median ${at(times, 0.5).toFixed(0)}, 95th percentile ${at(times, 0.95).toFixed(0)}`;
  const ratio = (at(edit, 0.5) / at(bare, 0.5)).toFixed(1);
  console.log(`${name.padStart(18)}: ${words(edit)}; bare ${words(bare)}; medians ${ratio} ×; a fixed loop ${words(loop)}`);
}
await app.stop();
