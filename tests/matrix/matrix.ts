import { analyseFully } from "@/core/analysis/fully";
import { applyCommand } from "@/core/machine/apply";
import { datasheet as f } from "@/core/machine/figure";
import { readMachine } from "@/core/machine/read";
import type { Cell, Machine, Part, TerminalRef, Wire } from "@/core/machine/schema";
import { inputTerminals } from "@/core/machine/terminals";
import { FIGURES, type FigurePath, valueAt, withValue } from "./figures";
import { base, FIXTURES, type Fixture, load } from "./fixtures";

type Fuse = NonNullable<Wire["fuse"]>;

/** What may be wrong with a figure. */
export const COLUMNS = ["too high", "too low", "missing", "reversed", "shared", "lasting"] as const;
export type Column = (typeof COLUMNS)[number];

export interface Row {
  kind: string;
  figure: FigurePath;
  cells: Readonly<Record<Column, readonly string[]>>;
}

/** How far a figure is moved, one after the other until somebody speaks. */
const FACTORS = [1.1, 1.5, 2.2, 3, 4, 5, 8, 10, 20, 60, 1000];
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
      reversed: [],
      shared: share && adds ? only(share) : [],
      lasting: adds ? only(lasting) : [],
    },
  };
}

/** A load judged by the volts it is meant for, as where no window is printed. */
function withoutWindow(machine: Machine, id: string): Machine {
  return moved(moved(machine, id, "inputMinV", undefined) ?? machine, id, "inputMaxV", undefined) ?? machine;
}

/** The machine with plus and minus of a part changed over. */
function turned(machine: Machine, part: Part): Machine {
  const [plus, minus] = part.kind === "pack" || part.kind === "supply" ? ["+", "-"] : Object.values(inputTerminals(part));
  const swap = (end: TerminalRef): TerminalRef =>
    end.part !== part.id || !plus || !minus
      ? end
      : { ...end, terminal: end.terminal === plus ? minus : end.terminal === minus ? plus : end.terminal };
  return { ...machine, wires: machine.wires.map((wire) => ({ ...wire, from: swap(wire.from), to: swap(wire.to) })) };
}

/** The feed of a part, and what a load draws: what is no number of its own. */
function rowsOfUse({ kind, id }: Fixture, machine: Machine): Row[] {
  const part = machine.parts.find((each) => each.id === id) as Part;
  const quiet = said(machine);
  const none = { "too high": [], "too low": [], missing: [], reversed: [], shared: [], lasting: [] };
  const own = machine.wires.filter(({ from, to }) => from.part === id || to.part === id);
  const without = (wire: Wire | undefined) =>
    wire ? newly(said({ ...machine, wires: machine.wires.filter((each) => each !== wire) }), quiet) : [];
  const [plus, minus] = part.kind === "pack" || part.kind === "supply" ? ["+", "-"] : Object.values(inputTerminals(part));
  const at = (terminal: string | null | undefined) =>
    own.find(({ from, to }) => [from, to].some((end) => end.part === id && end.terminal === terminal));
  const passes = part.kind === "bar" || part.kind === "switch";
  const gone = passes ? [own.find(({ to }) => to.part === id)] : [at(plus), at(minus)];
  const feed: Row = {
    kind,
    figure: "its feed",
    cells: {
      ...none,
      missing: [...new Set(gone.flatMap(without))].sort(),
      reversed: passes ? [] : newly(said(turned(machine, part)), quiet),
    },
  };
  if (part.kind !== "load") return [feed];
  const drawing = (change: (cell: Cell) => Cell | undefined) => {
    const cells = Object.fromEntries(
      Object.entries(part.cells).flatMap(([mode, cell]) => {
        const next = change(cell);
        return next ? [[mode, next] as const] : [];
      }),
    );
    return newly(said({ ...machine, parts: machine.parts.map((each) => (each.id === id ? { ...part, cells } : each)) }), quiet);
  };
  const times =
    (factor: number) =>
    (cell: Cell): Cell =>
      cell.state === "off" ? cell : { state: "amps", amps: f((cell.state === "amps" ? cell.amps.value : 2) * factor) };
  return [
    feed,
    {
      kind,
      figure: "what it draws",
      cells: {
        ...none,
        "too high": drawing(times(100)),
        "too low": drawing(times(0.05)),
        missing: drawing(() => undefined),
      },
    },
  ];
}

