import { MOVERS } from "../reference/load-kinds";
import { thingsIn } from "./find-thing";
import type { Span } from "./reading";
import { numberWord } from "./scan";
import type { LineWords } from "./words-of-line";

/** Most channels of one driver. */
const CHANNELS_MOST = 8;

/** What a line says of the drivers of what it is about. */
export interface Sharing {
  /** How many share a driver, of so many pieces; 0: no driver is wanted. */
  readonly of: (pieces: number) => number;
  /** Amps that are told of the driver. */
  readonly amps: number | null;
  readonly at: Span;
}

const NUMBER = "(?<many>\\d+|one|two|three|four|five|six|seven|eight|both|each|all)";
const COUNT = "(?<drivers>[1-9]\\d*|two|three|four|five|six|seven|eight)";
const AMPS = "(?:\\d+(?:[.,]\\d+)? ?a(?:mps?)? )?";
/** What a driver is like: words between the article and the noun, none of which begins another phrase. */
const LIKE = `(?:(?!(?:an?|the|one|each|own|per|on|for|to|of|with|and|from|by|has|is)\\b)(?:\\d[- ]?(?:channels?|ch|ways?)\\b|[a-z][a-z0-9]*)[ -]){0,3}?`;
const NOUN = "(?:drivers?|bridges?|controllers?|channels? pair|esc|boards?)";
const DRIVER = `${AMPS}${LIKE}${AMPS}${LIKE}${NOUN}\\b(?:(?: of|,|:)? ?\\d+(?:[.,]\\d+)? ?a(?:mps?)?\\b)?`;
/** A board or controller may be what a load talks to: alone in a phrase it is a driver only where it is shared or told apart. */
const CLEAR = `${AMPS}${LIKE}${AMPS}${LIKE}(?:(?:drivers?|bridges?|esc)|motor (?:controllers?|boards?))\\b(?:(?: of|,|:)? ?\\d+(?:[.,]\\d+)? ?a(?:mps?)?\\b)?`;

const BY = "\\b(?:on|with|via|through|using|off|by|from) ";

type Meant = (found: Record<string, string | undefined>, channels: number | null) => Sharing["of"] | null;

const overSeveral: Meant =
  ({ drivers }, channels) =>
  (pieces) =>
    channels ?? Math.ceil(pieces / (numberWord(drivers ?? "") ?? Number(drivers)));

const NONE =
  /\b(?:no|without(?: a)?|w\/o) (?:motor )?(?:driver|controller|bridge)\b|\b(?:straight|directly) (?:on|off|from|to) the (?:rail|battery|pack|bar)\b|\bswitched by (?:a )?relay\b|\bon\/off only\b/;

/** "two on a driver", "2 per driver", "each on its own bridge": said of pieces, wherever it stands. */
const PIECES = [
  `\\b${NUMBER}(?: motors?)?(?: ?/ ?| (?:on|to|per|a|an|for|share|sharing|off)(?: (?:an?|one|each|the same|every|1))? )${DRIVER}`,
  `\\b${NUMBER} (?:on |has |have |with |w\\/ ?|gets |get )?(?:an?|its own|their own|own|one) ${DRIVER}`,
].map((text) => new RegExp(text));

