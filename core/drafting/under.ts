import { usualBehaviour } from "../loads/behaviour";
import { canStall } from "../loads/budget";
import type { Command } from "../machine/commands";
import { freshId, newPart } from "../machine/defaults";
import { type Figure, guess, typical } from "../machine/figure";
import { placeUnder } from "../machine/placing";
import type { Cell, Load, Machine, Part, PartKind } from "../machine/schema";
import { ledgerOf, nominalOf } from "../machine/tree";
import { contactFor } from "../sizing/ratings";
import { namedConverter } from "./make-converter";
import { namedDriver } from "./make-driver";
import { figure, loadFigures, onRail } from "./make-load";
import { packFigures, supplyFigures } from "./make-source";
import type { PartReading, Reading, ReadLine } from "./reading";

/** A line as a part in its place: the step that adds it, or why that cannot be. */
export type Under = { readonly ok: true; readonly command: Command; readonly id: string } | { readonly ok: false; readonly why: string };

/** A part without its place. */
interface Made {
  kind: PartKind;
  name: string;
  figures: object;
  more?: readonly { name: string; figures: object }[];
  negative?: boolean;
}

/** Volts of the rail a place is on; null for a new source. */
export function railAt(machine: Machine, id: string | undefined): { volts: number; lowV: number; highV: number } | null {
  if (id === undefined) return null;
  const ledger = ledgerOf(machine);
  const own = ledger.rails.find(({ origin }) => origin === id) ?? ledger.rowOf.get(id)?.rail;
  const origin = machine.parts.find((part) => part.id === own?.origin);
  if (!own) return null;
  if (origin?.kind === "pack")
    return { volts: own.volts, lowV: origin.lowV?.value ?? own.volts * 0.85, highV: origin.fullV?.value ?? own.volts * 1.15 };
  return { volts: own.volts, lowV: own.volts * 0.97, highV: own.volts };
}

const LOAD_A = 1;

/** What a line is as a part, with the volts of the rail where it says none. */
function madeOf(machine: Machine, reading: Reading, rail: ReturnType<typeof railAt>): Made | string {
  switch (reading.is) {
    case "load": {
      const said = reading.volts && reading.volts.low === undefined ? figure(reading.volts) : null;
      const volts: Figure | null = said ?? (rail ? typical(nominalOf(rail.volts)) : null);
      if (!volts) return "Without volts nobody can tell what it draws. Write them.";
      const figures = loadFigures(reading, volts, reading.count);
      return { kind: "load", name: reading.name, figures: rail ? onRail(figures, reading, rail) : figures };
    }
    case "pack": {
      const figures = packFigures(reading, LOAD_A, machine.settings.coldestC ?? 25);
      return figures ? { kind: "pack", name: reading.name, figures } : "How many cells, or how many volts? Write either.";
    }
    case "supply": {
      const [first, ...rest] = reading.outputs.map((output) => ({
        name: reading.outputs.length > 1 ? `${reading.name} ${output.volts.value} V` : reading.name,
        figures: supplyFigures(reading, output),
      }));
      return first ? { kind: "supply", ...first, more: rest } : "How many volts does it give? Write them.";
    }
    case "converter":
      if (!reading.outputV) return "How many volts does it give? Write them.";
      return {
        kind: "converter",
        name: reading.name,
        figures: namedConverter(
          reading,
          reading.outputV.value,
          rail ?? { lowV: reading.outputV.value * 1.5, highV: reading.outputV.value * 3 },
        ),
      };
    case "driver":
      return { kind: "driver", name: reading.name, figures: namedDriver(reading, rail ?? { lowV: 10, highV: 14 }).figures };
    case "stop":
    case "switch":
    case "fuse":
    case "bar":
    case "port":
    case "diode":
      return partOf(reading, rail?.highV ?? 12);
    case "lengths":
    case "link":
    case "about":
      return "That is no part. The key + takes such lines.";
    default:
      return "Write what it is: pump 12 V 3 A.";
  }
}

