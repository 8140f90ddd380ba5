import { bankJ, needsPrecharge, PULSE_ROOM, prechargeOhm, prechargeS, USUAL_S } from "../connectors/precharge";
import { smallestFuse } from "../fuses/pick";
import { guess, typical } from "../machine/figure";
import type { FuseRef, Settings, Switch, TerminalRef } from "../machine/schema";
import { nominalOf } from "../machine/tree";
import { chemistryOf } from "../reference/chemistries";
import { contactFor } from "../sizing/ratings";
import { mustStop } from "../verdicts/feeds/stop-circuit";
import { at, type Builder } from "./builder";
import { askOf, type Listed, moves, sideOf } from "./demand";
import { namedConverter, proposedConverter } from "./make-converter";
import { INPUT_F_PER_A, type RailVolts } from "./make-driver";
import { packFigures, supplyFigures } from "./make-source";
import type { ConverterReading } from "./reading";
import { leaveOut, listedLoads, NO_SOURCE, type Sorted } from "./sorted";

/** A place that loads of some volts hang on: where they take their plus, and where their minus lands. */
export interface RailPlace extends RailVolts {
  readonly volts: number;
  /** What may hang there. */
  readonly side: "power" | "logic" | "both";
  /** Behind the emergency stop, where there is one, and before it. */
  readonly moving: TerminalRef;
  readonly steady: TerminalRef;
  readonly back: TerminalRef;
  readonly logicBack: TerminalRef;
}

/** The sources of a plan, its rails, and the loads that are to hang on them. */
export interface Sourced {
  readonly rails: RailPlace[];
  readonly loads: readonly Listed[];
  /** Contacts that the emergency stop opens. */
  readonly stops: readonly string[];
}

/** Takers from which on a source gets a bar: two lugs fit on one screw, three do not (common practice). */
const BAR_FROM = 3;
/** Power from which on what moves hurts: a stop cuts it, W (common practice, no source). */
const HURTS_W = 40;

/** Largest main fuse that is looked for, A. */
const MAIN_FUSE_MOST_A = 500;

/** A main fuse to start sizing from: as told where it is made in that rating, else the smallest that carries what runs. */
function mainFuse(toldA: number | null, runA: number, highV: number): FuseRef {
  const strip = highV > 30 || runA > 20 ? "strip_m5_58v" : null;
  const found =
    smallestFuse(toldA ?? runA * 1.35, MAIN_FUSE_MOST_A, highV, strip) ?? smallestFuse(toldA ?? runA * 1.35, MAIN_FUSE_MOST_A, highV, null);
  return found ?? { family: "strip_m8_32v", ratingA: 200 };
}

/** A precharge around a contact for the capacitors that drivers of so many amps have. Small ones need none. */
function prechargeFor(amps: number, highV: number): Partial<Switch> {
  const farads = amps * INPUT_F_PER_A * 1.5;
  if (!needsPrecharge(farads, highV)) return {};
  const ohm = Math.min(prechargeOhm(USUAL_S, farads), highV / 5);
  const round = (value: number) => Number(value.toPrecision(2));
  return {
    prechargeOhm: guess(round(ohm)),
    prechargeS: guess(Math.max(0.5, round(prechargeS(ohm, farads) * 1.5))),
    prechargeJ: guess(Math.ceil(bankJ(farads, highV) * PULSE_ROOM * 1.5)),
  };
}

const sum = (values: readonly number[]) => values.reduce((total, each) => total + each, 0);

/** Rails that sources of the list give, V. */
function namedRails({ packs, supplies }: Sorted): number[] {
  return [
    ...packs.filter(({ forLogic }) => !forLogic).flatMap((pack) => (voltsOf(pack) === null ? [] : [voltsOf(pack) as number])),
    ...supplies.flatMap(({ make, outputs }) => (make === "charger" ? [] : outputs.map(({ volts }) => volts.value))),
  ];
}

/** Nominal volts of a pack's line. */
export function voltsOf(pack: Sorted["packs"][number]): number | null {
  if (pack.volts) return pack.volts.value;
  return pack.series === null ? null : pack.series * chemistryOf(pack.chemistry ?? "lipo").nominalV;
}

