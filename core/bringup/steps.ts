import type { Figures } from "../figures/figures";
import { wireName } from "../figures/names";
import type { TerminalRef, Wire } from "../machine/schema";
import { terminalName } from "../machine/terminals";
import { say } from "../quantity/format";
import { INSTRUMENTS, type InstrumentId, type ReadQuantity } from "../reference/instruments";
import { type Band, readingU, tooCoarse } from "./compare";
import { type Probe, probeKey } from "./probe";
import type { Situation } from "./situation";
import { expectedAt, type Stand, standOf, undecided } from "./stand";
import type { Expect, Kit, Observable, Place, StageId, Step, Tells } from "./types";
import { READ_DIMENSIONS } from "./words";

/** What stages are made from: the plan's figures, what there is to read with, and machines on the bench, each solved once. */
export interface Maker {
  readonly figures: Figures;
  readonly kit: Kit;
  stand(situation: Situation): Stand;
}

/** A maker for a machine. */
export function makerOf(figures: Figures, kit: Kit): Maker {
  const known = new Map<string, Stand>();
  return {
    figures,
    kit,
    stand: (situation) => {
      const found = known.get(situation.id);
      if (found) return found;
      const made = standOf(figures.machine, situation);
      known.set(situation.id, made);
      return made;
    },
  };
}

/** A terminal in words. */
export function terminalWords(figures: Figures, { part, terminal }: TerminalRef): string {
  const found = figures.partOf.get(part);
  return found ? terminalName(found, terminal) : "a part that is gone";
}

/** The wire that ends at a terminal, for what is written on it. */
function labelAt(figures: Figures, { part, terminal }: TerminalRef): string | undefined {
  return figures.machine.wires.find(
    ({ label, from, to }) =>
      label !== undefined && ((to.part === part && to.terminal === terminal) || (from.part === part && from.terminal === terminal)),
  )?.label;
}

/** Where both probes go. */
export function probes(figures: Figures, red: TerminalRef, black: TerminalRef, blackNote?: string): Place[] {
  return [
    { what: "red", at: terminalWords(figures, red), label: labelAt(figures, red) },
    { what: "black", at: terminalWords(figures, black), label: labelAt(figures, black), note: blackNote },
  ];
}

/** The lead of an ammeter in series costs volts from here on; a clamp is better. */
const SERIES_TO_A = 2;

/** With what a current of this size is best read. */
export function ammeter(kit: Kit, amps: number): InstrumentId {
  const size = Math.abs(amps);
  if (kit.clamp === "fine-clamp") return size < 0.05 ? kit.volts : "fine-clamp";
  if (kit.clamp === "none") return kit.volts;
  return size < SERIES_TO_A ? kit.volts : "clamp";
}

/** Share of what is expected from which a current's doubt is a factor, not a plus or minus. */
const FACTOR_FROM = 0.2;

/** Share up to which it is one. */
const FACTOR_TO = 2;

/** A current whose doubt is larger than itself stays on its own side of zero. */
function oneSide(value: number, planU: number): Pick<Band, "planLow" | "planHigh"> {
  return value >= 0 ? { planLow: 0, planHigh: value + planU } : { planLow: value - planU, planHigh: 0 };
}

/** A band about what the plan expects: currents that may be off by a factor keep to one side of zero. */
export function bandOf(value: number, planU: number, meterU: number, bounds: Pick<Band, "floor" | "ceiling"> = {}, isFactor = false): Band {
  const share = value === 0 ? 0 : planU / Math.abs(value);
  if (!isFactor || share < FACTOR_FROM) return { value, planLow: value - planU, planHigh: value + planU, meterU, ...bounds };
  // A doubt of many times the figure is no factor any more: what is expected to be next to nothing would be anything.
  if (share > FACTOR_TO) return { value, ...oneSide(value, planU), meterU, ...bounds };
  const [near, far] = [value * Math.exp(-share), value * Math.exp(share)];
  return { value, planLow: Math.min(near, far), planHigh: Math.max(near, far), meterU, ...bounds };
}

/** What a step says besides where its probe is. */
interface Said {
  stage: StageId;
  what: string;
  title: string;
  places: readonly Place[];
  outside: string;
  about: readonly string[];
  grave?: boolean;
  tells?: Tells | undefined;
}

