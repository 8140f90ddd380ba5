import { inputPower } from "../converters/switched";
import type { Figures } from "../figures/figures";
import { partName } from "../figures/names";
import { railIn } from "../figures/rails";
import type { Figure } from "../machine/figure";
import type { Part } from "../machine/schema";
import { isSource, regulates } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { lossModelOf, ONBOARD_OHM } from "../network/circuit";
import { say } from "../quantity/format";
import { entered, LEAST, SOLVED } from "./inputs";
import { explainLevel, loadAmps, motorVolts } from "./load";
import { explainChip, explainEfficiency, explainRating, explainWorstInput, lossInputs } from "./source";
import type { FigureRef, Working, WorkingInput } from "./types";

type PartRef = Extract<FigureRef, { part: string }>;

/** The derivation of a figure of a part; null when it is gone. */
export function explainPart(figures: Figures, ref: PartRef): Working | null {
  const part = figures.partOf.get(ref.part);
  const figure = figures.parts[ref.part];
  if (!part || !figure) return null;
  switch (ref.kind) {
    case "partAmps":
      return amps(figures, part, ref.mode);
    case "converterInput":
      return converterInput(figures, part, ref.mode);
    case "outputAmps":
      return outputAmps(figures, part, ref.mode);
    case "outputVolts":
      return outputVolts(figures, part, ref.mode);
    case "lossInside":
      return lossInside(figures, part, ref.mode);
    case "partVolts":
      if (isSource(part)) return outputVolts(figures, part, ref.mode);
      return (part.kind === "load" && motorVolts(figures, part, ref.mode)) || volts(figures, part, ref.mode);
    case "level":
      return part.kind === "load" ? explainLevel(part, ref.level) : null;
    case "partDrop":
      return drop(figures, part, ref.mode);
    case "partOffset":
      return offset(figures, part, ref.mode);
    case "partLowest":
      return lowest(figures, part);
    case "rating":
      return explainRating(figures, part);
    case "worstInput":
      return part.kind === "converter" ? explainWorstInput(figures, part) : null;
    case "chip":
      return part.kind === "converter" ? explainChip(figures, part, ref.mode) : null;
    case "efficiency":
      return part.kind === "converter" ? explainEfficiency(figures, part, ref.mode) : null;
    case "partWorst": {
      const { worst } = figure;
      return {
        title: `${part.name}: worst current`,
        value: worst.amps,
        dimension: "current",
        formula: "I_worst = max over modes, at the planned and at the lowest charge",
        numbers: `${say(worst.amps, "current", "up")} in ${figures.modes[worst.mode]?.name}${worst.low ? ", pack low" : ""}`,
        inputs: figures.modes.map(
          (mode, m): WorkingInput => ({ label: mode.name, text: say(figure.amps[m] ?? 0, "current"), known: "computed" }),
        ),
        source: SOLVED,
        notes: figure.atLeast.some((flag) => flag === 1) ? [LEAST] : [],
      };
    }
  }
}

function amps(figures: Figures, part: Part, mode: number): Working | null {
  const figure = figures.parts[part.id];
  const value = figure?.amps[mode] ?? 0;
  const title = `${part.name}: amps in ${figures.modes[mode]?.name}`;
  if (part.kind === "load") return loadAmps(figures, part, mode);
  if (part.kind === "converter") return converterInput(figures, part, mode);
  return {
    title,
    value,
    dimension: "current",
    formula: part.kind === "driver" ? "I = Σ I of its motors + own use" : "I = Σ I of what it feeds",
    numbers: say(value, "current"),
    inputs: part.kind === "driver" && part.ownA ? [entered("Own use", part.ownA, say(part.ownA.value, "current"))] : [],
    source: SOLVED,
    notes: [
      ...(part.kind === "driver" ? ["What circulates in a motor's own loop while the bridge chops does not come from the bus."] : []),
      ...(figure?.atLeast[mode] ? [LEAST] : []),
    ],
  };
}

/** What a source or converter gives at its plus terminal, as the sum of the wires that leave it. */
function outputAmps(figures: Figures, part: Part, mode: number): Working {
  const figure = figures.parts[part.id];
  const plus = part.kind === "converter" ? "out+" : regulates(part) ? "5v" : "+";
  const inputs = figures.machine.wires
    .filter(
      (wire) => (wire.from.part === part.id && wire.from.terminal === plus) || (wire.to.part === part.id && wire.to.terminal === plus),
    )
    .map(
      (wire): WorkingInput => ({
        label: partName(figures, wire.from.part === part.id ? wire.to.part : wire.from.part),
        text: say(Math.abs(figures.wires[wire.id]?.amps[mode] ?? 0), "current"),
        known: "computed",
      }),
    );
  const value = (figure?.outA ?? figure?.amps)?.[mode] ?? 0;
  return {
    title: `${part.name}: amps given in ${figures.modes[mode]?.name}`,
    value,
    dimension: "current",
    formula: "I = Σ I of the wires that leave its plus terminal",
    numbers: `${inputs.map((input) => input.text).join(" + ") || "0"} = ${say(value, "current")}`,
    inputs,
    source: SOLVED,
    notes: figure?.atLeast[mode] ? [LEAST] : [],
  };
}

