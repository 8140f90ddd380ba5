import widths from "./data/widths.json";

/** How a text is set. */
export type Face = "regular" | "bold" | "mono";

/** Advance of every figure and letter of the mono face, em. */
const MONO_EM = 0.659;
/** Of what the table does not have: letters of other scripts and signs are hardly wider, pictures are. */
const OTHER_EM = 0.85;
const PICTURE_EM = 1.4;
/** Type is set by browsers that may differ by a hair. */
const SLACK = 1.005;

/** Width of a text, in the unit of `size`, by the advances of the fonts that ship with the application (measured). */
export function textWidth(text: string, size: number, face: Face = "regular"): number {
  let em = 0;
  for (const letter of text) {
    const code = letter.codePointAt(0) ?? 0;
    const known = face === "mono" ? undefined : widths[face][code - 32];
    if (code === 0xa0) em += face === "mono" ? MONO_EM : (widths[face][0] as number) / 1000;
    else if (code > 0x2e80) em += PICTURE_EM;
    else if (face === "mono") em += MONO_EM;
    else em += known === undefined ? OTHER_EM : known / 1000;
  }
  return em * size * SLACK;
}

/**
 * A text in lines no wider than `width`, the first shorter by `indent`; a word that is wider by itself is broken where it has
 * to be. Never empty.
 */
export function wrapText(text: string, width: number, size: number, face: Face = "regular", indent = 0): string[] {
  const lines: string[] = [];
  let line = "";
  const fits = (candidate: string) => textWidth(candidate, size, face) <= width - (lines.length === 0 ? indent : 0);
  for (const word of text.split(" ")) {
    const next = line === "" ? word : `${line} ${word}`;
    if (fits(next)) {
      line = next;
      continue;
    }
    if (line !== "") lines.push(line);
    line = word;
    while (!fits(line) && [...line].length > 1) {
      const letters = [...line];
      let n = letters.length - 1;
      // Halving first: a name of ten thousand letters is broken as quickly as one of ten.
      while (n > 1 && !fits(letters.slice(0, n).join(""))) n = n > 64 ? n >> 1 : n - 1;
      lines.push(letters.slice(0, n).join(""));
      line = letters.slice(n).join("");
    }
  }
  return [...lines, line];
}
