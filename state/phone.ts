import { z } from "zod";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import type { Shelf, StoredLog } from "./log";
import { storedLogSchema } from "./log";

/** What a phone works with: its machine, and the log as the server had it last. */
export interface PhonePlan {
  readonly id: string;
  readonly machine: Machine;
  readonly stored: StoredLog;
}

const KEY = "node-ledger phone plan";
const keptSchema = z.object({ id: z.string(), machine: z.unknown(), stored: storedLogSchema });

/** Keeps the plan on the phone, so that it is there while the network sleeps. A storage that is full costs only that. */
export function keepPlan(shelf: Shelf, plan: PhonePlan): void {
  try {
    shelf.setItem(KEY, JSON.stringify(plan));
  } catch {
    shelf.removeItem(KEY);
  }
}

/** The plan this phone kept; null where it has none that can be read. */
export function keptPlan(shelf: Shelf): PhonePlan | null {
  try {
    const kept = keptSchema.safeParse(JSON.parse(shelf.getItem(KEY) ?? "null"));
    const machine = kept.success ? readMachine(kept.data.machine) : null;
    return kept.success && machine?.ok ? { id: kept.data.id, machine: machine.machine, stored: kept.data.stored } : null;
  } catch {
    return null;
  }
}

export function forgetPlan(shelf: Shelf): void {
  shelf.removeItem(KEY);
}
