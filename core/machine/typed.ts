import { parseQuantity } from "../quantity/parse";
import { FUSE_FAMILIES, type FuseFamilyId, ratingsOf } from "../reference/fuses";
import { type Gauge, parseGauge } from "../reference/gauges";
import type { Cell, FuseRef } from "./schema";

/** What a typed text means, or a message to show beside its field. */
export type Typed<T> = { ok: true; value: T } | { ok: false; message: string };

/** Every word that a level or a state is called by on the screen, by the state it is. */
const WORDS: Readonly<Record<"idle" | "run" | "start" | "stall" | "reverse", string>> = {
  idle: "idle|idles|hold|holds|holding|wait|waits|waiting|standby|resting|turning free",
  run: "run|runs|running|on|moving|moves|working|works|turning",
  start: "start|starts|starting|peak|switched on|at its limit",
  stall: "stall|stalls|stalled|held still|blocked|jammed",
  reverse: "reverse|reversed|reverses",
};
const STATES = Object.keys(WORDS) as (keyof typeof WORDS)[];

const STATE = new RegExp(
  `^(${Object.values(WORDS).join("|")})(?:\\s+(\\d+(?:\\.\\d+)?)\\s*(%?))?(?:\\s*(?:at|@)\\s*(\\d+(?:\\.\\d+)?)\\s*%)?$`,
  "i",
);
const SHARE = /^(\d+(?:\.\d+)?)\s*%$/;

/** A state in words, or null where the text is not one. */
function parseState(text: string, count: number): Typed<Cell> | null {
  const share = SHARE.exec(text);
  const match = share ? [text, "run", share[1], "%", undefined] : STATE.exec(text);
  if (!match) return null;
  const typed = (match[1] ?? "").toLowerCase();
  const word = STATES.find((state) => WORDS[state].split("|").includes(typed)) ?? "run";
  const number = match[2] === undefined ? undefined : Number(match[2]);
  const duty = match[4] === undefined ? {} : { duty: Number(match[4]) / 100 };
  if (duty.duty !== undefined && !(duty.duty >= 0.01 && duty.duty <= 1))
    return { ok: false, message: "The duty is a share from 1 % to 100 %." };
  if (word === "run") {
    const percent = number ?? 100;
    if (percent < 1 || percent > 300)
      return { ok: false, message: "Write a share of its rated current from 1 % to 300 %, such as run 70 %." };
    return { ok: true, value: { state: "run", percent, ...duty } };
  }
  if (word === "idle") return { ok: true, value: { state: "idle" } };
  if (match[3] === "%") return { ok: false, message: `Write how many of them ${word}, such as ${word} 1.` };
  if (number !== undefined && (!Number.isInteger(number) || number < 1 || number > count)) {
    return {
      ok: false,
      message: count === 1 ? `There is only one of it: write ${word}.` : `There are ${count} of it: write ${word} 1 to ${word} ${count}.`,
    };
  }
  const pieces = number === undefined || number === count ? {} : { pieces: number };
  return { ok: true, value: word === "stall" ? { state: word, ...pieces, ...duty } : { state: word, ...pieces } };
}

/**
 * What a load does in one mode, as typed: a state ("off", "idle", "run 70 %", "70 %", "start", "stall 1", "reverse", "run 50 % at
 * 30 %" for a duty), a current ("2.3A", "800 mA", "250W @ 24V"), a reading ("measured 2.3 A") that stands in for the
 * estimate, or nothing for a figure not known yet. Watts alone are taken at the load's own volts. A current counts as a
 * guess until the builder says more.
 */
export function parseCell(text: string, nominalV: number, count = 1, present?: Cell): Typed<Cell | null> {
  const trimmed = text.trim();
  if (trimmed === "" || trimmed === "?") return { ok: true, value: null };
  if (/^off$/i.test(trimmed)) return { ok: true, value: { state: "off" } };
  const state = parseState(trimmed, count);
  if (state) return state;
  const reading = /^(?:measured|read)\s+(.+)$/i.exec(trimmed);
  const figure = reading?.[1] ?? trimmed;
  const watts = /w(att)?s?$/i.test(figure) && !figure.includes("@") ? `${figure} @ ${nominalV} V` : figure;
  const parsed = parseQuantity(watts, "current");
  if (!parsed.ok) return parsed;
  if (!reading) return { ok: true, value: { state: "amps", amps: { value: parsed.value, provenance: "guess" } } };
  const measured = { value: parsed.value, provenance: "measured" as const };
  if (present && present.state !== "off") return { ok: true, value: { ...present, measured } };
  return { ok: true, value: { state: "amps", amps: measured } };
}

/** Families tried for a bare rating when there is no fuse yet. */
const FIRST_CHOICES: readonly FuseFamilyId[] = ["blade_regular_32v", "blade_maxi_32v", "strip_m5_58v", "strip_m8_70v"];

/** A fuse as typed in a cell: "25", "25 A" or "none"; of the family already there, else of the first that makes it. */
export function parseFuse(text: string, present: FuseRef | undefined): Typed<FuseRef | null> {
  if (/^(|-|–|none|no)$/i.test(text.trim())) return { ok: true, value: null };
  const parsed = parseQuantity(text, "current");
  if (!parsed.ok) return parsed;
  const families = present ? [present.family] : FIRST_CHOICES;
  const family = families.find((each) => ratingsOf(each).includes(parsed.value));
  if (family) return { ok: true, value: { family, ratingA: parsed.value } };
  const shown = present?.family ?? "blade_regular_32v";
  return {
    ok: false,
    message: `A ${FUSE_FAMILIES[shown].name} fuse is made in ${ratingsOf(shown).join(", ")} A. Choose another family below.`,
  };
}

/** A conductor size as typed, as the id of the gauge table. */
export function parseSize(text: string): Typed<Gauge["id"]> {
  const gauge = parseGauge(text);
  return gauge ? { ok: true, value: gauge.id } : { ok: false, message: `"${text.trim()}" is not a wire size. Write 14 AWG or 2.5 mm2.` };
}
