import { current, isDraft, produce } from "immer";
import { type Change, changesBetween } from "./changes";
import type { Command, FeedChanges, FeedPlan, PartChanges } from "./commands";
import { freshId } from "./defaults";
import { checkEdited } from "./edited";
import { nameOfLink, nameOfWire, partName, sourceEnd } from "./names";
import type { Machine, Part, Signal, TerminalRef, Wire } from "./schema";
import { givesLogic, inputTerminals, isFeed, sameTerminal, terminalsOf } from "./terminals";

/** The edited machine and what changed, or why the edit does not fit. */
export type EditResult = { ok: true; machine: Machine; changes: Change[]; label: string } | { ok: false; message: string };

/** Refused by a command, with the reason in the builder's words. */
class Refusal extends Error {}

function refuse(message: string): never {
  throw new Refusal(message);
}

function partOf(draft: Machine, id: string): Part {
  return draft.parts.find((part) => part.id === id) ?? refuse("That part is no longer in the plan.");
}

function wireOf(draft: Machine, id: string): Wire {
  return draft.wires.find((wire) => wire.id === id) ?? refuse("That wire is no longer in the plan.");
}

function signalOf(draft: Machine, id: string): Signal {
  return draft.signals?.find((signal) => signal.id === id) ?? refuse("That link is no longer in the plan.");
}

/** Parts whose feed or return ends on this part: what would be left hanging if it went. */
export function hangingOn(machine: Machine, id: string): Part[] {
  const ids = new Set<string>();
  for (const wire of machine.wires) {
    // A signal's ground or a bond feeds nothing: it goes with the part.
    if (wire.role === "signal" || wire.role === "bond") continue;
    const end = sourceEnd(wire);
    if (wire[end].part === id) ids.add(wire[end === "from" ? "to" : "from"].part);
  }
  ids.delete(id);
  return machine.parts.filter((part) => ids.has(part.id));
}

/** A driver's channel leg: what runs from there to a motor is a phase wire. */
function isChannel(terminal: string): boolean {
  return /^\d[ab]$/.test(terminal);
}

function addFeed(draft: Machine, part: Part, plan: FeedPlan): void {
  const input = inputTerminals(part);
  const base = { parallel: 1, insulation: "pvc80", ...plan.wire };
  let supplyId: string | undefined;
  if (plan.from && input.supply) {
    const id = freshId("w", draft.wires);
    const from = plan.from;
    const role = isChannel(from.terminal) ? ("phase" as const) : ("supply" as const);
    draft.wires.push({ id, role, from, to: { part: part.id, terminal: input.supply }, ...base });
    supplyId = id;
  }
  if (plan.back && input.back) {
    const { fuse: _supplySideOnly, ...conductor } = base;
    const id = freshId("w", draft.wires);
    const role = isChannel(plan.back.terminal) ? ("phase" as const) : ("return" as const);
    const pair = supplyId === undefined ? {} : { pair: supplyId };
    draft.wires.push({ id, role, from: { part: part.id, terminal: input.back }, to: plan.back, ...pair, ...conductor });
  }
}

function removeWires(draft: Machine, gone: ReadonlySet<string>): void {
  draft.wires = draft.wires.filter((wire) => !gone.has(wire.id));
  for (const wire of draft.wires) if (wire.pair !== undefined && gone.has(wire.pair)) delete wire.pair;
}

/** Moves an end of a wire. On a driver's leg a conductor is a phase lead, and no longer one when it leaves there. */
function reland(wire: Wire, end: "from" | "to", at: TerminalRef): void {
  const feeds = isFeed(wire);
  wire[end] = { ...at };
  if (wire.role === "signal" || wire.role === "bond" || end !== (feeds ? "from" : "to")) return;
  wire.role = isChannel(at.terminal) ? "phase" : feeds ? "supply" : "return";
}

