import { z } from "zod";
import { Draft, type Element, isList, LISTS, type ListName, listOf } from "./draft";
import { checkEdited } from "./edited";
import { isObject, sameValue } from "./same-value";
import type { Machine } from "./schema";

/**
 * One figure, or one element of a list, before and after. Paths go by ids and not by places in lists, so that a change holds
 * in any other version of the machine: `["parts", "p3", "ratedA"]`, `["wires", "w7"]` for a whole wire, `["settings",
 * "ambientC"]`, `["modes"]` with the order of ids. What is absent was, or will be, not there.
 */
export interface Change {
  readonly path: readonly string[];
  readonly before?: unknown;
  readonly after?: unknown;
  /** Of an element that comes or goes: the id of the one it stands behind; null: it stands first. */
  readonly behind?: string | null | undefined;
}

/** Most changes of one edit: every figure of a machine of full size. */
const CHANGES_MAX = 60_000;

/** Zod schema of a change as it travels and is kept. */
export const changeSchema = z.strictObject({
  path: z.array(z.string().max(200)).min(1).max(5).readonly(),
  before: z.unknown().optional(),
  after: z.unknown().optional(),
  behind: z.string().max(200).nullable().optional(),
});

/** One step of editing: what it is called and what it does. Its id is its own for ever, so that it is never done twice. */
export const editSchema = z.strictObject({
  id: z.string().regex(/^[\w-]{8,60}$/, "an id of 8 to 60 letters and digits"),
  at: z.iso.datetime(),
  label: z.string().max(300),
  changes: z.array(changeSchema).max(CHANGES_MAX).readonly(),
});
/** One step of editing. */
export type Edit = z.infer<typeof editSchema>;

/** Objects whose fields are figures of their own; any other object is one figure. */
const NESTED: ReadonlySet<string> = new Set(["settings", "schools", "links", "cells", "levels", "motor", "stepper", "brushless"]);

function fieldChanges(
  path: readonly string[],
  before: Readonly<Record<string, unknown>>,
  after: Readonly<Record<string, unknown>>,
): Change[] {
  const keys = new Set([...Object.keys(before), ...Object.keys(after)]);
  return [...keys].flatMap((key): Change[] => {
    const [was, is] = [before[key], after[key]];
    if (was === is) return [];
    const here = [...path, key];
    if (NESTED.has(key) && isObject(was) && isObject(is)) return fieldChanges(here, was, is);
    if (sameValue(was, is)) return [];
    return [{ path: here, ...(was === undefined ? {} : { before: was }), ...(is === undefined ? {} : { after: is }) }];
  });
}

const idsOf = (list: readonly Element[], among: ReadonlySet<string>) => list.flatMap(({ id }) => (among.has(id) ? [id] : []));

function listChanges(name: ListName, before: readonly Element[], after: readonly Element[]): Change[] {
  if (before === after) return [];
  const was = new Map(before.map((each) => [each.id, each]));
  const is = new Map(after.map((each) => [each.id, each]));
  const gone = before.flatMap((each, i): Change[] =>
    is.has(each.id) ? [] : [{ path: [name, each.id], before: each, behind: before[i - 1]?.id ?? null }],
  );
  const come = after.flatMap((each, i): Change[] =>
    was.has(each.id) ? [] : [{ path: [name, each.id], after: each, behind: after[i - 1]?.id ?? null }],
  );
  const edited = after.flatMap((each) => {
    const old = was.get(each.id);
    return old && old !== each ? fieldChanges([name, each.id], old, each) : [];
  });
  const both = new Set([...was.keys()].filter((id) => is.has(id)));
  const [order, wanted] = [idsOf(before, both), idsOf(after, both)];
  const moved: Change[] = sameValue(order, wanted) ? [] : [{ path: [name], before: order, after: wanted }];
  return [...gone, ...come, ...edited, ...moved];
}

/** What turns one version of a machine into another, figure by figure. Shared objects are not looked into. */
export function changesBetween(before: Machine, after: Machine): Change[] {
  const rest = (machine: Machine) => Object.fromEntries(Object.entries(machine).filter(([key]) => !isList(key)));
  return [
    ...LISTS.flatMap((name) => listChanges(name, listOf(before, name), listOf(after, name))),
    ...fieldChanges([], rest(before), rest(after)),
  ];
}

/** The changes that take these back. */
export function inverted(changes: readonly Change[]): Change[] {
  const turn = ({ path, before, after, behind }: Change): Change => ({
    path,
    ...(after === undefined ? {} : { before: after }),
    ...(before === undefined ? {} : { after: before }),
    ...(behind === undefined ? {} : { behind }),
  });
  // In each list, what comes back is put behind its neighbour in the order of the list; orders are told last.
  return changes.map(turn).sort((a, b) => Number(isOrder(a)) - Number(isOrder(b)));
}

const isOrder = ({ path }: Change) => path.length === 1 && isList(path[0] ?? "");

