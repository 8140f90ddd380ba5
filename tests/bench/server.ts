import { readFileSync } from "node:fs";
import { applyCommand } from "@/core/machine/apply";
import type { Command } from "@/core/machine/commands";
import type { Machine } from "@/core/machine/schema";
import { marbleLift } from "@/demo/marble-lift";
import { reedcutter } from "@/demo/reedcutter";
import { App } from "../support/app";
import { generateMachine } from "../support/generate";

/**
 * What requests cost the thread that answers them, in milliseconds of its processor time (`/proc`), in an empty ledger and in
 * one of 300 machines with one of 2,000 parts among them, while analyses are at work beside it.
 */
const TICK_MS = 10;

function mainThreadMs(pid: number): number {
  const stat = readFileSync(`/proc/${pid}/task/${pid}/stat`, "utf8");
  const fields = stat.slice(stat.lastIndexOf(")") + 2).split(" ");
  return (Number(fields[11]) + Number(fields[12])) * TICK_MS;
}

async function cost(app: App, times: number, request: (i: number) => Promise<unknown>): Promise<number> {
  const before = mainThreadMs(app.pid);
  for (let i = 0; i < times; i++) await request(i);
  return (mainThreadMs(app.pid) - before) / times;
}

const read = async (answer: Response) => {
  await answer.arrayBuffer();
  if (!answer.ok) throw new Error(`status ${answer.status}`);
};
const post = (app: App, path: string, body: unknown) =>
  fetch(app.url + path, { method: "POST", headers: { "Content-Type": "application/json" }, body: JSON.stringify(body) });

/** Saves an edit of a machine again and again, as its window does. */
function saver(app: App, id: string, start: Machine, command: (i: number) => Command) {
  let machine = start;
  let base = 1;
  return async (i: number) => {
    const result = applyCommand(machine, command(i));
    if (!result.ok) throw new Error(result.message);
    machine = result.machine;
    const edits = [
      { id: `bench-${Math.random().toString(36).slice(2)}`, at: new Date().toISOString(), label: "bench", changes: result.changes },
    ];
    const answer = await post(app, `/api/machines/${id}/edits`, { base, origin: "bench", edits });
    base = ((await answer.json()) as { revision: number }).revision;
  };
}

async function measure(app: App, big: boolean) {
  const list = () => fetch(`${app.url}/api/machines`).then(read);
  const page = () => fetch(app.url, { headers: { Accept: "text/html" } }).then(read);
  const small = await app.create({ kind: "import", document: marbleLift(false) });
  const small2 = saver(app, small, marbleLift(false), (i) => ({ type: "rename", name: `Lift ${i % 7}` }));
  for (let i = 0; i < 8; i++)
    await list()
      .then(page)
      .then(() => small2(i + 100));
  const found: Record<string, number> = {
    "the list": await cost(app, 40, list),
    "its page": await cost(app, 30, page),
    "a save of 8 parts": await cost(app, 60, small2),
  };
  if (!big) return found;
  const machine = generateMachine({ parts: 1990, seed: 5, modes: 6 });
  const id = await app.create({ kind: "import", document: machine });
  const wire = machine.wires[40]?.id ?? "";
  const save = saver(app, id, machine, (i) => ({
    type: "updateWire",
    id: wire,
    changes: { lengthM: { value: 1 + (i % 9) / 10, provenance: "measured" } },
  }));
  for (let i = 0; i < 4; i++) await save(i + 1);
  found["a save of 2,000 parts"] = await cost(app, 25, save);
  return found;
}

const empty = new App();
await empty.start();
const before = await measure(empty, false);
await empty.stop();

const full = new App();
await full.start();
for (let i = 0; i < 298; i++)
  await post(full, "/api/machines", { kind: "import", document: { ...reedcutter(i % 2 === 0), name: `Machine ${i}` } });
const after = await measure(full, true);
const waiting = ((await (await fetch(`${full.url}/api/machines`)).json()) as { overview: { kind: string } }[]).filter(
  ({ overview }) => overview.kind === "waiting",
).length;
await full.stop();

console.log(`\nThe server: ms of its answering thread, empty ledger, and 300 machines while ${waiting} are still being worked out`);
for (const [what, ms] of Object.entries(after)) {
  const base = before[what] ?? before["a save of 8 parts"] ?? 1;
  console.log(`  ${what.padEnd(24)} ${base.toFixed(1).padStart(6)} ${ms.toFixed(1).padStart(6)}   × ${(ms / base).toFixed(1)}`);
}
