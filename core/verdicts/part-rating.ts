import type { Figures } from "../analysis/figures";
import { say } from "../quantity/format";
import type { Verdict } from "./types";

export const id = "part-rating";
export const title = "Driver or switch over its rating";

/** Current in each driver channel and switch contact against what it may carry. Without a rating nothing is claimed. */
export function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  const { solved, machine } = figures;
  solved.circuit.branches.forEach((branch, index) => {
    const part = branch.kind === "wire" ? undefined : figures.partOf.get(branch.id);
    if (part?.kind !== "driver" && part?.kind !== "switch") return;
    const continuousA = part.kind === "driver" ? part.continuousA?.value : part.ratedA?.value;
    const peakA = part.kind === "driver" ? (part.peakA?.value ?? continuousA) : continuousA;
    let worst: { share: number; amps: number; limit: number; mode: number } | null = null;
    machine.modes.forEach((mode, m) => {
      const limit = mode.lastsS === null ? continuousA : peakA;
      if (limit === undefined) return;
      const amps = Math.max(Math.abs(solved.planned[m]?.branchA[index] ?? 0), Math.abs(solved.low[m]?.branchA[index] ?? 0));
      if (amps / limit > (worst?.share ?? 0.9)) worst = { share: amps / limit, amps, limit, mode: m };
    });
    if (worst === null) return;
    const { share, amps, limit, mode } = worst as { share: number; amps: number; limit: number; mode: number };
    const known = verdicts.find((verdict) => verdict.subject.id === part.id);
    if (known && (known.value ?? 0) / (known.limit ?? 1) >= share) return;
    if (known) verdicts.splice(verdicts.indexOf(known), 1);
    const lasts = machine.modes[mode]?.lastsS;
    verdicts.push({
      id: `${id}:${part.id}`,
      rule: id,
      severity: share > 1 ? "fix" : "watch",
      step: "feeds",
      subject: { kind: "part", id: part.id },
      value: amps,
      limit,
      unit: "A",
      headline: `${part.name}: ${say(amps, "current", "up")} of ${say(limit, "current", "down")} in ${figures.modes[mode]?.name}`,
      detail:
        part.kind === "driver"
          ? `The figure is one channel's motor current${lasts == null ? " and goes on for good" : ` for ${say(lasts, "time")}`}. ${share > 1 ? "The bridge overheats or shuts down." : "Little is left for a warm day."}`
          : `The contact carries all of it${share > 1 ? " and burns or welds. Take a switch rated for this current at DC" : "; a tired contact runs hot"}.`,
      remedies: [],
    });
  });
  return verdicts;
}
