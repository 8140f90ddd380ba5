import { analyse } from "../analysis/analyse";
import { applyCommand } from "../machine/apply";
import type { Command } from "../machine/commands";
import { finish } from "../machine/finish";
import { placeUnder } from "../machine/placing";
import { type Cell, type Load, type Machine, MODES_MAX, type Part } from "../machine/schema";
import { isBoard } from "../machine/terminals";
import { ledgerOf, nominalOf } from "../machine/tree";
import { TopologyCache } from "../network/topology";
import { sizeEverything } from "../sizing/all";
import { changesOf } from "../sizing/plan";
import { at, Builder } from "./builder";
import type { Listed } from "./demand";
import { isDriven, sideOf } from "./demand";
import { draft } from "./draft";
import { Hanger } from "./hang";
import { hangLinks } from "./links";
import { figure, onRail } from "./make-load";
import { firstSizes } from "./provisional";
import { addConverter, leaves, type RailPlace, spareConverters } from "./rails";
import type { ConverterReading, ReadLine } from "./reading";
import { type LeftOut, leaveOut, listedLoads, NO_SOURCE, type Sorted, sorted } from "./sorted";
import { railAt } from "./under";

/** Lines added to a machine that is there: the one step that does it, and the lines that are not in it. */
export interface More {
  readonly command: Command | null;
  readonly left: readonly LeftOut[];
  /** Parts that came. */
  readonly added: readonly string[];
}

/** The rails of a machine as places to hang on: behind its bars where it has some. */
function railsOf(machine: Machine): RailPlace[] {
  const ledger = ledgerOf(machine);
  return ledger.rails.flatMap((rail): RailPlace[] => {
    const origin = machine.parts.find(({ id }) => id === rail.origin);
    if (!origin || origin.kind === "load" || origin.kind === "driver") return [];
    const bars = ledger.rows.filter(({ part, rail: of }) => part.kind === "bar" && part.side === "positive" && of?.origin === rail.origin);
    const behindStop = bars.filter(({ part }) => isBehindStop(machine, part.id));
    const moving = behindStop.at(-1) ?? bars.at(-1);
    const steady = bars.find((row) => !behindStop.includes(row)) ?? moving;
    const place = placeUnder(machine, ledger, steady?.part.id ?? rail.origin);
    const back = place.landings[0]?.at;
    if (!back || !place.from) return [];
    const logicBar = machine.parts.find(
      (part) =>
        part.kind === "bar" &&
        part.side === "negative" &&
        part.carries === "logic" &&
        place.landings.some((each) => each.at.part === part.id),
    );
    const volts = nominalOf(rail.volts);
    const [lowV, highV] =
      origin.kind === "pack"
        ? [origin.lowV?.value ?? rail.volts * 0.85, origin.fullV?.value ?? rail.volts * 1.15]
        : [rail.volts * 0.97, rail.volts];
    return [
      {
        volts,
        lowV,
        highV,
        side: "both",
        moving: moving ? at(moving.part.id) : place.from,
        steady: steady ? at(steady.part.id) : place.from,
        back,
        logicBack: logicBar ? at(logicBar.id) : back,
      },
    ];
  });
}

function isBehindStop(machine: Machine, partId: string): boolean {
  const ledger = ledgerOf(machine);
  for (let row = ledger.rowOf.get(partId), seen = 0; row && seen < 100; row = row.parent ? ledger.rowOf.get(row.parent) : undefined, seen++)
    if (row.part.kind === "switch" && row.part.stop) return true;
  return false;
}

/** A load of the same kind and volts that is there already: what is added hangs where it hangs. */
function siblingOf(machine: Machine, { reading, volts }: Listed): Load | undefined {
  const same = machine.parts.filter(
    (part): part is Load => part.kind === "load" && part.loadKind === reading.kind && nominalOf(part.nominalV.value) === volts,
  );
  const named = (part: Part) => part.name.toLowerCase().includes(reading.name.toLowerCase().split(" ").at(-1) ?? "");
  return same.find(named) ?? same[0];
}

