/** What a figure of a line is a figure of. */
export type UnitKind =
  | "volts"
  | "mains"
  | "amps"
  | "watts"
  | "ohms"
  | "ampHours"
  | "wattHours"
  | "metres"
  | "gauge"
  | "percent"
  | "letterC"
  | "series"
  | "seconds"
  | "cells"
  | "channels"
  | "henries"
  | "farads"
  | "apart";

/** A piece of a line with its place in it. `apart`: a figure of no bearing here (turns, torque, mass), kept as words. */
export type Token = { readonly start: number; readonly end: number; readonly text: string } & (
  | { readonly is: "word"; readonly word: string }
  | { readonly is: "number"; readonly value: number }
  | { readonly is: "figure"; readonly kind: UnitKind; readonly value: number; readonly low?: number; readonly joined?: string }
  | { readonly is: "times" }
  | { readonly is: "mark"; readonly mark: "," | "+" | "(" | ")" | ":" | "@" | "/" | "->" }
  | { readonly is: "odd"; readonly why: string }
);

/** Each spelling of a unit, the longer ones first, with what it counts and its factor to SI. */
const UNITS: readonly (readonly [RegExp, UnitKind, number])[] = [
  [/^(?:v ?ac|volts? ac|v~)(?![a-z])/i, "mains", 1],
  [/^(?:kilo ?volts?|kv)(?![a-z])/i, "volts", 1e3],
  [/^(?:millivolts?|mv)(?![a-z])/i, "volts", 1e-3],
  [/^(?:v ?dc|volts? ?dc|volts?|v)(?![a-z])/i, "volts", 1],
  [/^(?:milliamp(?:ere)?[ -]?hours?|mah)(?![a-z])/i, "ampHours", 1e-3],
  [/^(?:amp(?:ere)?[ -]?hours?|a[ .]?h(?:rs?)?)(?![a-z])/i, "ampHours", 1],
  [/^kwh(?![a-z])/i, "wattHours", 1e3],
  [/^(?:watt[ -]?hours?|w ?h(?:rs?)?)(?![a-z])/i, "wattHours", 1],
  [/^(?:milliamp(?:ere)?s?|ma)(?![a-z])/i, "amps", 1e-3],
  [/^(?:microamps?|ua)(?![a-z])/i, "amps", 1e-6],
  [/^(?:amp(?:ere)?s?|a(?: ?dc)?)(?![a-z])/i, "amps", 1],
  [/^(?:kilowatts?|kw)(?![a-z])/i, "watts", 1e3],
  [/^(?:milliwatts?|mw)(?![a-z])/, "watts", 1e-3],
  [/^(?:hp|horse ?power)(?![a-z])/i, "watts", 746],
  [/^(?:watts?|w)(?![a-z])/i, "watts", 1],
  [/^(?:milliohms?|mohms?|mΩ)(?![a-z])/, "ohms", 1e-3],
  [/^(?:kohms?|kΩ)(?![a-z])/i, "ohms", 1e3],
  [/^(?:ohms?|Ω|r(?=[\s,;)/]|$))(?![a-z])/i, "ohms", 1],
  [/^(?:awg|gauge|ga)(?![a-z])/i, "gauge", 1],
  [/^(?:mm ?²|mm\^?2|sq\.? ?mm|mmq)(?![a-z])/i, "gauge", 1],
  [
    /^(?:kg[ .·*-]?cm|kgf?[ .·*-]?cm|oz[ .·*-]?in|n[ .·*-]?m|ncm|mnm|ft[ .·*-]?lbs?|rpm|r\/min|1\/min|u\/min|kv(?=\b)|khz|mhz|ghz|hz|kg|g|lbs?|oz|litres?|liters?|l\/?(?:min|h)?|gph|bar|psi|db|lm|lumens?|bits?|ppr|cpr|mp|fps|px|t(?:eeth)?|rev)(?![a-z])/i,
    "apart",
    1,
  ],
  [/^(?:mh)(?![a-z])/, "henries", 1e-3],
  [/^(?:uh)(?![a-z])/i, "henries", 1e-6],
  [/^(?:uf)(?![a-z])/i, "farads", 1e-6],
  [/^(?:metres?|meters?|mtrs?|m)(?![a-z²^])/i, "metres", 1],
  [/^(?:cm|centimet(?:re|er)s?)(?![a-z])/i, "metres", 0.01],
  [/^(?:mm|millimet(?:re|er)s?)(?![a-z²^])/i, "metres", 0.001],
  [/^(?:feet|foot|ft|')(?![a-z])/i, "metres", 0.3048],
  [/^(?:inch(?:es)?|"|″|in(?=[,;.)]|$))(?![a-z])/i, "metres", 0.0254],
  [/^(?:%|percent|per cent)(?![a-z])/i, "percent", 1],
  [/^(?:°|deg(?:rees?)?)? ?c(?:elsius)?(?![a-z])/i, "letterC", 1],
  [/^(?:[ -]?cells?)(?![a-z])/i, "cells", 1],
  [/^(?:[ -]?(?:ch|chan|channels?|way|fach))(?![a-z])/i, "channels", 1],
  [/^(?:hours?|hrs?|h)(?![a-z])/i, "seconds", 3600],
  [/^(?:minutes?|mins?)(?![a-z])/i, "seconds", 60],
  [/^(?:milliseconds?|ms)(?![a-z])/i, "seconds", 0.001],
  [/^(?:seconds?|secs?)(?![a-z])/i, "seconds", 1],
];

const NUMBER = /^[+-]?(?:\d+(?:[.,]\d+)*|[.,]\d+)(?:e[+-]?\d+)?(?![\d])/i;

const NUMBER_WORDS: Readonly<Record<string, number>> = {
  one: 1,
  two: 2,
  three: 3,
  four: 4,
  five: 5,
  six: 6,
  seven: 7,
  eight: 8,
  nine: 9,
  ten: 10,
  eleven: 11,
  twelve: 12,
  pair: 2,
  couple: 2,
  dozen: 12,
  both: 2,
  single: 1,
  twentyfour: 24,
  zwei: 2,
  drei: 3,
  vier: 4,
};

/** A number written as a word; undefined where it is none. */
export function numberWord(word: string): number | undefined {
  return Object.hasOwn(NUMBER_WORDS, word) ? NUMBER_WORDS[word] : undefined;
}

/** Articles, not amps: "two a driver", "1 a side". */
const ARTICLE = /^a +(?=(?:driver|bridge|side|piece|board|channel|drive|controller|motor)s?\b)/;

/** A number with a decimal comma or point; null where it can be read two ways. */
export function readNumber(text: string): number | null {
  if (/[.,].*[.,]/.test(text)) return null;
  if (/^[+-]?[1-9]\d{0,2},\d{3}$/.test(text)) return null;
  return Number(text.replace(",", "."));
}

/** The same text, letter for letter as long, with the letters that people and programs put in place of plain ones made plain. */
export function plainly(line: string): string {
  return line
    .replace(/[\u00a0\u2000-\u200a\u202f\t]/g, " ")
    .replace(/[×✕✖]/g, "x")
    .replace(/[\u2010-\u2015\u2212]/g, "-")
    .replace(/[µμ]/g, "u")
    .replace(/\u2126/g, "Ω")
    .replace(/[“”„]/g, '"')
    .replace(/[‘’]/g, "'")
    .replace(/[\u200b-\u200f\u202a-\u202e\u2066-\u2069\ufeff]|\ufe0f/g, " ")
    .replace(/\p{Extended_Pictographic}/gu, (found) => " ".repeat(found.length));
}

function unitAt(rest: string): { kind: UnitKind; factor: number; length: number } | null {
  const gap = /^ */.exec(rest)?.[0].length ?? 0;
  const after = rest.slice(gap);
  if (gap > 0 && ARTICLE.test(after)) return null;
  for (const [spelling, kind, factor] of UNITS) {
    const found = spelling.exec(after);
    if (found) return { kind, factor, length: gap + found[0].length };
  }
  return null;
}

/** Cuts a line into figures with their units, bare numbers, words and marks. */
export function scan(line: string): Token[] {
  const text = plainly(line);
  const tokens: Token[] = [];
  let at = 0;
  const push = (length: number, rest: { is: Token["is"] } & Record<string, unknown>) => {
    tokens.push({ start: at, end: at + length, text: line.slice(at, at + length), ...rest } as Token);
    at += length;
  };
  while (at < text.length) {
    const rest = text.slice(at);
    const before = at > 0 ? (text[at - 1] ?? " ") : " ";
    const space = /^\s+/.exec(rest);
    if (space) {
      at += space[0].length;
      continue;
    }
    const arrow = /^(?:-+>|=+>|→|>)/.exec(rest);
    if (arrow) {
      push(arrow[0].length, { is: "mark", mark: "->" });
      continue;
    }
    // 3S, 3S2P: cells in series and strings in parallel.
    const series = /^(\d{1,2}) ?s(?: ?(\d{1,2}) ?p)?(?![a-z\d])/i.exec(rest);
    if (series && !/[\d.,]/.test(before)) {
      push(series[0].length, { is: "figure", kind: "series", value: Number(series[1]), ...(series[2] ? { low: Number(series[2]) } : {}) });
      continue;
    }
    const signed = /[\d\p{L})]/u.test(before) && /^[+-]/.test(rest);
    const number = signed ? null : NUMBER.exec(rest);
    if (number) {
      const last = tokens.at(-1);
      pushNumber(number[0], rest, last);
      continue;
    }
    if (/^[x*](?=\s*[\d(]|\s+\p{L}|\s*$)/iu.test(rest) && (/[\d\s)]/.test(before) || /^[x*]\s*\d/i.test(rest))) {
      push(1, { is: "times" });
      continue;
    }
    const word = /^[\p{L}][\p{L}\p{N}'_]*/u.exec(rest);
    const spelt = word ? numberWord(word[0].toLowerCase()) : undefined;
    const unit =
      word && spelt !== undefined
        ? /^ +(?:volts?|amps?|watts?|ohms?|cells?|met(?:re|er)s?|feet)\b/i.exec(rest.slice(word[0].length))
        : null;
    const measured = unit ? unitAt(unit[0]) : null;
    if (word && unit && measured && spelt !== undefined) {
      push(word[0].length + unit[0].length, { is: "figure", kind: measured.kind, value: spelt * measured.factor });
      continue;
    }
    if (word) {
      push(word[0].length, { is: "word", word: word[0].toLowerCase() });
      continue;
    }
    if (/^[~≈?]/.test(rest)) {
      push(1, { is: "word", word: rest[0] === "?" ? "?" : "about" });
      continue;
    }
    const mark = /^[,;|]/.test(rest) ? "," : /^[+()@:/]/.test(rest) ? rest[0] : rest[0] === "=" ? ":" : rest[0] === "&" ? "+" : null;
    if (mark) push(1, { is: "mark", mark });
    else at++;
  }
  return tokens;

  /** A number with what follows it: a unit, a second number that makes it a span, or nothing. */
  function pushNumber(found: string, rest: string, last: Token | undefined): void {
    const fraction = /^(\d)\/(\d{1,2})(?= ?(?:hp|horse|in|"))/i.exec(rest);
    // "4.8-6 V", "5 to 6 V", "4.5 V..5.5 V", "12/24 V".
    const span = /^([\d.,]+)( ?[a-z]{1,2})?( ?- ?| ?\.\.+ ?| to | ?\/ ?)([\d.,]+)/i.exec(rest);
    if (span && !fraction && !/^-/.test(found)) {
      const [whole, lowText = "", ownUnit = "", joint = "", highText = ""] = span;
      const unit = unitAt(rest.slice(whole.length));
      const low = readNumber(lowText.replace(/[.,]$/, ""));
      const high = readNumber(highText.replace(/[.,]$/, ""));
      const own = ownUnit.trim() === "" ? null : unitAt(ownUnit);
      // "8 A / 45 A" are two figures, "12/24 V" is one.
      const apart = joint.trim() === "/" && ownUnit.trim() !== "";
      const measured = unit && !apart && ["volts", "amps", "watts", "ohms", "metres"].includes(unit.kind);
      if (unit && measured && low !== null && high !== null && (ownUnit.trim() === "" || own?.kind === unit.kind)) {
        push(whole.length + unit.length, {
          is: "figure",
          kind: unit.kind,
          value: high * unit.factor,
          low: low * (own?.factor ?? unit.factor),
          joined: joint.trim(),
        });
        return;
      }
    }
    const text0 = fraction ? fraction[0] : found.replace(/[.,]$/, "");
    const value = fraction ? Number(fraction[1]) / Number(fraction[2]) : readNumber(text0);
    if (value === null) {
      push(found.length, { is: "odd", why: `"${found}" can be read two ways. Write it without a thousands comma.` });
      return;
    }
    const unit = unitAt(rest.slice(text0.length));
    if (unit) {
      push(text0.length + unit.length, { is: "figure", kind: unit.kind, value: value * unit.factor });
      return;
    }
    // A digit that ends a name ("nema 17", "camera 2") is a number, too: whoever reads the line knows by where it stands.
    const glued = last?.is === "word" && last.end === at && /^\d/.test(found);
    if (glued) {
      const word = `${last.text}${text0}`;
      tokens.pop();
      at = last.start;
      push(word.length, { is: "word", word: word.toLowerCase() });
      return;
    }
    push(text0.length, { is: "number", value });
  }
}
