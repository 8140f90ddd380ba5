import { channelsOf } from "../../figures/channels";
import type { Figures } from "../../figures/figures";
import { say } from "../../quantity/format";
import type { Verdict } from "../types";

export const id = "bridge-drop";
export const title = "Motor starved by its bridge";

const WATCH_FROM = 0.15;
const FIX_FROM = 0.3;

/** Volts a bridge keeps while its motor runs, as a share of what the driver gets. */
export function evaluate(figures: Figures): Verdict[] {
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
      verdicts.push({
        id: `${id}:${load.id}`,
        rule: id,
        severity: worst.share > FIX_FROM ? "fix" : "watch",
        step: "loads",
        subject: { kind: "part", id: load.id },
        also: [driver.id],
        value: mode.dropV,
        limit: WATCH_FROM * (figures.parts[driver.id]?.volts[worst.m] ?? 0),
        unit: "V",
        headline: `${load.name} gets ${say(motorV, "voltage", "down")}: ${driver.name} keeps ${say(mode.dropV, "voltage", "up")}`,
        detail: `At ${say(mode.motorA, "current")} in ${figures.modes[worst.m]?.name} the bridge takes ${Math.round(worst.share * 100)} % of what it gets and turns ${say(mode.heatW, "power", "up")} into heat. The motor is slower and weaker by that much; a MOSFET bridge keeps a tenth of it.`,
        remedies: [],
      });
    }
  }
  return verdicts;
}