/** Hangs a load where one like it hangs; false where there is none, or its driver has no room. */
function besideSibling(builder: Builder, machine: Machine, each: Listed): boolean {
  const sibling = siblingOf(machine, each);
  const ledger = ledgerOf(machine);
  const row = sibling && ledger.rowOf.get(sibling.id);
  if (!sibling || !row?.feed || !row.back) return false;
  const parent = machine.parts.find(({ id }) => id === row.parent);
  const { reading } = each;
  const lengthM = reading.lengthM ? figure(reading.lengthM) : (row.feed.lengthM ?? builder.length("load"));
  const own = reading.perDriver !== null && parent?.kind === "driver" && parent.channels !== reading.perDriver;
  if (own || (parent?.kind !== "driver" && isDriven(reading))) return false;
  if (parent?.kind !== "driver") {
    const rail = railAt(machine, parent?.id);
    if (rail && leaves(rail, each)) return false;
    builder.add(
      "load",
      reading.name,
      {
        ...(rail ? onRail(each.load, reading, rail) : each.load),
        ...(sibling.ownLead && reading.count > 1 ? { ownLead: sibling.ownLead } : {}),
      },
      { from: row.feed.from, back: row.back.to, lengthM, gauge: reading.gauge },
    );
    return true;
  }
  const above = ledger.rowOf.get(parent.id);
  if (!above?.feed || !above.back) return false;
  // Free channels of drivers like it first, then drivers like it.
  const free: { driver: string; channel: number }[] = [];
  for (const driver of machine.parts) {
    if (
      driver.kind !== "driver" ||
      driver.continuousA?.value !== parent.continuousA?.value ||
      ledger.rowOf.get(driver.id)?.parent !== above.parent
    )
      continue;
    for (let channel = 1; channel <= driver.channels; channel++)
      if (!machine.wires.some(({ from }) => from.part === driver.id && from.terminal === `${channel}a`))
        free.push({ driver: driver.id, channel });
  }
  const { id: _id, name, kind: _kind, ...figures } = parent;
  for (let i = 0; i < reading.count; i++) {
    let place = free.shift();
    if (!place) {
      const driver = builder.add("driver", name.replace(/ \d+$/, ""), figures, {
        from: above.feed.from,
        back: above.back.to,
        lengthM: above.feed.lengthM ?? builder.length("driver"),
      });
      for (let channel = 1; channel <= parent.channels; channel++) free.push({ driver, channel });
      place = free.shift();
    }
    if (!place) return false;
    builder.add(
      "load",
      reading.count > 1 ? `${reading.name} ${i + 1}` : reading.name,
      { ...each.load, count: 1 },
      { from: at(place.driver, `${place.channel}a`), back: at(place.driver, `${place.channel}b`), lengthM, gauge: reading.gauge },
    );
  }
  return true;
}

/** What a new load does in a mode: as one like it does, a current of its own apart; else it runs. */
function cellLike(sibling: Load | undefined, modeId: string, load: Load): Cell {
  const cell = sibling?.cells[modeId];
  if (!cell || cell.state === "amps") return { state: "run", percent: 100 };
  const { measured: _measured, ...state } = cell as Cell & { measured?: unknown };
  const needs = state.state === "idle" ? "idle" : state.state === "stall" || state.state === "reverse" ? "stall" : null;
  return needs !== null && !load.levels?.[needs] ? { state: "run", percent: 100 } : (state as Cell);
}

const gives = ({ outputV }: ConverterReading, volts: number) => outputV !== null && nominalOf(outputV.value) === volts;

/** Lines of a list that a machine which is there cannot take: they are said, and stay. */
function outOfPlace(said: Sorted): void {
  for (const { reading, number, text } of said.lines)
    if (reading && ["pack", "supply", "stop", "switch", "fuse", "bar", "port", "diode", "lengths", "about"].includes(reading.is))
      said.left.push({ number, text, why: "That is added with Add (key A), under the part it belongs to." });
}

/**
 * Adds lines to a machine: loads where loads like them hang, else on a rail of their volts, else behind a new converter; each
 * with driver, return, modes and sizes of its own wires. What is there stays as it is.
 */
