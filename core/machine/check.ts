import { fuseRow } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { insulationById } from "../reference/insulation";
import { LEVELS, type Level, type Onboard } from "./load-schema";
import { sameBuild } from "./same-build";
import type { FuseRef, Machine, Part, TerminalRef } from "./schema";
import { groundTerminal, isChassis, isConsumer, sameTerminal, terminalsOf } from "./terminals";

/** Something wrong in a document: where it is, and what was expected there, in words. */
export interface Problem {
  path: string;
  expected: string;
}

function duplicates(ids: readonly string[]): string[] {
  const seen = new Set<string>();
  return ids.filter((id) => seen.size === seen.add(id).size);
}

/** Checks what a schema cannot: that references point at something. An empty list means the document is coherent. */
export function checkReferences(machine: Machine): Problem[] {
  const problems: Problem[] = [];
  const say = (path: string, expected: string) => problems.push({ path, expected });
  const parts = new Map(machine.parts.map((part) => [part.id, part]));
  const modes = new Set(machine.modes.map((mode) => mode.id));
  const wires = new Map(machine.wires.map((wire) => [wire.id, wire]));

  for (const id of duplicates(machine.parts.map((part) => part.id))) say("parts", `one part with the id "${id}", not two`);
  for (const id of duplicates(machine.wires.map((wire) => wire.id))) say("wires", `one wire with the id "${id}", not two`);
  for (const id of duplicates(machine.modes.map((mode) => mode.id))) say("modes", `one mode with the id "${id}", not two`);

  for (const id of duplicates((machine.decisions ?? []).map((decision) => decision.id)))
    say("decisions", `one decision on "${id}", not two`);

  machine.mission?.steps.forEach((step, i) => {
    if (!modes.has(step.mode)) say(`mission.steps[${i}].mode`, `the id of a mode, not "${step.mode}"`);
  });
  for (const [i, gauge] of (machine.settings.stock?.gauges ?? []).entries())
    if (!gaugeById(gauge)) say(`settings.stock.gauges[${i}]`, `a size from the gauge table, not "${gauge}"`);
  for (const [i, fuse] of (machine.settings.stock?.fuses ?? []).entries()) checkFuse(fuse, `settings.stock.fuses[${i}]`, say);
  machine.parts.forEach((part, index) => {
    checkPart(part, `parts[${index}]`, modes, say);
  });

  machine.parts.forEach((part, index) => {
    if (part.kind !== "supply" || part.box === undefined) return;
    const first = parts.get(part.box);
    if (first?.kind !== "supply" || first.box !== undefined || first.id === part.id)
      say(`parts[${index}].box`, `the id of the supply whose box it shares, not "${part.box}"`);
  });

  machine.wires.forEach((wire, index) => {
    const path = `wires[${index}]`;
    checkTerminal(wire.from, `${path}.from`, parts, say);
    checkTerminal(wire.to, `${path}.to`, parts, say);
    if (sameTerminal(wire.from, wire.to)) say(`${path}.to`, "another terminal: a wire cannot end where it begins");
    if (wire.gauge !== undefined && !gaugeById(wire.gauge))
      say(`${path}.gauge`, `a size from the gauge table such as "14 AWG" or "1.5 mm²", not "${wire.gauge}"`);
    if (wire.board && wire.gauge !== undefined) say(`${path}.gauge`, "nothing: copper of a board has no wire size");
    if (!insulationById(wire.insulation))
      say(`${path}.insulation`, `an insulation from the table such as "pvc80", not "${wire.insulation}"`);
    if (wire.fuse) checkFuse(wire.fuse, `${path}.fuse`, say);
    if (wire.pair !== undefined) {
      const mate = wires.get(wire.pair);
      if (!mate || mate.id === wire.id) say(`${path}.pair`, `the id of the supply wire this one returns for, not "${wire.pair}"`);
      else if (wire.role === "supply" || (mate.role !== "supply" && mate.role !== "phase"))
        say(`${path}.pair`, "a return paired with a supply wire");
    }
  });
  checkSignals(machine, parts, say);
  return problems;
}

/** The same of a document that an edit made of a coherent one: where only cells changed, only their loads are looked at. */
export function checkEdit(before: Machine, after: Machine): Problem[] {
  if (!sameBuild(before, after)) return checkReferences(after);
  const problems: Problem[] = [];
  const modes = new Set(after.modes.map((mode) => mode.id));
  after.parts.forEach((part, index) => {
    if (part !== before.parts[index]) checkPart(part, `parts[${index}]`, modes, (path, expected) => problems.push({ path, expected }));
  });
  return problems;
}

