import { endSites, mateEnd } from "../connectors/ends";
import { ownRuns } from "../loads/phases";
import type { FuseRef, Machine, Part, Wire } from "../machine/schema";
import { type ShelfItem, stockKey } from "../machine/shelf";
import { isBoard, isChassis } from "../machine/terminals";
import { say } from "../quantity/format";
import { FUSE_FAMILIES } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { insulationById } from "../reference/insulation";
import { holderOf, ringStud, terminationOf } from "./ends";
import { boxesOf, fuseRated, partKey, ratedAs } from "./ratings";
import { isLaid } from "./tags";
import { NOT_KNOWN } from "./words";

/** Groups of the buy list, in its order. */
export const BUY_GROUPS = ["Parts", "Fuses and holders", "Connectors", "Wire", "Ends", "Small parts"] as const;
/** A group of the buy list. */
export type BuyGroup = (typeof BUY_GROUPS)[number];

/** A line of the buy list. Pieces, or metres of wire. */
export interface BuyLine {
  readonly group: BuyGroup;
  readonly what: string;
  /** What it must bear, besides. */
  readonly ratings: string;
  /** The same, and what it is for. */
  readonly detail: string;
  readonly unit: "piece" | "m";
  /** What the plan uses; for wire with a tenth to spare. */
  readonly need: number;
  /** Beyond that, by rule. */
  readonly spare: number;
  /** Why these spares; empty where none are. */
  readonly spareWhy: string;
  /** On the shelf; "some" where it was not counted there. */
  readonly have: number | "some";
  /** Still to buy. */
  readonly buy: number;
  /** Of one, in the builder's own currency; null: not known. */
  readonly costEach: number | null;
}

/** What to buy, with what of it is known to cost how much. */
export interface BuyList {
  readonly lines: readonly BuyLine[];
  /** Cost of what is still to buy, as far as it is known, and how many lines have no price. */
  readonly cost: number;
  readonly unpriced: number;
}

/** Spare blades of one rating that anybody carries; of what is bolted down one (common practice, no source). */
const BLADES_MOST = 3;
/** Ends that go wrong: one in ten, at least this many (common practice, no source). */
const ENDS_LEAST = 2;
/** Wire beyond what is cut, for ends and mistakes (common practice, no source). */
export const WIRE_SPARE = 0.1;

interface Wanted extends Omit<BuyLine, "have" | "buy"> {
  /** What of the shelf would do for it. */
  readonly keys: readonly string[];
  /** By the shelf's own names for what was planned from it. */
  readonly from?: readonly string[];
}

/**
 * A spare of what is likely to be destroyed at first power-up: the electronics a crossed or shorted wire kills, one of each
 * kind (common practice, no source). Motors, packs and metal survive it.
 */
function spareOf(part: Part): { spare: number; why: string } {
  const none = { spare: 0, why: "" };
  if (part.kind === "driver") return { spare: 1, why: "a driver dies of the first crossed or shorted lead" };
  if (part.kind === "converter") return { spare: 1, why: "a converter dies of the first swapped plus and minus" };
  if (part.kind === "load" && isBoard(part) && part.loadKind === "board") return { spare: 1, why: "a board dies of the first wrong rail" };
  return none;
}

