import type { Command, PartChanges } from "../machine/commands";
import type { Figure, Provenance } from "../machine/figure";
import type { Assumed, Machine, Part, Wire } from "../machine/schema";
import { editText } from "../quantity/format";
import type { Dimension } from "../quantity/units";

/** A supposed figure in its place: of a part or a wire, by the fields that lead to it. */
export interface Place {
  readonly of: "part" | "wire";
  readonly id: string;
  readonly path: readonly string[];
  readonly figure: Figure & { readonly low?: number | undefined; readonly high?: number | undefined };
}

/** Something that nobody has said: one figure, figures that go together, or a choice. */
export interface Assumption {
  readonly id: string;
  /** What is supposed, in the builder's words. */
  readonly what: string;
  /** What it is taken as now. */
  readonly now: string;
  /** From where to where it may be; null for a choice. */
  readonly range: string | null;
  /** Supposed figures it is made of. */
  readonly places: readonly Place[];
  /** A choice: what was chosen, and of which parts or links. */
  readonly choice: { readonly about: Assumed | "levels"; readonly ids: readonly string[] } | null;
  /** The part whose row shows it. */
  readonly at: string;
  /** What is typed to change it; null: it is changed at its part. */
  readonly typed: Dimension | null;
  /** How far its figures may be off: share below and above. */
  readonly off: { readonly low: number; readonly high: number };
}

/** Factors that figures without a range of their own may be off by (handbook uncertainty section 2, common practice). */
const OFF: Readonly<Record<string, { low: number; high: number }>> = {
  length: { low: 0.5, high: 2 },
  level: { low: 0.5, high: 2 },
  driver: { low: 0.6, high: 1.5 },
  converter: { low: 0.6, high: 1.5 },
  pack: { low: 0.6, high: 1.6 },
  rating: { low: 0.7, high: 1.5 },
  window: { low: 0.95, high: 1.05 },
  other: { low: 0.7, high: 1.4 },
};

function isFigure(value: unknown): value is Figure {
  return typeof value === "object" && value !== null && typeof (value as { value?: unknown }).value === "number" && "provenance" in value;
}

/** Every guess of a part or a wire, with the way to it. */
function guesses(of: Place["of"], id: string, value: object, path: readonly string[] = []): Place[] {
  return Object.entries(value).flatMap(([key, each]): Place[] => {
    if (isFigure(each)) return each.provenance === "guess" ? [{ of, id, path: [...path, key], figure: each }] : [];
    // What a method was told stands beside the figure it came to.
    const inner = typeof each === "object" && each !== null && key !== "basis" && path.length < 3;
    return inner ? guesses(of, id, each, [...path, key]) : [];
  });
}

const LEVEL_WORDS: Readonly<Record<string, string>> = { idle: "idle", run: "running", start: "starting", stall: "held still" };

/** "Gearmotor 1" to "Gearmotor 4" are one thing said of several. */
const stem = (name: string) => name.replace(/ \d+$/, "");

function together(names: readonly string[]): string {
  const stems = [...new Set(names.map(stem))];
  const shown = stems.slice(0, 2).join(", ");
  const rest = stems.length - 2;
  return rest > 0 ? `${shown} and ${rest} more` : shown;
}

interface Draftable {
  key: string;
  what: (names: readonly string[], many: number) => string;
  now: string;
  typed: Dimension | null;
  sort: keyof typeof OFF;
  range?: readonly [number, number];
}

