import { endSites, mateEnd } from "../connectors/ends";
import type { ShownFigures } from "../figures/types";
import { ownRuns } from "../loads/phases";
import { groupBy } from "../machine/group";
import type { FuseRef, Machine, Wire } from "../machine/schema";
import { type LedgerRow, ledgerOf } from "../machine/tree";
import { capital, say } from "../quantity/format";
import { FUSE_FAMILIES } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { holderOf, ringStud, terminationOf } from "./ends";
import { tagsOf } from "./tags";
import { conductorText, lengthText, NOT_KNOWN, partsOf, terminalText } from "./words";

/** A row of the feed table: what hangs on what, through which wire and fuse, and what it carries at worst. */
export interface FeedLine {
  readonly depth: number;
  readonly rail: string;
  readonly name: string;
  readonly tag: string;
  readonly run: string;
  readonly conductor: string;
  readonly fuse: string;
  readonly worst: string;
  readonly limit: string;
}

/** A fuse for the card in the lid. */
export interface FuseLine {
  readonly tag: string;
  readonly rating: string;
  readonly family: string;
  readonly guards: string;
  readonly place: string;
}

/** A conductor to cut, with what goes on both its ends and the fuse that sits in it. */
export interface CutLine {
  readonly tag: string;
  readonly length: string;
  readonly pieces: number;
  readonly from: string;
  readonly fromEnd: string;
  readonly to: string;
  readonly toEnd: string;
  /** Where a fuse sits in it, short: "F2 40 A". */
  readonly fuseTag: string;
  /** "F2 40 A at 0.15 m, in-line holder, mini blade"; empty where none sits in it. */
  readonly fuse: string;
  readonly twisted: boolean;
}

/** Conductors of one size, insulation and colour. */
export interface CutGroup {
  readonly gauge: string;
  readonly colour: string;
  readonly insulation: string;
  readonly lines: readonly CutLine[];
}

/** One label to print; wires have one for each end. */
export interface Label {
  /** What is written large: the tag. */
  readonly tag: string;
  /** Rail, from, to. */
  readonly where: string;
  /** Size and colour, a fuse's rating, a connector's family and key. */
  readonly what: string;
}

/** What is connected to one part, terminal by terminal, with the pins of its links. */
export interface Connection {
  readonly part: string;
  readonly what: string;
  readonly terminals: readonly { readonly terminal: string; readonly tag: string; readonly to: string }[];
  readonly pins: readonly { readonly pin: string; readonly signal: string; readonly to: string; readonly colour: string }[];
}

/** The feed table, in the order of the ledger. */
export function feedLines(machine: Machine, analysis: Pick<ShownFigures, "wires" | "parts">): FeedLine[] {
  const tags = tagsOf(machine);
  return ledgerOf(machine).rows.map(({ part, depth, feed, back, rail }) => {
    const wire = feed ?? back;
    const figure = wire ? analysis.wires[wire.id] : undefined;
    const least = (figure ?? analysis.parts[part.id])?.worstAtLeast ? "≥ " : "";
    const amps = figure ? figure.worst.amps : (analysis.parts[part.id]?.worst.amps ?? 0);
    const fuse = tags.fuseOf.get(part.kind === "fuse" ? part.id : (wire?.id ?? ""));
    return {
      depth,
      rail: rail?.tag ?? "0 V",
      name: part.name,
      tag: wire ? (tags.wires.get(wire.id) ?? "–") : "–",
      run: wire ? lengthText(wire) : "–",
      conductor: wire ? conductorOrBoard(wire) : "–",
      fuse: fuse ? `${fuse.tag} ${fuse.fuse.ratingA}\u00a0A` : "–",
      worst: `${least}${say(amps, "current", "up")}`,
      limit: figure && figure.limitA !== null ? say(figure.limitA, "current", "down") : wire ? NOT_KNOWN : "–",
    };
  });
}

function conductorOrBoard(wire: Wire): string {
  if (!wire.board) return conductorText(wire);
  return wire.board.kind === "trace" ? `${wire.board.widthMm.value} mm trace` : "pads";
}

