import { prechargeS } from "../connectors/precharge";
import { applyCommand } from "../machine/apply";
import type { Command, PartChanges } from "../machine/commands";
import { guess } from "../machine/figure";
import type { Machine, Switch } from "../machine/schema";
import type { Standing, Trials } from "../settling/trial";
import { isSupposed, ratings } from "../sizing/ratings";

/** A precharge whose resistor leaves too much missing, smaller. */
function precharges({ figures, swift }: Standing): Command[] {
  return swift.flatMap((verdict): Command[] => {
    const part = figures.partOf.get(verdict.subject.id);
    if (verdict.rule !== "precharge" || part?.kind !== "switch" || !isSupposed(part.prechargeOhm)) return [];
    const { value, limit } = verdict;
    const ohm = part.prechargeOhm?.value;
    if (!value || !limit || !ohm || value <= limit || !verdict.id.includes(":gap:")) return [];
    return [{ type: "updatePart", id: part.id, changes: smaller(part, ohm, (0.7 * limit) / value) }];
  });
}

function smaller(part: Switch, ohm: number, by: number): PartChanges {
  const next = Number((ohm * by).toPrecision(2));
  const farads = part.prechargeS ? part.prechargeS.value / prechargeS(ohm, 1) : 1e-3;
  return { prechargeOhm: guess(next), prechargeS: guess(Math.max(0.5, Number((prechargeS(next, farads) * 1.5).toPrecision(2)))) };
}

/** Turns of making a precharge smaller. */
const TURNS = 5;

function done(machine: Machine, commands: readonly Command[]): Machine {
  return commands.reduce((now, command) => {
    const result = applyCommand(now, command);
    return result.ok ? result.machine : now;
  }, machine);
}

/** Every feed with a number, as the rule that asks for them would number them. */
function labelled(machine: Machine, trials: Trials): Machine {
  const asked = trials.at(machine).quick.find(({ rule }) => rule === "labels");
  return done(machine, asked?.remedies.slice(0, 1).map(({ command }) => command) ?? []);
}

/** The supposed ratings of bars, contacts and precharges made to fit what flows in the sized plan, and its feeds labelled. */
export function fitted(machine: Machine, trials: Trials): Machine {
  return labelled(rated(machine, trials), trials);
}

function rated(machine: Machine, trials: Trials): Machine {
  const { figures } = trials.at(machine);
  const sized = machine.parts.flatMap((part): Command[] => {
    const changes = ratings(figures, part);
    return changes ? [{ type: "updatePart", id: part.id, changes }] : [];
  });
  const canPrecharge = machine.parts.some((part) => part.kind === "switch" && part.prechargeOhm);
  let now = machine;
  for (let turn = 0; turn < TURNS; turn++) {
    const commands = [...(turn === 0 ? sized : []), ...(canPrecharge ? precharges(trials.at(now)) : [])];
    if (commands.length === 0) break;
    now = done(now, commands);
  }
  return now;
}