/** What a supposed figure is one of. Figures with the same key are one row. */
function groupOf(machine: Machine, place: Place): Draftable | null {
  const { figure, path, of, id } = place;
  const shown = (dimension: Dimension) => editText(Number(figure.value.toPrecision(3)), dimension);
  if (of === "wire" || path.at(-1) === "lengthM") {
    const lead = path[0] === "ownLead" ? "own leads" : path[0] === "phaseLead" ? "motor leads" : "conductors";
    return {
      key: `length ${lead} ${figure.value}`,
      what: (names) => `Length of ${lead}: ${together(names)}`,
      now: shown("length"),
      typed: "length",
      sort: "length",
    };
  }
  const part = machine.parts.find((each) => each.id === id);
  if (!part) return null;
  const [field = "", inner = ""] = path;
  if (part.kind === "load") {
    if (field === "levels")
      return {
        key: `level ${inner} ${part.loadKind} ${stem(part.name)} ${figure.value}`,
        what: (names) => `${together(names)}, ${LEVEL_WORDS[inner] ?? inner}`,
        now: shown("current"),
        typed: "current",
        sort: "level",
        ...(figure.low !== undefined && figure.high !== undefined ? { range: [figure.low, figure.high] as const } : {}),
      };
    if (field === "cells")
      return { key: `cell ${id} ${inner}`, what: () => `${part.name} in one mode`, now: shown("current"), typed: "current", sort: "level" };
    if (field === "inputMinV" || field === "inputMaxV")
      return {
        key: `window ${part.nominalV.value}`,
        what: (names) => `${together(names)}: least and most volts`,
        now: "a usual window",
        typed: null,
        sort: "window",
      };
    if (field === "nominalV")
      return { key: `volts ${id}`, what: () => `${part.name} is made for`, now: shown("voltage"), typed: "voltage", sort: "window" };
    if (field === "stepper")
      return {
        key: `stepper ${inner} ${stem(part.name)} ${figure.value}`,
        what: (names) => `${together(names)}: ${inner === "setA" ? "drive set to" : inner === "phaseOhm" ? "ohms of a phase" : "a phase"}`,
        now: inner === "phaseOhm" ? shown("resistance") : shown("current"),
        typed: inner === "phaseOhm" ? "resistance" : "current",
        sort: "other",
      };
    return { key: `load ${id}`, what: () => `Other figures of ${part.name}`, now: "usual ones", typed: null, sort: "other" };
  }
  if (part.kind === "driver") {
    const note = part.note ?? "";
    return {
      key: `driver ${note} ${part.continuousA?.value} ${part.channels} ${part.headlineA?.value}`,
      what: (names) => `${together(names)}: which class`,
      now: note !== "" ? note : part.headlineA ? "half of what is printed" : "not known yet",
      typed: null,
      sort: "driver",
    };
  }
  if (part.kind === "converter")
    return {
      key: `converter ${id}`,
      what: () => `${part.name}: which class`,
      now: part.note ?? "a usual one",
      typed: null,
      sort: "converter",
    };
  if (part.kind === "pack")
    return {
      key: `pack ${id}`,
      what: () => `${part.name}: cells and their resistance`,
      now: part.note ?? "a usual one",
      typed: null,
      sort: "pack",
    };
  if (part.kind === "bar" || part.kind === "switch")
    return { key: "ratings", what: () => "Ratings of bars and contacts", now: "large enough for what flows", typed: null, sort: "rating" };
  return { key: `${part.kind} ${id}`, what: () => `Figures of ${part.name}`, now: "usual ones", typed: null, sort: "other" };
}

function nameAt(machine: Machine, place: Place): string {
  if (place.of === "part") return machine.parts.find(({ id }) => id === place.id)?.name ?? "";
  const wire = machine.wires.find(({ id }) => id === place.id);
  return wire ? wireName(machine, wire) : "";
}

function wireName(machine: Machine, wire: Wire): string {
  const back = wire.role === "return" || (wire.role === "phase" && wire.pair !== undefined);
  return machine.parts.find(({ id }) => id === (back ? wire.from.part : wire.to.part))?.name ?? "";
}

/** Choices that are no figures, a row a kind of choice. */
function choices(machine: Machine): Assumption[] {
  const of = (about: Assumed) => machine.parts.filter((part) => part.assumed?.includes(about));
  const row = (about: Assumed, parts: readonly Part[], what: string, now: string, range: string | null): Assumption[] => {
    const [first] = parts;
    return first
      ? [
          {
            id: about,
            what,
            now,
            range,
            places: [],
            choice: { about, ids: parts.map(({ id }) => id) },
            at: first.id,
            typed: null,
            off: { low: 0.6, high: 1.3 },
          },
        ]
      : [];
  };
  const [bars, stops, shares, joined] = [of("landing"), of("stop"), of("share"), of("joined")];
  const links = (machine.signals ?? []).filter(({ assumed }) => assumed);
  const link = links[0];
  return [
    ...row(
      "share",
      shares,
      `${together(shares.map(({ name }) => name))}: load while running`,
      "60 % of what they are rated for",
      "36 to 78 %",
    ),
    ...row("landing", bars, "Where returns come home", together(bars.map(({ name }) => name)), null),
    ...row("stop", stops, "An emergency stop cuts what moves", together(stops.map(({ name }) => name)), null),
    ...row("joined", joined, `How the blocks of ${together(joined.map(({ name }) => name))} are joined`, "one after the other", null),
    ...(link
      ? [
          {
            id: "levels",
            what: `Levels of ${links.length} link${links.length === 1 ? "" : "s"}`,
            now: "3.3 V out, inputs that take it",
            range: null,
            places: [],
            choice: { about: "levels" as const, ids: links.map(({ id }) => id) },
            at: link.from,
            typed: null,
            off: { low: 1, high: 1 },
          },
        ]
      : []),
  ];
}

