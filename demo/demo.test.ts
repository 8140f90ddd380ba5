import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { analyseFully } from "@/core/analysis/fully";
import { sheetMarkdown } from "@/core/exchange/markdown";
import { checkReport, verdictTable } from "@/core/exchange/report";
import { accountOf } from "@/core/figures/account";
import { applyCommand } from "@/core/machine/apply";
import { wholeSheet } from "@/core/sheet/whole";
import { explain } from "@/core/working/explain";
import type { FigureRef } from "@/core/working/types";
import { EXAMPLES } from "./index";

const make = (key: string) => {
  const example = EXAMPLES.find((each) => each.key === key);
  if (!example) throw new Error(key);
  return example.make();
};

describe("the machines that ship", () => {
  it.each([
    [
      "reedcutter",
      [
        "input-window",
        "fuse-over-wire",
        "wiring",
        "logic-side",
        "fuse-too-small",
        "drop",
        "driver-current",
        "layer-voltage",
        "fuse-place",
        "node-rating",
        "wire-overload",
        "motor-lead",
        "missing-figure",
        "end-stop",
        "pack-care",
        "clean-rail",
        "run-time",
        "breaking-capacity",
        "moving-wire",
        "connector-fit",
        "connector-current",
        "mis-mate",
        "live-pins",
        "stop-circuit",
        "dc-contact",
        "precharge",
        "labels",
        "analogue-error",
        "chassis-bond",
        "common-reference",
        "link-offset",
        "loose-return",
        "noise-practice",
        "pin-current",
        "shared-return",
        "signal-ground",
      ],
    ],
    [
      "carillon",
      [
        "clean-rail",
        "common-reference",
        "link-offset",
        "fuse-over-wire",
        "stepper-setting",
        "source-rating",
        "input-window",
        "fuse-too-small",
        "drop",
        "missing-figure",
        "labels",
      ],
    ],
    ["marble-lift", ["pack-care", "input-window", "no-fuse", "logic-side", "bridge-drop", "source-rating", "rail-mismatch"]],
  ])("%s holds its deliberate mistakes", (key, rules) => {
    const found = new Set(analyseFully(make(key)).analysis.verdicts.map((verdict) => verdict.rule));
    expect([...found].sort()).toEqual([...rules].sort());
  });

  it.each(["reedcutter-corrected", "carillon-corrected", "marble-lift-corrected"])("%s has nothing to stop, fix or ask", (key) => {
    const { verdicts } = analyseFully(make(key)).analysis;
    expect(verdicts.filter((verdict) => verdict.severity !== "watch")).toEqual([]);
  });

  it("the barge has the size the aim names", () => {
    const machine = make("reedcutter");
    expect(machine.modes).toHaveLength(6);
    expect(machine.wires.length).toBeGreaterThan(55);
  });

  it("settles the worst verdicts by taking first remedies, one at a time, until none is left to take", () => {
    let machine = make("reedcutter");
    for (let turn = 0; turn < 60; turn++) {
      const next = analyse(machine).analysis.verdicts.find((verdict) => verdict.severity !== "watch" && verdict.remedies.length > 0);
      if (!next) break;
      machine = mustApply(machine, next.remedies[0]?.command);
    }
    const left = analyse(machine).analysis.verdicts.filter(
      (verdict) => verdict.remedies.length > 0 && (verdict.severity === "stop" || verdict.severity === "fix"),
    );
    expect(left.map((verdict) => verdict.headline)).toEqual([]);
  });
});

function mustApply(machine: ReturnType<typeof make>, command: Parameters<typeof applyCommand>[1] | undefined) {
  if (!command) throw new Error("no command");
  const result = applyCommand(machine, command);
  if (!result.ok) throw new Error(result.message);
  return result.machine;
}

