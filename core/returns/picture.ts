import type { Machine, Wire } from "../machine/schema";
import { formatQuantity, say } from "../quantity/format";
import { behind, type Flow, type FlowShare, type FlowTie } from "./flow";
import { CALLOUTS, FLOOR, type FlowLayout, layoutOf, SOURCE_WIDTH, sourceX, TAG_W, thickness } from "./layout";
import { listed, Pen, type Picture, type Spot, short, signed, type Tone, turn, wrapped } from "./pen";

/** Draws a flow into the room given; it grows beyond where the machine needs more. */
export function pictureOf(machine: Machine, flow: Flow, room: { width: number; height: number }): Picture {
  const rows = tieRows(flow);
  const layout = layoutOf(flow, room, Math.max(-1, ...rows.values()) + 1, bottomTies(flow, rows).length);
  const draw = new Drawing(machine, flow, layout, rows);
  return draw.picture();
}

/** Ties that begin or end at a bar or regulator: they run under all lanes. */
function bottomTies(flow: Flow, rows: ReadonlyMap<string, number>): FlowTie[] {
  const frames = new Set(flow.frames.map(({ id }) => id));
  return flow.ties.filter(({ wire, kind, from, to }) => kind !== "supply" && !rows.has(wire) && !frames.has(from) && !frames.has(to));
}

/** Signal grounds between loads, in as few rows as do not overlap. */
function tieRows(flow: Flow): Map<string, number> {
  const slot = new Map(flow.loads.map(({ id }, i) => [id, i]));
  const ends: number[] = [];
  const rows = new Map<string, number>();
  for (const tie of flow.ties) {
    const [a, b] = [slot.get(tie.from), slot.get(tie.to)];
    if (a === undefined || b === undefined) continue;
    const [from, to] = a < b ? [a, b] : [b, a];
    let row = ends.findIndex((end) => end < from);
    if (row < 0) row = ends.length;
    ends[row] = to;
    rows.set(tie.wire, row);
  }
  return rows;
}

class Drawing extends Pen {
  private readonly names: ReadonlyMap<string, string>;
  private readonly wires: ReadonlyMap<string, Wire>;

  constructor(
    private readonly machine: Machine,
    private readonly flow: Flow,
    private readonly layout: FlowLayout,
    private readonly rows: ReadonlyMap<string, number>,
  ) {
    super(layout.scale);
    this.names = new Map([
      ...machine.parts.map(({ id, name }): [string, string] => [id, name]),
      ...flow.loads.map(({ id, name }): [string, string] => [id, name]),
    ]);
    this.wires = new Map(machine.wires.map((wire) => [wire.id, wire]));
  }

  picture(): Picture {
    const { layout, flow } = this;
    this.axis();
    this.supplyBands();
    this.returnBands();
    this.trunks();
    this.tieLines();
    this.shares();
    this.boxes();
    return {
      width: layout.width,
      height: layout.height,
      shapes: this.finished(),
      loads: flow.loads.map(({ id }) => this.boxOf(id)),
      landings: [...layout.returns].map(([id, { x, top, bottom }]) => ({ id, x: x - 14, y: top - 12, w: 28, h: bottom - top + 24 })),
      callouts: flow.shares.map((share) => this.shareWords(share)),
      floorA: FLOOR / layout.scale,
    };
  }

  private axis(): void {
    const y = (this.layout.axisTop + this.layout.axisBottom) / 2;
    this.band(`M 0 ${y} H ${this.layout.width}`, 0, "hair", [], { width: 1, halo: false });
  }

  private behind(hub: string): string[] {
    return behind(this.flow.supply, this.flow.loads, hub);
  }