/** The card in the lid: every fuse, and what is dead when it is out. */
export function fuseLines(machine: Machine): FuseLine[] {
  const ledger = ledgerOf(machine);
  const behind = groupBy(ledger.rows, ({ parent }) => parent ?? undefined);
  const under = (row: LedgerRow): string[] => [
    ...(row.part.kind === "bar" || row.part.kind === "fuse" || row.part.kind === "switch" ? [] : [row.part.name]),
    ...(behind.get(row.part.id) ?? []).flatMap(under),
  ];
  const sources = ledger.rows.filter(({ depth, part }) => depth === 0 && (part.kind === "pack" || part.kind === "supply")).length;
  const fed = ledger.rows.filter(({ part }) => part.kind === "load").length;
  return tagsOf(machine).fuses.map(({ tag, fuse, part, guards, wire }) => {
    const row = ledger.rowOf.get(part?.id ?? wire?.to.part ?? "");
    const names = row ? under(row) : [];
    const loads = row ? countLoads(row, behind) : 0;
    const everything = sources === 1 && loads === fed && fed > 1;
    return {
      tag,
      rating: `${fuse.ratingA}\u00a0A`,
      family: FUSE_FAMILIES[fuse.family].name,
      guards: everything ? "everything" : guardWords(names, guards?.name ?? NOT_KNOWN),
      place: part ? part.name : wire?.fuse ? placeOf(fuse) : "",
    };
  });
}

function countLoads(row: LedgerRow, behind: ReadonlyMap<string, readonly LedgerRow[]>): number {
  return (row.part.kind === "load" ? 1 : 0) + (behind.get(row.part.id) ?? []).reduce((sum, each) => sum + countLoads(each, behind), 0);
}

/** Names on a card: three of them, the rest counted. */
function guardWords(names: readonly string[], fallback: string): string {
  if (names.length === 0) return fallback;
  return names.length <= 3 ? names.join(", ") : `${names.slice(0, 2).join(", ")} and ${names.length - 2} more`;
}

function placeOf(fuse: FuseRef): string {
  const at = fuse.atM === undefined ? "near its start" : `${say(fuse.atM, "length")} from its start`;
  return `${holderOf(fuse)}, ${at}`;
}

/** The cut list: thick before thin, conductors of one reel together, in the order of their tags. */
export function cutGroups(machine: Machine): CutGroup[] {
  const tags = tagsOf(machine);
  const parts = partsOf(machine);
  const groups = new Map<string, { gauge: string; colour: string; insulation: string; lines: CutLine[]; area: number }>();
  const put = (reel: { gauge?: string | undefined; colour?: string | undefined; insulation: string }, line: CutLine) => {
    const key = `${reel.gauge} ${reel.colour} ${reel.insulation}`;
    const area = gaugeById(reel.gauge ?? "")?.areaMm2 ?? 0;
    const group = groups.get(key) ?? {
      gauge: reel.gauge ?? NOT_KNOWN,
      colour: reel.colour ?? "",
      insulation: reel.insulation,
      lines: [],
      area,
    };
    group.lines.push(line);
    groups.set(key, group);
  };
  for (const wire of tags.laid) {
    const fuse = tags.fuseOf.get(wire.id);
    put(wire, {
      tag: tags.wires.get(wire.id) ?? NOT_KNOWN,
      length: lengthText(wire),
      pieces: wire.parallel,
      from: terminalText(parts, wire.from),
      fromEnd: terminationOf(machine, wire, "from").text,
      to: terminalText(parts, wire.to),
      toEnd: terminationOf(machine, wire, "to").text,
      fuseTag: fuse ? `${fuse.tag} ${fuse.fuse.ratingA}\u00a0A` : "",
      fuse: fuse ? `${fuse.tag} ${fuse.fuse.ratingA}\u00a0A: ${placeOf(fuse.fuse)}` : "",
      twisted: wire.twisted ?? false,
    });
  }
  for (const part of machine.parts) {
    if (part.kind !== "load") continue;
    for (const { lead, conductors, from, to } of ownRuns(part))
      put(lead, {
        tag: "own",
        length: lengthText(lead),
        pieces: conductors,
        from: capital(from),
        fromEnd: "",
        to: capital(to),
        toEnd: "",
        fuseTag: "",
        fuse: "",
        twisted: false,
      });
  }
  return [...groups.values()].sort((a, b) => b.area - a.area).map(({ area: _area, ...group }) => group);
}

