import { actingLimit } from "../drivers/channel";
import type { FaultWalk } from "../faults/walk";
import { wireWithstand } from "../faults/withstand";
import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import { fuseOpening, openingTime } from "../fuses/opening";
import { drawIn } from "../loads/draw";
import type { FuseRef, Load } from "../machine/schema";
import { FUSE_FAMILIES, gatesOf } from "../reference/fuses";
import { ADIABATIC_S } from "../wires/adiabatic";
import { airAround } from "../wires/ampacity";
import { overloadTime } from "../wires/overload";

/** A point of a time-current curve, A and s. */
export interface CurvePoint {
  amps: number;
  seconds: number;
}

/** A current that lasts, and what it means. */
export interface Mark {
  label: string;
  amps: number;
  /** How long it lasts, s; null: continuously. */
  seconds: number | null;
}

/** What the picture of a fuse shows, currents in A and times in s, for log scales. */
export interface FusePicture {
  fuse: FuseRef;
  name: string;
  /** Earliest and latest opening, straight between the gates: for the eye. */
  earliest: CurvePoint[];
  latest: CurvePoint[];
  /** The gates themselves: what verdicts are made with. */
  gates: { amps: number; minS: number | null; maxS: number | null }[];
  /** How long the wire behind it bears a current; null where its size or insulation is not known. */
  wire: CurvePoint[] | null;
  /** Modes, start and stall of what it feeds. */
  marks: Mark[];
  /** Weakest and strongest short at the far end, A; null while no walk is at hand. */
  short: { leastA: number; mostA: number; fastestS: number; slowestS: number } | null;
  motor: MotorAnswer[];
}

/** The question of a motor branch: does the fuse hold a start, and does it end a stall before the winding is hurt. */
export interface MotorAnswer {
  load: string;
  startA: number | null;
  startS: number | null;
  holdsStart: "yes" | "no" | "ask";
  stallA: number | null;
  /** When a sustained stall opens it, at the earliest and the latest, s; infinite: never. */
  stallOpens: { minS: number; maxS: number } | null;
  /** Until the winding is too hot, s; null: not known. */
  windingS: number | null;
  endsStall: "yes" | "no" | "ask";
}

/** The picture goes from a millisecond to some hours, s, in so many points. */
const LEAST_S = 1e-3;
const MOST_S = 1e4;
const POINTS = 60;

/** The picture of the fuse in a wire or of a fuse part. */
export function fusePicture(figures: Figures, walk: FaultWalk | null, of: { kind: "wire" | "part"; id: string }): FusePicture | null {
  const part = of.kind === "part" ? figures.partOf.get(of.id) : undefined;
  const wire = of.kind === "wire" ? figures.wireOf.get(of.id) : figures.machine.wires.find(({ from }) => from.part === of.id);
  const fuse = of.kind === "wire" ? wire?.fuse : part?.kind === "fuse" ? part.fuse : undefined;
  if (!fuse) return null;
  const gates = gatesOf(fuse.family, fuse.ratingA);
  const at = of.kind === "wire" ? wire : figures.ledger.rowOf.get(of.id)?.feed;
  const airC = airAround(at ?? {}, figures.machine.settings);
  const [from, to] = [fuse.ratingA, fuse.ratingA * 100];
  const sample = (pick: (m: number) => number): CurvePoint[] =>
    Array.from({ length: POINTS + 1 }, (_, k) => from * (to / from) ** (k / POINTS))
      .map((amps) => ({ amps, seconds: pick(amps / fuse.ratingA) }))
      .filter(({ seconds }) => Number.isFinite(seconds) && seconds > 0)
      .map(({ amps, seconds }) => ({ amps, seconds: Math.min(MOST_S, Math.max(LEAST_S, seconds)) }));
  const branch = figures.solved.circuit.branches.findIndex(
    ({ kind, id }) => kind === (of.kind === "wire" ? "wire" : "fuse") && id === of.id,
  );
  const place = of.kind === "wire" ? wire?.to.part : of.id;
  const results = (walk?.results ?? []).filter(
    (result) => result.bolted && result.opens?.id === of.id && result.place.split(".")[0] === place,
  );
  return {
    fuse,
    name: `${fuse.ratingA} A ${FUSE_FAMILIES[fuse.family].name}`,
    earliest: sample((m) => openingTime(gates, m, false).minS),
    latest: sample((m) => openingTime(gates, m, false).maxS),
    gates: gates.map(({ multiple, minS, maxS }) => ({ amps: multiple * fuse.ratingA, minS: minS > 0 ? minS : null, maxS })),
    wire: wire ? wireCurve(figures, wire.id, from, to) : null,
    marks: marksOf(figures, branch),
    short:
      results.length > 0
        ? {
            leastA: Math.min(...results.map(({ leastA }) => leastA)),
            mostA: Math.max(...results.map(({ mostA }) => mostA)),
            fastestS: Math.min(...results.map(({ opens }) => opens?.fastestS ?? 0)),
            slowestS: Math.max(...results.map(({ opens }) => opens?.slowestS ?? 0)),
          }
        : null,
    motor: motorsBehind(figures, place ?? "").map((load) => motorAnswer(figures, fuse, load, airC)),
  };
}

