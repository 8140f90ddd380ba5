import type { Figures } from "../../figures/figures";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "end-stop",
  title: "Actuator runs into its end",
  step: "loads",
  needs: "End switches, or a mode that plans the stall at its ends.",
});

/** A linear actuator without switches at its ends stalls there; with none entered it is asked for. */
export const endStop = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "load" || part.loadKind !== "actuator" || part.endSwitches === true) return [];
    const stalls = Object.values(part.cells).some((cell) => cell.state === "stall");
    if (part.endSwitches === false && stalls) return [];
    const unknown = part.endSwitches === undefined;
    return [
      speak({
        part,
        severity: unknown ? "ask" : "fix",
        headline: unknown ? `${part.name}: does a switch stop it at its ends?` : `${part.name} stalls at its ends and no mode plans it`,
        detail:
          "Without end switches it draws its stall current at each end until the program lets go. With them, one direction at a time is cut.",
        remedies: unknown
          ? [
              { label: "It has end switches", way: "fact", command: { type: "updatePart", id: part.id, changes: { endSwitches: true } } },
              { label: "It has none", way: "fact", command: { type: "updatePart", id: part.id, changes: { endSwitches: false } } },
            ]
          : [],
      }),
    ];
  });
}
