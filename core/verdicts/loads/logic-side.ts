import { linearHeat } from "../../drivers/bridge";
import { type Build, closedMetal, perBuild } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { partName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { groupBy } from "../../machine/group";
import type { BuiltPart, Driver, Load } from "../../machine/schema";
import { isBoard, regulates } from "../../machine/terminals";
import { railOrigin, setVolts } from "../../machine/tree";
import { nodeAt } from "../../network/circuit";
import { say } from "../../quantity/format";
import { judgeChip } from "../chip-heat";
import { feedLogic, LOGIC_LEAST } from "../logic-feed";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "logic-side",
  title: "Logic side unfed, back-fed or fed twice",
  step: "loads",
  needs: "A regulator or a jumper setting that gives its logic the volts it wants: how it is fed only its sheet tells.",
});

/** How each driver's logic side and each board's regulator is fed: by nobody, by two, or by a regulator that cannot. */
export const logicSide = rule({ speak, reads: "figures", packBound: true, evaluate });

/** Chip temperature to plan linear regulators with, where the part allows 125 °C (common practice, no source). */
const CHIP_C = 110;
/** Where such a chip shuts down, °C (typical, from memory). */
const CHIP_MAX_C = 125;

type Carrier = Driver | Load;

function evaluate(figures: Figures): Verdict[] {
  const nets = plusNets(figures);
  const verdicts: Verdict[] = [];
  for (const part of figures.machine.parts) {
    if (part.kind === "driver" && part.logic !== undefined) verdicts.push(...fed(figures, part, nets));
    if ((part.kind === "driver" || isBoard(part)) && part.onboard) verdicts.push(...regulator(figures, part, nets));
  }
  for (const sources of nets.all) verdicts.push(...fighting(figures, sources));
  return verdicts;
}

interface Nets {
  /** Ids of the sources on each piece of metal. */
  all: readonly (readonly string[])[];
  /** Those on the metal that a node is part of. */
  at: (node: number) => readonly string[];
}

/** Which sources' plus terminals share a piece of metal, every switch closed; bridges and loads are not metal. */
const plusNets = perBuild((figures): Nets => {
  const { circuit } = figures.solved;
  const metal = closedMetal(figures);
  const nets = groupBy(circuit.emfs, ({ pos }) => String(metal(pos)));
  const ids = (net: readonly { id: string }[] | undefined) => (net ?? []).map((source) => source.id);
  return { all: [...nets.values()].map(ids), at: (node) => ids(nets.get(String(metal(node)))) };
});

function fed(figures: Build, driver: Driver, nets: Nets): Verdict[] {
  const node = nodeAt(figures.solved.circuit, driver.id, "5v");
  const sources = nets.at(node).filter((source) => source !== driver.id);
  if (regulates(driver)) return driver.logicV ? overfed(figures, driver, [driver.id]) : [];
  if (sources.length > 0) return overfed(figures, driver, sources);
  const volts = say(driver.logicV?.value ?? 5, "voltage");
  const why =
    driver.logic === "onboard"
      ? driver.onboard
        ? "The jumper of its own regulator is out"
        : "No regulator is entered for its board"
      : driver.logic === "controller"
        ? "It is to be fed from the controller, but no wire runs there"
        : "Nothing is wired to it";
  return [
    speak({
      part: driver,
      key: "unfed",
      severity: "fix",
      headline: `${driver.name}: its logic side has no supply`,
      detail: `${why}, so the bridge never switches, whatever its motor feed gives. Wire ${volts} from a regulator or the controller to its logic terminal and common ground.`,
      remedies: feedLogic(figures, driver),
    }),
  ];
}

/** How far above its nominal voltage a logic input is destroyed: 5 V logic at 6-7 V (from memory), the lower. */
const LOGIC_MOST = 1.2;

