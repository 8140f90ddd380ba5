import type { Build } from "../../figures/build";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "freewheel",
  title: "No way round for a motor's current",
  step: "loads",
  needs: "Diodes across the motor, or a driver that has them.",
});

/** A motor's current cannot stop at once: without diodes it destroys the switch that opens. MOSFET bridges have them inside. */
export const freewheel = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  const driven = new Set([...figures.solved.circuit.feeds.values()].map(({ driver }) => driver.id));
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "driver" || !driven.has(part.id)) return [];
    const bridge = part.bridge ?? "mosfet";
    const doubtful = part.freewheel === undefined && bridge !== "mosfet";
    if (part.freewheel !== "missing" && !doubtful) return [];
    const needed =
      bridge === "low side"
        ? "one diode across the motor, rated for the motor current: at low duty it carries nearly all of it"
        : "fast diodes from each output to both rails, four a bridge";
    return [
      speak({
        part,
        severity: doubtful ? "ask" : "stop",
        headline: doubtful ? `${part.name}: has it freewheel diodes?` : `${part.name}: no freewheel diodes`,
        detail: `Every time a switch opens, the motor's current needs a way on, else its voltage rises until the switch breaks through. It needs ${needed}. ${doubtful ? "Look on the board or in its sheet." : "Fit them before the first power-up."}`,
        remedies: [
          { label: "They are fitted", way: "fact", command: { type: "updatePart", id: part.id, changes: { freewheel: "fitted" } } },
          ...(doubtful
            ? [
                {
                  label: "They are inside",
                  way: "fact" as const,
                  command: { type: "updatePart" as const, id: part.id, changes: { freewheel: "inside" as const } },
                },
              ]
            : []),
        ],
      }),
    ];
  });
}
