import { expect } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import type { Figures } from "@/core/figures/figures";
import type { Command, FeedChanges, PartChanges } from "@/core/machine/commands";
import { newMachine } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import type { Machine, Part, Settings } from "@/core/machine/schema";
import { withDecisions } from "@/core/verdicts/decided";
import { evaluateLate } from "@/core/verdicts/late";
import type { LateReadings, Rule } from "@/core/verdicts/rule";
import type { Verdict } from "@/core/verdicts/types";
import { must, part } from "./small";

/** What a rule says of a machine, late rules included; also where it asks for what turns out not to matter. */
export function said(machine: Machine, rule: string): Verdict[] {
  const { figures, analysis } = analyse(machine);
  const late = withDecisions(machine, evaluateLate(figures, analysis.verdicts).verdicts);
  return [...analysis.verdicts, ...late].filter((verdict) => verdict.rule === rule);
}

/** What late rules say on readings that a test has at hand. */
export function saidLate(figures: Figures, rules: readonly Rule[], readings: Partial<LateReadings> = {}): Verdict[] {
  const late: LateReadings = { loose: [], now: [], packBound: () => [], ...readings };
  return rules.flatMap((rule) => (rule.reads === "late" ? rule.evaluate(figures, late) : []));
}

export const one = (machine: Machine, rule: string, key = "") => said(machine, rule).find(({ id }) => id.includes(key));
export const change = (machine: Machine, id: string, changes: PartChanges) => must(machine, { type: "updatePart", id, changes });
export const settle = (machine: Machine, command: Command | undefined) => (command ? must(machine, command) : machine);

export const feed = (machine: Machine, changes: FeedChanges, id = "w2") => must(machine, { type: "setFeed", id, changes });
export const schools = (machine: Machine, over: Partial<Settings["schools"]>) =>
  must(machine, { type: "setSettings", changes: { schools: { ...machine.settings.schools, ...over } } });

/** After the verdict's first remedy nothing of the rule is left there. */
export function remedied(machine: Machine, verdict: Verdict | undefined): Machine {
  expect(verdict?.remedies.length, verdict?.headline).toBeGreaterThan(0);
  return settle(machine, verdict?.remedies[0]?.command);
}

/** A supply that feeds one load of some amps. */
export function supplied(supply: object, amps = 4, over: object = {}): Machine {
  let machine = newMachine("Supplied");
  machine = part(machine, "supply", "supply", { outputV: f(24), outputOhm: f(0.01), ...supply });
  return part(
    machine,
    "load",
    "load",
    { loadKind: "heater", nominalV: f(24), cells: { m1: { state: "amps", amps: f(amps) } }, ...over },
    { from: "supply.+", back: "supply.-", wire: { gauge: "12 AWG", lengthM: f(0.3) } },
  );
}

export const lead = (id: string, volts: number, over: object = {}): Part => ({
  id,
  name: id,
  kind: "pack",
  openCircuitV: f(volts),
  internalOhm: f(0.02),
  chemistry: "lead_agm",
  series: 6,
  capacityAh: f(18),
  continuousA: f(18),
  ...over,
});
export const supplyOf = (id: string, volts: number, over: object = {}): Part => ({
  id,
  name: id,
  kind: "supply",
  outputV: f(volts),
  outputOhm: f(0.01),
  ratedA: f(20),
  ...over,
});
