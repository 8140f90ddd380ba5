import type { Command } from "@/core/machine/commands";
import type { TerminalRef } from "@/core/machine/schema";
import { anyA, loadsOf } from "../oracle";
import {
  addWire,
  backOf,
  batch,
  consumers,
  feedIn,
  feedOf,
  highest,
  joined,
  type Kind,
  kindOf,
  leads,
  nameOf,
  part,
  reland,
  reversedHarm,
  sides,
  switchA,
} from "./support";

/** What is wired wrong, and what contacts and signals are wrong for it. */
export const WIRING: readonly Kind[] = [
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
    kind: "fed from a signal pin",
    puts: (s) =>
      loadsOf(s.machine).flatMap((each) => {
        const feed = feedOf(s.machine, each.id);
        const board = loadsOf(s.machine).find(({ loadKind, id }) => loadKind === "board" && id !== each.id);
        if (feed?.role !== "supply" || !board || anyA(s, feed) < 0.05) return [];
        return [{ place: each.name, command: reland(feed.id, "from", { part: board.id, terminal: "pin" }), least: "stop" }];
      }),
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
