import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import { finish } from "../machine/finish";
import { groupBy } from "../machine/group";
import type { FuseRef } from "../machine/schema";
import { fuseOhm } from "../network/circuit";
import { buildTopology, openKey } from "../network/topology";
import { breakingAt, fuseRow } from "../reference/fuses";
import type { Overload } from "../reference/supplies";
import { type Clearing, type Device, followShort, type WireState } from "./clear";
import { FaultNetwork } from "./network";
import { type FaultPlace, faultPlaces, railMinus } from "./places";
import type { Selectivity } from "./selectivity";
import { runFate, type UnguardedRun, unguardedRuns } from "./unguarded";
import { rank, type WireFate } from "./withstand";

/** How bad a short is, worst first; the words are for people. */
export const DANGERS = ["burns", "breaks", "never", "unknown", "slow", "along", "posts", "held", "clears"] as const;
/** How bad what follows a short is. */
export type Danger = (typeof DANGERS)[number];

/** Resistance of a short that is not bolted where the plan says nothing, Ω (common practice, no source). */
export const FAULT_OHM = 0.05;
/** A short should be over within this, s (convention of IEC 60364-4-41). */
export const SLOW_S = 5;

/** What opens first after a short, and how long it may take. */
export interface Opens {
  kind: "wire" | "part";
  id: string;
  fuse: FuseRef;
  fastestS: number;
  slowestS: number;
  /** Current through it, and what it is sure to break at the volts there, A (null: only its own sheet tells). */
  amps: number;
  breaksA: number | null;
}

/** One short at one place in one state of the machine. */
export interface FaultResult {
  place: string;
  /** Indexes of the modes whose switches stand like this. */
  modes: number[];
  bolted: boolean;
  /** Current in the short, A: strongest and weakest. */
  mostA: number;
  leastA: number;
  opens: Opens | null;
  /** The source whose own limit ends or holds it. */
  held: { id: string; how: Overload | null } | null;
  /** A figure it hangs on is missing: a source's resistance or limit. */
  unknown: string[];
  wire: { id: string; amps: number; fate: WireFate } | null;
  along: { kind: "wire" | "part"; id: string; selectivity: Selectivity }[];
  danger: Danger;
}

/** A short at every place, in every state of the switches. */
export interface FaultWalk {
  places: FaultPlace[];
  results: FaultResult[];
  /** Largest current of a short at any place through each fuse, by "wire w3" or "part p4", A. */
  through: Record<string, number>;
  /** The same for a short right behind an inline fuse's holder, A. */
  behindHolder: Record<string, number>;
  /** Wire before a fuse, by the wire it is part of: what a short at its end does to it. */
  before: Record<string, UnguardedRun>;
}

/** The fuses of a machine by the branch they sit in. */
export function devicesOf(figures: Build): Device[] {
  const { machine, solved } = figures;
  const devices: Device[] = [];
  solved.circuit.branches.forEach((element, branch) => {
    if (element.kind === "wire") {
      const wire = machine.wires[branch];
      if (wire?.fuse) devices.push({ branch, fuse: wire.fuse, subject: { kind: "wire", id: wire.id } });
    } else if (element.kind === "fuse") {
      const part = figures.partOf.get(element.id);
      if (part?.kind === "fuse") devices.push({ branch, fuse: part.fuse, subject: { kind: "part", id: part.id } });
    }
  });
  return devices;
}

/** The wires of a machine with what a short may do to them. */
export function wireStates(figures: Figures): WireState[] {
  return figures.machine.wires.map((wire, branch) => {
    const figure = figures.wires[wire.id];
    const ampacity = figure?.ampacity ?? null;
    const limitA = ampacity?.limitA ?? 0;
    return { wire, branch, ampacity, preload: limitA > 0 ? (figure?.worstContinuous.amps ?? 0) / limitA : 1 };
  });
}

/** States of the switches that some mode has, with the modes of each. */
export function switchStates(figures: Figures): { key: string; modes: number[] }[] {
  const { circuit } = figures.solved;
  const modes = figures.machine.modes.map((mode, index) => ({ key: openKey(circuit, mode.id), index }));
  return [...groupBy(modes, ({ key }) => key)].map(([key, own]) => ({ key, modes: own.map(({ index }) => index) }));
}

/**
 * A bolted and a resistive short at every place in every state of the switches: what flows, what opens first and when, what
 * the wires on the way bear, what else opens. Yields after each state, for progress.
 */
