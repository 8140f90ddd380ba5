import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { Wire } from "../machine/schema";
import { say } from "../quantity/format";
import { gaugeById } from "../reference/gauges";
import { insulationById } from "../reference/insulation";
import { type Ampacity, CHASSIS_MAX_C, CHASSIS_REFERENCE_C, MODEL_MARGIN, settledTemperature, TABLE_REFERENCE_C } from "../wires/ampacity";
import { overloadTime } from "../wires/overload";
import { SCHOOL_WORDS } from "../wires/schools";
import { BOARD_MAX_C, TRACE_RISE_K } from "../wires/trace";
import type { Working, WorkingInput } from "./types";

const LEAST = "A load behind this wire has no figure yet: this is the least it can be.";

const BUNDLE_SOURCES: Readonly<Record<Ampacity["school"], string>> = {
  chassis: "n^−0.34, from the heat balance of a bundle (derived)",
  building: "NEC 310.15(C)(1), from memory",
  boat: "ABYC E-11, from memory",
  "heat balance": "n^−0.34, from the heat balance of a bundle (derived)",
  board: "",
};

/** What a wire may carry continuously, with every factor of its school. */
export function explainLimit(figures: Build, wire: Wire, name: string): Working | null {
  const ampacity = figures.wires[wire.id]?.ampacity;
  if (!ampacity) return null;
  return wire.board ? board(wire, ampacity, name) : conductor(figures, wire, ampacity, name);
}

function conductor(figures: Build, wire: Wire, ampacity: Ampacity, name: string): Working {
  const { settings } = figures.machine;
  const insulation = insulationById(wire.insulation);
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  const { school } = ampacity;
  const words = SCHOOL_WORDS[school === "board" ? "chassis" : school];
  const model = school === "heat balance";
  const inputs: WorkingInput[] = [
    {
      label: model ? `I_balance, ${gauge?.id ?? ""} alone in still air` : `I_table, ${ampacity.reference?.id ?? ""}`,
      text: `${Number(ampacity.tableA.toFixed(2))} A`,
      known: model ? "computed" : "table",
      source: model ? "Churchill and Chu 1975, radiation, insulation" : ampacity.reference?.certainty,
    },
    {
      label: model ? "k_D, reserve of the model" : "k_T, surroundings",
      text: `${ampacity.ambient.toFixed(3)} at ${say(ampacity.airC, "temperature")}`,
      known: "setting",
    },
    {
      label: "k_B, loaded wires together",
      text: `${Number(ampacity.bundle.toFixed(3))} for ${wire.bundle ?? settings.bundle}`,
      known: wire.bundle === undefined ? "setting" : "computed",
      source: BUNDLE_SOURCES[school],
    },
    { label: "Insulation", text: insulation?.name ?? wire.insulation, known: "table" },
  ];
  if (ampacity.sleeve < 1)
    inputs.push({ label: "k_S, in a sleeve", text: String(ampacity.sleeve), known: "setting", source: "common practice" });
  if (wire.parallel > 1)
    inputs.push({
      label: "n · k_n, conductors in parallel",
      text: String(ampacity.parallel),
      known: "computed",
      source: "2: 0.9 each, 3 or more: 0.8 each; common practice, no source",
    });
  const factors = [
    ["k_T", ampacity.ambient.toFixed(3)],
    ["k_B", Number(ampacity.bundle.toFixed(3))],
    ...(ampacity.sleeve < 1 ? [["k_S", ampacity.sleeve]] : []),
    ...(wire.parallel > 1 ? [["n k_n", ampacity.parallel]] : []),
  ];
  const first = model ? "I_balance" : "I_table";
  return {
    title: `${name}: what it may carry continuously`,
    value: ampacity.limitA,
    dimension: "current",
    rounding: "down",
    formula: `I_z = ${[first, ...factors.map(([symbol]) => (model && symbol === "k_T" ? "k_D" : symbol))].join(" · ")}`,
    numbers: `${Number(ampacity.tableA.toFixed(2))} A × ${factors.map(([, value]) => value).join(" × ")} = ${say(ampacity.limitA, "current", "down")}`,
    inputs,
    source: words.source,
    school: `${words.name}: ${words.demands}`,
    notes: [
      ...(school === "chassis"
        ? [
            `The column is read as a ${CHASSIS_MAX_C} °C wire in ${CHASSIS_REFERENCE_C} °C air: k_T = √((T_max − T_a)/(${CHASSIS_MAX_C} − ${CHASSIS_REFERENCE_C})), T_max ${ampacity.maxC} °C, never above 1 (common practice).`,
          ]
        : []),
      ...(school === "boat" || school === "building"
        ? [`k_T = √((T_max − T_a)/(T_table − ${TABLE_REFERENCE_C})), T_max ${ampacity.maxC} °C; cooler air earns nothing here.`]
        : []),
      ...(model
        ? [
            `The balance finds 1 to 17 % more than published tables of the same conditions: ${MODEL_MARGIN} keeps that in reserve (derived).`,
          ]
        : []),
      ...(ampacity.reference && gauge && ampacity.reference.id !== gauge.id
        ? [`The table has no ${gauge.id}: the next size that is not thicker, ${ampacity.reference.id}, is used.`]
        : []),
      ...(insulation && ampacity.maxC < insulation.maxC ? ["Hotter insulation earns nothing more in this school."] : []),
      ...(Number.isFinite(ampacity.fuseLimitA) && ampacity.fuseLimitA < ampacity.limitA
        ? [`This school allows it a fuse of ${ampacity.fuseLimitA} A at most (NEC 240.4(D), from memory).`]
        : []),
    ],
  };
}

