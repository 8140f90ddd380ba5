import type { Command, PartChanges } from "@/core/machine/commands";
import { datasheet as f } from "@/core/machine/figure";
import type { FuseRef, Load, Machine, Part, PartKind, PartOf, TerminalRef, Wire } from "@/core/machine/schema";
import type { Severity } from "@/core/verdicts/types";
import { letThrough, ohmPerM, withstand } from "../support/physics";
import {
  anyA,
  byBriefHeat,
  byHeat,
  edited,
  guardA,
  lastingA,
  loadsOf,
  type Mistake,
  partLastingA,
  type Sound,
  sound,
  worse,
} from "./oracle";

type Least = Severity | null | ((after: Machine) => Severity | null);
interface Put {
  place: string;
  command: Command | Machine;
  /** The least that must be said; null: it does no harm here. A function sees the changed machine. */
  least: Least;
  most?: Severity;
}

/** A kind of mistake: every place of a machine it can be made at. */
interface Kind {
  kind: string;
  puts: (s: Sound) => Put[];
}

const AWG = ["4/0", "2/0", "1/0", "2", "4", "6", "8", "10", "12", "14", "16", "18", "20", "22", "24", "26", "28", "30"].map(
  (n) => `${n} AWG`,
);
const RATINGS = [1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40];
const ELECTRONIC = new Set([
  "board",
  "computer",
  "sensor",
  "radio",
  "display",
  "sound",
  "stepper",
  "brushless",
  "servo",
  "light",
  "fan",
  "other",
]);

const power = (machine: Machine) =>
  machine.wires.filter(({ role, gauge }) => (role === "supply" || role === "return" || role === "phase") && gauge);
const wire = (id: string, changes: Partial<Wire>): Command => ({ type: "updateWire", id, changes }) as Command;
const part = (id: string, changes: PartChanges): Command => ({ type: "updatePart", id, changes });
const kindOf = <K extends PartKind>(machine: Machine, kind: K): PartOf<K>[] =>
  machine.parts.filter((each): each is PartOf<K> => each.kind === kind);
const nameOf = (machine: Machine, id: string) => machine.parts.find((each) => each.id === id)?.name ?? id;
const label = (machine: Machine, { from, to }: Wire) =>
  `${nameOf(machine, from.part)}.${from.terminal} > ${nameOf(machine, to.part)}.${to.terminal}`;
const highest = ({ figures }: Sound, id: string) => Math.max(figures.parts[id]?.reachesV ?? 0, ...(figures.parts[id]?.volts ?? []));
const lowest = ({ figures }: Sound, id: string) => figures.parts[id]?.lowestV?.volts ?? Number.POSITIVE_INFINITY;
const sides = (machine: Machine, side: "positive" | "negative") =>
  kindOf(machine, "bar").filter((bar) => bar.side === side && bar.form !== "chassis");

/** A wire thinner by so many sizes: by what its lasting current, its timed ones and its fuse do to it. */
const thinner = (steps: number): Kind => ({
  kind: `wire ${steps} sizes thinner`,
  puts: (s) =>
    power(s.machine).flatMap((each) => {
      const gauge = AWG[AWG.indexOf(each.gauge ?? "") + steps];
      if (!AWG.includes(each.gauge ?? "") || !gauge) return [];
      const thin = { ...each, gauge };
      return [
        {
          place: label(s.machine, each),
          command: wire(each.id, { gauge }),
          least: () => {
            const guard = guardA(s.machine, each);
            return worse(
              byHeat(s.machine, thin, lastingA(s, each)),
              byBriefHeat(s, thin),
              Number.isFinite(guard) ? byHeat(s.machine, thin, guard) : null,
            );
          },
        },
      ];
    }),
});

const fuses = (s: Sound) => power(s.machine).filter((each) => each.fuse);
const bigger = ({ family, ratingA }: FuseRef, times: number): FuseRef | null => {
  const rating = RATINGS.find((each) => each >= times * ratingA);
  return rating === undefined || !family.startsWith("blade_regular") ? null : { family, ratingA: rating };
};

