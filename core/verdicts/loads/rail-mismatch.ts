import { capFailure, dutyCap } from "../../drivers/pwm";
import { perBuildFrom } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { railMaxV } from "../../figures/rails";
import { speedRatio } from "../../loads/motor";
import { type Bearing, bearingOf } from "../../loads/volts";
import { goesOn } from "../../machine/lasting";
import type { BuiltLoad, Load } from "../../machine/schema";
import { say, withArticle } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "rail-mismatch",
  title: "Load and rail do not match",
  step: "loads",
  needs: "A load made for these volts, a rail that suits it, or a driver between them that holds the volts back.",
});

/** The volts each load is meant for against the highest that can reach it and the least it gets while it is on. */
export const railMismatch = rule({ speak, reads: "figures", packBound: true, evaluate });

/** Beyond that many times its volts software alone does not hold a motor's current (common practice, no source). */
const HARDWARE_FROM = 2;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "load") return [];
    return [...tooHigh(figures, part.id, railMaxV(figures, part)), ...tooLow(figures, part)];
  });
}

/** What a load is called beside its volts: "12 V motor", "5 V board". */
function kindWord({ loadKind }: BuiltLoad): string {
  return loadKind === "other" ? "part" : loadKind === "sound" ? "amplifier" : loadKind === "brushless" ? "brushless drive" : loadKind;
}

const tooHigh = perBuildFrom((figures, loadId, reaches: number): Verdict[] => {
  const load = figures.partOf.get(loadId);
  if (load?.kind !== "load") return [];
  const own = load.nominalV.value;
  const bearing = bearingOf(load);
  // Where its highest input is entered the window's rule judges by that.
  if (load.inputMaxV || reaches <= bearing.fixV) return [];
  const driver = figures.solved.circuit.feeds.get(load.id)?.driver;
  // A drive or chopper holds the current of these itself.
  if (driver && (load.loadKind === "stepper" || load.loadKind === "brushless")) return [];
  const allowed = Math.floor(dutyCap(own, reaches) * 100) / 100;
  const cap = driver?.dutyCap?.value;
  const capped = cap !== undefined && cap <= allowed + 1e-9;
  const what = `${say(own, "voltage")} ${kindWord(load)}`;
  const headline = capped
    ? `${load.name}: ${what} on ${say(reaches, "voltage", "up")}, held by a duty cap of ${Math.round((cap ?? 1) * 100)} %`
    : `${load.name}: ${withArticle(what)} on a rail that reaches ${say(reaches, "voltage", "up")}`;
  const held = driver
    ? `Its driver may be on for ${Math.round(allowed * 100)} % of the time at most (D = U_own / U_rail, at full charge). `
    : "Nothing between them holds it back. ";
  const remedies: Remedy[] =
    driver && !capped
      ? [
          {
            label: `Cap the duty at ${Math.round(allowed * 100)} %`,
            command: { type: "updatePart", id: driver.id, changes: { dutyCap: { value: allowed, provenance: "guess" } } },
          },
        ]
      : [];
  return [
    speak({
      part: load,
      key: "high",
      severity: capped ? "watch" : driver || reaches <= bearing.stopV ? "fix" : "stop",
      headline,
      detail: `${capped ? "" : held}${consequence(load, bearing, reaches, driver !== undefined)}`,
      compared: { volts: reaches, limit: driver ? own : bearing.fixV },
      remedies,
    }),
  ];
});

