import type { ShownFigures } from "../figures/types";
import { groupBy } from "../machine/group";
import type { Machine, Part, Wire } from "../machine/schema";
import { isChassis, isReturnBar } from "../machine/terminals";
import { type LedgerRow, ledgerOf } from "../machine/tree";
import { say } from "../quantity/format";
import { gaugeById } from "../reference/gauges";
import { Pen, type Picture, type Shape, short } from "../returns/pen";
import { textWidth } from "./measure";
import { shortRating } from "./ratings";
import { type Tags, tagsOf } from "./tags";
import { conductorText } from "./words";

/** The distribution of a machine from its sources to its loads, as a picture on one page. */
export interface Drawing extends Pick<Picture, "width" | "height"> {
  shapes: Shape[];
  /** Conductors that the tree cannot show: second feeds and links between bars, in words. */
  also: string[];
  /** Parts nothing feeds. */
  unfed: string[];
}

/** A part on its row, with what hangs on it. Siblings of one kind may share a row. */
interface Node {
  readonly row: LedgerRow;
  readonly names: string[];
  readonly children: Node[];
  /** Row of its feed, and of its last child. */
  first: number;
  last: number;
  x: number;
  w: number;
}

/** Least and most height of a row, px; a quarter of a millimetre on paper each. */
const PITCH = { least: 13, most: 26 } as const;
/** Size of the smallest text that may be printed, px: 2 mm high letters at arm's length. */
const TEXT = { least: 8.5, most: 11 } as const;
/** Rows from which loads of one kind on one node share a row. */
const ROWS_MANY = 40;

/** Width of a figure by its size. */
const MONO = 0.66;
const FUSE_W = 50;
const BAR_W = 7;
const GAP = 9;

/** Draws the distribution into the room given; it grows below where the machine needs more rows. */
export function drawingOf(
  machine: Machine,
  analysis: Pick<ShownFigures, "parts">,
  room: { width: number; height: number } = { width: 1108, height: 520 },
): Drawing {
  const ledger = ledgerOf(machine);
  const under = groupBy(ledger.rows, ({ parent }) => parent ?? undefined);
  const shown = ({ part }: LedgerRow) => !isReturnBar(part) && !isChassis(part);
  const build = (row: LedgerRow): Node => ({
    row,
    names: [row.part.name],
    children: (under.get(row.part.id) ?? []).filter(shown).map(build),
    first: 0,
    last: 0,
    x: 0,
    w: 0,
  });
  const isTop = (row: LedgerRow) => row.part.kind === "pack" || row.part.kind === "supply";
  const trees = ledger.rows.filter((row) => row.depth === 0 && isTop(row)).map(build);
  const tags = tagsOf(machine);
  if (countRows(trees) > ROWS_MANY) for (const tree of trees) shareRows(tree, machine, tags);
  const unfed = ledger.rows.filter((row) => row.depth === 0 && shown(row) && !isTop(row)).map(({ part }) => part.name);
  return new Distribution(machine, analysis, tags, trees, room).drawn(alsoWords(machine, tags), unfed);
}

function countRows(nodes: readonly Node[]): number {
  return nodes.reduce((sum, { children }) => sum + Math.max(1, countRows(children)), 0);
}

/** Loads on one node that are wired alike stand on one row: "Servo 1 … Servo 10 (10)". */
function shareRows(node: Node, machine: Machine, tags: Tags): void {
  const key = ({ row: { part, feed }, children }: Node) =>
    children.length > 0 || part.kind !== "load"
      ? part.id
      : `${part.loadKind} ${part.nominalV.value} ${feed ? conductorText(feed) : ""} ${feed?.fuse ? tags.fuseOf.get(feed.id)?.fuse.ratingA : ""} ${feed?.from.terminal}`;
  const kept = new Map<string, Node>();
  for (const child of node.children) {
    shareRows(child, machine, tags);
    const same = kept.get(key(child));
    if (same) same.names.push(...child.names);
    else kept.set(key(child), child);
  }
  node.children.splice(0, node.children.length, ...kept.values());
}

/** Wires the tree leaves out, each in words. */
function alsoWords(machine: Machine, tags: Tags): string[] {
  const partOf = new Map(machine.parts.map((part) => [part.id, part]));
  return ledgerOf(machine)
    .others.filter(({ role }) => role === "supply" || role === "phase")
    .map((wire) => {
      const end = ({ part, terminal }: Wire["from"]) => {
        const found = partOf.get(part);
        return found?.kind === "bar" ? found.name : `${found?.name ?? "?"} ${terminal.replace("-", "−")}`;
      };
      return `${tags.wires.get(wire.id) ?? "board"} ${wire.board ? "" : conductorText(wire)} ${end(wire.from)} → ${end(wire.to)}`;
    });
}

