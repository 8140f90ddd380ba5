import { passBand } from "../bringup/compare";
import type { Judged, JudgedStep } from "../bringup/judge";
import type { Step } from "../bringup/types";
import { READ_DIMENSIONS, readWords } from "../bringup/words";
import type { Figures } from "../figures/figures";
import { wireName } from "../figures/names";
import { groupBy } from "../machine/group";
import { capital, formatQuantity, say } from "../quantity/format";
import type { ReadQuantity } from "../reference/instruments";
import { tagsOf } from "./tags";

/** One reading on paper: where, what it should be, and what was read; null leaves a blank to fill in. */
export interface PaperStep {
  readonly name: string;
  readonly expect: string;
  readonly read: string | null;
  /** It was read and is not as it should be. */
  readonly off: boolean;
}

/** Readings that differ only in where they are taken. */
export interface PaperGroup {
  /** What all of them are; empty where one says it itself. */
  readonly lead: string;
  readonly steps: readonly PaperStep[];
}

/** A stage of the bring-up as it is printed. */
export interface PaperStage {
  readonly title: string;
  readonly setUp: string;
  readonly stopWhen: string;
  readonly groups: readonly PaperGroup[];
}

/** Readings alike from which what is expected of them is said once for all. */
const ALIKE_LEAST = 3;

/** A band with its unit said once: "5.04 to 5.12 V". */
function bandText(quantity: Exclude<ReadQuantity, "yes">, low: number, high: number): string {
  const dimension = READ_DIMENSIONS[quantity];
  const [a, b] = [formatQuantity(low, dimension, "up"), formatQuantity(high, dimension, "down")];
  return a.unit === b.unit
    ? `${a.digits} to ${b.digits}\u00a0${b.unit}`
    : `${say(low, dimension, "up")} to ${say(high, dimension, "down")}`;
}

/** What a reading should be, as short as it can be said; rounded so that a limit is never widened. */
function expectText({ quantity, expect }: Step): string {
  switch (expect.kind) {
    case "yes":
      return "";
    case "ask":
      return "note it";
    case "exact":
      return readWords(quantity, expect.value);
    case "most":
      return `≤ ${readWords(quantity, expect.limit, "down")}`;
    case "least":
      return `${expect.open ? "OL or " : ""}≥ ${readWords(quantity, expect.limit, "up")}`;
    case "band": {
      if (quantity === "yes") return "";
      const { low, high } = passBand(expect.band);
      return bandText(quantity, low, high);
    }
  }
}

/** The words of a title around the one place it names, and that place: by a wire's tag where there is one. */
function split(figures: Figures, step: Step, names: readonly string[]): { lead: string; name: string } {
  const tags = tagsOf(figures.machine);
  for (const id of step.about) {
    const wire = figures.wireOf.get(id);
    const tag = tags.wires.get(id);
    if (!wire || tag === undefined) continue;
    const called = capital(wireName(figures, wire));
    if (step.title.startsWith(called)) return { lead: `Each wire${step.title.slice(called.length)}`, name: tag };
    // "Fuse of Paddle left driver's feed": the fuse has a tag of its own.
    const fuse = tags.fuseOf.get(id);
    if (fuse && step.quantity === "rating") return { lead: "Rating printed on each fuse", name: fuse.tag };
  }
  for (const id of step.about) {
    const fuse = tags.fuseOf.get(id);
    if (fuse && step.quantity === "rating") return { lead: "Rating printed on each fuse", name: fuse.tag };
  }
  const own = step.about.flatMap((id) => figures.partOf.get(id)?.name ?? []).filter((name) => step.title.includes(name));
  const name = (own.length > 0 ? own : names.filter((each) => step.title.includes(each))).sort((a, b) => b.length - a.length)[0];
  return name === undefined ? { lead: "", name: step.title } : { lead: step.title.replace(name, "…"), name };
}

function paperStep(name: string, { step, reading, state }: JudgedStep): PaperStep {
  const read = reading ? (step.quantity === "yes" ? readWords("yes", reading.value) : readWords(step.quantity, reading.value)) : null;
  return { name, expect: expectText(step), read, off: state === "outside" || state === "look" };
}

/** The stages of a bring-up with blanks, or with what was read. Steps of one kind stand together. */
export function paperStages(figures: Figures, judged: Judged): PaperStage[] {
  const names = figures.machine.parts.map((part) => part.name);
  return judged.stages.map(({ stage, steps }) => {
    const byLead = new Map<string, { title: string; step: PaperStep }[]>();
    for (const each of steps) {
      const { lead, name } = split(figures, each.step, names);
      byLead.set(lead, [...(byLead.get(lead) ?? []), { title: each.step.title, step: paperStep(name, each) }]);
    }
    const groups: PaperGroup[] = [];
    const single: PaperStep[] = [];
    for (const [lead, all] of byLead) {
      if (lead === "" || all.length === 1) {
        for (const { title, step } of all) single.push({ ...step, name: title });
        continue;
      }
      // What is expected of several alike is said once.
      const byExpect = groupBy(all, ({ step }) => step.expect);
      const few: PaperStep[] = [];
      for (const [expect, alike] of byExpect) {
        if (alike.length < ALIKE_LEAST && byExpect.size > 1) few.push(...alike.map(({ step }) => step));
        else groups.push({ lead: expect ? `${lead}: ${expect}` : lead, steps: alike.map(({ step }) => ({ ...step, expect: "" })) });
      }
      if (few.length > 0) groups.push({ lead, steps: few });
    }
    if (single.length > 0) groups.push({ lead: "", steps: single });
    return { title: stage.title, setUp: stage.setUp, stopWhen: stage.stopWhen, groups };
  });
}
