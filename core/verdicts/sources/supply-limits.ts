import { railCapacitance } from "../../figures/capacitance";
import type { Figures } from "../../figures/figures";
import type { Converter, Part, Supply } from "../../machine/schema";
import { railOrigin } from "../../machine/tree";
import { say } from "../../quantity/format";
import { USB_HIGH_V, USB_LOW_V, USB_PORTS } from "../../reference/supplies";
import { derating, startTime } from "../../sources/supply";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "supply-limits",
  title: "A supply's box, least load and start",
  step: "sources",
  needs: "Another supply, or a load that suits what this one can do.",
});

/** What a supply's one current rating does not say: the box's total, a least load, uneven outputs, and what it can start into. */
export const supplyLimits = rule({ speak, reads: "figures", byDraw: true, evaluate });

const subject = (part: Part) => ({ kind: "part" as const, id: part.id });

function evaluate(figures: Figures): Verdict[] {
  const supplies = figures.machine.parts.filter((part): part is Supply => part.kind === "supply");
  return [
    ...supplies.flatMap((supply) => boxTotal(figures, supply, supplies)),
    ...figures.machine.parts.flatMap((part) => leastLoad(figures, part)),
    ...supplies.flatMap((supply) => uneven(figures, supply, supplies)),
    ...supplies.flatMap((supply) => portVolts(figures, supply)),
    ...figures.machine.parts.flatMap((part) => (part.kind === "supply" || part.kind === "converter" ? start(figures, part) : [])),
  ];
}

/** Outputs of one box, the first among them. */
function outputsOf(supply: Supply, supplies: readonly Supply[]): Supply[] {
  return supplies.filter((each) => each.id === supply.id || each.box === supply.id);
}

function boxTotal(figures: Figures, supply: Supply, supplies: readonly Supply[]): Verdict[] {
  if (!supply.boxW || supply.box !== undefined) return [];
  const outputs = outputsOf(supply, supplies);
  const limit = supply.boxW.value * derating(figures.machine.settings.ambientC, supply.derateFromC?.value, supply.derateShare?.value);
  let watts = 0;
  let worst = 0;
  figures.modes.forEach((_, m) => {
    const now = outputs.reduce((sum, output) => {
      const figure = figures.parts[output.id];
      return sum + Math.max(0, (figure?.outV?.[m] ?? 0) * (figure?.amps[m] ?? 0));
    }, 0);
    if (now <= watts) return;
    watts = now;
    worst = m;
  });
  const share = watts / limit;
  if (share <= 0.8) return [];
  return [
    speak({
      subject: subject(supply),
      key: "box",
      about: supply.id,
      severity: share > 1 ? "fix" : "watch",
      headline: `${supply.name}: its outputs together give ${say(watts, "power", "up")} of ${say(limit, "power", "down")} in ${figures.modes[worst]?.name}`,
      detail: `The box has one rating for all ${outputs.length} outputs${limit < supply.boxW.value ? `, less at ${say(figures.machine.settings.ambientC, "temperature")}` : ""}. ${share > 1 ? "It switches off as a whole. Take a larger box, or feed a rail from elsewhere." : "Above 80 % little is left (common practice)."}`,
      compared: { watts, limit },
    }),
  ];
}

function leastLoad(figures: Figures, part: Part): Verdict[] {
  if ((part.kind !== "supply" && part.kind !== "converter") || !part.minLoadA) return [];
  const figure = figures.parts[part.id];
  const given = part.kind === "converter" ? figure?.outA : figure?.amps;
  if (!figure || !given) return [];
  const least = part.minLoadA.value;
  const below = figures.modes.filter((_, m) => figure.live[m] && !figure.atLeast[m] && (given[m] as number) < least);
  if (below.length === 0) return [];
  const lowest = Math.min(...below.map(({ id: mode }) => given[figures.modes.findIndex((each) => each.id === mode)] as number));
  return [
    speak({
      subject: subject(part),
      key: "least",
      about: part.id,
      severity: "fix",
      headline: `${part.name} needs at least ${say(least, "current", "up")} and gives ${say(Math.max(0, lowest), "current", "down")} in ${below[0]?.name}`,
      detail: `Below its least load its voltage climbs, sways or it switches off${below.length > 1 ? `; the same in ${below.length - 1} more mode${below.length > 2 ? "s" : ""}` : ""}. A resistor of ${say(part.outputV.value / least, "resistance", "down")} across its output settles it and makes ${say(part.outputV.value * least, "power", "up")} of heat.`,
      compared: { amps: lowest, limit: least },
    }),
  ];
}

