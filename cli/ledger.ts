import { readFileSync, statSync } from "node:fs";
import { analyseFully } from "@/core/analysis/analyse";
import { flowSvg } from "@/core/exchange/flow-svg";
import { toJson } from "@/core/exchange/json";
import { checkReport, shortTable, sizeTable, verdictTable } from "@/core/exchange/report";
import { sheetMarkdown } from "@/core/exchange/sheet";
import { toSpice } from "@/core/exchange/spice";
import { readMachineText } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import { sizedAtOnce } from "@/core/sizing/all";
import { sizePlan } from "@/core/sizing/plan";
import { OBJECTIVES } from "@/core/sizing/weigh";

const USAGE = `ledger: Node Ledger's checks without the screens

  ledger check FILE [--json]                          verdicts; exit 1 if any says Stop
  ledger shorts FILE                                  a short at every node, worst first
  ledger size FILE [--aim mass|cost] [--write]        what sizing would change; --write prints the sized document
  ledger export FILE --format spice [--mode NAME]     netlist of one mode (the first by default)
  ledger export FILE --format svg [--mode NAME]       the picture of returns in one mode
  ledger export FILE --format markdown                the build sheet
  ledger export FILE --format json                    the document, validated

FILE is a machine exported as JSON. Exit 2: the file or the command cannot be read.`;

const MAX_BYTES = 8 * 1024 * 1024;

class CannotRead extends Error {}

function load(file: string): Machine {
  let text: string;
  try {
    if (statSync(file).size > MAX_BYTES) throw new CannotRead(`${file}: larger than any machine this tool writes (8 MB)`);
    text = readFileSync(file, "utf8");
  } catch (error) {
    if (error instanceof CannotRead) throw error;
    throw new CannotRead(`${file}: cannot be opened`);
  }
  const result = readMachineText(text);
  if (result.ok) {
    if (result.cleaned.length > 0)
      process.stderr.write(`${file}: characters that cannot be seen were left out of ${result.cleaned.join(", ")}\n`);
    return result.machine;
  }
  throw new CannotRead(result.problems.map(({ path, expected }) => `${file}: ${path}: expected ${expected}`).join("\n"));
}

function option(args: readonly string[], name: string): string | undefined {
  const at = args.indexOf(name);
  return at >= 0 ? args[at + 1] : undefined;
}

function exportAs(machine: Machine, args: readonly string[]): string {
  const format = option(args, "--format");
  if (format === "json") return toJson(machine);
  if (format === "markdown") return sheetMarkdown(machine, analyseFully(machine).analysis);
  if (format !== "spice" && format !== "svg")
    throw new CannotRead(`--format takes spice, svg, markdown or json, not ${format ?? "nothing"}`);
  const wanted = option(args, "--mode");
  const mode =
    wanted === undefined
      ? machine.modes[0]
      : machine.modes.find(({ id, name }) => id === wanted || name.toLowerCase() === wanted.toLowerCase());
  if (!mode) throw new CannotRead(`--mode: this machine has ${machine.modes.map(({ name }) => `"${name}"`).join(", ")}, not "${wanted}"`);
  return format === "svg" ? flowSvg(machine, machine.modes.indexOf(mode)) : toSpice(machine, mode.id).text;
}

function sized(machine: Machine, args: readonly string[]): string {
  const objective = OBJECTIVES.find((each) => each === (option(args, "--aim") ?? "mass"));
  if (!objective) throw new CannotRead(`--aim takes ${OBJECTIVES.join(" or ")}, not ${option(args, "--aim")}`);
  if (args.includes("--write")) return toJson(sizedAtOnce(machine, { objective }).machine).trimEnd();
  const steps = sizePlan(machine, { objective });
  for (let step = steps.next(); ; step = steps.next()) if (step.done) return sizeTable(step.value);
}

function main(args: readonly string[]): number {
  const [command, file] = args;
  if (command === "check" && file) {
    const machine = load(file);
    const { analysis } = analyseFully(machine);
    process.stdout.write(
      `${args.includes("--json") ? JSON.stringify(checkReport(machine, analysis), null, 2) : verdictTable(machine, analysis)}\n`,
    );
    return analysis.verdicts.some(({ severity }) => severity === "stop") ? 1 : 0;
  }
  if (command === "shorts" && file) {
    process.stdout.write(`${shortTable(analyseFully(load(file)).figures)}\n`);
    return 0;
  }
  if (command === "size" && file) {
    process.stdout.write(`${sized(load(file), args)}\n`);
    return 0;
  }
  if (command === "export" && file) {
    process.stdout.write(exportAs(load(file), args));
    return 0;
  }
  if (command === undefined || command === "help" || command === "--help") {
    process.stdout.write(`${USAGE}\n`);
    return command === undefined ? 2 : 0;
  }
  throw new CannotRead(`"${args.join(" ")}" is not a command.\n\n${USAGE}`);
}

try {
  process.exitCode = main(process.argv.slice(2));
} catch (error) {
  if (!(error instanceof CannotRead)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 2;
}
