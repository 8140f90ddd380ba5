/** Letters to add, take away, change or swap to make one word of another; counting stops at `most` + 1. */
export function distance(a: string, b: string, most: number): number {
  if (Math.abs(a.length - b.length) > most) return most + 1;
  let above: number[] = [];
  let row = Array.from({ length: b.length + 1 }, (_, i) => i);
  for (let i = 1; i <= a.length; i++) {
    const next = [i];
    for (let j = 1; j <= b.length; j++) {
      const same = a[i - 1] === b[j - 1];
      let cost = Math.min((row[j] ?? 0) + 1, (next[j - 1] ?? 0) + 1, (row[j - 1] ?? 0) + (same ? 0 : 1));
      if (i > 1 && j > 1 && a[i - 1] === b[j - 2] && a[i - 2] === b[j - 1]) cost = Math.min(cost, (above[j - 2] ?? 0) + 1);
      next.push(cost);
    }
    above = row;
    row = next;
    if (Math.min(...row) > most) return most + 1;
  }
  return row[b.length] ?? most + 1;
}

/** How many wrong letters a word of this length may have and still be taken for another: short words none. */
export function slipsIn(length: number): number {
  return length < 5 ? 0 : length < 8 ? 1 : 2;
}

/** A word without its plural. */
export function singular(word: string): string {
  if (/(ss|us|is|lens|gas|bus|psu|chassis|series)$/.test(word) || word.length < 4) return word;
  if (/ies$/.test(word) && word.length > 4) return `${word.slice(0, -3)}y`;
  if (/(ch|sh|x|ss)es$/.test(word)) return word.slice(0, -2);
  return word.endsWith("s") ? word.slice(0, -1) : word;
}

/** Whether two letters of a short word were swapped: "pmup". */
export function isSwapped(a: string, b: string): boolean {
  return a !== b && a.length === b.length && a.length >= 4 && distance(a, b, 1) === 1 && [...a].sort().join("") === [...b].sort().join("");
}
