import { describe, expect, it } from "vitest";
import { analyseFully } from "@/core/analysis/fully";
import { datasheet as f } from "@/core/machine/figure";
import { AMPACITY_SCHOOLS, type Machine } from "@/core/machine/schema";
import type { Severity } from "@/core/verdicts/types";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "../support/generate";
import { change, feed, schools } from "../support/judged";
import { seeds } from "../support/seeds";
import { driven, must, simple } from "../support/small";
import { sluice, winder } from "./machines";

const BADNESS: Readonly<Record<Severity, number>> = { stop: 3, fix: 2, watch: 1, ask: 0 };

/** The worst that is said of a machine, but for what is asked. */
function badness(machine: Machine): number {
  return Math.max(0, ...analyseFully(machine).analysis.verdicts.map(({ severity }) => BADNESS[severity]));
}

function expectRising(machines: readonly Machine[], least: number, most: number): void {
  const found = machines.map(badness);
  for (let i = 1; i < found.length; i++) expect(found[i], `step ${i}: ${found.join(" ")}`).toBeGreaterThanOrEqual(found[i - 1] ?? 0);
  // A sweep in which nothing changes would hold whatever the rules say.
  expect(found[0]).toBeLessThanOrEqual(least);
  expect(found.at(-1)).toBeGreaterThanOrEqual(most);
}

const SIZES = ["10", "12", "14", "16", "18", "20", "22", "24", "26", "28", "30"].map((n) => `${n} AWG`);
const BLADES = [10, 15, 20, 25, 30, 35, 40];
const steps = (from: number, by: number, count: number) => Array.from({ length: count }, (_, i) => Number((from * by ** i).toPrecision(4)));

