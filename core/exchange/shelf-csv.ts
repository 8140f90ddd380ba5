import { usualBehaviour } from "../loads/behaviour";
import { newPart } from "../machine/defaults";
import { datasheet, type Figure } from "../machine/figure";
import { plainLines } from "../machine/plain-text";
import { isObject } from "../machine/same-value";
import { COLOUR_MAX, NAME_MAX, NOTE_MAX, type Part } from "../machine/schema";
import { forShelf, QUIRKS_MAX, type ShelfEntry, type ShelfItem, type ShelfPart, type ShelfThing, thingName } from "../machine/shelf";
import { CHEMISTRY_IDS } from "../reference/chemistries";
import { CONNECTORS, connectorById } from "../reference/connectors";
import { FUSE_FAMILIES, FUSE_FAMILY_IDS, ratingsOf } from "../reference/fuses";
import { parseGauge } from "../reference/gauges";
import { INSULATIONS, insulationById } from "../reference/insulation";
import { LOAD_KINDS } from "../reference/load-kinds";
import { type Column, type ReadRow, RowReader, type Sheeted } from "./columns";
import type { Table } from "./csv";

/** Columns of a list of what lies on a shelf. */
export type ShelfColumn =
  | "kind"
  | "name"
  | "count"
  | "cost"
  | "volts"
  | "amps"
  | "printed"
  | "peak"
  | "minV"
  | "maxV"
  | "capacity"
  | "channels"
  | "family"
  | "gauge"
  | "insulation"
  | "colour"
  | "note"
  | "quirks"
  | "known";

/** The columns a list of the shelf may have. */
export const SHELF_COLUMNS: readonly Column<ShelfColumn>[] = [
  { key: "kind", label: "Kind", words: /^kind|^type|^sort|category/, needed: true },
  { key: "name", label: "Name", words: /^name|^what|^part|^item|description/ },
  { key: "count", label: "How many", words: /count|qty|quantity|pieces|pcs|how many|metres|stock|anzahl/ },
  { key: "cost", label: "Cost each", words: /cost|price|preis/ },
  { key: "minV", label: "Input least V", words: /(input|in).*(least|min)|min.*v/ },
  { key: "maxV", label: "Input most V", words: /(input|in).*(most|max)|max.*v/ },
  { key: "volts", label: "Volts", words: /volt|^v\b|output v/ },
  { key: "printed", label: "Printed A", words: /printed|headline|label a/ },
  { key: "peak", label: "Peak A", words: /peak|stall/ },
  { key: "amps", label: "Amps", words: /amp|current|rating|^a\b/ },
  { key: "capacity", label: "Capacity Ah", words: /capacity|\bah\b/ },
  { key: "channels", label: "Channels", words: /channel/ },
  { key: "family", label: "Family", words: /family|chemistry|series|connector|topology/ },
  { key: "gauge", label: "Wire size", words: /gauge|awg|mm²|mm2|wire|size/ },
  { key: "insulation", label: "Insulation", words: /insulation|jacket/ },
  { key: "colour", label: "Colour or key", words: /colou?r|key|coding/ },
  { key: "quirks", label: "Found out", words: /quirk|found out|measured/ },
  { key: "note", label: "Note", words: /note|remark|comment|where/ },
  { key: "known", label: "Known by", words: /known|provenance|source/ },
];

const KINDS: readonly (readonly [RegExp, ShelfPart["kind"] | "wire" | "fuse" | "connector"])[] = [
  [/fuse|breaker/i, "fuse"],
  [/connector|plug|housing/i, "connector"],
  [/wire|cable|hook.?up/i, "wire"],
  [/driver|bridge|\besc\b/i, "driver"],
  [/convert|regulator|buck|boost|step.?(down|up)/i, "converter"],
  [/pack|batter|cell/i, "pack"],
  [/supply|adapter|psu|charger/i, "supply"],
  [/switch|relay|contactor|isolator/i, "switch"],
];

