import type { Figures } from "../analysis/figures";
import { isConsumer } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { say } from "../quantity/format";
import { partName } from "./helpers";
import type { Verdict } from "./types";

export const id = "input-window";
export const title = "Input voltage outside a part's window";

/** Share of the minimum below which little is left. */
const CLOSE = 0.03;

/** Highest voltage (pack full, nothing running) and lowest (worst mode, pack at its lowest) against what a part accepts. */
export function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  const asked = new Map<string, { full: boolean; low: boolean; parts: string[] }>();
  for (const part of figures.machine.parts) {
    if (!isConsumer(part)) continue;
    const figure = figures.parts[part.id];
    if (figure?.wiring !== "ok") continue;
    const originId = railOrigin(figures.ledger, part.id);
    const origin = originId === null ? undefined : figures.partOf.get(originId);
    const base = { rule: id, step: "sources" as const, subject: { kind: "part" as const, id: part.id }, unit: "V", remedies: [] };
    const max = part.inputMaxV?.value;
    const min = part.inputMinV?.value;

    if (origin?.kind === "pack" && ((max !== undefined && !origin.fullV) || (min !== undefined && !origin.lowV))) {
      const entry = asked.get(origin.id) ?? { full: false, low: false, parts: [] };
      entry.full ||= max !== undefined && !origin.fullV;
      entry.low ||= min !== undefined && !origin.lowV;
      entry.parts.push(part.name);
      asked.set(origin.id, entry);
    }
    // Without the full voltage the planned one is still a bound from below: a breach is certain, its absence is not.
    const highest = figure.highestV ?? (origin?.kind === "pack" ? origin.openCircuitV.value : null);
    if (max !== undefined && highest !== null && highest > max) {
      const full = origin?.kind === "pack" && origin.fullV !== undefined;
      verdicts.push({
        ...base,
        id: `${id}:max:${part.id}`,
        severity: "stop",
        value: highest,
        limit: max,
        headline: `${part.name} accepts ${say(max, "voltage", "down")}, ${originId ? partName(figures, originId) : "its rail"} reaches ${say(highest, "voltage", "up")}`,
        detail: `${full ? "Full and with nothing running, the pack stands at that voltage" : "That is what its rail gives"}, and electronics above their maximum fail at once. Take a part for a higher input, or put a converter before it.`,
      });
    }
    if (min === undefined || !figure.lowestV) continue;
    const { volts, mode } = figure.lowestV;
    const short = volts < min;
    if (!short && volts > min * (1 + CLOSE)) continue;
    verdicts.push({
      ...base,
      id: `${id}:min:${part.id}`,
      severity: short ? "fix" : "watch",
      value: volts,
      limit: min,
      headline: short
        ? `${part.name} needs ${say(min, "voltage", "up")} and gets ${say(volts, "voltage", "down")}`
        : `${part.name}: ${say(volts, "voltage", "down")} at worst, minimum ${say(min, "voltage", "up")}`,
      detail: `In ${figures.modes[mode]?.name}${origin?.kind === "pack" && origin.lowV ? " with the pack at its lowest planned charge" : ""} that is what is left at its terminals. ${short ? "It will reset, drop out or stop" : "A cold pack or one loose crimp takes the rest"}.`,
    });
  }
  for (const [packId, { full, low, parts }] of asked) {
    const name = partName(figures, packId);
    const which = full && low ? "voltage when full and when nearly empty" : full ? "voltage when full" : "voltage when nearly empty";
    verdicts.push({
      id: `${id}:ask:${packId}`,
      rule: id,
      severity: "ask",
      step: "sources",
      subject: { kind: "part", id: packId },
      headline: `${name}: what is its ${which}?`,
      detail: `${parts.slice(0, 3).join(", ")}${parts.length > 3 ? ` and ${parts.length - 3} more` : ""} ${parts.length > 1 ? "have" : "has"} an input window that only this figure can settle. Measure the rested pack straight off the charger${low ? ", and just before you would recharge it" : ""}.`,
      remedies: [],
    });
  }
  return verdicts;
}
