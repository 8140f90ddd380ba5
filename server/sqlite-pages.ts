import { existsSync, readFileSync } from "node:fs";

/** A value of a column. */
export type Cell = string | number | Buffer | null;

const FRAME_HEADER = 24;
const WAL_HEADER = 32;
/** Longest row that is believed, bytes: a length that is damaged must not fill the memory. */
const LONGEST = 64 * 1024 * 1024;

/**
 * The pages of a database file as they were last committed: those of its write-ahead log over those of the file. The log's
 * frames count up to the last one that ends a transaction (SQLite file format, 4.1).
 */
function pagesOf(path: string): { pages: Map<number, Buffer>; size: number } {
  const file = readFileSync(path);
  const stated = file.length >= 18 ? file.readUInt16BE(16) : 0;
  const size = stated === 1 ? 65536 : stated >= 512 && (stated & (stated - 1)) === 0 ? stated : 4096;
  const pages = new Map<number, Buffer>();
  for (let at = 0, number = 1; at + size <= file.length; at += size, number++) pages.set(number, file.subarray(at, at + size));
  const logPath = `${path}-wal`;
  const log = existsSync(logPath) ? readFileSync(logPath) : Buffer.alloc(0);
  if (log.length < WAL_HEADER || log.readUInt32BE(8) !== size) return { pages, size };
  const salt = log.subarray(16, 24);
  let open = new Map<number, Buffer>();
  for (let at = WAL_HEADER; at + FRAME_HEADER + size <= log.length; at += FRAME_HEADER + size) {
    if (!log.subarray(at + 8, at + 16).equals(salt)) break;
    open.set(log.readUInt32BE(at), log.subarray(at + FRAME_HEADER, at + FRAME_HEADER + size));
    if (log.readUInt32BE(at + 4) === 0) continue;
    for (const [number, page] of open) pages.set(number, page);
    open = new Map();
  }
  return { pages, size };
}

/** A variable-length integer (SQLite file format, 1.6): its value and how many bytes it takes. */
function varint(bytes: Buffer, at: number): [value: number, length: number] {
  let value = 0;
  for (let i = 0; i < 9; i++) {
    const byte = bytes[at + i];
    if (byte === undefined) throw new RangeError("a number that is cut off");
    if (i === 8) return [value * 256 + byte, 9];
    value = value * 128 + (byte & 0x7f);
    if ((byte & 0x80) === 0) return [value, i + 1];
  }
  return [value, 9];
}

/** Columns of a record (SQLite file format, 2.1). */
function columnsOf(record: Buffer): Cell[] {
  const [headerLength, first] = varint(record, 0);
  const cells: Cell[] = [];
  let body = headerLength;
  for (let at = first; at < headerLength; ) {
    const [type, length] = varint(record, at);
    at += length;
    const sizes = [0, 1, 2, 3, 4, 6, 8, 8, 0, 0];
    const size = type >= 12 ? Math.floor((type - 12) / 2) : (sizes[type] ?? 0);
    const bytes = record.subarray(body, body + size);
    if (bytes.length < size) throw new RangeError("a record that is cut off");
    body += size;
    if (type >= 13 && type % 2 === 1) cells.push(bytes.toString("utf8"));
    else if (type >= 12) cells.push(bytes);
    else if (type === 0) cells.push(null);
    else if (type === 8 || type === 9) cells.push(type - 8);
    else if (type === 7) cells.push(bytes.readDoubleBE(0));
    else cells.push(size > 6 ? Number(bytes.readBigInt64BE(0)) : bytes.readIntBE(0, size));
  }
  return cells;
}

/** Every row of every table leaf that can still be read, by no other way than its own page and what flows over from it. */
export function* rowsOf(path: string): Generator<Cell[]> {
  const { pages, size } = pagesOf(path);
  const usable = size - (pages.get(1)?.[20] ?? 0);
  const most = usable - 35;
  const least = Math.floor(((usable - 12) * 32) / 255) - 23;
  for (const [number, page] of pages) {
    const start = number === 1 ? 100 : 0;
    if (page[start] !== 0x0d) continue;
    const count = page.readUInt16BE(start + 3);
    for (let i = 0; i < count; i++) {
      try {
        const pointer = page.readUInt16BE(start + 8 + 2 * i);
        const [length, first] = varint(page, pointer);
        const [, second] = varint(page, pointer + first);
        const from = pointer + first + second;
        if (length > LONGEST) throw new RangeError("a length that cannot be");
        if (length <= most) {
          yield columnsOf(page.subarray(from, from + length));
          continue;
        }
        const fit = least + ((length - least) % (usable - 4));
        const local = fit <= most ? fit : least;
        const chunks = [page.subarray(from, from + local)];
        let next = page.readUInt32BE(from + local);
        for (let rest = length - local; rest > 0; rest -= usable - 4) {
          const overflow = pages.get(next);
          if (!overflow) throw new RangeError("a page that is missing");
          chunks.push(overflow.subarray(4, 4 + Math.min(rest, usable - 4)));
          next = overflow.readUInt32BE(0);
        }
        yield columnsOf(Buffer.concat(chunks));
      } catch (error) {
        // This row is lost; the others of its page need not be.
        if (!(error instanceof RangeError)) throw error;
      }
    }
  }
}
