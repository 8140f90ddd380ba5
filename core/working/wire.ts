import { endsOf } from "../connectors/ends";
import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import { wireName } from "../figures/names";
import { carryingFactor, leastForWire, loadShare, PLAIN_FUSE } from "../fuses/rating";
import { lengthOf } from "../machine/length";
import type { Wire } from "../machine/schema";
import { terminalName } from "../machine/terminals";
import { endOhm, nodeAt, ohmPerM20 } from "../network/circuit";
import { capital, say } from "../quantity/format";
import { FUSE_FAMILIES } from "../reference/fuses";
import { type Gauge, gaugeById } from "../reference/gauges";
import { airAround } from "../wires/ampacity";
import { COPPER_ALPHA_20, temperatureFactor } from "../wires/resistance";
import { explainLimit, explainTemperature } from "./ampacity";
import type { FigureRef, Working, WorkingInput } from "./types";

const LEAST = "A load behind this wire has no figure yet: this is the least it can be.";

type WireRef = Extract<FigureRef, { wire: string }>;

/** The derivation of a figure of a wire; null when it is gone. */
export function explainWire(figures: Figures, ref: WireRef): Working | null {
  const wire = figures.wireOf.get(ref.wire);
  const figure = figures.wires[ref.wire];
  if (!wire || !figure) return null;
  const name = capital(wireName(figures, wire));
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  switch (ref.kind) {
    case "wireAmps":
      return amps(figures, wire, ref.mode, name);
    case "wireDrop":
    case "wireHeat":
      return dropOrHeat(figures, wire, ref.kind, ref.mode, name);
    case "wireOhm":
      return ohms(figures, wire, gauge, name);
    case "wireLimit":
      return explainLimit(figures, wire, name);
    case "wireTemperature":
      return explainTemperature(figures, wire, name);
    case "wireWorst":
      return worst(figures, wire, name);
    case "fuseLeast":
      return leastFuse(figures, wire, name);
  }
}

function end(figures: Build, ref: Wire["from"]): string {
  const part = figures.partOf.get(ref.part);
  return part ? terminalName(part, ref.terminal) : "?";
}

function amps(figures: Figures, wire: Wire, mode: number, name: string): Working {
  const figure = figures.wires[wire.id];
  const { circuit } = figures.solved;
  const point = figures.solved.planned[mode];
  const volts = (at: Wire["from"]) => point?.nodeV[nodeAt(circuit, at.part, at.terminal)] ?? 0;
  const [from, to] = [volts(wire.from), volts(wire.to)];
  const ohm = (figure?.runOhm ?? 0) + (figure?.fuseOhm ?? 0);
  const value = figure?.amps[mode] ?? 0;
  return {
    title: `${name}: amps in ${figures.modes[mode]?.name}`,
    value,
    dimension: "current",
    formula: "I = (V_from − V_to) / R",
    numbers: `(${from.toFixed(5)} V − ${to.toFixed(5)} V) / ${(ohm * 1e3).toFixed(4)} mΩ = ${say(value, "current")}`,
    inputs: [
      { label: `V at ${end(figures, wire.from)}`, text: `${from.toFixed(5)} V`, known: "computed" },
      { label: `V at ${end(figures, wire.to)}`, text: `${to.toFixed(5)} V`, known: "computed" },
      { label: "R of the wire, its ends and fuse", text: `${(ohm * 1e3).toFixed(3)} mΩ`, known: "computed" },
    ],
    source: "Ohm's law on the solved network; all nodes satisfy Kirchhoff's current law. Checked against an independent circuit simulator.",
    notes: [
      "Voltages are against the minus terminal of the source of this island.",
      ...(value < -1e-9 ? ["Negative: the current runs against the direction the wire was drawn in."] : []),
      ...(figure?.atLeast[mode] ? [LEAST] : []),
    ],
  };
}

