// npm run mutate: puts single small faults into core/, one at a time, and counts those that make a test fail. Long, so outside CI.
//   npm run mutate -- [--count 60] [--seed 17] [--only core/wires] [--quick]
import { spawnSync } from "node:child_process";
import { cpSync, existsSync, mkdtempSync, readdirSync, readFileSync, rmSync, symlinkSync, writeFileSync } from "node:fs";
import { tmpdir } from "node:os";
import { join, resolve } from "node:path";
import { parseArgs } from "node:util";
import { randomFrom } from "../tests/support/random";
import { type Mutant, mutantsOf, withFault } from "./mutants";

const { values } = parseArgs({
  options: {
    count: { type: "string", default: "60" },
    seed: { type: "string", default: "17" },
    only: { type: "string", default: "core" },
    quick: { type: "boolean", default: false },
    report: { type: "string", default: "mutants.md" },
  },
});

/** Rooms in groups that get an equal share of the faults: rules are a third of core and would take a third of them. */
const GROUPS = [
  ["core/verdicts/loads", "core/verdicts/sources"],
  ["core/verdicts/feeds", "core/verdicts/returns"],
  ["core/wires", "core/fuses", "core/connectors"],
  ["core/packs", "core/sources", "core/converters", "core/drivers", "core/loads"],
  ["core/network", "core/engine"],
  ["core/faults"],
  ["core/figures", "core/machine"],
  ["core/sizing", "core/choosing"],
  ["core/returns"],
] as const;

/** What draws, words or keeps memory in order: a fault there moves no figure. */
const NO_FIGURES = /core\/(returns\/(picture|pen|layout|link-words)|network\/(rows|ordering)|.*words)\.ts$/;

/** A test that hangs is a test that failed: after so many seconds it is ended with all its workers, as only a group is. */
const MOST_S = 300;

interface Fault extends Mutant {
  path: string;
}

/** Faults in turn from each group, each file's own chance by how many it has, in the order of a fixed seed. */
function chosen(count: number, seed: number): Fault[] {
  const random = randomFrom(seed);
  const shuffled = GROUPS.map((rooms) => {
    const faults = rooms
      .flatMap(filesOf)
      .filter((path) => path.startsWith(values.only) && /(?<!\.test)\.ts$/.test(path) && !NO_FIGURES.test(path))
      .flatMap((path) => mutantsOf(path, readFileSync(path, "utf8")).map((mutant) => ({ ...mutant, path })));
    return faults.map((fault) => ({ fault, at: random() })).sort((a, b) => a.at - b.at);
  });
  const taken: Fault[] = [];
  for (let turn = 0; taken.length < count && shuffled.some((faults) => faults[turn]); turn++)
    for (const faults of shuffled) {
      const next = faults[turn];
      if (next && taken.length < count) taken.push(next.fault);
    }
  return taken;
}

function filesOf(room: string): string[] {
  const files = readdirSync(room, { recursive: true, encoding: "utf8" });
  return files.sort().map((file) => join(room, file));
}

/** A copy of the project to break, so that the real one is never touched. */
function scratch(): string {
  const copy = mkdtempSync(join(tmpdir(), "mutate-"));
  const { stdout } = spawnSync("git", ["ls-files", "--cached", "--others", "--exclude-standard"], { encoding: "utf8" });
  for (const name of stdout.split("\n").filter(existsSync)) cpSync(name, join(copy, name));
  symlinkSync(resolve("node_modules"), join(copy, "node_modules"));
  return copy;
}

/** The first test that fails, or null. */
function fails(copy: string, paths: readonly string[]): string | null {
  const vitest = [resolve("node_modules/vitest/vitest.mjs"), "run", "--project", "core", "--bail", "1", "--reporter", "json", ...paths];
  const { status, stdout } = spawnSync("timeout", ["--signal=KILL", String(MOST_S), process.execPath, ...vitest], {
    cwd: copy,
    encoding: "utf8",
    maxBuffer: 2 ** 28,
    env: { ...process.env, NO_COLOR: "1" },
  });
  if (status === 0) return null;
  const name = /"status":"failed","title":"((?:[^"\\]|\\.)*)"/.exec(stdout ?? "")?.[1];
  return name ?? "did not load or did not end";
}

const copy = scratch();
const faults = chosen(Number(values.count), Number(values.seed));
const lines: string[] = [];
let caught = 0;
try {
  const sound = fails(copy, values.quick ? ["tests/cases", "tests/record"] : []);
  if (sound !== null) throw new Error(`The tests fail before any fault is put in: ${sound}`);
  for (const [i, fault] of faults.entries()) {
    const path = join(copy, fault.path);
    const source = readFileSync(path, "utf8");
    writeFileSync(path, withFault(source, fault));
    // What is most likely to see it first; the rest only where that is silent.
    const room = fault.path.split("/").slice(0, 2).join("/");
    const by =
      fails(copy, ["tests/cases", "tests/record"]) ?? fails(copy, [room, "tests/reference"]) ?? (values.quick ? null : fails(copy, []));
    writeFileSync(path, source);
    if (by !== null) caught++;
    const line = `| ${i + 1} | ${fault.path}:${fault.line} | ${fault.kind} | \`${short(fault.was)}\` → \`${short(fault.becomes)}\` | ${by === null ? "**lives**" : short(by)} |`;
    lines.push(line);
    console.log(line);
  }
} finally {
  rmSync(copy, { recursive: true, force: true });
}
const summary = `${caught} of ${faults.length} faults make a test fail (seed ${values.seed}).`;
writeFileSync(
  values.report,
  [`# ${summary}`, "", "| | where | fault | change | caught by |", "|---|---|---|---|---|", ...lines, ""].join("\n"),
);
console.log(`\n${summary} Report: ${values.report}`);

function short(text: string): string {
  const flat = text.replaceAll(/\s+/g, " ").replaceAll("|", "\\|");
  return flat.length > 70 ? `${flat.slice(0, 67)}…` : flat;
}
