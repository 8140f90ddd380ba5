import { readFileSync } from "node:fs";
import { fileURLToPath } from "node:url";
import Papa from "papaparse";
import { draftAtOnce } from "@/core/drafting/draft";
import { readList } from "@/core/drafting/read-list";
import type { Machine, Wire } from "@/core/machine/schema";
import { gaugeById, usualSizes } from "@/core/reference/gauges";
import { LISTS } from "./lists";

/** A row of practice.csv: what experienced builders fit for a line at one length. */
export interface PracticeRow {
  readonly id: string;
  readonly lengthM: number;
  readonly main: readonly [number, number] | null;
  readonly feed: readonly [number, number] | null;
  /** Thickest and thinnest accepted size. */
  readonly gauge: readonly [string, string] | null;
  readonly lead: readonly [string, string] | null;
}

type Cells = Readonly<Record<string, string>>;

const pair = (cells: Cells, name: string): readonly [string, string] | null => {
  const [a, b] = [cells[`${name}_from`] ?? cells[`${name}_thickest`], cells[`${name}_to`] ?? cells[`${name}_thinnest`]];
  return a && b ? [a, b] : null;
};
const amps = (cells: Cells, name: string): readonly [number, number] | null => {
  const found = pair({ [`${name}_from`]: cells[`${name}_A_from`] ?? "", [`${name}_to`]: cells[`${name}_A_to`] ?? "" }, name);
  return found && [Number(found[0]), Number(found[1])];
};

/** All rows of practice.csv (a copy of the handbook's table: common practice, no source, drop and heat derived). */
export function practiceRows(): PracticeRow[] {
  const text = readFileSync(fileURLToPath(new URL("practice.csv", import.meta.url)), "utf8");
  return Papa.parse<Cells>(text, { header: true, skipEmptyLines: true }).data.map((cells) => ({
    id: (cells.id ?? "").split("-")[0] ?? "",
    lengthM: Number(cells.length_m),
    main: amps(cells, "main_fuse"),
    feed: amps(cells, "feed_fuse"),
    gauge: pair(cells, "feed_awg"),
    lead: pair(cells, "lead_awg"),
  }));
}

/** One choice against the accepted range. `off`: sizes outside, 0 inside; positive: thicker or larger. */
export interface Compared {
  readonly what: "main fuse" | "feed fuse" | "feed gauge" | "lead gauge" | "main gauge";
  readonly got: string;
  readonly accepted: string;
  readonly off: number;
}

const EVEN = usualSizes("awg").filter(({ id }) => id !== "3 AWG" && id !== "1 AWG");
const stepOf = (id: string) => EVEN.findIndex((each) => each.id === `${id.replace(" AWG", "")} AWG`);

/** Steps of the usual sizes that a wire lies outside a range. */
export function gaugeOff(wire: Pick<Wire, "gauge" | "parallel">, [thickest, thinnest]: readonly [string, string]): number {
  const gauge = gaugeById(wire.gauge ?? "");
  if (!gauge) return Number.POSITIVE_INFINITY;
  // Two in parallel count as the size of their area.
  const area = gauge.areaMm2 * wire.parallel;
  const at = EVEN.findLastIndex(({ areaMm2 }) => areaMm2 <= area * 1.01);
  if (at > stepOf(thickest)) return at - stepOf(thickest);
  return at < stepOf(thinnest) ? at - stepOf(thinnest) : 0;
}

function fuseOff(ratingA: number | undefined, [from, to]: readonly [number, number]): number {
  if (ratingA === undefined) return Number.NEGATIVE_INFINITY;
  return ratingA > to ? ratingA / to - 1 : ratingA < from ? ratingA / from - 1 : 0;
}

export const mainFuse = ({ parts }: Machine): number | undefined => {
  const part = parts.find(({ kind, name }) => kind === "fuse" && name === "Main fuse");
  return part?.kind === "fuse" ? part.fuse.ratingA : undefined;
};