function converterInput(figures: Figures, part: Part, mode: number): Working | null {
  const figure = figures.parts[part.id];
  if (part.kind !== "converter" || !figure?.outA) return null;
  const out = figure.outA[mode] ?? 0;
  const outV = part.outputV.value - out * (part.outputOhm?.value ?? 0);
  const inV = figure.volts[mode] ?? 0;
  const iq = part.quiescentA?.value ?? 0;
  const value = figure.amps[mode] ?? 0;
  const linear = part.topology === "linear";
  const loss = lossModelOf(part);
  const taken = loss ? inputPower(loss, outV * out, out, inV) : 0;
  return {
    title: `${part.name}: input amps in ${figures.modes[mode]?.name}`,
    value,
    dimension: "current",
    formula: linear
      ? "I_in = I_out + I_q"
      : loss
        ? `I_in = (U_out·I_out + P₀·k + a·(1 + k)/2·I_out + b·${loss.atInput ? "I_in" : "I_out"}²) / U_in + I_q, k = U_in / U_taken`
        : "I_in = U_out · I_out / (η · U_in) + I_q",
    numbers: linear
      ? `${say(out, "current")} + ${say(iq, "current")} = ${say(value, "current")}`
      : loss
        ? `${say(taken, "power")} / ${say(inV, "voltage")} + ${say(iq, "current")} = ${say(value, "current")}`
        : `${say(outV, "voltage")} × ${say(out, "current")} / (${part.efficiency.value} × ${say(inV, "voltage")}) + ${say(iq, "current")} = ${say(value, "current")}`,
    inputs: [
      { label: "I_out", text: say(out, "current"), known: "computed" },
      entered("U_out set", part.outputV, say(part.outputV.value, "voltage")),
      ...(linear ? [] : lossInputs(part)),
      { label: "U_in", text: say(inV, "voltage"), known: "computed" },
      ...(part.quiescentA ? [entered("I_q", part.quiescentA, say(iq, "current"))] : []),
    ],
    source: linear
      ? "A linear regulator passes its output current through and burns the rest."
      : "Power balance of a converter; it draws more as its input sags.",
    notes: figure.atLeast[mode] ? [LEAST] : [],
  };
}

/** No-load voltage and inner resistance of a source or converter, as entered. */
function behind(part: Part): { emf: Figure; inner: Figure | undefined } | null {
  if (part.kind === "pack") return { emf: part.openCircuitV, inner: part.internalOhm };
  if (part.kind === "driver" || part.kind === "load")
    return part.onboard ? { emf: part.onboard.outputV, inner: { value: ONBOARD_OHM, provenance: "typical" } } : null;
  return part.kind === "supply" || part.kind === "converter" ? { emf: part.outputV, inner: part.outputOhm } : null;
}

function outputVolts(figures: Figures, part: Part, mode: number): Working | null {
  const figure = figures.parts[part.id];
  const source = behind(part);
  if (!source || !figure?.outV) return null;
  const { emf, inner } = source;
  const current = (figure.outA ?? figure.amps)[mode] ?? 0;
  const value = figure.outV[mode] ?? 0;
  return {
    title: `${part.name}: volts at its output in ${figures.modes[mode]?.name}`,
    value,
    dimension: "voltage",
    formula: "U = U_0 − I · R_i",
    numbers: `${say(emf.value, "voltage")} − ${say(current, "current")} × ${inner ? say(inner.value, "resistance") : "1 mΩ (not known)"} = ${say(value, "voltage")}`,
    inputs: [
      entered("U_0, no load", emf, say(emf.value, "voltage")),
      ...(inner ? [entered("R_i", inner, say(inner.value, "resistance"))] : []),
      { label: "I", text: say(current, "current"), known: "computed" },
    ],
    source: "Source behind its inner resistance.",
    notes: figure.live[mode] ? [] : ["Cut off in this mode by an open switch."],
  };
}

