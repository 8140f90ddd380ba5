import { type Entry, GLOSSARY } from "./entries";

/** A piece of a text: plain, or a trade word with what explains it. */
export interface Piece {
  readonly text: string;
  readonly entry: Entry | null;
}

/**
 * A text with its trade words found, each where it first stands; `skip`: those that are explained already. Of words that
 * overlap the longer counts.
 */
export function explained(text: string, most = Number.POSITIVE_INFINITY, skip: ReadonlySet<string> = new Set()): Piece[] {
  const found = GLOSSARY.flatMap((entry) => {
    if (skip.has(entry.id)) return [];
    const match = entry.forms.exec(text);
    return match ? [{ entry, start: match.index, end: match.index + match[0].length }] : [];
  }).sort((a, b) => a.start - b.start || b.end - a.end);
  const pieces: Piece[] = [];
  let at = 0;
  let many = 0;
  for (const { entry, start, end } of found) {
    if (start < at || many >= most) continue;
    if (start > at) pieces.push({ text: text.slice(at, start), entry: null });
    pieces.push({ text: text.slice(start, end), entry });
    at = end;
    many++;
  }
  if (at < text.length) pieces.push({ text: text.slice(at), entry: null });
  return pieces;
}

/** The trade words of a text. */
export function wordsOf(text: string): Entry[] {
  return explained(text).flatMap(({ entry }) => (entry ? [entry] : []));
}