/** Wires and fuses, by what would be worse of each figure. */
function rowsOfWires(): Row[] {
  const machine = load(base(), "load", { loadKind: "heater", inputMinV: f(20), inputMaxV: f(31) }, 10, 14);
  const quiet = said(machine);
  const own = machine.wires.find(({ to, role }) => to.part === "load" && role === "supply") as Wire;
  const by = (changes: Partial<Wire>) =>
    newly(said({ ...machine, wires: machine.wires.map((wire) => (wire.id === own.id ? { ...wire, ...changes } : wire)) }), quiet);
  const rated = (ratingA: number, family: Fuse["family"] = "blade_regular_32v") => by({ fuse: { family, ratingA } });
  const row = (kind: string, figure: string, cells: Partial<Row["cells"]>): Row => ({
    kind,
    figure,
    cells: { "too high": [], "too low": [], missing: [], reversed: [], shared: [], lasting: [], ...cells },
  });
  const brief = by({ gauge: "18 AWG", fuse: { family: "blade_regular_32v", ratingA: 15 } });
  const forGood = newly(
    said(lasting({ ...machine, wires: machine.wires.map((wire) => (wire.id === own.id ? { ...wire, gauge: "16 AWG" } : wire)) })),
    quiet,
  );
  return [
    row("wire", "size", { "too low": by({ gauge: "24 AWG" }), missing: by({ gauge: undefined }), shared: brief, lasting: forGood }),
    row("wire", "length", { "too high": by({ lengthM: f(30) }), missing: by({ lengthM: undefined }) }),
    row("wire", "loaded wires together", { "too high": by({ bundle: 40 }) }),
    row("wire", "insulation", { "too low": by({ insulation: "pvc70", bundle: 12 }) }),
    row("wire", "soldered or moving", { missing: by({ moves: true }) }),
    row("fuse", "rating", { "too high": rated(40), "too low": rated(3), missing: by({ fuse: undefined, gauge: "20 AWG" }) }),
    row("fuse", "volts it breaks", { "too low": newly(said(raised(machine)), quiet) }),
    row("fuse", "wire before it", { "too high": by({ fuse: { family: "blade_regular_32v", ratingA: 20, atM: 0.5 }, gauge: "20 AWG" }) }),
    row("plug", "contacts", { "too low": by({ toEnd: { family: "crimp396" } }), missing: by({ toEnd: { family: "key60" } }) }),
  ];
}

/** The same on a pack whose volts a small fuse does not break. */
const raised = (machine: Machine): Machine => ({
  ...machine,
  parts: machine.parts.map((part) => (part.kind === "pack" ? { ...part, fullV: f(40) } : part)),
});

/** For every kind of part and every figure it can have: which rules speak when it is wrong. `stride`: every so many rows. */
export function matrix(stride = 1, first = 0): Row[] {
  const jobs = FIXTURES.flatMap((fixture): (() => Row[])[] => {
    const machine = fixture.make();
    const part = machine.parts.find(({ id }) => id === fixture.id) as Part;
    const paths = (FIGURES.get(part.kind) ?? []).filter(
      (path) => valueAt(part, path) !== undefined && (fixture.only?.includes(path) ?? true),
    );
    return [...(fixture.only ? [] : [() => rowsOfUse(fixture, machine)]), ...paths.map((path) => () => [rowOf(fixture, machine, path)])];
  });
  jobs.push(rowsOfWires);
  return jobs.filter((_, i) => i % stride === first).flatMap((job) => job());
}