  private supplyBands(): void {
    const { flow, layout } = this;
    for (const hub of flow.supply) {
      const own = layout.supply.get(hub.id);
      const above = hub.up && layout.supply.get(hub.up.at);
      if (!own || !hub.up || !above) continue;
      const rail: Tone = `rail-${this.railOf(hub.up.at)}`;
      this.band(`M ${above.x} ${own.mid} H ${own.x}`, hub.up.amps, rail, this.behind(hub.id), {
        title: `${hub.name}: ${say(hub.up.amps, "current")}`,
      });
    }
    for (const load of flow.loads) {
      const at = layout.loads.get(load.id);
      const hub = load.from === null ? undefined : layout.supply.get(load.from);
      const board = load.from === null ? undefined : layout.loads.get(load.from);
      if (!at || (!hub && !board)) continue;
      const d = hub
        ? turn(hub.x, at.over, at.x, layout.axisTop)
        : `M ${(board?.x ?? 0) + 10} ${layout.axisTop} V ${at.over} ${turn((board?.x ?? 0) + 10, at.over, at.x, layout.axisTop).replace("M", "L")}`;
      this.band(d, load.amps, `rail-${load.rail}`, [load.id], { part: load.id, title: `${load.name}: ${say(load.amps, "current")}` });
    }
  }

  private railOf(hub: string): number {
    return this.flow.supply.find(({ id }) => id === hub)?.rail ?? 0;
  }

  private returnBands(): void {
    const { flow, layout } = this;
    // Long lanes first, so that what comes down from a box crosses over them.
    for (const hub of flow.returns) {
      const own = layout.returns.get(hub.id);
      const to = hub.up && (layout.returns.get(hub.up.at)?.x ?? layout.loads.get(hub.up.at)?.x);
      if (!own || !hub.up || to == null) continue;
      const tone: Tone =
        hub.kind === "converter" ? `rail-${this.railOf(this.flow.supply.find(({ id }) => id === hub.id)?.up?.at ?? hub.id)}` : "rail-0";
      this.band(`M ${own.x} ${own.mid} H ${to}`, hub.up.amps, tone, flow.follows[hub.up.wire] ?? [], {
        faint: true,
        title: `${this.names.get(hub.id) ?? ""} to ${this.names.get(hub.up.at) ?? ""}: ${say(hub.up.amps, "current")}`,
      });
    }
    for (const load of flow.loads) {
      const at = layout.loads.get(load.id);
      if (!at || !load.back || at.under === null) {
        if (at) this.openEnd(load.id, at.x);
        continue;
      }
      const to = layout.returns.get(load.back.at)?.x ?? layout.loads.get(load.back.at)?.x;
      if (to === undefined) continue;
      const amps = this.wireAmps(load.back.wire, load.amps);
      this.band(turn(to, at.under, at.x, layout.axisBottom), amps, `rail-${load.rail}`, flow.follows[load.back.wire] ?? [load.id], {
        faint: true,
        part: load.id,
        title: `${load.name} back to ${this.names.get(load.back.at) ?? ""}: ${say(amps, "current")}`,
      });
    }
  }

  /** A return of several loads carries all of theirs. */
  private wireAmps(wire: string, own: number): number {
    const users = this.flow.follows[wire] ?? [];
    if (users.length <= 1) return own;
    const amps = new Map(this.flow.loads.map((load) => [load.id, load.amps]));
    return users.reduce((sum, id) => sum + (amps.get(id) ?? 0), 0);
  }

  private openEnd(id: string, x: number): void {
    const y = this.layout.axisBottom;
    this.band(`M ${x} ${y} V ${y + 16}`, 0, "fix", [id], { dash: "3 3", width: 2, halo: false, part: id });
    this.text(x, y + 28, "no return", { tone: "fix", bold: true, loads: [id] });
  }

  private trunks(): void {
    const { flow, layout } = this;
    for (const [hubs, trunks, under] of [
      [flow.supply, layout.supply, false],
      [flow.returns, layout.returns, true],
    ] as const) {
      for (const hub of hubs) {
        const at = trunks.get(hub.id);
        if (!at || hub.kind === "source") continue;
        const loads = under ? (hub.up ? (flow.follows[hub.up.wire] ?? []) : []) : this.behind(hub.id);
        if (hub.kind === "converter") this.tag(hub.id, hub.tag, hub.rail, at, loads);
        else this.bar(hub.id, hub.name, at, under, loads);
      }
    }
    for (const source of flow.supply)
      if (source.kind === "source")
        this.source(
          source.id,
          source.volts === null ? source.name : `${short(source.name, 20)}, ${say(source.volts, "voltage", "down")}`,
          source.rail,
        );
  }

