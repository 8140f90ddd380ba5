import { MOVERS } from "../reference/load-kinds";
import { sideOf } from "./demand";
import { talkOf } from "./read-link";
import type { LoadReading, Said, Trouble } from "./reading";
import type { LineWords } from "./words-of-line";

const decimal = (text: string | undefined) => Number((text ?? "").replace(",", "."));

/** What a load's line says beside the load: whom it talks to, its fuse, its driver; an amplifier's watts over its channels. */
export function besides(
  words: LineWords,
  kind: LoadReading["kind"],
): Pick<LoadReading, "talks" | "fuseA" | "driverA"> & { channels: Said | null } {
  // A motor that is connected to a wheel talks to nobody.
  const talks = sideOf(kind) === "logic" || kind === "sound" ? talkOf(words) : null;
  const fuse =
    words.take(/\b(?:fused?|breaker)(?: (?:at|with|for|of|is|by))?(?: an?)? ?(\d+(?:[.,]\d+)?) ?a(?:mps?)?\b/) ??
    words.take(/\b(\d+(?:[.,]\d+)?) ?a(?:mps?)? (?:fuse|breaker)\b/);
  // Only what moves has a driver; a board's own amps stand beside the word controller, too.
  const driver = MOVERS.has(kind)
    ? (words.take(/\b(?:esc|drivers?|controllers?|bridge)(?: of|,|:)? ?(\d+(?:[.,]\d+)?) ?a(?:mps?)?\b/) ??
      words.take(/\b(\d+(?:[.,]\d+)?) ?a(?:mps?)? (?:esc|drivers?|controllers?|bridge)\b/))
    : null;
  // "amp 4 x 50 W" has four channels and is one.
  const watts =
    kind === "sound" && /\bamp(?:lifier)?s?\b/.test(words.plain) ? words.take(/\b(\d) ?x ?(\d+(?:[.,]\d+)?) ?w(?:atts?)?\b/) : null;
  return {
    talks,
    fuseA: fuse ? decimal(fuse.found[1]) : null,
    driverA: driver ? decimal(driver.found[1]) : null,
    channels: watts && { value: decimal(watts.found[1]) * decimal(watts.found[2]), provenance: "datasheet", ...watts.at },
  };
}

/** Over how many pixels or metres a figure of the line goes: what is said of one is drawn by as many as there are. */
export function spread(words: LineWords, kind: LoadReading["kind"], troubles: Trouble[]): number {
  const pixel = kind === "light" ? words.take(/(?:\/ ?|\bper |\ba )(?:px|pixels?|leds?)\b/) : null;
  if (pixel) {
    const pixels = /\b(\d+) ?(?:px|pixels?|leds?)\b/.exec(words.plain);
    if (pixels) words.use(...words.tokens.filter(({ start }) => start === pixels.index));
    else troubles.push({ why: "Each pixel draws that: write how many there are, say 60 px.", at: pixel.at });
    return Number(pixels?.[1] ?? 1);
  }
  const perMetre = words.take(/(?<=[\d.] ?(?:w|m?a)) ?(?:\/|per) ?m(?:et(?:re|er))?\b/);
  const metres = perMetre && words.first("metres");
  if (perMetre && !metres) troubles.push({ why: "Each metre draws that: write how long it is.", at: perMetre.at });
  return metres?.value ?? 1;
}
