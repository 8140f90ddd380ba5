import type { Figures } from "../../figures/figures";
import { canStall } from "../../loads/budget";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "board-pin",
  title: "More than a signal pin gives",
  step: "loads",
  needs: "A driver or a transistor between the pin and what it switches, fed from a rail.",
});

/** Whatever is fed from a controller's signal pin against what the pin may give; a motor never runs from one. */
export const boardPin = rule({ speak, reads: "figures", evaluate });

/** What a signal pin gives where its board does not say, A (20-40 mA, from memory): the lower. */
const USUAL_PIN_A = 0.02;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.wires.flatMap((wire): Verdict[] => {
    if (wire.from.terminal !== "pin") return [];
    const board = figures.partOf.get(wire.from.part);
    const load = figures.partOf.get(wire.to.part);
    if (board?.kind !== "load" || load?.kind !== "load") return [];
    const amps = figures.wires[wire.id]?.worst.amps ?? 0;
    const limit = board.pinA?.value ?? USUAL_PIN_A;
    const motor = canStall(load) || load.loadKind === "coil";
    if (!motor && amps <= limit) return [];
    return [
      speak({
        part: load,
        about: wire.id,
        severity: "stop",
        also: [board.id, wire.id],
        headline: `${load.name} is fed from a signal pin of ${board.name}`,
        detail: `A pin gives ${say(limit, "current", "down")}; it draws ${say(amps, "current", "up")}${motor ? ", more when it starts or stalls, and kicks back when it is switched off" : ""}. The pin dies, often with the board. Put a driver or a transistor with a diode between them.`,
        compared: { amps, limit },
      }),
    ];
  });
}