/** A contact, a fuse or a bar by its line: ratings that are not told are supposed from the amps that are. */
function partOf({ is, name, amps }: PartReading, highV: number): Made | string {
  const rated = amps ? figure(amps) : undefined;
  const contact = (device: "isolator" | "contactor" | "charging port"): object => ({
    device,
    ...(rated ? { ratedA: rated, breakA: guess(rated.value), breakV: guess(Math.ceil(highV * 1.2)) } : {}),
  });
  switch (is) {
    case "stop":
      return {
        kind: "switch",
        name,
        figures: { ...contact("contactor"), clamp: "clamp", stop: { devices: 1, normallyClosed: true, deliberateReset: true } },
      };
    case "switch":
      return { kind: "switch", name, figures: contact("isolator") };
    case "port":
      return { kind: "switch", name, figures: contact("charging port") };
    case "bar":
      return {
        kind: "bar",
        name,
        figures: {
          ...(rated ? { ratedA: rated } : {}),
          ...(/block|box/i.test(name) ? { form: "fuse block" } : /strip/i.test(name) ? { form: "terminal strip" } : {}),
        },
        negative: /ground|negative|minus/i.test(name),
      };
    case "fuse":
      return {
        kind: "fuse",
        name,
        figures: {
          fuse: {
            family: highV > 30 || contactFor(rated?.value ?? 0) > 40 ? "strip_m5_58v" : "blade_regular_32v",
            ratingA: rated?.value ?? 10,
          },
        },
      };
    case "diode":
      return "A diode stands at the source or converter it guards. Select that first, and add it there.";
  }
}

/** What it does in the modes there are: it runs, and what turns or has a start of its own starts where others do. */
function cellsFor(machine: Machine, load: Load): Record<string, Cell> {
  if (Object.keys(load.levels ?? {}).length === 0) return {};
  const others = machine.parts.filter((part): part is Load => part.kind === "load");
  return Object.fromEntries(
    machine.modes.map(({ id }): [string, Cell] => {
      const states = others.filter((other) => canStall(other) === canStall(load)).flatMap(({ cells }) => cells[id]?.state ?? []);
      const alike = states.length > 0 && states.every((state) => state === states[0]) ? states[0] : null;
      if (alike === "off") return [id, { state: "off" }];
      return [id, alike === "start" ? { state: "start" } : { state: "run", percent: 100 }];
    }),
  );
}

/** Adds what a line says under a part, with supply and return in one step; volts come from the rail where it says none. */
export function addUnder(machine: Machine, under: string | null, { reading, troubles }: ReadLine, outlet = ""): Under {
  const placing = placeUnder(machine, ledgerOf(machine), under, outlet);
  if (reading === null || troubles.length > 0) return { ok: false, why: troubles[0]?.why ?? "That is not understood." };
  const { parent } = placing;
  if (reading.is === "diode" && parent && (parent.kind === "pack" || parent.kind === "supply" || parent.kind === "converter"))
    return { ok: true, id: parent.id, command: { type: "updatePart", id: parent.id, changes: { diode: true } } };
  const made = madeOf(machine, reading, railAt(machine, placing.parent?.id));
  if (typeof made === "string") return { ok: false, why: made };
  const choice = made.negative ? "returnBar" : made.kind;
  if (!placing.kinds.includes(choice)) {
    const source = made.kind === "pack" || made.kind === "supply";
    return {
      ok: false,
      why: source
        ? "A source hangs under nothing: add it as a source."
        : `${placing.parent ? `That cannot hang under ${placing.parent.name}.` : "Only a source can begin a plan."} Select where it belongs first.`,
    };
  }
  const taken = new Set(machine.parts.map(({ name }) => name.toLowerCase()));
  const free = (name: string) => {
    let called = name;
    for (let n = 2; taken.has(called.toLowerCase()); n++) called = `${name} ${n}`;
    taken.add(called.toLowerCase());
    return called;
  };
  const ids: { id: string }[] = machine.parts.map(({ id }) => ({ id }));
  const next = () => {
    const id = freshId("p", ids);
    ids.push({ id });
    return id;
  };
  const id = next();
  const part = newPart(made.kind, id, free(made.name), {
    ...made.figures,
    ...(made.negative ? { side: "negative" as const } : {}),
  } as never) as Part;
  if (part.kind === "load") part.cells = cellsFor(machine, { ...part, behaviour: part.behaviour ?? usualBehaviour(part.loadKind) });
  const needsReturn = made.kind === "load" || made.kind === "driver" || made.kind === "converter" || made.negative === true;
  const wire = "lengthM" in reading && reading.lengthM ? { lengthM: figure(reading.lengthM) } : {};
  const feed = placing.parent
    ? {
        ...(placing.from && !made.negative ? { from: placing.from } : {}),
        ...(needsReturn && placing.landings[0] ? { back: placing.landings[0].at } : {}),
        wire,
      }
    : undefined;
  const more = (made.more ?? []).map(
    (each): Command => ({ type: "addPart", part: newPart("supply", next(), free(each.name), { ...each.figures, box: id } as never) }),
  );
  const first: Command = { type: "addPart", part, ...(feed ? { feed } : {}) };
  return { ok: true, id, command: more.length === 0 ? first : { type: "batch", label: `Add ${part.name}`, commands: [first, ...more] } };
}

