// npm test: installs what is missing, builds, and runs every suite; ends with the sum of all of them.
import { spawnSync } from "node:child_process";
import { existsSync, readFileSync, rmSync } from "node:fs";
import { build, install, run } from "./setup.mjs";

function has(program) {
  return spawnSync("sh", ["-c", `command -v ${program}`]).status === 0;
}

/** Debian's Chromium and ngspice: installed when we may, asked for when we may not. */
function systemPrograms() {
  const missing = ["chromium", "ngspice"].filter((program) => !has(program));
  if (missing.length === 0) return;
  if (process.getuid?.() !== 0 || !has("apt-get")) {
    console.error(`Missing: ${missing.join(" and ")}. Install with: sudo apt-get install ${missing.join(" ")}`);
    process.exit(1);
  }
  console.log(`Installing ${missing.join(" and ")}…`);
  const env = { ...process.env, DEBIAN_FRONTEND: "noninteractive" };
  if (
    run("apt-get", ["update", "-qq"], { env }) !== 0 ||
    run("apt-get", ["install", "-y", "-qq", "--no-install-recommends", ...missing], { env, stdio: ["ignore", "ignore", "inherit"] }) !== 0
  )
    process.exit(1);
}

const results = [];
function record(suite, passed, failed) {
  results.push({ suite, passed, failed });
}

/** A suite that only passes or fails. */
function check(suite, command, args) {
  console.log(`\n== ${suite}`);
  const ok = run(command, args) === 0;
  record(suite, ok ? 1 : 0, ok ? 0 : 1);
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
  run("node_modules/.bin/vitest", ["run", "--reporter=default", "--reporter=json", `--outputFile.json=${path}`]);
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
  run("node_modules/.bin/playwright", ["test"], { env: { ...process.env, PLAYWRIGHT_JSON_OUTPUT_NAME: path } });
  const { passed, failed } = report(path, (json) => ({
    passed: json.stats.expected + json.stats.flaky,
    failed: json.stats.unexpected + (json.errors?.length ?? 0),
  }));
  record("playwright", passed, failed);
}

systemPrograms();
install();
build();
check("Types", "node_modules/.bin/tsc", ["--noEmit"]);
check("Lint and format", "node_modules/.bin/biome", ["check", "--error-on-warnings", "."]);
check("Import direction", "node_modules/.bin/depcruise", [
  "--config",
  ".dependency-cruiser.cjs",
  "app",
  "ui",
  "state",
  "workers",
  "server",
  "core",
  "cli",
  "demo",
]);
unitTests();
interfaceTests();

const passed = results.reduce((sum, each) => sum + each.passed, 0);
const failed = results.reduce((sum, each) => sum + each.failed, 0);
console.log(`\n${results.map((each) => `${each.suite}: ${each.passed} passed, ${each.failed} failed`).join("\n")}\n`);
console.log(`${passed} passed, ${failed} failed`);
process.exit(failed === 0 ? 0 : 1);
