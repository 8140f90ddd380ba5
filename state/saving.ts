import type { Clash, Misfit } from "@/core/machine/changes";
import type { Machine } from "@/core/machine/schema";
import type { Since } from "./api";

/** How the open machine stands to the ledger. */
export type SaveState =
  | { kind: "saved" }
  | { kind: "saving" }
  /** It could not be saved, and is tried again by itself. */
  | { kind: "waiting"; detail: string; again: number }
  /** The server will not take it, however often it is tried. */
  | { kind: "refused"; detail: string }
  /** The machine was taken off the list elsewhere. */
  | { kind: "missing" }
  | Asking;

/** Somebody has to say which of two values stands. */
export interface Asking {
  readonly kind: "asking";
  readonly revision: number;
  readonly theirs: Machine;
  readonly clashes: readonly Clash[];
  readonly misfits: readonly Misfit[];
  readonly since: readonly Since[];
}

/** Waits before a save is tried again, ms: soon at first, then with more patience. */
const WAITS_MS = [1000, 2000, 4000, 8000, 15_000, 30_000];

/** Wait before the next try after so many that failed, ms. */
export function waitAfter(failures: number): number {
  return WAITS_MS[Math.min(failures, WAITS_MS.length) - 1] ?? 1000;
}
