import { type Build, closedMetal, perBuild } from "../../figures/build";
import type { BuiltLoad, BuiltMachine, Driver, Wire } from "../../machine/schema";
import { nodeAt } from "../../network/circuit";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Severity, Verdict } from "../types";

const speak = speaker({
  id: "lead-landing",
  title: "Motor lead on the wrong terminal",
  step: "loads",
  needs: "Trace the leads at the motor and say where each one lands.",
});

/**
 * Both leads of a motor belong on the two legs of one channel. One that ends on another channel, on a bar or on the driver's
 * own supply makes it move when nobody asks for it, or not at all: legs of an idle bridge lie low.
 */
export const leadLanding = rule({ speak, reads: "build", evaluate });

/** A leg of a driver's channel. */
interface Leg {
  driver: Driver;
  channel: number;
  side: "a" | "b";
}

/** What a load's terminal is joined to by plain metal. */
interface Place {
  legs: readonly Leg[];
  plus: boolean;
  minus: boolean;
}

/** For every node the legs and source terminals on its piece of metal. */
const placesOf = perBuild((build): ((node: number) => Place) => {
  const { circuit } = build.solved;
  const metal = closedMetal(build);
  const legs = new Map<number, Leg[]>();
  for (const part of build.machine.parts) {
    if (part.kind !== "driver") continue;
    for (let channel = 1; channel <= part.channels; channel++)
      for (const side of ["a", "b"] as const) {
        const piece = metal(nodeAt(circuit, part.id, `${channel}${side}`));
        legs.set(piece, [...(legs.get(piece) ?? []), { driver: part, channel, side }]);
      }
  }
  const plus = new Set(circuit.emfs.map(({ pos }) => metal(pos)));
  const minus = new Set(circuit.emfs.map(({ neg }) => metal(neg)));
  return (node) => ({ legs: legs.get(metal(node)) ?? [], plus: plus.has(metal(node)), minus: minus.has(metal(node)) });
});

function evaluate(build: Build): Verdict[] {
  return build.machine.parts.flatMap((part): Verdict[] => (part.kind === "load" ? judge(build, part) : []));
}

interface Finding {
  severity: Severity;
  what: string;
  does: string;
}

function judge(build: Build, load: BuiltLoad): Verdict[] {
  const at = placesOf(build);
  const { circuit } = build.solved;
  const [out, back] = [at(nodeAt(circuit, load.id, "+")), at(nodeAt(circuit, load.id, "-"))];
  // What hangs on no channel at all is fed straight from a rail, and what has no second lead has no way back: other rules.
  const leg = out.legs[0] ?? back.legs[0];
  if (!leg) return [];
  const found = circuit.feeds.get(load.id)?.swapped ? SWAPPED : findingOf(load, out, back);
  if (!found) return [];
  return [
    speak({
      part: load,
      severity: found.severity,
      also: [leg.driver.id],
      headline: `${load.name}: ${found.what}`,
      detail: `${found.does} Both leads belong on the two legs of one channel.`,
      remedies: landing(build.machine, load, leg),
    }),
  ];
}

const SWAPPED: Finding = {
  severity: "fix",
  what: "its leads are swapped on the channel",
  does: "It runs the other way than planned: into its end stop where it has one.",
};

const same = (a: Leg, b: Leg) => a.driver.id === b.driver.id && a.channel === b.channel;
const named = ({ driver, channel, side }: Leg) => `${driver.name} channel ${channel}${side}`;

function findingOf(load: BuiltLoad, out: Place, back: Place): Finding | null {
  const moves = load.loadKind === "heater" || load.loadKind === "light" ? "is on" : "moves";
  const [a, b] = [out.legs[0], back.legs[0]];
  if (a && b) {
    if (out.legs.some((leg) => back.legs.some((other) => same(leg, other) && leg.side === other.side)))
      return {
        severity: "fix",
        what: "both its leads sit on one leg",
        does: `Between ${named(a)} and itself there are no volts: it never ${moves}.`,
      };
    const [own, other] = pairOf(out.legs, back.legs);
    if (own && other) return own.side === "a" ? null : SWAPPED;
    return {
      severity: "stop",
      what: `its leads sit on two channels, ${named(a)} and ${named(b)}`,
      does: `It ${moves} whenever either of them is switched, whoever asked for what.`,
    };
  }
  const leg = a ?? b;
  const rest = a ? back : out;
  if (!leg) return null;
  if (rest.plus)
    return {
      severity: "stop",
      what: `it ${moves} as soon as power is on`,
      does: `One lead sits on ${named(leg)}, the other on the supply side: an idle bridge holds its legs low, so all of the supply stands across it.`,
    };
  if (rest.minus)
    return {
      severity: "fix",
      what: "one lead only sits on its channel, the other on minus",
      does: `${named(leg)} drives it one way at full volts and can neither turn nor brake it; what its driver limits does not hold.`,
    };
  return null;
}

/** Two legs of one channel, one on each side, if there are. */
function pairOf(out: readonly Leg[], back: readonly Leg[]): [Leg, Leg] | [null, null] {
  for (const a of out) for (const b of back) if (same(a, b) && a.side !== b.side) return [a, b];
  return [null, null];
}

/** Its own two leads, put on the legs of the channel that one of them is on already. */
function landing(machine: BuiltMachine, load: BuiltLoad, { driver, channel }: Leg): Remedy[] {
  const lead = (terminal: "+" | "-"): { wire: Wire; end: "from" | "to" } | null => {
    for (const wire of machine.wires)
      for (const end of ["from", "to"] as const) {
        const mine = wire[end];
        if (wire.role !== "signal" && wire.role !== "bond" && mine.part === load.id && mine.terminal === terminal)
          return { wire, end: end === "from" ? "to" : "from" };
      }
    return null;
  };
  const [plus, minus] = [lead("+"), lead("-")];
  if (!plus || !minus) return [];
  const move = ({ wire, end }: { wire: Wire; end: "from" | "to" }, side: "a" | "b") => ({
    type: "reland" as const,
    wireId: wire.id,
    end,
    at: { part: driver.id, terminal: `${channel}${side}` },
  });
  const label = `Land its leads on ${driver.name} channel ${channel}`;
  return [{ label, command: { type: "batch", label, commands: [move(plus, "a"), move(minus, "b")] } }];
}
