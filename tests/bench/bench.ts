import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { analyse } from "@/core/analysis/analyse";
import { SimulatedBench } from "@/core/bringup/bench";
import { bringUpOf } from "@/core/bringup/plan";
import { Search, weighed } from "@/core/bringup/search";
import { packCandidates } from "@/core/choosing/packs";
import { toSpice } from "@/core/exchange/spice";
import { faultWalk } from "@/core/faults/walk";
import { missionOf } from "@/core/loads/mission";
import { applyCommand } from "@/core/machine/apply";
import { typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { buildCircuit } from "@/core/network/build";
import { ModeSolver } from "@/core/network/solve";
import { openKey, TopologyCache } from "@/core/network/topology";
import { settle } from "@/core/settling/settle";
import { sizedAtOnce } from "@/core/sizing/all";
import { gaugeLadder } from "@/core/sizing/ladder";
import { Discharge } from "@/core/sources/discharge";
import { runMission, runTimes } from "@/core/sources/run";
import { causesOf } from "@/core/verdicts/causes";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "../support/generate";

interface Timed {
  median: number;
  /** Tenth percentile: what the code takes when the machine is left alone. */
  quiet: number;
}

/** Time of one call in ms, over enough calls to be worth measuring; `prepare` runs before each and is not counted. */
function time<T>(prepare: (turn: number) => T, call: (ready: T) => void, budgetMs = 2000): Timed {
  const times: number[] = [];
  const warm = performance.now() + budgetMs / 2;
  let turn = 0;
  while (performance.now() < warm) call(prepare(turn++));
  const end = performance.now() + budgetMs;
  while (performance.now() < end || times.length < (budgetMs < 10 ? 3 : 15)) {
    const ready = prepare(turn++);
    const start = performance.now();
    call(ready);
    times.push(performance.now() - start);
  }
  times.sort((a, b) => a - b);
  const at = (share: number) => times[Math.floor(times.length * share)] as number;
  return { median: at(0.5), quiet: at(0.1) };
}

/** Two versions of a machine that differ in the length of one wire: nothing of what stands can be kept. */
function rewired(machine: Machine): [Machine, Machine] {
  const wire = machine.wires.find(({ role }) => role === "supply");
  const version = (metres: number) => {
    const result = applyCommand(machine, { type: "updateWire", id: wire?.id ?? "", changes: { lengthM: typical(metres) } });
    if (!result.ok) throw new Error(result.message);
    return result.machine;
  };
  return [version(0.7), version(0.8)];
}

/** Two versions of a machine that differ in one cell, as they do after most edits. */
function edited(machine: Machine): [Machine, Machine] {
  const load = machine.parts.find((part) => part.kind === "load");
  const version = (amps: number) => {
    const cell = { state: "amps" as const, amps: typical(amps) };
    const result = applyCommand(machine, { type: "setCell", loadId: load?.id ?? "", modeId: machine.modes[0]?.id ?? "", cell });
    if (!result.ok) throw new Error(result.message);
    return result.machine;
  };
  return [version(1.5), version(1.7)];
}

/** ngspice's own time for one operating point: a run that solves 200 times against one that solves once. */
function ngspiceMs(machine: Machine): number {
  const folder = mkdtempSync(join(tmpdir(), "node-ledger-bench-"));
  const netlist = toSpice(machine, machine.modes[0]?.id ?? "").text;
  const run = (times: number): number => {
    const file = join(folder, `${times}.cir`);
    writeFileSync(
      file,
      netlist.replace(/\.end\s*$/, `.control\nlet k = 0\nwhile k < ${times}\nop\nlet k = k + 1\nend\nquit\n.endc\n.end\n`),
    );
    const start = performance.now();
    const result = spawnSync("ngspice", ["-b", "-o", join(folder, "out.txt"), file]);
    if (result.error) throw new Error("ngspice is not installed: apt-get install ngspice");
    return performance.now() - start;
  };
  run(1);
  const extra = (Math.min(run(201), run(201)) - Math.min(run(1), run(1))) / 200;
  rmSync(folder, { recursive: true });
  return extra;
}

function measure(name: string, machine: Machine): { parts: number; analysis: number } {
  const circuit = buildCircuit(machine);
  const cache = new TopologyCache();
  cache.adopt(circuit);
  const solver = new ModeSolver(circuit, cache.get(circuit, openKey(circuit, machine.modes[0]?.id ?? "")));
  const point = time(
    () => 0,
    (mode) => void solver.solve(mode, "planned"),
  );
  const after = (versions: [Machine, Machine]) =>
    time(
      (turn) => versions[turn % 2] as Machine,
      (version) => void analyse(version, cache),
    );
  const analysis = after(edited(machine));
  const wired = after(rewired(machine));
  const fresh = time(
    () => machine,
    (version) => void analyse(version),
  );
  const spice = ngspiceMs(machine);
  console.log(
    [
      name.padEnd(22),
      machine.parts.length,
      machine.wires.length,
      machine.modes.length,
      point.median.toFixed(3),
      analysis.median.toFixed(2),
      analysis.quiet.toFixed(2),
      wired.median.toFixed(2),
      fresh.median.toFixed(2),
      spice.toFixed(3),
      `${(spice / point.median).toFixed(1)} ×`,
    ]
      .map((each, i) => (i === 0 ? each : String(each).padStart(10)))
      .join(""),
  );
  return { parts: machine.parts.length, analysis: analysis.median };
}

console.log(
  "Times in ms, medians of one run on this machine, analyses after an edit of one cell, of one wire, and from new; compare ratios, not milliseconds.",
);
console.log(
  ["machine".padEnd(22), "parts", "wires", "modes", "point", "cell", "(quiet)", "wire", "from new", "ngspice", "ngsp/point"]
    .map((each, i) => (i === 0 ? each : each.padStart(10)))
    .join(""),
);
measure("Reedcutter", (EXAMPLES[0] as (typeof EXAMPLES)[number]).make());
const sizes = [20, 60, 200, 500].map((parts) =>
  measure(`generated ${parts}`, generateMachine({ parts, seed: 11, meshed: true, modes: 6 })),
);
const [small, large] = [sizes[1], sizes[3]];
if (small && large)
  console.log(
    `Growth of a full analysis from ${small.parts} to ${large.parts} parts: parts^${(Math.log(large.analysis / small.analysis) / Math.log(large.parts / small.parts)).toFixed(2)}`,
  );

/** The barge with an eight-hour mission of twenty segments, once through, so that every segment is integrated. */
function eightHours(): Machine {
  const barge = (EXAMPLES[0] as (typeof EXAMPLES)[number]).make();
  const quiet = barge.modes.filter(({ id }) => id !== "stopped" && id !== "jam");
  const steps = Array.from({ length: 20 }, (_, i) => ({ mode: (quiet[i % quiet.length] as (typeof quiet)[number]).id, seconds: 1440 }));
  const parts = barge.parts.map((part) => (part.kind === "pack" ? { ...part, capacityAh: typical(2000) } : part));
  return { ...barge, parts, mission: { steps, repeats: false } };
}

const barge = (EXAMPLES[0] as (typeof EXAMPLES)[number]).make();
const long = eightHours();
const whole = time(
  () => 0,
  () => void analyse(barge),
);
const mission = time(
  () => 0,
  () => {
    const plan = missionOf(long);
    if (plan) runMission(Discharge.of(long), plan);
  },
);
const repeated = time(
  () => 0,
  () => void runTimes(barge),
);
const { figures } = analyse(barge);
let packs = 0;
const table = time(
  () => 0,
  () => {
    packs = [...packCandidates(figures, "pack", [])].length;
  },
);
const walked = time(
  () => 0,
  () => void faultWalk(figures),
);
const sized = time(
  () => 0,
  () => void sizedAtOnce(barge, { objective: "mass" }),
);
const ladder = time(
  () => 0,
  () => void gaugeLadder(figures, null, barge.wires[8]?.id ?? ""),
  500,
);
console.log("Feeds (ms, and as multiples of one full analysis of Reedcutter from new, made in the same run):");
const many = analyse(generateMachine({ parts: 500, seed: 11, meshed: true, modes: 6 })).figures;
const manyWalked = time(
  () => 0,
  () => void faultWalk(many),
  1500,
);
const twoHundred = generateMachine({ parts: 200, seed: 5, modes: 6 });
const manySized = time(
  () => 0,
  () => void sizedAtOnce(twoHundred, { objective: "mass" }),
  1,
);
for (const [name, taken] of [
  ["shorts at every node, Reedcutter", walked],
  ["shorts at every node, 500 parts", manyWalked],
  ["size everything, Reedcutter", sized],
  ["size everything, 200 parts", manySized],
  ["one gauge ladder", ladder],
] as const)
  console.log(`${name.padEnd(50)}${taken.median.toFixed(0).padStart(6)}${(taken.median / whole.median).toFixed(0).padStart(8)} ×`);
const said = analyse(barge).analysis.verdicts;
const grouped = time(
  () => 0,
  () => void causesOf(barge, said),
  500,
);
console.log(
  `${"verdicts grouped by cause, Reedcutter".padEnd(50)}${grouped.median.toFixed(2).padStart(6)}${(grouped.median / whole.median).toFixed(3).padStart(8)} ×`,
);
/** Until something is proposed, and until it is through, ms. */
const settling = (machine: Machine) => {
  const start = performance.now();
  let first = Number.NaN;
  const steps = settle(machine, "fewest");
  for (let step = steps.next(); !step.done; step = steps.next())
    if (Number.isNaN(first) && step.value.sofar.length > 0) first = performance.now() - start;
  return { first, all: performance.now() - start };
};
const drawn = EXAMPLES.find(({ key }) => key === "reedcutter")?.make() ?? barge;
settling(drawn);
for (const [name, machine] of [
  ["settle, Reedcutter", drawn],
  ["settle, 200 parts", twoHundred],
] as const) {
  const { first, all } = settling(machine);
  for (const [what, taken] of [
    [`${name}: first proposal`, first],
    [`${name}: through`, all],
  ] as const)
    console.log(`${what.padEnd(50)}${taken.toFixed(0).padStart(6)}${(taken / whole.median).toFixed(0).padStart(8)} ×`);
}
const bringUp = bringUpOf(figures);
const search = () => new Search(figures, bringUp);
const readings = (() => {
  const known = search();
  const bench = new SimulatedBench(figures, 3, null);
  const steps = bringUp.stages.flatMap((stage) => stage.steps).filter(({ at }) => at?.kind === "network");
  return {
    known,
    all: steps.slice(0, 8).flatMap((step) => (step.at ? (weighed(step, bench.read(step.at, step.instrument), null) ?? []) : [])),
  };
})();
const stages = time(
  () => 0,
  () => void bringUpOf(figures),
);
const ranked = time(search, (fresh) => void fresh.rank(readings.all));
const again = time(
  () => 0,
  () => void readings.known.rank(readings.all),
);
console.log(
  `Bring-up, Reedcutter (ms, and as multiples of one full analysis from new, made in the same run; ${readings.known.faults.length} single faults):`,
);
for (const [name, taken] of [
  ["its stages with every band", stages],
  ["all faults against eight readings, from nothing", ranked],
  ["the same with what is known", again],
] as const)
  console.log(`${name.padEnd(50)}${taken.median.toFixed(0).padStart(6)}${(taken.median / whole.median).toFixed(0).padStart(8)} ×`);
console.log("Sources, Reedcutter (ms, and as multiples of one full analysis from new, made in the same run):");
for (const [name, taken] of [
  ["8-hour mission of 20 segments", mission],
  ["its own mission and each mode alone, to the end", repeated],
  [`${packs} packs weighed`, table],
] as const)
  console.log(`${name.padEnd(50)}${taken.median.toFixed(0).padStart(6)}${(taken.median / whole.median).toFixed(0).padStart(8)} ×`);