function partsWanted(machine: Machine): Wanted[] {
  const boxes = boxesOf(machine);
  const found = new Map<string, { line: Wanted; names: string[] }>();
  for (const part of machine.parts) {
    // A frame is there already, fuses are counted by rating, and further outputs belong to their box.
    if (part.kind === "fuse" || isChassis(part) || (part.kind === "supply" && part.box !== undefined && part.box !== part.id)) continue;
    const { what, ratings } = ratedAs(part, part.kind === "supply" ? (boxes.get(part.id) ?? []) : []);
    const count = part.kind === "load" ? part.count : part.kind === "pack" ? (part.blocks ?? 1) * blockRows(part) : 1;
    const key = [what, ...ratings].join(", ");
    const known = found.get(key);
    const { spare, why } = spareOf(part);
    const keys = [partKey(part)];
    const cost = costOfOne(part);
    if (known) {
      const { line } = known;
      known.names.push(part.name);
      const from = [...(line.from ?? []), ...(part.shelf ? [part.shelf] : [])];
      const costEach = line.costEach === null || cost === null ? (line.costEach ?? cost) : Math.max(line.costEach, cost);
      known.line = { ...line, need: line.need + count, keys: [...new Set([...line.keys, ...keys])], from, costEach };
      continue;
    }
    found.set(key, {
      names: [part.name],
      line: {
        group: "Parts",
        what,
        ratings: ratings.join(", "),
        detail: "",
        unit: "piece",
        need: count,
        spare,
        spareWhy: why,
        costEach: cost,
        keys,
        from: part.shelf ? [part.shelf] : [],
      },
    });
  }
  return [...found.values()].map(({ line, names }) => {
    const usedFor = names.length <= 3 ? names.join(", ") : `${names.slice(0, 2).join(", ")} and ${names.length - 2} more`;
    return { ...line, detail: [line.ratings, `for ${usedFor}`].filter(Boolean).join("; ") };
  });
}

/** Rows of blocks beside each other; parallel cells of a single block are inside it. */
function blockRows({ blocks = 1, parallel = 1 }: { blocks?: number | undefined; parallel?: number | undefined }): number {
  return blocks > 1 ? parallel : 1;
}

/** A pack's price is of the whole of it. */
function costOfOne(part: Part): number | null {
  if (part.cost === undefined) return null;
  return part.kind === "pack" ? part.cost / ((part.blocks ?? 1) * blockRows(part)) : part.cost;
}

function fusesWanted(machine: Machine): Wanted[] {
  const fuses = new Map<string, { fuse: FuseRef; count: number }>();
  const holders = new Map<string, number>();
  const note = (fuse: FuseRef) => {
    const key = stockKey({ sort: "fuse", family: fuse.family, ratingA: fuse.ratingA });
    const entry = fuses.get(key) ?? { fuse, count: 0 };
    entry.count++;
    fuses.set(key, entry);
    if (FUSE_FAMILIES[fuse.family].sort === "fuse" && fuse.place !== "block" && fuse.place !== "board")
      holders.set(holderOf(fuse), (holders.get(holderOf(fuse)) ?? 0) + 1);
  };
  for (const part of machine.parts) if (part.kind === "fuse") note(part.fuse);
  for (const wire of machine.wires) if (wire.fuse) note(wire.fuse);
  const piece = { unit: "piece", costEach: null } as const;
  return [
    ...[...fuses.entries()]
      .sort(([, a], [, b]) => b.fuse.ratingA - a.fuse.ratingA)
      .map(([key, { fuse, count }]): Wanted => {
        const { sort, standard } = FUSE_FAMILIES[fuse.family];
        const blows = sort === "fuse";
        return {
          ...piece,
          group: "Fuses and holders",
          what: `${blows ? "Fuse" : "Breaker"} ${fuseRated(fuse)}`,
          ratings: standard,
          detail: standard,
          need: count,
          spare: !blows ? 0 : fuse.family.startsWith("blade") || fuse.family.startsWith("cart") ? Math.min(count, BLADES_MOST) : 1,
          spareWhy: blows ? "of each rating" : "",
          keys: [key],
        };
      }),
    ...[...holders].map(
      ([holder, count]): Wanted => ({
        ...piece,
        group: "Fuses and holders",
        what: holder.charAt(0).toUpperCase() + holder.slice(1),
        ratings: "",
        detail: "",
        need: count,
        spare: 0,
        spareWhy: "",
        keys: [],
      }),
    ),
  ];
}