function board(wire: Wire, ampacity: Ampacity, name: string): Working {
  const trace = wire.board?.kind === "trace" ? wire.board : null;
  const riseK = ampacity.maxC - ampacity.airC;
  const each = `${Number(ampacity.tableA.toFixed(3))} A`;
  return {
    title: `${name}: what this copper may carry continuously`,
    value: ampacity.limitA,
    dimension: "current",
    rounding: "down",
    formula: trace ? "I = k ΔT^0.44 A^0.725, A in mil²" : "2 A a row of pads",
    numbers: `${each}${wire.parallel > 1 ? ` × ${wire.parallel}` : ""} = ${say(ampacity.limitA, "current", "down")}`,
    inputs: trace
      ? [
          { label: "Width", text: `${trace.widthMm.value} mm`, known: trace.widthMm.provenance },
          { label: "Copper", text: `${trace.copperUm.value} µm`, known: trace.copperUm.provenance },
          {
            label: "k",
            text: trace.layer === "outside" ? "0.048, outside" : "0.024, inside the board",
            known: "table",
            source: "IPC-2221",
          },
          {
            label: "ΔT",
            text: `${Number(riseK.toFixed(1))} K`,
            known: "setting",
            source: `${TRACE_RISE_K} K, less where the board would pass ${BOARD_MAX_C} °C`,
          },
        ]
      : [],
    source: trace ? "IPC-2221, to about 35 A, 10 to 100 K and 10 mm width." : "Common practice: 2 to 3 A a row of bridged pads.",
    notes: trace && trace.widthMm.value > 10 ? ["Wider than the formula was made for: take it as a rough figure."] : [],
  };
}

/** Where the conductor settles at its worst continuous current. */
export function explainTemperature(figures: Figures, wire: Wire, name: string): Working | null {
  const figure = figures.wires[wire.id];
  if (!figure?.ampacity || figure.temperatureC === null) return null;
  const { limitA, maxC, airC, school, tauS } = figure.ampacity;
  const amps = say(figure.worstContinuous.amps, "current", "up");
  const solved = school === "heat balance" || wire.board?.kind === "trace";
  const over = figure.worstContinuous.amps > limitA;
  return {
    title: `${name}: conductor temperature, worst continuous mode`,
    value: figure.temperatureC,
    dimension: "temperature",
    formula: solved
      ? "heat made = heat given off"
      : over
        ? "heat made = heat given off, at least T_max"
        : "T = T_a + (T_max − T_a) · (I / I_z)²",
    numbers:
      solved || over
        ? `${amps} settles at ${say(figure.temperatureC, "temperature", "up")}`
        : `${airC} + (${maxC} − ${airC}) × (${figure.worstContinuous.amps.toFixed(2)} / ${limitA.toFixed(2)})² = ${say(figure.temperatureC, "temperature", "up")}`,
    inputs: [
      { label: "I, worst continuous", text: amps, known: "computed" },
      { label: "I_z", text: say(limitA, "current", "down"), known: "computed" },
      { label: "T_a", text: say(airC, "temperature"), known: "setting" },
      { label: "τ, to 63 % of the rise", text: say(tauS, "time"), known: "computed", source: "copper and half of the insulation" },
      ...figures.modes.flatMap((mode, m): WorkingInput[] => {
        const now = Math.abs(figure.amps[m] ?? 0);
        return mode.collapsed || now < 1e-6
          ? []
          : [{ label: mode.name, text: inMode(wire, figure.ampacity, now, figures.machine.modes[m]?.lastsS ?? null), known: "computed" }];
      }),
    ],
    source: solved
      ? "Heat balance in still air with the reserve of the school and the wires beside it counted as more current."
      : "Rise goes with the square of current; an estimate, common practice. At I_z the wire is at T_max by definition.",
    notes: figure.atLeast.some((flag) => flag === 1) ? [LEAST] : [],
  };
}

/** What a mode's current does to the conductor: where it settles, how hot it is when a timed mode ends, when it is at its limit. */
function inMode(wire: Wire, ampacity: Ampacity | null, amps: number, lastsS: number | null): string {
  if (!ampacity) return "not known";
  const settles = settledTemperature(wire, ampacity, amps);
  const m = ampacity.limitA > 0 ? amps / ampacity.limitA : Number.POSITIVE_INFINITY;
  const limitS = overloadTime(m, 0, ampacity.tauS, ampacity.tauCopperS);
  const at = say(amps, "current", "up");
  const hot = Number.isFinite(settles) ? `would settle at ${say(settles, "temperature", "up")}` : "would melt";
  const reaches = Number.isFinite(limitS) ? `, at its limit after ${say(limitS, "time", "down")} from cold` : "";
  if (lastsS === null || !Number.isFinite(settles)) return `${at}: ${hot.replace("would settle", "settles")}${reaches}`;
  const end = ampacity.airC + (settles - ampacity.airC) * (1 - Math.exp(-lastsS / (m <= 2 ? ampacity.tauS : ampacity.tauCopperS)));
  return `${at} for ${say(lastsS, "time")}: ${say(end, "temperature", "up")} from cold${reaches}`;
}
