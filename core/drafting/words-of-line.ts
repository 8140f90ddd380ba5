import type { Provenance } from "../machine/figure";
import type { Said, Span } from "./reading";
import { plainly, scan, type Token, type UnitKind } from "./scan";

/** A figure of a line. */
export type FigureToken = Extract<Token, { is: "figure" }>;

const HEDGES = new Set([
  "about",
  "approx",
  "approximately",
  "ca",
  "circa",
  "maybe",
  "roughly",
  "around",
  "guess",
  "guessed",
  "est",
  "estimated",
  "probably",
  "perhaps",
  "nearly",
  "guesstimate",
]);
const MEASURED = new Set(["measured", "measure", "metered", "clamped"]);
const TYPICAL = new Set(["typ", "typically", "usually"]);

/** One line, cut into pieces, with what has been read of it so far. */
export class LineWords {
  readonly plain: string;
  readonly tokens: readonly Token[];
  private readonly used = new Set<Token>();

  constructor(readonly text: string) {
    this.plain = plainly(text).toLowerCase();
    this.tokens = scan(text);
  }

  /** Counts a piece as read. */
  use(...tokens: readonly Token[]): void {
    for (const token of tokens) this.used.add(token);
  }

  isFree(token: Token): boolean {
    return !this.used.has(token);
  }

  get free(): Token[] {
    return this.tokens.filter((token) => this.isFree(token));
  }

  /** A phrase of the line, its pieces counted as read; null where it is not there, or some of it was read as something else. */
  take(phrase: RegExp): { found: RegExpExecArray; at: Span } | null {
    const found = phrase.exec(this.plain);
    if (!found || found[0] === "") return null;
    const at = { start: found.index, end: found.index + found[0].length };
    const within = this.tokens.filter(({ start, end }) => start < at.end && end > at.start);
    if (within.some((token) => !this.isFree(token))) return null;
    this.use(...within);
    return { found, at };
  }

  /** Figures of a kind that nothing has read yet. */
  figures(kind: UnitKind): FigureToken[] {
    return this.tokens.filter((token): token is FigureToken => token.is === "figure" && token.kind === kind && this.isFree(token));
  }

  /** The first such figure, read. */
  first(kind: UnitKind): Said | null {
    const [figure] = this.figures(kind);
    return figure ? this.said(figure) : null;
  }

  /** A figure with how it is known, by the words around it, counted as read. */
  said(figure: FigureToken): Said {
    this.use(figure);
    const at = this.tokens.indexOf(figure);
    let provenance: Provenance = "datasheet";
    for (let i = at - 1; i >= Math.max(0, at - 3); i--) {
      const before = this.tokens[i];
      if (before?.is !== "word") break;
      if (HEDGES.has(before.word)) provenance = "guess";
      else if (MEASURED.has(before.word)) provenance = "measured";
      else if (TYPICAL.has(before.word)) provenance = "typical";
      else continue;
      this.use(before);
      break;
    }
    const after = this.tokens[at + 1];
    if (after?.is === "word" && (after.word === "?" || HEDGES.has(after.word) || MEASURED.has(after.word) || TYPICAL.has(after.word))) {
      this.use(after);
      provenance = MEASURED.has(after.word) ? "measured" : TYPICAL.has(after.word) ? "typical" : "guess";
    }
    return {
      value: figure.value,
      ...(figure.low === undefined ? {} : { low: figure.low }),
      provenance,
      start: figure.start,
      end: figure.end,
    };
  }

  /** The words about a figure: those before it back to the clause's start or the figure before, and those after it. */
  around(figure: Token): { before: string[]; after: string[] } {
    const at = this.tokens.indexOf(figure);
    const stops = (token: Token | undefined) => !token || token.is === "figure" || token.is === "mark" || token.is === "times";
    const before: string[] = [];
    for (let i = at - 1; !stops(this.tokens[i]); i--) before.unshift(wordOf(this.tokens[i]));
    const after: string[] = [];
    for (let i = at + 1; !stops(this.tokens[i]); i++) after.push(wordOf(this.tokens[i]));
    return { before, after };
  }
}

function wordOf(token: Token | undefined): string {
  return token?.is === "word" ? token.word : (token?.text ?? "");
}
