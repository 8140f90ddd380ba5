import type { Figures } from "../figures/figures";
import { fuseSites } from "../figures/fuse-sites";
import { wireName } from "../figures/names";
import { railVolts } from "../figures/rails";
import { groupBy } from "../machine/group";
import type { Wire } from "../machine/schema";
import { isConsumer, terminalName } from "../machine/terminals";
import { type Rail, railOrigin } from "../machine/tree";
import { type Branch, type Circuit, nodeAt } from "../network/circuit";
import { capital, say } from "../quantity/format";
import { ratingsOf } from "../reference/fuses";
import { isPluggedIn } from "./built";
import { FAULT_LINK } from "./ohms";
import { moves } from "./situation";
import { feedTerminals } from "./stages/powered";
import { railEnds } from "./stages/rails";

/** What goes wrong once when a machine is built. `size` is what is not known of it: Ω of a joint, the factor of a regulator's volts. */
export type FaultKind =
  | "open joint"
  | "bad joint"
  | "short"
  | "rails joined"
  | "reversed"
  | "swapped wires"
  | "wrong fuse"
  | "blown fuse"
  | "regulator"
  | "motor reversed";

/** One single fault. */
export interface SingleFault {
  readonly id: string;
  readonly kind: FaultKind;
  /** What it is, where. */
  readonly words: string;
  /** What to look at to be sure. */
  readonly look: string;
  /** How likely before anything was read, against others. */
  readonly weight: number;
  /** What a network with it is, at one of its sizes. Null: no meter on the network sees it, only an eye. */
  readonly change: ((circuit: Circuit, size: number) => Circuit) | null;
  /** Sizes to try; a single one where there is nothing to size. */
  readonly sizes: readonly number[];
  /** Whether sizes between two tried ones are as good. */
  readonly sized: boolean;
  /** Joins other nodes than planned: the network has to be ordered anew. */
  readonly rewires: boolean;
  /** The size in words, for one that was found; empty where there is none. */
  readonly sizeWords: (size: number) => string;
  /** What eyes see: by the step's subject. */
  readonly eyes: { readonly fuse?: string; readonly turns?: string };
}

/** What an open end has, Ω. */
const OPEN_OHM = 1e12;
/** What a short has, Ω: a strand of wire, not a bolt. */
const SHORT_OHM = 0.02;
/** The input of a part the wrong way round conducts by the diodes in its switches, Ω. */
const REVERSED_OHM = 0.05;
/** Bad joints, Ω: from a crimp that only drops under load to one that hangs on a strand. */
const JOINT_OHMS = [0.02, 0.06, 0.2, 0.6, 2, 6, 20, 60, 200] as const;
/** What a trimmer or a wrong divider makes of a regulator's volts. */
const SET_FACTORS = [0.6, 0.75, 0.85, 0.92, 1.08, 1.15, 1.3, 1.6, 2] as const;

const plain = { sizes: [1], sized: false, rewires: false, sizeWords: () => "", eyes: {} } as const;

function withBranch(circuit: Circuit, index: number, over: Partial<Branch>): Circuit {
  return { ...circuit, branches: circuit.branches.map((branch, i) => (i === index ? { ...branch, ...over } : branch)) };
}

function withLink(circuit: Circuit, a: number, b: number, ohm: number): Circuit {
  return { ...circuit, branches: [...circuit.branches, { kind: "bridge", id: FAULT_LINK, a, b, ohm, contact: -1 }] };
}

/** Every single fault of a machine that a first power-up may meet (handbook data/faults, single faults of building). */
export function singleFaults(figures: Figures): readonly SingleFault[] {
  return [
    ...jointFaults(figures),
    ...partFuses(figures),
    ...wrongFuses(figures),
    ...shortFaults(figures),
    ...joinedRails(figures),
    ...reversedParts(figures),
    ...swappedWires(figures),
    ...regulators(figures),
    ...reversedMotors(figures),
  ];
}

