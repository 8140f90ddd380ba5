import { carryCapacitance, nextCapacitor } from "../../converters/capacitor";
import { perBuild } from "../../figures/build";
import { largestLoss } from "../../figures/drop";
import type { Figures } from "../../figures/figures";
import { partName } from "../../figures/names";
import type { Part } from "../../machine/schema";
import { inputTerminals, isConsumer } from "../../machine/terminals";
import { railOrigin } from "../../machine/tree";
import { nodeAt } from "../../network/circuit";
import { say } from "../../quantity/format";
import { dischargeOf, stopCharge } from "../../sources/sag";
import { holdUpNeed, ridesOf } from "../../sources/stops";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "input-window",
  title: "Input voltage outside a part's window",
  step: "sources",
  needs: "Another part for these volts, or a source that stays inside its window: both are yours to choose.",
});

/** Highest voltage (pack full, nothing running) and lowest (worst mode, pack at its lowest) against what a part accepts. */
export const inputWindow = rule({ speak, reads: "figures", byDraw: true, sized: true, packBound: true, evaluate });

/** Share of the minimum below which little is left. */
const CLOSE = 0.03;

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  const asked = new Map<string, { full: boolean; low: boolean; parts: string[] }>();
  for (const part of figures.machine.parts) {
    if (!isConsumer(part)) continue;
    const figure = figures.parts[part.id];
    if (figure?.wiring !== "ok") continue;
    const originId = railOrigin(figures.ledger, part.id);
    const origin = originId === null ? undefined : figures.partOf.get(originId);
    const base = { part };
    const max = part.inputMaxV?.value;
    const min = part.inputMinV?.value;

    // A load without a window is judged by the volts it is meant for: it hangs on the pack's full voltage just the same.
    const fullUnsure = figure.highestV === null && (max !== undefined || part.kind === "load");
    const lowUnsure = origin?.kind === "pack" && min !== undefined && !origin.lowV;
    const askedOf =
      lowUnsure || (fullUnsure && origin?.kind === "pack" && !origin.fullV) ? origin : fullUnsure ? withoutFull(figures) : undefined;
    if (askedOf && (fullUnsure || lowUnsure)) {
      const entry = asked.get(askedOf.id) ?? { full: false, low: false, parts: [] };
      entry.full ||= fullUnsure;
      entry.low ||= lowUnsure;
      entry.parts.push(part.name);
      asked.set(askedOf.id, entry);
    }
    // Without a full voltage what is known is still a bound from below: a breach is certain, its absence is not.
    const highest = figure.reachesV;
    if (max !== undefined && highest !== null && highest > max) {
      const own = origin && figures.parts[origin.id]?.reachesV;
      const alone = origin?.kind === "pack" && own !== null && own !== undefined && Math.abs(own - highest) < 0.01 * highest;
      verdicts.push(
        speak({
          ...base,
          key: "max",
          severity: "stop",
          headline: `${part.name} accepts ${say(max, "voltage", "down")}, ${alone ? partName(figures, origin.id) : "what feeds it"} reaches ${say(highest, "voltage", "up")}`,
          detail: `${alone && origin.fullV ? "Full and with nothing running, the pack stands at that voltage" : "That is the most that can reach it, every pack full and nothing running"}, and electronics above their maximum fail at once. Take a part for a higher input, or put a converter before it.`,
          compared: { volts: highest, limit: max },
        }),
      );
    }
    const lowest = min === undefined ? null : lowestOf(figures, part, min);
    if (min === undefined || !lowest) continue;
    const { volts, mode } = lowest;
    const short = volts < min;
    if (!short && volts > min * (1 + CLOSE)) continue;
    verdicts.push(
      speak({
        ...base,
        key: "min",
        ...scarceAt(figures, part.id, origin?.kind === "pack" ? origin.id : undefined, mode, volts, min),
        severity: short ? "fix" : "watch",
        headline: short
          ? `${part.name} needs ${say(min, "voltage", "up")} and gets ${say(volts, "voltage", "down")}`
          : `${part.name}: ${say(volts, "voltage", "down")} at worst, minimum ${say(min, "voltage", "up")}`,
        detail: `In ${figures.modes[mode]?.name}${origin?.kind === "pack" && origin.lowV ? " with the pack at its lowest planned charge" : ""} that is what is left at its terminals. ${short ? `It will reset, drop out or stop${origin?.kind === "pack" ? belowCharge(figures, part, origin.id, mode) : ""}` : "A cold pack or one loose crimp takes the rest"}.`,
        compared: { volts, limit: min },
        remedies: short ? holdUp(figures, part, min, mode) : [],
      }),
    );
  }
  for (const [packId, { full, low, parts }] of asked) {
    const name = partName(figures, packId);
    const which = full && low ? "voltage when full and when nearly empty" : full ? "voltage when full" : "voltage when nearly empty";
    verdicts.push(
      speak({
        part: { id: packId },
        key: "ask",
        severity: "ask",
        headline: `${name}: what is its ${which}?`,
        detail: `${parts.slice(0, 3).join(", ")}${parts.length > 3 ? ` and ${parts.length - 3} more` : ""} ${parts.length > 1 ? "have" : "has"} an input window that only this figure can settle. Measure the rested pack straight off the charger${low ? ", and just before you would recharge it" : ""}.`,
      }),
    );
  }
  return verdicts;
}

