import { analyseFully } from "@/core/analysis/analyse";
import { applyCommand } from "@/core/machine/apply";
import { readMachine } from "@/core/machine/read";
import type { Machine, Part } from "@/core/machine/schema";
import { FIGURES, type FigurePath, valueAt, withValue } from "./figures";
import { FIXTURES, type Fixture } from "./fixtures";

/** What may be wrong with a figure. */
export const COLUMNS = ["too high", "too low", "missing", "shared", "lasting"] as const;
export type Column = (typeof COLUMNS)[number];

export interface Row {
  kind: string;
  figure: FigurePath;
  cells: Readonly<Record<Column, readonly string[]>>;
}

/** How far a figure is moved, one after the other until somebody speaks. */
const FACTORS = [1.1, 1.5, 2.2, 3.5, 5, 8, 12, 20, 60, 1000];
/** Where a rating is set so that one alone is within it. */
const SHARES = [1, 0.8, 0.65, 0.5, 0.4, 0.3, 0.2, 0.1, 0.05];
/** Ratings that several may use up together, or one for too long. */
export const ADDS_UP = /A$|boxW|startF|capacityAh|copperMm2|kelvinPerWatt/;

/** What is said of a machine: a verdict's id with its severity, so that one that gets worse is heard too. */
function said(machine: Machine | null): ReadonlySet<string> {
  return new Set(machine === null ? [] : analyseFully(machine).analysis.verdicts.map(({ id, severity }) => `${id} ${severity}`));
}

/** The rules that speak in one and not in the other. */
function newly(now: ReadonlySet<string>, ...before: readonly ReadonlySet<string>[]): string[] {
  const fresh = [...now].filter((each) => !before.some((old) => old.has(each)));
  return [...new Set(fresh.map((each) => each.split(":")[0]?.split(" ")[0] ?? ""))].sort();
}

/** The machine with another value of a figure; null where such a document is refused as it is typed. */
function moved(machine: Machine, id: string, path: FigurePath, value: number | undefined): Machine | null {
  const parts = machine.parts.map((part) => (part.id === id ? withValue(part, path, value) : part));
  const read = readMachine({ ...machine, parts });
  return read.ok ? read.machine : null;
}

const lasting = (machine: Machine): Machine => {
  const made = applyCommand(machine, { type: "updateMode", id: "push", changes: { lastsS: null } });
  if (!made.ok) throw new Error(made.message);
  return made.machine;
};

function rowOf({ kind, id, share }: Fixture, made: Machine, path: FigurePath): Row {
  const machine = path === "nominalV" ? withoutWindow(made, id) : made;
  const quiet = said(machine);
  const adds = ADDS_UP.test(path);
  const part = machine.parts.find((each) => each.id === id) as Part;
  const value = valueAt(part, path) as number;
  const first = (tries: readonly (() => readonly string[])[]): readonly string[] => {
    for (const attempt of tries) {
      const found = attempt();
      if (found.length > 0) return found;
    }
    return [];
  };
  const by = (factor: number) => () => newly(said(moved(machine, id, path, value * factor)), quiet);
  const generous = moved(machine, id, path, value * 20) ?? machine;
  /** Something added that is heard only where the figure is near: alone it is not, and with room it is not. */
  const only = (add: (machine: Machine) => Machine) => {
    const withRoom = said(add(generous));
    return first(
      SHARES.map((factor) => () => {
        const tight = moved(machine, id, path, value * factor);
        return tight ? newly(said(add(tight)), said(tight), withRoom) : [];
      }),
    );
  };
  return {
    kind,
    figure: path,
    cells: {
      "too high": first(FACTORS.map(by)),
      "too low": first(FACTORS.map((factor) => by(1 / factor))),
      missing: newly(said(moved(machine, id, path, undefined)), quiet),
      shared: share && adds ? only(share) : [],
      lasting: adds ? only(lasting) : [],
    },
  };
}

/** A load judged by the volts it is meant for, as where no window is printed. */
function withoutWindow(machine: Machine, id: string): Machine {
  return moved(moved(machine, id, "inputMinV", undefined) ?? machine, id, "inputMaxV", undefined) ?? machine;
}

/** For every kind of part and every figure it can have: which rules speak when it is wrong. */
export function matrix(): Row[] {
  return FIXTURES.flatMap((fixture) => {
    const machine = fixture.make();
    const part = machine.parts.find(({ id }) => id === fixture.id) as Part;
    return (FIGURES.get(part.kind) ?? [])
      .filter((path) => valueAt(part, path) !== undefined && (fixture.only?.includes(path) ?? true))
      .map((path) => rowOf(fixture, machine, path));
  });
}
