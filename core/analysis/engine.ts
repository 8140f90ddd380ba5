import type { Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { explain } from "../working/explain";
import type { FigureRef, Working } from "../working/types";
import { type Account, accountOf } from "./account";
import { analyse, type FullAnalysis } from "./analyse";
import type { Analysis } from "./types";

/** Analyses one machine after the other, keeping what can be used again, and answers questions about the last one. */
export class Engine {
  private readonly cache = new TopologyCache();
  private last: FullAnalysis | null = null;

  analyse(machine: Machine): Analysis {
    // Should this break off, no question is answered with what was true before.
    this.last = null;
    this.last = analyse(machine, this.cache);
    return this.last.analysis;
  }

  explain(ref: FigureRef): Working | null {
    return this.last ? explain(this.last.figures, ref) : null;
  }

  account(partId: string, mode: number): Account | null {
    return this.last ? accountOf(this.last.figures, partId, mode) : null;
  }
}
