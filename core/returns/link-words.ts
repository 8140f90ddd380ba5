import type { Build } from "../figures/build";
import { partName } from "../figures/names";
import type { Machine } from "../machine/schema";
import type { LinkKind, Signal } from "../machine/signal-schema";
import { say } from "../quantity/format";
import { LOGIC_FAMILIES } from "../reference/logic";

/** Kinds of links as they are shown. */
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
export function linkName(figures: Build, signal: Signal): string {
  return `${partName(figures, signal.from)} → ${partName(figures, signal.to)}`;
}

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