/** Those of a table that what somebody wrote may mean: the one with that id or name, else all that have its words. */
function byWords<T extends string>(text: string, ids: readonly T[], nameOf: (id: T) => string): T[] {
  const wanted = text.toLowerCase().trim();
  const exact = ids.find((id) => id.toLowerCase() === wanted || nameOf(id).toLowerCase() === wanted);
  if (exact) return [exact];
  const words = wanted.split(/[^a-z0-9.]+/).filter(Boolean);
  return ids.filter((id) => {
    const name = `${id} ${nameOf(id)}`.toLowerCase();
    return words.length > 0 && words.every((word) => name.includes(word));
  });
}

/** The one of a table that is meant. Where none or several could be, that is told: taking the first would be a guess. */
function theOne<T extends string>(
  reader: RowReader<ShelfColumn>,
  key: ShelfColumn,
  text: string,
  ids: readonly T[],
  nameOf: (id: T) => string,
  none: string,
): T | null {
  const found = byWords(text, ids, nameOf);
  const [first] = found;
  if (first !== undefined && found.length === 1) return first;
  const some = found.slice(0, NAMED_MOST).map(nameOf).join("; ");
  const more = found.length > NAMED_MOST ? ` and ${found.length - NAMED_MOST} more` : "";
  reader.wrong(key, first === undefined ? none : `Several go by these words: ${some}${more}. Write which.`);
  return null;
}

/** Names that are said where several could be meant. */
const NAMED_MOST = 4;

function figureOf(reader: RowReader<ShelfColumn>, value: number | undefined): Figure | undefined {
  if (value === undefined) return undefined;
  const said = reader.text("known").toLowerCase();
  const provenance = (["measured", "typical", "guess"] as const).find((each) => said.startsWith(each));
  return provenance ? { value, provenance } : datasheet(value);
}

function wireOf(reader: RowReader<ShelfColumn>): ShelfThing | null {
  const text = reader.text("gauge") || reader.text("name");
  const gauge = parseGauge(text) ?? parseGauge((/(\d+(?:\/0)?\s*awg|[\d.,]+\s*mm[²2])/i.exec(text) ?? [""])[0]);
  if (!gauge) {
    reader.wrong("gauge", "Write the size: 14 AWG or 2.5 mm².");
    return null;
  }
  const said = reader.text("insulation");
  const ids = INSULATIONS.map(({ id }) => id);
  const none = `No such insulation is in the table. Write one of ${ids.slice(0, 6).join(", ")} …`;
  const insulation = theOne(reader, "insulation", said || "pvc80", ids, (id) => insulationById(id)?.name ?? id, none);
  if (insulation === null) return null;
  const colour = reader.words("colour", COLOUR_MAX);
  return { sort: "wire", gauge: gauge.id, insulation, ...(colour ? { colour } : {}) };
}

function fuseOf(reader: RowReader<ShelfColumn>): ShelfThing | null {
  const amps = reader.figure("amps", "current", { min: 0.01, max: 2000 }) ?? ampsIn(reader.text("name"));
  if (amps === undefined) {
    if (reader.text("amps") === "") reader.wrong("amps", "A fuse needs its rating.");
    return null;
  }
  const said = reader.text("family");
  const none = "No such family of fuses is in the table. Write for example blade, regular, 32 V.";
  const family = theOne(reader, "family", said || "blade_regular_32v", FUSE_FAMILY_IDS, (id) => FUSE_FAMILIES[id].name, none);
  if (family === null) return null;
  if (!ratingsOf(family).includes(amps)) {
    reader.wrong("amps", `${FUSE_FAMILIES[family].name} fuses are made in ${ratingsOf(family).join(", ")} A.`);
    return null;
  }
  return { sort: "fuse", family, ratingA: amps };
}

function ampsIn(text: string): number | undefined {
  const found = /([\d.]+)\s*A\b/.exec(text);
  return found ? Number(found[1]) : undefined;
}

