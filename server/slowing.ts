/** Most requests of one address at once, and how many come back a second. */
const BURST = 80;
const PER_SECOND = 10;
/** What one file of the page counts: a page that is opened anew asks for some forty of them at once, and is opened again at need. */
const FILE_SHARE = 0.1;
/** Wait after the first wrong code, ms; it doubles with each. */
const FIRST_WAIT_MS = 1000;
const LONGEST_WAIT_MS = 10 * 60_000;
/** Wrong codes of all addresses together within the time of a code, after which none is looked at for that long. */
const WRONG_MOST = 30;
const WRONG_MS = 10 * 60_000;
/** Addresses that are remembered. */
const REMEMBERED = 500;

/** Counts what addresses ask for, and slows those that ask too much or guess codes. */
export class Slowing {
  private readonly left = new Map<string, { tokens: number; at: number }>();
  private readonly wrong = new Map<string, { count: number; until: number }>();
  private all: number[] = [];

  /** Whether an address may ask once more: for a file of the page, or for anything else. */
  mayAsk(address: string, now: number, file = false): boolean {
    const cost = file ? FILE_SHARE : 1;
    const known = this.left.get(address) ?? { tokens: BURST, at: now };
    const tokens = Math.min(BURST, known.tokens + ((now - known.at) / 1000) * PER_SECOND);
    this.left.delete(address);
    this.left.set(address, { tokens: Math.max(0, tokens - cost), at: now });
    trim(this.left);
    return tokens >= cost;
  }

  /** How long an address has to wait before a code of it is looked at, ms. */
  waitMs(address: string, now: number): number {
    this.all = this.all.filter((at) => now - at < WRONG_MS);
    const closed = this.all.length >= WRONG_MOST ? (this.all[0] ?? now) + WRONG_MS - now : 0;
    return Math.max(closed, (this.wrong.get(address)?.until ?? 0) - now, 0);
  }

  wrongCode(address: string, now: number): void {
    const count = (this.wrong.get(address)?.count ?? 0) + 1;
    this.wrong.delete(address);
    this.wrong.set(address, { count, until: now + Math.min(LONGEST_WAIT_MS, FIRST_WAIT_MS * 2 ** (count - 1)) });
    trim(this.wrong);
    this.all.push(now);
  }

  rightCode(address: string): void {
    this.wrong.delete(address);
  }
}

function trim(map: Map<string, unknown>): void {
  for (const old of [...map.keys()].slice(0, Math.max(0, map.size - REMEMBERED))) map.delete(old);
}
