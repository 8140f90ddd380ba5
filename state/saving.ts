import type { Clash, Edit, Misfit } from "@/core/machine/changes";
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

/** Most edits of one save, and most of their text; what is more goes with the next. */
const BATCH = 300;
const BATCH_CHARACTERS = 3_000_000;

/** The first of these edits that go together in one save; one at least. */
export function batchOf(edits: readonly Edit[]): readonly Edit[] {
  let characters = 0;
  const first = edits.slice(0, BATCH);
  const over = first.findIndex((edit, i) => {
    characters += JSON.stringify(edit).length;
    return i > 0 && characters > BATCH_CHARACTERS;
  });
  return over < 0 ? first : first.slice(0, over);
}

/** Waits before a save is tried again, ms: soon at first, then with more patience. */
const WAITS_MS = [1000, 2000, 4000, 8000, 15_000, 30_000];

/** Wait before the next try after so many that failed, ms. */
export function waitAfter(failures: number): number {
  return WAITS_MS[Math.min(failures, WAITS_MS.length) - 1] ?? 1000;
}
