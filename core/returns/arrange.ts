import type { Build } from "../figures/build";
import { computeFigures, type Figures } from "../figures/figures";
import { solveMachine } from "../figures/solved";
import { applyCommand } from "../machine/apply";
import type { Command } from "../machine/commands";
import { freshId, newPart } from "../machine/defaults";
import type { BuiltMachine, BuiltPart, Machine, Part, TerminalRef, Wire } from "../machine/schema";
import { groundTerminal, isReturnBar, isSource, sameTerminal } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { gaugeById } from "../reference/gauges";
import { linksOf } from "./links";
import { signalGrounds } from "./loops";
import { listens, moves, returning, sharedMetal } from "./shared";

/** A way to land all returns, as one command, and what comes of it. */
export interface Layout {
  id: "as drawn" | "single point" | "linked bars" | "joined at one point";
  name: string;
  /** What it asks of the builder. */
  demands: string;
  /** Null: the plan is like this already, or there is no bar for it. */
  command: Command | null;
  /** Returns that land elsewhere than now. */
  moved: number;
  /** Signal grounds and shields that closed loops, taken away. */
  dropped: number;
  /** The link that uses most of its budget, or null without links. */
  worstLink: { signal: string; share: number; volts: number; mode: number } | null;
  linksOver: number;
  /** The board whose ground motors lift most, V. */
  worstLift: { part: string; volts: number; mode: number } | null;
  /** Loops through signal grounds. */
  loops: number;
  /** Copper in all returns, kg, and those without size or length, left out of it. */
  copperKg: number;
  unsized: number;
}

/** The bar that comes home straight to a source; else that source's own minus. */
export function minusPlace(machine: BuiltMachine, partOf: ReadonlyMap<string, BuiltPart>, source: Part): TerminalRef {
  const trunk = machine.wires.find(
    (wire) => wire.role === "return" && wire.to.part === source.id && isReturnBar(partOf.get(wire.from.part)),
  );
  return trunk ? trunk.from : { part: source.id, terminal: "-" };
}

/** That of the first source. */
export function mainPoint(figures: Build): TerminalRef | null {
  const source = figures.machine.parts.find(isSource);
  return source ? minusPlace(figures.machine, figures.partOf, source) : null;
}

/** The return by which a part's own current leaves it. */
function ownReturn(figures: Build, part: BuiltPart): Wire | undefined {
  const terminal = groundTerminal(part);
  return figures.machine.wires.find((wire) => wire.role === "return" && wire.from.part === part.id && wire.from.terminal === terminal);
}

/** The minus of the converter that feeds a part; null where a source does. */
function railPoint(figures: Build, part: BuiltPart): TerminalRef | null {
  const origin = figures.partOf.get(railOrigin(figures.ledger, part.id) ?? "");
  return origin?.kind === "converter" ? { part: origin.id, terminal: "out-" } : null;
}

type Places = (part: BuiltPart, now: Wire) => TerminalRef | null;

/** Lands every return where `place` says; null: it stays. */
function landAll(figures: Figures, place: Places): Command[] {
  return returning(figures).flatMap((part): Command[] => {
    const own = ownReturn(figures, part);
    const at = own && place(part, own);
    return own && at && at.part !== part.id && !sameTerminal(at, own.to) ? [{ type: "reland", wireId: own.id, end: "to", at }] : [];
  });
}

/** Signal grounds and shields that close a loop: an arrangement with one way home has no use for them. */
function withoutLoops(figures: Figures): Command[] {
  return signalGrounds(figures).flatMap(({ wire, chord }): Command[] => {
    if (!chord) return [];
    const lift = wire.shield && wire.signal !== undefined;
    return [
      { type: "removeWire", id: wire.id },
      ...(lift ? [{ type: "updateSignal" as const, id: wire.signal ?? "", changes: { shieldLifted: true } }] : []),
    ];
  });
}

function batch(label: string, commands: readonly Command[]): Command | null {
  return commands.length === 0 ? null : { type: "batch", label, commands: [...commands] };
}

/** Each rail's loads on that rail's minus, and everything on the pack's rails on one bar. */
export function singlePoint(figures: Figures): Command | null {
  const main = mainPoint(figures);
  if (!main) return null;
  const isolated = (part: BuiltPart) => {
    const origin = figures.partOf.get(railOrigin(figures.ledger, part.id) ?? "");
    return origin?.kind === "supply" || origin?.kind === "pack" ? origin.id !== figures.machine.parts.find(isSource)?.id : false;
  };
  return batch("Land all returns at single points", [
    ...landAll(figures, (part) => railPoint(figures, part) ?? (isolated(part) ? null : main)),
    ...withoutLoops(figures),
  ]);
}

/** Returns stay on the bars they reach; what hangs on other parts goes to a bar, and every link becomes as heavy as the trunk. */
export function linkedBars(figures: Figures): Command | null {
  const { machine, partOf } = figures;
  const bars = machine.parts.filter(isReturnBar);
  const main = mainPoint(figures);
  const source = machine.parts.find(isSource);
  if (bars.length < 2 || !main || !source) return null;
  const trunk = machine.wires.find((wire) => wire.role === "return" && wire.from.part === main.part && wire.to.part === source.id);
  const size = trunk?.gauge === undefined ? undefined : gaugeById(trunk.gauge);
  const heavier = machine.wires.flatMap((wire): Command[] => {
    const link = wire.role === "return" && isReturnBar(partOf.get(wire.from.part)) && isReturnBar(partOf.get(wire.to.part));
    const now = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
    if (!link || !size || (now && now.areaMm2 * wire.parallel >= size.areaMm2)) return [];
    return [{ type: "updateWire", id: wire.id, changes: { gauge: size.id, parallel: 1 } }];
  });
  const chained = landAll(figures, (part, now) => {
    const at = partOf.get(now.to.part);
    return at?.kind === "load" || at?.kind === "driver" ? (railPoint(figures, part) ?? main) : null;
  });
  return batch("Link the bars heavily", [...chained, ...heavier]);
}

