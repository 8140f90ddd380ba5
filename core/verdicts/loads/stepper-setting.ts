import type { Build } from "../../figures/build";
import { rmsOfPeak } from "../../loads/stepper";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "stepper-setting",
  title: "Stepper current set above its motor",
  step: "loads",
  needs: "Another setting of its drive: what its switches allow stands in its sheet.",
});

/** The driver's setpoint as r.m.s. against what one phase of the motor may carry continuously. */
export const stepperSetting = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => {
    const stepper = part.kind === "load" ? part.stepper : undefined;
    if (!stepper?.setA) return [];
    if (!stepper.ratedA)
      return [
        speak({
          part,
          key: "ask",
          severity: "ask",
          headline: `${part.name}: what may one phase of its motor carry?`,
          detail: `Its driver is set to ${say(stepper.setA.value, "current")}, in the windings even at rest. Heat goes with the square; the rating stands on the motor.`,
        }),
      ];
    const rms = stepper.scale === "peak" ? rmsOfPeak(stepper.setA.value) : stepper.setA.value;
    const rated = stepper.ratedA.value;
    if (rms <= rated * 0.95) return [];
    const over = rms > rated;
    // Round down, and back on the driver's own scale.
    const target = Math.floor(0.8 * rated * (stepper.scale === "peak" ? Math.SQRT2 : 1) * 100) / 100;
    return [
      speak({
        part,
        severity: over ? "fix" : "watch",
        headline: `${part.name}: set to ${say(rms, "current", "up")} r.m.s., its motor is rated ${say(rated, "current", "down")}`,
        detail: `Heat goes with the square: ${Math.round((rms / rated) ** 2 * 100)} % of what it may shed. ${over ? "The case passes 80 °C and the winding ages." : "70-90 % is normal; all of it only where the case stays below about 80 °C."}`,
        compared: { amps: rms, limit: rated },
        remedies: [
          {
            label: `Set ${say(target, "current", "down")}${stepper.scale === "peak" ? " peak" : ""} (80 %)`,
            command: { type: "updatePart", id: part.id, changes: { stepper: { ...stepper, setA: { ...stepper.setA, value: target } } } },
          },
        ],
      }),
    ];
  });
}
