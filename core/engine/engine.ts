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
import type { Driver, Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { type ReturnsFigures, returnsOf } from "../returns/summary";
import { gaugeLadder, type Ladder } from "../sizing/ladder";
import { explain } from "../working/explain";
import type { FigureRef, Working } from "../working/types";

/** Analyses one machine after the other, keeping what can be used again, and answers questions about the last one. */
export class Engine {
  private readonly cache = new TopologyCache();
  private last: Figures | null = null;
  private machine: Machine | null = null;

  analyse(machine: Machine): Analysis {
    return judged(this.figures(machine));
  }

  /** The figures alone, to be shown before they are judged. */
  figures(machine: Machine): Figures {
    // Should this break off, no question is answered with what was true before.
    this.last = null;
    this.machine = machine;
    this.last = figuresOf(machine, this.cache);
    return this.last;
  }

  explain(ref: FigureRef): Working | null {
    return this.last ? explain(this.last, ref) : null;
  }

  /** What each channel of a driver does in every mode. */
  channels(driverId: string): readonly Channel[] {
    const driver = this.last?.partOf.get(driverId);
    return this.last && driver?.kind === "driver" ? channelsOf(this.last, driver) : [];
  }

  /** Drivers that could carry a load, from the reference classes and the given ones. */
  candidates(loadId: string, shelf: readonly Driver[]): Candidate[] {
    const figures = this.last;
    const load = figures?.partOf.get(loadId);
    if (!figures || load?.kind !== "load") return [];
    const now = figures.parts[loadId];
    const parent = figures.partOf.get(figures.ledger.rowOf.get(loadId)?.parent ?? "");
    const at = figures.parts[parent?.kind === "driver" ? parent.id : loadId];
    return driverCandidates(
      {
        load,
        continuousA: now?.worstContinuous.amps ?? 0,
        peakA: now?.worst.amps ?? 0,
        highestV: at?.highestV ?? null,
        lowestV: at?.lowestV?.volts ?? null,
      },
      shelf,
    );
  }

  /** Every size a wire's feed could have. */
  ladder(wireId: string, walk: FaultWalk | null): Ladder | null {
    return this.last ? gaugeLadder(this.last, walk, wireId) : null;
  }

  /** The fuse in a wire or of a part against time and current. */
  picture(of: { kind: "wire" | "part"; id: string }, walk: FaultWalk | null): FusePicture | null {
    return this.last ? fusePicture(this.last, walk, of) : null;
  }

  /** What the emergency stop leaves alive, and each contact's capacitors. */
  contacts(): Contacts | null {
    return this.last ? contactsOf(this.last) : null;
  }

  /** Offsets, links, loops and shared metal of the return side. */
  returns(): ReturnsFigures | null {
    return this.last ? returnsOf(this.last) : null;
  }

  schools(): SchoolComparison | null {
    return this.machine ? compareSchools(this.machine) : null;
  }

  account(partId: string, mode: number): Account | null {
    return this.last ? accountOf(this.last, partId, mode) : null;
  }
}
