import { analyse } from "@/core/analysis/analyse";
import { draftAtOnce } from "@/core/drafting/draft";
import { readList } from "@/core/drafting/read-list";
import { toJson } from "@/core/exchange/json";
import { readMachineText } from "@/core/machine/read";
import { paperOf } from "@/core/sheet/pages";
import { sheetOf } from "@/core/sheet/sheet";
import { wholeSheet } from "@/core/sheet/whole";
import { reedcutter } from "@/demo/reedcutter";
import { FORTY } from "../lists/forty";
import { App } from "../support/app";
import { generateMachine } from "../support/generate";

/** Least of several times, ms: what the code takes when the machine is left alone. */
async function least(call: () => unknown, times = 7): Promise<number> {
  let best = Number.POSITIVE_INFINITY;
  for (let i = 0; i < times; i++) {
    const start = performance.now();
    await call();
    best = Math.min(best, performance.now() - start);
  }
  return best;
}

const barge = reedcutter(false);
const options = { paper: "a4", lists: true, bringUp: true, labels: true, date: "today", revision: 1 } as const;
const { figures, analysis } = analyse(barge);
const sheet = sheetOf(figures, analysis);
const analysed = await least(() => analyse(barge));
const five = toJson(generateMachine({ parts: 500, seed: 11, meshed: true, modes: 6 }));
const rows = Array.from({ length: 2000 }, (_, i) => `Motor ${i},24,${i % 40},1`).join("\n");
const list = `name,volts,amps,qty\n${rows}`;

const forty = readList(FORTY);
console.log("\nPaper, lists and exchange (ms, and as multiples of one full analysis of Reedcutter, made in the same run):");
for (const [name, taken] of [
  ["sheet of Reedcutter, figures known", await least(() => sheetOf(figures, analysis))],
  ["its pages", await least(() => paperOf(sheet, options))],
  ["sheet and pages from the document alone", await least(() => paperOf(wholeSheet(barge).sheet, options))],
  ["a machine of 500 parts read from JSON", await least(() => readMachineText(five))],
  ["a list of 40 lines drafted and sized", await least(() => draftAtOnce(forty, { name: "Carnival float" }), 15)],
  ["a list of 2,000 loads read", await least(() => readList(list))],
] as const)
  console.log(`${name.padEnd(50)}${taken.toFixed(0).padStart(6)}${(taken / analysed).toFixed(1).padStart(8)} ×`);

const app = new App();
await app.start();
const ask = () => fetch(`${app.url}/api/machines`).then((answer) => answer.arrayBuffer());
await ask();
const empty = await least(ask, 20);
for (let i = 0; i < 500; i++) await app.create({ kind: "blank", name: `Machine ${i}` });
for (let waiting = 1; waiting > 0; ) {
  const machines = (await (await fetch(`${app.url}/api/machines`)).json()) as { overview: { kind: string } }[];
  waiting = machines.filter(({ overview }) => overview.kind === "waiting").length;
  if (waiting > 0) await new Promise((resolve) => setTimeout(resolve, 500));
}
const full = await least(ask, 20);
await app.stop();
console.log(
  `${"the list of 500 machines, asked for and read".padEnd(50)}${full.toFixed(0).padStart(6)}${(full / empty).toFixed(1).padStart(8)} × an empty one`,
);
