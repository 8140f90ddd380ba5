import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { expectBalanced } from "@/tests/support/balanced";
import { editedAndUndone } from "@/tests/support/edited";
import { randomFrom } from "@/tests/support/random";
import { seeds } from "@/tests/support/seeds";
import { UNREAD } from "@/tests/support/unread";
import { analyseFully } from "../analysis/fully";
import { fusePicture } from "../choosing/fuse-picture";
import { sheetMarkdown } from "../exchange/markdown";
import { checkReport } from "../exchange/report";
import { crossedFaults } from "../faults/crossed";
import { faultWalk } from "../faults/walk";
import { contactsOf } from "../figures/contacts";
import { applyCommand } from "../machine/apply";
import type { Command, FeedChanges } from "../machine/commands";
import { datasheet } from "../machine/figure";
import { AMPACITY_SCHOOLS, type FuseRef, type Machine, type WireEnd } from "../machine/schema";
import { CONNECTORS } from "../reference/connectors";
import { FUSE_FAMILY_IDS, ratingsOf } from "../reference/fuses";
import { GAUGES } from "../reference/gauges";
import { INSULATIONS } from "../reference/insulation";
import { sheetOf } from "../sheet/sheet";
import { explain } from "../working/explain";
import { gaugeLadder } from "./ladder";

