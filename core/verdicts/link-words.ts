import { type Standing, steadyOf } from "../analysis/standing";
import type { LinkKind, Machine, Signal, TerminalRef, Wire } from "../machine/schema";
import { groundTerminal, isSource, sameTerminal, terminalName } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { say } from "../quantity/format";
import { LOGIC_FAMILIES } from "../reference/logic";
import { minusPlace } from "../returns/arrange";
import { homesOf } from "../returns/shared";
import { partName } from "./helpers";
import type { Remedy } from "./types";

export const LINK_WORDS: Readonly<Record<LinkKind, string>> = {
  logic: "logic level",
  serial: "serial",
  pulse: "servo pulse",
  i2c: "I²C",
  analogue: "analogue",
  audio: "audio",
  rs485: "RS-485",
  can: "CAN",
  usb: "USB",
  opto: "optically isolated",
  "isolated supply": "isolated, own supply",
};

/** "Controller → Cutter driver". */
export function linkName(figures: Standing, signal: Signal): string {
  return `${partName(figures, signal.from)} → ${partName(figures, signal.to)}`;
}

export function names(list: readonly string[], most = 3): string {
  if (list.length <= 1) return list[0] ?? "nothing";
  if (list.length > most) return `${list.slice(0, most).join(", ")} and ${list.length - most} more`;
  return `${list.slice(0, -1).join(", ")} and ${list.at(-1)}`;
}

/** Takes the link's own ground wire and shield away and puts an isolator in its place. */
const isolateById = steadyOf((figures, signalId): Remedy => {
  const signal = figures.machine.signals?.find(({ id }) => id === signalId);
  const own = figures.machine.wires.filter((wire) => wire.signal === signalId);
  return {
    label: "Isolate the link",
    command: {
      type: "batch",
      label: `Isolate ${signal ? linkName(figures, signal) : "the link"}`,
      commands: [
        ...own.map(({ id }) => ({ type: "removeWire" as const, id })),
        { type: "updateSignal", id: signalId, changes: { kind: "opto", bothWays: undefined } },
      ],
    },
  };
});

export function isolate(figures: Standing, signal: Signal): Remedy {
  return isolateById(figures, signal.id);
}

/** The return a part's own current leaves by. */
export function ownReturn(figures: Standing, partId: string): Wire | undefined {
  return homesOf(figures)
    .of.get(partId)
    ?.find((wire) => wire.role === "return" && wire.from.part === partId);
}

/** Better places for a board's return: the minus of its own supply (the bar beside it), and where a regulator itself lands. */
export const betterLandings = steadyOf((figures, partId): readonly Remedy[] => {
  const wire = ownReturn(figures, partId);
  const origin = figures.partOf.get(railOrigin(figures.ledger, partId) ?? "");
  if (!wire || !origin) return [];
  const minus: TerminalRef =
    origin.kind === "converter"
      ? { part: origin.id, terminal: "out-" }
      : isSource(origin)
        ? minusPlace(figures.machine, figures.partOf, origin)
        : { part: origin.id, terminal: groundTerminal(origin) ?? "-" };
  const back = figures.machine.wires.find((each) => each.role === "return" && each.from.part === origin.id && each.from.terminal === "in-");
  return [minus, ...(back ? [back.to] : [])].flatMap((at): Remedy[] => {
    const place = figures.partOf.get(at.part);
    if (!place || sameTerminal(at, wire.to)) return [];
    return [{ label: `Land it on ${terminalName(place, at.terminal)}`, command: { type: "reland", wireId: wire.id, end: "to", at } }];
  });
});

/** What a link works with, in words: levels, a converter, a bus. A question mark where that is not told. */
export function levelWords(signal: Signal): string {
  if (signal.allowsV) return `${say(signal.allowsV.value, "voltage", "down")} allowed by its sheet`;
  switch (signal.kind) {
    case "analogue":
      return signal.fullScaleV && signal.bits
        ? `${signal.bits} bits over ${say(signal.fullScaleV.value, "voltage")}`
        : "? full scale and bits";
    case "i2c":
      return signal.busV ? `${say(signal.busV.value, "voltage")} bus` : "? bus volts";
    case "logic":
    case "serial":
    case "pulse":
      return signal.sender && signal.receiver
        ? `${LOGIC_FAMILIES[signal.sender].short} → ${LOGIC_FAMILIES[signal.receiver].short}`
        : "? levels";
    default:
      return "";
  }
}

/** The ground wire or the shield that runs along with a link, in words. */
export function groundWords(machine: Machine, signal: Signal, shield: boolean): string {
  const wire = machine.wires.find((each) => each.signal === signal.id && (each.shield === true) === shield);
  if (shield) return wire ? "both ends" : signal.shieldLifted ? "one end" : "none";
  if (!wire) return "none";
  return `${wire.gauge ?? "? size"}${wire.resistorOhm ? ` + ${say(wire.resistorOhm.value, "resistance")}` : ""}`;
}
