import type { TerminalRef } from "../machine/schema";
import type { InstrumentId } from "../reference/instruments";
import type { SimulatedBench } from "./bench";
import type { Probe } from "./probe";
import type { Situation } from "./situation";
import type { Observable } from "./types";

/**
 * A line protocol in the manner of the open instrument-command standard: common commands of IEEE 488.2, queries such as
 * `MEAS:VOLT? (@pack.+,bar-n1.bar)`. One command a line; a query answers with one line, everything else with none. Long and short
 * forms, any case. Numbers of errors and of the over-range value are those of that standard, from memory.
 */
export interface Session {
  /** Answers one line; null: nothing to answer. Mistakes go into the error queue, as instruments do. */
  ask(line: string): string | null;
}

/** What stands for over range. */
export const OVER_RANGE = "9.9E37";

const ERRORS = {
  "-109": "Missing parameter",
  "-113": "Undefined header",
  "-222": "Data out of range",
  "-224": "Illegal parameter value",
  "-221": "Settings conflict",
  "-350": "Queue overflow",
} as const;
type ErrorCode = keyof typeof ERRORS;

/** Bits of the standard event register. */
const [OPERATION_COMPLETE, EXECUTION_ERROR, COMMAND_ERROR] = [1, 16, 32];
/** Bit of the status byte that tells of waiting errors, and the one that sums the event register. */
const [ERROR_QUEUE, EVENT_SUMMARY] = [4, 32];
const QUEUE_MOST = 20;

/** A header as its short form: "MEASure:VOLTage:DC?" and "meas:volt?" are one. */
function shortForm(header: string): string {
  const query = header.endsWith("?");
  const parts = (query ? header.slice(0, -1) : header).toUpperCase().replace(/^:/, "").split(":");
  const short = parts.map((part) => LONG_FORMS[part] ?? part).filter((part, i) => !(part === "DC" && i === parts.length - 1));
  return `${short.join(":")}${query ? "?" : ""}`;
}

const LONG_FORMS: Readonly<Record<string, string>> = {
  MEASURE: "MEAS",
  VOLTAGE: "VOLT",
  CURRENT: "CURR",
  RESISTANCE: "RES",
  OUTPUT: "OUTP",
  SYSTEM: "SYST",
  ERROR: "ERR",
  SOURCE: "SOUR",
  INSTRUMENT: "INST",
  SELECT: "SEL",
  MACHINE: "MACH",
  STATE: "STAT",
  CATALOG: "CAT",
  INSPECT: "INSP",
  FUSE: "FUSE",
  TURNS: "TURN",
};

interface Asked {
  words: readonly string[];
  /** What stands in `(@…)`: places. */
  places: readonly string[];
}

function parametersOf(text: string): Asked {
  const list = /\(@([^)]*)\)/.exec(text);
  const rest = text.replace(/\(@[^)]*\)/, "");
  const split = (each: string) =>
    each
      .split(",")
      .map((word) => word.trim().replace(/^"(.*)"$/, "$1"))
      .filter((word) => word !== "");
  return { words: split(rest), places: list ? split(list[1] ?? "") : [] };
}

/** A simulated bench on the other end of a line. */
export class BenchSession implements Session {
  private errors: ErrorCode[] = [];
  private events = 0;
  private eventMask = 0;
  private serviceMask = 0;
  private situation: Situation | null = null;
  private meter: InstrumentId | null = null;
  private share = 1;
  private on = false;

  constructor(
    private readonly bench: SimulatedBench,
    private readonly situations: ReadonlyMap<string, Situation>,
  ) {}

  ask(line: string): string | null {
    const [, header = "", rest = ""] = /^\s*(\S+)\s*(.*?)\s*$/.exec(line) ?? [];
    if (header === "") return null;
    const command = shortForm(header);
    const common = this.common(command, rest);
    if (common !== undefined) return common;
    const own = COMMANDS.get(command);
    if (!own) return this.fail("-113", COMMAND_ERROR);
    return own(this, parametersOf(rest));
  }

