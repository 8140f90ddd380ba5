import type { Command } from "../machine/commands";
import type { Machine } from "../machine/schema";
import { type Named, named, type Offered, offersFor } from "../settling/offers";
import type { Aim } from "../settling/search";
import { type Progress, type Settlement, settle } from "../settling/settle";
import { Trials } from "../settling/trial";
import { gaugeLadder, type Ladder } from "../sizing/ladder";
import type { Cause } from "../verdicts/causes";
import { effectOf } from "../verdicts/effect";

/** What a change does to a plan. */
export interface Tried {
  settles: readonly Named[];
  brings: readonly Named[];
}

/** A settlement as it travels: without the machine, which its changes make. */
export type Settled = Omit<Settlement, "machine">;

/** Tries changes of one plan after the other, keeping what was analysed of the last one. */
export class SettlingEngine {
  private last: { machine: Machine; text: string; trials: Trials } | null = null;

  /** Each message carries its own copy of a plan: the same one is known by its text. */
  private of(machine: Machine): { machine: Machine; trials: Trials } {
    const text = JSON.stringify(machine);
    if (this.last?.text !== text) this.last = { machine, text, trials: new Trials() };
    return this.last;
  }

  /** What can be done about a cause. */
  offers(machine: Machine, cause: Cause): Offered {
    const { machine: own, trials } = this.of(machine);
    return offersFor(trials, own, cause);
  }

  /** What a command would settle and bring; null where it does not go. */
  try(machine: Machine, command: Command): Tried | null {
    const { machine: own, trials } = this.of(machine);
    const next = trials.after(own, command);
    if (!next) return null;
    const { settles, brings } = effectOf(trials.whole(own), trials.whole(next));
    return { settles: settles.map(named), brings: brings.map(named) };
  }

  /** Every size a wire's feed could have, each walked as the rules walk it. */
  ladder(machine: Machine, wireId: string): Ladder | null {
    const { machine: own, trials } = this.of(machine);
    const { figures, walk } = trials.at(own);
    return gaugeLadder(figures, walk, wireId, (command) => {
      const next = trials.after(own, command);
      return next ? trials.at(next).walk : walk;
    });
  }

  /** The changes that settle a plan. */
  *settle(machine: Machine, aim: Aim): Generator<Progress, Settled> {
    const { machine: _made, ...found } = yield* settle(machine, aim);
    return found;
  }
}
