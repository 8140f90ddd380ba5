import type { Flow, FlowHub, FlowLoad } from "./flow";

/** Where everything of a flow stands, px; origin top left, y down. */
export interface FlowLayout {
  width: number;
  height: number;
  axisTop: number;
  axisBottom: number;
  slotW: number;
  /** How a slot carries its words: across, the name alone upright, or all upright. */
  words: "across" | "name upright" | "upright";
  /** px per ampere, and the least width of a band. */
  scale: number;
  /** Loads by id: centre of their slot, and their lanes over and under the axis. */
  loads: ReadonlyMap<string, { x: number; over: number; under: number | null; thick: number }>;
  /** Hubs over and under the axis by id. */
  supply: ReadonlyMap<string, Trunk>;
  returns: ReadonlyMap<string, Trunk>;
  /** Under the lowest lane, and above the highest. */
  lowest: number;
  highest: number;
  tieY: (row: number) => number;
  /** The same for ties between bars, under the lowest lane. */
  bottomY: (row: number) => number;
}

/** A hub: its column, the stretch it covers, and where its own band leaves it. */
export interface Trunk {
  x: number;
  top: number;
  bottom: number;
  mid: number;
  thick: number;
}

/** Least width of a band, px: thinner could not be seen. */
export const FLOOR = 1.5;
/** Measures of the picture, px. */
const MARGIN = 12;
const SOURCE_W = 30;
const SOURCE_STEP = 40;
const TRUNK_GAP = 62;
const BAR_STEP = 36;
const SOURCE_SHIFT = 22;
const SLOT_MAX = 150;
/** From these widths on a name fits across a slot, and figures do. */
const SLOT_NAMES = 58;
const SLOT_FIGURES = 41;
const SLOT_MIN = 32;
const BOX_H = { across: 72, "name upright": 98, upright: 112 } as const;
/** Room above, between lanes, and between ties, px. */
const TOP = 26;
const GAP_MAX = 22;
const GAP_MIN = 2.5;
const TIE_STEP = 11;
/** Width of a rail's tag, px. */
export const TAG_W = 30;

/** Width of a band, px. */
export function thickness(amps: number, scale: number): number {
  return Math.max(FLOOR, Math.abs(amps) * scale);
}

/** The left edge of a source's box; the first source stands innermost. */
export function sourceX(flow: Flow, id: string): number {
  const sources = flow.supply.filter(({ kind }) => kind === "source");
  const index = sources.findIndex((each) => each.id === id);
  return MARGIN + (sources.length - 1 - index) * SOURCE_STEP;
}
/** Width of a source's box, px. */
export const SOURCE_WIDTH = SOURCE_W;