/** A supply on the logic terminal that is too high for it, at full charge. */
function overfed(figures: Build, driver: Driver, sources: readonly string[]): Verdict[] {
  const nominal = driver.logicV?.value ?? 5;
  const most = LOGIC_MOST * nominal;
  const reaches = (id: string) => {
    const source = figures.partOf.get(id);
    return source?.kind === "pack" ? (source.fullV ?? source.openCircuitV).value : setVolts(source);
  };
  const worst = sources.reduce((high, each) => (reaches(each) > reaches(high) ? each : high));
  const value = reaches(worst);
  if (value < LOGIC_LEAST * nominal) return [underfed(figures, driver, worst, value)];
  if (value <= most) return [];
  const headline = `${driver.name}: ${say(value, "voltage", "up")} from ${partName(figures, worst)} on its ${say(nominal, "voltage")} logic terminal`;
  const detail = `Logic for ${say(nominal, "voltage")} dies at about ${say(most, "voltage", "down")}. That terminal takes a regulator's output, never the motor supply.`;
  return [speak({ part: driver, key: "overfed", severity: "stop", headline, detail, compared: { volts: value, limit: most } })];
}

/** No supply on the logic terminal that is enough for it. */
function underfed(figures: Build, driver: Driver, source: string, volts: number): Verdict {
  const nominal = driver.logicV?.value ?? 5;
  const least = LOGIC_LEAST * nominal;
  return speak({
    part: driver,
    key: "underfed",
    severity: "fix",
    headline: `${driver.name}: ${say(volts, "voltage", "down")} from ${partName(figures, source)} for logic of ${say(nominal, "voltage")}`,
    detail: `Below ${say(least, "voltage", "up")} its bridge switches badly or not at all, and half switched it burns. A regulator for ${say(nominal, "voltage")}.`,
    compared: { volts, limit: least },
  });
}

function regulator(figures: Figures, part: Carrier, nets: Nets): Verdict[] {
  const { onboard } = part;
  const figure = figures.parts[part.id];
  if (!onboard || !figure) return [];
  const verdicts: Verdict[] = [];
  const [least, most] = [onboard.inputMinV.value, onboard.inputMaxV.value];
  // Without the full voltage the planned one is a bound from below: a breach is certain, its absence is asked about.
  const highest = railMaxV(figures, part);
  const lowest = figure.lowestV?.volts ?? null;
  const out = say(onboard.outputV.value, "voltage");
  const node = nodeAt(figures.solved.circuit, part.id, "5v");
  const others = nets.at(node).filter((source) => source !== part.id);
  const jumper = onboard.jumper === "fixed" ? [] : [pull(part)];
  if (!regulates(part)) return [];
  if (figure.wiring !== "ok") {
    if (others.length === 0) return [];
    return [
      speak.at("sources")({
        part,
        key: "backfed",
        severity: "watch",
        headline: `${part.name}: ${partName(figures, others[0] ?? "")} feeds its ${out} terminal from behind`,
        detail:
          "With nothing on its raw input, current runs backwards through its regulator. Many boards bear that, some regulators do not: look in its sheet, or put a diode from output to input.",
      }),
    ];
  }
  verdicts.push(...openWindow(figures, part));
  if (highest > most) {
    verdicts.push(
      speak({
        part,
        key: "above",
        severity: "stop",
        headline: `${part.name}: its own regulator takes ${say(most, "voltage", "down")}, the feed reaches ${say(highest, "voltage", "up")}`,
        detail: `Above its window the jumper must be out and ${out} fed in from elsewhere.`,
        compared: { volts: highest, limit: most },
        remedies: jumper,
      }),
    );
  } else if (highest >= 0 && highest < least) {
    verdicts.push(
      speak({
        part,
        key: "below",
        severity: "fix",
        headline: `${part.name}: its own regulator cannot start on ${say(highest, "voltage", "up")}`,
        detail: `It needs ${say(least, "voltage", "up")}. On a motor supply this low the jumper comes out and ${out} is fed in from elsewhere.`,
        compared: { volts: highest, limit: least },
        remedies: jumper,
      }),
    );
  } else if (lowest !== null && lowest < least) {
    verdicts.push(
      speak({
        part,
        key: "sag",
        severity: "fix",
        headline: `${part.name}: its own regulator drops out at ${say(lowest, "voltage", "down")}`,
        detail: `In ${figures.modes[figure.lowestV?.mode ?? 0]?.name} its feed sags below the ${say(least, "voltage", "up")} it needs, and whatever lives on its ${out} resets.`,
        compared: { volts: lowest, limit: least },
        remedies: jumper,
      }),
    );
  }
  verdicts.push(...heat(figures, part, others));
  return verdicts;
}

