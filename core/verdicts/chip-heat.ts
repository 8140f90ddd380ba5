import { heatsinkMost, junction } from "../converters/linear";
import { say } from "../quantity/format";
import type { Said } from "./speaker";

/** Chip to air of packages without a heatsink, K/W: an upright one at best, a small flat one at worst (50 to 136, from memory). */
const BEST_K_PER_W = 50;
const WORST_K_PER_W = 136;
/** Room to keep below what is planned with, K (our choice). */
const CLOSE_K = 10;
/** Beyond this only the chip's own shutdown stands between it and melting solder (183 to 217 °C by alloy, from memory). */
const SOLDER_MELTS_C = 200;

/** What a linear regulator's heat makes of it. */
export interface ChipHeat {
  watts: number;
  ambientC: number;
  /** Chip to air, K/W; undefined: nobody told. */
  kelvinPerWatt: number | undefined;
  /** What is planned with, and where it shuts down, °C. */
  plannedC: number;
  mostC: number;
}

type Judged = Pick<Said, "severity" | "headline" | "detail" | "compared">;

/**
 * A linear regulator's heat in watts and kelvin. It shuts down by itself above what it bears: a Fix; where it would get hot
 * enough to melt solder but for that, a Stop. Without a figure for its case the best and the worst package decide, and it is
 * asked for only where they disagree. Null: cool enough.
 */
export function judgeChip(name: string, where: string, { watts, ambientC, kelvinPerWatt, plannedC, mostC }: ChipHeat): Judged | null {
  const known = kelvinPerWatt ?? BEST_K_PER_W;
  const chipC = junction(ambientC, watts, known);
  if (kelvinPerWatt === undefined && chipC <= mostC) {
    const worstC = junction(ambientC, watts, WORST_K_PER_W);
    if (worstC <= plannedC) return null;
    return {
      severity: "ask",
      headline: `${name} makes ${say(watts, "power", "up")} of heat${where}: how well does its case shed heat?`,
      detail: `Its chip settles anywhere from ${say(chipC, "temperature")} to ${say(worstC, "temperature", "up")}: ${BEST_K_PER_W} K a watt for a bare upright package at best, ${WORST_K_PER_W} for a small flat one (from memory). A finger cannot tell: the chip is hotter than its case.`,
    };
  }
  if (chipC <= plannedC - CLOSE_K) return null;
  const over = chipC > mostC;
  const melts = chipC > SOLDER_MELTS_C;
  const sum = `${say(watts, "power", "up")} at ${Number(known.toPrecision(3))} K a watt${kelvinPerWatt === undefined ? " (the best a bare package does, from memory)" : ""} above ${say(ambientC, "temperature")}.`;
  const then = melts
    ? `Solder melts at about that; only the chip's own shutdown at ${say(mostC, "temperature")} is in between.`
    : over
      ? `Beyond ${say(mostC, "temperature")} it shuts down and comes back, over and over.`
      : `Plan with ${plannedC} °C (common practice): little is left for a hot day.`;
  return {
    severity: melts ? "stop" : over ? "fix" : "watch",
    headline: `${name}: its chip ${over ? "would settle at" : "reaches"} ${say(chipC, "temperature", "up")}${where}, it bears ${say(mostC, "temperature")}`,
    detail: `${sum} ${then} ${heatsink(watts, ambientC, plannedC)}, a lower input or a switching regulator.`,
    compared: { celsius: chipC, limit: mostC },
  };
}

/** Chip to case and case to heatsink of an upright package, K/W (handbook 5.1: 3 to 5 and 0.5 to 1; typical, from memory). */
const TO_CASE_K_PER_W = 5;
const PAD_K_PER_W = 0.5;

/** The heatsink that would keep it cool, in words. */
function heatsink(watts: number, ambientC: number, chipC: number): string {
  const most = heatsinkMost(watts, chipC, ambientC, TO_CASE_K_PER_W, PAD_K_PER_W);
  if (most <= 0) return "No heatsink on an upright package is enough";
  return `A heatsink of at most ${most.toFixed(1)} K a watt if its package takes one (upright, typical)`;
}