/** Lanes stack outwards from the axis in an order that keeps them from crossing above it; below, by where they land. */
export function layoutOf(flow: Flow, room: { width: number; height: number }, tieRows: number, bottomRows = 0): FlowLayout {
  const sources = flow.supply.filter(({ kind }) => kind === "source").length;
  // Bars of an outer source stand left of those of an inner one, or they would look like one bar.
  const barsX = (source: number) => firstBarX + (Math.max(1, sources) - 1 - source) * SOURCE_SHIFT;
  const firstBarX = MARGIN + Math.max(1, sources) * SOURCE_STEP + TRUNK_GAP - (SOURCE_STEP - SOURCE_W);
  const depths = headDepths(flow);
  const deepest = Math.max(0, ...depths.values());
  const firstConverts = flow.supply.some(({ id, kind }) => kind === "converter" && flow.loads[0]?.from === id);
  const slotsX = barsX(0) + deepest * BAR_STEP + (firstConverts ? 56 : 18);
  const count = Math.max(1, flow.loads.length);
  const fair = (room.width - slotsX - MARGIN) / count;
  const words = fair >= SLOT_NAMES ? "across" : fair >= SLOT_FIGURES ? "name upright" : "upright";
  const slotW = Math.min(SLOT_MAX, Math.max(SLOT_MIN, fair));
  const width = Math.max(room.width, Math.ceil(slotsX + count * slotW + MARGIN));
  const boxH = BOX_H[words];
  const tieH = tieRows * TIE_STEP + 6;

  // The thickest trunk takes at most two fifths of the room over the axis.
  const callouts = bottomRows * TIE_STEP + flow.shares.slice(0, CALLOUTS).length * 17 + (flow.frames.length > 0 ? 34 : 8);
  const half = Math.max(120, (room.height - boxH - TOP - tieH - callouts - 14) / 2);
  const trunkA = Math.max(
    1e-9,
    ...flow.supply.map(({ up }) => up?.amps ?? 0),
    flow.loads.reduce((sum, { amps }) => sum + amps, 0),
  );
  const scale = Math.min(6, (half * 0.42) / trunkA);
  const used = flow.loads.reduce((sum, { amps }) => sum + thickness(amps, scale), 0);
  const gap = Math.min(GAP_MAX, Math.max(GAP_MIN, (half - 16 - used) / count));

  const slot = new Map(flow.loads.map(({ id }, i) => [id, slotsX + (i + 0.5) * slotW]));
  const over = new Map<string, number>();
  let reach = 14;
  for (const { id, amps } of flow.loads) {
    const thick = thickness(amps, scale);
    over.set(id, reach + thick / 2);
    reach += thick + gap;
  }
  const axisTop = TOP + reach;
  const axisBottom = axisTop + boxH;
  for (const [id, away] of over) over.set(id, axisTop - away);

  const supply = supplyTrunks(flow, over, slot, depths, { barsX, slotW, scale });
  const below = returnLanes(flow, slot, { barsX, slotW, scale, gap, start: axisBottom + tieH + 12, supply });
  const height = Math.ceil(below.lowest + callouts + 14);
  return {
    width,
    height,
    axisTop,
    axisBottom,
    slotW,
    words,
    scale,
    loads: new Map(
      flow.loads.map(({ id, amps }) => [
        id,
        { x: slot.get(id) as number, over: over.get(id) as number, under: below.lanes.get(id) ?? null, thick: thickness(amps, scale) },
      ]),
    ),
    supply,
    returns: below.trunks,
    lowest: below.lowest + bottomRows * TIE_STEP,
    highest: Math.min(axisTop, ...over.values()),
    tieY: (row) => axisBottom + 8 + row * TIE_STEP,
    bottomY: (row) => below.lowest + 4 + row * TIE_STEP,
  };
}

/** Most callouts under the picture. */
export const CALLOUTS = 3;

/** Which of the sources a hub over the axis comes from. */
function sourceIndex(flow: Flow, id: string): number {
  const sources = flow.supply.filter(({ kind }) => kind === "source");
  let at = flow.supply.find((hub) => hub.id === id);
  for (let step = 0; at?.up && step < flow.supply.length; step++) {
    const { up } = at;
    at = flow.supply.find((hub) => hub.id === up.at);
  }
  return Math.max(
    0,
    sources.findIndex((source) => source.id === at?.id),
  );
}

/** How many bars lie between a bar and its source, for bars that no regulator feeds. */
function headDepths(flow: Flow): Map<string, number> {
  const hubs = new Map(flow.supply.map((hub) => [hub.id, hub]));
  const depths = new Map<string, number>();
  for (const hub of flow.supply) {
    let depth = 0;
    let at: FlowHub | undefined = hub;
    let head = hub.kind === "bar";
    while (at?.up && depth < flow.supply.length) {
      at = hubs.get(at.up.at);
      if (at?.kind === "bar") depth++;
      if (at?.kind === "converter") head = false;
    }
    if (head) depths.set(hub.id, depth);
  }
  return depths;
}

interface Frame {
  /** Column of the first bars of a source, by its place among the sources. */
  barsX: (source: number) => number;
  slotW: number;
  scale: number;
}

function supplyTrunks(
  flow: Flow,
  over: ReadonlyMap<string, number>,
  slot: ReadonlyMap<string, number>,
  depths: ReadonlyMap<string, number>,
  { barsX, slotW, scale }: Frame,
): Map<string, Trunk> {
  const trunks = new Map<string, Trunk>();
  // Children come after their hub in ledger order: from the last to the first every child is known.
  for (const hub of [...flow.supply].reverse()) {
    const ys: number[] = [];
    const xs: number[] = [];
    for (const load of flow.loads) {
      if (load.from !== hub.id) continue;
      ys.push(over.get(load.id) as number);
      xs.push(slot.get(load.id) as number);
    }
    for (const child of flow.supply) {
      const trunk = child.up?.at === hub.id ? trunks.get(child.id) : undefined;
      if (!trunk) continue;
      ys.push(trunk.mid);
      xs.push(trunk.x);
    }
    if (ys.length === 0) continue;
    const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
    const depth = depths.get(hub.id);
    const x =
      hub.kind === "source"
        ? sourceX(flow, hub.id) + SOURCE_W
        : depth !== undefined
          ? barsX(sourceIndex(flow, hub.id)) + depth * BAR_STEP
          : Math.min(...xs) - slotW / 2 - TAG_W / 2;
    trunks.set(hub.id, { x, top, bottom, mid: (top + bottom) / 2, thick: thickness(hub.up?.amps ?? 0, scale) });
  }
  return trunks;
}