function dropOrHeat(figures: Figures, wire: Wire, kind: "wireDrop" | "wireHeat", mode: number, name: string): Working {
  const figure = figures.wires[wire.id];
  const current = Math.abs(figure?.amps[mode] ?? 0);
  const run = figure?.runOhm ?? 0;
  const fuse = figure?.fuseOhm ?? 0;
  const drop = kind === "wireDrop";
  const value = (drop ? figure?.dropV[mode] : figure?.heatW[mode]) ?? 0;
  const ohm = drop ? run + fuse : run;
  const inputs: WorkingInput[] = [
    { label: "I", text: say(current, "current"), known: "computed" },
    { label: "R of the wire and its two ends", text: say(run, "resistance"), known: "computed" },
  ];
  if (drop && wire.fuse)
    inputs.push({
      label: `R of the ${wire.fuse.ratingA} A fuse and holder, cold`,
      text: say(fuse, "resistance"),
      known: "table",
      source: "fuse table, typical, from memory",
    });
  return {
    title: `${name}: ${drop ? "drop" : "heat"} in ${figures.modes[mode]?.name}`,
    value,
    dimension: drop ? "voltage" : "power",
    formula: drop ? "U = I · R" : "P = I² · R",
    numbers: `${say(current, "current")}${drop ? "" : "²"} × ${say(ohm, "resistance")} = ${say(value, drop ? "voltage" : "power")}`,
    inputs,
    source: drop ? "Ohm's law." : "Joule's law. Heat of an inline fuse is not counted to the wire.",
    notes: [...(wire.parallel > 1 ? [`For all ${wire.parallel} conductors together.`] : []), ...(figure?.atLeast[mode] ? [LEAST] : [])],
  };
}

function lengthInput(wire: Wire): WorkingInput {
  return wire.lengthM
    ? { label: "Length, one way", text: say(wire.lengthM.value, "length"), known: wire.lengthM.provenance }
    : { label: "Length", text: "not known", known: "guess" };
}

/** What a wire is made of, per metre at 20 °C, in words and mΩ. */
function material(wire: Wire, gauge: Gauge | undefined): { label: string; milliohm: number | null; source: string | undefined } {
  const { board } = wire;
  if (board) {
    const label =
      board.kind === "trace" ? `R′₂₀ of ${board.widthMm.value} mm × ${board.copperUm.value} µm` : "R′₂₀ of a row of bridged pads";
    return {
      label,
      milliohm: ohmPerM20(wire) * 1000,
      source: board.kind === "trace" ? "ρ₂₀ / (w · t), IEC 60028 copper" : "solder worth 0.24 mm² of copper, from memory",
    };
  }
  return { label: `R′₂₀ of ${gauge?.id ?? "unknown size"}`, milliohm: gauge?.r20OhmPerKm ?? null, source: gauge?.source };
}

function ohms(figures: Build, wire: Wire, gauge: Gauge | undefined, name: string): Working {
  const { settings } = figures.machine;
  const conductorC = Math.max(settings.conductorC, settings.ambientC);
  const factor = temperatureFactor(conductorC);
  const value = figures.wires[wire.id]?.runOhm ?? 0;
  const { label, milliohm, source } = material(wire, gauge);
  const joints = wire.board ? "" : ` + 2 × ${say(settings.jointOhm, "resistance")}`;
  const ends = endsOf(wire);
  const contacts = ends.map(({ at }) => ` + ${say(endOhm(at), "resistance")}`).join("");
  const one = `${Number((milliohm ?? 0).toPrecision(4))} mΩ/m × ${lengthOf(wire)} m${wire.lengthM ? "" : " (assumed)"} × ${factor.toFixed(4)}${joints}`;
  const symbols = `R′₂₀ · L · [1 + ${COPPER_ALPHA_20} (T − 20)]${wire.board ? "" : " + 2 R_end"}`;
  return {
    title: `${name}: resistance`,
    value,
    dimension: "resistance",
    formula: `R = ${wire.parallel > 1 ? `(${symbols}) / n` : symbols}${ends.length > 0 ? " + Σ R_contact" : ""}`,
    numbers: `${wire.parallel > 1 ? `(${one}) / ${wire.parallel}` : one}${contacts} = ${say(value, "resistance")}`,
    inputs: [
      {
        label,
        text: milliohm === null ? "not known" : `${Number(milliohm.toPrecision(4))} mΩ/m`,
        known: milliohm === null ? "guess" : "table",
        source,
      },
      lengthInput(wire),
      { label: "T, conductor temperature for resistance", text: say(conductorC, "temperature"), known: "setting" },
      ...(wire.board
        ? []
        : [
            {
              label: "R_end, one crimped or bolted end",
              text: say(settings.jointOhm, "resistance"),
              known: "setting" as const,
              source: "good ring lug 0.1 to 0.3 mΩ, from memory",
            },
          ]),
      ...ends.map(({ at, row, end }) => ({
        label: `R_contact, ${end === "from" ? "source" : "far"} end, worn`,
        text: say(endOhm(at), "resistance"),
        known: "table" as const,
        source: `${row.name}: typical, from memory`,
      })),
    ],
    source: "IEC 60028 copper; AWG by ASTM B258 with 2 % for stranding, metric by IEC 60228 class 5.",
    notes: [],
  };
}

