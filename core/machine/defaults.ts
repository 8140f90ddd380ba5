import { guess, typical } from "./figure";
import { FORMAT, FORMAT_VERSION, type Machine, type Part, type PartKind, type PartOf, type Settings } from "./schema";

/** Limits: handbook wires-and-connectors section 4 (motor feeders 2-5 %, 10 % at stall; logic rails 2-3 %), common practice. */
export const DEFAULT_SETTINGS: Settings = {
  ambientC: 25,
  bundle: 1,
  conductorC: 60,
  jointOhm: 2e-4,
  dropPowerPercent: 5,
  dropBriefPercent: 10,
  dropLogicPercent: 3,
  schools: { fuseLoadFactor: "75 %" },
};

/** An empty machine with one mode and the usual settings. */
export function newMachine(name: string): Machine {
  return {
    format: FORMAT,
    version: FORMAT_VERSION,
    name,
    description: "",
    settings: structuredClone(DEFAULT_SETTINGS),
    modes: [{ id: "m1", name: "Running", lastsS: null }],
    parts: [],
    wires: [],
  };
}

/** The smallest unused id with this prefix, so that replaying the same commands gives the same document. */
export function freshId(prefix: string, taken: Iterable<{ id: string }>): string {
  const used = new Set<string>();
  for (const { id } of taken) used.add(id);
  let n = used.size + 1;
  while (used.has(`${prefix}${n}`)) n++;
  return `${prefix}${n}`;
}

/** Kinds of parts as they are shown. */
export const KIND_NAMES: Readonly<Record<PartKind, string>> = {
  pack: "Pack",
  supply: "DC supply",
  bar: "Bus bar",
  switch: "Switch",
  fuse: "Fuse",
  driver: "Motor driver",
  converter: "Converter",
  load: "Load",
};

type NewPart<K extends PartKind> = Omit<PartOf<K>, "id" | "name" | "kind">;

/**
 * What a fresh part of each kind starts with. Figures are typical, from memory: contact of a battery switch 0.3 mΩ,
 * driver bridge 20 mΩ, buck efficiency 0.88 and output 10 mΩ; overload limit is left open until known.
 */
const STARTS: { [K in PartKind]: () => NewPart<K> } = {
  pack: () => ({ openCircuitV: guess(12) }),
  supply: () => ({ outputV: guess(24), outputOhm: typical(0.01) }),
  bar: () => ({ side: "positive" }),
  switch: () => ({ contactOhm: typical(3e-4), openIn: [] }),
  fuse: () => ({ fuse: { family: "blade_regular_32v", ratingA: 10 } }),
  driver: () => ({ channels: 1, bridgeOhm: typical(0.02), ownA: typical(0.05) }),
  converter: () => ({
    topology: "buck",
    isolated: false,
    outputV: guess(5),
    efficiency: typical(0.88),
    outputOhm: typical(0.01),
    quiescentA: typical(0.01),
  }),
  load: () => ({ loadKind: "motor", count: 1, behaviour: "current", nominalV: guess(12), cells: {} }),
};

/** A part of the kind with its starting figures, overridden by `over`. */
export function newPart<K extends PartKind>(kind: K, id: string, name: string, over: Partial<NewPart<K>> = {}): Extract<Part, { kind: K }> {
  return { id, name, kind, ...STARTS[kind](), ...over } as unknown as Extract<Part, { kind: K }>;
}