/** Labels: both ends of every conductor, every fuse, every connector's housing. */
export function labelsOf(machine: Machine): Label[] {
  const tags = tagsOf(machine);
  const parts = partsOf(machine);
  const ledger = ledgerOf(machine);
  const railOf = (wire: Wire): string => {
    if (wire.role === "bond") return "BOND";
    if (wire.role === "signal") return wire.shield ? "SHIELD" : "SIG 0V";
    const origin = ledger.rowOf.get(wire.role === "return" || (wire.role === "phase" && wire.pair) ? wire.from.part : wire.to.part);
    const tag = origin?.rail?.tag ?? "";
    return wire.role === "return" ? `RET ${tag}`.trim() : tag;
  };
  const route = (wire: Wire) => {
    const fuse = tags.fuseOf.get(wire.id);
    return `${[railOf(wire), fuse?.tag].filter(Boolean).join(" · ")} · ${terminalText(parts, wire.from)} → ${terminalText(parts, wire.to)}`;
  };
  const wires = tags.laid.flatMap((wire): Label[] => {
    const label = {
      tag: tags.wires.get(wire.id) ?? NOT_KNOWN,
      where: route(wire),
      what: [conductorText(wire), wire.colour].filter(Boolean).join(" "),
    };
    return Array.from({ length: 2 * wire.parallel }, () => label);
  });
  const fuses = tags.fuses.map(({ tag, fuse, guards, part }) => ({
    tag,
    where: `${part ? part.name : "fuse"} · ${guards?.name ?? NOT_KNOWN}`,
    what: `${fuse.ratingA}\u00a0A ${FUSE_FAMILIES[fuse.family].name}`,
  }));
  const wireOf = new Map(machine.wires.map((wire) => [wire.id, wire]));
  const plugs = endSites(machine).flatMap(({ wire, end, at, row }): Label[] => {
    if (row.sort === "joint" || ringStud(at.family) !== null) return [];
    // A return shares the housing of its feed.
    if (mateEnd(wire.pair === undefined ? undefined : wireOf.get(wire.pair), end)?.family === at.family) return [];
    const label = {
      tag: `${tags.wires.get(wire.id) ?? NOT_KNOWN} plug`,
      where: `${railOf(wire)} · ${terminalText(parts, wire[end])}`,
      what: [row.short, at.coding].filter(Boolean).join(", "),
    };
    return [label, label];
  });
  // Conductors of a link that were named have two ends as well.
  const named = (machine.signals ?? []).flatMap((signal) =>
    (signal.pins ?? []).flatMap(({ name, fromPin, toPin, colour }): Label[] => {
      const end = (id: string, pin: string | undefined) => [parts.get(id)?.name ?? NOT_KNOWN, pin].filter(Boolean).join(" ");
      const label = {
        tag: name ?? signal.kind,
        where: `SIG · ${end(signal.from, fromPin)} → ${end(signal.to, toPin)}`,
        what: colour ?? "",
      };
      return [label, label];
    }),
  );
  return [...wires, ...named, ...fuses, ...plugs];
}

/** What is connected to each part, by terminal. */
export function connectionsOf(machine: Machine, whatOf: (id: string) => string): Connection[] {
  const tags = tagsOf(machine);
  const parts = partsOf(machine);
  const ends = new Map<string, { terminal: string; tag: string; to: string }[]>();
  const put = (part: string, terminal: string, wire: Wire, far: Wire["from"]) => {
    const tag = tags.wires.get(wire.id) ?? (wire.board ? "board" : "joined");
    const list = ends.get(part) ?? [];
    list.push({ terminal: terminal === "bar" ? "" : terminal.replace("-", "−"), tag, to: terminalText(parts, far) });
    ends.set(part, list);
  };
  for (const wire of machine.wires) {
    put(wire.from.part, wire.from.terminal, wire, wire.to);
    put(wire.to.part, wire.to.terminal, wire, wire.from);
  }
  const pins = new Map<string, Connection["pins"][number][]>();
  for (const signal of machine.signals ?? []) {
    const name = (id: string) => parts.get(id)?.name ?? NOT_KNOWN;
    const given = signal.pins ?? [{}];
    for (const pin of given) {
      const said = pin.name ?? signal.kind;
      const colour = pin.colour ?? "";
      const note = (at: string, own: string | undefined, arrow: string, other: string, far: string | undefined) =>
        pins.set(at, [...(pins.get(at) ?? []), { pin: own ?? "", signal: said, to: `${arrow} ${other}${far ? ` ${far}` : ""}`, colour }]);
      const arrow = signal.bothWays ? "↔" : "→";
      note(signal.from, pin.fromPin, arrow, name(signal.to), pin.toPin);
      note(signal.to, pin.toPin, signal.bothWays ? "↔" : "←", name(signal.from), pin.fromPin);
    }
  }
  return ledgerOf(machine).rows.flatMap(({ part }) => {
    const terminals = ends.get(part.id) ?? [];
    const own = pins.get(part.id) ?? [];
    return terminals.length + own.length === 0 ? [] : [{ part: part.name, what: whatOf(part.id), terminals, pins: own }];
  });
}