  /** Common commands; undefined: none of them. */
  private common(command: string, rest: string): string | null | undefined {
    switch (command) {
      case "*IDN?":
        return `Node Ledger,simulated bench,${this.bench.seed},1`;
      case "*RST":
        this.situation = null;
        this.share = 1;
        this.on = false;
        this.meter = null;
        return null;
      case "*CLS":
        this.errors = [];
        this.events = 0;
        return null;
      case "*ESE":
        this.eventMask = Number(rest) & 255;
        return null;
      case "*ESE?":
        return String(this.eventMask);
      case "*SRE":
        this.serviceMask = Number(rest) & 255;
        return null;
      case "*SRE?":
        return String(this.serviceMask);
      case "*ESR?": {
        const { events } = this;
        this.events = 0;
        return String(events);
      }
      case "*STB?":
        return String((this.errors.length > 0 ? ERROR_QUEUE : 0) | ((this.events & this.eventMask) !== 0 ? EVENT_SUMMARY : 0));
      case "*OPC":
        this.events |= OPERATION_COMPLETE;
        return null;
      case "*OPC?":
        return "1";
      case "*TST?":
        return "0";
      case "*WAI":
        return null;
      case "SYST:ERR?":
      case "SYST:ERR:NEXT?": {
        const next = this.errors.shift();
        return next ? `${next},"${ERRORS[next]}"` : '0,"No error"';
      }
      default:
        return undefined;
    }
  }

  private fail(code: ErrorCode, event: number): null {
    if (this.errors.length >= QUEUE_MOST) this.errors[QUEUE_MOST - 1] = "-350";
    else this.errors.push(code);
    this.events |= event;
    return null;
  }

  /** How the machine stands: what is plugged in and what it does. */
  stand({ words }: Asked): null {
    const found = this.situations.get(words[0] ?? "");
    if (!found) return this.fail(words.length === 0 ? "-109" : "-224", EXECUTION_ERROR);
    this.situation = found;
    return null;
  }

  standing(): string {
    return `"${this.situation?.id ?? ""}"`;
  }

  catalogue(): string {
    return [...this.situations.keys()].map((id) => `"${id}"`).join(",");
  }

  /** Volts of the bench supply, as a share of what the plan has. */
  setShare({ words }: Asked): null {
    const share = Number(words[0]);
    if (words.length === 0) return this.fail("-109", EXECUTION_ERROR);
    if (!(share >= 0 && share <= 1)) return this.fail("-222", EXECUTION_ERROR);
    this.share = share;
    return null;
  }

  shareOf(): string {
    return String(this.share);
  }

  output({ words }: Asked): null {
    const word = (words[0] ?? "").toUpperCase();
    if (!["ON", "OFF", "1", "0"].includes(word)) return this.fail(word === "" ? "-109" : "-224", EXECUTION_ERROR);
    this.on = word === "ON" || word === "1";
    return null;
  }

  outputOf(): string {
    return this.on ? "1" : "0";
  }

  select({ words }: Asked): null {
    const found = METERS.find((each) => each === (words[0] ?? "").toLowerCase());
    if (!found) return this.fail("-224", EXECUTION_ERROR);
    this.meter = found;
    return null;
  }

  measure(kind: "volts" | "amps", { places }: Asked): string | null {
    const probe = probeOf(kind, places, this.bench);
    if (!probe) return this.fail(places.length === 0 ? "-109" : "-224", EXECUTION_ERROR);
    if (!this.situation) return this.fail("-221", EXECUTION_ERROR);
    const at: Observable = { kind: "network", situation: this.situation, probe };
    if (!this.on && this.situation.fedBy === "bench") return "0";
    return this.reading(at, this.meter ?? (kind === "volts" ? "hand" : "clamp"), this.share);
  }

  ohms({ places, words }: Asked): string | null {
    const [red, black] = places.slice(0, 2).map((text) => terminalOf(text, this.bench));
    if (!red || !black) return this.fail(places.length < 2 ? "-109" : "-224", EXECUTION_ERROR);
    const lifted = places.slice(2);
    const at: Observable = {
      kind: "ohms",
      red,
      black,
      contactsOpen: (words[0] ?? "").toUpperCase() === "OPEN",
      ...(lifted.length > 0 ? { lifted } : {}),
    };
    return this.reading(at, this.meter ?? "hand");
  }

