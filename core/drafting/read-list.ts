import { BULLET, type Heading, readLine } from "./read-line";
import { readTable } from "./read-table";
import type { Reading, ReadLine } from "./reading";
import { thingOf } from "./vocabulary";

/** Most lines of a list that are read. */
export const LINES_MOST = 5000;

/** A list, line by line, with what was made of each. */
export interface ReadList {
  readonly lines: readonly ReadLine[];
  /** Lines beyond what is read: they stay in the field. */
  readonly beyond: number;
}

/** Lines as they were read, by their text: a list is read again at every key, and one line of it has changed. */
export class ListReader {
  private known = new Map<string, ReadLine>();

  read(text: string): ReadList {
    const all = text.split(/\r\n|\r|\n/);
    const taken = all.slice(0, LINES_MOST);
    const table = readTable(taken);
    const lines: ReadLine[] = [];
    const seen = new Map<string, ReadLine>();
    let heading: Heading | null = null;
    taken.forEach((line, i) => {
      const asRow = table?.lines.get(i);
      if (asRow) {
        lines.push(asRow);
        return;
      }
      if (headsBullets(line, taken[i + 1])) {
        lines.push({ text: line, number: i + 1, reading: { is: "heading" }, chips: [], troubles: [], nearest: [] });
        heading = { thing: thingOf(line.trim()) };
        return;
      }
      const key = `${heading?.thing ? JSON.stringify(heading.thing) : ""}\u0000${line}`;
      const before = this.known.get(key) ?? seen.get(key);
      const read: ReadLine = before ? { ...before, number: i + 1 } : readLine(line, i + 1, heading);
      seen.set(key, read);
      lines.push(read);
      if (read.reading?.is === "heading") heading = { thing: thingOf(line.replace(":", "")) };
      else if (line.trim() === "") heading = null;
    });
    this.known = seen;
    return { lines, beyond: all.length - taken.length };
  }
}

/** Whether a few words stand above a list of their own, with or without a colon. */
function headsBullets(line: string, next: string | undefined): boolean {
  return (
    next !== undefined &&
    BULLET.test(next) &&
    !BULLET.test(line) &&
    /^\s*[^\d:,#]{2,40}\s*$/.test(line) &&
    /\p{L}/u.test(line) &&
    !isPart(line)
  );
}

/** Whether a line names something that is planned without a figure. */
function isPart(line: string): boolean {
  const thing = thingOf(line.trim());
  return thing !== null && ["stop", "switch", "fuse", "bar", "port", "diode"].includes(thing.is);
}

/** Reads a list once. */
export function readList(text: string): ReadList {
  return new ListReader().read(text);
}

/** Lines that say something of the machine. */
export function spoken({ lines }: ReadList): ReadLine[] {
  return lines.filter(({ reading }) => reading === null || !isQuiet(reading));
}

/** Whether a line says nothing that is planned. */
export function isQuiet(reading: Reading): boolean {
  return reading.is === "nothing" || reading.is === "remark" || reading.is === "heading";
}
