import type { Figures } from "../figures/figures";
import type { Wire } from "../machine/schema";
import { ohmPerM20 } from "../network/circuit";
import { runResistance } from "../wires/resistance";
import { type Device, followShort, type WireState } from "./clear";
import type { FaultNetwork, Strength } from "./network";
import { railMinus } from "./places";
import { type WireFate, wireFate } from "./withstand";

/** What a short in a wire before its fuse does to it. */
export interface UnguardedRun {
  /** Conductor before the fuse, m. */
  runM: number;
  /** Current in it at first, A, and until when it flows, s; null: nothing ends it. */
  amps: number;
  seconds: number | null;
  fate: WireFate;
  /** What ends it first: a fuse further up. */
  opens: Device["subject"] | null;
  /** A source's own limit holds it. */
  held: boolean;
  /** A figure it hangs on is missing. */
  unknown: boolean;
}

/** A stretch of conductor between a node and a fuse: part of a wire with an inline fuse, or the lead to a fuse that is a part. */
export interface Stretch {
  wire: Wire;
  branch: number;
  runM: number;
  /** The node it begins at, and the minus beside it. */
  from: number;
  minus: number;
}

/** Every stretch of supply wire that lies before a fuse: in line away from the start, or the lead to a first fuse. */
export function unguardedRuns(figures: Figures): Stretch[] {
  const { circuit } = figures.solved;
  return figures.machine.wires.flatMap((wire, branch): Stretch[] => {
    const part = figures.partOf.get(wire.to.part);
    if (wire.role !== "supply" || !part) return [];
    const lead = !wire.fuse && part.kind === "fuse" && figures.wires[wire.id]?.exposure?.unfused;
    const runM = wire.fuse ? (wire.fuse.atM ?? 0) : lead ? lead.runM : 0;
    const minus = railMinus(circuit, figures.ledger, part);
    return runM > 0 && minus >= 0 ? [{ wire, branch, runM, from: circuit.branches[branch]?.a ?? -1, minus }] : [];
  });
}

/** A bolted short at the end of a stretch; null where it closes no live circuit. */
export function runFate(
  network: FaultNetwork,
  devices: readonly Device[],
  wires: readonly WireState[],
  { wire, branch, runM, from, minus }: Stretch,
  strength: Strength,
  hotC: number,
  coldC: number,
): UnguardedRun | null {
  const { settings } = network.circuit.machine;
  const state = wires[branch];
  const celsius = strength === "most" ? 20 : Math.max(settings.conductorC, settings.ambientC);
  const ownM = Math.min(runM, wire.lengthM?.value ?? runM);
  const ohm = runResistance(ohmPerM20(wire) * 1000, ownM, celsius, settings.jointOhm, wire.parallel);
  const others = devices.filter((device) => device.branch !== branch);
  const clearing = followShort(network, others, wires, [from, minus], ohm, hotC, coldC);
  if (!clearing || !state) return null;
  const amps = Math.abs(clearing.flow.faultA);
  return {
    runM,
    amps,
    seconds: Number.isFinite(clearing.slowestS) ? clearing.slowestS : null,
    fate: wireFate(wire, state.ampacity, amps, clearing.slowestS, state.preload),
    opens: clearing.first?.device.subject ?? null,
    held: clearing.flow.held.length > 0,
    unknown: network.sources.some(({ unknown }, i) => unknown && (clearing.flow.emfA[i] as number) > 1e-3),
  };
}