/** What so many volts do to it. */
function consequence(load: BuiltLoad, { suffers, stopV }: Bearing, reaches: number, driven: boolean): string {
  const { current, heat } = capFailure(load.nominalV.value, reaches);
  const over = reaches > stopV;
  switch (suffers) {
    case "turning": {
      const hardware =
        driven && current > HARDWARE_FROM
          ? " Beyond twice its voltage use a current limit in hardware or a converter (common practice, no source)."
          : "";
      return `${driven ? "If the program or the driver fails" : "So"} the motor gets ${say(reaches, "voltage", "up")}: ${current.toFixed(1)} times the current and ${heat.toFixed(1)} times the heat when held still.${hardware}`;
    }
    case "power":
      return `It takes ${heat.toFixed(1)} times its power (with the square of the volts)${over ? " and burns out" : " and ages quickly"}. A converter before it, or one made for this voltage.`;
    case "servo":
      return `${over ? "Its electronics fail and its motor overheats" : "It runs hotter and wears sooner"}. A regulator before it, or one whose sheet allows this; then enter its highest input voltage.`;
    case "electronics":
      return `${over ? "Electronics that far above what they are meant for fail at once" : "That may be more than it bears"}. A regulator before it; if its sheet allows this, enter its highest input voltage.`;
  }
}

interface Found {
  volts: number;
  mode: number;
}

/** The least a load gets in a mode in which it is on. */
function tooLow(figures: Figures, load: Load): Verdict[] {
  const bearing = bearingOf(load);
  // Where its least input is entered the window's rule judges by that.
  if (load.inputMinV) return [];
  const worst = leastWhileOn(figures, load, bearing);
  if (!worst) return [];
  const { volts, mode } = worst;
  const own = load.nominalV.value;
  const name = figures.modes[mode]?.name;
  const fix = bearing.suffers === "electronics" || load.loadKind === "coil";
  return [
    speak({
      part: load,
      key: "low",
      cause: load.id,
      severity: fix ? "fix" : "watch",
      headline: `${load.name}: ${withArticle(`${say(own, "voltage")} ${kindWord(load)}`)} that gets ${say(volts, "voltage", "down")}`,
      detail: `In ${name} ${shortage(figures, load, bearing, volts, mode)}`,
      compared: { volts, limit: bearing.leastV },
    }),
  ];
}

function leastWhileOn(figures: Figures, load: Load, bearing: Bearing): Found | null {
  const figure = figures.parts[load.id];
  const turning = bearing.suffers === "turning";
  let worst: Found | null = null;
  figures.machine.modes.forEach((mode, m) => {
    const cell = load.cells[mode.id];
    if (!figure?.live[m] || !(figure.amps[m] && figure.amps[m] > 0) || cell === undefined) return;
    // A motor that starts or is held is not asked for its speed, and a brief typed figure may be a start.
    if (turning && (!goesOn(mode) || (cell.state !== "run" && cell.state !== "amps"))) return;
    if (cell.state === "run" && cell.duty !== undefined) return;
    if (load.holdUpF && !goesOn(mode)) return;
    const volts = figure.volts[m] ?? 0;
    if (volts > 0 && volts < bearing.leastV && volts < (worst?.volts ?? Number.POSITIVE_INFINITY)) worst = { volts, mode: m };
  });
  return worst;
}

function shortage(figures: Figures, load: Load, { suffers }: Bearing, volts: number, mode: number): string {
  const own = load.nominalV.value;
  switch (suffers) {
    case "turning": {
      const stall = load.levels?.stall?.value;
      const amps = (figures.parts[load.id]?.amps[mode] ?? 0) / load.count;
      const speed = stall === undefined ? volts / own : speedRatio(volts, own, own / stall, amps);
      return `it turns at about ${Math.floor(speed * 100)} % of its speed and its stall torque falls with the volts. The same torque still needs the same amps, so a weak source sags no less for it.`;
    }
    case "power":
      return load.loadKind === "coil"
        ? "it may not pull in: coils need about 80 % of their volts (typical, from memory)."
        : `it gives about ${Math.floor((volts / own) ** 2 * 100)} % of its power.`;
    case "servo":
      return "it is slow and weak, and many reset.";
    case "electronics":
      return "it may reset or drop out. Thicker or shorter wire, a stronger source, or its least input voltage from the sheet if it bears this.";
  }
}
