import type { Command, PartChanges } from "@/core/machine/commands";
import type { Figure } from "@/core/machine/figure";
import type { Machine, Part, Wire } from "@/core/machine/schema";
import { stringsOf } from "@/core/machine/strings";
import { edited } from "./oracle";

/** A change that makes nothing worse: whatever is said of the machine after it was said before. */
export interface Harmless {
  kind: string;
  place: string;
  /** The machine after it, made when it is asked for; null where the edit is refused. */
  after(): Machine | null;
}

const times = (figure: Figure, by: number): Figure => ({ ...figure, value: Number((figure.value * by).toPrecision(6)) });

/** Figures of which more is only room: what parts bear and give continuously. */
const ROOM = [
  "ratedA",
  "continuousA",
  "peakA",
  "breakA",
  "breakV",
  "makeA",
  "capacityAh",
  "inputMaxV",
  "prechargeJ",
  "junctionMaxC",
  "heatsinkA",
  "airA",
  "totalA",
  "groundA",
  "copperMm2",
  "brakePulseJ",
  "startF",
];
/** Figures of which less is only room. */
const LESS = ["inputMinV", "brakingJ", "kelvinPerWatt", "quiescentA", "minLoadA", "pickUpV"];

function* ofPart(part: Part, inString: boolean): Generator<{ kind: string; command: Command }> {
  const change = (changes: PartChanges): Command => ({ type: "updatePart", id: part.id, changes });
  yield { kind: "another name", command: change({ name: `${part.name} (new)` }) };
  yield { kind: "a note", command: change({ note: "bought second-hand, with a scratch" }) };
  yield { kind: "a mass", command: change({ massKg: { value: 1.2, provenance: "guess" } }) };
  yield { kind: "a price", command: change({ cost: 12 }) };
  const figures = part as unknown as Record<string, Figure | undefined>;
  for (const key of ROOM)
    if (figures[key]?.value && !(key === "capacityAh" && inString))
      yield { kind: `more room in ${key}`, command: change({ [key]: times(figures[key] as Figure, 1.1) } as PartChanges) };
  for (const key of LESS)
    if (figures[key]?.value)
      yield { kind: `less in ${key}`, command: change({ [key]: times(figures[key] as Figure, 0.9) } as PartChanges) };
  for (const key of [...ROOM, ...LESS])
    if (figures[key]?.provenance === "typical")
      yield { kind: `${key} measured`, command: change({ [key]: { ...figures[key], provenance: "measured" } } as PartChanges) };
  if (part.kind === "load")
    for (const [mode, cell] of Object.entries(part.cells))
      if (cell.state === "amps" && cell.amps.value > 0)
        yield {
          kind: "a little less current",
          command: { type: "setCell", loadId: part.id, modeId: mode, cell: { ...cell, amps: times(cell.amps, 0.97) } },
        };
}

function* ofWire(wire: Wire): Generator<{ kind: string; command: Command }> {
  const change = (changes: Partial<Wire>): Command => ({ type: "updateWire", id: wire.id, changes }) as Command;
  yield { kind: "a label", command: change({ label: `L-${wire.id}` }) };
  yield { kind: "a colour", command: change({ colour: "red" }) };
  yield { kind: "left as it is when sized", command: change({ pinned: true }) };
  if (wire.pair !== undefined) yield { kind: "twisted", command: change({ twisted: true }) };
  if (wire.lengthM) yield { kind: "a hair shorter", command: change({ lengthM: times(wire.lengthM, 0.99) }) };
  if ((wire.bundle ?? 1) > 1) yield { kind: "fewer beside it", command: change({ bundle: (wire.bundle ?? 2) - 1 }) };
  if (wire.insulation === "pvc80" && !wire.moves) yield { kind: "insulation that bears more", command: change({ insulation: "xlpe125" }) };
}

function* ofMachine(machine: Machine): Generator<{ kind: string; command: Command }> {
  yield { kind: "another name of the machine", command: { type: "rename", name: "Something else" } as Command };
  for (const by of [1, 3, 5])
    yield { kind: "cooler air", command: { type: "setSettings", changes: { ambientC: machine.settings.ambientC - by } } };
  if (machine.settings.wantedRunS)
    yield { kind: "a shorter run wished", command: { type: "setSettings", changes: { wantedRunS: 0.9 * machine.settings.wantedRunS } } };
  for (const { id, name, lastsS } of machine.modes) {
    yield { kind: "another name of a mode", command: { type: "updateMode", id, changes: { name: `${name} 2` } } };
    if (lastsS !== null) yield { kind: "a shorter mode", command: { type: "updateMode", id, changes: { lastsS: 0.9 * lastsS } } };
  }
}

/** Every harmless change of a machine. */
export function* harmlessIn(machine: Machine): Generator<Harmless> {
  const all = [
    ...machine.parts.flatMap((part) =>
      [...ofPart(part, (stringsOf(machine).down.get(part.id)?.length ?? 1) > 1 || stringsOf(machine).top.get(part.id) !== part)].map(
        (each) => ({ ...each, place: part.name }),
      ),
    ),
    ...machine.wires.flatMap((wire) => [...ofWire(wire)].map((each) => ({ ...each, place: wire.id }))),
    ...[...ofMachine(machine)].map((each) => ({ ...each, place: "the machine" })),
  ];
  for (const { kind, place, command } of all) yield { kind, place, after: () => edited(machine, command) };
}
