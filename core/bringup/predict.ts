import type { Figures } from "../figures/figures";
import { nodeAt } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import { buildTopology, openKey, type Topology } from "../network/topology";
import { type Built, built } from "./built";
import { covariance, type Doubt } from "./doubts";
import type { SingleFault } from "./faults";
import { bareMetal, type Metal } from "./ohms";
import { probeKey, shows } from "./probe";
import { settle } from "./settle";
import { NOW, type Situation } from "./situation";
import { UNPOWERED } from "./stages/inspect";
import { expectedAt, type Stand } from "./stand";
import type { Observable } from "./types";

/** What is read as one text: the same reading has the same. */
export function observableKey(at: Observable): string {
  switch (at.kind) {
    case "network":
      return `${at.situation.id} | ${probeKey(at.probe)}`;
    case "ohms":
      return `Ω ${at.red.part}.${at.red.terminal} ${at.black.part}.${at.black.terminal}${at.contactsOpen ? " open" : ""}${at.lifted ? ` without ${at.lifted.join(" ")}` : ""}`;
    case "fuse":
      return `fuse ${at.subject}`;
    case "turns":
      return `turns ${at.part}`;
  }
}

/** The amps printed on the planned fuse of a wire or fuse block; 0 without one. */
export function printedOn({ wireOf, partOf }: Figures, subject: string): number {
  const part = partOf.get(subject);
  return wireOf.get(subject)?.fuse?.ratingA ?? (part?.kind === "fuse" ? part.fuse.ratingA : 0);
}

/** A machine with one fault, as far as it was asked: solved points by situation, bare metal by the state of its contacts. */
interface Faulty {
  readonly points: Map<string, { built: Built; point: OperatingPoint }>;
  readonly metal: Map<string, Metal>;
}

/** A joint that drops less than this in a situation changes nothing there, V. */
const NO_DROP_V = 2e-5;

/** Works out what meters show of a machine with one single fault, each network solved once however many readings ask. */
export class Predictor {
  private readonly known = new Map<SingleFault, Map<number, Faulty>>();
  private readonly doubts = new Map<string, readonly Doubt[]>();
  private readonly spread = new WeakMap<readonly Doubt[], number>();
  private unpowered: Built | null = null;

  constructor(
    readonly figures: Figures,
    private readonly standOf: (situation: Situation) => Stand,
  ) {}

  /** The sound machine in a situation. */
  stand(situation: Situation): Stand {
    return this.standOf(situation);
  }

  /** What makes a network reading of the sound machine doubtful. */
  doubtsOf(at: Observable & { kind: "network" }): readonly Doubt[] {
    const key = observableKey(at);
    const found = this.doubts.get(key);
    if (found) return found;
    const made = expectedAt(this.stand(at.situation), at.probe)?.doubts ?? [];
    this.doubts.set(key, made);
    return made;
  }

  /** Standard uncertainty that the plan leaves to a network reading of the sound machine. */
  planU(at: Observable & { kind: "network" }): number {
    const doubts = this.doubtsOf(at);
    const found = this.spread.get(doubts);
    if (found !== undefined) return found;
    const made = Math.sqrt(Math.max(0, covariance(doubts, doubts)));
    this.spread.set(doubts, made);
    return made;
  }

  private faulty(fault: SingleFault, size: number): Faulty {
    let sizes = this.known.get(fault);
    if (!sizes) {
      sizes = new Map();
      this.known.set(fault, sizes);
    }
    let found = sizes.get(size);
    if (!found) {
      found = { points: new Map(), metal: new Map() };
      sizes.set(size, found);
    }
    return found;
  }

  /** Value that a perfect meter shows: V, A, Ω, a fuse's amps, 1 or 0 for yes and no. `fault` null: the sound machine. */
  value(at: Observable, fault: SingleFault | null, size = 1): number {
    switch (at.kind) {
      case "fuse":
        return fault?.eyes.fuse === at.subject ? size : printedOn(this.figures, at.subject);
      case "turns":
        return fault?.eyes.turns === at.part ? 0 : 1;
      case "ohms":
        return this.ohms(at, fault, size);
      case "network": {
        const { built: machine, point } = this.solved(at.situation, fault, size);
        return shows(machine, point, at.probe) ?? 0;
      }
    }
  }

  private ohms(at: Observable & { kind: "ohms" }, fault: SingleFault | null, size: number): number {
    this.unpowered ??= built(this.figures.machine, UNPOWERED);
    const { circuit } = this.unpowered;
    const own = this.faulty(fault ?? SOUND, size);
    const key = `${at.contactsOpen} ${at.lifted?.join(" ") ?? ""}`;
    let metal = own.metal.get(key);
    if (!metal) {
      metal = bareMetal(fault?.change ? fault.change(circuit, size) : circuit, at.contactsOpen, at.lifted);
      own.metal.set(key, metal);
    }
    return metal.between(nodeAt(circuit, at.red.part, at.red.terminal), nodeAt(circuit, at.black.part, at.black.terminal));
  }

  private solved(situation: Situation, fault: SingleFault | null, size: number): { built: Built; point: OperatingPoint } {
    const sound = this.stand(situation);
    const asPlanned = { built: sound.built, point: sound.point };
    if (!fault?.change) return asPlanned;
    const own = this.faulty(fault, size);
    const found = own.points.get(situation.id);
    if (found) return found;
    const made = this.solve(sound, fault, size) ?? asPlanned;
    own.points.set(situation.id, made);
    return made;
  }

  /** Null: the fault changes nothing here. */
  private solve(sound: Stand, fault: SingleFault, size: number): { built: Built; point: OperatingPoint } | null {
    const circuit = fault.change?.(sound.built.circuit, size);
    if (!circuit) return null;
    if (fault.kind === "bad joint") {
      const index = circuit.branches.findIndex((branch, i) => branch !== sound.built.circuit.branches[i]);
      if (index >= 0 && Math.abs(sound.point.branchA[index] as number) * size < NO_DROP_V) return null;
    }
    const topology: Topology = fault.rewires ? buildTopology(circuit, openKey(circuit, NOW)) : sound.built.topology;
    const point = settle(circuit, topology, sound.nominals);
    return { built: { ...sound.built, circuit, topology }, point };
  }
}

/** Stands for the sound machine where a fault is a key. */
const SOUND: SingleFault = {
  id: "",
  kind: "open joint",
  words: "",
  look: "",
  weight: 0,
  change: null,
  sizes: [],
  sized: false,
  rewires: false,
  sizeWords: () => "",
  eyes: {},
};
