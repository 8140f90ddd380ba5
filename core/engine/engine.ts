import { figuresOf, judged } from "../analysis/analyse";
import { compareSchools, type SchoolComparison } from "../analysis/schools";
import type { Analysis } from "../analysis/types";
import { type Candidate, driverCandidates } from "../choosing/drivers";
import { type FusePicture, fusePicture } from "../choosing/fuse-picture";
import type { FaultWalk } from "../faults/walk";
import { type Account, accountOf } from "../figures/account";
import { type Channel, channelsOf } from "../figures/channels";
import { type Contacts, contactsOf } from "../figures/contacts";
import type { Figures } from "../figures/figures";
import { type WordHere, wordHere } from "../glossary/here";
import type { Driver, Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { type ReturnsFigures, returnsOf } from "../returns/summary";
import { gaugeLadder, type Ladder } from "../sizing/ladder";
import { explain } from "../working/explain";
import type { FigureRef, Working } from "../working/types";

/** What may be asked about a machine's figures: what each question is of, and what it gives. */
interface Asked {
  /** The derivation of a figure. */
  explain: { of: [ref: FigureRef]; gives: Working | null };
  /** What arrives at a part, leaves it and comes home, in a mode. */
  account: { of: [partId: string, mode: number]; gives: Account | null };
  /** What each channel of a driver does in every mode. */
  channels: { of: [driverId: string]; gives: readonly Channel[] };
  /** Drivers that could carry a load, from the reference classes and the given ones. */
  candidates: { of: [loadId: string, shelf: readonly Driver[]]; gives: Candidate[] };
  /** The machine under each school of peak budgets. */
  schools: { of: []; gives: SchoolComparison | null };
  /** Every size a wire's feed could have. */
  ladder: { of: [wireId: string, walk: FaultWalk | null]; gives: Ladder | null };
  /** The fuse in a wire or of a part against time and current. */
  picture: { of: [at: { kind: "wire" | "part"; id: string }, walk: FaultWalk | null]; gives: FusePicture | null };
  /** What the emergency stop leaves alive, and each contact's capacitors. */
  contacts: { of: []; gives: Contacts | null };
  /** A trade word with the machine's own numbers. */
  word: { of: [id: string]; gives: WordHere | null };
  /** Offsets, links, loops and shared metal of the return side. */
  returns: { of: []; gives: ReturnsFigures | null };
}

type Answers = { [Q in keyof Asked]: (figures: Figures, machine: Machine, ...of: Asked[Q]["of"]) => Asked[Q]["gives"] };

/** Asks about the newest figures; the same question wherever they were made, here or in a worker. */
export type Ask = <Q extends keyof Asked>(question: Q, ...of: Asked[Q]["of"]) => Promise<Asked[Q]["gives"]>;

const ANSWERS: Answers = {
  explain: (figures, _, ref) => explain(figures, ref),
  account: (figures, _, partId, mode) => accountOf(figures, partId, mode),
  channels: (figures, _, driverId) => {
    const driver = figures.partOf.get(driverId);
    return driver?.kind === "driver" ? channelsOf(figures, driver) : [];
  },
  candidates: (figures, _, loadId, shelf) => {
    const load = figures.partOf.get(loadId);
    if (load?.kind !== "load") return [];
    const now = figures.parts[loadId];
    const parent = figures.partOf.get(figures.ledger.rowOf.get(loadId)?.parent ?? "");
    const at = figures.parts[parent?.kind === "driver" ? parent.id : loadId];
    const [continuousA, peakA] = [now?.worstContinuous.amps ?? 0, now?.worst.amps ?? 0];
    return driverCandidates({ load, continuousA, peakA, highestV: at?.highestV ?? null, lowestV: at?.lowestV?.volts ?? null }, shelf);
  },
  schools: (_, machine) => compareSchools(machine),
  ladder: (figures, _, wireId, walk) => gaugeLadder(figures, walk, wireId),
  picture: (figures, _, at, walk) => fusePicture(figures, walk, at),
  contacts: (figures) => contactsOf(figures),
  word: (figures, _, id) => wordHere(figures, id),
  returns: (figures) => returnsOf(figures),
};

/** Analyses one machine after the other, keeping what can be used again, and answers questions about the last one. */
export class Engine {
  private readonly cache = new TopologyCache();
  private last: { machine: Machine; figures: Figures } | null = null;

  analyse(machine: Machine): Analysis {
    return judged(this.figures(machine));
  }

  /** The figures alone, to be shown before they are judged. */
  figures(machine: Machine): Figures {
    // Should this break off, no question is answered with what was true before.
    this.last = null;
    const figures = figuresOf(machine, this.cache);
    this.last = { machine, figures };
    return figures;
  }

  /** An answer about the last machine; a question about none cannot be answered. */
  readonly ask: Ask = async (question, ...of) => {
    if (!this.last) throw new Error("nothing has been analysed");
    return ANSWERS[question](this.last.figures, this.last.machine, ...of);
  };
}