function connectorOf(reader: RowReader<ShelfColumn>): ShelfThing | null {
  const family = theOne(
    reader,
    "family",
    reader.text("family") || reader.text("name"),
    CONNECTORS.map(({ id }) => id),
    (id) => connectorById(id)?.name ?? id,
    "No such family of connectors is in the table. Write for example 2-pole 3.5 mm bullet in keyed housing.",
  );
  if (family === null) return null;
  const coding = reader.words("colour", COLOUR_MAX);
  return { sort: "connector", family, ...(coding ? { coding } : {}) };
}

/** How a converter works, by words of its label: "step-up module 12 V". */
const TOPOLOGY_WORDS = [
  [/buck.?boost|up.{0,5}down|down.{0,5}up/i, "buck-boost"],
  [/boost|step.?up/i, "boost"],
  [/buck|step.?down/i, "buck"],
  [/linear|\bldo\b/i, "linear"],
] as const;

function topologyIn(text: string) {
  return TOPOLOGY_WORDS.find(([words]) => words.test(text))?.[1] ?? null;
}

/** Figures of a part, by what its kind calls them. Empty cells stay open. */
function partOf(reader: RowReader<ShelfColumn>, kind: ShelfPart["kind"], loadKind: (typeof LOAD_KINDS)[number] | null): ShelfThing | null {
  const name = reader.words("name", NAME_MAX);
  if (name === "") reader.wrong("name", "A part needs a name.");
  const get = (key: ShelfColumn, dimension: "voltage" | "current" | "capacity") =>
    figureOf(
      reader,
      reader.figure(key, dimension, dimension === "voltage" ? { max: 120 } : { max: dimension === "capacity" ? 5000 : 2000 }),
    );
  const [volts, amps, printed, peak] = [get("volts", "voltage"), get("amps", "current"), get("printed", "current"), get("peak", "current")];
  const [minV, maxV, capacity] = [get("minV", "voltage"), get("maxV", "voltage"), get("capacity", "capacity")];
  const channels = reader.whole("channels", 1, 1, 8);
  if (kind !== "driver" && kind !== "switch" && volts === undefined && reader.text("volts") === "")
    reader.wrong("volts", "Without its volts it cannot be offered for any rail.");
  if (volts && volts.value < 0.5) reader.wrong("volts", "The least is 0.5 V.");
  const said = reader.text("family");
  const chemistry =
    kind === "pack" && said !== ""
      ? (theOne(
          reader,
          "family",
          said,
          CHEMISTRY_IDS,
          (id) => id.replace(/_/g, " "),
          `Write one of ${CHEMISTRY_IDS.join(", ").replace(/_/g, " ")}, or leave it empty.`,
        ) ?? undefined)
      : undefined;
  const topology = topologyIn(said) ?? (said === "" ? (topologyIn(name) ?? "buck") : null);
  if (kind === "converter" && topology === null) reader.wrong("family", "Write buck, boost, buck-boost or linear.");
  if (reader.troubles.length > 0) return null;
  const over = (): Partial<Record<string, unknown>> => {
    switch (kind) {
      case "pack":
        return {
          openCircuitV: volts,
          capacityAh: capacity,
          continuousA: amps,
          peakA: peak,
          chemistry,
        };
      case "supply":
        return { outputV: volts, ratedA: amps };
      case "converter":
        return {
          outputV: volts,
          ratedA: amps,
          printedA: printed,
          inputMinV: minV,
          inputMaxV: maxV,
          topology,
        };
      case "driver":
        return { channels, continuousA: amps, headlineA: printed, peakA: peak, inputMinV: minV, inputMaxV: maxV ?? volts };
      case "switch":
        return { ratedA: amps, peakA: peak, breakV: volts };
      case "load": {
        const level = (figure: Figure | undefined) => figure;
        const levels = Object.fromEntries(Object.entries({ run: level(amps), stall: level(peak) }).filter(([, value]) => value));
        return {
          loadKind: loadKind ?? "other",
          behaviour: usualBehaviour(loadKind ?? "other"),
          nominalV: volts,
          inputMinV: minV,
          inputMaxV: maxV,
          ...(Object.keys(levels).length > 0 ? { levels } : {}),
        };
      }
    }
  };
  const given = Object.fromEntries(Object.entries(over()).filter(([, value]) => value !== undefined));
  return { sort: "part", part: forShelf(newPart(kind, "p1", name, given) as ShelfPart) };
}

