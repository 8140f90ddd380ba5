import { usualBehaviour } from "../loads/behaviour";
import { levelsCommand } from "../loads/fill";
import type { Command } from "../machine/commands";
import { freshId, newPart } from "../machine/defaults";
import { guess } from "../machine/figure";
import { placeUnder } from "../machine/placing";
import type { Load, Machine, Part } from "../machine/schema";
import { NAME_MAX, NOTE_MAX } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { ledgerOf, nominalOf } from "../machine/tree";
import { parseGauge } from "../reference/gauges";
import { LOAD_KINDS, type LoadKind } from "../reference/load-kinds";
import { type Column, type ReadRow, RowReader, type Sheeted } from "./columns";

/** Columns of a list of loads. */
export type LoadColumn = "name" | "volts" | "amps" | "watts" | "count" | "stall" | "start" | "idle" | "kind" | "gauge" | "length" | "note";

/** The columns a list of loads may have; without headings the first ones count, in this order. */
export const LOAD_COLUMNS: readonly Column<LoadColumn>[] = [
  { key: "name", label: "Name", words: /name|what|part|load|device|motor\b|item|description/, needed: true, place: 0 },
  { key: "volts", label: "Volts", words: /volt|^u\b|^v\b|\(v\)|spannung/, place: 1 },
  { key: "stall", label: "Stall amps", words: /stall|locked|blocked/, place: 4 },
  { key: "start", label: "Start amps", words: /start|peak|inrush|max/ },
  { key: "idle", label: "Idle amps", words: /idle|no.?load|standby|quiescent|free/ },
  { key: "amps", label: "Running amps", words: /amp|current|^i\b|^m?a\b|\(m?a\)|run|rated|strom/, place: 2 },
  { key: "watts", label: "Watts", words: /watt|power|^p\b|^w\b|\(w\)|leistung/ },
  { key: "count", label: "How many", words: /count|qty|quantity|pieces|pcs|how many|number|anzahl|^n\b|^#/, place: 3 },
  { key: "kind", label: "Kind", words: /kind|type|sort|art/ },
  { key: "gauge", label: "Wire", words: /wire|gauge|awg|mm²|mm2|size/ },
  { key: "length", label: "Length", words: /length|run of|metres|meters|distance|länge/ },
  { key: "note", label: "Note", words: /note|remark|comment/ },
];

/** A load as a row of a list gives it. */
export interface ListedLoad {
  readonly name: string;
  readonly loadKind: LoadKind;
  readonly count: number;
  readonly volts: number;
  readonly runA: number | undefined;
  readonly stallA: number | undefined;
  readonly startA: number | undefined;
  readonly idleA: number | undefined;
  readonly gauge: string | undefined;
  readonly lengthM: number | undefined;
  readonly note: string;
}

/** Words that tell a kind, the more telling first. */
const KIND_WORDS: readonly (readonly [RegExp, LoadKind])[] = [
  [/stepper|nema/i, "stepper"],
  [/servo/i, "servo"],
  [/brushless|bldc|\besc\b/i, "brushless"],
  [/actuator|lift cylinder/i, "actuator"],
  [/pump/i, "pump"],
  [/fan|blower/i, "fan"],
  [/heater|heating|peltier/i, "heater"],
  [/solenoid|relay|valve|coil|magnet/i, "coil"],
  [/light|lamp|led\b|leds\b|strobe|beacon/i, "light"],
  [/speaker|amplifier|horn|sound|buzzer|siren/i, "sound"],
  [/computer|laptop|single.?board/i, "computer"],
  [/controller|board|microcontroller|\bmcu\b/i, "board"],
  [/radio|receiver|telemetry|modem/i, "radio"],
  [/sensor|camera|lidar|encoder|gps|sonar/i, "sensor"],
  [/display|screen|monitor/i, "display"],
  [/motor|drive|wheel|winch/i, "motor"],
];

function kindOf(reader: RowReader<LoadColumn>): LoadKind {
  const said = reader.text("kind");
  const exact = LOAD_KINDS.find((kind) => kind === said.toLowerCase());
  const found =
    exact ?? KIND_WORDS.find(([words]) => words.test(said))?.[1] ?? KIND_WORDS.find(([words]) => words.test(reader.text("name")))?.[1];
  return found ?? "other";
}

/** Reads one row of a list of loads. Only what is there is taken: nothing is made up for a current that is missing. */
function readLoad(cells: readonly string[], table: Sheeted<LoadColumn>, row: number): ReadRow<ListedLoad> {
  const reader = new RowReader(cells, table, LOAD_COLUMNS);
  const name = reader.words("name", NAME_MAX);
  if (name === "") reader.wrong("name", "Every load needs a name.");
  const volts = reader.figure("volts", "voltage", { min: 0.5, max: 120 });
  if (volts === undefined && reader.text("volts") === "") reader.wrong("volts", "Without volts nobody can tell which rail it hangs on.");
  const amps = (key: "amps" | "stall" | "start" | "idle") => reader.figure(key, "current", { max: 2000 });
  const watts = reader.figure("watts", "power");
  const runA = amps("amps") ?? (watts !== undefined && volts ? watts / volts : undefined);
  const gaugeText = reader.text("gauge");
  const gauge = gaugeText === "" ? undefined : parseGauge(gaugeText)?.id;
  if (gaugeText !== "" && gauge === undefined) reader.wrong("gauge", "That is not a wire size. Write 14 AWG or 2.5 mm².");
  const value: ListedLoad = {
    name,
    loadKind: kindOf(reader),
    count: reader.whole("count", 1, 1, 200),
    volts: volts ?? 0,
    runA,
    stallA: amps("stall"),
    startA: amps("start"),
    idleA: amps("idle"),
    gauge,
    lengthM: reader.figure("length", "length", { min: 0.001, max: 200 }),
    note: reader.words("note", NOTE_MAX),
  };
  return { row, value: reader.troubles.length === 0 ? value : null, troubles: reader.troubles };
}

/** Every row of a list of loads, in its order. */
export function readLoads(table: Sheeted<LoadColumn>): ReadRow<ListedLoad>[] {
  return table.rows.map((cells, i) => readLoad(cells, table, table.firstRow + i));
}

/** Where listed loads go: each on a rail of its volts. */
export interface LoadPlan {
  readonly command: Command | null;
  /** Loads whose volts no rail has. */
  readonly homeless: readonly ListedLoad[];
  /** Rails that would be added, V. */
  readonly added: readonly number[];
}

/** The part on each nominal voltage that loads hang on: a positive bar before the source or converter it hangs on. */
function places(machine: Machine): Map<number, string> {
  const ledger = ledgerOf(machine);
  const found = new Map<number, string>();
  for (const rail of ledger.rails) {
    const volts = nominalOf(rail.volts);
    if (found.has(volts)) continue;
    const bar = ledger.rows.find((row) => row.part.kind === "bar" && row.part.side === "positive" && row.rail?.origin === rail.origin);
    found.set(volts, bar?.part.id ?? rail.origin);
  }
  return found;
}

/**
 * One undoable step that adds listed loads, each under a rail of its volts with supply and return. `addRails`: a supply, its
 * amps left open, for volts no rail has; else such loads are left out and named.
 */
export function loadPlan(machine: Machine, listed: readonly ListedLoad[], addRails: boolean): LoadPlan {
  const commands: Command[] = [];
  const known = places(machine);
  const parts: Part[] = [...machine.parts];
  const modes = [...machine.modes];
  const homeless: ListedLoad[] = [];
  const added: number[] = [];
  const ledger = ledgerOf(machine);
  for (const each of listed) {
    const volts = nominalOf(each.volts);
    let under = known.get(volts);
    if (under === undefined && addRails) {
      const supply = newPart("supply", freshId("p", parts), `Supply ${volts} V`, { outputV: guess(volts) });
      commands.push({ type: "addPart", part: supply });
      parts.push(supply);
      known.set(volts, supply.id);
      added.push(volts);
      under = supply.id;
    }
    if (under === undefined) {
      homeless.push(each);
      continue;
    }
    const part = loadOf(each, freshId("p", parts));
    parts.push(part);
    const at = parts.find(({ id }) => id === under);
    const place = machine.parts.some(({ id }) => id === under) ? placeUnder(machine, ledger, under) : null;
    const from = place?.from ?? (at && isSource(at) ? { part: at.id, terminal: "+" } : undefined);
    const back = place?.landings[0]?.at ?? { part: under, terminal: "-" };
    const wire = {
      ...(each.gauge === undefined ? {} : { gauge: each.gauge }),
      ...(each.lengthM === undefined ? {} : { lengthM: guess(each.lengthM) }),
    };
    commands.push({ type: "addPart", part, feed: { ...(from ? { from } : {}), back, wire } });
    if (!part.levels) continue;
    const draws = levelsCommand({ ...machine, parts, modes }, part, part.levels);
    commands.push(draws);
    // A mode in which a motor is held is added once for all of them.
    for (const step of draws.type === "batch" ? draws.commands : [])
      if (step.type === "addMode") modes.push({ id: freshId("m", modes), name: step.name, lastsS: step.lastsS });
  }
  const count = listed.length - homeless.length;
  return {
    command: commands.length === 0 ? null : { type: "batch", label: `${count} load${count === 1 ? "" : "s"} from a list`, commands },
    homeless,
    added,
  };
}

/** Figures of a list are what somebody wrote down: guesses until a sheet or a meter says them. */
function loadOf({ name, loadKind, count, volts, runA, stallA, startA, idleA, note }: ListedLoad, id: string): Load {
  const level = (amps: number | undefined) => (amps === undefined ? undefined : guess(amps));
  const levels = Object.fromEntries(
    Object.entries({ idle: level(idleA), run: level(runA), start: level(startA), stall: level(stallA) }).filter(([, value]) => value),
  );
  return newPart("load", id, name, {
    loadKind,
    count,
    nominalV: guess(volts),
    behaviour: usualBehaviour(loadKind),
    ...(Object.keys(levels).length > 0 ? { levels } : {}),
    ...(note === "" ? {} : { note }),
  });
}