  private tag(
    id: string,
    tag: string,
    rail: number,
    at: { x: number; top: number; bottom: number; mid: number },
    loads: readonly string[],
  ): void {
    const h = Math.max(17, at.bottom - at.top + 10);
    this.shapes.push({
      kind: "box",
      x: at.x - TAG_W / 2,
      y: at.mid - h / 2,
      w: TAG_W,
      h,
      fill: "sheet",
      stroke: `rail-${rail}`,
      strokeWidth: 1.5,
      loads,
      part: id,
      title: this.names.get(id) ?? tag,
    });
    this.text(at.x, at.mid + 4, tag, { mono: true, bold: true, tone: `rail-${rail}`, loads });
  }

  private bar(id: string, name: string, at: { x: number; top: number; bottom: number }, under: boolean, loads: readonly string[]): void {
    const y = at.top - 9;
    this.shapes.push({
      kind: "box",
      x: at.x - 4,
      y,
      w: 8,
      h: at.bottom - at.top + 18,
      fill: "ink",
      stroke: null,
      strokeWidth: 0,
      loads,
      part: id,
      title: name,
    });
    this.label(at.x, under ? at.bottom + 21 : at.top - 14, short(name, 16), { bold: true, loads });
  }

  /** A source spans from its uppermost lane to its lowest: what leaves it comes back to it. */
  private source(id: string, name: string, rail: number): void {
    const { layout, flow } = this;
    const over = layout.supply.get(id);
    const under = layout.returns.get(id);
    const top = Math.min(over?.top ?? layout.axisTop, layout.axisTop - 20) - 14;
    const bottom = Math.max(under?.bottom ?? layout.axisBottom, layout.axisBottom + 20) + 14;
    const x = sourceX(flow, id);
    const mid = (top + bottom) / 2;
    this.shapes.push({
      kind: "box",
      x,
      y: top,
      w: SOURCE_WIDTH,
      h: bottom - top,
      fill: "sheet",
      stroke: "ink",
      strokeWidth: 2,
      loads: [],
      part: id,
      title: name,
    });
    this.text(x + SOURCE_WIDTH / 2 + 4, mid, name, { bold: true, upright: true, size: 12, tone: `rail-${rail}` });
    for (const [hubs, trunk] of [
      [flow.supply, over],
      [flow.returns, under],
    ] as const) {
      if (!trunk) continue;
      const amps =
        hubs.filter(({ up }) => up?.at === id).reduce((sum, { up }) => sum + (up?.amps ?? 0), 0) +
        flow.loads.filter((load) => (trunk === over ? load.from : load.back?.at) === id).reduce((sum, load) => sum + load.amps, 0);
      this.text(
        x + SOURCE_WIDTH + 5,
        trunk.mid + (thickness(amps, layout.scale) > 22 ? 5 : -6 - thickness(amps, layout.scale) / 2),
        say(amps, "current"),
        {
          anchor: "start",
          size: 13,
          mono: true,
          bold: true,
          halo: thickness(amps, layout.scale) <= 22,
          tone: trunk === over && thickness(amps, layout.scale) > 22 ? "paper" : "ink",
        },
      );
    }
  }

  private foot(id: string): { x: number; y: number } | null {
    const load = this.layout.loads.get(id);
    if (load) return { x: load.x, y: this.layout.axisBottom };
    const trunk = this.layout.returns.get(id);
    return trunk ? { x: trunk.x, y: trunk.bottom + 9 } : null;
  }