function readThing(reader: RowReader<ShelfColumn>): ShelfThing | null {
  const said = reader.text("kind");
  const loadKind = LOAD_KINDS.find((each) => each === said.toLowerCase()) ?? null;
  const kind = loadKind ? "load" : KINDS.find(([words]) => words.test(said))?.[1];
  switch (kind) {
    case "wire":
      return wireOf(reader);
    case "fuse":
      return fuseOf(reader);
    case "connector":
      return connectorOf(reader);
    case undefined:
      reader.wrong(
        "kind",
        "Write pack, supply, converter, driver, switch, wire, fuse, connector, or a kind of load such as motor or board.",
      );
      return null;
    default:
      return partOf(reader, kind, loadKind);
  }
}

/** Every row of a list of the shelf, in its order. */
export function readShelf(table: Sheeted<ShelfColumn>): ReadRow<ShelfEntry>[] {
  return table.rows.map((cells, i) => {
    const reader = new RowReader(cells, table, SHELF_COLUMNS);
    const thing = readThing(reader);
    const count = readCount(reader.text("count"), thing?.sort ?? "wire");
    if (count === undefined) reader.wrong("count", "Write how many there are, or leave it empty.");
    const cost = reader.figure("cost", "ratio", { min: 0, max: 1e6 });
    const entry: ShelfEntry | null = thing && {
      thing,
      count: count ?? null,
      cost: cost ?? null,
      note: reader.words("note", NOTE_MAX, plainLines),
      quirks: reader.words("quirks", QUIRKS_MAX, plainLines),
    };
    return { row: table.firstRow + i, value: reader.troubles.length === 0 ? entry : null, troubles: reader.troubles };
  });
}

/** "3", "12.5 m": null where nobody counted, undefined where it is no number of that. Only wire comes in parts of one. */
export function readCount(written: string, sort: ShelfThing["sort"]): number | null | undefined {
  const text = written.trim().replace(/\s*(m|metres?|meters?|pcs?\.?|pieces?|x|×)$/i, "");
  if (text === "" || text === "?" || /^(some|yes)$/i.test(text)) return null;
  const value = Number(/^\d+,\d{1,2}$/.test(text) ? text.replace(",", ".") : text);
  const fits = Number.isFinite(value) && value >= 0 && value <= 1e6 && (sort === "wire" || Number.isInteger(value));
  return fits ? value : undefined;
}

const shown = (figure: Figure | undefined) => (figure === undefined ? "" : `${figure.value}`);

/** What is written of a thing, by column. */
function cellsOf({ thing, count, cost, note, quirks }: ShelfItem | ShelfEntry): Partial<Record<ShelfColumn, string>> {
  const common = { count: count === null ? "" : `${count}`, cost: cost === null ? "" : `${cost}`, note, quirks, name: thingName(thing) };
  switch (thing.sort) {
    case "wire":
      return { ...common, kind: "wire", gauge: thing.gauge, insulation: thing.insulation, colour: thing.colour ?? "" };
    case "fuse":
      return { ...common, kind: "fuse", amps: `${thing.ratingA}`, family: thing.family };
    case "connector":
      return { ...common, kind: "connector", family: thing.family, colour: thing.coding ?? "" };
    case "part":
      return { ...common, ...partCells(thing.part) };
  }
}