/** The same said of drivers: only behind what they drive, since "2 dual drivers 30 A" is a line of its own. */
const DRIVERS: readonly (readonly [RegExp, Meant])[] = [
  // "driver each", "one bridge per motor", "a driver for each", "separate drivers".
  [
    new RegExp(`\\b(?:(?:an?|one|1|its|their|own) )*${CLEAR} (?:each|apiece|per (?:motor|piece|one)|for (?:each|every)(?: \\w+)?)\\b`),
    () => () => 1,
  ],
  [new RegExp(`\\b(?:separate|individual|own|dedicated) ${CLEAR}`), () => () => 1],
  // "one driver for both", "the same driver for all three".
  [
    new RegExp(
      `\\b(?:an?|one|1|(?:the |one )?same|(?:a )?(?:single|shared|common)) ${CLEAR} (?:for|drives|runs|driving|running) (?:both|all|the|them)\\b(?: \\w+)?`,
    ),
    (_, channels) => (pieces) => channels ?? pieces,
  ],
  // "sharing a controller", "on the same bridge", "with one h-bridge".
  [new RegExp(`\\bshar(?:e|es|ing|ed)(?: by)?(?: (?:an?|one|1|the same|the))? ${DRIVER}`), (_, channels) => (pieces) => channels ?? pieces],
  [new RegExp(`${BY}(?:one|1|the same|(?:a |one )?(?:shared|common|single)) ${CLEAR}`), (_, channels) => (pieces) => channels ?? pieces],
  // "on a dual driver": without a number of channels it is one of several, and whoever chooses says how many it takes.
  [new RegExp(`${BY}(?:(?:an?|the) )?${CLEAR}`), (_, channels) => (channels === null ? null : () => channels)],
  // "on 3 boards", "two dual drivers".
  [new RegExp(`${BY}${COUNT} ${DRIVER}`), overSeveral],
  [new RegExp(`\\b${COUNT} ${CLEAR}`), overSeveral],
];

/** How many channels the words before a driver's noun say. */
function channelsOf(phrase: string): number | null {
  if (/\b(?:dual|double|twin|paired|(?:two|2)[- ]?(?:channels?|ch|ways?))\b/.test(phrase)) return 2;
  if (/\b(?:triple|(?:three|3)[- ]?(?:channels?|ch|ways?))\b/.test(phrase)) return 3;
  if (/\b(?:quad|(?:four|4)[- ]?(?:channels?|ch|ways?))\b/.test(phrase)) return 4;
  return /\b(?:single[- ]channel|(?:one|1)[- ]?(?:channel|ch|way))\b/.test(phrase) ? 1 : null;
}

const ampsIn = (phrase: string): number | null => {
  const amps = /(\d+(?:[.,]\d+)?) ?a(?:mps?)?\b/.exec(phrase)?.[1];
  return amps === undefined ? null : Number(amps.replace(",", "."));
};

const few = (count: number) => Math.min(CHANNELS_MOST, count);

/** How many share a driver, as the line says it; null where it does not. Counts the phrase as read. */
export function sharingIn(words: LineWords): Sharing | null {
  const none = words.take(NONE);
  if (none) return { of: () => 0, amps: null, at: none.at };
  for (const phrase of PIECES) {
    const number = phrase.exec(words.plain);
    // "2 A controller": a current, no pieces.
    if (!number || words.tokens.some(({ is, start, end }) => is === "figure" && start <= number.index && end > number.index)) continue;
    const told = words.take(phrase);
    const many = told?.found.groups?.many ?? "";
    if (!told) continue;
    const value = /^(?:each|one|1)$/.test(many) ? 1 : many === "both" ? 2 : many === "all" ? null : (numberWord(many) ?? Number(many));
    return { of: (pieces) => few(value ?? pieces), amps: ampsIn(told.found[0]), at: told.at };
  }
  for (const [phrase, meant] of DRIVERS) {
    const found = phrase.exec(words.plain);
    if (!found || !isBehindMover(words, found.index)) continue;
    const of = meant(found.groups ?? {}, channelsOf(found[0]));
    if (of === null) continue;
    const told = words.take(phrase);
    if (told) return { of: (pieces) => few(of(pieces)), amps: ampsIn(told.found[0]), at: told.at };
  }
  return null;
}

/** Whether a line puts its motor on the driver of another line: then neither line alone says what hangs where. */
export function sharesElsewhere(words: LineWords): Span | null {
  const found = new RegExp(`\\b(?:the )?same ${LIKE}${NOUN} (?:as|with|like)\\b.*`).exec(words.plain);
  return found && isBehindMover(words, found.index) ? { start: found.index, end: found.index + found[0].length } : null;
}

/** Whether something that is driven is named before a place of the line, not as part of "motor driver". */
function isBehindMover(words: LineWords, at: number): boolean {
  return thingsIn(words).some(({ thing, tokens }) => {
    const end = tokens.at(-1)?.end ?? 0;
    return thing.is === "load" && MOVERS.has(thing.kind) && end <= at && !new RegExp(`^ ${NOUN}\\b`).test(words.plain.slice(end));
  });
}