/** A pack whose extremes are not known leaves the regulator's window open. */
function openWindow(figures: Build, part: Carrier): Verdict[] {
  const pack = figures.partOf.get(railOrigin(figures.ledger, part.id) ?? "");
  if (pack?.kind !== "pack" || (pack.fullV && pack.lowV)) return [];
  const which = !pack.fullV && !pack.lowV ? "full and when nearly empty" : pack.fullV ? "nearly empty" : "full";
  return [
    speak.at("sources")({
      part,
      key: "window",
      severity: "ask",
      headline: `${part.name}: what does ${pack.name} show when ${which}?`,
      detail: "Its own regulator has a window at both ends, and only that figure settles whether it holds it.",
    }),
  ];
}

/** Output current against what the terminal may give, and the chip's temperature at the highest input. */
function heat(figures: Figures, part: Carrier, others: readonly string[]): Verdict[] {
  const { onboard } = part;
  const figure = figures.parts[part.id];
  const amps = figure?.worstOut?.amps ?? 0;
  if (!onboard || !figure || others.length > 0 || amps <= 0) return [];
  const verdicts: Verdict[] = [];
  const out = onboard.outputA?.value;
  const outV = onboard.outputV.value;
  if (out === undefined) {
    verdicts.push(
      speak.at("sources")({
        part,
        key: "output",
        severity: "ask",
        headline: `${part.name}: how much may its ${say(outV, "voltage")} terminal give?`,
        detail: `The plan takes ${say(amps, "current", "up")} from it. Small linear regulators give 0.1-0.3 A to others at 12 V in (from memory). Its sheet settles it: look for what is left for other parts.`,
      }),
    );
  } else if (amps > out) {
    verdicts.push(
      speak.at("sources")({
        part,
        key: "output",
        severity: "fix",
        headline: `${part.name}: ${say(amps, "current", "up")} from its ${say(outV, "voltage")} terminal, which gives ${say(out, "current", "down")}`,
        detail: "It is made for a controller, not for servos, relays or light strips. Give them a regulator of their own.",
        compared: { amps: amps, limit: out },
      }),
    );
  }
  if (onboard.type !== "linear") return verdicts;
  const input = railMaxV(figures, part);
  const judged = judgeChip(`${part.name}'s regulator`, ` at ${say(input, "voltage", "up")} in`, {
    watts: linearHeat(input, outV, amps),
    ambientC: figures.machine.settings.ambientC,
    kelvinPerWatt: onboard.kelvinPerWatt?.value,
    plannedC: CHIP_C,
    mostC: CHIP_MAX_C,
  });
  if (judged) verdicts.push(speak({ part, key: "heat", ...judged, remedies: onboard.jumper === "in" ? [pull(part)] : [] }));
  return verdicts;
}

/** Two regulators, or one and a USB port, on one node: the higher carries everything or they push into each other. */
function fighting(figures: Build, sources: readonly string[]): Verdict[] {
  if (sources.length < 2) return [];
  const parts = sources.flatMap((source) => figures.partOf.get(source) ?? []);
  if (parts.some(({ kind }) => kind === "pack") || !parts.some((part) => part.kind === "converter" || onItsBoard(part))) return [];
  const owner = parts.find(onItsBoard) ?? parts[0];
  if (!owner) return [];
  const names = parts.map((part) => (onItsBoard(part) ? `the regulator on ${part.name}` : part.name)).join(" and ");
  return [
    speak.at("sources")({
      part: owner,
      key: "twice",
      severity: "stop",
      also: parts.map((part) => part.id),
      headline: `${names} feed one node`,
      detail:
        "The higher one carries everything, or pushes current backwards into the other: into a computer's port, too. One source at a time: take the jumper out, cut the 5 V wire of the USB lead, or put a diode in each.",
      remedies: onItsBoard(owner) && owner.onboard?.jumper === "in" ? [pull(owner)] : [],
    }),
  ];
}

function onItsBoard(part: BuiltPart): part is Carrier {
  return part.kind === "driver" || part.kind === "load";
}

function pull(part: Carrier): Remedy {
  return {
    label: "Take the regulator's jumper out",
    command: { type: "updatePart", id: part.id, changes: { onboard: part.onboard && { ...part.onboard, jumper: "out" } } },
  };
}