/** A line ready to be taken or changed. */
export interface Ready {
  readonly line: string;
  readonly what: string;
}

/** Sources people have, as lines. */
const SOURCES: readonly Ready[] = [
  { line: "9V block", what: "smoke-alarm battery" },
  { line: "4 AA cells", what: "in a holder" },
  { line: "2S lipo 5 Ah", what: "7.4 V pouch" },
  { line: "3S lipo 5 Ah", what: "11.1 V pouch" },
  { line: "pack 12 V 7 Ah AGM", what: "sealed block" },
  { line: "plug-in adapter 12 V 2 A", what: "for the wall" },
  { line: "computer supply 12 V 16 A + 5 V 20 A", what: "both outputs" },
  { line: "USB charger 5 V 2.4 A", what: "a port" },
];

/** What usually comes next under a part, what fits its rail first; a second like the last of its kind there. */
export function usuallyNext(machine: Machine, under: string | null): Ready[] {
  if (under === null || machine.parts.length === 0) return [...SOURCES];
  const ledger = ledgerOf(machine);
  const part = machine.parts.find(({ id }) => id === under);
  const placing = placeUnder(machine, ledger, under);
  const rail = railAt(machine, placing.parent?.id);
  const volts = rail ? nominalOf(rail.volts) : null;
  const small = volts !== null && volts <= 6;
  const has = (kind: PartKind) => ledger.rows.some((row) => row.parent === placing.parent?.id && row.part.kind === kind);
  const ready: Ready[] = [];
  const put = (kind: PartKind, line: string, what: string) => {
    if (placing.kinds.includes(kind)) ready.push({ line, what });
  };
  if (part?.kind === "pack" && !has("fuse")) put("fuse", "main fuse 40 A", "at the plus, before anything else");
  if ((part?.kind === "fuse" || part?.kind === "supply") && !has("switch")) put("switch", "main switch 60 A", "to take the power away");
  if (part?.kind === "switch" && !has("bar")) put("bar", "bus bar 100 A", "where the feeds begin");
  if (placing.parent?.kind === "driver") put("load", `motor ${volts ?? 24} V 5 A`, "on the next free channel");
  else if (small) {
    put("load", `controller ${volts} V 0.3 A`, "a board");
    put("load", `computer ${volts} V 3 A max`, "a single board one");
    put("load", `servo ${volts} V 1 A stall`, "one of several");
  } else if (volts !== null) {
    put("driver", `motor driver ${volts} V 20 A`, "for a motor");
    put("converter", "5 V converter 5 A", "for boards");
    put("load", `light ${volts} V 10 W`, "straight on the rail");
    put("load", `volt meter ${volts} V 20 mA`, "to see the battery");
    put("switch", "charging port 10 A", "for the charger");
  }
  return ready;
}