/** Everything of a machine that nobody has said yet: guesses that go together, and what a draft chose. In the order of its parts. */
export function assumptionsOf(machine: Machine): Assumption[] {
  const groups = new Map<string, { about: Draftable; places: Place[] }>();
  const places = [
    ...machine.parts.flatMap((part) => guesses("part", part.id, part)),
    ...machine.wires.flatMap((wire) => guesses("wire", wire.id, wire)),
  ];
  for (const place of places) {
    const about = groupOf(machine, place);
    if (!about) continue;
    const group = groups.get(about.key);
    if (group) group.places.push(place);
    else groups.set(about.key, { about, places: [place] });
  }
  const figures = [...groups.values()].map(({ about, places: of }): Assumption => {
    const names = [...new Set(of.map((place) => nameAt(machine, place)))];
    const first = of[0] as Place;
    const off = OFF[about.sort] ?? { low: 0.7, high: 1.4 };
    const { value } = first.figure;
    const [low, high] = about.range ?? [value * off.low, value * off.high];
    const range = about.typed
      ? `${editText(Number(low.toPrecision(2)), about.typed)} to ${editText(Number(high.toPrecision(2)), about.typed)}`
      : null;
    const wire = first.of === "wire" ? machine.wires.find(({ id }) => id === first.id) : undefined;
    return {
      id: about.key,
      what: about.what(names, of.length),
      now: about.now,
      range,
      places: of,
      choice: null,
      at: wire
        ? (machine.parts.find(({ id }) => id === (wire.role === "return" ? wire.from.part : wire.to.part))?.id ?? first.id)
        : first.id,
      typed: about.typed,
      off: about.range && value > 0 ? { low: low / value, high: high / value } : off,
    };
  });
  return [...figures, ...choices(machine)];
}

/** The object with the figure at a path replaced. */
function withFigure<T extends object>(value: T, path: readonly string[], make: (figure: Figure) => Figure): T {
  const [key, ...rest] = path;
  if (key === undefined) return value;
  const now = (value as Record<string, unknown>)[key];
  if (typeof now !== "object" || now === null) return value;
  return { ...value, [key]: rest.length === 0 ? make(now as Figure) : withFigure(now, rest, make) };
}

/** A machine with the figures of an assumption made other ones. */
export function withPlaces(machine: Machine, places: readonly Place[], make: (figure: Figure, path: readonly string[]) => Figure): Machine {
  const by = new Map<string, Place[]>();
  for (const place of places) by.set(`${place.of} ${place.id}`, [...(by.get(`${place.of} ${place.id}`) ?? []), place]);
  const made = <T extends { id: string }>(of: Place["of"], each: T): T =>
    (by.get(`${of} ${each.id}`) ?? []).reduce((now, { path }) => withFigure(now, path, (figure) => make(figure, path)), each);
  return { ...machine, parts: machine.parts.map((part) => made("part", part)), wires: machine.wires.map((wire) => made("wire", wire)) };
}

/** The commands that write the figures of an assumption anew. */
function written(machine: Machine, places: readonly Place[], make: (figure: Figure) => Figure): Command[] {
  const then = withPlaces(machine, places, make);
  const ids = (of: Place["of"]) => [...new Set(places.filter((place) => place.of === of).map(({ id }) => id))];
  return [
    ...ids("part").flatMap((id): Command[] => {
      const part = then.parts.find((each) => each.id === id);
      const fields = new Set(places.filter((place) => place.of === "part" && place.id === id).map(({ path }) => path[0] as string));
      return part
        ? [
            {
              type: "updatePart",
              id,
              changes: Object.fromEntries(
                [...fields].map((field) => [field, (part as unknown as Record<string, unknown>)[field]]),
              ) as PartChanges,
            },
          ]
        : [];
    }),
    ...ids("wire").flatMap((id): Command[] => {
      const wire = then.wires.find((each) => each.id === id);
      return wire?.lengthM ? [{ type: "updateWire", id, changes: { lengthM: wire.lengthM } }] : [];
    }),
  ];
}

/** How something is known once the builder says that it is so: a length by the tape, all else by what is printed on it. */
export function knownAs(assumption: Assumption): Provenance {
  return assumption.typed === "length" ? "measured" : "datasheet";
}

/** Says that an assumption holds: its figures are known from then on, its choice is the builder's. */
export function confirmed(machine: Machine, assumption: Assumption, as: Provenance = knownAs(assumption)): Command {
  const label = `It is so: ${assumption.what}`.slice(0, 200);
  const { choice } = assumption;
  if (!choice) {
    const plain = ({ value, tolerance }: Figure): Figure => ({ value, provenance: as, ...(tolerance === undefined ? {} : { tolerance }) });
    return { type: "batch", label, commands: written(machine, assumption.places, plain) };
  }
  if (choice.about === "levels")
    return {
      type: "batch",
      label,
      commands: choice.ids.map((id) => ({ type: "updateSignal" as const, id, changes: { assumed: undefined } as never })),
    };
  return {
    type: "batch",
    label,
    commands: choice.ids.map((id): Command => {
      const rest = machine.parts.find((part) => part.id === id)?.assumed?.filter((about) => about !== choice.about) ?? [];
      return { type: "updatePart", id, changes: { assumed: rest.length > 0 ? rest : undefined } };
    }),
  };
}

/** Says what an assumption really is: every figure of it gets the value. */
export function answered(machine: Machine, assumption: Assumption, value: number, as: Provenance = knownAs(assumption)): Command {
  const label = `${assumption.what}: ${assumption.typed ? editText(value, assumption.typed) : value}`.slice(0, 200);
  return { type: "batch", label, commands: written(machine, assumption.places, () => ({ value, provenance: as })) };
}