/** Connectors by family and key: a mated pair for each housing, which a feed and its return share. */
function connectorsWanted(machine: Machine): Wanted[] {
  const totals = new Map<string, { line: Wanted }>();
  const wires = new Map(machine.wires.map((wire) => [wire.id, wire]));
  for (const { wire, end, at, row } of endSites(machine)) {
    if (ringStud(at.family) !== null) continue;
    if (mateEnd(wire.pair === undefined ? undefined : wires.get(wire.pair), end)?.family === at.family) continue;
    const key = `${row.id} ${at.coding ?? ""}`;
    const more = row.fixedPoles === 1 && row.sort !== "joint" ? 2 : 1;
    const known = totals.get(key);
    if (known) known.line = { ...known.line, need: known.line.need + more };
    else
      totals.set(key, {
        line: {
          group: "Connectors",
          what: row.name,
          ratings: at.coding ? `key or colour ${at.coding}` : "",
          detail: [at.coding ? `key or colour ${at.coding}` : "", row.sort === "joint" ? "" : "both halves, with contacts for its wires"]
            .filter(Boolean)
            .join("; "),
          unit: "piece",
          need: more,
          spare: row.sort === "joint" ? 0 : 1,
          spareWhy: row.sort === "joint" ? "" : "of each family and key",
          costEach: null,
          keys: [stockKey({ sort: "connector", family: row.id, coding: at.coding })],
        },
      });
  }
  return [...totals.values()].map(({ line }) => line);
}

type Run = Pick<Wire, "gauge" | "insulation" | "colour" | "lengthM" | "parallel">;

/** Wire by size, insulation and colour, with a tenth to spare for ends and mistakes. */
function wireWanted(machine: Machine): Wanted[] {
  const totals = new Map<string, { wire: Run; metres: number; runs: number; unknown: number }>();
  const leads = machine.parts.flatMap((part) =>
    part.kind === "load" ? ownRuns(part).map(({ lead, conductors }): Run => ({ ...lead, parallel: conductors })) : [],
  );
  for (const wire of [...machine.wires.filter(isLaid), ...leads]) {
    const key = stockKey({ sort: "wire", gauge: wire.gauge ?? NOT_KNOWN, insulation: wire.insulation, colour: wire.colour });
    const entry = totals.get(key) ?? { wire, metres: 0, runs: 0, unknown: 0 };
    entry.metres += (wire.lengthM?.value ?? 0) * wire.parallel;
    entry.runs += wire.parallel;
    if (!wire.lengthM) entry.unknown++;
    totals.set(key, entry);
  }
  const area = (wire: Run) => gaugeById(wire.gauge ?? "")?.areaMm2 ?? 0;
  return [...totals.entries()]
    .sort(([, a], [, b]) => area(b.wire) - area(a.wire))
    .map(([key, { wire, metres, runs, unknown }]) => ({
      group: "Wire",
      what: `Wire ${wire.gauge ?? "of a size not known yet"}${wire.colour ? `, ${wire.colour}` : ""}`,
      ratings: insulationById(wire.insulation)?.name ?? wire.insulation,
      detail: `${insulationById(wire.insulation)?.name ?? wire.insulation}; ${runs} run${runs > 1 ? "s" : ""}${unknown ? `; ${unknown} of unknown length not counted` : ""}`,
      unit: "m",
      need: metres * (1 + WIRE_SPARE),
      spare: 0,
      spareWhy: "",
      costEach: null,
      keys: [key],
    }));
}

/** Lugs, ferrules and receptacles by wire and stud. */
function endsWanted(machine: Machine): Wanted[] {
  const totals = new Map<string, number>();
  for (const wire of machine.wires.filter(isLaid))
    for (const end of ["from", "to"] as const) {
      const { sort, text } = terminationOf(machine, wire, end);
      if (sort === "lug" || sort === "ferrule" || sort === "blade") totals.set(text, (totals.get(text) ?? 0) + wire.parallel);
    }
  return [...totals]
    .sort(([a], [b]) => a.localeCompare(b, "en", { numeric: true }))
    .map(([text, count]) => ({
      group: "Ends",
      what: text.charAt(0).toUpperCase() + text.slice(1),
      ratings: "",
      detail: "",
      unit: "piece",
      need: count,
      spare: Math.max(ENDS_LEAST, Math.ceil(count / 10)),
      spareWhy: "for crimps that go wrong",
      costEach: null,
      keys: [],
    }));
}

