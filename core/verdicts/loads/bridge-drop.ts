import { channelsOf } from "../../figures/channels";
import type { Figures } from "../../figures/figures";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "bridge-drop",
  title: "Motor starved by its bridge",
  step: "loads",
  needs: "A driver with MOSFETs, or a motor for fewer volts.",
});

/** Volts a bridge keeps while its motor runs, as a share of what the driver gets. */
export const bridgeDrop = rule({ speak, reads: "figures", packBound: true, evaluate });

/** Shares of the driver’s volts that a bridge may keep (common practice, no source). */
const WATCH_FROM = 0.15;
const FIX_FROM = 0.3;

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const driver of figures.machine.parts) {
    if (driver.kind !== "driver") continue;
    for (const { load, modes } of channelsOf(figures, driver)) {
      let worst = { share: WATCH_FROM, m: -1 };
      modes.forEach(({ dropV, motorA }, m) => {
        const state = load.cells[figures.machine.modes[m]?.id ?? ""]?.state;
        const input = figures.parts[driver.id]?.volts[m] ?? 0;
        if (motorA <= 0 || input <= 0 || state === "stall" || state === "start" || state === "reverse") return;
        if (dropV / input > worst.share) worst = { share: dropV / input, m };
      });
      const mode = modes[worst.m];
      if (!mode) continue;
      const motorV = figures.parts[load.id]?.volts[worst.m] ?? 0;
      verdicts.push(
        speak({
          part: load,
          cause: load.id,
          kin: driver.id,
          severity: worst.share > FIX_FROM ? "fix" : "watch",
          also: [driver.id],
          headline: `${load.name} gets ${say(motorV, "voltage", "down")}: ${driver.name} keeps ${say(mode.dropV, "voltage", "up")}`,
          detail: `At ${say(mode.motorA, "current")} in ${figures.modes[worst.m]?.name} the bridge takes ${Math.round(worst.share * 100)} % of what it gets and turns ${say(mode.heatW, "power", "up")} into heat. The motor is slower and weaker by that much; a MOSFET bridge keeps a tenth of it.`,
          compared: { volts: mode.dropV, limit: WATCH_FROM * (figures.parts[driver.id]?.volts[worst.m] ?? 0) },
        }),
      );
    }
  }
  return verdicts;
}
