import type { Command } from "@/core/machine/commands";
import { datasheet as f } from "@/core/machine/figure";
import { byHeat, guardA, lastingA, loadsOf, partLastingA, worse } from "../oracle";
import { barA, feedOf, type Kind, kindOf, missing, part, power, rating, switchA, timed } from "./support";

/** Amps that are too many, for too long, or not told. */
export const AMPS: readonly Kind[] = [
  missing("pack without its resistance", "internalOhm", () => true),
  missing("pack without its amps continuously", "continuousA", ({ kind }) => kind === "pack"),
  missing("supply without its rating", "ratedA", (each) => each.kind === "supply"),
  missing("converter without its rating", "ratedA", (each, s) => each.kind === "converter" && partLastingA(s, each) > 0.05),
  missing("switch without a rating", "ratedA", (each, s) => each.kind === "switch" && switchA(s, each) > 1.2),
  {
    kind: "load unknown in a mode",
    puts: (s) =>
      loadsOf(s.machine).flatMap((each) =>
        s.machine.modes
          .filter(({ id }) => each.cells[id])
          .map((mode) => ({
            place: `${each.name} ${mode.name}`,
            command: { type: "setCell", loadId: each.id, modeId: mode.id, cell: null } as Command,
            least: "ask" as const,
          })),
      ),
  },
  rating("pack gives half of what is asked", "continuousA", 0.5, partLastingA, ({ kind }) => kind === "pack"),
  rating("supply gives half of what is asked", "ratedA", 0.5, partLastingA, ({ kind }) => kind === "supply"),
  rating("converter gives half of what is asked", "ratedA", 0.5, partLastingA, ({ kind }) => kind === "converter"),
  rating("switch at half of what it carries", "ratedA", 0.5, switchA, ({ kind }) => kind === "switch", "stop"),
  rating("switch at eight tenths of what it carries", "ratedA", 0.8, switchA, ({ kind }) => kind === "switch"),
  {
    kind: "bar at half of what it carries",
    puts: (s) =>
      kindOf(s.machine, "bar").flatMap((each) => {
        const amps = barA(s, each);
        return amps < 0.1 ? [] : [{ place: each.name, command: part(each.id, { ratedA: f(0.5 * amps) }), least: "stop" }];
      }),
  },
  {
    kind: "pack of thirty times the resistance",
    puts: (s) =>
      kindOf(s.machine, "pack").flatMap((each) =>
        each.internalOhm
          ? [{ place: each.name, command: part(each.id, { internalOhm: f(30 * each.internalOhm.value) }), least: "fix" as const }]
          : [],
      ),
  },
  {
    kind: "lithium pack that nothing watches",
    puts: (s) =>
      kindOf(s.machine, "pack")
        .filter(({ chemistry }) => chemistry?.includes("life") || chemistry?.includes("li"))
        .map((each) => ({ place: each.name, command: part(each.id, { management: "none" }), least: "fix" })),
  },
  {
    kind: "a timed mode that goes on",
    puts: (s) => timed(s, null),
  },
  {
    kind: "a timed mode of half an hour",
    puts: (s) => timed(s, 1800),
  },
  {
    kind: "four times the current",
    puts: (s) =>
      loadsOf(s.machine).flatMap((each) => {
        const feed = feedOf(s.machine, each.id);
        return Object.entries(each.cells).flatMap(([mode, cell]) => {
          const m = s.machine.modes.findIndex(({ id }) => id === mode);
          const amps = s.figures.parts[each.id]?.amps[m] ?? 0;
          if (cell.state === "off" || s.machine.modes[m]?.lastsS !== null || amps < 0.05 || feed?.role !== "supply") return [];
          const guard = guardA(s.machine, feed);
          const now = Number((4 * amps).toPrecision(3));
          return [
            {
              place: `${each.name} ${s.machine.modes[m]?.name}`,
              command: { type: "setCell", loadId: each.id, modeId: mode, cell: { state: "amps", amps: f(now) } } as Command,
              least: now > 1.05 * guard ? ("fix" as const) : null,
            },
          ];
        });
      }),
  },
  {
    kind: "twenty degrees over what the wires allow",
    puts: (s) => [
      {
        place: "the machine",
        command: { type: "setSettings", changes: { ambientC: 75 } } as Command,
        least: worse(
          ...power(s.machine).map((each) =>
            byHeat({ ...s.machine, settings: { ...s.machine.settings, ambientC: 75 } }, each, lastingA(s, each)),
          ),
        ),
      },
    ],
  },
];