/** Where the volts are lost that a part lacks: in one conductor that alone would make the difference, else at its pack. */
function scarceAt(figures: Figures, partId: string, packId: string | undefined, mode: number, volts: number, min: number) {
  const point = figures.solved.planned[mode];
  const lost = point?.status === "solved" ? largestLoss(figures, partId, point) : null;
  return lost && lost.drop > min - volts && packId === undefined ? { cause: lost.wire.id } : { cause: packId };
}

/** The first pack whose full voltage nobody told. */
const withoutFull = perBuild((build) => build.machine.parts.find((part) => part.kind === "pack" && !part.fullV));

/** The lowest voltage a part sees in the modes that its own capacitor does not carry it through. */
function lowestOf(figures: Figures, part: Part, min: number): { volts: number; mode: number } | null {
  const plain = figures.parts[part.id]?.lowestV ?? null;
  // Turned round it lacks no volts: that is said where plus and minus are crossed.
  if (plain && plain.volts < 0) return null;
  if ((part.kind !== "load" && part.kind !== "converter") || !part.holdUpF || !plain || plain.volts >= min) return plain;
  const { circuit, low } = figures.solved;
  const rides = ridesOf(figures.machine, circuit, part, min, (m) => low[m]);
  const { supply, back } = inputTerminals(part);
  const pos = nodeAt(circuit, part.id, supply ?? "");
  const neg = nodeAt(circuit, part.id, back ?? "");
  let lowest: { volts: number; mode: number } | null = null;
  figures.machine.modes.forEach((mode, m) => {
    const point = low[m];
    if ((mode.lastsS ?? Number.POSITIVE_INFINITY) <= rides || point?.status !== "solved" || !figures.parts[part.id]?.live[m]) return;
    const volts = (point.nodeV[pos] as number) - (point.nodeV[neg] as number);
    if (lowest === null || volts < lowest.volts) lowest = { volts, mode: m };
  });
  return lowest;
}

/** ", below 34 % charge": where the pack's chemistry tells. */
function belowCharge(figures: Figures, part: Part, packId: string, mode: number): string {
  const discharge = dischargeOf(figures.solved.circuit);
  const pack = discharge.packs.findIndex((model) => model.pack.id === packId);
  const stop = discharge.stops.find((each) => each.part.id === part.id && each.kind !== "regulator");
  if (pack < 0 || !stop) return "";
  const charge = stopCharge(discharge, pack, mode, stop);
  if (charge <= 0) return "";
  return charge >= 1 ? ", even with the pack full" : `, below ${Math.ceil(charge * 100)} % charge`;
}

/** Resistance of one electrolytic capacitor of the size offered, Ω (handbook 6.3: 30 to 100 mΩ; from memory). */
const ESR_OHM = 0.05;

/** Beyond this nobody fits a capacitor, F. */
const LARGEST_F = 0.1;
/** What a capacitor is chosen for, times what is computed: they age and are sold within a fifth (common practice, no source). */
const SPARE = 1.2;

/** A capacitor behind a diode that carries a board through a short dip: C = I·t / (ΔV − I·ESR). */
function holdUp(figures: Figures, part: Part, min: number, mode: number): Remedy[] {
  if (
    (part.kind !== "load" && part.kind !== "converter") ||
    (part.kind === "load" && part.loadKind !== "board" && part.loadKind !== "computer")
  )
    return [];
  const seconds = figures.machine.modes[mode]?.lastsS;
  const { low } = figures.solved;
  const need = holdUpNeed(figures.machine, figures.solved.circuit, part, (m) => low[m]);
  if (seconds == null || !need || !(need.fromV > min)) return [];
  // It only helps where what is short is a dip: in every mode that lasts the part must have enough.
  const { supply, back } = inputTerminals(part);
  const [pos, neg] = [nodeAt(figures.solved.circuit, part.id, supply ?? ""), nodeAt(figures.solved.circuit, part.id, back ?? "")];
  const enough = figures.machine.modes.every(({ lastsS }, m) => {
    const point = low[m];
    if ((lastsS !== null && lastsS <= seconds) || !figures.parts[part.id]?.live[m]) return true;
    return point?.status === "solved" && (point.nodeV[pos] as number) - (point.nodeV[neg] as number) >= min;
  });
  if (!enough) return [];
  const farad = carryCapacitance(need.watts / min, seconds * SPARE, need.fromV - min, ESR_OHM);
  if (farad === null || farad > LARGEST_F) return [];
  const fitted = nextCapacitor(farad);
  return [
    {
      label: `${say(fitted, "capacitance")} behind a diode carries it through ${say(seconds, "time")}`,
      command: {
        type: "updatePart",
        id: part.id,
        changes: { holdUpF: { value: fitted, provenance: "typical" }, holdUpOhm: { value: ESR_OHM, provenance: "typical" } },
      },
    },
  ];
}
