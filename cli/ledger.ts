import { readFileSync, statSync } from "node:fs";
import { type AddressInfo, createServer } from "node:net";
import { analyseFully } from "@/core/analysis/analyse";
import { bringUpOf } from "@/core/bringup/plan";
import { openBench } from "@/core/engine/bench";
import { bringUpTable } from "@/core/exchange/bring-up";
import { csvText } from "@/core/exchange/csv";
import { drawingSvg } from "@/core/exchange/drawing-svg";
import { flowSvg } from "@/core/exchange/flow-svg";
import { toJson } from "@/core/exchange/json";
import { sheetMarkdown } from "@/core/exchange/markdown";
import { checkReport, settleReport, settleTable, shortTable, sizeTable, verdictTable } from "@/core/exchange/report";
import { toSpice } from "@/core/exchange/spice";
import { TABLE_NAMES, tableOf } from "@/core/exchange/tables";
import { readMachineText } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import { AIMS } from "@/core/settling/search";
import { settle } from "@/core/settling/settle";
import { paperOf } from "@/core/sheet/pages";
import { PAPERS, type Paper } from "@/core/sheet/paper";
import { wholeSheet } from "@/core/sheet/whole";
import { sizedAtOnce } from "@/core/sizing/all";
import { sizePlan } from "@/core/sizing/plan";
import { OBJECTIVES } from "@/core/sizing/weigh";

