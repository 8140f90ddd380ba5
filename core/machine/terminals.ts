import type { Onboard } from "./load-schema";
import type { BuiltMachine, BuiltPart, PartOf, Source, TerminalRef, Wire } from "./schema";

/** One kind of a part, as much of it as is known: without cells where the part came without. */
type KindOf<P extends BuiltPart, K extends BuiltPart["kind"]> = Extract<P, { kind: K }>;

const TWO_POLE = ["+", "-"] as const;
const BAR = ["bar"] as const;
const THROUGH = ["in", "out"] as const;
/** A contactor whose coil is planned: its contact and its coil. */
const COILED = ["in", "out", "c+", "c-"] as const;
const CONVERTER = ["in+", "in-", "out+", "out-"] as const;
/** Whether a terminal gives a part's logic voltage: its regulator's own, or one of its signal pins. */
export function givesLogic(terminal: string | undefined): boolean {
  return terminal === "5v" || terminal === "pin";
}

const BOARD = ["+", "-", "5v", "pin"] as const;

const DRIVER = Array.from({ length: 9 }, (_, channels) => [
  "in+",
  "in-",
  ...Array.from({ length: channels }, (_, i) => [`${i + 1}a`, `${i + 1}b`]).flat(),
]);

const DRIVER_LOGIC = DRIVER.map((terminals) => [...terminals, "5v"]);

/** Loads with terminals of their own that feed others: controller boards and computers. */
export function isBoard<P extends BuiltPart>(part: P): part is KindOf<P, "load"> {
  return part.kind === "load" && (part.loadKind === "board" || part.loadKind === "computer");
}

/** Whether a regulator on the part's own board makes its logic voltage (its jumper is in). */
export function regulates<P extends BuiltPart>(part: P): part is KindOf<P, "load" | "driver"> & { onboard: Onboard } {
  if (part.kind === "driver") return part.logic === "onboard" && part.onboard !== undefined && part.onboard.jumper !== "out";
  return isBoard(part) && part.onboard !== undefined && part.onboard.jumper !== "out";
}

/**
 * Terminal names of each kind; supply and return are always separate terminals. `c+` and `c-` are a contactor's coil. `5v` is the logic node of a board or
 * driver: an output while its own regulator runs, else an input. `pin` is a signal pin of a board.
 */
export function terminalsOf(part: BuiltPart): readonly string[] {
  switch (part.kind) {
    case "load":
      return isBoard(part) ? BOARD : TWO_POLE;
    case "pack":
    case "supply":
      return TWO_POLE;
    case "bar":
      return BAR;
    case "switch":
      return part.coilOhm === undefined ? THROUGH : COILED;
    case "fuse":
      return THROUGH;
    case "converter":
      return CONVERTER;
    case "driver":
      return (part.logic === undefined ? DRIVER : DRIVER_LOGIC)[part.channels] ?? [];
  }
}

/** A terminal as one text, for maps. */
export function terminalKey(ref: TerminalRef): string {
  return `${ref.part}.${ref.terminal}`;
}

/** Whether two names mean one terminal. */
export function sameTerminal(a: TerminalRef, b: TerminalRef): boolean {
  return a.part === b.part && a.terminal === b.terminal;
}

/** Whether a wire brings current towards loads: a supply wire, or a lead out to a motor. The rest brings it back. */
export function isFeed(wire: Wire): boolean {
  return wire.role === "supply" || (wire.role === "phase" && wire.pair === undefined);
}

/** The frame, as a node. */
export function isChassis(part: BuiltPart | undefined): boolean {
  return part?.kind === "bar" && part.form === "chassis";
}

/** A bar that returns may land on. */
export function isReturnBar(part: BuiltPart | undefined): part is PartOf<"bar"> {
  return part?.kind === "bar" && part.side === "negative" && part.form !== "chassis";
}

/** Where a part's ground is: what its own return leaves from, or the minus it gives; null for what has none. */
export function groundTerminal(part: BuiltPart): string | null {
  if (isSource(part)) return "-";
  if (part.kind === "bar") return part.side === "negative" ? "bar" : null;
  return inputTerminals(part).back;
}

/** Terminals of the part that take its own feed: where current arrives and where it leaves again. */
export function inputTerminals(part: BuiltPart): { supply: string | null; back: string | null } {
  switch (part.kind) {
    case "pack":
    case "supply":
      return { supply: null, back: null };
    case "bar":
      return part.side === "positive" ? { supply: "bar", back: null } : { supply: null, back: "bar" };
    case "switch":
    case "fuse":
      return { supply: "in", back: null };
    case "driver":
    case "converter":
      return { supply: "in+", back: "in-" };
    case "load":
      return { supply: "+", back: "-" };
  }
}

/** Whether current comes from the part. */
export function isSource(part: BuiltPart): part is Source {
  return part.kind === "pack" || part.kind === "supply";
}

/** Parts that draw current of their own: loads, drivers and converters. */
export function isConsumer<P extends BuiltPart>(part: P): part is KindOf<P, "load" | "driver" | "converter"> {
  return part.kind === "load" || part.kind === "driver" || part.kind === "converter";
}

/** A terminal of a machine in words, by where a wire ends. */
export function endName(machine: BuiltMachine, ref: TerminalRef): string {
  const part = machine.parts.find(({ id }) => id === ref.part);
  return part ? terminalName(part, ref.terminal) : "?";
}

/** A terminal in words: "Bar P1", "Pack +", "Paddle driver channel 2". */
export function terminalName(part: BuiltPart, terminal: string): string {
  if (part.kind === "bar") return part.name;
  const channel = /^(\d)([ab])$/.exec(terminal);
  if (channel) return `${part.name} channel ${channel[1]}${channel[2]}`;
  if (terminal === "5v")
    return `${part.name} logic ${part.kind === "driver" || isBoard(part) ? `${part.onboard?.outputV.value ?? 5} V` : ""}`.trim();
  return `${part.name} ${terminal.replace("-", "−")}`;
}

/** A bond that a standoff, a case or a shield makes has no size anybody could tell. */
export function happens(wire: Wire): boolean {
  return wire.role === "bond" && wire.bondBy !== undefined && wire.bondBy !== "wire";
}
