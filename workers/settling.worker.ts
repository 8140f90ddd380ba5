import * as Comlink from "comlink";
import { type Settled, SettlingEngine, type Tried } from "@/core/engine/settling";
import type { Command } from "@/core/machine/commands";
import type { Machine } from "@/core/machine/schema";
import type { Offered } from "@/core/settling/offers";
import type { Aim } from "@/core/settling/search";
import type { Progress } from "@/core/settling/settle";
import type { Ladder } from "@/core/sizing/ladder";
import type { Cause } from "@/core/verdicts/causes";

const engine = new SettlingEngine();

/** Changes of a plan, tried before they are offered. */
const service = {
  offers: (machine: Machine, cause: Cause): Offered => engine.offers(machine, cause),
  try: (machine: Machine, command: Command): Tried | null => engine.try(machine, command),
  ladder: (machine: Machine, wireId: string): Ladder | null => engine.ladder(machine, wireId),
  /** The changes that settle a plan; null when stopped under way. */
  async settle(machine: Machine, aim: Aim, progress: (at: Progress) => Promise<boolean>): Promise<Settled | null> {
    const steps = engine.settle(machine, aim);
    for (let step = steps.next(); ; step = steps.next()) {
      if (step.done) return step.value;
      if (!(await progress(step.value))) return null;
    }
  },
};

export type SettlingService = typeof service;

Comlink.expose(service);