function ends(figures: Figures, wire: Wire): string {
  const name = (ref: Wire["from"]) => {
    const part = figures.partOf.get(ref.part);
    return part ? terminalName(part, ref.terminal) : "?";
  };
  return `${name(wire.from)} and ${name(wire.to)}`;
}

function jointFaults(figures: Figures): SingleFault[] {
  const { machine, solved } = figures;
  return machine.wires.flatMap((wire, i): SingleFault[] => {
    const branch = solved.circuit.branches[i] as Branch;
    if (wire.board || branch.a === branch.b) return [];
    const name = wireName(figures, wire);
    const look = `Pull at both its ends, ${ends(figures, wire)}.`;
    const missing = wire.role === "signal" || wire.role === "bond" ? "open or missing" : "open";
    const open: SingleFault = {
      ...plain,
      id: `open ${wire.id}`,
      kind: wire.fuse ? "blown fuse" : "open joint",
      words: wire.fuse ? `${capital(name)} is open: its fuse blown or missing, or an end loose` : `${capital(name)} is ${missing}`,
      look: wire.fuse ? `Pull its fuse and measure it out of its holder. ${look}` : look,
      weight: 1,
      change: (circuit) => withBranch(circuit, i, { ohm: OPEN_OHM }),
    };
    const bad: SingleFault = {
      ...plain,
      id: `joint ${wire.id}`,
      kind: "bad joint",
      words: `A bad joint in the ${name}`,
      look: `Read millivolts across each end under load. ${look}`,
      weight: 1,
      change: (circuit, size) => withBranch(circuit, i, { ohm: (circuit.branches[i]?.ohm ?? 0) + size }),
      sizes: JOINT_OHMS,
      sized: true,
      sizeWords: (size) => `about ${say(size, "resistance")}`,
    };
    return [open, bad];
  });
}

function partFuses(figures: Figures): SingleFault[] {
  return figures.solved.circuit.branches.flatMap((branch, i): SingleFault[] => {
    if (branch.kind !== "fuse" && branch.kind !== "switch") return [];
    const name = figures.partOf.get(branch.id)?.name ?? "?";
    const isFuse = branch.kind === "fuse";
    return [
      {
        ...plain,
        id: `open ${branch.id}`,
        kind: isFuse ? "blown fuse" : "open joint",
        words: isFuse ? `${name} is blown or missing` : `${name} does not close`,
        look: isFuse ? "Pull it and measure it out of its holder." : "Measure across it, closed and without power.",
        weight: 1,
        change: (circuit) => withBranch(circuit, i, { ohm: OPEN_OHM }),
      },
      {
        ...plain,
        id: `joint ${branch.id}`,
        kind: "bad joint",
        words: `A bad contact at ${name}`,
        look: `Read millivolts across ${name} under load.`,
        weight: 0.8,
        change: (circuit, size) => withBranch(circuit, i, { ohm: (circuit.branches[i]?.ohm ?? 0) + size }),
        sizes: JOINT_OHMS,
        sized: true,
        sizeWords: (size) => `about ${say(size, "resistance")}`,
      },
    ];
  });
}

function wrongFuses(figures: Figures): SingleFault[] {
  return fuseSites(figures).map((site) => ({
    ...plain,
    id: `fuse ${site.subject.id}`,
    kind: "wrong fuse",
    words: `Another fuse than planned in ${site.name}`,
    look: "Read the amps printed on it.",
    weight: 0.7,
    change: null,
    sizes: ratingsOf(site.fuse.family).filter((rating) => rating !== site.fuse.ratingA),
    sizeWords: (size) => `${size} A in place of ${site.fuse.ratingA} A`,
    eyes: { fuse: site.subject.id },
  }));
}

