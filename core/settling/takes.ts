import type { Machine, Part } from "../machine/schema";

/** Money a change takes, by class: nothing, the price of wire and fuses, a module, a drive or a pack. */
export type MoneyClass = "no money" | "small parts" | "a module" | "a drive or source";

/** Money class of a change, and its work in plain words. */
export interface Takes {
  readonly money: MoneyClass;
  readonly work: string;
}

/** Fields of a part that are set in a program or by a screw. */
const SET_IN_PROGRAM: ReadonlySet<string> = new Set(["limitA", "dutyCap", "outputV", "stepper"]);
/** Fields of a load that say what its program does. */
const IN_PROGRAM: ReadonlySet<string> = new Set(["cells", "levels"]);

const MONEY: Readonly<Record<Part["kind"], MoneyClass>> = {
  pack: "a drive or source",
  supply: "a drive or source",
  driver: "a drive or source",
  converter: "a module",
  switch: "a module",
  load: "a module",
  bar: "small parts",
  fuse: "small parts",
};

const RANK: readonly MoneyClass[] = ["no money", "small parts", "a module", "a drive or source"];
const dearer = (a: MoneyClass, b: MoneyClass) => (RANK.indexOf(a) >= RANK.indexOf(b) ? a : b);

/** Names of the fields in which two parts of one id differ. */
function changedFields(before: Part, after: Part): string[] {
  const [a, b]: Record<string, unknown>[] = [{ ...before }, { ...after }];
  return [...new Set([...Object.keys(a ?? {}), ...Object.keys(b ?? {})])].filter(
    (key) => JSON.stringify(a?.[key]) !== JSON.stringify(b?.[key]),
  );
}

/** Counts the work that makes one machine of the other: parts bought, wires cut, ends landed, fuses changed, numbers set. */
export function takesOf(before: Machine, after: Machine): Takes {
  const old = new Map(before.parts.map((part) => [part.id, part]));
  let money: MoneyClass = "no money";
  const work = new Map<string, number>();
  const add = (what: string, many = 1) => work.set(what, (work.get(what) ?? 0) + many);
  for (const part of after.parts) {
    const was = old.get(part.id);
    if (!was) {
      money = dearer(money, MONEY[part.kind]);
      add("part to fit");
      continue;
    }
    if (was === part) continue;
    const fields = changedFields(was, part);
    if (fields.every((key) => SET_IN_PROGRAM.has(key) || IN_PROGRAM.has(key))) {
      if (fields.length > 0) add("number to set");
      continue;
    }
    money = dearer(money, MONEY[part.kind]);
    add(part.kind === "fuse" ? "fuse to change" : "part to change");
  }
  const gone = before.parts.length - after.parts.filter(({ id }) => old.has(id)).length;
  if (gone > 0) add("part to take out", gone);
  const wires = new Map(before.wires.map((wire) => [wire.id, wire]));
  for (const wire of after.wires) {
    const was = wires.get(wire.id);
    const sized =
      was !== undefined &&
      (was.gauge !== wire.gauge ||
        was.parallel !== wire.parallel ||
        was.strand !== wire.strand ||
        was.insulation !== wire.insulation ||
        was.lengthM?.value !== wire.lengthM?.value);
    if (!was || sized) {
      add("wire to cut");
      money = dearer(money, "small parts");
      continue;
    }
    if (JSON.stringify([was.from, was.to]) !== JSON.stringify([wire.from, wire.to])) add("end to land elsewhere");
    if (was.fuse?.family !== wire.fuse?.family || was.fuse?.ratingA !== wire.fuse?.ratingA) {
      add("fuse to change");
      money = dearer(money, "small parts");
    }
    if (JSON.stringify([was.fromEnd, was.toEnd]) !== JSON.stringify([wire.fromEnd, wire.toEnd])) {
      add("plug to change");
      money = dearer(money, "small parts");
    }
  }
  const links = new Map((before.signals ?? []).map((signal) => [signal.id, signal]));
  for (const signal of after.signals ?? []) {
    const was = links.get(signal.id);
    if (!was || was.kind === signal.kind) continue;
    money = dearer(money, "a module");
    add("isolator to fit");
  }
  const lost = before.wires.filter(({ id }) => !after.wires.some((wire) => wire.id === id)).length;
  if (lost > 0) add("wire to take out", lost);
  const words = [...work].map(([what, many]) => (many === 1 ? `one ${what}` : `${many} ${what.replace(/^(\w+)/, "$1s")}`));
  return { money, work: words.join(", ") || "nothing on the machine" };
}