/** Makes every source of the list with what stands before its loads, and a converter for each rail no source has. */
export function makeSources(builder: Builder, said: Sorted): Sourced {
  const named = namedRails(said);
  const mainV = named.length > 0 ? Math.max(...named) : null;
  const loads = listedLoads(said, named, mainV);
  const { settings } = builder.machine;
  const { schools, coldestC } = settings;
  const rails: RailPlace[] = [];
  const unsteady: { readonly from: RailPlace; readonly loads: readonly Listed[] }[] = [];
  const stops: string[] = [];
  const stopSaid = said.parts.some(({ is }) => is === "stop");
  // One contact makes the machine one that is stopped by contacts: then each rail with something that moves has one.
  const stopped = stopSaid || hurtsSomewhere(loads);
  const nominals = new Set(named.map(nominalOf));
  const onMain = loads.filter(({ volts }) => !nominals.has(volts));
  // What no source gives hangs behind converters of the strongest one.
  const strongest = mainRail(said);
  for (const pack of said.packs) {
    const volts = voltsOf(pack);
    if (volts === null) continue;
    const own = pack.forLogic ? [] : loads.filter((each) => each.volts === nominalOf(volts));
    const through =
      pack === strongest || (pack.forLogic && schools.logicSupply === "own pack")
        ? onMain.filter(({ reading }) => !pack.forLogic || sideOf(reading.kind) === "logic")
        : [];
    const watts = sum([...own, ...through].map((each) => askOf([each]).continuousA * each.volts));
    const figures = packFigures(pack, watts / volts, coldestC ?? 25);
    if (!figures) continue;
    const id = builder.add("pack", pack.name, { ...figures, ...(pack.unjoined === null ? {} : { assumed: ["joined" as const] }) });
    const window = { lowV: figures.lowV?.value ?? volts * 0.85, highV: figures.fullV?.value ?? volts * 1.2 };
    // One whose own window the pack leaves needs a converter to the same volts; what else thinks there comes along.
    const steadied = own.some((each) => leaves(window, each)) ? own.filter(({ reading }) => sideOf(reading.kind) === "logic") : [];
    const rail = behind(
      builder,
      { source: id, fuse: true, volts: nominalOf(volts), ...window },
      own.filter((each) => !steadied.includes(each)),
      [...through, ...steadied],
      { said, stops, stopSaid, stopped, settings },
    );
    rails.push(rail);
    if (steadied.length > 0) unsteady.push({ from: rail, loads: steadied });
  }
  for (const supply of said.supplies) {
    let box: string | undefined;
    for (const output of supply.outputs) {
      const volts = output.volts.value;
      const own = loads.filter((each) => each.volts === nominalOf(volts));
      const through = supply === strongest && volts === Math.max(...supply.outputs.map((each) => each.volts.value)) ? onMain : [];
      const id = builder.add("supply", supply.outputs.length > 1 ? `${supply.name} ${volts} V` : supply.name, {
        ...supplyFigures(supply, output),
        ...(box === undefined ? {} : { box }),
      });
      box ??= id;
      if (supply.make === "charger") continue;
      rails.push(
        behind(builder, { source: id, fuse: false, volts: nominalOf(volts), lowV: volts * 0.97, highV: volts }, own, through, {
          said,
          stops,
          stopSaid,
          stopped,
          settings,
        }),
      );
    }
  }
  makeConverters(builder, said, rails, onMain, settings);
  for (const { from, loads: steadied } of unsteady)
    addConverter(builder, rails, from, { volts: from.volts, side: "logic", loads: steadied, reading: undefined });
  return { rails, loads, stops };
}

/** Whether a rail leaves the window that is told of a board. */
export function leaves({ lowV, highV }: RailVolts, { reading: { volts, kind } }: Listed): boolean {
  return sideOf(kind) === "logic" && volts?.low !== undefined && (lowV < volts.low || highV > volts.value);
}

