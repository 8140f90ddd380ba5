import type { Token } from "./scan";
import { misspelt, PHRASE_MOST, respelt, type Thing, thingOf } from "./vocabulary";
import type { LineWords } from "./words-of-line";

/** A word of the line that stands for a thing. */
export interface FoundThing {
  readonly thing: Thing;
  readonly tokens: readonly Token[];
  /** How it would be spelt; null where it is spelt so. */
  readonly meant: string | null;
  /** Which clause of the line it stands in, from 0: a preposition or a comma starts the next. */
  readonly clause: number;
}

/** Words after which something else is spoken of. */
const TURNS = new Set(
  "for on with at from in to by via using that which behind under near through into onto powering powered feeding driving inside beside has have having runs and or plus incl including w no not without per each not".split(
    " ",
  ),
);

/** Everything in the line that stands for a thing, in its order. */
export function thingsIn(words: LineWords): FoundThing[] {
  const found: FoundThing[] = [];
  const { tokens } = words;
  let clause = 0;
  for (let i = 0; i < tokens.length; i++) {
    const token = tokens[i] as Token;
    if (token.is === "mark" && [",", "(", ")", "->", "+", ":"].includes(token.mark)) {
      clause++;
      continue;
    }
    const phrase = words.isFree(token) ? phraseAt(words, i) : null;
    if (phrase) {
      found.push({ ...phrase, clause });
      i += phrase.tokens.length - 1;
    } else if (token.is === "word" && TURNS.has(token.word)) clause++;
  }
  return found;
}

function phraseAt(words: LineWords, at: number): Omit<FoundThing, "clause"> | null {
  for (let many = PHRASE_MOST; many >= 1; many--) {
    const tokens = words.tokens.slice(at, at + many);
    if (
      tokens.length < many ||
      tokens.some((each) => each.is === "mark" || each.is === "times" || each.is === "odd" || !words.isFree(each))
    )
      continue;
    const [first] = tokens;
    if (many === 1 && first?.is !== "word" && first?.is !== "number") return null;
    const thing = thingOf(tokens.map(({ text }) => text).join(" "));
    // A bare number names a thing only beside its noun.
    if (thing && !(many === 1 && first?.is === "number")) return { thing, tokens, meant: null };
  }
  for (let many = PHRASE_MOST; many >= 2; many--) {
    const tokens = words.tokens.slice(at, at + many);
    if (tokens.length < many || tokens.some((each) => each.is !== "word" || !words.isFree(each))) continue;
    const meant = tokens.map(({ text }) => respelt(text)).join(" ");
    const thing = thingOf(meant);
    if (thing) return { thing, tokens, meant };
  }
  const only = words.tokens[at];
  if (only?.is !== "word") return null;
  const near = misspelt(only.word);
  return near ? { thing: near.thing, tokens: [only], meant: near.meant } : null;
}

/** Words that say of a thing only that it is on a board of its own. */
const CARRIERS = /^(board|module|breakout|unit|electronics|shield|carrier)s?$/i;

const isMild = ({ thing }: FoundThing) => "mild" in thing && thing.mild === true;

/**
 * What the line is about: English puts the thing itself last ("motor driver", "pump controller"), before the first
 * preposition. "Motor" says least: a telling word before it says what it drives.
 */
export function headOf(found: readonly FoundThing[]): FoundThing | null {
  const exact = found.filter(({ meant }) => meant === null);
  const usable = exact.some((each) => !isMild(each)) ? exact : found;
  const [first] = usable;
  if (!first) return null;
  const clause = usable.filter((each) => each.clause === first.clause);
  const last = clause.at(-1) ?? first;
  const before = clause.at(-2);
  const carried = last.tokens.length === 1 && CARRIERS.test(last.tokens[0]?.text ?? "");
  if (carried && before && !isMild(before) && before.tokens.at(-1)?.end === (last.tokens[0]?.start ?? 0) - 1) return before;
  // "mp3 player usb": the port it hangs on, not a supply.
  if (before && last.thing.is === "supply" && /^usb$/i.test(last.tokens.map(({ text }) => text).join(" ")) && before.thing.is === "load")
    return before;
  const isMotor = last.thing.is === "load" && last.thing.kind === "motor" && isMild(last);
  if (!isMotor) return last;
  const telling = clause.findLast((each) => each.thing.is === "load" && !isMild(each));
  if (telling) return telling;
  // "motor, wiper type": the class stands behind the comma.
  const later = usable.find(({ thing }) => thing.is === "load" && thing.kind === "motor" && thing.motorClass !== undefined);
  return later ?? last;
}