describe("every figure explains itself", () => {
  it.each(EXAMPLES.map(({ key }) => key))("%s: workings repeat the figure they explain", (key) => {
    const { figures, analysis } = analyse(make(key));
    const refs: [FigureRef, number | null | undefined][] = [];
    figures.machine.modes.forEach((_, mode) => {
      refs.push([{ kind: "sourceAmps", mode }, analysis.modes[mode]?.sourceA]);
      for (const [id, wire] of Object.entries(analysis.wires)) {
        refs.push(
          [{ kind: "wireAmps", wire: id, mode }, wire.amps[mode]],
          [{ kind: "wireDrop", wire: id, mode }, wire.dropV[mode]],
          [{ kind: "wireHeat", wire: id, mode }, wire.heatW[mode]],
        );
      }
      for (const [id, part] of Object.entries(analysis.parts)) {
        refs.push(
          [{ kind: "partAmps", part: id, mode }, part.amps[mode]],
          [{ kind: "partVolts", part: id, mode }, part.volts[mode]],
          [{ kind: "partDrop", part: id, mode }, part.dropV[mode]],
          [{ kind: "partOffset", part: id, mode }, part.offsetV[mode]],
        );
      }
    });
    figures.machine.modes.forEach((_, mode) => {
      for (const [id, part] of Object.entries(analysis.parts)) {
        if (!part.outV || !part.lossW || !part.live[mode]) continue;
        refs.push([{ kind: "outputVolts", part: id, mode }, part.outV[mode]], [{ kind: "lossInside", part: id, mode }, part.lossW[mode]]);
        refs.push([{ kind: "outputAmps", part: id, mode }, (part.outA ?? part.amps)[mode]]);
        if (figures.partOf.get(id)?.kind === "converter") refs.push([{ kind: "converterInput", part: id, mode }, part.amps[mode]]);
      }
    });
    for (const [id, wire] of Object.entries(analysis.wires)) {
      refs.push(
        [{ kind: "wireOhm", wire: id }, wire.runOhm],
        ...(wire.limitA === null ? [] : ([[{ kind: "wireLimit", wire: id }, wire.limitA]] as [FigureRef, number][])),
        ...(wire.temperatureC === null ? [] : ([[{ kind: "wireTemperature", wire: id }, wire.temperatureC]] as [FigureRef, number][])),
        [{ kind: "wireWorst", wire: id }, wire.worst.amps],
      );
    }
    for (const [ref, value] of refs) {
      const working = explain(figures, ref);
      expect(working?.value, JSON.stringify(ref)).toBeCloseTo(value ?? Number.NaN, 9);
      expect(`${working?.formula}${working?.numbers}`).not.toMatch(/NaN|undefined|Infinity/);
    }
  });

  it.each(EXAMPLES.map(({ key }) => key))("%s: every account balances", (key) => {
    const { figures } = analyse(make(key));
    figures.machine.modes.forEach((_, mode) => {
      for (const part of figures.machine.parts) {
        const account = accountOf(figures, part.id, mode);
        expect(Math.abs(account?.balance ?? 1), `${part.name} in mode ${mode}`).toBeLessThan(1e-8);
      }
    });
  });
});

describe("what is printed and exported", () => {
  it.each(EXAMPLES.map(({ key }) => key))("%s: sheet and report are complete and free of holes", (key) => {
    const machine = make(key);
    const { analysis } = analyse(machine);
    const { sheet } = wholeSheet(machine);
    expect(sheet.feeds).toHaveLength(machine.parts.length);
    // A bond that a shield makes by itself is no wire to cut; a lead in the phases is.
    const leads = machine.parts.filter((part) => part.kind === "load" && part.phaseLead);
    expect(sheet.cut.flatMap(({ lines }) => lines)).toHaveLength(
      machine.wires.filter(({ bondBy }) => bondBy !== "shield").length + leads.length,
    );
    expect(sheet.links).toHaveLength(machine.signals?.length ?? 0);
    expect(sheet.verdicts.length).toBeGreaterThanOrEqual(analysis.verdicts.length);
    const fuses = machine.wires.filter((wire) => wire.fuse).length + machine.parts.filter((part) => part.kind === "fuse").length;
    const bought = sheet.buy.lines.filter((row) => row.what.startsWith("Fuse ")).reduce((sum, row) => sum + row.need, 0);
    expect(bought).toBe(fuses);
    const text =
      sheetMarkdown(machine, wholeSheet(machine).sheet) + JSON.stringify(checkReport(machine, analysis)) + verdictTable(machine, analysis);
    expect(text).not.toMatch(/NaN|undefined|Infinity|\[object/);
  });
});