/** A reading that the network expects. `bounds`: what no reading may pass, whatever is planned; before the instrument's doubt. */
export function networkStep(
  maker: Maker,
  situation: Situation,
  probe: Probe,
  said: Said,
  bounds: { least?: number | undefined; most?: number | undefined } = {},
  choose?: (value: number) => InstrumentId,
): Step | null {
  const stand = maker.stand(situation);
  const expected = expectedAt(stand, probe);
  if (!expected) return null;
  const { value, planU } = expected;
  const quantity = probe.kind;
  const instrument = choose?.(value) ?? (quantity === "volts" ? maker.kit.volts : ammeter(maker.kit, value));
  const meterU = readingU(instrument, quantity, value) ?? 0;
  // What is switched off has no least.
  const isOff = bounds.least !== undefined && value < OFF_SHARE * bounds.least;
  const bounded = {
    floor: bounds.least === undefined || isOff ? undefined : bounds.least + meterU,
    ceiling: bounds.most === undefined ? undefined : bounds.most - meterU,
  };
  const plain = bandOf(value, planU, meterU, bounded, quantity === "amps");
  const { decide: missing, moves } = undecided(stand, probe, value);
  // What nobody knows of pulls one way only.
  const band = { ...plain, planLow: plain.planLow + Math.min(0, moves), planHigh: plain.planHigh + Math.max(0, moves) };
  const expect: Expect =
    stand.point.status !== "solved"
      ? { kind: "ask", missing: "The plan has no operating point here: its voltage collapses. Settle that first." }
      : quantity === "volts" && planU > BEYOND_ANY_V
        ? { kind: "ask", missing: "By the plan no metal holds this place: a meter may show anything. Give it a way back first." }
        : missing.length > 0 && !isBeyond(band)
          ? {
              kind: "ask",
              missing: `What ${missing.map((id) => maker.figures.partOf.get(id)?.name ?? id).join(", ")} draws is not known. Read it here: it becomes the plan's figure.`,
            }
          : bandExpect(band, quantity);
  return {
    id: `${said.stage}:${said.what}`,
    stage: said.stage,
    title: said.title,
    quantity,
    instrument,
    places: said.places,
    at: { kind: "network", situation, probe },
    expect,
    outside: said.outside,
    about: said.about,
    grave: said.grave ?? false,
    tells: said.tells ?? null,
    coarse:
      expect.kind === "band" && tooCoarse(band)
        ? `${INSTRUMENTS[instrument].name} reads this to ±${say(meterU, quantity === "volts" ? "voltage" : "current", "up")}: too coarse for what the plan leaves. Use a better one if you can.`
        : null,
  };
}

/** Volts no rail of a plan can have: a doubt beyond it is of a place that hangs in the air. */
const BEYOND_ANY_V = 120;

/** Share of the least volts below which a part is off by plan. */
const OFF_SHARE = 0.3;

/** Whether a plan itself expects what no reading may show. */
function isBeyond({ value, floor, ceiling }: Band): boolean {
  return (floor !== undefined && value < floor) || (ceiling !== undefined && value > ceiling);
}

/** What a band expects; a plan that itself expects what no reading may show has to be settled first. */
export function bandExpect(band: Band, quantity: "volts" | "amps" | "celsius"): Expect {
  if (!isBeyond(band)) return { kind: "band", band };
  const said = say(band.value, READ_DIMENSIONS[quantity]);
  return {
    kind: "ask",
    missing:
      band.floor !== undefined && band.value < band.floor
        ? `By the plan itself it gets ${said} here, and the part needs more. Settle that first.`
        : `By the plan itself it is ${said} here, more than may be. Settle that first.`,
  };
}

/** The most an instrument may show of what may be `most` in truth: its own doubt taken off. */
export function shownMost(instrument: InstrumentId, quantity: ReadQuantity, most: number): number {
  return most - (readingU(instrument, quantity, most) ?? 0);
}

/** A reading the network has no part in. */
export function plainStep(said: Said & { quantity: Step["quantity"]; instrument: InstrumentId; expect: Expect; at?: Observable }): Step {
  const { stage, what, title, places, outside, about, quantity, instrument, expect } = said;
  return {
    id: `${stage}:${what}`,
    stage,
    title,
    quantity,
    instrument,
    places,
    at: said.at ?? null,
    expect,
    outside,
    about,
    grave: said.grave ?? false,
    tells: said.tells ?? null,
    coarse: null,
  };
}

/** Something to look at or try. */
export function yesStep(said: Said & { at?: Observable }): Step {
  return plainStep({ ...said, quantity: "yes", instrument: "eyes", expect: { kind: "yes" } });
}

/** A wire as it is called, and what is written on it. */
export function wirePlace(figures: Figures, wire: Wire, what: Place["what"]): Place {
  return { what, at: wireName(figures, wire), label: wire.label };
}

/** Volts between a part's two terminals, as a probe. */
export function voltsAt(part: string, plus: string, minus: string): Probe & { kind: "volts" } {
  return { kind: "volts", red: { part, terminal: plus }, black: { part, terminal: minus } };
}

/** A step's id from its stage and probe. */
export function whatOf(probe: Probe, situation: Situation): string {
  return `${situation.id} ${probeKey(probe)}`;
}
