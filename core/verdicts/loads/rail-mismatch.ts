import { capFailure, dutyCap } from "../../drivers/pwm";
import type { Build } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { railMaxV } from "../../figures/rails";
import { speedRatio } from "../../loads/motor";
import type { Load } from "../../machine/schema";
import { say, withArticle } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "rail-mismatch", title: "Motor and rail do not match", step: "loads" });

/** Rated volts of each motor against the highest its rail can show and what it gets while it runs. */
export const railMismatch = rule({ speak, reads: "figures", packBound: true, evaluate });

const TURNING: ReadonlySet<Load["loadKind"]> = new Set(["motor", "actuator", "pump", "fan"]);

/** A full pack stands a quarter above its nominal voltage at most: within that a motor of the rail's name is fine. */
const HIGH = 1.25;
/** Below this share of its volts a motor is slow; beyond that many times of them software alone does not hold its current (common practice, no source). */
const LOW = 0.8;
const HARDWARE_FROM = 2;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "load" || !TURNING.has(part.loadKind)) return [];
    return [...tooHigh(figures, part), ...tooLow(figures, part)];
  });
}

function tooHigh(figures: Build, load: Load): Verdict[] {
  const railMax = railMaxV(figures, load);
  const own = load.nominalV.value;
  if (railMax <= HIGH * own) return [];
  const driver = figures.solved.circuit.feeds.get(load.id)?.driver;
  const allowed = Math.floor(dutyCap(own, railMax) * 100) / 100;
  const cap = driver?.dutyCap?.value;
  const capped = cap !== undefined && cap <= allowed + 1e-9;
  const { current, heat } = capFailure(own, railMax);
  const risk = `If the program or the driver fails, the motor gets ${say(railMax, "voltage", "up")}: ${current.toFixed(1)} times the current and ${heat.toFixed(1)} times the heat when held still.`;
  const hardware =
    current > HARDWARE_FROM ? " Beyond twice its voltage use a current limit in hardware or a converter (common practice, no source)." : "";
  return [
    speak({
      part: load,
      key: "high",
      severity: capped ? "watch" : "fix",
      headline: capped
        ? `${load.name}: ${say(own, "voltage")} motor on ${say(railMax, "voltage", "up")}, held by a duty cap of ${Math.round((cap ?? 1) * 100)} %`
        : `${load.name}: ${say(own, "voltage")} motor on a rail that reaches ${say(railMax, "voltage", "up")}`,
      detail: `${capped ? "" : driver ? `Its driver may be on for ${Math.round(allowed * 100)} % of the time at most (D = U_motor / U_rail, at full charge). ` : "Nothing between them can hold it back. "}${risk}${hardware}`,
      compared: { volts: railMax, limit: own },
      remedies:
        !capped && driver
          ? [
              {
                label: `Cap the duty at ${Math.round(allowed * 100)} %`,
                command: { type: "updatePart", id: driver.id, changes: { dutyCap: { value: allowed, provenance: "guess" } } },
              },
            ]
          : [],
    }),
  ];
}

function tooLow(figures: Figures, load: Load): Verdict[] {
  const own = load.nominalV.value;
  let worst: { volts: number; mode: number } | null = null;
  figures.machine.modes.forEach((mode, m) => {
    const cell = load.cells[mode.id];
    const figure = figures.parts[load.id];
    if (!figure?.live[m] || !(figure.amps[m] && figure.amps[m] > 0) || (cell?.state !== "run" && cell?.state !== "amps")) return;
    // A brief typed figure may be a start; only what goes on for good tells the speed.
    if (mode.lastsS !== null || (cell.state === "run" && cell.duty !== undefined)) return;
    const volts = figure.volts[m] ?? 0;
    if (volts < LOW * own && volts < (worst?.volts ?? Number.POSITIVE_INFINITY)) worst = { volts, mode: m };
  });
  if (worst === null) return [];
  const { volts, mode } = worst as { volts: number; mode: number };
  const stall = load.levels?.stall?.value;
  const amps = (figures.parts[load.id]?.amps[mode] ?? 0) / load.count;
  const speed = stall === undefined ? volts / own : speedRatio(volts, own, own / stall, amps);
  return [
    speak({
      part: load,
      key: "low",
      severity: "watch",
      headline: `${load.name}: ${withArticle(`${say(own, "voltage")} motor`)} that gets ${say(volts, "voltage", "down")}`,
      detail: `In ${figures.modes[mode]?.name} it turns at about ${Math.floor(speed * 100)} % of its speed and its stall torque falls with the volts. The same torque still needs the same amps, so a weak source sags no less for it.`,
      compared: { volts, limit: LOW * own },
    }),
  ];
}