/** Text of a box: what it is, and its one figure. */
function words(part: Part, names: readonly string[], analysis: Pick<ShownFigures, "parts">): { name: string; figure: string } {
  const name = names.length === 1 ? (names[0] ?? "") : `${names[0]} … ${names.at(-1)} (${names.length})`;
  if (part.kind === "load" || part.kind === "driver") {
    const figure = analysis.parts[part.id];
    const count = part.kind === "load" && part.count > 1 ? ` × ${part.count}` : "";
    const amps = figure ? `${figure.worstAtLeast ? "≥ " : ""}${say(figure.worst.amps, "current", "up")}` : "";
    return { name: `${name}${count}`, figure: names.length > 1 ? `${amps} each`.trim() : amps };
  }
  return { name, figure: shortRating(part) };
}

class Distribution extends Pen {
  private readonly pitch: number;
  private readonly size: number;
  private readonly box: number;

  constructor(
    machine: Machine,
    private readonly analysis: Pick<ShownFigures, "parts">,
    private readonly tags: Tags,
    private readonly trees: readonly Node[],
    private readonly room: { width: number; height: number },
  ) {
    super(1);
    this.railOf = new Map(ledgerOf(machine).rails.map(({ origin, tag }) => [origin, tag]));
    const rows = Math.max(1, countRows(trees));
    this.pitch = Math.max(PITCH.least, Math.min(PITCH.most, (room.height - TOP) / rows));
    this.box = this.pitch - 4;
    this.size = Math.max(TEXT.least, Math.min(TEXT.most, this.box - 3));
  }

  private readonly railOf: ReadonlyMap<string, string>;

  drawn(also: string[], unfed: string[]): Drawing {
    let row = 0;
    for (const tree of this.trees) {
      row = this.rows(tree, row);
      tree.w = this.widthOf(tree);
      this.measure(tree);
    }
    const widest = Math.max(...this.trees.map((tree) => this.across(tree, 2, 0)), 0);
    const deepest = Math.max(1, ...this.trees.map(depthOf));
    // What room is left goes between the boxes, so that labels and lines breathe; not more than reads well.
    const spare = Math.max(0, Math.min(46, (this.room.width - widest) / deepest));
    const width = Math.max(...this.trees.map((tree) => this.across(tree, 2, spare)), 1);
    for (const tree of this.trees) this.draw(tree);
    return {
      width: Math.max(this.room.width, Math.ceil(width + 2)),
      height: Math.ceil(TOP + row * this.pitch),
      shapes: this.finished(),
      also,
      unfed,
    };
  }

  /** Rows from the top: a node stands on the row of its first child. */
  private rows(node: Node, from: number): number {
    // Above a bar that begins in the middle of the page there is room for its name.
    const start = node.row.part.kind === "bar" && from > 0 ? from + NAME_ROWS : from;
    let next = start;
    for (const child of node.children) next = this.rows(child, next);
    node.first = node.children[0]?.first ?? start;
    node.last = node.children.at(-1)?.first ?? start;
    return Math.max(next, start + 1);
  }

  /** Widths: boxes of one kind that hang on one node are alike, so that what hangs on them stands in one column. */
  private measure(node: Node): void {
    for (const child of node.children) child.w = this.widthOf(child);
    for (const alike of groupBy(node.children, ({ row }) => row.part.kind).values()) {
      const widest = Math.max(...alike.map(({ w }) => w));
      for (const child of alike) child.w = widest;
    }
    for (const child of node.children) this.measure(child);
  }

  /** Places along the line, and the right edge of it all. */
  private across(node: Node, x: number, spare: number): number {
    node.x = x;
    const right0 = x + node.w;
    let right = right0;
    // What hangs on one node stands in one column.
    const lead = Math.max(0, ...node.children.map((child) => this.leadOf(child))) + spare;
    for (const child of node.children) right = Math.max(right, this.across(child, right0 + lead, spare));
    return right;
  }

  private widthOf({ row: { part }, names }: Node): number {
    if (part.kind === "bar") return BAR_W;
    if (part.kind === "fuse") return FUSE_W;
    const { name, figure } = words(part, names, this.analysis);
    const rail = this.railOf.get(part.id);
    const figures = (figure.length + (rail ? rail.length + 1 : 0)) * MONO * this.size;
    return Math.max(54, textWidth(short(name, NAME_MOST), this.size, "bold") + figures + 10 + (figure ? 8 : 0));
  }

  /** What stands on the line that feeds a part: its fuse, its tag and size. */
  private leadOf({ row: { feed } }: Node): number {
    if (!feed) return 20;
    return 2 * GAP + (this.tags.fuseOf.has(feed.id) ? FUSE_W + GAP : 0) + this.leadText(feed).length * MONO * LABEL + 2;
  }

  private leadText(feed: Wire): string {
    const tag = this.tags.wires.get(feed.id);
    return tag ? `${tag} ${conductorText(feed)}` : "on the board";
  }