/** Wires behind a fuse that no further one guards more tightly. */
function behind(machine: Machine, fused: Wire): Wire[] {
  return power(machine).filter(
    (each) => each.role !== "return" && guardA(machine, each) === fused.fuse?.ratingA && upstream(machine, each).includes(fused.id),
  );
}
function upstream(machine: Machine, from: Wire): string[] {
  const way: string[] = [];
  for (let at: Wire | undefined = from; at && !way.includes(at.id); ) {
    way.push(at.id);
    const id: string = at.from.part;
    at = machine.wires.find(
      ({ role, to }) =>
        role === "supply" &&
        to.part === id &&
        (to.terminal === "in+" || to.terminal === "bar" || to.terminal === "in" || to.terminal === "+"),
    );
  }
  return way;
}

function oversized(times: number): Kind {
  return {
    kind: `fuse ${times} times as large`,
    puts: (s) =>
      fuses(s).flatMap((each) => {
        const fuse = each.fuse && bigger(each.fuse, times);
        if (!fuse) return [];
        return [
          {
            place: label(s.machine, each),
            command: { type: "setFuse", wireId: each.id, fuse } as Command,
            least: (after: Machine) => {
              const fused = after.wires.find(({ id }) => id === each.id) as Wire;
              return worse(...behind(after, fused).map((own) => byHeat(after, own, guardA(after, own))));
            },
          },
        ];
      }),
  };
}

/** A driver's or converter's current figure as a share of the most that goes on. */
const rating = (
  kind: string,
  key: string,
  share: number,
  amps: (s: Sound, each: Part) => number,
  pick: (each: Part) => boolean,
  least: Severity = "fix",
): Kind => ({
  kind,
  puts: (s) =>
    s.machine.parts.filter(pick).flatMap((each) => {
      const now = amps(s, each);
      return now < 0.05
        ? []
        : [{ place: each.name, command: part(each.id, { [key]: f(Number((share * now).toPrecision(3))) } as PartChanges), least }];
    }),
});

const missing = (kind: string, key: string, pick: (each: Part, s: Sound) => boolean): Kind => ({
  kind,
  puts: (s) =>
    s.machine.parts
      .filter((each) => key in each && pick(each, s))
      .map((each) => ({ place: each.name, command: part(each.id, { [key]: undefined } as PartChanges), least: "ask" })),
});

const consumers = (machine: Machine) =>
  machine.parts.filter((each) => each.kind === "load" || each.kind === "driver" || each.kind === "converter");
const onChannel = (machine: Machine, load: Load) => machine.wires.some(({ role, to }) => role === "phase" && to.part === load.id);
const feedOf = (machine: Machine, id: string) =>
  machine.wires.find(
    ({ role, to }) => (role === "supply" || role === "phase") && to.part === id && (to.terminal === "+" || to.terminal === "in+"),
  );
const backOf = (machine: Machine, id: string) =>
  machine.wires.find(
    ({ role, from }) => (role === "return" || role === "phase") && from.part === id && (from.terminal === "-" || from.terminal === "in-"),
  );
const reland = (wireId: string, end: "from" | "to", at: TerminalRef): Command => ({ type: "reland", wireId, end, at });
const batch = (...commands: Command[]): Command => ({ type: "batch", label: "a mistake", commands });
const hasWindow = (each: Part): each is PartOf<"load"> | PartOf<"driver"> | PartOf<"converter"> =>
  "inputMaxV" in each && each.inputMaxV !== undefined;

/** Reversed supply: electronics die, a plain motor turns the other way. */
function reversedHarm(each: Part): Severity | null {
  if (each.kind !== "load") return "stop";
  if (each.loadKind === "heater") return null;
  return ELECTRONIC.has(each.loadKind) || each.loadKind === "coil" ? "stop" : "fix";
}

const motorAmps = (s: Sound, driver: Part) =>
  Math.max(
    0,
    ...power(s.machine)
      .filter(({ role, from }) => role === "phase" && from.part === driver.id)
      .map((lead) => lastingA(s, lead)),
  );

/** Volts over those a load without a window is meant for. */
function overVolts(load: Load, volts: number, driven: boolean): Severity | null {
  const share = volts / load.nominalV.value;
  if (driven) return share > 1.3 ? "fix" : null;
  const turning = load.loadKind === "motor" || load.loadKind === "pump" || load.loadKind === "actuator";
  return share > (turning ? 2 : 1.55) ? "stop" : share > 1.3 ? "fix" : null;
}

