import * as Comlink from "comlink";
import { namesSource, type SourceChoice, sourceChoices } from "@/core/drafting/choose-source";
import { type Draft, draft } from "@/core/drafting/draft";
import { type More, more } from "@/core/drafting/more";
import { ListReader, type ReadList, readList } from "@/core/drafting/read-list";
import { sorted } from "@/core/drafting/sorted";
import { type Weighed, weighed } from "@/core/drafting/weigh";
import type { Machine } from "@/core/machine/schema";

/** How far a long answer is. The screen answers false to stop it. */
export type Progress = (done: number, of: number) => Promise<boolean>;

/** A draft with what it assumed; `mattering`: how many of that could change a verdict. */
export interface Drafted extends Draft {
  readonly weighed: readonly Weighed[];
  /** Sources to pick from, where the list names none. */
  readonly sources: readonly SourceChoice[];
}

/** Between two looks at whether anybody still waits, ms. */
const LOOK_MS = 40;

/** Runs a search to its end, or until nobody waits any more: then null. */
async function through<P extends { done: number; of: number }, T>(steps: Generator<P, T>, told: Progress): Promise<T | null> {
  let looked = performance.now();
  for (let step = steps.next(); ; step = steps.next()) {
    if (step.done) return step.value;
    if (performance.now() - looked < LOOK_MS) continue;
    if (!(await told(step.value.done, step.value.of))) return null;
    looked = performance.now();
  }
}

const reader = new ListReader();

/** What a list says, and what becomes of it. */
const service = {
  read: (text: string): ReadList => reader.read(text),
  /** The whole plan of a list, sized, with what it assumed; null when stopped under way. */
  async draft(text: string, name: string, told: Progress): Promise<Drafted | null> {
    const list = readList(text);
    const unfed = !namesSource(sorted(list.lines));
    const sources = unfed ? await through(sourceChoices(list), told) : [];
    const made = sources && (await through(draft(list, { name }, sources[0]), told));
    const rows = made && (await through(weighed(made.machine), told));
    return made && rows ? { ...made, weighed: rows, sources: sources ?? [] } : null;
  },
  more: (machine: Machine, text: string, told: Progress): Promise<More | null> => through(more(machine, readList(text).lines), told),
  weigh: (machine: Machine, told: Progress): Promise<Weighed[] | null> => through(weighed(machine), told),
};

export type DraftingService = typeof service;

Comlink.expose(service);