  private y(row: number): number {
    return TOP + row * this.pitch + this.pitch / 2;
  }

  private draw(node: Node): void {
    const { part } = node.row;
    for (const child of node.children) this.lead(node, child);
    if (part.kind === "bar") this.barOf(node, part.name);
    else this.boxOf(node);
    // What several hang on at a box's own output meets on a line beside it.
    if (part.kind !== "bar" && part.kind !== "driver" && node.children.length > 1) {
      const x = node.x + node.w + 4;
      this.line(`M ${x} ${this.y(node.children[0]?.first ?? node.first)} V ${this.y(node.last)}`, 2.5);
    }
    for (const child of node.children) this.draw(child);
  }

  private line(d: string, width: number): void {
    this.band(d, 0, "ink", [], { width, halo: false });
  }

  private rect(x: number, y: number, w: number, h: number, strokeWidth = 1.2): void {
    this.shapes.push({ kind: "box", x, y, w, h, fill: "paper", stroke: "ink", strokeWidth, loads: [] });
  }

  private barOf(node: Node, name: string): void {
    const [top, bottom] = [this.y(node.first) - this.pitch / 2 + 2, this.y(Math.max(node.last, node.first)) + this.pitch / 2 - 2];
    this.shapes.push({ kind: "box", x: node.x, y: top, w: BAR_W, h: bottom - top, fill: "ink", stroke: null, strokeWidth: 0, loads: [] });
    this.label(node.x + BAR_W / 2, top - 3, short(name, NAME_MOST), { size: this.size, bold: true, anchor: "middle" });
  }

  private boxOf(node: Node): void {
    const { part } = node.row;
    const { name, figure } = words(part, node.names, this.analysis);
    const spans = part.kind === "driver" ? node.last - node.first : 0;
    const [y, h] = [this.y(node.first) - this.box / 2, this.box + spans * this.pitch];
    this.rect(node.x, y, node.w, h, part.kind === "pack" || part.kind === "supply" ? 2 : 1.2);
    const base = y + h / 2 + this.size * 0.34;
    if (part.kind === "fuse") {
      const fuse = this.tags.fuseOf.get(part.id);
      this.text(node.x + node.w / 2, base, `${fuse?.tag ?? ""} ${part.fuse.ratingA}\u00a0A`, { size: LABEL, mono: true });
      return;
    }
    const rail = this.railOf.get(part.id);
    if (rail) this.text(node.x + 5, base, rail, { size: this.size - 0.5, mono: true, anchor: "start" });
    const indent = rail ? 5 + (rail.length + 1) * MONO * (this.size - 0.5) : 5;
    this.text(node.x + indent, base, short(name, NAME_MOST), { size: this.size, bold: true, anchor: "start" });
    if (figure) this.text(node.x + node.w - 5, base, figure, { size: this.size - 0.5, mono: true, anchor: "end" });
    if (part.kind === "switch" && part.stop)
      this.label(node.x + node.w / 2, y - 3, "opens with the stop", { size: LABEL - 0.5, anchor: "middle" });
  }

  /** The line from a part to what hangs on it, its fuse in it, its tag on it; leads of a motor are two lines. */
  private lead(node: Node, child: Node): void {
    const { feed } = child.row;
    const y = this.y(child.first);
    const [from, to] = [node.x + node.w, child.x];
    const area = gaugeById(feed?.gauge ?? "")?.areaMm2 ?? 0.5;
    const width = Math.min(6, 0.8 + Math.sqrt(area * (feed?.parallel ?? 1)) * 0.6);
    const double = feed?.role === "phase";
    if (double) {
      this.line(`M ${from} ${y - 1.8} H ${to}`, 1);
      this.line(`M ${from} ${y + 1.8} H ${to}`, 1);
    } else this.line(`M ${from} ${y} H ${to}`, width);
    if (!feed) return;
    const fuse = this.tags.fuseOf.get(feed.id);
    let x = from + GAP;
    if (fuse) {
      this.rect(x, y - this.box * 0.42, FUSE_W, this.box * 0.84);
      this.text(x + FUSE_W / 2, y + LABEL * 0.34, `${fuse.tag} ${fuse.fuse.ratingA}\u00a0A`, { size: LABEL, mono: true });
      x += FUSE_W + GAP;
    }
    const clear = double ? 3 : width / 2;
    this.label((x + to - GAP) / 2, y - clear - 2, this.leadText(feed), { size: LABEL, mono: true, anchor: "middle" });
  }
}

/** Rows kept free above a bar for its name. */
const NAME_ROWS = 0.6;
/** Room above the first row for names of bars, px. */
const TOP = 14;
/** Size of tags on lines, px. */
const LABEL = 8.5;
/** Letters of a name on the drawing; in full it stands in the lists. */
const NAME_MOST = 26;

function depthOf({ children }: Node): number {
  return 1 + Math.max(0, ...children.map(depthOf));
}