  private tieLines(): void {
    const { flow, layout } = this;
    const frameY = layout.lowest + 24;
    for (const { id, name } of flow.frames) {
      this.band(`M ${12} ${frameY} H ${layout.width - 12}`, 0, "soft", [], { width: 2, halo: false, part: id, title: name });
      this.text(layout.width - 14, frameY - 5, name, { anchor: "end", tone: "soft", halo: true });
    }
    const frames = new Set(flow.frames.map(({ id }) => id));
    const bottom = bottomTies(flow, this.rows);
    for (const tie of flow.ties) {
      if (tie.kind === "supply") {
        this.secondFeed(tie);
        continue;
      }
      const [a, b] = [this.foot(tie.from), this.foot(tie.to)];
      const tone: Tone = tie.looped ? "fix" : "soft";
      const row = this.rows.get(tie.wire);
      const title = `${this.names.get(tie.from) ?? ""} to ${this.names.get(tie.to) ?? ""}: ${say(Math.abs(tie.amps), "current")}`;
      if (frames.has(tie.from) || frames.has(tie.to)) {
        const at = a ?? b;
        if (at) this.band(`M ${at.x + 10} ${at.y} V ${frameY}`, 0, "soft", [], { width: 1.5, dash: "2 3", halo: false, title });
        continue;
      }
      if (!a || !b) continue;
      const y = row === undefined ? layout.bottomY(bottom.indexOf(tie)) : layout.tieY(row);
      const side = a.x < b.x ? 9 : -9;
      this.band(`M ${a.x + side} ${a.y} V ${y} H ${b.x - side} V ${b.y}`, tie.amps, tone, [], {
        width: Math.max(1.5, thickness(tie.amps, layout.scale)),
        dash: "5 3",
        title,
      });
      if (Math.abs(tie.amps) >= SAID_A)
        this.label(
          (a.x + b.x) / 2,
          y + 4,
          `${say(Math.abs(tie.amps), "current")} ${tie.kind === "signal" ? "in a signal ground" : "by a second way"}`,
          {
            tone,
            bold: tie.looped,
            halo: true,
          },
        );
    }
  }

  private secondFeed(tie: FlowTie): void {
    const to = this.layout.supply.get(tie.to);
    if (!to) return;
    const x = sourceX(this.flow, tie.from) + SOURCE_WIDTH / 2;
    const y = this.layout.highest - 14;
    this.band(`M ${x} ${this.layout.axisTop - 34} V ${y} H ${to.x} V ${to.top}`, tie.amps, `rail-${this.railOf(tie.from)}`, [], {
      title: say(Math.abs(tie.amps), "current"),
    });
  }

  /** Boards that share metal with motors: the metal is framed, their way home marked, and a line under the picture says what it does. */
  private shares(): void {
    const { flow, layout } = this;
    flow.shares.slice(0, CALLOUTS).forEach((share, n) => {
      for (const wire of share.wires) this.frameWire(wire, n + 1);
      for (const { id } of share.boards) {
        const at = layout.loads.get(id);
        const load = flow.loads.find((each) => each.id === id);
        const to = load?.back && (layout.returns.get(load.back.at)?.x ?? layout.loads.get(load.back.at)?.x);
        if (!at || at.under === null || to == null) continue;
        this.band(turn(to, at.under, at.x, layout.axisBottom), 0, "fix", [id], { width: Math.max(2.5, at.thick), dash: "6 3", part: id });
      }
      const y = layout.lowest + (flow.frames.length > 0 ? 46 : 24) + n * 17;
      this.marker(18, y - 4, n + 1);
      this.text(30, y, short(this.shareWords(share), Math.floor((layout.width - 44) / 6.1)), {
        anchor: "start",
        tone: "fix",
        bold: n === 0,
        size: 12,
        loads: [],
      });
    });
  }

  private marker(x: number, y: number, n: number): void {
    this.shapes.push({ kind: "box", x: x - 7, y: y - 7, w: 14, h: 14, fill: "fix", stroke: null, strokeWidth: 0, loads: [] });
    this.text(x, y + 4, String(n), { tone: "paper", bold: true });
  }

  private frameWire(wire: string, n: number): void {
    const { flow, layout } = this;
    const hub = flow.returns.find(({ up }) => up?.wire === wire);
    const trunk = hub && layout.returns.get(hub.id);
    const far = hub?.up && (layout.returns.get(hub.up.at)?.x ?? layout.loads.get(hub.up.at)?.x);
    const load = flow.loads.find(({ back }) => back?.wire === wire);
    const at = load && layout.loads.get(load.id);
    const to = load?.back && layout.returns.get(load.back.at)?.x;
    const box =
      trunk && far != null
        ? { x: Math.min(trunk.x, far) + 6, y: trunk.mid, x2: Math.max(trunk.x, far) - 6, thick: trunk.thick }
        : at && at.under !== null && to != null
          ? { x: Math.min(at.x, to) + 6, y: at.under, x2: Math.max(at.x, to), thick: at.thick }
          : null;
    if (!box) return;
    const pad = box.thick / 2 + 4;
    this.shapes.push({
      kind: "box",
      x: box.x,
      y: box.y - pad,
      w: Math.max(10, box.x2 - box.x),
      h: 2 * pad,
      fill: null,
      stroke: "fix",
      strokeWidth: 1.5,
      dash: "4 3",
      loads: flow.follows[wire] ?? [],
    });
    this.marker(box.x + 12, box.y, n);
  }