/** Parts on a supply's rail that do not take all of a span of its volts, what they lose on the way taken off. */
function pinched(figures: Figures, supply: Supply, lowV: number, highV: number): Part[] {
  return figures.machine.parts.filter((part) => {
    if ((part.kind !== "load" && part.kind !== "driver" && part.kind !== "converter") || railOrigin(figures.ledger, part.id) !== supply.id)
      return false;
    const drop = supply.outputV.value - (figures.parts[part.id]?.lowestV?.volts ?? supply.outputV.value);
    return (
      (part.inputMaxV !== undefined && highV > part.inputMaxV.value) || (part.inputMinV !== undefined && lowV - drop < part.inputMinV.value)
    );
  });
}

/** Uneven loads on a box that regulates one output only: the others move. */
function uneven(figures: Figures, supply: Supply, supplies: readonly Supply[]): Verdict[] {
  if (!supply.crossShare || !figures.parts[supply.id]?.live.includes(1)) return [];
  const shift = supply.crossShare.value;
  const [low, high] = [supply.outputV.value * (1 - shift), supply.outputV.value * (1 + shift)];
  const others = outputsOf(supply.box === undefined ? supply : (supplies.find(({ id: each }) => each === supply.box) ?? supply), supplies);
  if (others.length < 2) return [];
  const parts = pinched(figures, supply, low, high);
  if (parts.length === 0) return [];
  return [
    speak({
      subject: subject(supply),
      key: "cross",
      about: supply.id,
      severity: "watch",
      also: parts.map((part) => part.id),
      headline: `${supply.name} moves between ${say(low, "voltage", "down")} and ${say(high, "voltage", "up")} with the loads on its other outputs`,
      detail: `That is outside what ${parts
        .slice(0, 3)
        .map(({ name }) => name)
        .join(
          ", ",
        )} accept${parts.length > 1 ? "" : "s"}. Boxes that regulate one output let the others follow the balance of loads: load the regulated one, or put a converter before the part.`,
      compared: { volts: high },
    }),
  ];
}

/** What a 5 V port may show by its standard, whatever it is taken to be, against what hangs on it. */
function portVolts(figures: Figures, supply: Supply): Verdict[] {
  if (supply.make !== "usb" || (supply.usbPort !== undefined && USB_PORTS[supply.usbPort].volts !== 5)) return [];
  const measured = supply.outputV.provenance === "measured";
  const parts = pinched(figures, supply, USB_LOW_V, USB_HIGH_V);
  if (measured || parts.length === 0) return [];
  return [
    speak({
      subject: subject(supply),
      key: "port",
      about: supply.id,
      severity: "watch",
      also: parts.map((part) => part.id),
      headline: `${supply.name} may show ${say(USB_LOW_V, "voltage", "down")} to ${say(USB_HIGH_V, "voltage", "up")}: ${parts[0]?.name} does not take all of that`,
      detail: `A port at its lowest, less what its cable and wires lose, is short for ${parts
        .slice(0, 3)
        .map(({ name }) => name)
        .join(", ")}, or its highest is too much (USB 2.0 and Type-C, from memory). A reading at the port under load settles it.`,
      compared: { volts: USB_LOW_V },
    }),
  ];
}

/** Charging what hangs on a rail takes current for a while: the protection must wait that long. */
function start(figures: Figures, supply: Supply | Converter): Verdict[] {
  const farad = railCapacitance(figures, supply.id);
  if (farad === 0) return [];
  const most = supply.startF?.value;
  const base = { subject: subject(supply) };
  if (most !== undefined && farad > most) {
    return [
      speak({
        ...base,
        key: "start",
        about: supply.id,
        severity: "fix",
        headline: `${supply.name} starts into ${say(most, "capacitance", "down")} at most, its rail holds ${say(farad, "capacitance", "up")}`,
        detail:
          "It takes the charging current for a short and switches off, again and again. Charge the bank through a resistor first, or take a type that holds its current.",
        compared: { farads: farad, limit: most },
      }),
    ];
  }
  const limit = supply.limitA?.value;
  if (limit === undefined || supply.kind !== "supply" || !supply.startS) return [];
  const drawnA = Math.min(...figures.modes.map((_, m) => figures.parts[supply.id]?.amps[m] ?? 0));
  const seconds = startTime(farad, supply.outputV.value, limit, Math.max(0, drawnA));
  if (seconds <= supply.startS.value) return [];
  return [
    speak({
      ...base,
      key: "start",
      about: supply.id,
      severity: "fix",
      headline: Number.isFinite(seconds)
        ? `${supply.name} needs ${say(seconds, "time", "up")} to charge its rail, its protection waits ${say(supply.startS.value, "time", "down")}`
        : `${supply.name} never charges its rail: its loads take all it can give`,
      detail: `t = C·V / (I_limit − I_load) with ${say(farad, "capacitance", "up")} and ${say(limit, "current", "down")}. Keep drives disabled while it starts, or charge the bank through a resistor.`,
      compared: { seconds, limit: supply.startS.value },
    }),
  ];
}
