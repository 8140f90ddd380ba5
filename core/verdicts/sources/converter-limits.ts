import { dropoutInput } from "../../converters/window";
import type { Build } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import type { Converter } from "../../machine/schema";
import { railOrigin } from "../../machine/tree";
import { say } from "../../quantity/format";
import { PLANNED_JUNCTION_C } from "../../sources/ratings";
import { judgeChip } from "../chip-heat";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "converter-limits",
  title: "Converter too hot, at dropout, or off its mark",
  step: "sources",
  needs: "Another converter: one with the power, the drop-out and the cooling this takes.",
});

/** Converter too hot, at dropout, or off its mark. */
export const converterLimits = rule({ speak, reads: "figures", byDraw: true, packBound: true, evaluate });

/** Chips follow their heat within seconds: a mode of this length counts as going on continuously, s. */
const SOON_S = 10;
/** Hottest junction of a regulator chip, °C (typical, from memory). */
const CHIP_MAX_C = 125;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part) =>
    part.kind === "converter" && figures.parts[part.id]?.wiring === "ok"
      ? [...heat(figures, part), ...dropout(figures, part), ...accuracy(figures, part), ...starts(figures, part), ...stable(figures, part)]
      : [],
  );
}

const about = (part: Converter) => ({ part });

/** Chip temperature of a linear regulator in the worst mode that lasts. */
function heat(figures: Figures, part: Converter): Verdict[] {
  const figure = figures.parts[part.id];
  if (part.topology !== "linear" || !figure?.lossW) return [];
  let watts = 0;
  let worst = 0;
  figures.machine.modes.forEach((mode, m) => {
    const now = figure.lossW?.[m] ?? 0;
    if ((mode.lastsS !== null && mode.lastsS < SOON_S) || now <= watts) return;
    watts = now;
    worst = m;
  });
  const judged = judgeChip(part.name, ` in ${figures.modes[worst]?.name}`, {
    watts,
    ambientC: figures.machine.settings.ambientC,
    kelvinPerWatt: part.kelvinPerWatt?.value,
    plannedC: Math.min(part.junctionMaxC?.value ?? CHIP_MAX_C, PLANNED_JUNCTION_C),
    mostC: part.junctionMaxC?.value ?? CHIP_MAX_C,
  });
  return judged ? [speak({ ...about(part), key: "heat", ...judged })] : [];
}

/** Input too close to the output for the topology, in some mode at the lowest charge. */
function dropout(figures: Figures, part: Converter): Verdict[] {
  const figure = figures.parts[part.id];
  const least = dropoutInput(part);
  if (least === null || !figure?.lowestV) return [];
  // Above its printed minimum the window rule has nothing to say, and below it says it all.
  if (part.inputMinV && (part.inputMinV.value >= least || figure.lowestV.volts < part.inputMinV.value)) return [];
  if (figure.lowestV.volts >= least) return [];
  const mode = figures.modes[figure.lowestV.mode]?.name;
  return [
    speak({
      ...about(part),
      key: "dropout",
      severity: "fix",
      headline: `${part.name} cannot hold ${say(part.outputV.value, "voltage")} from ${say(figure.lowestV.volts, "voltage", "down")}`,
      detail: `It needs ${say(least, "voltage", "up")} at its input ${part.topology === "linear" ? "(its output and its dropout)" : part.dropoutV ? "(its output and what it needs across it)" : "(its output over its longest duty)"}; in ${mode}${origin(figures, part)} its output follows the input down. A buck-boost holds it, or a lower output voltage.`,
      compared: { volts: figure.lowestV.volts, limit: least },
    }),
  ];
}

function origin(figures: Build, part: Converter): string {
  const source = figures.partOf.get(railOrigin(figures.ledger, part.id) ?? "");
  return source?.kind === "pack" ? " with the pack low" : "";
}

/** Output set and its accuracy against what its loads accept. */
function accuracy(figures: Build, part: Converter): Verdict[] {
  const tolerance = part.outputV.tolerance;
  if (!tolerance) return [];
  const high = part.outputV.value * (1 + tolerance);
  const over = figures.machine.parts.filter(
    (each) =>
      (each.kind === "load" || each.kind === "driver" || each.kind === "converter") &&
      railOrigin(figures.ledger, each.id) === part.id &&
      each.inputMaxV !== undefined &&
      each.inputMaxV.value >= part.outputV.value &&
      high > each.inputMaxV.value,
  );
  if (over.length === 0) return [];
  return [
    speak({
      ...about(part),
      key: "accuracy",
      severity: "fix",
      also: over.map((each) => each.id),
      headline: `${part.name} may give ${say(high, "voltage", "up")}: more than ${over[0]?.name} accepts`,
      detail: `It is set to ${say(part.outputV.value, "voltage")} within ${Math.round(tolerance * 1000) / 10} %. Measure its output and enter the reading, or set it lower.`,
      compared: { volts: high },
    }),
  ];
}

/** Volts at which it switches on against what it ever sees: full packs with nothing drawn, and the least it works from. */
function starts(figures: Figures, part: Converter): Verdict[] {
  const figure = figures.parts[part.id];
  const at = part.startsAtV?.value;
  if (at === undefined || !figure || figure.reachesV === null) return [];
  const never = at > figure.reachesV;
  const lowest = figure.lowestV?.volts ?? figure.reachesV;
  if (!never && lowest >= at) return [];
  const volts = never ? figure.reachesV : lowest;
  return [
    speak({
      ...about(part),
      key: "switch-on",
      severity: never ? "fix" : "watch",
      headline: never
        ? `${part.name} never starts: it switches on at ${say(at, "voltage", "up")} and sees at most ${say(volts, "voltage", "down")}`
        : `${part.name} runs down to ${say(volts, "voltage", "down")} but starts only at ${say(at, "voltage", "up")}`,
      detail: never
        ? "That is with full packs and nothing drawn. One that starts lower, or a higher rail."
        : `In ${figures.modes[figure.lowestV?.mode ?? 0]?.name} its input is there. Once off it stays off until the rail recovers: what it feeds does not come back by itself.`,
      compared: { volts, limit: at },
    }),
  ];
}

/** A regulated input grows hungrier as its volts fall: it starts only when the source can push the power at its starting voltage. */
function stable(figures: Figures, part: Converter): Verdict[] {
  const figure = figures.parts[part.id];
  const source = figures.partOf.get(railOrigin(figures.ledger, part.id) ?? "");
  if (part.topology === "linear" || source?.kind !== "supply" || source.overload !== "constant current" || !source.limitA) return [];
  const startsAt = part.startsAtV?.value ?? part.inputMinV?.value;
  if (startsAt === undefined || !figure) return [];
  const watts = Math.max(...figures.modes.map((_, m) => (figure.volts[m] ?? 0) * (figure.amps[m] ?? 0)));
  const needs = watts / startsAt;
  if (needs <= source.limitA.value) return [];
  return [
    speak({
      ...about(part),
      key: "start",
      severity: "fix",
      headline: `${part.name} may never start on ${source.name}: it asks ${say(needs, "current", "up")} at ${say(startsAt, "voltage")}`,
      detail: `${say(watts, "power", "up")} at the volts where it switches on is more than the ${say(source.limitA.value, "current", "down")} the supply holds, so the rail locks low. Switch its loads on after it is up.`,
      compared: { amps: needs, limit: source.limitA.value },
    }),
  ];
}