type Random = () => number;
const pick = <T>(random: Random, list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
const maybe = <T>(random: Random, value: () => T): T | undefined => (random() < 0.6 ? value() : undefined);
const figure = (random: Random, low: number, high: number) => datasheet(low * (high / low) ** random());

function randomFuse(random: Random): FuseRef {
  const family = pick(random, FUSE_FAMILY_IDS);
  return {
    family,
    ratingA: pick(random, ratingsOf(family)),
    ...(random() < 0.3 ? { atM: Number((random() * 3).toFixed(2)) } : {}),
    ...(random() < 0.2 ? { outOfReach: true } : {}),
  };
}

function randomEnd(random: Random): WireEnd {
  return {
    family: pick(random, CONNECTORS).id,
    ...(random() < 0.4 ? { loaded: 1 + Math.floor(random() * 30) } : {}),
    ...(random() < 0.3 ? { perPole: 1 + Math.floor(random() * 4) } : {}),
    ...(random() < 0.3 ? { coding: pick(random, ["red", "blue", "1"]) } : {}),
    ...(random() < 0.4 ? { live: pick(random, ["recessed", "pins"] as const) } : {}),
  };
}

function feedChanges(random: Random): FeedChanges {
  const roll = random();
  if (roll < 0.1) return { gauge: undefined, board: { kind: "pads" } };
  if (roll < 0.2)
    return {
      gauge: undefined,
      board: {
        kind: "trace",
        widthMm: figure(random, 0.2, 20),
        copperUm: figure(random, 18, 105),
        layer: pick(random, ["outside", "inside"] as const),
      },
    };
  if (roll < 0.35) return { fromEnd: maybe(random, () => randomEnd(random)), toEnd: maybe(random, () => randomEnd(random)) };
  if (roll < 0.5)
    return {
      moves: true,
      strand: pick(random, ["solid", "stranded", "fine", undefined] as const),
      relief: pick(random, [true, false, undefined]),
    };
  if (roll < 0.6) return { surroundings: pick(random, ["sleeve", "box", undefined] as const), soldered: random() < 0.5 || undefined };
  if (roll < 0.7) return { parallel: 1 + Math.floor(random() * 4), unequal: random() < 0.3 || undefined };
  if (roll < 0.8) return { insulation: pick(random, INSULATIONS).id };
  if (roll < 0.9)
    return { lengthM: maybe(random, () => figure(random, 0.01, 20)), label: maybe(random, () => `L${Math.floor(random() * 99)}`) };
  return { gauge: pick(random, GAUGES).id, board: undefined };
}

function randomCommand(random: Random, machine: Machine): Command {
  const wire = pick(random, machine.wires);
  const roll = random();
  if (roll < 0.45) return { type: "setFeed", id: wire.pair ?? wire.id, changes: feedChanges(random) };
  if (roll < 0.6) return { type: "setFuse", wireId: wire.pair ?? wire.id, fuse: random() < 0.2 ? null : randomFuse(random) };
  if (roll < 0.7)
    return {
      type: "setSettings",
      changes: {
        ambientC: Math.round(random() * 70) - 5,
        boxRiseK: Math.round(random() * 30),
        faultOhm: 0.001 + random() * 0.3,
        schools: {
          ...machine.settings.schools,
          ampacity: pick(random, AMPACITY_SCHOOLS),
          driverFeeds: pick(random, ["each fused", "main only", undefined] as const),
          stop: pick(random, ["opens power", "disables drives", undefined] as const),
        },
      },
    };
  const part = pick(random, machine.parts);
  if (part.kind === "switch")
    return {
      type: "updatePart",
      id: part.id,
      changes: {
        device: pick(random, ["toggle", "contactor", "charging port", undefined] as const),
        acOnly: random() < 0.3 || undefined,
        breakA: maybe(random, () => figure(random, 1, 300)),
        breakV: maybe(random, () => figure(random, 6, 60)),
        makeA: maybe(random, () => figure(random, 10, 1000)),
        prechargeOhm: maybe(random, () => figure(random, 0.5, 500)),
        prechargeS: maybe(random, () => figure(random, 0.01, 10)),
        prechargeJ: maybe(random, () => figure(random, 0.1, 50)),
        stop: maybe(random, () => ({ devices: 2, normallyClosed: random() < 0.5, deliberateReset: random() < 0.5 })),
      },
    };
  if (part.kind === "bar")
    return {
      type: "updatePart",
      id: part.id,
      changes: {
        form: pick(random, ["Y-lead", "board", undefined] as const),
        ratedA: maybe(random, () => figure(random, 1, 200)),
        bulkF: maybe(random, () => figure(random, 1e-5, 0.1)),
      },
    };
  if (part.kind === "fuse") return { type: "updatePart", id: part.id, changes: { fuse: randomFuse(random) } };
  if (part.kind === "pack")
    return { type: "updatePart", id: part.id, changes: { internalOhm: maybe(random, () => figure(random, 1e-4, 1)) } };
  if (part.kind === "supply")
    return {
      type: "updatePart",
      id: part.id,
      changes: { limitA: maybe(random, () => figure(random, 0.5, 60)), ratedA: maybe(random, () => figure(random, 0.5, 40)) },
    };
  return {
    type: "updatePart",
    id: part.id,
    changes: {
      reverseSafe: random() < 0.5 || undefined,
      ...(part.kind === "load" ? {} : { inputF: maybe(random, () => figure(random, 1e-6, 0.02)) }),
    },
  };
}

/** As JSON, with numbers that JSON would turn into null; times and temperatures of what never ends are endless by design. */
function text(value: unknown): string {
  return (
    JSON.stringify(value, (key, each: unknown) =>
      typeof each !== "number" ||
      ["fastestS", "slowestS", "reachesS", "temperatureC", "endC", "minS", "maxS", "windingS", "margin"].includes(key)
        ? each
        : Number.isFinite(each)
          ? each
          : String(each),
    ) ?? ""
  );
}

/** Everything the feeds screens and exports can show of a machine, as text. */
function everything(machine: Machine, random: Random): string {
  const { figures, analysis, late } = analyseFully(machine);
  expectBalanced(figures);
  const walk = late.faults;
  const wires = Array.from({ length: 3 }, () => pick(random, machine.wires));
  const fused = machine.wires.filter(({ fuse }) => fuse).slice(0, 4);
  return [
    text(analysis.verdicts),
    text(walk?.results),
    text(walk ? crossedFaults(figures, walk) : null),
    text(wires.map(({ id }) => gaugeLadder(figures, walk, id))),
    text(fused.map(({ id }) => fusePicture(figures, walk, { kind: "wire", id }))),
    text(contactsOf(figures)),
    text(
      wires.flatMap(({ id: wire }) =>
        (["wireLimit", "wireTemperature", "wireOhm", "fuseLeast"] as const).map((kind) => explain(figures, { kind, wire })),
      ),
    ),
    text(checkReport(machine, analysis)),
    sheetMarkdown(machine, sheetOf(figures, analysis, { judged: UNREAD })),
  ].join("\n");
}

describe("whatever is entered of feeds, fuses, ends and contacts", () => {
  it.each(seeds(1, 8))("leaves valid documents, balanced accounts and finite words, and undoes exactly: run %d", (seed) => {
    const random = randomFrom(seed * 977);
    const start = EXAMPLES[seed % EXAMPLES.length]?.make() as Machine;
    const { accepted } = editedAndUndone(start, {
      turns: 24,
      every: 4,
      command: (machine) => randomCommand(random, machine),
      everything: (machine) => everything(machine, random),
    });
    expect(accepted).toBeGreaterThan(8);
  });

  it.each([1, 2, 3])("never clears a short that hangs on a figure taken away: run %d", (seed) => {
    const random = randomFrom(seed * 31);
    const machine = EXAMPLES[1]?.make() as Machine;
    const pack = machine.parts.find(({ kind }) => kind === "pack");
    const result = applyCommand(machine, { type: "updatePart", id: pack?.id ?? "", changes: { internalOhm: undefined } });
    if (!result.ok) throw new Error(result.message);
    const { figures } = analyseFully(result.machine);
    const { results, places } = faultWalk(figures);
    const onPack = results.filter(({ held, opens }) => !held && opens);
    expect(onPack.length).toBeGreaterThan(5);
    for (const each of onPack) expect(each.danger, each.place).not.toBe("clears");
    expect(pick(random, places).plus).toBeGreaterThanOrEqual(0);
  });
});
