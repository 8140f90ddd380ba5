import type { PartChanges } from "@/core/machine/commands";
import { datasheet as f } from "@/core/machine/figure";
import { loadsOf, partLastingA, worse } from "../oracle";
import { ELECTRONIC, hasWindow, highest, type Kind, kindOf, loadsOn, lowest, missing, onChannel, overVolts, part } from "./support";

/** Volts that do not fit. */
export const VOLTS: readonly Kind[] = [
  {
    kind: "load meant for half the volts",
    puts: (s) =>
      loadsOf(s.machine).flatMap((each) => {
        if (each.inputMaxV) return [];
        const volts = Number((each.nominalV.value / 2).toPrecision(3));
        const half = { ...each, nominalV: f(volts) };
        return [
          {
            place: each.name,
            command: part(each.id, { nominalV: f(volts) }),
            least: overVolts(half, highest(s, each.id), onChannel(s.machine, each)),
          },
        ];
      }),
  },
  {
    kind: "load meant for twice the volts",
    puts: (s) =>
      loadsOf(s.machine).flatMap((each) => {
        if (
          each.inputMinV ||
          onChannel(s.machine, each) ||
          !ELECTRONIC.has(each.loadKind) ||
          each.loadKind === "light" ||
          each.loadKind === "fan" ||
          partLastingA(s, each) === 0
        )
          return [];
        return [
          {
            place: each.name,
            command: part(each.id, { nominalV: f(2 * each.nominalV.value) }),
            least: each.loadKind === "servo" ? "watch" : "fix",
          },
        ];
      }),
  },
  {
    kind: "input at most below what arrives",
    puts: (s) =>
      s.machine.parts.filter(hasWindow).flatMap((each) => {
        const most = Number((0.93 * highest(s, each.id)).toPrecision(3));
        return (each.inputMinV?.value ?? 0) > most
          ? []
          : [{ place: each.name, command: part(each.id, { inputMaxV: f(most) }), least: "stop" }];
      }),
  },
  {
    kind: "input at least above what arrives",
    puts: (s) =>
      s.machine.parts.filter(hasWindow).flatMap((each) => {
        const least = Number((1.04 * lowest(s, each.id)).toPrecision(4));
        return !Number.isFinite(least) || (each.inputMaxV?.value ?? 0) < least || (each.kind === "load" && each.holdUpF)
          ? []
          : [{ place: each.name, command: part(each.id, { inputMinV: f(least) }), least: "fix" }];
      }),
  },
  missing("pack without its full volts", "fullV", () => true),
  missing("driver without its highest input", "inputMaxV", (each) => each.kind === "driver"),
  missing("converter without its highest input", "inputMaxV", (each) => each.kind === "converter"),
  missing(
    "board without its window",
    "inputMinV",
    (each) => each.kind === "load" && (each.loadKind === "board" || each.loadKind === "computer"),
  ),
  {
    kind: "output half as high again",
    puts: (s) =>
      s.machine.parts.flatMap((each) => {
        if (each.kind !== "converter" && each.kind !== "supply") return [];
        const volts = 1.5 * each.outputV.value;
        return [
          {
            place: each.name,
            command: part(each.id, { outputV: f(volts) }),
            least: worse(
              ...loadsOn(s, each.id).map((load) =>
                load.inputMaxV
                  ? load.inputMaxV.value < 0.95 * volts
                    ? "stop"
                    : null
                  : overVolts(load, 0.98 * volts, onChannel(s.machine, load)),
              ),
            ),
          },
        ];
      }),
  },
  {
    kind: "output three tenths lower",
    puts: (s) =>
      s.machine.parts.flatMap((each) => {
        if (each.kind !== "converter" && each.kind !== "supply") return [];
        const volts = 0.7 * each.outputV.value;
        const short = loadsOn(s, each.id).some(({ inputMinV }) => inputMinV && inputMinV.value > volts);
        return [{ place: each.name, command: part(each.id, { outputV: f(volts) }), least: short ? "fix" : null }];
      }),
  },
  {
    kind: "pack of half as many cells again",
    puts: (s) =>
      kindOf(s.machine, "pack").map((each) => {
        const up = 1.5;
        const changes: PartChanges = {
          openCircuitV: f(up * each.openCircuitV.value),
          ...(each.fullV ? { fullV: f(up * each.fullV.value) } : {}),
          ...(each.lowV ? { lowV: f(up * each.lowV.value) } : {}),
          ...(each.series ? { series: Math.round(up * each.series) } : {}),
        };
        return { place: each.name, command: part(each.id, changes), least: "stop" as const };
      }),
  },
  {
    kind: "linear regulator in place of a switching one",
    puts: (s) =>
      kindOf(s.machine, "converter").flatMap((each) => {
        const watts = (highest(s, each.id) - each.outputV.value) * partLastingA(s, each);
        const best = s.machine.settings.ambientC + 50 * watts;
        return [
          {
            place: each.name,
            command: part(each.id, { topology: "linear", kelvinPerWatt: undefined }),
            least: best > 210 ? "stop" : best > 135 ? "fix" : null,
          },
        ];
      }),
  },
];
