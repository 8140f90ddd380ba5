import { spawnSync } from "node:child_process";
import { mkdtempSync, rmSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { analyse } from "@/core/analysis/analyse";
import { toSpice } from "@/core/exchange/spice";
import type { Machine } from "@/core/machine/schema";
import { buildCircuit } from "@/core/network/circuit";
import { ModeSolver } from "@/core/network/solve";
import { openKey, TopologyCache } from "@/core/network/topology";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "../support/generate";

/** Median time of one call in ms, over enough calls to be worth measuring. */
function median(call: () => void, budgetMs = 1500): number {
  const times: number[] = [];
  const end = performance.now() + budgetMs;
  for (let i = 0; i < 30; i++) call();
  while (performance.now() < end || times.length < 15) {
    const start = performance.now();
    call();
    times.push(performance.now() - start);
  }
  return times.sort((a, b) => a - b)[Math.floor(times.length / 2)] as number;
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
  const point = median(() => void solver.solve(0, "planned"));
  const analysis = median(() => void analyse(machine, cache));
  const fresh = median(() => void analyse(machine));
  const spice = ngspiceMs(machine);
  console.log(
    [
      name.padEnd(22),
      machine.parts.length,
      machine.wires.length,
      machine.modes.length,
      point.toFixed(3),
      analysis.toFixed(2),
      fresh.toFixed(2),
      spice.toFixed(3),
      `${(spice / point).toFixed(1)} ×`,
    ]
      .map((each, i) => (i === 0 ? each : String(each).padStart(10)))
      .join(""),
  );
  return { parts: machine.parts.length, analysis };
}

console.log("Times in ms, medians of one run on this machine; compare ratios, not milliseconds.");
console.log(
  ["machine".padEnd(22), "parts", "wires", "modes", "point", "analysis", "from new", "ngspice", "ngsp/point"]
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
