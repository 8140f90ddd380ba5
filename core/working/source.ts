import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { Converter, Part } from "../machine/schema";
import { lossModelOf } from "../network/circuit";
import type { PackModel } from "../packs/pack";
import { say, sayDuration } from "../quantity/format";
import { CHEMISTRY_SOURCE } from "../reference/chemistries";
import { readConverter } from "../sources/converter";
import { endWords } from "../sources/end";
import { ratingOf } from "../sources/ratings";
import { runMode, runTimes } from "../sources/run";
import { dischargeOf } from "../sources/sag";
import { entered, LEAST, SOLVED } from "./inputs";
import type { Working, WorkingInput } from "./types";

const percent = (share: number) => `${Math.round(share * 1000) / 10} %`;

/** What a source or converter may give continuously. */
export function explainRating(figures: Build, part: Part): Working | null {
  if (part.kind !== "pack" && part.kind !== "supply" && part.kind !== "converter") return null;
  const { settings } = figures.machine;
  const rating = ratingOf(part, settings, figures.parts[part.id]?.highestV ?? null);
  if (rating.continuousA === null) return null;
  const stated = part.kind === "pack" ? part.continuousA : part.ratedA;
  const inputs: WorkingInput[] = [
    ...(stated ? [entered("as entered", stated, say(stated.value, "current"))] : []),
    { label: "around it", text: say(settings.ambientC, "temperature"), known: "setting" },
  ];
  return {
    title: `${part.name}: what it may give continuously`,
    value: rating.continuousA,
    dimension: "current",
    rounding: "down",
    formula: formulaOf(part, rating.because === "as entered"),
    numbers: `${rating.printedA === null ? "" : `${say(rating.printedA, "current", "down")} printed, `}${say(rating.continuousA, "current", "down")}: ${rating.because}`,
    inputs,
    source:
      part.kind === "pack" ? CHEMISTRY_SOURCE : "Handbook sources-and-regulators, sections 4.2, 4.4 and 5: common practice, from memory.",
    notes: rating.assumed ? ["Nobody has entered it: its sheet or management board may allow less."] : [],
  };
}

function formulaOf(part: Part, stated: boolean): string {
  if (stated) return "I = the figure entered";
  if (part.kind === "pack") return "I = C rate · capacity";
  if (part.kind === "supply") return "I = rating · min(1, 1 − s·(T − T₀)), or what the port's standard allows";
  return part.kind === "converter" && part.topology === "linear"
    ? "I = ((T_chip − T) / θ − U_in·I_q) / (U_in − U_out)"
    : "P_loss(I) = P_loss(I_25) · (T_max − T) / (T_max − 25 °C)";
}

/** Chip temperature of a linear regulator. */
export function explainChip(figures: Figures, part: Converter, mode: number): Working | null {
  const figure = figures.parts[part.id];
  const read = figure && readConverter(part, figure, mode, figures.machine.settings);
  if (!read || read.chipC === null || !part.kelvinPerWatt) return null;
  return {
    title: `${part.name}: its chip in ${figures.modes[mode]?.name}`,
    value: read.chipC,
    dimension: "temperature",
    rounding: "up",
    formula: "T_chip = T + P · θ",
    numbers: `${say(figures.machine.settings.ambientC, "temperature")} + ${say(read.heatW, "power", "up")} × ${part.kelvinPerWatt.value} K/W = ${say(read.chipC, "temperature", "up")}`,
    inputs: [
      { label: "P, what falls across it", text: say(read.heatW, "power", "up"), known: "computed" },
      entered("θ, chip to air", part.kelvinPerWatt, `${part.kelvinPerWatt.value} K/W`),
      { label: "T around it", text: say(figures.machine.settings.ambientC, "temperature"), known: "setting" },
    ],
    source: "Thermal form of Ohm's law.",
    notes: figure.atLeast[mode] ? [LEAST] : [],
  };
}

/** Losses of a converter, as inputs of a working. */
export function lossInputs(part: Converter): WorkingInput[] {
  if (!lossModelOf(part) || !part.lossW || !part.lossV || !part.lossOhm)
    return [entered("η", part.efficiency, percent(part.efficiency.value))];
  return [
    entered("P₀, fixed", part.lossW, say(part.lossW.value, "power")),
    entered("a, per amp", part.lossV, say(part.lossV.value, "voltage")),
    entered("b, per amp²", part.lossOhm, say(part.lossOhm.value, "resistance")),
    ...(part.lossAtV ? [entered("taken at", part.lossAtV, say(part.lossAtV.value, "voltage"))] : []),
  ];
}

