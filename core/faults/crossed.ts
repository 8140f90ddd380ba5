import { type Build, closedMetal } from "../figures/build";
import type { Figures } from "../figures/figures";
import { fuseOpening } from "../fuses/opening";
import type { Part } from "../machine/schema";
import { isConsumer } from "../machine/terminals";
import { type Rail, railOrigin } from "../machine/tree";
import { nodeAt } from "../network/circuit";
import { buildTopology } from "../network/topology";
import { FaultNetwork } from "./network";
import { devicesOf, type FaultWalk } from "./walk";

/** Two rails joined by a crossed wire or a plug in the wrong hole. */
export interface JoinedRails {
  high: Rail;
  low: Rail;
  /** Volts the lower rail's parts then see, at most. */
  volts: number;
  /** Parts of the lower rail that this is too much for, and those whose most nobody told of. */
  killed: string[];
  unsaid: string[];
  /** Current from one into the other where the lower one is a battery, A; 0 where it only rises. */
  amps: number;
  /** What opens, and by when; null: nothing does. */
  opens: { kind: "wire" | "part"; id: string; slowestS: number } | null;
}

/** Plus and minus swapped at one part. */
export interface Reversed {
  part: string;
  /** It is said to bear it. */
  safe: boolean;
  /** As a short through what is in its input: current, what opens, by when. */
  amps: number;
  opens: { kind: "wire" | "part"; id: string; slowestS: number } | null;
}

/** What becomes of rails that are joined by mistake, and of a polarity that is swapped. */
export interface Crossed {
  joined: JoinedRails[];
  reversed: Reversed[];
}

/** The crossed-wire faults builders really make: every two rails that share a minus joined, and every part the wrong way round. */
export function crossedFaults(figures: Figures, walk: FaultWalk): Crossed {
  return { joined: joinedRails(figures), reversed: reversedParts(figures, walk) };
}

function highest(figures: Build, origin: string, fallback: number): number {
  const source = figures.partOf.get(origin);
  return source?.kind === "pack" ? (source.fullV?.value ?? source.openCircuitV.value) : fallback;
}

/** The most a part's input bears, V; null where nobody told. */
function bears(part: Part): number | null {
  return "inputMaxV" in part && part.inputMaxV ? part.inputMaxV.value : null;
}

function joinedRails(figures: Figures): JoinedRails[] {
  const { circuit } = figures.solved;
  const { rails } = figures.ledger;
  const metal = closedMetal(figures);
  const minusOf = (rail: Rail) => {
    const part = figures.partOf.get(rail.origin);
    return part ? nodeAt(circuit, part.id, part.kind === "converter" ? "out-" : part.kind === "driver" ? "in-" : "-") : -1;
  };
  const plusOf = (rail: Rail) => {
    const part = figures.partOf.get(rail.origin);
    return part
      ? nodeAt(circuit, part.id, part.kind === "converter" ? "out+" : part.kind === "driver" || part.kind === "load" ? "5v" : "+")
      : -1;
  };
  const network = new FaultNetwork(circuit, buildTopology(circuit, "c".repeat(circuit.switches.length)), "most");
  const devices = devicesOf(figures);
  const { ambientC, coldestC } = figures.machine.settings;
  const coldC = Math.min(coldestC ?? ambientC, ambientC);
  const found: JoinedRails[] = [];
  rails.forEach((a, i) => {
    for (const b of rails.slice(i + 1)) {
      const [high, low] = a.volts >= b.volts ? [a, b] : [b, a];
      const [hm, lm] = [minusOf(high), minusOf(low)];
      // Without a common minus there is no circuit through both.
      if (hm < 0 || lm < 0 || metal(hm) !== metal(lm) || high.volts === low.volts) continue;
      const volts = highest(figures, high.origin, high.volts);
      const on = figures.machine.parts.filter(
        (part) => isConsumer(part) && railOrigin(figures.ledger, part.id) === low.origin && part.id !== low.origin,
      );
      const sink = figures.partOf.get(low.origin)?.kind === "pack";
      const flow = sink ? network.short(plusOf(high), plusOf(low), 0) : null;
      let opens: JoinedRails["opens"] = null;
      devices.forEach(({ branch, fuse, subject }) => {
        const { maxS } = fuseOpening(fuse, Math.abs(flow?.branchA[branch] ?? 0), ambientC, coldC, true);
        if (flow && Number.isFinite(maxS) && maxS < (opens?.slowestS ?? Number.POSITIVE_INFINITY)) opens = { ...subject, slowestS: maxS };
      });
      found.push({
        high,
        low,
        volts,
        killed: on.filter((part) => (bears(part) ?? Number.POSITIVE_INFINITY) < volts).map(({ id }) => id),
        unsaid: on.filter((part) => bears(part) === null).map(({ id }) => id),
        amps: Math.abs(flow?.faultA ?? 0),
        opens,
      });
    }
  });
  return found.sort((a, b) => b.killed.length - a.killed.length || b.volts - b.low.volts - (a.volts - a.low.volts));
}

/** What sits in a part's input conducts the wrong way round almost like a short. */
function reversedParts(figures: Build, walk: FaultWalk): Reversed[] {
  const found: Reversed[] = [];
  for (const part of figures.machine.parts) {
    if (!isConsumer(part) || figures.solved.circuit.feeds.has(part.id)) continue;
    const place = part.kind === "converter" ? `${part.id}.in+` : part.id;
    const shorts = walk.results.filter((result) => result.bolted && result.place === place);
    const [worst] = [...shorts].sort(
      (a, b) => (b.opens?.slowestS ?? Number.POSITIVE_INFINITY) - (a.opens?.slowestS ?? Number.POSITIVE_INFINITY),
    );
    if (!worst) continue;
    found.push({
      part: part.id,
      safe: part.reverseSafe === true,
      amps: worst.mostA,
      opens:
        worst.opens && Number.isFinite(worst.opens.slowestS)
          ? { kind: worst.opens.kind, id: worst.opens.id, slowestS: worst.opens.slowestS }
          : null,
    });
  }
  return found.sort((a, b) => Number(a.safe) - Number(b.safe) || Number(a.opens !== null) - Number(b.opens !== null) || b.amps - a.amps);
}
