import type { Said, Span } from "./reading";
import { numberWord, type Token } from "./scan";
import { singular } from "./spell";
import { thingOf } from "./vocabulary";
import type { LineWords } from "./words-of-line";

/** Most pieces of one line. */
export const PIECES_MOST = 200;

/** How many pieces a line speaks of: where it says so, or what is wrong with what it says. */
export interface Counted {
  readonly count: number;
  readonly at: Span | null;
  readonly wrong: string | null;
}

type Head = readonly { start: number; end: number }[];

/** Whether only words stand between a piece and the noun. */
function leadsTo(words: LineWords, at: number, head: Head): boolean {
  const noun = words.tokens.findIndex(({ start }) => start === head[0]?.start);
  return noun > at && noun - at <= 3 && words.tokens.slice(at + 1, noun).every(({ is }) => is === "word");
}

/** Whether a word stands for several. */
export function isPlural(token: Token | undefined): boolean {
  return token?.is === "word" && singular(token.word) !== token.word;
}

/** Whether a piece is the line's noun, or another name of a load, said of several. */
function isPluralNoun(token: Token | undefined, head: Head): boolean {
  return token !== undefined && isPlural(token) && (token.end === head.at(-1)?.end || thingOf(token.text)?.is === "load");
}

/** Whether a number goes on to another: "motors 1 and 2", "motors 1-4". */
const ranged = (after: Token | undefined) =>
  (after?.is === "word" && /^(and|to|till|until|or)$/.test(after.word)) || (after?.is === "mark" && after.mark !== ",");

const whole = (value: number) => Number.isInteger(value);

/**
 * Counts pieces: "4 motors", "4x", "x 4", "qty 4", "(4)", "two", "a pair of", a number alone between commas. Two counts that
 * differ are asked about; a number behind the noun is its name ("Motor 2").
 */
export function countIn(words: LineWords, head: Head = []): Counted {
  const { tokens } = words;
  const found: { value: number; tokens: Token[] }[] = [];
  const add = (value: number, ...read: Token[]) => {
    if (read.every((each) => words.isFree(each))) {
      words.use(...read);
      found.push({ value, tokens: read });
    }
  };
  const said = words.take(/\b(?:qty|quantity|count|pcs|nos?\.?|anzahl|how many)[:. ]*(\d+)\b/);
  if (said)
    found.push({
      value: Number(said.found[1]),
      tokens: tokens.filter(({ start, end }) => start >= said.at.start && end <= said.at.end && /\d/.test(words.text.slice(start, end))),
    });
  const ofThem = words.take(/\b(\d+|[a-z]+) (?:of (?:them|these|those|it|each))\b/);
  const many = ofThem ? (numberWord(ofThem.found[1] ?? "") ?? Number(ofThem.found[1])) : Number.NaN;
  if (ofThem && !Number.isNaN(many)) return judged(many, { start: ofThem.at.start, end: ofThem.at.start + (ofThem.found[1] ?? "").length });
  const pairs = words.take(/\b(?:(\d+|[a-z]+) pairs|(?:a |one )?pair) of\b/);
  if (pairs) {
    const two = pairs.found[1] === undefined ? 1 : (numberWord(pairs.found[1]) ?? Number(pairs.found[1]));
    if (!Number.isNaN(two)) return judged(two * 2, pairs.at);
  }
  const dozen = words.take(/\bhalf a dozen\b/);
  if (dozen) return { count: 6, at: dozen.at, wrong: null };
  for (let i = 0; i < tokens.length; i++) {
    const [before, token, after, next] = [tokens[i - 1], tokens[i] as Token, tokens[i + 1], tokens[i + 2]];
    if (!words.isFree(token)) continue;
    if (token.is === "times") {
      // "4 x 10 W", "4x gearmotor", "x 10"; after a figure the number behind is the count.
      if (before?.is === "number" && words.isFree(before)) add(before.value, before, token);
      else if (after?.is === "number") add(after.value, token, after);
      else words.use(token);
    } else if (token.is === "number") {
      const open = before === undefined || (before.is === "mark" && ["(", ",", ":", "+"].includes(before.mark));
      const shut = after === undefined || (after.is === "mark" && [",", ")", ":", "+"].includes(after.mark));
      const unit = after?.is === "word" && /^(pcs?|pieces?|off|units?|nos?|stk|st|ea|identical|items?)$/.test(after.word);
      const named = before?.is === "mark" && before.mark === "(" && after?.is === "word" && thingOf(after.text)?.is === "load";
      if (named) add(token.value, token);
      else if (unit) add(token.value, token, after);
      else if (before?.is === "mark" && open && shut && (before.mark !== ":" || found.length === 0)) add(token.value, token);
      else if (before === undefined && after !== undefined && after.is !== "mark" && next !== undefined) add(token.value, token);
      else if (before === undefined && after?.is === "word") add(token.value, token);
      else if (isPluralNoun(before, head) && after?.is !== "times" && !ranged(after)) add(token.value, token);
      else if (before?.is === "word" && /^(the|my|our|are|have|has|with|these|of)$/.test(before.word) && leadsTo(words, i, head))
        add(token.value, token);
      else if (before?.is === "mark" && ["+", ":"].includes(before.mark) && after?.is === "word") add(token.value, token);
    } else if (token.is === "word" && found.length === 0) {
      const value = numberWord(token.word);
      const lead =
        i === 0 ||
        (i === 1 && before?.is === "word" && /^(a|the|my|our|these|about)$/.test(before.word)) ||
        (before?.is === "mark" && before.mark === ":") ||
        leadsTo(words, i, head);
      if (value === undefined || !lead || after === undefined) continue;
      const of = after.is === "word" && after.word === "of" ? [after] : [];
      add(value, token, ...of);
    }
  }
  const [first] = found;
  if (!first) return { count: 1, at: null, wrong: null };
  const number = first.tokens.find(({ is }) => is === "number" || is === "word") ?? first.tokens[0];
  const at = number ? { start: number.start, end: number.end } : null;
  const { value } = first;
  const other = found.find((each) => each.value !== value);
  if (other) return { count: 1, at, wrong: `${value} or ${other.value} pieces? Write the number once, in front.` };
  return judged(value, at);
}

/** A count, or what is wrong with it. */
function judged(value: number, at: Span | null): Counted {
  if (value < 0) return { count: 1, at, wrong: `There cannot be ${value} of something. Write how many there are.` };
  if (value === 0) return { count: 1, at, wrong: "None of it: leave the line out, or write how many there are." };
  if (!whole(value)) return { count: 1, at, wrong: `${value} pieces? Write a whole number.` };
  if (value > PIECES_MOST) return { count: 1, at, wrong: `At most ${PIECES_MOST} pieces stand in one line.` };
  return { count: value, at, wrong: null };
}

/** The figures of a load's pieces, each: a current said for all together divided. */
export function share(said: Said, by: number): Said {
  const each = (value: number) => Number((value / by).toPrecision(12));
  return by === 1 ? said : { ...said, value: each(said.value), ...(said.low === undefined ? {} : { low: each(said.low) }) };
}