/** The source that gives most: packs and supplies by volts, the first of the highest. */
export function mainRail({ packs, supplies }: Sorted): Sorted["packs"][number] | Sorted["supplies"][number] | null {
  const all = [
    ...packs.filter(({ forLogic }) => !forLogic).map((source) => ({ source, volts: voltsOf(source) ?? 0 })),
    ...supplies
      .filter(({ make }) => make !== "charger")
      .map((source) => ({ source, volts: Math.max(0, ...source.outputs.map(({ volts }) => volts.value)) })),
  ];
  const [best] = all.sort((a, b) => b.volts - a.volts);
  return best?.source ?? null;
}

/** What is around a source: the list, the contacts a stop opens so far, whether one was told, the machine's schools. */
interface Around {
  readonly said: Sorted;
  readonly stops: string[];
  readonly stopSaid: boolean;
  /** Whether contacts stop what moves. */
  readonly stopped: boolean;
  readonly settings: Settings;
}

const onPower = ({ reading }: Listed) => sideOf(reading.kind) === "power";

/** Whether something moves with enough power to hurt: on one rail together, or all that must not move. */
function hurtsSomewhere(loads: readonly Listed[]): boolean {
  const watts = (listed: readonly Listed[]) => sum(listed.map((each) => askOf([each]).continuousA * each.volts));
  const movers = loads.filter(({ reading }) => moves(reading.kind));
  const rails = new Set(movers.map(({ volts }) => volts));
  return (
    [...rails].some((volts) => watts(movers.filter((each) => each.volts === volts)) >= HURTS_W) ||
    watts(movers.filter(({ reading }) => mustStop(reading.kind))) >= HURTS_W
  );
}

interface SourceEnd extends RailVolts {
  source: string;
  fuse: boolean;
  volts: number;
}

