// npm test: installs what is missing, builds, and runs every suite; ends with the sum of all of them.
// With --long the random tests take every seed in place of a quarter.
import { spawn, spawnSync } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { build, fetched, run } from "./setup.mjs";

const LONG = process.argv.includes("--long");

function has(program) {
  return spawnSync("sh", ["-c", `command -v ${program}`]).status === 0;
}

/** Runs beside others: what it prints is kept until it ends, so that two never talk at once. */
function beside(command, args, options = {}) {
  return new Promise((resolve) => {
    const child = spawn(command, args, { ...options, stdio: ["ignore", "pipe", "pipe"] });
    let printed = "";
    for (const stream of [child.stdout, child.stderr]) stream.on("data", (text) => (printed += text));
    child.on("error", (error) => resolve({ ok: false, printed: `${printed}${error.message}\n` }));
    child.on("close", (code) => resolve({ ok: code === 0, printed }));
  });
}

/** Debian's Chromium and ngspice: installed when we may, asked for when we may not. */
async function systemPrograms() {
  const missing = ["chromium", "ngspice"].filter((program) => !has(program));
  if (missing.length === 0) return;
  if (process.getuid?.() !== 0 || !has("apt-get")) {
    console.error(`Missing: ${missing.join(" and ")}. Install with: sudo apt-get install ${missing.join(" ")}`);
    process.exit(1);
  }
  console.log(`Installing ${missing.join(" and ")}…`);
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  for (const args of [
    ["update", "-qq"],
    ["install", "-y", "-qq", "--no-install-recommends", ...missing],
  ]) {
    const { ok, printed } = await beside("apt-get", args, { env });
    if (ok) continue;
    console.error(printed);
    process.exit(1);
  }
}

const results = [];
function record(suite, passed, failed) {
  results.push({ suite, passed, failed });
}

/** Suites that only pass or fail, one after the other while something else runs. */
async function checks() {
  const printed = [];
  for (const [suite, command, args] of [
    // The compiler in machine code; import direction is read with the older one, whose interface its library needs.
    ["Types", "typescript-native/bin/tsc", ["--noEmit"]],
    ["Lint and format", ".bin/biome", ["check", "--error-on-warnings", "."]],
    [
      "Import direction",
      ".bin/depcruise",
      ["--config", ".dependency-cruiser.cjs", "app", "ui", "state", "workers", "server", "core", "cli", "demo"],
    ],
  ]) {
    const done = await beside(`node_modules/${command}`, args);
    // Without a compiler that it understands the search for imports reads nothing, and finds nothing wrong.
    const ok = done.ok && !done.printed.includes("(0 modules");
    record(suite, ok ? 1 : 0, ok ? 0 : 1);
    printed.push(`\n== ${suite}\n${done.printed}`);
  }
  return printed.join("");
}

function report(path, read) {
  if (!existsSync(path)) return { passed: 0, failed: 1 };
  const counted = read(JSON.parse(readFileSync(path, "utf8")));
  return counted.passed + counted.failed === 0 ? { passed: 0, failed: 1 } : counted;
}

function unitTests() {
  console.log("\n== Unit and reference tests");
  const path = "test-results/vitest.json";
  rmSync(path, { force: true });
  run("node_modules/.bin/vitest", ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${path}`], {
    env: LONG ? { ...process.env, NODE_LEDGER_SEEDS: "all" } : process.env,
  });
  const { passed, failed } = report(path, (json) => ({
    passed: json.numPassedTests,
    failed: json.numFailedTests + json.numFailedTestSuites * (json.numFailedTests === 0 ? 1 : 0),
  }));
  record("vitest", passed, failed);
}

function interfaceTests() {
  console.log("\n== Interface tests in Chromium, production build");
  const path = "test-results/playwright.json";
  rmSync(path, { force: true });
  run("node_modules/.bin/playwright", ["test"], {
    env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: path, ...(LONG ? { NODE_LEDGER_SEEDS: "all" } : {}) },
  });
  const { passed, failed } = report(path, (json) => ({
    passed: json.stats.expected + json.stats.flaky,
    failed: json.stats.unexpected + (json.errors?.length ?? 0),
  }));
  record("playwright", passed, failed);
}

const [, { compiled }] = await Promise.all([systemPrograms(), fetched()]);
const [, checked] = await Promise.all([build(), checks(), compiled()]);
console.log(checked);
unitTests();
interfaceTests();

const passed = results.reduce((sum, each) => sum + each.passed, 0);
const failed = results.reduce((sum, each) => sum + each.failed, 0);
console.log(`\n${results.map((each) => `${each.suite}: ${each.passed} passed, ${each.failed} failed`).join("\n")}\n`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
