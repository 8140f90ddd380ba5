import { figuresOf, judged } from "../analysis/analyse";
import { unaskedOf } from "../analysis/unasked";
import type { FaultWalk } from "../faults/walk";
import type { Figures } from "../figures/figures";
import { applyCommand } from "../machine/apply";
import type { Command } from "../machine/commands";
import type { Machine } from "../machine/schema";
import { TopologyCache } from "../network/topology";
import { withDecisions } from "../verdicts/decided";
import { evaluateLate, walkOf } from "../verdicts/late";
import { evaluateShorts } from "../verdicts/rules";
import type { Verdict } from "../verdicts/types";

/** A machine with what is said of it, each judged when it is first asked for. */
export class Standing {
  private shorts: readonly Verdict[] | null = null;
  private late: readonly Verdict[] | null = null;
  private faults: FaultWalk | null = null;
  readonly quick: readonly Verdict[];

  constructor(
    readonly machine: Machine,
    readonly figures: Figures,
  ) {
    this.quick = judged(figures).verdicts;
  }

  /** What the quick rules and those of the walk of shorts say. */
  get swift(): readonly Verdict[] {
    if (!this.shorts) {
      this.faults = walkOf(this.figures);
      const said = this.faults ? evaluateShorts(this.figures, this.faults) : [];
      this.shorts = [...this.quick, ...withDecisions(this.machine, said)];
    }
    return this.shorts;
  }

  /** The walk of shorts over it; null where there is nothing to short. */
  get walk(): FaultWalk | null {
    return this.swift && this.faults;
  }

  /** All that is said of it. */
  get whole(): readonly Verdict[] {
    if (!this.late) {
      // The walk is made, and kept for the late rules.
      const { swift } = this;
      const late = swift && evaluateLate(this.figures, this.quick, this.faults, true).verdicts;
      this.late = [...this.quick, ...withDecisions(this.machine, late)];
    }
    return this.late;
  }

  /** The same as a screen shows it: without what is asked for and turns out not to matter. */
  get shown(): readonly Verdict[] {
    const { quick, whole } = this;
    const hidden = new Set(unaskedOf(this.machine, quick, whole.slice(quick.length))?.verdicts);
    return whole.filter(({ id }) => !hidden.has(id));
  }
}

/**
 * Analyses one trial after the other. What a change does not touch is not worked out again: orderings, what hangs on the
 * wiring alone and what was said of figures that did not move are kept between trials.
 */
export class Trials {
  private readonly known = new WeakMap<Machine, Standing>();
  private readonly changed = new WeakMap<Machine, Map<string, Machine | null>>();
  /** Machines analysed so far. */
  count = 0;

  /** @param cache orderings that are known already */
  constructor(private readonly cache = new TopologyCache()) {}

  at(machine: Machine): Standing {
    const known = this.known.get(machine);
    if (known) return known;
    this.count++;
    const standing = new Standing(machine, figuresOf(machine, this.cache));
    this.known.set(machine, standing);
    return standing;
  }

  whole(machine: Machine): readonly Verdict[] {
    return this.at(machine).whole;
  }

  /** The machine after a command; null where it is refused or changes nothing. The same change of the same machine is the same one. */
  after(machine: Machine, command: Command): Machine | null {
    let known = this.changed.get(machine);
    if (!known) {
      known = new Map();
      this.changed.set(machine, known);
    }
    const key = JSON.stringify(command);
    const before = known.get(key);
    if (before !== undefined) return before;
    const result = applyCommand(machine, command);
    const next = result.ok && result.changes.length > 0 ? result.machine : null;
    known.set(key, next);
    return next;
  }
}
