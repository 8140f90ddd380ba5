import type { Figures } from "../figures/figures";
import { fuseSites } from "../figures/fuse-sites";
import { groupBy } from "../machine/group";
import { isConsumer, isSource } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import type { InstrumentId } from "../reference/instruments";
import { readingU } from "./compare";
import { observableKey, type Predictor } from "./predict";
import { apart, placed, type Ranked, type Ranking } from "./rank";
import { moves, type Situation } from "./situation";
import { feedTerminals } from "./stages/powered";
import { railEnds } from "./stages/rails";
import { ammeter } from "./steps";
import type { Kit, Observable } from "./types";

/** A place where one more reading may be taken, and with what. */
export interface Candidate {
  readonly at: Observable;
  readonly instrument: InstrumentId;
}

/** The next reading: where, what it would show by the two best explanations, and how much it tells them apart. */
export interface NextReading extends Candidate {
  readonly first: number;
  readonly second: number;
  /** Bits that it is expected to tell of what is still open. */
  readonly bits: number;
}

/** Currents below this are not worth a clamp, A. */
const WORTH_A = 0.02;

/** All places worth reading in some situations of a machine: what its stages read, and every wire and plug besides. */
export function candidatesOf(
  figures: Figures,
  predictor: Predictor,
  kit: Kit,
  situations: readonly Situation[],
  unpowered: boolean,
): Candidate[] {
  const found = new Map<string, Candidate>();
  const add = (at: Observable, instrument: InstrumentId) => {
    const key = observableKey(at);
    if (!found.has(key)) found.set(key, { at, instrument });
  };
  const { machine } = figures;
  if (unpowered) {
    for (const { from, to, board } of machine.wires)
      if (!board) add({ kind: "ohms", red: from, black: to, contactsOpen: false }, kit.volts);
    for (const { subject } of fuseSites(figures)) add({ kind: "fuse", subject: subject.id }, "eyes");
  }
  for (const situation of situations) {
    const { built, point } = predictor.stand(situation);
    const volts = (red: { part: string; terminal: string }, black: { part: string; terminal: string }) =>
      add({ kind: "network", situation, probe: { kind: "volts", red, black } }, kit.volts);
    for (const source of machine.parts.filter(isSource)) {
      const emf = built.circuit.emfs.findIndex(({ id }) => id === source.id);
      const amps = point.emfA[emf] ?? 0;
      add(
        { kind: "network", situation, probe: { kind: "amps", source: source.id } },
        situation.fedBy === "bench" && amps > 0.2 ? "supply" : ammeter(kit, amps),
      );
    }
    for (const rail of figures.ledger.rails) {
      const ends = railEnds(figures, rail);
      if (ends) volts(ends.plus, ends.minus);
    }
    for (const part of machine.parts) {
      const ends = feedTerminals(part);
      if (ends && isConsumer(part) && !figures.solved.circuit.feeds.has(part.id))
        volts({ part: part.id, terminal: ends.plus }, { part: part.id, terminal: ends.minus });
      if (moves(part) && situation.plugged.has(part.id) && situation.cells.get(part.id)?.state !== "off")
        add({ kind: "turns", part: part.id }, "eyes");
    }
    machine.wires.forEach((wire, i) => {
      if (wire.board) return;
      volts(wire.from, wire.to);
      for (const [plus, end] of [
        [true, wire.to],
        [false, wire.from],
      ] as const) {
        // All the way from what feeds it, and all the way home: one reading for a whole row of joints.
        if (wire.role === "signal" || wire.role === "bond" || (wire.role === "return") === plus) continue;
        const source = sourceEnd(figures, end.part, plus);
        if (source) volts(plus ? source : end, plus ? end : source);
      }
      const amps = point.branchA[i] as number;
      if (Math.abs(amps) > WORTH_A) add({ kind: "network", situation, probe: { kind: "amps", wire: wire.id } }, ammeter(kit, amps));
    });
  }
  return [...found.values()];
}

/** The terminal of what feeds a part's rail, plus or minus. */
function sourceEnd(figures: Figures, partId: string, plus: boolean) {
  const rail = figures.ledger.rails.find(({ origin }) => origin === railOrigin(figures.ledger, partId));
  const ends = rail && railEnds(figures, rail);
  if (!ends || rail.origin === partId) return null;
  return plus ? ends.plus : ends.minus;
}

/** Share from which a fault is a suspect. */
const SUSPECT_SHARE = 0.01;