  private shareWords(share: FlowShare): string {
    const wire = share.wires
      .map((id) => this.wires.get(id))
      .reduce((longest, each) => ((each?.lengthM?.value ?? 0) > (longest?.lengthM?.value ?? 0) ? each : longest));
    const run = `${wire?.lengthM ? `${say(wire.lengthM.value, "length")} of ` : ""}${wire?.gauge ?? "unknown wire"}`;
    const movers = listed(share.movers, 2);
    const boards = listed(
      share.boards.map(({ name }) => name),
      2,
    );
    const worst = share.boards.reduce((most, each) => (each.worstV > most.worstV ? each : most));
    const mode = this.machine.modes[worst.mode]?.name ?? "";
    return `Shared metal: ${run} carries ${movers} with ${boards}’s ground: +${say(worst.liftNowV, "voltage", "up")} now, ${worst.mode === this.flow.mode ? "its worst" : `+${say(worst.worstV, "voltage", "up")} in ${mode}`}`;
  }

  private boxOf(id: string): Spot {
    const { slotW, axisTop, axisBottom } = this.layout;
    const x = this.layout.loads.get(id)?.x ?? 0;
    return { id, x: x - slotW / 2 + 1.5, y: axisTop, w: slotW - 3, h: axisBottom - axisTop };
  }

  private boxes(): void {
    const { flow, layout } = this;
    const riding = new Set(flow.shares.flatMap(({ boards }) => boards.map(({ id }) => id)));
    for (const load of flow.loads) {
      const { x, y, w, h } = this.boxOf(load.id);
      const mid = x + w / 2;
      const rides = riding.has(load.id);
      this.shapes.push({
        kind: "box",
        x,
        y,
        w,
        h,
        fill: "sheet",
        stroke: rides ? "fix" : "ink",
        strokeWidth: rides ? 2.5 : 1,
        loads: [load.id],
        part: load.id,
        title: load.name,
      });
      const amps = formatQuantity(load.amps, "current");
      const offset = load.offsetV === null ? "no way" : signed(load.offsetV);
      const common = { loads: [load.id] };
      const figure = `${load.atLeast ? "≥ " : ""}${amps.digits}\u00a0${amps.unit}`;
      if (layout.words === "name upright") {
        const lines = wrapped(load.name, 11, 2);
        lines.forEach((line, i) => {
          this.text(mid + (i - (lines.length - 1) / 2) * 13 + 4, y + (h - 30) / 2, line, { ...common, upright: true, bold: true });
        });
        // A narrow slot has no room for the spaces.
        this.figures(mid, y + h, figure.replaceAll("\u00a0", ""), offset.replaceAll("\u00a0", ""), load.id, rides, 11);
        continue;
      }
      if (layout.words === "upright") {
        this.text(mid - 5, y + h - 6, short(load.name, 17), { ...common, upright: true, anchor: "start", bold: true });
        this.text(mid + 9, y + h - 6, `${figure}  ${offset}`, {
          ...common,
          upright: true,
          anchor: "start",
          mono: true,
          tone: rides ? "fix" : "ink",
        });
        continue;
      }
      const lines = wrapped(load.name, Math.floor((w - 4) / 5.9), 3);
      lines.forEach((line, i) => {
        this.text(mid, y + 14 + i * 12 + (3 - lines.length) * 5, line, { ...common, bold: true });
      });
      this.figures(mid, y + h, figure, offset, load.id, rides, 13);
    }
  }

  private figures(x: number, bottom: number, amps: string, offset: string, id: string, rides: boolean, size: number): void {
    this.text(x, bottom - 19, amps, { loads: [id], mono: true, size, bold: true });
    this.text(x, bottom - 6, offset, { loads: [id], mono: size > 11, tone: rides ? "fix" : "soft", bold: rides });
  }
}

/** From this on a tie's current is written beside it, A. */
const SAID_A = 0.005;