/** What stands between a source and its loads: main fuse at the plus, main switch, stop contact, bars of both sides. */
function behind(
  builder: Builder,
  end: SourceEnd,
  own: readonly Listed[],
  through: readonly Listed[],
  { said, stops, stopSaid, stopped, settings }: Around,
): RailPlace {
  const { source, volts, lowV, highV } = end;
  const ask = askOf(own);
  const thru = sum(through.map((each) => askOf([each]).continuousA * each.volts)) / Math.max(1, lowV) / 0.85;
  const runA = ask.continuousA + thru;
  const peakA = Math.max(ask.peakA, runA) + thru;
  const moving = own.filter(({ reading }) => moves(reading.kind));
  const beyond = through.filter((each) =>
    through.some((other) => mustStop(other.reading.kind) && other.volts === each.volts && onPower(each)),
  );
  const here = (amps: "continuousA" | "peakA") =>
    askOf(moving)[amps] + sum(beyond.map((each) => askOf([each])[amps] * each.volts)) / Math.max(1, lowV) / 0.85;
  const movingA = { continuousA: here("continuousA"), peakA: here("peakA") };
  const hurts = stopped && (moving.length > 0 || beyond.length > 0);
  const cut = hurts && settings.schools.stop !== "disables drives";
  const takers = own.length + new Set(through.map((each) => each.volts)).size;
  const bared = takers >= BAR_FROM || own.reduce((n, { reading }) => n + reading.count, 0) >= BAR_FROM || cut;
  let plus = at(source, "+");
  if (end.fuse) {
    const told = said.parts.find(({ is, of }) => is === "fuse" && of === null)?.amps;
    const fuse = builder.add(
      "fuse",
      "Main fuse",
      { fuse: mainFuse(told?.value ?? null, runA, highV) },
      { from: plus, lengthM: guess(0.15) },
    );
    plus = at(fuse, "out");
    const breaker = contactFor(Math.max(runA, peakA / 2));
    const main = builder.add(
      "switch",
      said.parts.find(({ is }) => is === "switch")?.name ?? "Main switch",
      {
        device: "isolator",
        ratedA: guess(breaker),
        breakA: guess(Math.max(breaker, Math.ceil(peakA))),
        breakV: guess(Math.ceil(highV * 1.1)),
        peakA: guess(Math.ceil(Math.max(breaker, peakA) * 1.2)),
        peakS: guess(10),
        contactOhm: typical(3e-4),
        makeA: guess(Math.ceil(Math.max(breaker, peakA) * 4)),
      },
      { from: plus, lengthM: builder.length("source") },
    );
    plus = at(main, "out");
  }
  const minus = at(source, "-");
  let steady = plus;
  if (bared || cut)
    steady = at(
      builder.add(
        "bar",
        `Bar P ${volts} V`,
        { ratedA: guess(contactFor(Math.max(runA, peakA / 2))) },
        { from: plus, lengthM: builder.length("bar") },
      ),
    );
  let behindStop = steady;
  if (cut) {
    const rated = contactFor(Math.max(movingA.continuousA, movingA.peakA / 2));
    const stop = builder.add(
      "switch",
      "Emergency stop contact",
      {
        device: "contactor",
        ratedA: guess(rated),
        peakA: guess(Math.ceil(Math.max(rated, movingA.peakA) * 1.2)),
        peakS: guess(10),
        breakA: guess(Math.ceil(Math.max(rated, movingA.peakA) * 1.1)),
        breakV: guess(Math.ceil(highV * 1.25)),
        makeA: guess(Math.ceil(Math.max(rated, movingA.peakA) * 4)),
        ...(stopSaid ? {} : { assumed: ["stop" as const] }),
        clamp: "clamp",
        contactOhm: typical(3e-4),
        ...prechargeFor(movingA.continuousA, highV),
        stop: { devices: 1, normallyClosed: true, deliberateReset: true },
      },
      { from: steady, lengthM: builder.length("bar") },
    );
    stops.push(stop);
    behindStop = at(
      builder.add(
        "bar",
        `Bar M ${volts} V`,
        { note: "what moves, behind the emergency stop", ratedA: guess(contactFor(Math.max(movingA.continuousA, movingA.peakA / 2))) },
        { from: at(stop, "out"), lengthM: builder.length("bar") },
      ),
    );
  }
  if (!bared) return { volts, lowV, highV, side: "both", moving: behindStop, steady, back: minus, logicBack: minus };
  const back = at(
    builder.add(
      "bar",
      `Bar N ${volts} V`,
      { side: "negative", assumed: ["landing"], ratedA: guess(contactFor(Math.max(runA, peakA / 2))) },
      { back: minus, lengthM: builder.length("bar") },
    ),
  );
  // Motors and logic apart: what thinks comes home on a bar of its own, which meets the other at the source.
  const thinks = [...own, ...through].some(({ reading }) => sideOf(reading.kind) === "logic");
  const apart = thinks && moving.length > 0 && settings.schools.returns === "joined at one point";
  const logicBack = apart
    ? at(
        builder.add(
          "bar",
          `Bar L ${volts} V`,
          { side: "negative", carries: "logic", assumed: ["landing"], ratedA: guess(contactFor(Math.max(1, thru))) },
          { back: minus, lengthM: builder.length("bar") },
        ),
      )
    : back;
  if (apart) builder.do({ type: "updatePart", id: back.part, changes: { carries: "power" } });
  return { volts, lowV, highV, side: "both", moving: behindStop, steady, back, logicBack };
}

/** A converter for each rail and side that no source gives; named ones first. */
function makeConverters(builder: Builder, said: Sorted, rails: RailPlace[], onMain: readonly Listed[], settings: Settings): void {
  const unused: ConverterReading[] = said.converters.flatMap((each) => Array.from({ length: Math.min(each.count, 20) }, () => each));
  const wanted = new Map<string, Listed[]>();
  for (const each of onMain) {
    const key = `${each.volts} ${sideOf(each.reading.kind)}`;
    wanted.set(key, [...(wanted.get(key) ?? []), each]);
  }
  const sources = [...rails];
  for (const [key, loads] of [...wanted].sort(([a], [b]) => Number.parseFloat(b) - Number.parseFloat(a))) {
    const side = key.endsWith("logic") ? "logic" : "power";
    const volts = loads[0]?.volts ?? 0;
    const named = unused.findIndex((each) => each.outputV !== null && nominalOf(each.outputV.value) === volts);
    const reading = named >= 0 ? unused.splice(named, 1)[0] : undefined;
    const from = fedFrom(sources, reading, settings, side);
    if (!from) continue;
    addConverter(builder, rails, from, { volts, side, loads, reading });
  }
  spareConverters(builder, said, rails, sources, unused);
}