  look(kind: "fuse" | "turns", { places }: Asked): string | null {
    const [id] = places;
    if (id === undefined) return this.fail("-109", EXECUTION_ERROR);
    const { partOf, wireOf } = this.bench.figures;
    if (!partOf.has(id) && !wireOf.has(id)) return this.fail("-224", EXECUTION_ERROR);
    return this.reading(kind === "fuse" ? { kind, subject: id } : { kind, part: id }, "eyes");
  }

  private reading(at: Observable, instrument: InstrumentId, share?: number): string {
    const value = this.bench.read(at, instrument, share);
    return value === null ? OVER_RANGE : String(value);
  }
}

const METERS = ["pocket", "hand", "bench", "clamp", "fine-clamp", "supply"] as const;

const COMMANDS: ReadonlyMap<string, (session: BenchSession, asked: Asked) => string | null> = new Map([
  ["MACH:STAT", (session: BenchSession, asked: Asked) => session.stand(asked)],
  ["MACH:STAT?", (session) => session.standing()],
  ["MACH:CAT?", (session) => session.catalogue()],
  ["SOUR:VOLT:SHAR", (session, asked) => session.setShare(asked)],
  ["SOUR:VOLT:SHAR?", (session) => session.shareOf()],
  ["OUTP", (session, asked) => session.output(asked)],
  ["OUTP?", (session) => session.outputOf()],
  ["INST:SEL", (session, asked) => session.select(asked)],
  ["MEAS:VOLT?", (session, asked) => session.measure("volts", asked)],
  ["MEAS:CURR?", (session, asked) => session.measure("amps", asked)],
  ["MEAS:RES?", (session, asked) => session.ohms(asked)],
  ["INSP:FUSE?", (session, asked) => session.look("fuse", asked)],
  ["INSP:TURN?", (session, asked) => session.look("turns", asked)],
]);

/** "pack.+" as a terminal the machine has. */
function terminalOf(text: string, bench: SimulatedBench): TerminalRef | null {
  const dot = text.indexOf(".");
  const ref = { part: text.slice(0, dot), terminal: text.slice(dot + 1) };
  return bench.figures.solved.circuit.nodes.get(ref.part)?.[ref.terminal] === undefined ? null : ref;
}

function probeOf(kind: "volts" | "amps", places: readonly string[], bench: SimulatedBench): Probe | null {
  if (kind === "volts") {
    const [red, black] = places.map((text) => terminalOf(text, bench));
    return red && black ? { kind, red, black } : null;
  }
  const [id = ""] = places;
  if (bench.figures.wireOf.has(id)) return { kind, wire: id };
  const part = bench.figures.partOf.get(id);
  return part?.kind === "pack" || part?.kind === "supply" ? { kind, source: id } : null;
}

/** The lines that take one reading: how the machine has to stand, then the query. What an instrument bridge is sent, too. */
export function linesFor(at: Observable, instrument: InstrumentId): string[] {
  const select = METERS.some((each) => each === instrument) ? [`INST:SEL ${instrument}`] : [];
  const terminal = ({ part, terminal: name }: TerminalRef) => `${part}.${name}`;
  switch (at.kind) {
    case "network": {
      const { situation, probe } = at;
      const query =
        probe.kind === "volts"
          ? `MEAS:VOLT? (@${terminal(probe.red)},${terminal(probe.black)})`
          : `MEAS:CURR? (@${"wire" in probe ? probe.wire : probe.source})`;
      return [`MACH:STAT "${situation.id}"`, `SOUR:VOLT:SHAR ${situation.share}`, "OUTP ON", ...select, query];
    }
    case "ohms":
      return [
        "OUTP OFF",
        ...select,
        `MEAS:RES? ${at.contactsOpen ? "OPEN," : ""}(@${[terminal(at.red), terminal(at.black), ...(at.lifted ?? [])].join(",")})`,
      ];
    case "fuse":
      return [`INSP:FUSE? (@${at.subject})`];
    case "turns":
      return [`INSP:TURN? (@${at.part})`];
  }
}

/** A query's answer as a number; null: over range. Undefined: no number. */
export function answered(line: string | null): number | null | undefined {
  if (line === null || line.trim() === "") return undefined;
  const value = Number(line);
  if (!Number.isFinite(value)) return undefined;
  return Math.abs(value) >= 9.9e37 ? null : value;
}
