import { chipsOf } from "./chips";
import { type FoundThing, headOf, thingsIn } from "./find-thing";
import { leftOut, nearestOf } from "./nearest";
import { readLink } from "./read-link";
import { readLoad } from "./read-load";
import { readAbout, readLengths, readPart } from "./read-others";
import { readConverter, readDriver, readPack, readSupply } from "./read-source";
import type { Chip, Reading, ReadLine, Trouble } from "./reading";
import { type Sharing, sharesElsewhere, sharingIn } from "./sharing";
import { type Thing, thingOf } from "./vocabulary";
import { LineWords } from "./words-of-line";

/** Longest line that is read; a longer one stays as it is, marked. */
export const LINE_MOST = 400;

/** What a heading above a line says of it. */
export interface Heading {
  readonly thing: Thing | null;
}

/** Marks of a list before a line: "- ", "* ", "1. ", "[x] ". Cut off for reading; the line keeps them. */
export const BULLET = /^\s*(?:[-*•‣▪·–—]\s+|\(?\d{1,2}[.)]\s+|\[[ xX]?\]\s*)+/;

const quiet = (text: string, number: number, is: "nothing" | "remark" | "heading"): ReadLine => ({
  text,
  number,
  reading: { is },
  chips: [],
  troubles: [],
  nearest: [],
});