describe("as things get worse, what is said never gets milder", () => {
  it.each(AMPACITY_SCHOOLS)("a wire thinner and thinner, %s", (ampacity) => {
    for (const amps of [4, 9])
      for (const ambientC of [20, 45]) {
        const base = (gauge: string) =>
          must(schools(simple({ amps, gauge }), { ampacity }), { type: "setSettings", changes: { ambientC } });
        expectRising(SIZES.map(base), 1, 3);
      }
  });

  it("a wire longer and longer", () => {
    expectRising(
      steps(0.3, 2, 10).map((metres) => simple({ amps: 8, gauge: "12 AWG", metres })),
      0,
      2,
    );
  });

  it("a fuse larger and larger", () => {
    for (const gauge of ["16 AWG", "18 AWG", "20 AWG"])
      expectRising(
        BLADES.map((ratingA) => simple({ amps: 4, gauge, fuse: { family: "blade_regular_32v", ratingA } })),
        3,
        2,
      );
  });

  it("hotter and hotter air, more and more wires together", () => {
    expectRising(
      [20, 30, 40, 50, 60, 70, 80, 90].map((ambientC) =>
        must(simple({ amps: 9, gauge: "14 AWG" }), { type: "setSettings", changes: { ambientC } }),
      ),
      0,
      3,
    );
    expectRising(
      [1, 2, 4, 8, 16, 32, 64].map((bundle) => simple({ amps: 12, gauge: "14 AWG", bundle })),
      0,
      2,
    );
  });

  it("more and more current", () => {
    expectRising(
      steps(2, 1.25, 14).map((amps) => simple({ amps, gauge: "14 AWG" })),
      0,
      2,
    );
  });

  it("a mode that lasts longer and longer", () => {
    const lasting = (lastsS: number | null) => {
      const machine = must(simple({ amps: 4, gauge: "18 AWG", fuse: { family: "blade_maxi_32v", ratingA: 20 } }), {
        type: "addMode",
        name: "Heave",
        lastsS,
      });
      const mode = machine.modes.at(-1)?.id ?? "";
      return must(machine, { type: "setCell", loadId: "motor", modeId: mode, cell: { state: "amps", amps: f(28) } });
    };
    expectRising([...steps(0.2, 2, 14), null].map(lasting), 2, 3);
  });

  it("a driver asked for more and more, for longer and longer", () => {
    const weak = (machine: Machine) => change(machine, "pack", { internalOhm: f(0.05) });
    expectRising(
      steps(10, 1.3, 8).map((run) =>
        weak(driven({ continuousA: f(20), peakA: f(40), limitA: undefined }, { levels: { idle: f(0.5), run: f(run), stall: f(run) } })),
      ),
      1,
      2,
    );
    const timed = (lastsS: number) => {
      const machine = must(weak(driven({ continuousA: f(10), peakA: f(40), peakS: f(2), limitA: f(40) })), {
        type: "addMode",
        name: "Pull",
        lastsS,
      });
      return must(machine, {
        type: "setCell",
        loadId: "motor",
        modeId: machine.modes.at(-1)?.id ?? "",
        cell: { state: "amps", amps: f(20) },
      });
    };
    expectRising(steps(0.5, 2, 12).map(timed), 1, 2);
  });

  it("volts further and further above what a load is meant for", () => {
    for (const loadKind of ["light", "servo", "board", "motor", "coil", "sensor"] as const)
      expectRising(
        [14, 12.5, 11.5, 10, 8, 6, 4].map((volts) =>
          change(simple({ amps: 1 }), "motor", {
            loadKind,
            nominalV: f(volts),
            ...(loadKind === "board" ? { inputMinV: f(3), inputMaxV: undefined } : {}),
          }),
        ),
        0,
        3,
      );
  });

  it("a weaker and weaker source, a smaller and smaller contact", () => {
    expectRising(
      steps(0.02, 2, 7).map((internalOhm) => change(change(simple({ amps: 8, internalOhm }), "motor", { inputMinV: f(9) }), "pack", {})),
      2,
      2,
    );
    const winch = winder();
    expectRising(
      [80, 60, 40, 25, 15, 8].map((ratedA) => change(winch, "main-switch", { ratedA: f(ratedA) })),
      1,
      3,
    );
    expectRising(
      [100, 60, 30, 20, 12, 6].map((ratedA) => change(sluice(), "plus", { ratedA: f(ratedA) })),
      1,
      3,
    );
  });

  it("a connector of a smaller and smaller family", () => {
    expectRising(
      ["key30", "crimp420", "crimp396", "crimp254"].map((family) =>
        feed(simple({ amps: 9, gauge: "18 AWG", fuse: { family: "blade_regular_32v", ratingA: 15 } }), {
          toEnd: { family, live: "recessed" },
        }),
      ),
      2,
      3,
    );
  });
});

describe("what any machine must hold", () => {
  it("the highest volts of a part are never below its lowest, nor below what any mode shows", () => {
    const machines = [
      ...EXAMPLES.map(({ make }) => make()),
      sluice(),
      winder(),
      ...seeds(700, 720).map((seed) => generateMachine({ parts: 40, seed, driven: seed % 2 === 0, meshed: seed % 3 === 0 })),
    ];
    for (const machine of machines) {
      const { figures } = analyseFully(machine);
      for (const part of machine.parts) {
        const figure = figures.parts[part.id];
        if (!figure || figure.reachesV === null) continue;
        const across =
          part.kind === "load" || part.kind === "driver" || part.kind === "converter" || part.kind === "pack" || part.kind === "supply";
        if (!across) continue;
        expect(figure.reachesV, `${machine.name}: ${part.name}`).toBeGreaterThanOrEqual(figure.lowestV?.volts ?? 0);
        for (const [m, volts] of figure.volts.entries())
          if (figure.live[m]) expect(figure.reachesV + 1e-9, `${machine.name}: ${part.name}`).toBeGreaterThanOrEqual(volts);
        if (figure.highestV !== null) expect(figure.highestV).toBe(figure.reachesV);
      }
    }
  });

  it("no machine in order is called crossed, and a part the wrong way round always is", () => {
    for (const seed of seeds(730, 745)) {
      const machine = generateMachine({ parts: 30, seed, driven: true });
      const said = analyseFully(machine).analysis.verdicts.filter(({ rule }) => rule === "polarity" || rule === "lead-landing");
      expect(said.map(({ headline }) => headline)).toEqual([]);
    }
  });
});