export function* walkFaults(figures: Figures): Generator<{ done: number; of: number }, FaultWalk> {
  const { circuit } = figures.solved;
  const { settings } = figures.machine;
  const places = faultPlaces(circuit, figures.ledger);
  const devices = devicesOf(figures);
  const wires = wireStates(figures);
  const states = switchStates(figures);
  const hotC = settings.ambientC + (settings.boxRiseK ?? 0);
  const coldC = Math.min(settings.coldestC ?? settings.ambientC, settings.ambientC);
  const through: Record<string, number> = {};
  const behindHolder: Record<string, number> = {};
  const results: FaultResult[] = [];
  const passes = [0, settings.faultOhm ?? FAULT_OHM];
  const runs = unguardedRuns(figures);
  const before: Record<string, UnguardedRun> = {};
  let done = 0;
  for (const { key, modes } of states) {
    const topology = buildTopology(circuit, key);
    const found = new Map<string, { most: Clearing | null; least: Clearing | null; unknown: Set<string> }>();
    for (const strength of ["most", "least"] as const) {
      const network = new FaultNetwork(circuit, topology, strength);
      for (const run of runs) {
        const worse = runFate(network, devices, wires, run, strength, hotC, coldC);
        const known = before[run.wire.id];
        if (worse && (!known || rank(worse.fate) < rank(known.fate))) before[run.wire.id] = worse;
      }
      if (strength === "most") raiseBehindHolders(figures, network, devices, behindHolder);
      for (const place of places) {
        for (const ohm of passes) {
          const clearing = followShort(network, devices, wires, [place.plus, place.minus], ohm, hotC, coldC);
          const id = `${place.id} ${ohm}`;
          const own = found.get(id) ?? { most: null, least: null, unknown: new Set<string>() };
          own[strength] = clearing;
          found.set(id, own);
          if (!clearing) continue;
          network.sources.forEach(({ unknown }, i) => {
            if (unknown && (clearing.flow.emfA[i] as number) > 1e-3) own.unknown.add(circuit.emfs[i]?.id ?? "");
          });
          if (strength === "most" && ohm === 0)
            devices.forEach(({ subject }, i) => {
              const name = `${subject.kind} ${subject.id}`;
              through[name] = Math.max(through[name] ?? 0, clearing.deviceA[i] as number);
            });
        }
      }
    }
    for (const place of places) {
      for (const ohm of passes) {
        const own = found.get(`${place.id} ${ohm}`);
        if (own?.least && own.most) results.push(resultOf(figures, place, modes, ohm === 0, own.most, own.least, [...own.unknown]));
      }
    }
    done += modes.length;
    yield { done, of: figures.machine.modes.length };
  }
  const order = (result: FaultResult) => DANGERS.indexOf(result.danger);
  results.sort((a, b) => order(a) - order(b) || (b.opens?.slowestS ?? 0) - (a.opens?.slowestS ?? 0) || b.mostA - a.mostA);
  return { places, results, through, behindHolder, before };
}

/** The whole walk at once. */
export function faultWalk(figures: Figures): FaultWalk {
  return finish(walkFaults(figures));
}

function resultOf(
  figures: Build,
  place: FaultPlace,
  modes: number[],
  bolted: boolean,
  most: Clearing,
  least: Clearing,
  unknown: string[],
): FaultResult {
  const { circuit } = figures.solved;
  // The weakest short takes longest to clear, the strongest lets most through: the worse of the two counts.
  const worst = [...least.wires.slice(0, 1), ...most.wires.slice(0, 1)].sort((a, b) => rank(a.fate) - rank(b.fate))[0];
  const opens = least.first ?? null;
  const along = [...new Map([...most.along, ...least.along].map((each) => [each.device.branch, each])).values()].filter(
    ({ device }) => device.branch !== opens?.device.branch,
  );
  const heldBy = least.flow.held[0] ?? most.flow.held[0];
  const source = heldBy === undefined ? undefined : figures.partOf.get(circuit.emfs[heldBy]?.id ?? "");
  const result: FaultResult = {
    place: place.id,
    modes,
    bolted,
    mostA: Math.abs(most.flow.faultA),
    leastA: Math.abs(least.flow.faultA),
    opens: opens && {
      kind: opens.device.subject.kind,
      id: opens.device.subject.id,
      fuse: opens.device.fuse,
      fastestS: most.fastestS,
      slowestS: Math.max(least.slowestS, most.slowestS),
      amps: most.first?.amps ?? opens.amps,
      breaksA: breaking(opens.device.fuse, most.openV),
    },
    held: source ? { id: source.id, how: source.kind === "supply" ? (source.overload ?? null) : null } : null,
    unknown,
    wire: worst ? { id: worst.state.wire.id, amps: worst.amps, fate: worst.fate } : null,
    along: along.map(({ device, selectivity }) => ({ ...device.subject, selectivity })),
    danger: "clears",
  };
  return { ...result, danger: dangerOf(result, place) };
}

/** A short right behind an inline fuse meets nothing of the wire it sits in. */
function raiseBehindHolders(figures: Figures, network: FaultNetwork, devices: readonly Device[], most: Record<string, number>): void {
  const { circuit } = figures.solved;
  for (const { branch, fuse, subject } of devices) {
    const from = circuit.branches[branch]?.a ?? -1;
    const part = subject.kind === "wire" ? figures.partOf.get(figures.wireOf.get(subject.id)?.to.part ?? "") : undefined;
    const minus = part ? railMinus(circuit, figures.ledger, part) : -1;
    const flow = minus < 0 ? null : network.short(from, minus, fuseOhm(fuse));
    if (flow) most[subject.id] = Math.max(most[subject.id] ?? 0, Math.abs(flow.faultA));
  }
}

function breaking(fuse: FuseRef, volts: number): number | null {
  const row = fuseRow(fuse.family, fuse.ratingA);
  return row ? breakingAt(row, volts) : null;
}

/** Nothing is called cleared that hangs on an unknown figure. */
function dangerOf(result: FaultResult, place: FaultPlace): Danger {
  const fate = result.wire?.fate.fate;
  if (fate === "burns") return "burns";
  if (place.posts) return "posts";
  if (result.opens && result.opens.amps > (result.opens.breaksA ?? Number.POSITIVE_INFINITY)) return "breaks";
  const ends = Number.isFinite(result.opens?.slowestS ?? Number.POSITIVE_INFINITY);
  if (!ends && result.held === null) return "never";
  if (result.unknown.length > 0 || fate === "unknown") return "unknown";
  if (fate === "overheats") return "never";
  const slow = !ends || (result.opens?.slowestS ?? 0) > SLOW_S;
  // What a source's own limit holds is held whether or not a fuse would open one day: a larger fuse is not safer for it.
  if (slow && result.held !== null) return "held";
  if (slow && result.bolted) return "slow";
  return result.along.some(({ selectivity }) => selectivity === "no") ? "along" : "clears";
}
