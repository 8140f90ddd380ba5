import { figuresOf } from "../analysis/analyse";
import { packCandidates, ranked, type SourceCandidate } from "../choosing/packs";
import { supplyCandidates } from "../choosing/supplies";
import type { Pack, Supply } from "../machine/schema";
import { nominalOf } from "../machine/tree";
import { TopologyCache } from "../network/topology";
import { editText } from "../quantity/format";
import { type ChemistryId, chemistryOf } from "../reference/chemistries";
import { planOf } from "./plan";
import { readLine } from "./read-line";
import type { ReadList } from "./read-list";
import type { ReadLine } from "./reading";
import { type Sorted, sorted } from "./sorted";

/** A source that could feed a list that names none, as the line that names it. */
export interface SourceChoice {
  readonly line: string;
  readonly candidate: SourceCandidate;
}

/** How far a search for sources is. */
interface Progress {
  readonly done: number;
  readonly of: number;
}

/** Packs weighed: enough of each chemistry to tell them apart while somebody waits. */
const WEIGHED = 36;
/** Choices shown. */
const SHOWN = 3;

/** The word of a list for a chemistry. */
const CHEMISTRY_SAID: Readonly<Record<ChemistryId, string>> = {
  lead_flooded: "flooded lead acid",
  lead_agm: "AGM",
  lifepo4_energy: "lifepo4",
  lifepo4_power: "lifepo4 power cells",
  nmc_energy: "li-ion",
  nmc_power: "li-ion power cells",
  lipo: "lipo",
  nimh_aa: "NiMH AA",
  nimh_power: "NiMH sub-C",
  alkaline_aa: "alkaline AA",
  alkaline_d: "alkaline D cells",
  alkaline_9v: "9V block",
};

/** The volts a machine is fed at where its list names no source: those of what takes most power. */
export function mainVolts({ loads }: Sorted): number | null {
  const by = new Map<number, number>();
  for (const { reading } of loads) {
    if (!reading.volts) continue;
    const volts = nominalOf(reading.volts.value);
    const watts = reading.watts?.value ?? (reading.amps.run ?? reading.amps.most ?? reading.amps.stall)?.value;
    by.set(volts, (by.get(volts) ?? 0) + reading.count * (reading.watts ? (watts ?? 0) : (watts ?? 0.1) * volts));
  }
  const most = [...by].sort((a, b) => b[1] - a[1])[0];
  return most?.[0] ?? null;
}

/** Whether a list names something to feed it from. */
export function namesSource({ packs, supplies }: Sorted): boolean {
  return packs.length > 0 || supplies.some(({ make }) => make !== "charger");
}

const lineOf = (text: string): ReadLine => readLine(text, 0);

/** A line about a source of which nothing is the builder's: every figure of it is a guess. */
export function supposedLine(text: string): ReadLine {
  const read = lineOf(text);
  return JSON.parse(JSON.stringify(read).replaceAll('"provenance":"datasheet"', '"provenance":"guess"')) as ReadLine;
}

/** A list with a line more. */
export function withLine(list: ReadList, line: ReadLine): ReadList {
  return { ...list, lines: [...list.lines, line] };
}

function packLine({ chemistry, series = 1, parallel = 1, capacityAh }: Partial<Pack>): string {
  const row = chemistryOf(chemistry ?? "lead_agm");
  const ah = editText(capacityAh?.value ?? 0, "capacity");
  const said = CHEMISTRY_SAID[row.id];
  if (row.family === "lead") return `pack ${series * 2} V ${ah} ${said}`;
  return `pack ${series}S${parallel > 1 ? `${parallel}P` : ""} ${said} ${ah}`;
}

/**
 * The best of the chooser for a list that names no source: of each sort of pack and of supplies the lightest that fits, three
 * of them, what fits first. Yields how far it is.
 */
export function* sourceChoices(list: ReadList): Generator<Progress, SourceChoice[]> {
  const volts = mainVolts(sorted(list.lines));
  if (volts === null) return [];
  const with_ = (text: string) => planOf(sorted(withLine(list, supposedLine(text)).lines), { name: "Draft" }).machine;
  const found: SourceChoice[] = [];
  const packed = with_(`pack ${volts} V lifepo4`);
  const pack = packed.parts.find(({ kind }) => kind === "pack");
  const figures = figuresOf(packed, new TopologyCache());
  const packs: SourceCandidate[] = [];
  for (const { done, of, candidate } of packCandidates(figures, pack?.id ?? "", [], WEIGHED)) {
    yield { done, of: of + 1 };
    if (candidate.from === "composed") packs.push(candidate);
  }
  const bySort = new Map<string, SourceCandidate>();
  for (const each of ranked(packs)) {
    const sort = chemistryOf((each.changes as Partial<Pack>)?.chemistry ?? "lead_agm").family;
    if (!bySort.has(sort)) bySort.set(sort, each);
  }
  for (const candidate of bySort.values()) found.push({ line: packLine(candidate.changes as Partial<Pack>), candidate });
  const supplied = with_(`supply ${volts} V 10 A`);
  const supply = supplied.parts.find(({ kind }) => kind === "supply");
  const supplies = supplyCandidates(figuresOf(supplied, new TopologyCache()), supply?.id ?? "", []).filter(
    ({ from, refused }) => from === "class" && refused.length === 0,
  );
  const [lightest] = supplies;
  if (lightest) {
    const changes = lightest.changes as Partial<Supply>;
    found.push({
      line: `${changes.make === "usb" ? "USB port" : "supply"} ${editText(changes.outputV?.value ?? volts, "voltage")} ${editText(changes.ratedA?.value ?? 0, "current")}`,
      candidate: lightest,
    });
  }
  const fits = (each: SourceChoice) => (each.candidate.refused.length === 0 ? 0 : 1);
  return found.sort((a, b) => fits(a) - fits(b)).slice(0, SHOWN);
}