/** What the list names and no load asks for is planned all the same. */
export function spareConverters(
  builder: Builder,
  said: Sorted,
  rails: RailPlace[],
  sources: readonly RailPlace[],
  unused: readonly ConverterReading[],
): void {
  for (const reading of unused) {
    const volts = reading.outputV?.value;
    const from = volts === undefined ? undefined : fedFrom(sources, reading, builder.machine.settings, "logic");
    if (volts === undefined) leaveOut(said, reading, "How many volts does it give? Write them.");
    else if (!from) leaveOut(said, reading, NO_SOURCE);
    else addConverter(builder, rails, from, { volts: nominalOf(volts), side: "both", loads: [], reading });
  }
}

/** The rail a converter hangs on: that of the volts it is said to take, else the strongest source. */
function fedFrom(
  sources: readonly RailPlace[],
  reading: ConverterReading | undefined,
  settings: Settings,
  side: "power" | "logic",
): RailPlace | undefined {
  const told = reading?.inputV ? nominalOf(reading.inputV.value) : null;
  const own = settings.schools.logicSupply === "own pack" && side === "logic" ? sources.find(({ side: of }) => of === "logic") : undefined;
  return sources.find(({ volts }) => volts === told) ?? own ?? [...sources].sort((a, b) => b.volts - a.volts)[0];
}

/** Adds a converter with its block and bar, and the rail it makes. */
export function addConverter(
  builder: Builder,
  rails: RailPlace[],
  from: RailPlace,
  {
    volts,
    side,
    loads,
    reading,
  }: { volts: number; side: RailPlace["side"]; loads: readonly Listed[]; reading: ConverterReading | undefined },
): void {
  const real = loads[0]?.reading.volts?.low === undefined ? (loads[0]?.load.nominalV?.value ?? reading?.outputV?.value ?? volts) : volts;
  const ask = { volts: real, ...askOf(loads) };
  const figures = reading ? namedConverter(reading, real, from) : proposedConverter(ask, from);
  const name =
    reading && reading.name !== "Converter"
      ? reading.name
      : `${figures.topology === "boost" ? "Boost" : "Converter"} ${real} V${side === "power" ? "" : " logic"}`;
  const id = builder.add("converter", name, figures, {
    from: side === "power" && loads.some(({ reading: { kind } }) => mustStop(kind)) ? from.moving : from.steady,
    back: side === "power" ? from.back : from.logicBack,
    lengthM: builder.length("converter"),
  });
  const out = at(id, "out+");
  const home = at(id, "out-");
  const pieces = loads.reduce((n, { reading: { kind, count } }) => n + (sideOf(kind) === "logic" ? count : 1), 0);
  const base = { volts, side, lowV: real * 0.97, highV: real * 1.02 };
  if (pieces < BAR_FROM) {
    rails.push({ ...base, moving: out, steady: out, back: home, logicBack: home });
    return;
  }
  const plus = at(
    builder.add(
      "bar",
      `Block ${real} V`,
      { form: "fuse block", ratedA: guess(contactFor(Math.max(ask.continuousA, ask.peakA / 2))) },
      { from: out, lengthM: guess(0.1) },
    ),
  );
  const minus = at(
    builder.add(
      "bar",
      `Bar N ${real} V`,
      { side: "negative", ratedA: guess(contactFor(Math.max(ask.continuousA, ask.peakA / 2))) },
      { back: home, lengthM: guess(0.1) },
    ),
  );
  rails.push({ ...base, moving: plus, steady: plus, back: minus, logicBack: minus });
}