function partCells(part: Part): Partial<Record<ShelfColumn, string>> {
  const known = (...figures: (Figure | undefined)[]) => figures.find((each) => each !== undefined)?.provenance ?? "";
  switch (part.kind) {
    case "pack":
      return {
        kind: "pack",
        volts: shown(part.openCircuitV),
        amps: shown(part.continuousA),
        peak: shown(part.peakA),
        capacity: shown(part.capacityAh),
        family: part.chemistry ?? "",
        known: known(part.capacityAh, part.openCircuitV),
      };
    case "supply":
      return { kind: "supply", volts: shown(part.outputV), amps: shown(part.ratedA), known: known(part.ratedA, part.outputV) };
    case "converter":
      return {
        kind: "converter",
        volts: shown(part.outputV),
        amps: shown(part.ratedA),
        printed: shown(part.printedA),
        minV: shown(part.inputMinV),
        maxV: shown(part.inputMaxV),
        family: part.topology,
        known: known(part.ratedA, part.outputV),
      };
    case "driver":
      return {
        kind: "driver",
        channels: `${part.channels}`,
        amps: shown(part.continuousA),
        printed: shown(part.headlineA),
        peak: shown(part.peakA),
        minV: shown(part.inputMinV),
        maxV: shown(part.inputMaxV),
        known: known(part.continuousA, part.headlineA),
      };
    case "switch":
      return { kind: "switch", amps: shown(part.ratedA), peak: shown(part.peakA), volts: shown(part.breakV), known: known(part.ratedA) };
    case "load":
      return {
        kind: part.loadKind,
        volts: shown(part.nominalV),
        amps: shown(part.levels?.run),
        peak: shown(part.levels?.stall),
        minV: shown(part.inputMinV),
        maxV: shown(part.inputMaxV),
        known: known(part.levels?.run, part.nominalV),
      };
    default:
      return {};
  }
}

/** A thing with its main ratings written anew: what the columns do not show of a part stays as it was. */
export function withRatings(before: ShelfThing, after: ShelfThing): ShelfThing {
  if (before.sort !== "part" || after.sort !== "part" || before.part.kind !== after.part.kind) return after;
  const shown = new Set(Object.keys(after.part));
  const kept = Object.fromEntries(Object.entries(before.part).filter(([key]) => !SHOWN_OF_PARTS.has(key) || shown.has(key)));
  // A figure that was not changed keeps how it is known.
  const figures = Object.entries(after.part).map(([key, value]) => {
    const was = (before.part as unknown as Record<string, unknown>)[key];
    if (key === "levels" && isObject(was) && isObject(value)) {
      const { run: _run, stall: _stall, ...others } = was;
      const own = Object.entries(value).map(([level, figure]) => [level, sameFigure(was[level], figure) ? was[level] : figure]);
      return [key, { ...others, ...Object.fromEntries(own) }];
    }
    return [key, sameFigure(was, value) ? was : value];
  });
  return { sort: "part", part: { ...kept, ...Object.fromEntries(figures) } as ShelfPart };
}

/** Figures of parts that stand in columns: one that is emptied there is not known any more. */
const SHOWN_OF_PARTS: ReadonlySet<string> = new Set([
  "capacityAh",
  "continuousA",
  "peakA",
  "chemistry",
  "ratedA",
  "printedA",
  "inputMinV",
  "inputMaxV",
  "headlineA",
  "breakV",
  "levels",
]);

function sameFigure(a: unknown, b: unknown): boolean {
  return isObject(a) && isObject(b) && "value" in a && "value" in b && a.value === b.value;
}

/** The shelf as a table that can be read again: the main ratings; the ledger's own file holds every figure. */
export function shelfTable(items: readonly (ShelfItem | ShelfEntry)[]): Table {
  return {
    head: SHELF_COLUMNS.map(({ label }) => label),
    rows: items.map((item) => {
      const cells = cellsOf(item);
      return SHELF_COLUMNS.map(({ key }) => cells[key] ?? "");
    }),
  };
}