function worst(figures: Figures, wire: Wire, name: string): Working | null {
  const figure = figures.wires[wire.id];
  if (!figure) return null;
  const inputs = figures.modes.map(
    (mode, m): WorkingInput => ({
      label: `${mode.name}${figures.machine.modes[m]?.lastsS === null ? "" : `, ${say(figures.machine.modes[m]?.lastsS ?? 0, "time")}`}`,
      text: mode.collapsed ? "collapsed" : say(Math.abs(figure.amps[m] ?? 0), "current"),
      known: "computed",
    }),
  );
  const { worst: most } = figure;
  return {
    title: `${name}: worst current`,
    value: most.amps,
    dimension: "current",
    rounding: "up",
    formula: "I_worst = max over modes, at the planned and at the lowest charge",
    numbers: `${say(most.amps, "current", "up")} in ${figures.modes[most.mode]?.name}${most.low ? ", pack low" : ""}`,
    inputs,
    source: "Regulated loads draw more as the pack sags, so both charges are solved. The list shows the planned charge.",
    notes: [
      ...(figure.atLeast.some((flag) => flag === 1) ? [LEAST] : []),
      ...(figures.modes.some((mode) => mode.collapsed || mode.collapsedLow)
        ? ["A mode collapses and has no figure: this is the worst of the others."]
        : []),
    ],
  };
}

function leastFuse(figures: Figures, wire: Wire, name: string): Working | null {
  const figure = figures.wires[wire.id];
  if (!figure) return null;
  const { settings } = figures.machine;
  const school = settings.schools.fuseLoadFactor;
  const family = wire.fuse?.family ?? PLAIN_FUSE;
  const value = leastForWire(settings, wire, figure.worstContinuous.amps, wire.fuse?.family);
  const airC = airAround(wire, settings);
  const [share, factor] = [loadShare(family, school), carryingFactor(family, airC).toFixed(3)];
  return {
    title: `${name}: least fuse rating`,
    value,
    dimension: "current",
    formula: "I_n ≥ I_cont / (f · k_T)",
    numbers: `${say(figure.worstContinuous.amps, "current", "up")} / (${share} × ${factor}) = ${say(value, "current", "up")}`,
    inputs: [
      { label: "I_cont, worst continuous", text: say(figure.worstContinuous.amps, "current", "up"), known: "computed" },
      {
        label: `f, share a fuse (${FUSE_FAMILIES[family].name}) may carry continuously`,
        text: `${Math.round(share * 100)}\u00a0%`,
        known: "setting",
        source: "common practice",
      },
      {
        label: `k_T, in air of ${say(airC, "temperature")}`,
        text: factor,
        known: "table",
        source: "by what melts or bends in it, handbook protection section 5, derived; never above 1",
      },
    ],
    source: "Common practice; the fuse must also stay at or below what its wire may carry (IEC 60364-4-43).",
    school: `Fuse load factor ${school}`,
    notes: [],
  };
}
