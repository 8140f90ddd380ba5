import { readFileSync, statSync } from "node:fs";
import { type AddressInfo, createServer } from "node:net";
import { analyseFully } from "@/core/analysis/fully";
import { bringUpOf } from "@/core/bringup/plan";
import { draftAtOnce } from "@/core/drafting/draft";
import { readList, spoken } from "@/core/drafting/read-list";
import { assumptionsText } from "@/core/drafting/told";
import { weighedAtOnce } from "@/core/drafting/weigh";
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
import { finish } from "@/core/machine/finish";
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
  ledger draft LIST [--name NAME]                     a whole plan from a list, one thing a line; what it assumed on stderr
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

/** Where a command writes what it was asked for, and what went wrong or was assumed. */
export interface Streams {
  out(text: string): void;
  err(text: string): void;
}

function textOf(file: string): string {
  try {
    if (statSync(file).size > MAX_BYTES) throw new CannotRead(`${file}: larger than any machine this tool writes (8 MB)`);
    return readFileSync(file, "utf8");
  } catch (error) {
    if (error instanceof CannotRead) throw error;
    throw new CannotRead(`${file}: cannot be opened`);
  }
}

function load(file: string, { err }: Streams): Machine {
  const result = readMachineText(textOf(file));
  if (result.ok) {
    if (result.cleaned.length > 0) err(`${file}: characters that cannot be seen were left out of ${result.cleaned.join(", ")}\n`);
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
  return sizeTable(finish(sizePlan(machine, { objective })));
}

/** A list as a machine; the lines that are not in it and what was assumed go to stderr, what could change most first. */
function drafted(file: string, args: readonly string[], { err }: Streams): string {
  const list = readList(textOf(file));
  if (spoken(list).length === 0) throw new CannotRead(`${file}: no line says what is in the machine`);
  const { machine, left } = draftAtOnce(list, { name: option(args, "--name") ?? "Draft" });
  err(assumptionsText(list, left, weighedAtOnce(machine)));
  return toJson(machine);
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
function serveBench(machine: Machine, args: readonly string[], { out, err }: Streams): void {
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
    err(`port ${port}: ${error.message}\n`);
    process.exitCode = 2;
  });
  server.listen(port, "127.0.0.1", () =>
    out(`${machine.name} on a simulated bench at 127.0.0.1:${portOf(server.address(), port)}, seed ${seed}. Stop with Ctrl C.\n`),
  );
}

/** The port a server got where any was asked for. */
function portOf(address: string | AddressInfo | null, asked: number): number {
  return typeof address === "object" && address ? address.port : asked;
}

/** Longest line the bench listens to. */
const LINE_MOST = 1000;

async function answered(args: readonly string[], streams: Streams): Promise<number> {
  const { out } = streams;
  const [command, file] = args;
  if (command === "check" && file) {
    const machine = load(file, streams);
    const { analysis } = analyseFully(machine);
    out(`${args.includes("--json") ? JSON.stringify(checkReport(machine, analysis), null, 2) : verdictTable(machine, analysis)}\n`);
    return analysis.verdicts.some(({ severity, decided }) => severity === "stop" && !decided) ? 1 : 0;
  }
  if (command === "shorts" && file) {
    out(`${shortTable(analyseFully(load(file, streams)).figures)}\n`);
    return 0;
  }
  if (command === "size" && file) {
    out(`${sized(load(file, streams), args)}\n`);
    return 0;
  }
  if (command === "settle" && file) {
    out(`${settled(load(file, streams), args)}\n`);
    return 0;
  }
  if (command === "draft" && file) {
    out(drafted(file, args, streams));
    return 0;
  }
  if (command === "bring-up" && file) {
    out(`${bringUpTable(bringUpOf(analyseFully(load(file, streams)).figures))}\n`);
    return 0;
  }
  if (command === "bench" && file) {
    serveBench(load(file, streams), args, streams);
    return 0;
  }
  if (command === "export" && file) {
    out(await exportAs(load(file, streams), args));
    return 0;
  }
  if (command === undefined || command === "help" || command === "--help") {
    out(`${USAGE}\n`);
    return command === undefined ? 2 : 0;
  }
  throw new CannotRead(`"${args.join(" ")}" is not a command.\n\n${USAGE}`);
}

/** Does what a command line asks for. Returns the exit code: 0, 1 where a check says Stop, 2 where file or command cannot be read. */
export async function ledger(args: readonly string[], streams: Streams): Promise<number> {
  try {
    return await answered(args, streams);
  } catch (error) {
    if (!(error instanceof CannotRead)) throw error;
    streams.err(`${error.message}\n`);
    return 2;
  }
}
