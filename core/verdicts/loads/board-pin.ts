import type { Figures } from "../../figures/figures";
import { canStall } from "../../loads/budget";
import { say } from "../../quantity/format";
import type { Verdict } from "../types";

export const id = "board-pin";
export const title = "More than a signal pin gives";

/** What a signal pin gives where its board does not say, A (20-40 mA, from memory): the lower. */
const PIN_A = 0.02;

/** Whatever is fed from a controller's signal pin against what the pin may give; a motor never runs from one. */
export function evaluate(figures: Figures): Verdict[] {
  return figures.machine.wires.flatMap((wire): Verdict[] => {
    if (wire.from.terminal !== "pin") return [];
    const board = figures.partOf.get(wire.from.part);
    const load = figures.partOf.get(wire.to.part);
    if (board?.kind !== "load" || load?.kind !== "load") return [];
    const amps = figures.wires[wire.id]?.worst.amps ?? 0;
    const limit = board.pinA?.value ?? PIN_A;
    const motor = canStall(load) || load.loadKind === "coil";
    if (!motor && amps <= limit) return [];
    return [
      {
        id: `${id}:${wire.id}`,
        rule: id,
        severity: "stop",
        step: "loads",
        subject: { kind: "part", id: load.id },
        also: [board.id, wire.id],
        value: amps,
        limit,
        unit: "A",
        headline: `${load.name} hangs on a signal pin of ${board.name}`,
        detail: `A pin gives ${say(limit, "current", "down")}; it draws ${say(amps, "current", "up")}${motor ? ", more when it starts or stalls, and kicks back when it is switched off" : ""}. The pin dies, often with the board. Put a driver or a transistor with a diode between them.`,
        remedies: [],
      },
    ];
  });
}
