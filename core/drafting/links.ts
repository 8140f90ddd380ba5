import { typical } from "../machine/figure";
import type { Load, Part, Signal } from "../machine/schema";
import { isBoard } from "../machine/terminals";
import type { Builder } from "./builder";
import type { LinkReading } from "./reading";
import type { Sorted } from "./sorted";
import { singular } from "./spell";
import { thingOf } from "./vocabulary";

/** The words of a name that tell it from others, of one piece. */
export const wordsOf = (text: string): string[] =>
  text
    .toLowerCase()
    .split(/[^\p{L}\p{N}]+/u)
    .filter((word) => word !== "" && !/^(the|a|an|both|all|each|every|my|to|of)$/.test(word))
    .map(singular);

/** The parts a name means: those whose own name has its words, else all of the sort it names. */
export function meant(parts: readonly Part[], text: string): Part[] {
  const words = wordsOf(text);
  const able = parts.filter((part) => part.kind === "driver" || part.kind === "load" || part.kind === "converter");
  const exact = able.filter((part) => wordsOf(part.name).join(" ") === words.join(" "));
  if (exact.length > 0) return exact;
  const all = able.filter((part) => words.every((word) => wordsOf(part.name).includes(word)));
  const thing = thingOf(text.replace(/^(?:both|all|each|every|the)\s+/i, ""));
  if (thing?.is === "driver") {
    const drivers = able.filter(({ kind }) => kind === "driver");
    return all.filter(({ kind }) => kind === "driver").length > 0 ? all.filter(({ kind }) => kind === "driver") : drivers;
  }
  if (all.length > 0) return all;
  if (thing?.is !== "load") return [];
  const same = able.filter((part) => part.kind === "load" && part.loadKind === thing.kind);
  return same.length > 0 || thing.kind !== "board" ? same : able.filter(isBoard);
}

/** In each line into a driver, Ω: it keeps a stopped driver from being fed through its inputs (handbook grounding, common practice). */
const SERIES_OHM = 4700;

/** Levels of the usual boards and drivers: 3.3 V out into inputs that take it (common practice, no source). */
function levels(kind: Signal["kind"]): Partial<Signal> {
  return kind === "logic" || kind === "serial" || kind === "pulse" ? { sender: "lvttl33", receiver: "cmos5_ttl_in" } : {};
}

/** Links between the parts a list names. Whoever is named and not in the plan makes no link; its line is said. */
export function hangLinks(builder: Builder, said: Sorted): void {
  const { parts } = builder.machine;
  for (const { reading, number, text } of said.lines) {
    const told = reading?.is === "load" && reading.talks ? { ...reading.talks, from: reading.name } : reading;
    if (!told || !("from" in told)) continue;
    const made = hangLink(builder, parts, told);
    if (made !== null) said.left.push({ number, text, why: made });
  }
}

function hangLink(builder: Builder, parts: readonly Part[], { from, to, kind }: Omit<LinkReading, "is">): string | null {
  const [source] = meant(parts, from);
  if (!source) return `Nothing in the list is called "${from}".`;
  const ends = meant(parts, to).filter(({ id }) => id !== source.id);
  if (ends.length === 0) return `Nothing in the list is called "${to}".`;
  for (const end of ends) {
    const driven = end.kind === "driver" || (end.kind === "load" && (end.loadKind === "servo" || end.loadKind === "brushless"));
    const sort: Signal["kind"] = kind ?? (driven ? "pulse" : isTalker(end) && isTalker(source) ? "serial" : "logic");
    builder.do({
      type: "addSignal",
      signal: {
        assumed: true,
        from: source.id,
        to: end.id,
        kind: sort,
        ...levels(sort),
        ...(end.kind === "driver" && (sort === "pulse" || sort === "logic") ? { seriesOhm: typical(SERIES_OHM) } : {}),
        ...(sort === "serial" ? { receiver: "lvttl33" as const, bothWays: true } : {}),
      },
    });
  }
  return null;
}

function isTalker(part: Part): part is Load {
  return (
    part.kind === "load" &&
    (part.loadKind === "board" || part.loadKind === "computer" || part.loadKind === "radio" || part.loadKind === "sensor")
  );
}