/** Share of the input power that leaves a converter. */
export function explainEfficiency(figures: Figures, part: Converter, mode: number): Working | null {
  const figure = figures.parts[part.id];
  const read = figure && readConverter(part, figure, mode, figures.machine.settings);
  if (!read || read.efficiency === null || !figure.outV || !figure.outA) return null;
  const out = (figure.outV[mode] ?? 0) * (figure.outA[mode] ?? 0);
  return {
    title: `${part.name}: what it yields in ${figures.modes[mode]?.name}`,
    value: read.efficiency * 100,
    dimension: "percent",
    rounding: "down",
    formula: lossModelOf(part) ? "η = P_out / (P_out + P₀ + a·I + b·I² + U_in·I_q)" : "η = P_out / P_in, quiescent current included",
    numbers: `${say(out, "power")} / (${say(out, "power")} + ${say(read.heatW, "power")}) = ${percent(read.efficiency)}`,
    inputs: [
      { label: "P_out", text: say(out, "power"), known: "computed" },
      { label: "heat inside", text: say(read.heatW, "power"), known: "computed" },
      ...lossInputs(part),
    ],
    source: lossModelOf(part)
      ? "Loss model of a switching converter; P₀ and half of a follow the input voltage (handbook 5.2, common practice)."
      : "Power balance of the converter.",
    notes: figure.atLeast[mode] ? [LEAST] : [],
  };
}

/** What a converter draws when it gives its most at its lowest input. */
export function explainWorstInput(figures: Figures, part: Converter): Working | null {
  const figure = figures.parts[part.id];
  const read = figure && readConverter(part, figure, 0, figures.machine.settings);
  if (!read || read.worstInA === null || !figure.lowestV) return null;
  const outA = figure.worstOut?.amps ?? 0;
  return {
    title: `${part.name}: most amps at its input`,
    value: read.worstInA,
    dimension: "current",
    rounding: "up",
    formula: part.topology === "linear" ? "I_in = I_out + I_q" : "I_in = (P_out + losses) / U_in,min + I_q",
    numbers: `${say(part.outputV.value, "voltage")} × ${say(outA, "current", "up")} from ${say(figure.lowestV.volts, "voltage", "down")}: ${say(read.worstInA, "current", "up")}`,
    inputs: [
      { label: "I_out, the most in any mode", text: say(outA, "current", "up"), known: "computed" },
      { label: "U_in, the least in any mode", text: say(figure.lowestV.volts, "voltage", "down"), known: "computed" },
      ...(part.topology === "linear" ? [] : lossInputs(part)),
    ],
    source: "Power balance of a converter: the lower its input, the more it draws. Its wire and fuse are sized for that.",
    notes: figure.worstAtLeast ? [LEAST] : [],
  };
}

/** A run time: through the mission (`mode` null) or in one mode alone. */
export function explainRun(figures: Figures, mode: number | null): Working | null {
  const discharge = dischargeOf(figures.solved.circuit);
  const run = mode === null ? runTimes(figures.machine, discharge).mission : discharge.packs.length > 0 ? runMode(discharge, mode) : null;
  if (!run) return null;
  const name = (id: string) => figures.partOf.get(id)?.name ?? "a part";
  const read = (model: PackModel): WorkingInput[] => [
    ...(model.pack.capacityAh
      ? [entered(`${model.pack.name}, printed`, model.pack.capacityAh, say(model.pack.capacityAh.value, "capacity"))]
      : []),
    { label: "with age and cold", text: say(model.capacityAh, "capacity", "down"), known: "computed" },
    {
      label: "Peukert's exponent",
      text: `${model.peukert} at ${model.ratedH} h`,
      known: model.pack.peukert ? model.pack.peukert.provenance : "table",
    },
    { label: "kept back", text: percent(model.reserve), known: model.pack.lowCharge ? model.pack.lowCharge.provenance : "table" },
    { label: "drawn from it", text: say(run.usedAh[model.pack.id] ?? 0, "capacity"), known: "computed" },
  ];
  return {
    title: mode === null ? "Run time through the mission" : `Run time in ${figures.modes[mode]?.name} alone`,
    value: run.end.seconds,
    dimension: "time",
    rounding: "down",
    formula: "d(charge)/dt = −I(charge, mode) / C; Peukert: dt · I^k / (H·(C/H)^k); the first to end counts",
    numbers: `${sayDuration(run.end.seconds)}: ${endWords(run.end, name, (m) => figures.modes[m]?.name ?? "a mode")}`,
    inputs: discharge.packs.flatMap(read),
    source: `${SOLVED.replace(/\.$/, "")}, at every charge; open-circuit volts from the table of the chemistry. ${CHEMISTRY_SOURCE}`,
    notes: [
      "Both counts describe the same loss, so they are not multiplied.",
      ...(run.atMost ? ["Loads without a figure can only make it shorter."] : []),
    ],
  };
}