export function* more(machine: Machine, lines: readonly ReadLine[]): Generator<{ done: number; of: number }, More> {
  if (machine.parts.length === 0) return yield* whole(machine, lines);
  const said = sorted(lines);
  outOfPlace(said);
  const builder = new Builder(machine);
  const rails = railsOf(machine);
  const listed = listedLoads(
    said,
    rails.map(({ volts }) => volts),
    Math.max(0, ...rails.map(({ volts }) => volts)) || null,
  );
  const hanger = new Hanger(builder, { rails, loads: listed, stops: [] }, said);
  const converters = [...said.converters];
  for (const each of listed) {
    if (besideSibling(builder, machine, each)) continue;
    const main = [...rails].sort((a, b) => b.volts - a.volts)[0];
    const side = sideOf(each.reading.kind);
    const atVolts = rails.filter(({ volts }) => volts === each.volts);
    if (!atVolts.some((rail) => (rail.side === "both" || rail.side === side) && !leaves(rail, each))) {
      if (!main) {
        leaveOut(said, each.reading, NO_SOURCE);
        continue;
      }
      // One converter for all that comes with these lines and hangs there, not for the first of them.
      const loads = listed.filter((other) => other.volts === each.volts && sideOf(other.reading.kind) === side);
      const told = converters.findIndex((reading) => gives(reading, each.volts));
      const reading = told < 0 ? undefined : converters.splice(told, 1)[0];
      addConverter(builder, rails, atVolts.find((rail) => leaves(rail, each)) ?? main, { volts: each.volts, side, loads, reading });
    }
    if (isDriven(each.reading)) hanger.driven(each);
    else hanger.straight(each);
  }
  hanger.spare();
  spareConverters(builder, said, rails, [...rails], converters);
  const known = new Set(machine.parts.map(({ id }) => id));
  const came = builder.machine.parts.filter(({ id }) => !known.has(id));
  for (const load of came) {
    if (load.kind !== "load" || Object.keys(load.levels ?? {}).length === 0) continue;
    const sibling =
      machine.parts.find(
        (part): part is Load => part.kind === "load" && part.loadKind === load.loadKind && Object.keys(part.cells).length > 0,
      ) ??
      machine.parts.find(
        (part): part is Load => part.kind === "load" && isBoard(part) === isBoard(load) && sideOf(part.loadKind) === sideOf(load.loadKind),
      );
    for (const { id } of machine.modes.slice(0, MODES_MAX))
      builder.do({ type: "setCell", loadId: load.id, modeId: id, cell: cellLike(sibling, id, load) });
  }
  hangLinks(builder, said);
  if (builder.commands.length === 0) return { command: null, left: said.left, added: [] };
  firstSizes(builder, new Set(machine.wires.map(({ id }) => id)));
  const wired = builder.machine;
  const old = new Set(machine.wires.map(({ id }) => id));
  const only = wired.wires.filter(({ id }) => !old.has(id)).map(({ id }) => id);
  const cache = new TopologyCache();
  const sizing = sizeEverything(wired, { objective: "mass", only }, cache);
  for (let step = sizing.next(); ; step = sizing.next()) {
    if (!step.done) {
      yield step.value;
      continue;
    }
    const sizes = changesOf(analyse(wired, cache).figures, step.value.figures).map(({ command }) => command);
    const label = `Add ${came
      .map(({ name }) => name)
      .slice(0, 3)
      .join(", ")}${came.length > 3 ? ` and ${came.length - 3} more` : ""}`;
    const all: Command = { type: "batch", label: came.length > 0 ? label : "Add links", commands: [...builder.commands, ...sizes] };
    const checked = applyCommand(machine, all);
    return { command: checked.ok ? all : { ...all, commands: builder.commands }, left: said.left, added: came.map(({ id }) => id) };
  }
}

/** An empty machine is drafted whole, and keeps its name. */
function* whole(machine: Machine, lines: readonly ReadLine[]): Generator<{ done: number; of: number }, More> {
  const { machine: made, left } = yield* draft({ lines, beyond: 0 }, { name: machine.name, schools: machine.settings.schools });
  if (made.parts.length === 0) return { command: null, left, added: [] };
  return { command: asCommand(machine, { ...made, name: machine.name }), left, added: made.parts.map(({ id }) => id) };
}

/** A drafted machine as the one step that makes it of an empty one. */
export function asCommand(empty: Machine, made: Machine): Command {
  const [first, ...rest] = made.modes;
  const commands: Command[] = [
    { type: "setSettings", changes: made.settings },
    ...empty.modes.slice(1).map(({ id }): Command => ({ type: "removeMode", id })),
    ...(first && empty.modes[0]
      ? [{ type: "updateMode" as const, id: empty.modes[0].id, changes: { name: first.name, lastsS: first.lastsS } }]
      : []),
    ...rest.map(({ name, lastsS }): Command => ({ type: "addMode", name, lastsS })),
    ...made.parts.map((part): Command => ({ type: "addPart", part })),
    ...made.wires.map((wire): Command => ({ type: "addWire", wire })),
    ...(made.signals ?? []).map((signal): Command => ({ type: "addSignal", signal })),
  ];
  return { type: "batch", label: "Draft from a list", commands };
}

/** The same without stopping for progress. */
export function moreAtOnce(machine: Machine, lines: readonly ReadLine[]): More {
  return finish(more(machine, lines));
}
