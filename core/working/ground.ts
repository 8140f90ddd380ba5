import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import { partName, wireName } from "../figures/names";
import type { Signal } from "../machine/schema";
import { say } from "../quantity/format";
import { DEFAULT_LINK_BUDGET } from "../returns/budget";
import { groundOf, type MetalStep } from "../returns/ground";
import { LINK_WORDS, linkName } from "../returns/link-words";
import { linksOf } from "../returns/links";
import { returnsOf } from "../returns/summary";
import type { Working, WorkingInput } from "./types";

const SOURCE =
  "Kirchhoff's voltage law on the solved network: along any way through metal the drops add up to the same offset. Currents split by conductance, signal grounds included.";

/** The conductors on a way with what each adds, and their sum. */
function along(figures: Figures, way: readonly MetalStep[], mode: number): { inputs: WorkingInput[]; sum: number; numbers: string } {
  const { circuit, planned } = figures.solved;
  const inputs: WorkingInput[] = [];
  const terms: string[] = [];
  let sum = 0;
  for (const { branch, sign } of way) {
    const element = circuit.branches[branch];
    const wire = element?.kind === "wire" ? figures.machine.wires[branch] : undefined;
    const amps = sign * (planned[mode]?.branchA[branch] ?? 0);
    const ohm = element?.ohm ?? 0;
    sum += amps * ohm;
    const term = `${say(amps, "current")} × ${say(ohm, "resistance")}`;
    terms.push(term);
    inputs.push({
      label: wire ? wireName(figures, wire) : partName(figures, element?.id ?? ""),
      text: `${term} = ${say(amps * ohm, "voltage")}`,
      known: "computed",
    });
  }
  return { inputs, sum, numbers: `${terms.join(" + ") || "0"} = ${say(sum, "voltage")}` };
}

/** How far a part's ground stands above the reference of its metal, conductor by conductor. */
export function explainGroundOffset(figures: Figures, partId: string, mode: number): Working | null {
  const offset = returnsOf(figures).offsets[partId];
  if (!offset) return null;
  const ground = groundOf(figures);
  const way = ground.way(ground.nodeOf(partId), referenceNode(figures, offset.reference));
  if (!way) return null;
  const { inputs, sum, numbers } = along(figures, way, mode);
  return {
    title: `${partName(figures, partId)}: ground against ${partName(figures, offset.reference)}, ${figures.modes[mode]?.name}`,
    value: sum,
    dimension: "voltage",
    formula: "ΔV = Σ I · R along the way home",
    numbers,
    inputs,
    source: SOURCE,
    notes: offset.unsure ? ["A size or length on the way is missing, or a load has no figure yet: it is not known for sure."] : [],
  };
}

function referenceNode(figures: Build, partId: string): number {
  const { circuit } = figures.solved;
  const part = figures.partOf.get(partId);
  const terminal = part?.kind === "bar" ? "bar" : part?.kind === "converter" ? "out-" : "-";
  return circuit.nodes.get(partId)?.[terminal] ?? -1;
}

/** How far the grounds of a link's two boards stand apart. */
export function explainLinkOffset(figures: Figures, signal: Signal, mode: number): Working | null {
  const ground = groundOf(figures);
  const way = ground.way(ground.nodeOf(signal.from), ground.nodeOf(signal.to));
  if (!way) return null;
  const { inputs, sum, numbers } = along(figures, way, mode);
  const link = linksOf(figures).find(({ id }) => id === signal.id);
  const step = link?.allowed.kind === "held" ? link.allowed.step : null;
  return {
    title: `${linkName(figures, signal)}: sender's ground above the receiver's, ${figures.modes[mode]?.name}`,
    value: sum,
    dimension: "voltage",
    formula: "ΔV = Σ I · R from the sender's ground to the receiver's",
    numbers,
    inputs,
    source: SOURCE,
    notes: [
      ...(step ? [`As counts: ${say(Math.abs(sum), "voltage")} over ${say(step.volts, "voltage")} a count.`] : []),
      ...(link?.unsure ? ["A size or length on the way is missing, or a load has no figure yet: it is not known for sure."] : []),
    ],
  };
}

/** What a link bears, and how much of it a steady offset may use, on the side the offset of this mode is. */
export function explainLinkBudget(figures: Figures, signal: Signal, mode: number): Working | null {
  const link = linksOf(figures).find(({ id }) => id === signal.id);
  if (link?.allowed.kind !== "held") return null;
  const { allowed } = link;
  const above = (link.offsetV[mode] ?? 0) >= 0;
  const budget = figures.machine.settings.links ?? DEFAULT_LINK_BUDGET;
  const whole = above ? allowed.aboveV : allowed.belowV;
  const steady = above ? allowed.steadyAboveV : allowed.steadyBelowV;
  const base = {
    title: `${linkName(figures, signal)}: what a ${LINK_WORDS[signal.kind]} link bears`,
    value: steady,
    dimension: "voltage" as const,
    rounding: "down" as const,
    source: `${allowed.source}${allowed.fromMemory ? " (from memory: shown as typical)" : ""}.`,
  };
  if (allowed.step)
    return {
      ...base,
      formula: "ΔV = counts × full scale / 2^bits",
      numbers: `${allowed.step.counts} × ${say(allowed.step.volts, "voltage")} = ${say(steady, "voltage", "down")}`,
      inputs: [
        {
          label: "Counts of error accepted",
          text: String(allowed.step.counts),
          known: allowed.step.wished ? (signal.wishCounts?.provenance ?? "typical") : "setting",
        },
      ],
      notes: ["An analogue reading is taken against the receiver's ground: every millivolt between the grounds is error."],
    };
  return {
    ...base,
    formula: above ? "ΔV = share · (V_IL − V_OL), the sender's ground above" : "ΔV = share · (V_OH − V_IH), the sender's ground below",
    numbers: `${budget.staticShare} × ${say(whole, "voltage", "down")}${steady < whole * budget.staticShare - 1e-12 ? `, held to what its input bears, ${say(budget.capV, "voltage")}${signal.seriesOhm ? ` and 1 mA times ${say(signal.seriesOhm.value, "resistance")}` : ""}` : ""} = ${say(steady, "voltage", "down")}`,
    inputs: [
      { label: "Noise margin on that side", text: say(whole, "voltage", "down"), known: "table", source: allowed.source },
      { label: "Share a steady offset may use", text: String(budget.staticShare), known: "setting" },
      {
        label: "Offset and spikes together may reach",
        text: say(above ? allowed.peakAboveV : allowed.peakBelowV, "voltage", "down"),
        known: "setting",
      },
    ],
    school: "Half of the margin for a steady offset, four fifths with spikes: common practice, no source.",
    notes: [],
  };
}