function shortFaults(figures: Figures): SingleFault[] {
  const { circuit } = figures.solved;
  return figures.machine.parts.flatMap((part): SingleFault[] => {
    const pair = feedTerminals(part);
    if (!pair || circuit.feeds.has(part.id)) return [];
    const [a, b] = [nodeAt(circuit, part.id, pair.plus), nodeAt(circuit, part.id, pair.minus)];
    if (a < 0 || b < 0 || a === b) return [];
    return [
      {
        ...plain,
        id: `short ${part.id}`,
        kind: "short",
        words: `Plus and minus touch at ${part.name}`,
        look: `Unplug ${part.name} and measure between the two pins of its plug.`,
        weight: 0.7,
        rewires: true,
        change: (each) => withLink(each, a, b, SHORT_OHM),
      },
    ];
  });
}

function joinedRails(figures: Figures): SingleFault[] {
  const { circuit } = figures.solved;
  const { rails } = figures.ledger;
  const plus = (rail: Rail) => {
    const ends = railEnds(figures, rail);
    return ends ? nodeAt(circuit, ends.plus.part, ends.plus.terminal) : -1;
  };
  return rails.flatMap((one, r) =>
    rails.slice(r + 1).flatMap((other): SingleFault[] => {
      const [a, b] = [plus(one), plus(other)];
      if (a < 0 || b < 0 || a === b) return [];
      return [
        {
          ...plain,
          id: `joined ${one.origin} ${other.origin}`,
          kind: "rails joined",
          words: `${one.tag} and ${other.tag} touch`,
          look: "Look for a crossed wire or a plug in the wrong hole where both rails are near.",
          weight: 0.4,
          rewires: true,
          change: (each) => withLink(each, a, b, SHORT_OHM),
        },
      ];
    }),
  );
}

function reversedParts(figures: Figures): SingleFault[] {
  const { circuit } = figures.solved;
  return figures.machine.parts.flatMap((part): SingleFault[] => {
    const pair = feedTerminals(part);
    if (!pair || !isConsumer(part) || circuit.feeds.has(part.id)) return [];
    const [a, b] = [nodeAt(circuit, part.id, pair.plus), nodeAt(circuit, part.id, pair.minus)];
    const into = figures.machine.wires.findIndex(({ to, role }) => role === "supply" && to.part === part.id && to.terminal === pair.plus);
    const home = figures.machine.wires.findIndex(
      ({ from, role }) => role === "return" && from.part === part.id && from.terminal === pair.minus,
    );
    if (a < 0 || b < 0 || into < 0 || home < 0) return [];
    return [
      {
        ...plain,
        id: `reversed ${part.id}`,
        kind: "reversed",
        words: `Plus and minus are swapped at ${part.name}`,
        look: `Measure at ${part.name}'s own plug: a minus sign says it.`,
        weight: 0.7,
        rewires: true,
        change: (each) => {
          // Both wires end on each other's terminal; what is plugged in there conducts the wrong way round, or is dead.
          const swapped = withBranch(withBranch(each, into, { b }), home, { a });
          const dead = withoutDraw(swapped, part.id);
          return isPluggedIn(each, part.id) && part.reverseSafe !== true
            ? withLink(dead, a, b, part.kind === "load" && part.behaviour === "resistance" ? OPEN_OHM : REVERSED_OHM)
            : dead;
        },
      },
    ];
  });
}

function withoutDraw(circuit: Circuit, id: string): Circuit {
  const none = Float64Array.of(0);
  return {
    ...circuit,
    loads: circuit.loads.map((load) => (load.id === id ? { ...load, amps: none, watts: none, siemens: none } : load)),
    converters: circuit.converters.map((each) => (each.id === id ? { ...each, quiescentA: 0 } : each)),
  };
}

/** Most pairs of plugs that are tried as swapped. */
const MOST_SWAPS = 80;