/** The minus that goes with a plus terminal of a source or converter. */
function minusBeside(draft: Machine, plus: TerminalRef): TerminalRef | undefined {
  const { kind } = partOf(draft, plus.part);
  if (givesLogic(plus.terminal)) return { part: plus.part, terminal: kind === "driver" ? "in-" : "-" };
  if (kind === "converter") return { part: plus.part, terminal: "out-" };
  return kind === "pack" || kind === "supply" ? { part: plus.part, terminal: "-" } : undefined;
}

/**
 * Moves what hangs on a part to another place: feeds to `moveTo`, returns to the minus beside it, else to where the
 * part's own return lands. A return with neither place stays behind and goes with the part.
 */
function moveWires(draft: Machine, part: Part, moveTo: TerminalRef): void {
  const input = inputTerminals(part);
  const own = draft.wires.find((wire) => wire.role === "return" && wire.from.part === part.id && wire.from.terminal === input.back);
  const takesReturns = part.kind === "bar" && part.side === "negative";
  const back = takesReturns ? moveTo : (minusBeside(draft, moveTo) ?? (own ? current(own.to) : undefined));
  for (const wire of draft.wires) {
    if (wire.role === "signal" || wire.role === "bond") continue;
    const end = sourceEnd(wire);
    const place = end === "from" ? moveTo : back;
    if (wire[end].part !== part.id || !place) continue;
    wire[end] = { ...place };
    if (wire.role === "phase" && !isChannel(place.terminal)) wire.role = end === "from" ? "supply" : "return";
  }
}

/** A link goes with its own ground wire and its shield. */
function removeSignal(draft: Machine, id: string): void {
  draft.wires = draft.wires.filter((wire) => wire.signal !== id);
  const rest = draft.signals?.filter((signal) => signal.id !== id) ?? [];
  if (rest.length > 0) draft.signals = rest;
  else delete draft.signals;
}

/** Terminal that a part itself takes its current from, or a negative bar brings it home to; null where it hangs on nothing. */
export function upstreamOf({ wires }: Pick<Machine, "wires">, part: Part): TerminalRef | null {
  if (part.kind === "bar" && part.side === "negative")
    return wires.find(({ role, from }) => role === "return" && from.part === part.id)?.to ?? null;
  return wires.find(({ role, to }) => role === "supply" && to.part === part.id)?.from ?? null;
}

function removePart(draft: Machine, id: string, moveTo: TerminalRef | undefined): void {
  const hanging = hangingOn(draft, id);
  if (hanging.length > 0 && !moveTo) {
    const names = hanging.map((part) => part.name).join(", ");
    refuse(`${partOf(draft, id).name} still feeds or returns ${names}. Say where they should go, or remove them first.`);
  }
  if (moveTo) {
    if (moveTo.part === id) refuse("Move them to another part than the one being removed.");
    moveWires(draft, partOf(draft, id), moveTo);
  }
  for (const signal of draft.signals ?? []) if (signal.from === id || signal.to === id) removeSignal(draft, signal.id);
  const gone = new Set(
    draft.wires.filter((wire) => wire.from.part === id || wire.to.part === id || sameTerminal(wire.from, wire.to)).map((wire) => wire.id),
  );
  removeWires(draft, gone);
  draft.parts = draft.parts.filter((part) => part.id !== id);
  // What shared the box with it stands alone now.
  for (const part of draft.parts) if (part.kind === "supply" && part.box === id) delete part.box;
}

function assignDefined(target: object, changes: object): void {
  const record = target as Record<string, unknown>;
  for (const [key, value] of Object.entries(changes)) {
    if (value === undefined) delete record[key];
    else record[key] = value;
  }
}

/** The same changes as a return takes them: it runs the other way, so its ends change places. */
function turned(changes: FeedChanges): FeedChanges {
  const { fromEnd, toEnd, ...rest } = changes;
  return { ...rest, ...("fromEnd" in changes ? { toEnd: fromEnd } : {}), ...("toEnd" in changes ? { fromEnd: toEnd } : {}) };
}