/** Capacitors, chokes and resistors that were planned beside parts and in lines. */
function smallWanted(machine: Machine): Wanted[] {
  const totals = new Map<string, { count: number; detail: string[] }>();
  const note = (what: string, detail: string) => {
    const entry = totals.get(what) ?? { count: 0, detail: [] };
    entry.count++;
    if (!entry.detail.includes(detail)) entry.detail.push(detail);
    totals.set(what, entry);
  };
  for (const part of machine.parts) {
    if ((part.kind === "load" || part.kind === "converter") && part.holdUpF) {
      note(`Capacitor ${say(part.holdUpF.value, "capacitance")}`, `hold-up of ${part.name}`);
      note("Diode for hold-up", part.name);
    }
    if (part.kind === "bar" && part.bulkF) note(`Capacitor ${say(part.bulkF.value, "capacitance")}`, `bulk on ${part.name}`);
    if (part.kind === "load" && part.filterMh && part.filterF) {
      note(`Choke ${say(part.filterMh.value, "inductance")}`, `filter before ${part.name}`);
      note(`Capacitor ${say(part.filterF.value, "capacitance")}`, `filter before ${part.name}`);
    }
    if (part.kind === "switch" && part.prechargeOhm)
      note(
        `Precharge resistor ${say(part.prechargeOhm.value, "resistance")}${part.prechargeJ ? `, ${say(part.prechargeJ.value, "energy")} a shot` : ""}`,
        part.name,
      );
    if (part.kind === "switch" && part.clamp && part.clamp !== "none")
      note(part.clamp === "diode" ? "Coil diode" : "Coil clamp", part.name);
    if ((part.kind === "bar" || part.kind === "driver") && part.brakeOhm)
      note(`Brake resistor ${say(part.brakeOhm.value, "resistance")} with its switch`, part.name);
  }
  for (const wire of machine.wires)
    if (wire.resistorOhm)
      note(`Resistor ${say(wire.resistorOhm.value, "resistance")}`, wire.role === "bond" ? "in a bond" : "in a signal ground");
  for (const signal of machine.signals ?? [])
    if (signal.seriesOhm && signal.seriesOhm.value > 0) note(`Resistor ${say(signal.seriesOhm.value, "resistance")}`, "in signal lines");
  return [...totals].map(([what, { count, detail }]) => ({
    group: "Small parts",
    what,
    ratings: "",
    detail: detail.length <= 3 ? detail.join(", ") : `${detail.slice(0, 2).join(", ")} and ${detail.length - 2} more`,
    unit: "piece",
    need: count,
    spare: 0,
    spareWhy: "",
    costEach: null,
    keys: [],
  }));
}

/** Everything to buy for a machine, less what lies on the shelf. */
export function buyList(machine: Machine, shelf: readonly ShelfItem[] = []): BuyList {
  const wanted = [
    ...partsWanted(machine),
    ...fusesWanted(machine),
    ...connectorsWanted(machine),
    ...wireWanted(machine),
    ...endsWanted(machine),
    ...smallWanted(machine),
  ];
  // What lies there once is counted once, whichever lines could take it.
  const left = new Map(shelf.map(({ id, count }) => [id, count]));
  const lines = wanted.map(({ keys, from = [], ...line }): BuyLine => {
    const fits = shelf.filter(
      ({ id, thing }) => from.includes(id) || keys.includes(thing.sort === "part" ? partKey(thing.part) : stockKey(thing)),
    );
    const total = line.need + line.spare;
    const some = fits.some(({ count }) => count === null);
    let have = 0;
    for (const { id } of fits) {
      const take = Math.min(left.get(id) ?? 0, total - have);
      if (left.get(id) !== null) left.set(id, (left.get(id) ?? 0) - take);
      have += take;
    }
    const costEach = line.costEach ?? fits.find(({ cost }) => cost !== null)?.cost ?? null;
    return { ...line, costEach, have: some ? "some" : have, buy: some ? 0 : total - have };
  });
  const open = lines.filter(({ buy }) => buy > 0);
  return {
    lines,
    cost: open.reduce((sum, { buy, costEach }) => sum + buy * (costEach ?? 0), 0),
    unpriced: open.filter(({ costEach }) => costEach === null).length,
  };
}
