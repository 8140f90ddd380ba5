import type { CurrentLog } from "../bringup/current-log";

/** What came of a file of amps over time. */
export type ReadLog =
  | { readonly ok: true; readonly log: CurrentLog; readonly skipped: number }
  | { readonly ok: false; readonly message: string };

/** Most samples that are taken in. */
const MOST = 500_000;

/** "12.5", "12,5", "00:01:02.5" or a date and time, as seconds; NaN for none. `scale`: of a bare number. */
function seconds(text: string, scale: number): number {
  const plain = text.trim();
  if (/^-?[\d.,]+(e[+-]?\d+)?$/i.test(plain)) return number(plain) * scale;
  const clock = /^(?:(\d+):)?(\d{1,2}):(\d{1,2}(?:[.,]\d+)?)$/.exec(plain);
  if (clock) return Number(clock[1] ?? 0) * 3600 + Number(clock[2]) * 60 + number(clock[3] ?? "");
  return Date.parse(plain) / 1000;
}

/** A decimal point or a decimal comma. */
function number(text: string): number {
  const plain = text.trim().replace("−", "-");
  if (plain === "") return Number.NaN;
  return Number(plain.includes(",") && !plain.includes(".") ? plain.replace(",", ".") : plain);
}

/** Which column is what, by heading; by place where there are none. */
function columnsOf(first: readonly string[]): {
  time: number;
  amps: number;
  volts: number;
  timeScale: number;
  ampsScale: number;
  headed: boolean;
} {
  const headings = first.map((each) => each.trim().toLowerCase());
  const find = (pattern: RegExp) => headings.findIndex((each) => pattern.test(each));
  const headed = first.some((each) => /[a-z]/i.test(each) && Number.isNaN(seconds(each, 1)));
  if (!headed) return { time: 0, amps: 1, volts: first.length > 2 ? 2 : -1, timeScale: 1, ampsScale: 1, headed };
  const [time, amps, volts] = [
    find(/time|^t\b|sec|\bs\b|\bms\b|zeit|temps/),
    find(/amp|current|\bi\b|\bm?a\b|strom/),
    find(/volt|\bu\b|\bv\b|spannung/),
  ];
  const timeScale = time >= 0 && /\bms\b|milli/.test(headings[time] ?? "") ? 1e-3 : 1;
  const ampsScale = amps >= 0 && /\bma\b|milli/.test(headings[amps] ?? "") ? 1e-3 : 1;
  return { time, amps, volts, timeScale, ampsScale, headed };
}

/**
 * Reads cells of a file as amps over time. Lines that have no time or no amps, or go back in time, are left out and counted; time
 * begins at the first sample.
 */
export function readCurrentLog(cells: readonly (readonly string[])[]): ReadLog {
  const [first] = cells;
  if (!first) return { ok: false, message: "The file is empty." };
  const { time, amps, volts, timeScale, ampsScale, headed } = columnsOf(first);
  if (time < 0 || amps < 0)
    return {
      ok: false,
      message: `No column of ${time < 0 ? "time" : "amps"} was found. Head the columns "time" and "amps", and "volts" if there are any.`,
    };
  const log = { seconds: [] as number[], amps: [] as number[], volts: [] as number[] };
  let skipped = 0;
  let begin: number | null = null;
  for (const row of cells.slice(headed ? 1 : 0, MOST + 1)) {
    const [at, current, voltage] = [
      seconds(row[time] ?? "", timeScale),
      number(row[amps] ?? "") * ampsScale,
      volts < 0 ? 0 : number(row[volts] ?? ""),
    ];
    begin ??= Number.isFinite(at) ? at : null;
    const since = at - (begin ?? 0);
    if (![since, current, voltage].every(Number.isFinite) || since <= (log.seconds.at(-1) ?? Number.NEGATIVE_INFINITY)) {
      skipped++;
      continue;
    }
    log.seconds.push(since);
    log.amps.push(current);
    log.volts.push(voltage);
  }
  if (log.seconds.length < 2) return { ok: false, message: "Fewer than two lines of it are a time and a number of amps." };
  return { ok: true, log: { seconds: log.seconds, amps: log.amps, volts: volts < 0 ? null : log.volts }, skipped };
}
