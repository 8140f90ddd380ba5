import { capital, formatQuantity } from "../quantity/format";
import { thickness } from "./layout";

/** What a shape is painted with. */
export type Tone = "ink" | "soft" | "hair" | "paper" | "sheet" | "fix" | `rail-${number}`;

interface Common {
  /** Loads whose amps go through it; empty: scenery that stays. */
  loads: readonly string[];
  /** The part it stands for. */
  part?: string;
  title?: string;
}

/** What is drawn, back to front. Colours are named tones; the screen and the file each have their own for them. */
export type Shape =
  | (Common & { kind: "band"; d: string; width: number; tone: Tone; faint: boolean; dash?: string; halo: boolean })
  | (Common & {
      kind: "box";
      x: number;
      y: number;
      w: number;
      h: number;
      fill: Tone | null;
      stroke: Tone | null;
      strokeWidth: number;
      dash?: string;
    })
  | (Common & {
      kind: "text";
      x: number;
      y: number;
      text: string;
      size: number;
      anchor: "start" | "middle" | "end";
      tone: Tone;
      mono: boolean;
      bold: boolean;
      upright: boolean;
      halo: boolean;
    });

/** A spot that can be pointed at: a load's box, or a hub a return may be dropped on. */
export interface Spot {
  id: string;
  x: number;
  y: number;
  w: number;
  h: number;
}

/** A picture as shapes and texts, with its size in px. */
export interface Picture {
  width: number;
  height: number;
  shapes: Shape[];
  loads: Spot[];
  landings: Spot[];
  /** What is written under it, for those who cannot see it. */
  callouts: string[];
  /** Amps from which a band is wider than the least. */
  floorA: number;
}

/** Collects shapes back to front; words that must lie over everything come last. */
export class Pen {
  protected readonly shapes: Shape[] = [];
  private readonly labels: Shape[] = [];

  /** @param scale px per ampere */
  constructor(private readonly scale: number) {}

  protected band(
    d: string,
    amps: number,
    tone: Tone,
    loads: readonly string[],
    options: { faint?: boolean; dash?: string; part?: string; title?: string; width?: number; halo?: boolean } = {},
  ): void {
    const { faint = false, width = thickness(amps, this.scale), halo = true, ...rest } = options;
    this.shapes.push({ kind: "band", d, width, tone, faint, loads, halo, ...rest });
  }

  protected text(x: number, y: number, text: string, options: Partial<Extract<Shape, { kind: "text" }>> = {}): void {
    this.shapes.push({
      kind: "text",
      x,
      y,
      text,
      size: 11,
      anchor: "middle",
      tone: "ink",
      mono: false,
      bold: false,
      upright: false,
      halo: false,
      loads: [],
      ...options,
    });
  }

  protected label(x: number, y: number, text: string, options: Partial<Extract<Shape, { kind: "text" }>>): void {
    this.text(x, y, text, { halo: true, ...options });
    const made = this.shapes.pop();
    if (made) this.labels.push(made);
  }

  protected finished(): Shape[] {
    return [...this.shapes, ...this.labels];
  }
}

/** Radius of a bend, px. */
const ROUND = 14;

/** From a trunk along a lane, round into a slot. */
export function turn(fromX: number, y: number, x: number, end: number): string {
  const right = x >= fromX;
  const down = end >= y;
  const r = Math.min(ROUND, Math.abs(x - fromX), Math.abs(end - y));
  return `M ${fromX} ${y} H ${right ? x - r : x + r} Q ${x} ${y} ${x} ${down ? y + r : y - r} V ${end}`;
}

/** Volts with their sign. */
export function signed(volts: number): string {
  const { digits, unit } = formatQuantity(volts, "voltage");
  return `${volts > 0 && !digits.startsWith("+") ? "+" : ""}${digits}\u00a0${unit}`;
}

/** A text cut to a length. */
export function short(text: string, most: number): string {
  return text.length <= most ? text : `${text.slice(0, most - 1).trimEnd()}…`;
}

/** Names in a row, the rest counted. */
export function listed(names: readonly string[], most: number): string {
  if (names.length <= 1) return names[0] ?? "";
  if (names.length > most) return `${names.slice(0, most).join(", ")} and ${names.length - most} more`;
  return `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
}

/** A name in lines of at most `width` characters; the last one is cut where it does not fit. */
export function wrapped(name: string, width: number, most: number): string[] {
  const lines: string[] = [];
  for (const word of capital(name).split(/\s+/)) {
    const last = lines.at(-1);
    if (last !== undefined && last.length + 1 + word.length <= width) lines[lines.length - 1] = `${last} ${word}`;
    else lines.push(word);
  }
  const kept = lines.slice(0, most).map((line) => short(line, Math.max(3, width)));
  if (lines.length > most) kept[most - 1] = short(`${kept[most - 1]}……`, Math.max(3, width));
  return kept;
}
