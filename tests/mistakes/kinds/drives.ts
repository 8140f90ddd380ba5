import type { Command } from "@/core/machine/commands";
import { datasheet as f } from "@/core/machine/figure";
import { lastingA, loadsOf } from "../oracle";
import { batch, feedOf, type Kind, kindOf, leads, missing, motorAmps, onChannel, part, rating } from "./support";

/** What is wrong between drivers and their motors. */
export const DRIVES: readonly Kind[] = [
  missing(
    "driver without what it carries continuously",
    "continuousA",
    (each) => each.kind === "driver" && (each.cooling ?? "none") === "none",
  ),
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
  rating(
    "driver carries six tenths of what is asked",
    "continuousA",
    0.6,
    motorAmps,
    (each) => each.kind === "driver" && (each.cooling ?? "none") === "none",
  ),
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
    kind: "actuator without end switches",
    puts: (s) =>
      loadsOf(s.machine)
        .filter((each) => each.loadKind === "actuator" && !Object.values(each.cells).some(({ state }) => state === "stall"))
        .map((each) => ({ place: each.name, command: part(each.id, { endSwitches: false }), least: "fix" })),
  },
  {
    kind: "braking into a full pack",
    puts: (s) =>
      loadsOf(s.machine)
        .filter(
          (each) =>
            each.loadKind === "motor" &&
            onChannel(s.machine, each) &&
            s.machine.parts.some((p) => p.kind === "pack" && p.management === "inside") &&
            !s.machine.parts.some((p) => "brakeOnV" in p && p.brakeOnV),
        )
        .map((each) => ({ place: each.name, command: part(each.id, { brakingJ: f(50) }), least: "fix" })),
  },
];