const USAGE = `ledger: Node Ledger's checks without the screens

  ledger check FILE [--json]                          verdicts; exit 1 if any says Stop
  ledger shorts FILE                                  a short at every node, worst first
  ledger size FILE [--aim mass|cost] [--write]        what sizing would change; --write prints the sized document
  ledger settle FILE [--aim fewest|mass|cost] [--json | --write]
                                                      the changes that settle every Stop and Fix that a change can settle;
                                                      --write prints the settled document
  ledger bring-up FILE                                what to read before and at first power-up, with its bands
  ledger bench FILE [--port N] [--seed N] [--drill]   a simulated bench with the machine on it, on a port of this machine
  ledger export FILE --format spice [--mode NAME]     netlist of one mode (the first by default)
  ledger export FILE --format svg                     the distribution drawing
  ledger export FILE --format svg --mode NAME         the picture of ways out and back in one mode
  ledger export FILE --format csv --table NAME        one table: ${TABLE_NAMES.join(", ")}
  ledger export FILE --format markdown                the build sheet as text
  ledger export FILE --format html [--paper a4|letter]
                                                      the build sheet as pages in one file
  ledger export FILE --format pdf --out FILE [--paper a4|letter] [--no-labels]
                                                      the same, printed by the system's chromium
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

const FORMATS = ["json", "csv", "svg", "markdown", "spice", "html", "pdf"] as const;

/** The sheet on pages, dated today. */
function paperFor(machine: Machine, args: readonly string[]): Paper {
  const paper = option(args, "--paper") ?? "a4";
  if (paper !== "a4" && paper !== "letter") throw new CannotRead(`--paper takes ${Object.keys(PAPERS).join(" or ")}, not ${paper}`);
  const date = new Date().toLocaleDateString("en-GB", { day: "numeric", month: "short", year: "numeric" });
  return paperOf(wholeSheet(machine).sheet, { paper, lists: true, bringUp: true, labels: !args.includes("--no-labels"), date });
}

async function exportAs(machine: Machine, args: readonly string[]): Promise<string> {
  const format = FORMATS.find((each) => each === option(args, "--format"));
  switch (format) {
    case undefined:
      throw new CannotRead(`--format takes ${FORMATS.join(", ")}, not ${option(args, "--format") ?? "nothing"}`);
    case "json":
      return toJson(machine);
    case "markdown":
      return sheetMarkdown(machine, wholeSheet(machine).sheet);
    case "html":
      return (await import("./print")).paperHtml(paperFor(machine, args));
    case "pdf": {
      const out = option(args, "--out");
      if (out === undefined) throw new CannotRead("--out names the file the pages go to");
      // What writes pages is only loaded by those who want some.
      const refused = (await import("./print")).printPdf(paperFor(machine, args), out);
      if (refused !== null) throw new CannotRead(refused);
      return "";
    }
    case "csv": {
      const table = TABLE_NAMES.find((each) => each === option(args, "--table"));
      if (!table) throw new CannotRead(`--table takes ${TABLE_NAMES.join(", ")}, not ${option(args, "--table") ?? "nothing"}`);
      const { analysis, sheet } = wholeSheet(machine);
      return csvText(tableOf(table, machine, analysis, sheet));
    }
    case "svg":
    case "spice":
      return ofMode(machine, format, args);
  }
}

function ofMode(machine: Machine, format: "svg" | "spice", args: readonly string[]): string {
  const wanted = option(args, "--mode");
  if (format === "svg" && wanted === undefined) return drawingSvg(wholeSheet(machine).sheet.drawing, `${machine.name}, distribution`);
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

/** Settles a plan without stopping for progress. */
function settled(machine: Machine, args: readonly string[]): string {
  const aim = AIMS.find((each) => each === (option(args, "--aim") ?? "fewest"));
  if (!aim) throw new CannotRead(`--aim takes ${AIMS.join(", ")}, not ${option(args, "--aim")}`);
  const steps = settle(machine, aim);
  for (let step = steps.next(); ; step = steps.next()) {
    if (!step.done) continue;
    if (args.includes("--write")) return toJson(step.value.machine).trimEnd();
    return args.includes("--json") ? JSON.stringify(settleReport(step.value), null, 2) : settleTable(step.value);
  }
}

function whole(args: readonly string[], name: string, usual: number, most: number): number {
  const text = option(args, name);
  const value = text === undefined ? usual : Number(text);
  if (!Number.isInteger(value) || value < 0 || value > most)
    throw new CannotRead(`${name} takes a whole number up to ${most}, not ${text}`);
  return value;
}

/** A bench on this machine alone: whoever connects talks to it line by line, until Ctrl C. */
function serveBench(machine: Machine, args: readonly string[]): void {
  const seed = whole(args, "--seed", 1, 2 ** 31);
  const port = whole(args, "--port", 5025, 65535);
  const { session } = openBench(machine, seed, args.includes("--drill"));
  const server = createServer((socket) => {
    let text = "";
    socket.setEncoding("utf8");
    socket.on("error", () => socket.destroy());
    socket.on("data", (chunk: string) => {
      text += chunk;
      const lines = text.split(/\r?\n/);
      text = lines.pop() ?? "";
      for (const line of lines) {
        const answer = session.ask(line);
        if (line.includes("?")) socket.write(`${answer ?? ""}\n`);
      }
      if (text.length > LINE_MOST) socket.destroy();
    });
  });
  server.on("error", (error) => {
    process.stderr.write(`port ${port}: ${error.message}\n`);
    process.exitCode = 2;
  });
  server.listen(port, "127.0.0.1", () =>
    process.stdout.write(
      `${machine.name} on a simulated bench at 127.0.0.1:${portOf(server.address(), port)}, seed ${seed}. Stop with Ctrl C.\n`,
    ),
  );
}

/** The port a server got where any was asked for. */
function portOf(address: string | AddressInfo | null, asked: number): number {
  return typeof address === "object" && address ? address.port : asked;
}

/** Longest line the bench listens to. */
const LINE_MOST = 1000;

async function main(args: readonly string[]): Promise<number> {
  const [command, file] = args;
  if (command === "check" && file) {
    const machine = load(file);
    const { analysis } = analyseFully(machine);
    process.stdout.write(
      `${args.includes("--json") ? JSON.stringify(checkReport(machine, analysis), null, 2) : verdictTable(machine, analysis)}\n`,
    );
    return analysis.verdicts.some(({ severity, decided }) => severity === "stop" && !decided) ? 1 : 0;
  }
  if (command === "shorts" && file) {
    process.stdout.write(`${shortTable(analyseFully(load(file)).figures)}\n`);
    return 0;
  }
  if (command === "size" && file) {
    process.stdout.write(`${sized(load(file), args)}\n`);
    return 0;
  }
  if (command === "settle" && file) {
    process.stdout.write(`${settled(load(file), args)}\n`);
    return 0;
  }
  if (command === "bring-up" && file) {
    process.stdout.write(`${bringUpTable(bringUpOf(analyseFully(load(file)).figures))}\n`);
    return 0;
  }
  if (command === "bench" && file) {
    serveBench(load(file), args);
    return 0;
  }
  if (command === "export" && file) {
    process.stdout.write(await exportAs(load(file), args));
    return 0;
  }
  if (command === undefined || command === "help" || command === "--help") {
    process.stdout.write(`${USAGE}\n`);
    return command === undefined ? 2 : 0;
  }
  throw new CannotRead(`"${args.join(" ")}" is not a command.\n\n${USAGE}`);
}

try {
  process.exitCode = await main(process.argv.slice(2));
} catch (error) {
  if (!(error instanceof CannotRead)) throw error;
  process.stderr.write(`${error.message}\n`);
  process.exitCode = 2;
}
