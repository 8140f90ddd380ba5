import { applyCommand } from "../machine/apply";
import type { Command } from "../machine/commands";
import type { Machine } from "../machine/schema";
import { ledgerOf } from "../machine/tree";
import { gaugeById, usualSizes } from "../reference/gauges";
import { raisedConverter } from "../settling/first-cures";
import type { Trials } from "../settling/trial";
import { burdenOf, effectOf, isGrave } from "../verdicts/effect";
import type { Verdict } from "../verdicts/types";

/** Rounds of thickening what lifts a ground, and remedies of Stops and Fixes tried at most: somebody waits for the draft. */
const ROUNDS = 4;
const TRIES = 16;

function after(machine: Machine, commands: readonly Command[]): Machine {
  let now = machine;
  for (const command of commands) {
    const result = applyCommand(now, command);
    if (result.ok) now = result.machine;
  }
  return now;
}

/** Whether a command changes conductors, fuses, ends and landings only: no part, and nothing the builder alone knows. */
function isWiring(command: Command): boolean {
  if (command.type === "batch") return command.commands.every(isWiring);
  if (command.type === "updatePart") return Object.keys(command.changes).every((key) => key === "fuse");
  return ["setFeed", "setFuse", "updateWire", "reland", "updateSignal"].includes(command.type);
}

/** Each piece's own lead a size above the feed of its group, beside which its return runs: what guards the one then guards the other. */
function ownLeads(machine: Machine): Command[] {
  const ledger = ledgerOf(machine);
  return machine.parts.flatMap((part): Command[] => {
    const gauge = part.kind === "load" && part.ownLead ? ledger.rowOf.get(part.id)?.feed?.gauge : undefined;
    const now = gauge === undefined ? undefined : gaugeById(gauge);
    const next = now && usualSizes(now.system).find(({ areaMm2 }) => areaMm2 > now.areaMm2 * 1.01);
    if (part.kind !== "load" || !part.ownLead || !next) return [];
    return [{ type: "updatePart", id: part.id, changes: { ownLead: { ...part.ownLead, gauge: next.id } } }];
  });
}

/** The feeds whose returns lift a link's ground, thicker by as much as the offset is too large. */
function lifted(machine: Machine, verdicts: readonly Verdict[]): Command[] {
  const ledger = ledgerOf(machine);
  const by = new Map<string, number>();
  for (const verdict of verdicts) {
    if (verdict.rule !== "link-offset" || !isGrave(verdict) || !verdict.value || !verdict.limit) continue;
    for (const id of [verdict.subject.id, ...(verdict.also ?? [])]) {
      const row = ledger.rowOf.get(id);
      for (const wire of [row?.feed, row?.back])
        if (wire && wire.role !== "phase")
          by.set(wire.pair ?? wire.id, Math.max(by.get(wire.pair ?? wire.id) ?? 1, verdict.value / verdict.limit));
    }
  }
  return [...by].flatMap(([id, ratio]): Command[] => {
    const wire = machine.wires.find((each) => each.id === id);
    const now = wire?.gauge ? gaugeById(wire.gauge) : undefined;
    const next = now && usualSizes(now.system).find(({ areaMm2 }) => areaMm2 >= now.areaMm2 * ratio * 1.1);
    return next ? [{ type: "setFeed", id, changes: { gauge: next.id } }] : [];
  });
}

/** Cures of what a cure brought, one after the other, at most. */
const CHAIN = 5;

/** A remedy with the wiring that it asks for in turn: a larger main fuse wants thicker wire before and behind it. */
function chained(trials: Trials, from: Machine, remedy: Command): Machine | null {
  const { swift: before } = trials.at(from);
  let now = trials.after(from, remedy);
  for (let link = 0; now && link < CHAIN; link++) {
    const then = trials.at(now).swift;
    const brought = effectOf(before, then).brings.filter(isGrave);
    if (brought.length === 0) return burdenOf(then) < burdenOf(before) ? now : null;
    const cures = brought.flatMap(({ remedies }) => remedies.filter(({ command }) => isWiring(command)).slice(0, 1));
    if (cures.length === 0) return null;
    now = after(
      now,
      cures.map(({ command }) => command),
    );
  }
  return null;
}

/** The wiring remedies the rules offer for Stops and Fixes, each tried with what it asks for in turn; what makes the plan lighter to bear stays. */
function remedied(trials: Trials, from: Machine): Machine {
  let now = from;
  const tried = new Set<string>();
  for (let tries = 0; tries < TRIES; tries++) {
    const next = trials
      .at(now)
      .swift.flatMap((verdict) =>
        isGrave(verdict)
          ? verdict.remedies
              .filter(({ command }) => isWiring(command))
              .slice(0, 2)
              .map((remedy) => ({ key: `${verdict.id} ${remedy.label}`, remedy }))
          : [],
      )
      .find(({ key }) => !tried.has(key));
    if (!next) return now;
    tried.add(next.key);
    now = chained(trials, now, next.remedy.command) ?? now;
  }
  return now;
}

/**
 * A sized draft with what sizing alone does not reach: leads of groups, grounds that links stand on, remedies of wiring that the
 * rules offer. Every step is analysed, and only what makes the plan lighter to bear is kept.
 */
export function refined(machine: Machine, trials: Trials): Machine {
  let now = after(machine, ownLeads(machine));
  for (let round = 0; round < ROUNDS; round++) {
    const commands = lifted(now, trials.at(now).quick);
    if (commands.length === 0) break;
    const trial = after(now, commands);
    // Thicker wire lets more flow in a short: what its fuse breaks and what guards it count too.
    if (burdenOf(trials.at(trial).swift) > burdenOf(trials.at(now).swift)) break;
    now = trial;
  }
  return remedied(trials, raised(trials, now));
}

/** A 5 V converter set a little higher where a board behind it lacks volts. */
function raised(trials: Trials, from: Machine): Machine {
  const { figures, quick } = trials.at(from);
  const commands = quick.flatMap((verdict) =>
    verdict.rule === "input-window" && isGrave(verdict) ? raisedConverter(figures, verdict).map(({ command }) => command) : [],
  );
  const next = after(from, commands);
  return next !== from && burdenOf(trials.at(next).swift) < burdenOf(trials.at(from).swift) ? next : from;
}