/** Shorts on one rail are found by halving: with the plugs of half of the suspects pulled it is still there, or gone. */
export function halvingOf(figures: Figures, ranking: Ranking, kit: Kit): Candidate[] {
  const suspects = ranking.ranked.flatMap(({ fault, share }) => {
    if (fault?.kind !== "short" || share < SUSPECT_SHARE) return [];
    const id = fault.id.replace("short ", "");
    const feed = figures.ledger.rowOf.get(id)?.feed;
    return feed ? [{ feed: feed.id, origin: railOrigin(figures.ledger, id) }] : [];
  });
  const byRail = groupBy(suspects, ({ origin }) => origin ?? undefined);
  return [...byRail].flatMap(([origin, members]): Candidate[] => {
    const rail = figures.ledger.rails.find((each) => each.origin === origin);
    const ends = rail && railEnds(figures, rail);
    if (!ends || members.length < 2) return [];
    const lifted = members.slice(0, Math.ceil(members.length / 2)).map(({ feed }) => feed);
    return [{ at: { kind: "ohms", red: ends.plus, black: ends.minus, contactsOpen: false, lifted }, instrument: kit.volts }];
  });
}

/** Explanations below this share are left out of the choice. */
const WORTH_SHARE = 2e-3;
/** Most explanations that are weighed against each other. */
const MOST = 120;
/** Values that lie closer than this many standard deviations are one outcome. */
const ONE_OUTCOME = 3.5;

/**
 * The reading that is expected to tell most of what is still open (entropy of its outcomes over the shares of the explanations);
 * among equals the one that separates the two best. Null when nothing would tell anything.
 */
export function nextReading(
  predictor: Predictor,
  ranking: Ranking,
  candidates: readonly Candidate[],
  taken: ReadonlySet<string>,
): NextReading | null {
  const open = ranking.ranked.filter(({ share }) => share > WORTH_SHARE).slice(0, MOST);
  const hypotheses = open.flatMap((each) => sizesOf(each));
  const [first, second] = [open[0], open[1]];
  if (!first) return null;
  let best: NextReading | null = null;
  for (const { at, instrument } of candidates) {
    if (taken.has(observableKey(at))) continue;
    const meterU = meterOf(at, instrument, predictor.value(at, null));
    const lies = hypotheses
      .map(({ fault, size, share }) => ({ ...placed(predictor, at, meterU, predictor.value(at, fault, size)), share }))
      .sort((one, other) => one.x - other.x);
    const bits = entropyOf(lies);
    const [a, b] = [first, second ?? first].map((each) => predictor.value(at, each.fault, each.size)) as [number, number];
    const gain = bits + (second ? 0.005 * Math.min(6, apart(predictor, at, meterU, a, b)) : 0);
    if (gain > 0.02 && (best === null || gain > best.bits)) best = { at, instrument, first: a, second: b, bits: gain };
  }
  return best;
}

/** Bits that a reading is expected to tell: values that lie too close to be told apart are one outcome. `lies` in rising order. */
function entropyOf(lies: readonly { x: number; u: number; share: number }[]): number {
  const total = lies.reduce((sum, { share }) => sum + share, 0);
  let bits = 0;
  let start: { x: number; u: number } | null = null;
  let share = 0;
  const close = () => {
    if (share > 0) bits -= (share / total) * Math.log2(share / total);
  };
  for (const each of lies) {
    if (start === null || each.x - start.x > ONE_OUTCOME * Math.max(start.u, each.u)) {
      close();
      start = each;
      share = 0;
    }
    share += each.share;
  }
  close();
  return bits;
}

/** What an instrument's doubt is where a reading is expected. */
export function meterOf(at: Observable, instrument: InstrumentId, value: number): number {
  const quantity = at.kind === "network" ? at.probe.kind : at.kind === "ohms" ? "ohms" : at.kind === "fuse" ? "rating" : "yes";
  const size = at.kind === "ohms" && !(value < 1e7) ? 1 : value;
  return readingU(instrument, quantity, size) ?? 0;
}

/** A fault at each of its sizes that what was read leaves open, by how well it fits. */
function sizesOf({ fault, size, share, misfit, bySize }: Ranked): { fault: Ranked["fault"]; size: number; share: number }[] {
  if (!fault?.sized) return [{ fault, size, share }];
  const sizes = [{ size, misfit }, ...bySize].map((each) => ({ ...each, weight: Math.exp(-(each.misfit - misfit) / 2) }));
  const total = sizes.reduce((sum, { weight }) => sum + weight, 0);
  return sizes.filter(({ weight }) => weight > 0.01).map((each) => ({ fault, size: each.size, share: (share * each.weight) / total }));
}