interface Below extends Frame {
  gap: number;
  start: number;
  supply: ReadonlyMap<string, Trunk>;
}

/** Lanes under the axis: what lands on the same place lies together, what stands left lies inside. */
function returnLanes(
  flow: Flow,
  slot: ReadonlyMap<string, number>,
  frame: Below,
): { lanes: Map<string, number>; trunks: Map<string, Trunk>; lowest: number } {
  const loads = new Map(flow.loads.map((load) => [load.id, load]));
  const hubs = new Map(flow.returns.map((hub) => [hub.id, hub]));
  const children = new Map<string, string[]>();
  for (const { id, back } of flow.loads) if (back) children.set(back.at, [...(children.get(back.at) ?? []), id]);
  for (const { id, up } of flow.returns) if (up && up.at !== id) children.set(up.at, [...(children.get(up.at) ?? []), id]);
  const leftmost = new Map<string, number>();
  const left = (id: string, depth = 0): number => {
    const known = leftmost.get(id);
    if (known !== undefined || depth > MOST_DEEP) return known ?? Number.POSITIVE_INFINITY;
    const found = Math.min(slot.get(id) ?? Number.POSITIVE_INFINITY, ...(children.get(id) ?? []).map((child) => left(child, depth + 1)));
    leftmost.set(id, found);
    return found;
  };
  const lanes = new Map<string, number>();
  const trunks = new Map<string, Trunk>();
  const visited = new Set<string>();
  let reach = frame.start;
  const lane = (thick: number): number => {
    const y = reach + thick / 2;
    reach += thick + frame.gap;
    return y;
  };
  const visit = (id: string, parentX: number, isRoot: boolean) => {
    if (visited.has(id)) return;
    visited.add(id);
    const own = [...(children.get(id) ?? [])].sort((a, b) => left(a) - left(b));
    const load: FlowLoad | undefined = loads.get(id);
    const hub = hubs.get(id);
    if (load) {
      for (const child of own) visit(child, slot.get(id) as number, false);
      if (load.back) lanes.set(id, lane(thickness(load.amps, frame.scale)));
      return;
    }
    if (!hub) return;
    const firstX = Math.min(
      ...own.map((child) => (slot.has(child) ? (slot.get(child) as number) - frame.slotW / 2 - 4 : left(child) - frame.slotW)),
    );
    const x = hubX(flow, hub, parentX, firstX, frame, isRoot);
    const ys: number[] = [];
    for (const child of own) {
      visit(child, x, false);
      const y = lanes.get(child) ?? trunks.get(child)?.mid;
      if (y !== undefined) ys.push(y);
    }
    if (ys.length === 0) ys.push(lane(6));
    const [top, bottom] = [Math.min(...ys), Math.max(...ys)];
    trunks.set(id, { x, top, bottom, mid: (top + bottom) / 2, thick: thickness(hub.up?.amps ?? 0, frame.scale) });
  };
  const reached = new Set(flow.returns.flatMap(({ id, up }) => (up && (hubs.has(up.at) || loads.has(up.at)) ? [id] : [])));
  for (const hub of flow.returns) if (hub.kind === "source") visit(hub.id, 0, true);
  for (const hub of flow.returns) if (!reached.has(hub.id)) visit(hub.id, frame.barsX(0) - BAR_STEP, true);
  for (const hub of flow.returns) visit(hub.id, frame.barsX(0) - BAR_STEP, true);
  for (const load of flow.loads) if (load.back && hubs.get(load.back.at) === undefined) visit(load.id, 0, false);
  return { lanes, trunks, lowest: reach };
}

/** Returns that go in a circle end here. */
const MOST_DEEP = 60;

function hubX(flow: Flow, hub: FlowHub, parentX: number, firstX: number, frame: Below, isRoot: boolean): number {
  if (hub.kind === "source") return sourceX(flow, hub.id) + SOURCE_W;
  const over = hub.kind === "converter" ? frame.supply.get(hub.id) : undefined;
  if (over) return over.x;
  const home = flow.returns.find(({ id }) => id === hub.up?.at);
  if (isRoot || home?.kind === "source") return frame.barsX(home ? sourceIndex(flow, home.id) : 0);
  return Math.max(parentX + BAR_STEP, Number.isFinite(firstX) ? firstX : parentX + BAR_STEP);
}