/** One line of a list, as it was typed, with what is made of it. Never throws; whatever is not understood is said so. */
export function readLine(text: string, number: number, heading: Heading | null = null): ReadLine {
  if (text.trim() === "") return quiet(text, number, "nothing");
  if (/^\s*(?:#|\/\/)/.test(text)) return quiet(text, number, "remark");
  if (text.length > LINE_MOST)
    return lost(text, number, [
      { why: `A line of ${text.length.toLocaleString("en")} letters: at most ${LINE_MOST} are read. Write one thing a line.`, at: null },
    ]);
  const bullet = BULLET.exec(text)?.[0].length ?? 0;
  // What stands before keeps its place: spaces in its stead.
  const line = (" ".repeat(bullet) + text.slice(bullet)).replace(/\(s\)/g, "s  ");
  const about = readAbout(line);
  if (about) return found(text, number, about, [], []);
  if (/^\s*[^\d:]{2,40}:\s*$/.test(line)) return quiet(text, number, "heading");
  const lengths = readLengths(line);
  if (lengths) return found(text, number, lengths, [], []);
  const link = readLink(line);
  if (link) return found(text, number, link, [], []);

  const words = new LineWords(line);
  const troubles: Trouble[] = [];
  const elsewhere = sharesElsewhere(words);
  if (elsewhere)
    troubles.push({
      why: "What shares a driver stands in one line: write both there, or give each its own and hang them together later.",
      at: elsewhere,
    });
  const drivers = sharingIn(words);
  const head = labelled(words) ?? headOf(thingsIn(words)) ?? impliedBy(words, heading);
  if (!head) {
    const unknown = lost(text, number, [{ why: whyLost(words), at: null }]);
    const title = number === 1 && text.trim().length <= 40 && words.tokens.every(({ is }) => is !== "figure");
    return title ? { ...unknown, nearest: [{ label: "its name", line: `name: ${text.trim()}` }, ...unknown.nearest] } : unknown;
  }
  if (head.thing.is === "outside") return { ...lost(text, number, [{ why: head.thing.why, at: null }]), nearest: [leftOut(text)] };
  const second = secondOf(words, head);
  if (second) troubles.push({ why: `Two things in one line: give ${second} a line of its own.`, at: null });
  const { reading, extra } = readAs(words, head, troubles, drivers);
  const chips = chipsOf(line, reading, extra, head);
  // A current, power or voltage that nobody read may be the one that matters.
  for (const token of words.free) {
    if (
      token.is === "figure" &&
      ["volts", "amps", "watts", "ampHours"].includes(token.kind) &&
      troubles.every(({ at }) => at?.start !== token.start)
    )
      troubles.push({ why: `What is the ${token.text.trim()}? Nothing here takes it.`, at: token });
  }
  const stuck = troubles.length > 0;
  return { text, number, reading, chips, troubles, nearest: stuck ? nearestOf(text, words, reading) : [] };
}

/** Something of another sort that an "and" joins to what the line is about: its figures are nobody's. */
function secondOf(words: LineWords, { thing, tokens }: FoundThing): string | null {
  const SORTS = ["load", "pack", "supply", "converter", "driver"];
  const other = thingsIn(words).find((each) => {
    const at = words.tokens.indexOf(each.tokens[0] as (typeof words.tokens)[number]);
    const before = words.tokens
      .slice(Math.max(0, at - 4), at)
      .findLast((token) => token.is === "word" && !/^(?:an?|the|one)$/.test(token.word));
    return (
      each.meant === null &&
      each.tokens[0] !== tokens[0] &&
      each.thing.is !== thing.is &&
      SORTS.includes(each.thing.is) &&
      SORTS.includes(thing.is) &&
      before?.is === "word" &&
      /^(?:and|plus)$/.test(before.word)
    );
  });
  return other ? other.tokens.map(({ text }) => text).join(" ") : null;
}

function found(text: string, number: number, reading: Reading, troubles: Trouble[], chips: Chip[]): ReadLine {
  return { text, number, reading, chips: chips.length > 0 ? chips : chipsOf(text, reading, {}, null), troubles, nearest: [] };
}

function lost(text: string, number: number, troubles: Trouble[]): ReadLine {
  const words = text.length > LINE_MOST ? null : new LineWords(text);
  return { text, number, reading: null, chips: [], troubles, nearest: nearestOf(text, words, null) };
}

function whyLost(words: LineWords): string {
  const odd = words.tokens.find((token) => token.is === "odd");
  if (odd?.is === "odd") return odd.why;
  if (words.figures("gauge").length > 0 && /\b(?:wir(?:es?|ing)|cables?|leads?|conductors?)\b/.test(words.plain))
    return "Wires are sized here by what flows in them. Write how long they are; a size of your own is set in Feeds once it is drafted.";
  return words.tokens.some(({ is }) => is === "figure")
    ? "What sort of thing is it? A motor held still draws far more than a board."
    : "No word in it names a part, and no figure says what it draws.";
}

/** "motor: left paddle 24 V": what stands before the colon says what it is. */
function labelled(words: LineWords): FoundThing | null {
  const colon = words.tokens.findIndex((token) => token.is === "mark" && token.mark === ":");
  if (colon < 1 || colon > 4) return null;
  const before = words.tokens.slice(0, colon);
  const thing = thingOf(before.map(({ text }) => text).join(" "));
  return thing ? { thing, tokens: before, meant: null, clause: 0 } : null;
}

/** Without a noun: what the heading above says, or a motor where the line speaks of stall, turns or torque. */
function impliedBy(words: LineWords, heading: Heading | null): FoundThing | null {
  // "2S2P, 5 Ah" says cells, and nothing else is told so.
  if (words.figures("series").length > 0 || /\b(?:18650|21700|26650)s?\b/.test(words.plain))
    return { thing: { is: "pack" }, tokens: [], meant: null, clause: 0 };
  const nouns = words.tokens.filter((token) => token.is === "word");
  if (nouns.length === 0) return null;
  if (heading?.thing) return { thing: heading.thing, tokens: [], meant: null, clause: 0 };
  const turns = /\b(?:stall(?:ed)?|rpm|gear ?box|geared|nm|kg ?cm|torque|brushed)\b/.test(words.plain) && words.figures("volts").length > 0;
  return turns ? { thing: { is: "load", kind: "motor", mild: true }, tokens: [], meant: null, clause: 0 } : null;
}

type Extra = Parameters<typeof chipsOf>[2];

function readAs(
  words: LineWords,
  { thing, tokens }: FoundThing,
  troubles: Trouble[],
  drivers: Sharing | null,
): { reading: Reading; extra: Extra } {
  switch (thing.is) {
    case "load": {
      const { countAt, driverAt, ...reading } = readLoad(words, thing, tokens, troubles, drivers);
      return { reading, extra: { countAt, driverAt } };
    }
    case "pack":
      return { reading: readPack(words, tokens, troubles), extra: {} };
    case "supply":
      return { reading: readSupply(words, thing, tokens, troubles), extra: {} };
    case "converter":
      return { reading: readConverter(words, thing, tokens, troubles), extra: {} };
    case "driver":
      return { reading: readDriver(words, tokens, troubles), extra: {} };
    case "outside":
      return { reading: { is: "remark" }, extra: {} };
    default:
      return { reading: readPart(words, thing.is, tokens, troubles), extra: {} };
  }
}