/** Length of the one join between two bars that stand side by side, m. */
const JOIN_M = 0.1;

/** Boards on a bar of their own, joined to the power returns by one heavy wire. */
export function separateReturns(figures: Figures): Command | null {
  const { machine, partOf } = figures;
  const main = mainPoint(figures);
  if (!main || !isReturnBar(partOf.get(main.part))) return null;
  const existing = machine.parts.find((part) => isReturnBar(part) && part.carries === "logic");
  const barId = existing?.id ?? freshId("p", machine.parts);
  const logic: TerminalRef = { part: barId, terminal: "bar" };
  const feedsOnlyLogic = (part: Part) => {
    const on = returning(figures).filter((each) => railOrigin(figures.ledger, each.id) === part.id);
    return on.length > 0 && on.every((each) => listens(each));
  };
  const moved = landAll(figures, (part) => {
    if (listens(part)) return railPoint(figures, part) ?? logic;
    if (part.kind === "converter" && feedsOnlyLogic(part)) return logic;
    return moves(part) && ownReturn(figures, part)?.to.part === barId ? main : null;
  });
  const trunk = machine.wires.find((wire) => wire.role === "return" && wire.from.part === main.part);
  const bar = newPart("bar", barId, "Logic bar", { side: "negative", carries: "logic" });
  const made: Command[] = existing
    ? []
    : [
        { type: "addPart", part: bar },
        {
          type: "addWire",
          wire: {
            role: "return",
            from: logic,
            to: main,
            parallel: 1,
            insulation: trunk?.insulation ?? "pvc80",
            lengthM: { value: JOIN_M, provenance: "guess" },
            ...(trunk?.gauge === undefined ? {} : { gauge: trunk.gauge }),
          },
        },
      ];
  const loops = withoutLoops(figures);
  return moved.length + loops.length === 0 && existing ? null : batch("Power and logic apart, joined once", [...made, ...moved, ...loops]);
}

const LAYOUTS = [
  {
    id: "single point",
    name: "Single point",
    demands:
      "One wire from each load to one bar, and each regulator's loads to its own minus. No load moves another one's ground; a long branch still lifts its own.",
    build: singlePoint,
  },
  {
    id: "linked bars",
    name: "Linked bars",
    demands:
      "Land on whichever bar is near. The links are as heavy as the trunk, survive the largest fuse, and better there are two of them.",
    build: linkedBars,
  },
  {
    id: "joined at one point",
    name: "Power and logic apart",
    demands:
      "A bar for logic alone, joined once to the power side, heavy and labelled; no signal ground, standoff or driver joins them again.",
    build: separateReturns,
  },
] as const;

/** The plan as drawn and each arrangement it could have, solved and compared. */
export function compareLayouts(figures: Figures): Layout[] {
  const before = new Map(figures.machine.wires.map((wire) => [wire.id, wire]));
  const drawn = read(figures, "as drawn", "As drawn", "What the plan holds now.", null, { moved: 0, dropped: 0 });
  const others = LAYOUTS.flatMap(({ id, name, demands, build }): Layout[] => {
    const command = build(figures);
    if (!command) return [];
    const applied = applyCommand(figures.machine, command);
    if (!applied.ok) return [];
    const moved = applied.machine.wires.filter((wire) => {
      const old = before.get(wire.id);
      return old !== undefined && !sameTerminal(old.to, wire.to);
    }).length;
    return [
      read(solvedAs(applied.machine), id, name, demands, command, {
        moved,
        dropped: figures.machine.wires.length - applied.machine.wires.filter(({ id: wire }) => before.has(wire)).length,
      }),
    ];
  });
  return [drawn, ...others];
}

/** The figures a machine would have. */
export function solvedAs(machine: Machine): Figures {
  return computeFigures(solveMachine(machine));
}

function read(
  figures: Figures,
  id: Layout["id"],
  name: string,
  demands: string,
  command: Command | null,
  changed: Pick<Layout, "moved" | "dropped">,
): Layout {
  const links = linksOf(figures);
  let worstLink: Layout["worstLink"] = null;
  let linksOver = 0;
  for (const link of links) {
    if (!link.worst) continue;
    if (link.worst.share > 1) linksOver++;
    if (link.worst.share > (worstLink?.share ?? -1))
      worstLink = { signal: link.id, share: link.worst.share, volts: link.worst.volts, mode: link.worst.mode };
  }
  let worstLift: Layout["worstLift"] = null;
  for (const { board, liftV, mode } of sharedMetal(figures)) {
    const volts = liftV[mode] ?? 0;
    if (volts > (worstLift?.volts ?? 0)) worstLift = { part: board.id, volts, mode };
  }
  let copperKg = 0;
  let unsized = 0;
  for (const wire of figures.machine.wires) {
    if (wire.role !== "return") continue;
    const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
    if (!gauge || !wire.lengthM) unsized++;
    else copperKg += (gauge.copperGPerM * wire.lengthM.value * wire.parallel) / 1000;
  }
  const loops = signalGrounds(figures).filter(({ chord }) => chord !== null).length;
  return { id, name, demands, command, ...changed, worstLink, linksOver, worstLift, loops, copperKg, unsized };
}
