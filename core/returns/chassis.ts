import { followShort } from "../faults/clear";
import { FaultNetwork } from "../faults/network";
import { faultPlaces } from "../faults/places";
import { devicesOf, wireStates } from "../faults/walk";
import { perBuild } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { PartOf, Wire } from "../machine/schema";
import { isChassis } from "../machine/terminals";
import { nodeAt } from "../network/circuit";
import { buildTopology } from "../network/topology";
import { groundOf } from "./ground";

/** Current of a fault to the frame over the fuse's rating from which it clears (handbook grounding section 6; common practice). */
export const CLEARS_FROM = 5;
/** A resistor in the bond from which it only bleeds static, Ω. */
export const BLEED_OHM = 1e4;

/** A tool slipped from a plus to the frame. */
export interface Slip {
  place: string;
  part: string;
  /** Weakest and strongest current, A. */
  leastA: number;
  mostA: number;
  /** The fuse that is sure to open first, with its rating and by when; null: none. */
  opens: { kind: "wire" | "part"; id: string; ratingA: number; slowestS: number; amps: number } | null;
  /** Heat in the bonds, W, while it lasts. */
  bondW: number;
  /** How it ends. Posts: a source's own terminals, before any fuse. Held: its source's own limit holds the current. */
  ends: "posts" | "held" | "never" | "slow" | "clears";
}

/** A frame with what joins it to the return side and what flows there. */
export interface ChassisFigures {
  frame: PartOf<"bar">;
  /** Conductors that join the frame to the return side: bonds, and returns that land on it. */
  bonds: Wire[];
  landed: Wire[];
  /** Largest current in any of them, A, and the mode. */
  worst: { wire: string; amps: number; mode: number } | null;
  /** Only through a resistor that bleeds static. */
  bleeds: boolean;
}

type Frame = Omit<ChassisFigures, "worst">;

/** Each frame and what joins it, whatever flows there. */
export const framesOf = perBuild((build) =>
  build.machine.parts.flatMap((frame): (Frame & { on: readonly Wire[] })[] => {
    if (frame.kind !== "bar" || !isChassis(frame)) return [];
    const on = build.machine.wires.filter((wire) => wire.from.part === frame.id || wire.to.part === frame.id);
    const bonds = on.filter(({ role }) => role === "bond");
    const landed = on.filter(({ role }) => role !== "bond");
    const bleeds = on.length > 0 && landed.length === 0 && bonds.every((wire) => (wire.resistorOhm?.value ?? 0) >= BLEED_OHM);
    return [{ frame, on, bonds, landed, bleeds }];
  }),
);

/** Each frame of the plan with what joins it to the return side. */
export function chassisOf(figures: Figures): ChassisFigures[] {
  return framesOf(figures).map(({ on, ...frame }) => {
    let worst: ChassisFigures["worst"] = null;
    for (const wire of on) {
      const figure = figures.wires[wire.id];
      if (figure && figure.worst.amps > (worst?.amps ?? 0)) worst = { wire: wire.id, amps: figure.worst.amps, mode: figure.worst.mode };
    }
    return { ...frame, worst };
  });
}

/** A short from every plus to the frame: what flows, and what ends it. */
export function slips(figures: Figures, frame: PartOf<"bar">): Slip[] {
  const { solved, machine, ledger } = figures;
  const { circuit } = solved;
  const ground = groundOf(figures);
  const node = nodeAt(circuit, frame.id, "bar");
  const closed = "c".repeat(circuit.switches.length);
  const topology = buildTopology(circuit, closed);
  const least = new FaultNetwork(circuit, topology, "least");
  const most = new FaultNetwork(circuit, buildTopology(circuit, closed), "most");
  const devices = devicesOf(figures);
  const wires = wireStates(figures);
  const { ambientC, coldestC } = machine.settings;
  const coldC = Math.min(coldestC ?? ambientC, ambientC);
  const found: Slip[] = [];
  for (const place of faultPlaces(circuit, ledger)) {
    // Only where the frame belongs to the same return side does a circuit close.
    if (ground.piece[node] !== ground.piece[place.minus]) continue;
    const clearing = followShort(least, devices, wires, [place.plus, node], 0, ambientC, coldC);
    const strongest = most.short(place.plus, node, 0);
    if (!clearing) continue;
    const bondW = machine.wires.reduce((sum, wire, branch) => {
      const ohm = circuit.branches[branch]?.ohm ?? 0;
      return wire.role === "bond" ? sum + (clearing.flow.branchA[branch] ?? 0) ** 2 * ohm : sum;
    }, 0);
    const { first } = clearing;
    const opens = first && Number.isFinite(clearing.slowestS) ? first : null;
    const ends = place.posts
      ? "posts"
      : opens
        ? opens.amps >= CLEARS_FROM * opens.device.fuse.ratingA
          ? "clears"
          : "slow"
        : clearing.flow.held.length > 0
          ? "held"
          : "never";
    found.push({
      place: place.id,
      part: place.part,
      leastA: Math.abs(clearing.flow.faultA),
      mostA: Math.abs(strongest?.faultA ?? clearing.flow.faultA),
      opens: opens && {
        ...opens.device.subject,
        ratingA: opens.device.fuse.ratingA,
        slowestS: clearing.slowestS,
        amps: opens.amps,
      },
      bondW,
      ends,
    });
  }
  return found;
}