/** Links join two different parts that have a ground; a signal wire names its link and runs between that link's parts. */
function checkSignals(machine: Machine, parts: ReadonlyMap<string, Part>, say: Say): void {
  const signals = new Map((machine.signals ?? []).map((signal) => [signal.id, signal]));
  for (const id of duplicates((machine.signals ?? []).map(({ id }) => id))) say("signals", `one link with the id "${id}", not two`);
  machine.signals?.forEach((signal, index) => {
    for (const end of ["from", "to"] as const) {
      const part = parts.get(signal[end]);
      if (!part || !isConsumer(part)) say(`signals[${index}].${end}`, `the id of a board, driver, converter or load, not "${signal[end]}"`);
    }
    if (signal.from === signal.to) say(`signals[${index}].to`, "another part: a link cannot end where it begins");
  });
  machine.wires.forEach((wire, index) => {
    const path = `wires[${index}]`;
    if (wire.role === "bond" && !isChassis(parts.get(wire.from.part)) && !isChassis(parts.get(wire.to.part)))
      say(`${path}.to`, "the chassis at one end of a bond");
    if (wire.role !== "signal") {
      if (wire.signal !== undefined) say(`${path}.signal`, "nothing: only a signal wire belongs to a link");
      return;
    }
    const signal = signals.get(wire.signal ?? "");
    if (!signal) say(`${path}.signal`, `the id of the link this wire belongs to, not "${wire.signal ?? ""}"`);
    for (const end of [wire.from, wire.to]) {
      const part = parts.get(end.part);
      if (part && end.terminal !== groundTerminal(part)) say(path, `the ground terminal of ${part.name} at the end of a signal wire`);
    }
  });
}

type Say = (path: string, expected: string) => void;

function checkFuse(fuse: FuseRef, path: string, say: Say): void {
  if (!fuseRow(fuse.family, fuse.ratingA)) say(`${path}.ratingA`, `a rating this family is made in, not ${fuse.ratingA}`);
}

function checkTerminal(ref: TerminalRef, path: string, parts: ReadonlyMap<string, Part>, say: Say): void {
  const part = parts.get(ref.part);
  if (!part) say(`${path}.part`, `the id of a part of this machine, not "${ref.part}"`);
  else if (!terminalsOf(part).includes(ref.terminal)) {
    say(`${path}.terminal`, `one of ${terminalsOf(part).join(", ")} on ${part.name}, not "${ref.terminal}"`);
  }
}

function checkLevel(level: Level | undefined, path: string, say: Say): void {
  if (level?.low !== undefined && level.low > level.value) say(`${path}.low`, "at most the figure itself");
  if (level?.high !== undefined && level.high < level.value) say(`${path}.high`, "at least the figure itself");
}

function checkOnboard(onboard: Onboard | undefined, path: string, say: Say): void {
  if (onboard && onboard.inputMinV.value > onboard.inputMaxV.value) say(`${path}.onboard.inputMinV`, "at most the highest input voltage");
}

function checkPart(part: Part, path: string, modes: ReadonlySet<string>, say: Say): void {
  if (part.kind === "load" || part.kind === "driver") checkOnboard(part.onboard, path, say);
  if (part.kind === "fuse") checkFuse(part.fuse, `${path}.fuse`, say);
  if (part.kind === "switch") {
    part.openIn.forEach((mode, i) => {
      if (!modes.has(mode)) say(`${path}.openIn[${i}]`, `the id of a mode, not "${mode}"`);
    });
  }
  if (part.kind === "load") {
    for (const mode of Object.keys(part.cells)) {
      if (!modes.has(mode)) say(`${path}.cells.${mode}`, "the id of a mode of this machine");
    }
    for (const key of ["ownLead", "phaseLead"] as const) {
      const lead = part[key];
      if (lead && !gaugeById(lead.gauge))
        say(`${path}.${key}.gauge`, `a size from the gauge table such as "14 AWG" or "1.5 mm²", not "${lead.gauge}"`);
      if (lead && !insulationById(lead.insulation))
        say(`${path}.${key}.insulation`, `an insulation from the table such as "pvc80", not "${lead.insulation}"`);
    }
    for (const name of LEVELS) checkLevel(part.levels?.[name], `${path}.levels.${name}`, say);
  }
  if (part.kind === "pack") {
    const { fullV, lowV, openCircuitV } = part;
    if (fullV && fullV.value < openCircuitV.value) say(`${path}.fullV`, "at least the planned open-circuit voltage");
    if (lowV && lowV.value > openCircuitV.value) say(`${path}.lowV`, "at most the planned open-circuit voltage");
    if (part.lowCharge && part.plannedCharge && part.lowCharge.value > part.plannedCharge.value)
      say(`${path}.lowCharge`, "at most the planned charge");
  }
  if ("inputMinV" in part && part.inputMinV && part.inputMaxV && part.inputMinV.value > part.inputMaxV.value) {
    say(`${path}.inputMinV`, "at most the highest input voltage");
  }
}
