import { isObject } from "./same-value";

/**
 * What no text of a plan may hold: control characters, line and paragraph separators, marks that turn the direction of what
 * follows, spaces without width, halves of surrogate pairs and code points that are no characters. None can be seen, several
 * break files that the text goes into.
 */
const UNSEEN =
  // biome-ignore lint/suspicious/noControlCharactersInRegex: these are what is looked for
  /[\u0000-\u001f\u007f-\u009f\u200b\u2028-\u202e\u2060\u2066-\u2069\ufeff\ufffe\uffff]|[\ud800-\udbff](?![\udc00-\udfff])|(?<![\ud800-\udbff])[\udc00-\udfff]/;
const EVERY_UNSEEN = new RegExp(UNSEEN.source, "g");
const BREAKS = /[\t\n\v\f\r\u0085\u2028\u2029]+/g;

/** Whether a text is plain: on one line, and all of it visible. */
export function isPlain(text: string): boolean {
  return !UNSEEN.test(text);
}

/** The same text on one line, without what cannot be seen. */
export function plain(text: string): string {
  return UNSEEN.test(text) ? text.replace(BREAKS, " ").replace(EVERY_UNSEEN, "") : text;
}

/** Texts of several lines. */
const LONG: ReadonlySet<string> = new Set(["description", "note"]);

/** The same text, its lines kept. */
export function plainLines(text: string): string {
  return UNSEEN.test(text)
    ? text
        .replace(/\r\n?|[\u0085\u2028\u2029]/g, "\n")
        .split("\n")
        .map(plain)
        .join("\n")
    : text;
}

/** A parsed document with every text plain. @param cleaned takes the paths of those that were not */
export function withPlainTexts(value: unknown, cleaned: string[], path: readonly PropertyKey[] = []): unknown {
  if (typeof value === "string") {
    const text = LONG.has(String(path.at(-1))) ? plainLines(value) : plain(value);
    if (text !== value) cleaned.push(path.map(String).join("."));
    return text;
  }
  if (Array.isArray(value))
    return sameOr(
      value,
      value.map((each, i) => withPlainTexts(each, cleaned, [...path, i])),
    );
  if (!isObject(value)) return value;
  const next = Object.fromEntries(Object.entries(value).map(([key, each]) => [key, withPlainTexts(each, cleaned, [...path, key])]));
  return Object.keys(next).every((key) => next[key] === value[key]) ? value : next;
}

function sameOr(before: readonly unknown[], after: readonly unknown[]): readonly unknown[] {
  return after.every((each, i) => each === before[i]) ? before : after;
}
