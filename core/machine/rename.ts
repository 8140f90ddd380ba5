import type { Change, Clash, Edit } from "./changes";
import { freshId } from "./defaults";
import type { ListName } from "./draft";
import { isObject } from "./same-value";
import type { Machine } from "./schema";

/** New ids by old ones, in each list. */
type Names = Readonly<Record<ListName, ReadonlyMap<string, string>>>;
type Fields = Readonly<Record<string, unknown>>;

/** A verdict's id is made of words and of the ids of what it speaks of. */
function renamedVerdict(id: string, names: Names): string {
  const known = Object.values(names);
  return id
    .split(":")
    .map((word) => known.find((map) => map.has(word))?.get(word) ?? word)
    .join(":");
}

/** An element, or some of its fields, with the ids it is known by and the ids it names put in the new words. */
function renamedFields(list: string, fields: Fields, names: Names): Fields {
  const one = (among: ListName, value: unknown) => (typeof value === "string" ? (names[among].get(value) ?? value) : value);
  const end = (value: unknown) => (isObject(value) ? { ...value, part: one("parts", value.part) } : one("parts", value));
  const field = (key: string, value: unknown): unknown => {
    if (key === "id" && list === "decisions" && typeof value === "string") return renamedVerdict(value, names);
    if (key === "id" && list in names) return one(list as ListName, value);
    // Ends of a wire name a part and its terminal, those of a link the part alone.
    if (key === "from" || key === "to") return end(value);
    if (key === "box") return one("parts", value);
    if (key === "pair") return one("wires", value);
    if (key === "signal") return one("signals", value);
    if (key === "openIn" && Array.isArray(value)) return value.map((mode) => one("modes", mode));
    if (key === "cells" && isObject(value))
      return Object.fromEntries(Object.entries(value).map(([mode, cell]) => [one("modes", mode), cell]));
    return value;
  };
  return Object.fromEntries(Object.entries(fields).map(([key, value]) => [key, field(key, value)]));
}

function renamedChange(change: Change, names: Names): Change {
  const [list = "", id, key, mode, ...rest] = change.path;
  const value = (given: unknown): unknown => {
    if (list === "mission" && isObject(given) && Array.isArray(given.steps)) {
      const steps = given.steps.map((step: unknown) =>
        isObject(step) ? { ...step, mode: names.modes.get(String(step.mode)) ?? step.mode } : step,
      );
      return { ...given, steps };
    }
    if (!(list in names)) return given;
    if (id === undefined) return Array.isArray(given) ? given.map((each) => names[list as ListName].get(String(each)) ?? each) : given;
    if (key === undefined) return isObject(given) ? renamedFields(list, given, names) : given;
    return mode === undefined ? renamedFields(list, { [key]: given }, names)[key] : given;
  };
  const name = (among: ListName, old: string | undefined) => (old === undefined ? [] : [names[among].get(old) ?? old]);
  const path =
    list in names
      ? [
          list,
          ...name(list as ListName, id),
          ...(key === undefined ? [] : [key]),
          ...(key === "cells" ? name("modes", mode) : mode === undefined ? [] : [mode]),
          ...rest,
        ]
      : change.path;
  return {
    path,
    ...("before" in change ? { before: value(change.before) } : {}),
    ...("after" in change ? { after: value(change.after) } : {}),
    ...(change.behind === undefined
      ? {}
      : { behind: change.behind === null ? null : (names[list as ListName]?.get(change.behind) ?? change.behind) }),
  };
}

/**
 * Two windows that each add a part give both the same id. The ones of these edits get ids that neither the other version nor
 * they themselves use; null where no id was given twice.
 */
export function renamedApart(
  current: Machine,
  edits: readonly Edit[],
  clashes: readonly Clash[],
): ((changes: readonly Change[]) => Change[]) | null {
  const twice = clashes.filter(({ kind }) => kind === "id").map(({ change }) => change.path as readonly [ListName, string]);
  if (twice.length === 0) return null;
  const names = {
    parts: new Map<string, string>(),
    wires: new Map<string, string>(),
    modes: new Map<string, string>(),
    signals: new Map<string, string>(),
    decisions: new Map<string, string>(),
  };
  const taken = (list: ListName) => {
    const mine = edits.flatMap(({ changes }) => changes.flatMap(({ path }) => (path[0] === list && path[1] ? [{ id: path[1] }] : [])));
    return [...(current[list] ?? []), ...mine, ...[...names[list].values()].map((id) => ({ id }))];
  };
  for (const [list, id] of twice) names[list].set(id, freshId(id.replace(/\d+$/, "") || id, taken(list)));
  return (changes) => changes.map((change) => renamedChange(change, names));
}