function updatePart(draft: Machine, id: string, changes: PartChanges): void {
  const part = partOf(draft, id);
  if ("id" in changes || "kind" in changes) refuse("A part keeps its kind. Add a new one and move the wires.");
  assignDefined(part, changes);
  const terminals = terminalsOf(part);
  const stranded = draft.wires.flatMap((wire) => [wire.from, wire.to]).find((end) => end.part === id && !terminals.includes(end.terminal));
  if (!stranded) return;
  const where = /^\d/.test(stranded.terminal) ? "a channel" : `terminal ${stranded.terminal}`;
  refuse(`${part.name} still has a wire on ${where} that would go away. Move or remove that wire first.`);
}

function removeMode(draft: Machine, id: string): void {
  if (draft.modes.length === 1) refuse("A machine needs at least one mode. Rename this one instead.");
  draft.modes = draft.modes.filter((mode) => mode.id !== id);
  for (const part of draft.parts) {
    if (part.kind === "load") delete part.cells[id];
    if (part.kind === "switch") part.openIn = part.openIn.filter((mode) => mode !== id);
  }
  if (!draft.mission) return;
  draft.mission.steps = draft.mission.steps.filter((step) => step.mode !== id);
  if (draft.mission.steps.length === 0) delete draft.mission;
}

function addMode(draft: Machine, name: string, lastsS: number | null, copyFrom: string | undefined): void {
  const id = freshId("m", draft.modes);
  draft.modes.push({ id, name, lastsS });
  if (copyFrom === undefined) return;
  for (const part of draft.parts) {
    const cell = part.kind === "load" ? part.cells[copyFrom] : undefined;
    // A load that came in the same batch is not drafted yet.
    if (part.kind === "load" && cell) part.cells[id] = isDraft(cell) ? current(cell) : structuredClone(cell);
    if (part.kind === "switch" && part.openIn.includes(copyFrom)) part.openIn.push(id);
  }
}

function perform(draft: Machine, command: Command): void {
  switch (command.type) {
    case "rename":
      if (command.name !== undefined) draft.name = command.name.trim();
      if (command.description !== undefined) draft.description = command.description;
      return;
    case "setSettings":
      assignDefined(draft.settings, command.changes);
      return;
    case "addPart":
      if (draft.parts.some((part) => part.id === command.part.id)) refuse("A part with that id is already in the plan.");
      // A copy: later commands of the same batch write into it, and the command may be given again.
      draft.parts.push(structuredClone(command.part));
      if (command.feed) addFeed(draft, command.part, command.feed);
      return;
    case "updatePart":
      updatePart(draft, command.id, command.changes);
      return;
    case "removePart":
      removePart(draft, command.id, command.moveTo);
      return;
    case "addWire":
      draft.wires.push({ ...command.wire, id: command.wire.id ?? freshId("w", draft.wires) });
      return;
    case "updateWire":
      assignDefined(wireOf(draft, command.id), command.changes);
      return;
    case "setFeed":
      for (const wire of draft.wires) {
        if (wire.id === command.id) assignDefined(wire, command.changes);
        if (wire.pair === command.id) assignDefined(wire, turned(command.changes));
      }
      return;
    case "setFuse": {
      const wire = wireOf(draft, command.wireId);
      if (command.fuse === null) delete wire.fuse;
      // Where it sits stays as it was.
      else wire.fuse = { ...wire.fuse, ...command.fuse };
      return;
    }
    case "reland":
      reland(wireOf(draft, command.wireId), command.end, command.at);
      return;
    case "removeWire":
      removeWires(draft, new Set([command.id]));
      return;
    case "addSignal": {
      const signals = draft.signals ?? [];
      draft.signals = [...signals, { ...command.signal, id: command.signal.id ?? freshId("s", signals) }];
      return;
    }
    case "updateSignal":
      assignDefined(signalOf(draft, command.id), command.changes);
      return;
    case "removeSignal":
      removeSignal(draft, command.id);
      return;
    case "addMode":
      addMode(draft, command.name.trim(), command.lastsS, command.copyFrom);
      return;
    case "updateMode": {
      const mode = draft.modes.find(({ id }) => id === command.id) ?? refuse("That mode is no longer in the plan.");
      Object.assign(mode, command.changes);
      return;
    }
    case "moveMode": {
      const from = draft.modes.findIndex(({ id }) => id === command.id);
      const to = from + command.by;
      const [mode] = from >= 0 && to >= 0 && to < draft.modes.length ? draft.modes.splice(from, 1) : [];
      if (mode) draft.modes.splice(to, 0, mode);
      return;
    }
    case "removeMode":
      removeMode(draft, command.id);
      return;
    case "setCell": {
      const load = partOf(draft, command.loadId);
      if (load.kind !== "load") refuse(`${load.name} is not a load.`);
      if (command.cell === null) delete load.cells[command.modeId];
      else load.cells[command.modeId] = command.cell;
      return;
    }
    case "setMission":
      if (command.mission === null) delete draft.mission;
      else draft.mission = command.mission;
      return;
    case "decide": {
      const others = draft.decisions?.filter(({ id }) => id !== command.decision.id) ?? [];
      draft.decisions = [...others, command.decision];
      return;
    }
    case "undecide": {
      const rest = draft.decisions?.filter(({ id }) => id !== command.id) ?? [];
      if (rest.length > 0) draft.decisions = rest;
      else delete draft.decisions;
      return;
    }
    case "batch":
      for (const each of command.commands) perform(draft, each);
      return;
  }
}