export const KINDS: readonly Kind[] = [
  thinner(3),
  thinner(5),
  thinner(8),
  {
    kind: "wire ten times as long",
    puts: (s) =>
      power(s.machine).flatMap((each) => {
        if (!each.lengthM || each.role === "phase") return [];
        const more = 9 * each.lengthM.value * ohmPerM(each.gauge ?? "") * lastingA(s, each);
        const load = s.machine.parts.find(({ id }) => id === (each.role === "return" ? each.from.part : each.to.part));
        const rail = load ? highest(s, load.id) : 0;
        const over = load && load.kind !== "driver" && load.kind !== "converter" && rail > 0 && more / rail > 0.06;
        return [
          { place: label(s.machine, each), command: wire(each.id, { lengthM: f(10 * each.lengthM.value) }), least: over ? "fix" : null },
        ];
      }),
  },
  {
    kind: "wire of unknown size",
    puts: (s) =>
      power(s.machine).map((each) => ({ place: label(s.machine, each), command: wire(each.id, { gauge: undefined }), least: "ask" })),
  },
  {
    kind: "wire of unknown length",
    puts: (s) =>
      power(s.machine).map((each) => ({ place: label(s.machine, each), command: wire(each.id, { lengthM: undefined }), least: "ask" })),
  },
  {
    kind: "wire in a bundle of forty",
    puts: (s) =>
      power(s.machine).map((each) => ({
        place: label(s.machine, each),
        command: wire(each.id, { bundle: 40 }),
        least: () => {
          const crowded = { ...each, bundle: 40 };
          const guard = guardA(s.machine, each);
          return worse(byHeat(s.machine, crowded, lastingA(s, each)), Number.isFinite(guard) ? byHeat(s.machine, crowded, guard) : null);
        },
      })),
  },
  oversized(2),
  oversized(5),
  {
    kind: "fuse left out",
    puts: (s) =>
      fuses(s).map((each) => ({
        place: label(s.machine, each),
        command: { type: "setFuse", wireId: each.id, fuse: null } as Command,
        least: (after: Machine) => {
          const bare = after.wires.find(({ id }) => id === each.id) as Wire;
          const guard = guardA(after, bare);
          return Number.isFinite(guard) ? byHeat(after, bare, guard) : fromPack(after, bare) ? "stop" : null;
        },
      })),
  },
  {
    kind: "fuse smaller than what it carries",
    puts: (s) =>
      fuses(s).flatMap((each) => {
        const rating = RATINGS.findLast((a) => a < lastingA(s, each));
        return rating === undefined || !each.fuse?.family.startsWith("blade_regular")
          ? []
          : [
              {
                place: label(s.machine, each),
                command: { type: "setFuse", wireId: each.id, fuse: { ...each.fuse, ratingA: rating } } as Command,
                least: "fix",
              },
            ];
      }),
  },
  {
    kind: "fuse with an AC rating only",
    puts: (s) =>
      fuses(s)
        .filter(({ fuse }) => (fuse?.ratingA ?? 0) <= 10)
        .map((each) => ({
          place: label(s.machine, each),
          command: { type: "setFuse", wireId: each.id, fuse: { family: "cart_5x20_T_glass", ratingA: 6.3 } } as Command,
          least: "ask",
        })),
  },
  {
    kind: "fuse half a metre along its wire",
    puts: (s) =>
      fuses(s).flatMap((each) => {
        if (!each.fuse || (each.lengthM?.value ?? 0) < 0.4) return [];
        const { fuse: _own, ...bare } = each;
        const guard = guardA({ ...s.machine, wires: s.machine.wires.map((w) => (w.id === each.id ? (bare as Wire) : w)) }, bare as Wire);
        const strong = s.machine.parts.some(({ kind }) => kind === "pack") && guard >= 20;
        const burns = !Number.isFinite(guard) || (strong && letThrough("strip", guard) > withstand(each.gauge ?? "", 80));
        return [
          {
            place: label(s.machine, each),
            command: { type: "setFuse", wireId: each.id, fuse: { ...each.fuse, atM: 0.4 } } as Command,
            least: burns && strong ? "stop" : null,
          },
        ];
      }),
  },
  {
    kind: "plug of a small family",
    puts: (s) =>
      power(s.machine).flatMap((each) => {
        const amps = lastingA(s, each);
        return amps < 2.1
          ? []
          : [
              {
                place: label(s.machine, each),
                command: wire(each.id, { toEnd: { family: "crimp254" } }),
                least: amps > 2 * Math.SQRT2 ? "stop" : "fix",
              },
            ];
      }),
  },
  {
    kind: "solid wire across a joint",
    puts: (s) =>
      power(s.machine)
        .filter(({ pair }) => pair === undefined)
        .map((each) => ({
          place: label(s.machine, each),
          command: wire(each.id, { moves: true, strand: "solid", relief: true }),
          least: "stop",
        })),
  },
  {
    kind: "plus and minus swapped at a part",
    puts: (s) =>
      consumers(s.machine).flatMap((each) => {
        const [feed, back] = [feedOf(s.machine, each.id), backOf(s.machine, each.id)];
        if (!feed || !back || feed.role === "phase") return [];
        return [
          {
            place: each.name,
            command: batch(reland(feed.id, "from", back.to), reland(back.id, "to", feed.from)),
            least: reversedHarm(each),
          },
        ];
      }),
  },
  {
    kind: "return landed on plus",
    puts: (s) =>
      consumers(s.machine).flatMap((each) => {
        const [feed, back] = [feedOf(s.machine, each.id), backOf(s.machine, each.id)];
        return !feed || !back || feed.role === "phase"
          ? []
          : [{ place: each.name, command: reland(back.id, "to", feed.from), least: "fix" }];
      }),
  },
  {
    kind: "feed landed on minus",
    puts: (s) =>
      consumers(s.machine).flatMap((each) => {
        const [feed, back] = [feedOf(s.machine, each.id), backOf(s.machine, each.id)];
        return !feed || !back || feed.role === "phase"
          ? []
          : [{ place: each.name, command: reland(feed.id, "from", back.to), least: "fix" }];
      }),
  },
  {
    kind: "return forgotten",
    puts: (s) =>
      consumers(s.machine).flatMap((each) => {
        const back = backOf(s.machine, each.id);
        const landed = s.machine.wires.some(
          ({ role, to }) => (role === "return" || role === "signal") && to.part === each.id && to.terminal.endsWith("-"),
        );
        return !back || landed ? [] : [{ place: each.name, command: { type: "removeWire", id: back.id } as Command, least: "stop" }];
      }),
  },
  {
    kind: "feed forgotten",
    puts: (s) =>
      consumers(s.machine).flatMap((each) => {
        const feed = feedOf(s.machine, each.id);
        return feed ? [{ place: each.name, command: { type: "removeWire", id: feed.id } as Command, least: "fix" }] : [];
      }),
  },
  {
    kind: "wire from a plus bar to a minus bar",
    puts: (s) =>
      sides(s.machine, "positive").flatMap((p) =>
        sides(s.machine, "negative").flatMap((n) => {
          const [a, b] = [
            s.figures.solved.wiring.island[s.figures.solved.circuit.nodes.get(p.id)?.bar ?? 0],
            s.figures.solved.wiring.island[s.figures.solved.circuit.nodes.get(n.id)?.bar ?? 0],
          ];
          if (a !== b) return [];
          return [
            {
              place: `${p.name} > ${n.name}`,
              command: addWire("supply", { part: p.id, terminal: "bar" }, { part: n.id, terminal: "bar" }),
              least: "stop",
            },
          ];
        }),
      ),
  },
  {
    kind: "two rails joined",
    puts: (s) => {
      const plus = s.machine.parts.flatMap((each): { id: string; at: TerminalRef; volts: number }[] =>
        each.kind === "converter"
          ? [{ id: each.id, at: { part: each.id, terminal: "out+" }, volts: each.outputV.value }]
          : each.kind === "pack" || each.kind === "supply"
            ? [
                {
                  id: each.id,
                  at: { part: each.id, terminal: "+" },
                  volts: each.kind === "pack" ? each.openCircuitV.value : each.outputV.value,
                },
              ]
            : [],
      );
      return plus.flatMap((a) =>
        plus.flatMap((b) =>
          a.volts > 1.3 * b.volts
            ? [
                {
                  place: `${nameOf(s.machine, a.id)} > ${nameOf(s.machine, b.id)}`,
                  command: addWire("supply", a.at, b.at),
                  least: joined(s, a.id, b.id),
                },
              ]
            : [],
        ),
      );
    },
  },
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
  missing("pack without its resistance", "internalOhm", () => true),
  missing("pack without its amps for good", "continuousA", ({ kind }) => kind === "pack"),
  missing("supply without its rating", "ratedA", (each) => each.kind === "supply"),
  missing("converter without its rating", "ratedA", (each, s) => each.kind === "converter" && partLastingA(s, each) > 0.05),
  missing(
    "driver without what it carries for good",
    "continuousA",
    (each) => each.kind === "driver" && (each.cooling ?? "none") === "none",
  ),
  missing("driver without its highest input", "inputMaxV", (each) => each.kind === "driver"),
  missing("converter without its highest input", "inputMaxV", (each) => each.kind === "converter"),
  missing(
    "board without its window",
    "inputMinV",
    (each) => each.kind === "load" && (each.loadKind === "board" || each.loadKind === "computer"),
  ),
  missing("switch without a rating", "ratedA", (each, s) => each.kind === "switch" && switchA(s, each) > 1.2),
  {
    kind: "stall unknown and nothing limits",
    puts: (s) =>
      loadsOf(s.machine).flatMap((each) => {
        const lead = feedOf(s.machine, each.id);
        if (lead?.role !== "phase" || !each.levels?.stall || !["motor", "actuator", "pump", "fan"].includes(each.loadKind)) return [];
        const { stall: _stall, start: _start, ...levels } = each.levels;
        return [{ place: each.name, command: batch(part(each.id, { levels }), part(lead.from.part, { limitA: undefined })), least: "ask" }];
      }),
  },
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
  rating(
    "driver carries six tenths of what is asked",
    "continuousA",
    0.6,
    motorAmps,
    (each) => each.kind === "driver" && (each.cooling ?? "none") === "none",
  ),
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
    kind: "no freewheel diodes",
    puts: (s) =>
      kindOf(s.machine, "driver")
        .filter(({ id }) => s.machine.wires.some(({ role, from }) => role === "phase" && from.part === id))
        .map((each) => ({ place: each.name, command: part(each.id, { bridge: "bipolar", freewheel: "missing" }), least: "stop" })),
  },
  {
    kind: "motor that pulls three times the stall, unlimited",
    puts: (s) =>
      kindOf(s.machine, "driver").flatMap((each) =>
        s.machine.wires
          .filter(({ role, from, to }) => role === "phase" && from.part === each.id && to.terminal === "+")
          .flatMap((lead) => {
            const motor = loadsOf(s.machine).find(({ id }) => id === lead.to.part);
            const stall = motor?.levels?.stall;
            const peak = each.peakA?.value ?? each.continuousA?.value;
            if (!motor || !stall || peak === undefined || 2 * stall.value < peak) return [];
            return [
              {
                place: motor.name,
                command: batch(
                  part(motor.id, { levels: { ...motor.levels, stall: f(3 * stall.value) } }),
                  part(each.id, { limitA: undefined }),
                ),
                least: "fix" as const,
              },
            ];
          }),
      ),
  },
  {
    kind: "lead on another channel",
    puts: (s) =>
      kindOf(s.machine, "driver").flatMap((each) =>
        leads(s, each).map(({ back, motor }) => ({
          place: motor,
          command: batch(
            part(each.id, { channels: Math.max(2, each.channels) }),
            reland(back.id, "to", { part: each.id, terminal: back.to.terminal.startsWith("1") ? "2b" : "1b" }),
          ),
          least: "stop" as const,
        })),
      ),
  },
  {
    kind: "lead on the minus bar",
    puts: (s) =>
      kindOf(s.machine, "driver").flatMap((each) =>
        leads(s, each).flatMap(({ back, motor }) =>
          sides(s.machine, "negative")
            .slice(0, 1)
            .map((bar) => ({ place: motor, command: reland(back.id, "to", { part: bar.id, terminal: "bar" }), least: "fix" as const })),
        ),
      ),
  },
  {
    kind: "lead on the driver's supply",
    puts: (s) =>
      kindOf(s.machine, "driver").flatMap((each) =>
        leads(s, each).map(({ out, motor }) => ({
          place: motor,
          command: reland(out.id, "from", { part: each.id, terminal: "in+" }),
          least: "stop" as const,
        })),
      ),
  },
  {
    kind: "second motor on the same channel",
    puts: (s) =>
      kindOf(s.machine, "driver").flatMap((each) =>
        leads(s, each).flatMap(({ out, back, motorId, motor }) => {
          const load = loadsOf(s.machine).find(({ id }) => id === motorId);
          const bears = each.cooling === "heatsink" ? each.heatsinkA : each.continuousA;
          if (!load || !bears) return [];
          const twin = { ...load, id: "twin", name: "Twin" };
          const command: Command = {
            type: "addPart",
            part: twin,
            feed: { from: out.from, back: back.to, wire: { gauge: out.gauge, lengthM: out.lengthM } },
          };
          return [{ place: motor, command, least: 2 * lastingA(s, out) > 1.02 * bears.value ? ("fix" as const) : null }];
        }),
      ),
  },
  {
    kind: "fed from a signal pin",
    puts: (s) =>
      loadsOf(s.machine).flatMap((each) => {
        const feed = feedOf(s.machine, each.id);
        const board = loadsOf(s.machine).find(({ loadKind, id }) => loadKind === "board" && id !== each.id);
        if (!feed || feed.role !== "supply" || !board || anyA(s, feed) < 0.05) return [];
        return [{ place: each.name, command: reland(feed.id, "from", { part: board.id, terminal: "pin" }), least: "stop" }];
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
  {
    kind: "actuator without end switches",
    puts: (s) =>
      loadsOf(s.machine)
        .filter((each) => each.loadKind === "actuator" && !Object.values(each.cells).some(({ state }) => state === "stall"))
        .map((each) => ({ place: each.name, command: part(each.id, { endSwitches: false }), least: "fix" })),
  },
  {
    kind: "stop loop that needs current to stop",
    puts: (s) =>
      kindOf(s.machine, "switch").flatMap((each) =>
        each.stop
          ? [{ place: each.name, command: part(each.id, { stop: { ...each.stop, normallyClosed: false } }), least: "stop" as const }]
          : [],
      ),
  },
  {
    kind: "stop that lets go by itself",
    puts: (s) =>
      kindOf(s.machine, "switch").flatMap((each) =>
        each.stop
          ? [{ place: each.name, command: part(each.id, { stop: { ...each.stop, deliberateReset: false } }), least: "fix" as const }]
          : [],
      ),
  },
  {
    kind: "motor fed past the stop",
    puts: (s) =>
      kindOf(s.machine, "switch").flatMap((each) => {
        if (!each.stop) return [];
        const before = feedIn(s.machine, each.id);
        return kindOf(s.machine, "driver").flatMap((driver) => {
          const feed = feedOf(s.machine, driver.id);
          return feed && before && leads(s, driver).length > 0
            ? [{ place: driver.name, command: reland(feed.id, "from", before.from), least: "stop" as const }]
            : [];
        });
      }),
  },
  {
    kind: "contact with an AC rating only",
    puts: (s) =>
      kindOf(s.machine, "switch")
        .filter((each) => switchA(s, each) > 0 && highest(s, each.id) > 14)
        .map((each) => ({
          place: each.name,
          command: part(each.id, { acOnly: true }),
          least: each.stop || each.openIn.length > 0 ? "stop" : "fix",
        })),
  },
  {
    kind: "no precharge",
    puts: (s) =>
      kindOf(s.machine, "switch")
        .filter(({ prechargeOhm }) => prechargeOhm)
        .map((each) => ({
          place: each.name,
          command: part(each.id, { prechargeOhm: undefined, prechargeS: undefined, prechargeJ: undefined }),
          least: "fix",
        })),
  },
  {
    kind: "braking into a full pack",
    puts: (s) =>
      loadsOf(s.machine)
        .filter(
          (each) =>
            each.loadKind === "motor" &&
            onChannel(s.machine, each) &&
            s.machine.parts.some((p) => p.kind === "pack" && p.management === "inside"),
        )
        .map((each) => ({ place: each.name, command: part(each.id, { brakingJ: f(50) }), least: "fix" })),
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
  {
    kind: "controller's 24 V output into a 3.3 V pin",
    puts: (s) =>
      (s.machine.signals ?? [])
        .filter(({ kind }) => kind === "logic" || kind === "pulse" || kind === "serial")
        .map((each) => ({
          place: each.id,
          command: { type: "updateSignal", id: each.id, changes: { sender: "plc24_3", receiver: "mcu33" } } as Command,
          least: "stop",
        })),
  },
];

function switchA(s: Sound, each: Part): number {
  const wires = s.machine.wires.filter(
    ({ from, to }) => (from.part === each.id && from.terminal === "out") || (to.part === each.id && to.terminal === "out"),
  );
  return wires.reduce((sum, own) => sum + lastingA(s, own), 0);
}
function barA(s: Sound, each: Part): number {
  const wires = s.machine.wires.flatMap((own, i) =>
    own.from.part === each.id ? [{ i, sign: -1 }] : own.to.part === each.id ? [{ i, sign: 1 }] : [],
  );
  let most = 0;
  s.machine.modes.forEach((mode, m) => {
    if (mode.lastsS !== null) return;
    most = Math.max(
      most,
      wires.reduce((sum, { i, sign }) => sum + Math.max(0, sign * (s.figures.solved.planned[m]?.branchA[i] ?? 0)), 0),
    );
  });
  return most;
}
function leads(s: Sound, driver: PartOf<"driver">): { out: Wire; back: Wire; motor: string; motorId: string }[] {
  return s.machine.wires.flatMap((out) => {
    if (out.role !== "phase" || out.from.part !== driver.id || out.to.terminal !== "+") return [];
    const back = s.machine.wires.find(({ role, from, to }) => role === "phase" && from.part === out.to.part && to.part === driver.id);
    return back ? [{ out, back, motor: nameOf(s.machine, out.to.part), motorId: out.to.part }] : [];
  });
}
function feedIn(machine: Machine, id: string): Wire | undefined {
  return machine.wires.find(({ role, to }) => role === "supply" && to.part === id && to.terminal === "in");
}
function addWire(role: "supply" | "return", from: TerminalRef, to: TerminalRef): Command {
  return { type: "addWire", wire: { role, from, to, gauge: "14 AWG", parallel: 1, insulation: "pvc80", lengthM: f(0.3) } };
}
function loadsOn(s: Sound, origin: string): Load[] {
  return loadsOf(s.machine).filter(({ id }) => s.figures.ledger.rowOf.get(id)?.rail?.origin === origin);
}
/** Joined through a common minus a higher rail pushes into a lower one: into a battery, or over what its parts bear. */
function joined(s: Sound, high: string, low: string): Severity | null {
  const { island } = s.figures.solved.wiring;
  const node = (id: string) => s.figures.solved.circuit.emfs.find((emf) => emf.id === id)?.pos ?? 0;
  return island[node(high)] === island[node(low)] ? "stop" : null;
}
function fromPack(machine: Machine, bare: Wire): boolean {
  const top = upstream(machine, bare).at(-1);
  const first = machine.wires.find(({ id }) => id === top);
  return machine.parts.find(({ id }) => id === first?.from.part)?.kind === "pack";
}
/** A mode's time made longer: by what its currents then do to wires, fuses and sources. */
function timed(s: Sound, lastsS: number | null): Put[] {
  return s.machine.modes.flatMap((mode) => {
    if (mode.lastsS === null) return [];
    return [
      {
        place: mode.name,
        command: { type: "updateMode", id: mode.id, changes: { lastsS } } as Command,
        least: (after: Machine) => {
          const then = sound(after);
          return worse(
            ...power(after).map((each) => byHeat(after, each, lastingA(then, each))),
            ...power(after).map((each) => (each.fuse && lastingA(then, each) > each.fuse.ratingA ? ("fix" as const) : null)),
            ...after.parts.map(
              (each) =>
                (each.kind === "pack" && each.continuousA && partLastingA(then, each) > 1.01 * each.continuousA.value
                  ? "fix"
                  : null) as Severity | null,
            ),
          );
        },
      },
    ];
  });
}

/** Every mistake of every kind in a machine that is in order. */
export function* mistakesIn(s: Sound): Generator<Mistake> {
  for (const { kind, puts } of KINDS) {
    for (const { place, command, least, most } of puts(s)) {
      const machine = "type" in command ? edited(s.machine, command) : command;
      if (!machine) continue;
      const must = typeof least === "function" ? least(machine) : least;
      if (must !== null) yield { kind, place, machine, least: must, ...(most ? { most } : {}) };
    }
  }
}
