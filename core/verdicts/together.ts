import type { Remedy, Verdict } from "./types";

const COUNT_WORDS = ["no", "one", "two", "three", "four", "five", "six", "seven", "eight", "nine", "ten", "eleven", "twelve"];

/** "five", "thirteen" as 13. */
export function countWord(count: number): string {
  return COUNT_WORDS[count] ?? String(count);
}

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** What is asked of a driven motor, by its level. */
const LEVEL_ASKS: Readonly<Record<string, string>> = {
  idle: "draw when they wait",
  run: "draw when they run",
  start: "draw when they start",
  stall: "draw when they are held still",
};

/**
 * What several verdicts of one kin say together, by the kin's own words; null where the head's sentence has to do. `head`
 * names source, driver or figure in its headline or kin.
 */
export function togetherWords(head: Verdict, count: number): string | null {
  const many = capital(countWord(count));
  const [topic = "", what = "", id = ""] = (head.kin ?? "").split(":");
  const level = /^level-(\w+)$/.exec(what)?.[1];
  switch (topic) {
    case "fuse-over-wire":
      if (what === "source") return `${many} thin wires behind ${sourceIn(head) ?? id} have no fuse of their own`;
      if (what === "own") return `${many} fuses do not protect the wires they sit in`;
      return what === "part" ? `${many} wires are too thin for the fuse before them, and have none of their own` : null;
    case "missing-figure":
      if (level) return `${many} loads: what do they ${LEVEL_ASKS[level] ?? "draw"}?`;
      if (what === "cells") return `${many} loads: what do they draw in some modes?`;
      if (what === "window") return `${many} parts: between which voltages do they work?`;
      if (what === "inner") return `${many} parts: what is their own resistance?`;
      if (what === "table") return `${many} wires are of a size your school's table does not reach`;
      return `${many} wires: what is their ${what}?`;
    case "driver-current":
      if (what === "stall") return `${many} motors held still pull more than their drivers bear continuously`;
      if (what === "refused") return `${many} motors held still pull more than their drivers survive`;
      return `${many} motors: what do they pull when they are held still?`;
    case "bridge-drop":
      return `${many} motors lose much of their volts in one driver`;
    case "node-rating":
      return `${many} bars and studs: how many amps may they carry?`;
    case "layer-voltage":
      return what === "near" ? `${many} drivers have little room above the full pack` : `${many} drivers get more volts than they bear`;
    case "link-offset":
      return `${many} links: how far do their grounds move?`;
    case "collapse":
      return `The voltage collapses in ${countWord(count)} modes`;
    default:
      return null;
  }
}

/** "Buck 5 V" of "…: 26 AWG is too thin for what Buck 5 V gives". */
function sourceIn({ headline }: Verdict): string | undefined {
  return /for what (.+) gives$/.exec(headline)?.[1];
}

/** One cure for all of a kin: "A fuse of its own in each: 1 A, 4 A, 5 A". */
export function wayWords(way: NonNullable<Remedy["way"]>, labels: readonly string[]): string {
  if (way === "fact") return `${labels[0] ?? "The same"}, for all ${countWord(labels.length)}`;
  const pattern = way === "fuse" ? /([\d.]+) A\b/ : /Use (.+)$/;
  const sizes = [...new Set(labels.flatMap((label) => pattern.exec(label)?.[1] ?? []))];
  if (way === "wire")
    return sizes.length === 1 ? `${sizes[0]} for all ${countWord(labels.length)}` : `Thicker wire for all ${countWord(labels.length)}`;
  const amps = sizes.map(Number).sort((a, b) => a - b);
  const [least, most] = [amps[0], amps.at(-1)];
  return `A fuse of its own in each${least === undefined ? "" : least === most ? `, ${least} A` : `, ${least} to ${most} A`}`;
}