/** Overload time by the wire's time constants, and the adiabatic line below 5 s, whichever is longer: both are safe. */
function wireCurve(figures: Figures, wireId: string, from: number, to: number): CurvePoint[] | null {
  const wire = figures.wireOf.get(wireId);
  const ampacity = figures.wires[wireId]?.ampacity;
  if (!wire || !ampacity || ampacity.limitA <= 0) return null;
  const withstand = wireWithstand(wire, ampacity.maxC);
  if (withstand === null) return null;
  const preload = Math.min(0.99, (figures.wires[wireId]?.worstContinuous.amps ?? 0) / ampacity.limitA);
  return Array.from({ length: POINTS + 1 }, (_, k) => from * (to / from) ** (k / POINTS)).flatMap((amps) => {
    const slow = overloadTime(amps / ampacity.limitA, preload, ampacity.tauS, ampacity.tauCopperS);
    const short = Math.min(ADIABATIC_S, withstand / amps ** 2);
    const seconds = Math.max(slow, short);
    return Number.isFinite(seconds) ? [{ amps, seconds: Math.min(MOST_S, Math.max(LEAST_S, seconds)) }] : [];
  });
}

function marksOf(figures: Figures, branch: number): Mark[] {
  const { machine, solved } = figures;
  return machine.modes
    .map((mode, m) => ({
      label: mode.name,
      amps: Math.max(Math.abs(solved.planned[m]?.branchA[branch] ?? 0), Math.abs(solved.low[m]?.branchA[branch] ?? 0)),
      seconds: mode.lastsS,
    }))
    .filter(({ amps }) => amps > 1e-3);
}

/** Motors that hang on a place: itself, or on the channels of a driver there. */
function motorsBehind(figures: Build, partId: string): Load[] {
  return figures.machine.parts.filter(
    (part): part is Load =>
      part.kind === "load" &&
      part.levels?.stall !== undefined &&
      (part.id === partId || figures.solved.circuit.feeds.get(part.id)?.driver.id === partId),
  );
}

/** A start must be over in two thirds of the time after which the fuse may open (handbook section 3, condition b). */
const START_ROOM = 1.5;

function motorAnswer(figures: Build, fuse: FuseRef, load: Load, airC: number): MotorAnswer {
  const stall = load.levels?.stall?.value ?? null;
  const start = drawIn(load, { state: "start" });
  const driver = figures.solved.circuit.feeds.get(load.id)?.driver;
  const limit = (driver ? actingLimit(driver) : null) ?? null;
  // A fuse before a driver that limits by chopping sees much less than the motor.
  const ohm = stall === null ? 0 : load.nominalV.value / stall;
  const held = (amps: number | null) =>
    amps === null || limit === null || amps <= limit ? amps : busAtStallA(limit, ohm, load.nominalV.value, CHOPPER_SHARE);
  const startA = held(start.missing === null ? start.amps + start.siemens * load.nominalV.value : stall);
  const startS = load.motor?.startS?.value ?? null;
  const stallA = held(stall);
  const open = (amps: number) => fuseOpening(fuse, amps, airC, airC, true);
  const stallOpens = stallA === null ? null : open(stallA);
  const windingS = stallA === null ? null : windingTime(load, stallA);
  return {
    load: load.id,
    startA,
    startS,
    holdsStart: startA === null || startS === null ? "ask" : open(startA).minS >= START_ROOM * startS ? "yes" : "no",
    stallA,
    stallOpens,
    windingS,
    endsStall:
      stallOpens === null || windingS === null
        ? stallOpens && !Number.isFinite(stallOpens.maxS)
          ? "no"
          : "ask"
        : stallOpens.maxS <= windingS
          ? "yes"
          : "no",
  };
}

/** Share of what a chopping bridge takes that reaches the motor (handbook section 3: 0.9). */
const CHOPPER_SHARE = 0.9;

/** Bus current while a chopping driver holds `motorA` through a motor of `ohm` that stands still, A: I² R / (η V). */
export function busAtStallA(motorA: number, ohm: number, volts: number, efficiency: number): number {
  return (motorA ** 2 * ohm) / (efficiency * volts);
}

/** Rise of a winding at its rated current and what it may rise at all, K, where nothing else is known (class B, typical). */
const RISE_RATED_K = 70;
const RISE_MOST_K = 90;

/**
 * Until a winding is too hot at a held current, s: t = τ ln[(k²ΔT − θ₀)/(k²ΔT − θ_max)] from the warmth of its rated current
 * (handbook section 3). Null where its time constant is not known.
 */
export function windingTime(load: Load, amps: number): number | null {
  const tau = load.motor?.windingS?.value;
  const rated = load.levels?.run?.value;
  if (tau === undefined || rated === undefined || rated === 0) return null;
  return heatingS(tau, amps / rated, RISE_RATED_K, RISE_RATED_K, RISE_MOST_K);
}

/** First-order heating: `k` times the rated current, its rise there, where it starts and where it must not get, K. */
export function heatingS(tauS: number, k: number, riseK: number, startK: number, mostK: number): number {
  const ends = k * k * riseK;
  if (ends <= mostK) return Number.POSITIVE_INFINITY;
  return Math.max(0, tauS * Math.log((ends - startK) / (ends - mostK)));
}
