import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { newcomer } from "@/tests/support/newcomer";
import { SettlingEngine } from "../engine/settling";
import { datasheet } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { sizeCommands } from "../sizing/ladder";
import { unitsOf } from "../sizing/units";
import { Trials } from "./trial";

const MACHINES: readonly (readonly [string, () => Machine])[] = [
  ...EXAMPLES.map(({ key, make }) => [key, make] as const),
  ["newcomer", () => newcomer({ gauge: "12 AWG", lengthM: datasheet(1.5) })],
];

describe("what the ladder says of a size", () => {
  it.each(MACHINES)(
    "is what the walk says of the machine with it, and a size nothing speaks against brings no Stop there: %s",
    (_, make) => {
      const machine = make();
      const engine = new SettlingEngine();
      const trials = new Trials();
      const units = unitsOf(trials.at(machine).figures).filter(({ lead }) => lead.gauge !== undefined);
      // Every sixth feed, so that the usual run stays short; all sorts of them are among those.
      for (const unit of units.filter((__, i) => i % 6 === 0)) {
        for (const { gauge, ends, fuse, refusals } of engine.ladder(machine, unit.lead.id)?.rungs ?? []) {
          const kinds = refusals.map(({ kind }) => kind);
          if (kinds.some((kind) => kind !== "short")) continue;
          const next = trials.after(machine, { type: "batch", label: "", commands: sizeCommands(unit, gauge, ends, fuse) }) ?? machine;
          const at = trials.at(next);
          const own = new Set(unit.wires.map(({ id }) => id));
          const burns = at.walk?.results.some(({ wire }) => wire !== null && own.has(wire.id) && wire.fate.fate === "burns") ?? false;
          expect(kinds.includes("short"), `${unit.lead.id} ${gauge}`).toBe(burns);
          if (burns) continue;
          const said = at.swift.filter(
            ({ rule, severity, subject }) => rule === "short-circuit" && severity === "stop" && own.has(subject.id),
          );
          expect(
            said.map(({ headline }) => headline),
            `${unit.lead.id} ${gauge}`,
          ).toEqual([]);
        }
      }
    },
  );
});
