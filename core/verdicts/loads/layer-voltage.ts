import { driverLimits } from "../../drivers/limits";
import type { Build } from "../../figures/build";
import { railMaxV } from "../../figures/rails";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "layer-voltage",
  title: "Voltage above a layer of the driver",
  step: "loads",
  needs: "A driver for a higher voltage, or a pack with fewer cells.",
});

/**
 * Highest voltage at a driver against its chip and the controller board it shares its feed with; the board's own window
 * is `input-window`'s. Under a fifth of headroom, braking can lift the bus above it.
 */
export const layerVoltage = rule({ speak, reads: "build", evaluate });

/** Room above the highest voltage for braking and spikes (common practice, no source). */
const HEADROOM = 1.2;

function evaluate(figures: Build): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const part of figures.machine.parts) {
    if (part.kind !== "driver") continue;
    const highest = railMaxV(figures, part);
    const { volts } = driverLimits(part);
    if (!volts || highest * HEADROOM <= volts.value) continue;
    const over = highest > volts.value;
    // Above the board's own maximum the input window already says Stop.
    if (over && volts.layer === "the board") continue;
    verdicts.push(
      speak({
        part,
        kin: over ? "over" : "near",
        severity: over ? "stop" : "watch",
        headline: over
          ? `${part.name}: its feed reaches ${say(highest, "voltage", "up")}, ${volts.layer} bears ${say(volts.value, "voltage", "down")}`
          : `${part.name}: ${say(highest, "voltage", "up")} of the ${say(volts.value, "voltage", "down")} that ${volts.layer} bears`,
        detail: over
          ? volts.layer.includes("controller")
            ? "A shield passes its feed down to the board it sits on, whose regulator dies first. Cut the link between them and feed the controller on its own."
            : "What is printed on the board does not help a chip below it. Take a driver for a higher voltage."
          : "A braking motor lifts the bus, and long leads ring when they are plugged in: a fifth of headroom is common practice.",
        compared: { volts: highest, limit: volts.value },
      }),
    );
  }
  return verdicts;
}