function lossInside(figures: Figures, part: Part, mode: number): Working | null {
  const figure = figures.parts[part.id];
  const source = behind(part);
  if (!source || !figure?.lossW || !figure.outV) return null;
  const value = figure.lossW[mode] ?? 0;
  const given = (figure.outA ?? figure.amps)[mode] ?? 0;
  const converter = figure.outA !== null;
  const gives = (figure.outV[mode] ?? 0) * given;
  const inW = say(gives + value, "power");
  const outW = say(gives, "power");
  return {
    title: `${part.name}: heat inside in ${figures.modes[mode]?.name}`,
    value,
    dimension: "power",
    formula: converter ? "P_loss = U_in · I_in − U_out · I_out" : "P_loss = I² · R_i",
    numbers: converter
      ? `${inW} − ${outW} = ${say(value, "power")}`
      : `${say(given, "current")}² × ${source.inner ? say(source.inner.value, "resistance") : "1 mΩ (not known)"} = ${say(value, "power")}`,
    inputs: converter
      ? [
          { label: "taken at its input", text: inW, known: "computed" },
          { label: "given at its output", text: outW, known: "computed" },
        ]
      : source.inner
        ? [entered("R_i", source.inner, say(source.inner.value, "resistance"))]
        : [],
    source: converter ? "Power balance of the converter." : "Joule's law in the source's inner resistance.",
    notes: figure.atLeast[mode] ? [LEAST] : [],
  };
}

function volts(figures: Figures, part: Part, mode: number): Working {
  const figure = figures.parts[part.id];
  const value = figure?.volts[mode] ?? 0;
  const title = `${part.name}: volts in ${figures.modes[mode]?.name}`;
  const across = part.kind === "load" || part.kind === "driver" || part.kind === "converter";
  return {
    title,
    value,
    dimension: "voltage",
    formula: across ? "U = V_plus − V_minus at its own terminals" : "U = V against the minus of its rail's source",
    numbers: across
      ? `${say(value, "voltage")} = rail less ${say(figure?.dropV[mode] ?? 0, "voltage")} lost on the way out and back`
      : say(value, "voltage"),
    inputs: [],
    source: SOLVED,
    notes: figure?.live[mode] ? [] : ["Cut off in this mode by an open switch."],
  };
}

function drop(figures: Figures, part: Part, mode: number): Working {
  const origin = railOrigin(figures.ledger, part.id);
  const point = figures.solved.planned[mode];
  const from = (point && railIn(figures, part.id, point).source?.name) ?? "the source";
  const value = figures.parts[part.id]?.dropV[mode] ?? 0;
  const inputs: WorkingInput[] = [];
  const { rowOf } = figures.ledger;
  for (let row = rowOf.get(part.id); row?.feed; row = rowOf.get(row.feed.from.part)) {
    inputs.push({ label: `Out: ${row.part.name}`, text: say(figures.wires[row.feed.id]?.dropV[mode] ?? 0, "voltage"), known: "computed" });
    if (row.feed.from.part === origin) break;
  }
  const seen = new Set<string>();
  for (let row = rowOf.get(part.id); row?.back && !seen.has(row.back.id); row = rowOf.get(row.back.to.part)) {
    seen.add(row.back.id);
    inputs.push({ label: `Back: ${row.part.name}`, text: say(figures.wires[row.back.id]?.dropV[mode] ?? 0, "voltage"), known: "computed" });
    if (row.back.to.part === origin) break;
  }
  return {
    title: `${part.name}: volts lost on the way in ${figures.modes[mode]?.name}`,
    value,
    dimension: "voltage",
    formula: "U_drop = U at the source terminals − U at the part",
    numbers: `${say(value, "voltage")} between ${from} and here, out and back`,
    inputs,
    source: SOLVED,
    notes: [
      "Wires, ends, fuses and switch contacts count; what a driver's bridge keeps does not. In a meshed return the listed way back is one of several.",
    ],
  };
}

function offset(figures: Figures, part: Part, mode: number): Working {
  const origin = railOrigin(figures.ledger, part.id);
  const value = figures.parts[part.id]?.offsetV[mode] ?? 0;
  return {
    title: `${part.name}: lost on the way back in ${figures.modes[mode]?.name}`,
    value,
    dimension: "voltage",
    formula: "U_offset = V at its minus − V at the minus of its source",
    numbers: `${say(value, "voltage")} above ${origin === null ? "the source" : partName(figures, origin)} minus`,
    inputs: [],
    source: SOLVED,
    notes: ["Every amp that shares a return conductor with this part lifts its ground."],
  };
}

function lowest(figures: Figures, part: Part): Working | null {
  const figure = figures.parts[part.id];
  if (!figure?.lowestV) return null;
  return {
    title: `${part.name}: lowest voltage`,
    value: figure.lowestV.volts,
    dimension: "voltage",
    rounding: "down",
    formula: "U_min = min over modes, pack at its lowest planned charge",
    numbers: `${say(figure.lowestV.volts, "voltage", "down")} in ${figures.modes[figure.lowestV.mode]?.name}`,
    inputs: figures.modes.map(
      (mode, m): WorkingInput => ({
        label: `${mode.name}, planned charge`,
        text: figure.live[m] ? say(figure.volts[m] ?? 0, "voltage") : "off",
        known: "computed",
      }),
    ),
    source: SOLVED,
    notes: figure.atLeast.some((flag) => flag === 1) ? ["A load has no figure yet: it can only get lower."] : [],
  };
}