/** A change that found neither what it started from nor what it leads to. */
export interface Clash {
  readonly change: Change;
  /** What stands there now; absent: nothing. */
  readonly theirs?: unknown;
  /**
   * `figure`: the same figure has another value there. `id`: another element came under the same id. `gone`: the element is
   * no longer there.
   */
  readonly kind: "figure" | "id" | "gone";
}

/** What a change is about, as one word to look it up by. */
export const keyOf = ({ path }: Pick<Change, "path">) => path.join("/");

/** Which of two values stands where both were changed, by `keyOf`. */
export type Choices = ReadonlyMap<string, "mine" | "theirs">;

function place(draft: Draft, change: Change, choice: "mine" | "theirs" | undefined): Clash | null {
  const { path, before, after, behind } = change;
  const name = path[0] ?? "";
  const known = path.every((key) => key !== "__proto__");
  if (!known) return { change, kind: "gone" };
  if (isList(name) && path.length === 1) {
    const [was, wanted] = [before, after].map((ids) => (Array.isArray(ids) ? ids.map(String) : []));
    const here = new Set(draft.list(name).items.map(({ id }) => id));
    const now = idsOf(draft.list(name).items, new Set(wanted));
    const only = (ids: readonly string[] | undefined) => (ids ?? []).filter((id) => here.has(id));
    if (sameValue(now, only(wanted)) || choice === "theirs") return null;
    if (choice !== "mine" && !sameValue(now, only(was))) return { change, theirs: now, kind: "figure" };
    draft.order(name, only(wanted));
    return null;
  }
  if (isList(name) && path.length === 2) {
    const id = path[1] as string;
    const now = draft.element(name, id);
    if (sameValue(now, after) || choice === "theirs") return null;
    if (choice !== "mine" && !sameValue(now, before)) return { change, theirs: now, kind: before === undefined ? "id" : "figure" };
    if (after === undefined) draft.take(name, id);
    else if (now) draft.replace(name, id, after as Element);
    else draft.put(name, after as Element, behind);
    return null;
  }
  const holder = draft.holder(path);
  if (!holder) return choice === "theirs" ? null : { change, kind: "gone" };
  const now = holder[path[path.length - 1] as string];
  if (sameValue(now, after) || choice === "theirs") return null;
  if (choice !== "mine" && !sameValue(now, before)) return { change, ...(now === undefined ? {} : { theirs: now }), kind: "figure" };
  draft.set(path, after);
  return null;
}

/**
 * Puts changes into a machine. A change whose figure has its new value already does nothing; one whose figure has neither its
 * old nor its new value is a clash and, unless `choices` says whose value stands, is left out.
 */
export function withChanges(
  machine: Machine,
  changes: readonly Change[],
  choices: Choices = new Map(),
): { machine: Machine; clashes: Clash[] } {
  const draft = new Draft(machine);
  const clashes = changes.flatMap((change) => place(draft, change, choices.get(keyOf(change))) ?? []);
  return { machine: draft.done(), clashes };
}

/** An edit that was left out because the version it meets does not bear it. */
export interface Misfit {
  readonly edit: Edit;
  readonly reason: string;
}

/** What came of playing edits onto a version they were not made on. */
export interface Merged {
  readonly machine: Machine;
  /** Edits that went in, or were in already. */
  readonly done: readonly Edit[];
  /** The same figure was changed on both sides: somebody has to say which value stands. One a figure. */
  readonly clashes: readonly Clash[];
  readonly misfits: readonly Misfit[];
}

/**
 * Plays edits onto another version of their machine, each as a whole or not at all. Every step is validated like an edit on
 * the screen, so that what comes out is a machine that can be saved.
 */
export function merge(current: Machine, edits: readonly Edit[], choices: Choices = new Map()): Merged {
  // Mostly all of them fit: then they are looked at together.
  const together = withChanges(
    current,
    edits.flatMap(({ changes }) => changes),
    choices,
  );
  if (together.clashes.length === 0 && (together.machine === current || checkEdited(current, together.machine) === null))
    return { machine: together.machine, done: edits, clashes: [], misfits: [] };
  const done: Edit[] = [];
  const clashes = new Map<string, Clash>();
  const misfits: Misfit[] = [];
  let machine = current;
  for (const edit of edits) {
    const tried = withChanges(machine, edit.changes, choices);
    const [gone] = tried.clashes.filter(({ kind }) => kind === "gone");
    if (gone) {
      misfits.push({ edit, reason: "what it changes is no longer there" });
      continue;
    }
    if (tried.clashes.length > 0) {
      for (const clash of tried.clashes) {
        const first = clashes.get(keyOf(clash.change));
        clashes.set(keyOf(clash.change), first ? { ...first, change: { ...first.change, after: clash.change.after } } : clash);
      }
      continue;
    }
    const problem = tried.machine === machine ? null : checkEdited(machine, tried.machine);
    if (problem) misfits.push({ edit, reason: problem });
    else {
      machine = tried.machine;
      done.push(edit);
    }
  }
  return { machine, done, clashes: [...clashes.values()], misfits };
}