/** Two feeds of different rails that start close together, ending at each other's part. */
function swappedWires(figures: Figures): SingleFault[] {
  const { machine, ledger } = figures;
  const ends = machine.wires.flatMap((wire, index) => {
    const part = figures.partOf.get(wire.to.part);
    const plus = part && feedTerminals(part)?.plus;
    return wire.role === "supply" && part && isConsumer(part) && wire.to.terminal === plus
      ? [{ wire, index, part, origin: railOrigin(ledger, part.id) }]
      : [];
  });
  const byRail = groupBy(ends, ({ origin }) => origin ?? undefined);
  const rails = [...byRail.values()];
  const found: SingleFault[] = [];
  rails.forEach((own, r) => {
    for (const others of rails.slice(r + 1))
      for (const one of own)
        for (const other of others) {
          // Plugs that do not mate are not swapped.
          if (found.length >= MOST_SWAPS || one.wire.toEnd?.family !== other.wire.toEnd?.family) continue;
          found.push({
            ...plain,
            id: `swapped ${one.wire.id} ${other.wire.id}`,
            kind: "swapped wires",
            words: `The feeds of ${one.part.name} and ${other.part.name} are swapped`,
            look: `Follow both by their labels: each plus ends at the other's part.`,
            weight: 0.3,
            rewires: true,
            change: (each) => {
              const [x, y] = [each.branches[one.index] as Branch, each.branches[other.index] as Branch];
              return withBranch(withBranch(each, one.index, { b: y.b }), other.index, { b: x.b });
            },
          });
        }
  });
  return found;
}

function regulators(figures: Figures): SingleFault[] {
  return figures.machine.parts.flatMap((part): SingleFault[] => {
    if (part.kind !== "converter") return [];
    return [
      {
        ...plain,
        id: `set ${part.id}`,
        kind: "regulator",
        words: `${part.name} is set wrong`,
        look: "Unplug what it feeds, then turn its trimmer with a meter on its output.",
        weight: 0.8,
        change: (circuit, size) => ({
          ...circuit,
          emfs: circuit.emfs.map((emf) => (emf.id === part.id ? { ...emf, volts: emf.volts * size, lowVolts: emf.lowVolts * size } : emf)),
        }),
        sizes: SET_FACTORS,
        sized: true,
        sizeWords: (size) => `about ${say(part.outputV.value * size, "voltage")} in place of ${say(part.outputV.value, "voltage")}`,
      },
    ];
  });
}

function reversedMotors(figures: Figures): SingleFault[] {
  return figures.machine.parts.flatMap((part): SingleFault[] => {
    if (
      !moves(part) ||
      (part.loadKind !== "motor" && part.loadKind !== "actuator" && part.loadKind !== "brushless" && part.loadKind !== "stepper")
    )
      return [];
    return [
      {
        ...plain,
        id: `turns ${part.id}`,
        kind: "motor reversed",
        words: `${part.name}'s two leads are swapped`,
        look: "It turns the other way.",
        weight: 1,
        change: null,
        eyes: { turns: part.id },
      },
    ];
  });
}

/** Share of its volts that a joint has to take, under the most it carries, to be worth calling bad. */
const TELLS = 0.1;

/**
 * A size at which a fault is one that matters: a joint that takes a tenth of its rail's volts under the most its wire carries, a
 * regulator a quarter off. What lies below shows in no mode of the plan.
 */
export function tellingSize(figures: Figures, fault: SingleFault): number {
  if (fault.kind === "regulator") return 1.25;
  const middle = fault.sizes[Math.floor(fault.sizes.length / 2)] ?? 1;
  if (fault.kind !== "bad joint") return middle;
  const id = fault.id.replace("joint ", "");
  const wire = figures.wireOf.get(id);
  const part = wire ? wire.from.part : id;
  const amps = wire ? (figures.wires[id]?.worst.amps ?? 0) : (figures.parts[id]?.worst.amps ?? 0);
  const volts = railVolts(figures, part) || Math.max(...figures.ledger.rails.map((rail) => rail.volts));
  return amps > 1e-3 ? Math.min(200, (TELLS * volts) / amps) : middle;
}