/** The wires that carry the whole machine: from the source to the first place where ways part. */
export function mainWires({ parts, wires }: Machine): Wire[] {
  const source = parts.find(({ kind }) => kind === "pack" || kind === "supply");
  const found: Wire[] = [];
  for (let at = source?.id; at; ) {
    const next: Wire[] = wires.filter(({ role, from }) => role === "supply" && from.part === at);
    const [only] = next;
    if (next.length !== 1 || !only) break;
    found.push(only);
    at = only.to.part;
  }
  return found;
}

/** Compares the draft of a row's list with the ranges the row accepts. */
export function measured(row: PracticeRow): Compared[] {
  const list = LISTS[row.id];
  if (!list) return [];
  const { machine } = draftAtOnce(readList(list.lines.replaceAll("{m}", String(row.lengthM))), { name: "Practice" });
  const found: Compared[] = [];
  const put = (what: Compared["what"], got: string, range: readonly (string | number)[], off: number) =>
    found.push({ what, got, accepted: `${range[0]} to ${range[1]}`, off });
  const name = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "";
  const whole = list.feed === undefined;
  const feeds = machine.wires.filter(({ role, to }) => role === "supply" && list.feed?.test(name(to.part)));
  const leads = machine.wires.filter(({ role, to }) => role !== "return" && list.lead?.test(name(to.part)));
  // A supply's own limit stands in for a main fuse.
  const [alone] = feeds;
  // A feed without a fuse of its own is guarded by the main fuse.
  const main = row.main && row.feed && alone && !alone.fuse ? ([Math.min(row.main[0], row.feed[0]), row.main[1]] as const) : row.main;
  if (main && machine.parts.some(({ kind }) => kind === "pack"))
    put("main fuse", `${mainFuse(machine) ?? "none"} A`, main, fuseOff(mainFuse(machine), main));
  if (whole && row.gauge) {
    const range = row.gauge;
    const wires = mainWires(machine);
    const worst = wires.map((wire) => ({ wire, off: gaugeOff(wire, range) })).sort((a, b) => Math.abs(b.off) - Math.abs(a.off))[0];
    if (worst) put("main gauge", text(worst.wire), row.gauge, worst.off);
    return found;
  }
  const [feed] = feeds;
  // A machine of one feed may have no fuse but the main one.
  if (row.feed && (feed?.fuse || row.main === null))
    put("feed fuse", `${feed?.fuse?.ratingA ?? "none"} A`, row.feed, fuseOff(feed?.fuse?.ratingA, row.feed));
  if (row.gauge && feed) put("feed gauge", text(feed), row.gauge, gaugeOff(feed, row.gauge));
  const [lead] = leads;
  if (row.lead && lead && list.lead) put("lead gauge", text(lead), row.lead, gaugeOff(lead, row.lead));
  return found;
}

const text = ({ gauge, parallel }: Wire) => `${parallel > 1 ? `${parallel} × ` : ""}${gauge ?? "?"}`;

/** Copper of every conductor of known size, phases and own leads of groups with it, kg. */
export function copperKg({ parts, wires }: Machine): number {
  const grams = (gauge: string | undefined, metres: number) => (gaugeById(gauge ?? "")?.copperGPerM ?? 0) * metres;
  const run = wires.reduce((sum, { gauge, parallel, lengthM }) => sum + grams(gauge, parallel * (lengthM?.value ?? 1)), 0);
  const own = parts.reduce((sum, part) => {
    if (part.kind !== "load") return sum;
    const phases = part.loadKind === "stepper" ? 4 : 3;
    const { phaseLead, ownLead, count } = part;
    return (
      sum +
      grams(phaseLead?.gauge, phases * count * (phaseLead?.lengthM?.value ?? 1)) +
      grams(ownLead?.gauge, 2 * count * (ownLead?.lengthM?.value ?? 1))
    );
  }, 0);
  return (run + own) / 1000;
}