/** What the command did, for the undo button and the history. */
export function labelOf(command: Command, machine: Machine): string {
  const name = (id: string) => partName(machine, id);
  const wireName = (id: string) => nameOfWire(machine, id);
  const linkName = (id: string) => nameOfLink(machine, id);
  switch (command.type) {
    case "rename":
      return "Rename machine";
    case "setSettings":
      return "Change settings";
    case "addPart":
      return `Add ${command.part.name}`;
    case "updatePart":
      return `Edit ${name(command.id)}`;
    case "removePart":
      return `Remove ${name(command.id)}`;
    case "addWire":
      return "Add wire";
    case "updateWire":
      return `Edit ${wireName(command.id)}`;
    case "setFeed":
      return `Edit ${wireName(command.id)}`;
    case "setFuse":
      return `${command.fuse ? "Fuse" : "Unfuse"} ${wireName(command.wireId)}`;
    case "reland":
      return `Move ${wireName(command.wireId)}`;
    case "removeWire":
      return `Remove ${wireName(command.id)}`;
    case "addSignal":
      return `Link ${name(command.signal.from)} to ${name(command.signal.to)}`;
    case "updateSignal":
      return `Edit ${linkName(command.id)}`;
    case "removeSignal":
      return `Remove ${linkName(command.id)}`;
    case "addMode":
      return `Add mode ${command.name}`;
    case "updateMode":
      return "Edit mode";
    case "moveMode":
      return "Reorder modes";
    case "removeMode":
      return "Delete mode";
    case "setCell":
      return `Current of ${name(command.loadId)}`;
    case "setMission":
      return command.mission ? "Change mission" : "Remove mission";
    case "decide":
      return `${command.decision.kind === "accepted" ? "Accept" : "Put off"}: ${command.decision.headline}`.slice(0, 200);
    case "undecide":
      return "Open a verdict again";
    case "batch":
      return command.label;
  }
}

/**
 * Applies a command to a valid document. The result is again one, with what changed figure by figure, or a refusal in the
 * builder's words with the document untouched.
 */
export function applyCommand(machine: Machine, command: Command): EditResult {
  let next: Machine;
  try {
    next = produce(machine, (draft: Machine) => perform(draft, command));
  } catch (error) {
    if (error instanceof Refusal) return { ok: false, message: error.message };
    throw error;
  }
  const misfit = checkEdited(machine, next);
  if (misfit !== null) return { ok: false, message: misfit };
  return { ok: true, machine: next, changes: changesBetween(machine, next), label: labelOf(command, machine) };
}
