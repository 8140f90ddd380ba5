import { contactRating } from "../connectors/contact";
import { endsOf } from "../connectors/ends";
import { type Build, perBuild } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { Worst } from "../figures/types";
import { limitAt } from "../fuses/pick";
import type { Wire } from "../machine/schema";
import { gaugeById } from "../reference/gauges";
import { airAround } from "../wires/ampacity";
import { type Chord, groundOf } from "./ground";

/** A thin conductor that joins two grounds, and what heavier metal joins them too. */
export interface SignalGround {
  wire: Wire;
  /** The other way round; empty where this conductor is the only one, so no loop. */
  chord: Chord | null;
  /** Current in it by mode, A, from its `from` to its `to`. */
  amps: Float64Array;
  worst: Worst;
  /** What it may carry: wire and connectors, A; null where neither is known. */
  limitA: number | null;
  /** Its size or length is missing, or an unknown load would add to it. */
  unsure: boolean;
}

/** The same, by wire id, whatever flows in them. */
export const thinGrounds = perBuild((build): ReadonlyMap<string, Pick<SignalGround, "wire" | "chord" | "limitA">> => {
  const chords = new Map(groundOf(build).chords.map((chord) => [chord.wire.id, chord]));
  const wires = build.machine.wires.filter(({ role }) => role === "signal");
  return new Map(wires.map((wire) => [wire.id, { wire, chord: chords.get(wire.id) ?? null, limitA: leastLimit(build, wire) }]));
});

/** Every signal ground and every shield tied at both ends, with the current it carries. */
export function signalGrounds(figures: Figures): SignalGround[] {
  return [...thinGrounds(figures).values()].flatMap((ground): SignalGround[] => {
    const { wire } = ground;
    const figure = figures.wires[wire.id];
    if (!figure) return [];
    const unsure = figure.worstAtLeast || wire.gauge === undefined || wire.lengthM === undefined;
    return [{ ...ground, amps: figure.amps, worst: figure.worst, unsure }];
  });
}

/** The least of what a conductor and its connectors carry continuously, A; null where nothing is known. */
export function leastLimit(figures: Build, wire: Wire): number | null {
  const { settings } = figures.machine;
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  // Tables for power wiring end above the sizes of signal wires: heat balance has them all.
  const byHeat = gauge ? limitAt(gauge, wire, { ...settings, schools: { ...settings.schools, ampacity: "heat balance" } }) : null;
  const limits = [figures.wires[wire.id]?.limitA ?? byHeat];
  const airC = airAround(wire, figures.machine.settings);
  for (const { row, at } of endsOf(wire)) limits.push(contactRating(row, at, airC)?.limitA ?? null);
  const told = limits.filter((limit) => limit !== null);
  return told.length === 0 ? null : Math.min(...told);
}

/** Loops closed on purpose: a second link between bars, which holds when the first comes loose. */
export const secondLinks = perBuild((figures): readonly Chord[] => {
  const barOrSource = (id: string) => ["bar", "pack", "supply"].includes(figures.partOf.get(id)?.kind ?? "");
  return groundOf(figures).chords.filter(({ wire }) => wire.role === "return" && barOrSource(wire.from.part) && barOrSource(wire.to.part));
});

/** Returns that make a part's ground twice: a second way home beside the first. */
export const secondReturns = perBuild((figures): readonly Chord[] => {
  const links = new Set(secondLinks(figures));
  return groundOf(figures).chords.filter((chord) => chord.wire.role === "return" && !links.has(chord));
});
