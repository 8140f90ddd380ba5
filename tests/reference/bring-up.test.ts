import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { SimulatedBench } from "@/core/bringup/bench";
import { meterDoubt, normalisedError, readingU, standingOf, together } from "@/core/bringup/compare";
import { extraOhm, settlesAt, sourceOhm, trimOf } from "@/core/bringup/derive";
import { covariance, type Doubt } from "@/core/bringup/doubts";
import { besides, Metal } from "@/core/bringup/ohms";
import { bringUpOf } from "@/core/bringup/plan";
import { probeKey, shows } from "@/core/bringup/probe";
import { settle } from "@/core/bringup/settle";
import { expectedAt, standOf } from "@/core/bringup/stand";
import { instrumentHalf } from "@/core/reference/instruments";
import { factorU, uniformU } from "@/core/reference/tolerances";
import { runResistance, solidOhmPerKm } from "@/core/wires/resistance";
import { EXAMPLES } from "@/demo/index";

const within = (value: number, expected: number, share: number) => expect(Math.abs(value / expected - 1)).toBeLessThanOrEqual(share);
const independent = (...moves: number[]): Doubt[] => moves.map((each, i) => ({ key: `k${i}`, group: `g${i}`, together: 0, moves: each }));

describe("doubt as the guides have it (JCGM 100, handbook uncertainty section 15)", () => {
  it("UN01, UN03: limits and display steps are rectangles", () => {
    within(uniformU(0.14), 0.08083, 1e-4);
    within(2 * uniformU(0.14), 0.16166, 1e-4);
    within(0.01 / Math.sqrt(12), 0.0028868, 1e-4);
  });

  it("UN04: a specification and the spread of five repeats", () => {
    const u = together(uniformU(0.005 * 24 + 2 * 0.01), 0.05 / Math.sqrt(5));
    within(u, 0.08386, 1e-3);
    within(2 * u, 0.16773, 1e-3);
  });

  it("UN05: a factor of three", () => {
    const u = factorU(3);
    within(u, 0.56053, 2e-4);
    within(Math.exp(u ** 2 / 2), 1.1701, 2e-4);
    within(Math.sqrt(Math.exp(u ** 2) - 1), 0.6076, 2e-4);
  });

  it("UN07: components of a gauge block add up by their squares (JCGM 100, H.1)", () => {
    const own = independent(25, 9.7, 2.9, 16.6);
    within(Math.sqrt(covariance(own, own)), 31.7, 0.005);
  });

  it("UN11, UN33: what comes in one lot is off together, and cancels in a difference", () => {
    const lot = (signs: readonly number[], rho: number, sigma = 1): Doubt[] =>
      signs.map((sign, i) => ({ key: `k${i}`, group: "lot", together: rho, moves: sign * sigma }));
    const spread = (doubts: Doubt[]) => Math.sqrt(covariance(doubts, doubts));
    within(spread(lot([1, 1, 1, 1], 0.7)), 3.5214, 1e-4);
    within(spread(lot([1, -1], 0.7)), 0.7746, 1e-4);
    const eight = Array.from({ length: 8 }, () => 1);
    const sigma = 0.3 * Math.exp(factorU(3) ** 2 / 2) * Math.sqrt(Math.exp(factorU(3) ** 2) - 1);
    for (const [rho, expected] of [
      [0, 0.603],
      [1, 1.706],
    ] as const)
      within(spread(lot(eight, rho, sigma)), expected, 2e-3);
  });

  it("UN08: a correlated measurement of a resistance by slopes (JCGM 100, H.2)", () => {
    // R = V cos φ / I, with correlations −0.36, 0.86, −0.65.
    const [v, i, phi] = [4.999, 0.019661, 1.04446];
    const slopes = [(Math.cos(phi) / i) * 0.0032, ((-v * Math.cos(phi)) / i ** 2) * 0.0000095, ((-v * Math.sin(phi)) / i) * 0.00075];
    const r = [
      [1, -0.36, 0.86],
      [-0.36, 1, -0.65],
      [0.86, -0.65, 1],
    ];
    let variance = 0;
    for (let a = 0; a < 3; a++)
      for (let b = 0; b < 3; b++) variance += (slopes[a] as number) * (slopes[b] as number) * ((r[a] as number[])[b] as number);
    within(Math.sqrt(variance), 0.07, 0.02);
    const own = independent(...slopes);
    within(Math.sqrt(covariance(own, own)), 0.194, 0.02);
  });

  it("UN32: a battery's resistance by a load step, one meter for both volts", () => {
    const found = sourceOhm(
      { volts: 26.1, amps: 2 },
      { volts: 25.02, amps: 40 },
      meterDoubt("hand", "volts", 26.1),
      meterDoubt("clamp", "amps", 40),
    );
    within(found?.value ?? 0, 28.42e-3, 2e-3);
    within((found?.u ?? 0) / 2, 0.626e-3, 0.05);
  });
});

describe("meters and comparing (handbook grounding section 12)", () => {
  it("CV36: 0.5 % and two digits at 24 V, on the 60 V range", () => {
    expect(instrumentHalf("hand", "volts", 24)).toBeCloseTo(0.14, 3);
    expect(0.005 * 24 + 2 * 0.1).toBeCloseTo(0.32, 3);
    within(readingU("hand", "volts", 24) ?? 0, 0.16166, 1e-3);
  });

  it("CV37: 23.40 against 23.62 is looked at again", () => {
    within(normalisedError(23.4, 0.137, 23.62, 0.15), 1.08, 5e-3);
    within(0.137 + 0.15, 0.287, 5e-3);
    const band = { value: 23.62, planLow: 23.47, planHigh: 23.77, meterU: 0.137 };
    expect([23.4, 23.43, 23.3].map((read) => standingOf(band, read))).toEqual(["look", "holds", "outside"]);
  });

  it("CV38: a drop of 245.7 ± 47.7 mV from the doubts of current, wire and contacts", () => {
    const [amps, wire, contacts] = [20, 8.285e-3, 4e-3];
    const drop = amps * (wire + contacts);
    within(drop, 0.2457, 5e-3);
    const own = independent(drop * 0.1, amps * wire * 0.05, amps * contacts * 0.5);
    within(Math.sqrt(covariance(own, own)), 0.0477, 5e-3);
  });

  it("CV01, CV02: copper, hot and cold, and what a joint adds", () => {
    within(solidOhmPerKm(2.0816), 8.285, 1e-3);
    const metre = (celsius: number) => runResistance(5.211, 1, celsius, 0, 1);
    within(metre(60) / metre(20), 1.1572, 1e-3);
    within((metre(20) + 1e-3) * 12, 74.5e-3, 2e-3);
  });

  it("CV11: a link with two joints, by its drop", () => {
    const planned = runResistance(1.296, 0.3, 20, 0.2e-3, 1);
    within(planned, 0.789e-3, 5e-3);
    const found = extraOhm({ value: 60 * (planned + 1e-3), u: 1e-5 }, { value: 60, u: 0.5 }, { value: planned, u: 2e-5 });
    within(found?.value ?? 0, 1e-3, 1e-3);
    expect(extraOhm({ value: 60 * planned, u: 1e-5 }, { value: 60, u: 0.5 }, { value: planned, u: 2e-5 })).toBeNull();
  });

  it("CV03: half a metre of 14 AWG beside half a metre of 26 AWG", () => {
    const [power, signal] = [8.285e-3 / 2, 133.9e-3 / 2];
    const metal = new Metal(2, [
      { a: 0, b: 1, ohm: power },
      { a: 0, b: 1, ohm: signal },
    ]);
    within(20 * metal.between(0, 1), 78.0e-3, 5e-3);
    within(besides(metal.between(0, 1), power), signal, 1e-6);
    expect(besides(power, power)).toBe(Number.POSITIVE_INFINITY);
  });

  it("CV35: three temperatures tell where it ends", () => {
    const at = (minutes: number, celsius: number) => ({ s: 60 * minutes, celsius });
    const found = settlesAt(at(0, 22), at(15, 41), at(30, 49));
    within(found?.endC ?? 0, 54.8, 5e-3);
    within((found?.tauS ?? 0) / 60, 17.3, 5e-3);
    within((found?.endC ?? 0) + (40 - 22), 72.8, 5e-3);
    expect(settlesAt(at(0, 22), at(15, 30), at(30, 40))).toBeNull();
    // At 5, 15 and 30 minutes of the same curve.
    const curve = (minutes: number) => at(minutes, 54.8 - 32.8 * Math.exp(-minutes / 17.3));
    within(settlesAt(curve(5), curve(15), curve(30))?.endC ?? 0, 54.8, 1e-6);
  });

  it("CV40: between a rail and its return less than volts over the fuse stops; 24 V and 10 A: 2.4 Ω", () => {
    // Four cells, 5.2 V, behind 2 A: 2.6 Ω, and the meter's doubt on the safe side.
    const { figures } = analyse((EXAMPLES[5] as (typeof EXAMPLES)[number]).make());
    const step = bringUpOf(figures).stages[0]?.steps.find(({ id }) => id === "inspect:return cells");
    const limit = step?.expect.kind === "least" ? step.expect.limit : 0;
    expect(limit - (readingU("hand", "ohms", 2.6) ?? 0)).toBeCloseTo(5.2 / 2, 9);
  });

  it("a panel meter is trimmed by a straight line through its points", () => {
    const trim = trimOf([
      { shown: 10.4, reference: { value: 10, u: 0.05 } },
      { shown: 15.1, reference: { value: 14.4, u: 0.05 } },
    ]);
    within(trim?.gain ?? 0, 4.4 / 4.7, 1e-9);
    expect(trim?.restAfter).toBeLessThan(1e-9);
    expect(trim?.offBy).toBeCloseTo(0.7, 9);
    expect(trimOf([])).toBeNull();
    expect(trimOf([{ shown: 12.4, reference: { value: 12, u: 0.05 } }])).toMatchObject({ gain: 1, offset: expect.closeTo(-0.4, 9) });
  });
});

describe("slopes of the solved network", () => {
  // Each slope against the network solved again with that one thing moved.
  it.each(EXAMPLES.filter((_, i) => i % 2 === 1).map(({ key, make }) => [key, make] as const))("%s", (_, make) => {
    const { figures } = analyse(make());
    const seen = new Set<string>();
    let compared = 0;
    for (const stage of bringUpOf(figures).stages)
      for (const { at } of stage.steps) {
        if (at?.kind !== "network" || seen.has(at.situation.id) || !["tree", "logic", "free", "own"].includes(at.situation.id)) continue;
        seen.add(at.situation.id);
        const stand = standOf(figures.machine, at.situation);
        if (stand.point.status !== "solved") continue;
        const probes = stage.steps.flatMap((step) =>
          step.at?.kind === "network" && step.at.situation.id === at.situation.id ? [step.at.probe] : [],
        );
        for (const probe of probes.slice(0, 6)) {
          const doubts = expectedAt(stand, probe)?.doubts ?? [];
          const largest = [...doubts].sort((a, b) => Math.abs(b.moves) - Math.abs(a.moves)).slice(0, 4);
          for (const { key, moves } of largest) {
            const uncertain = stand.uncertain.find((each) => each.key === key);
            if (!uncertain || Math.abs(moves) < 1e-7) continue;
            const { kind, index, amount } = uncertain.at;
            const step = 1e-3;
            const { circuit } = stand.built;
            const moved = {
              ...circuit,
              branches: circuit.branches.map((each, i) =>
                kind === "branch" && i === index ? { ...each, ohm: each.ohm + amount * step } : each,
              ),
              emfs: circuit.emfs.map((each, i) =>
                i !== index
                  ? each
                  : kind === "emf volts"
                    ? { ...each, volts: each.volts * (1 + step) }
                    : kind === "emf ohm"
                      ? { ...each, ohm: each.ohm * (1 + step) }
                      : each,
              ),
              loads: circuit.loads.map((each, i) => {
                const by = kind === "load" && i === index ? 1 + step : 1;
                return {
                  ...each,
                  amps: each.amps.map((x) => x * by),
                  siemens: each.siemens.map((x) => x * by),
                  watts: each.watts.map((x) => x * by),
                };
              }),
              converters: circuit.converters.map((each, i) =>
                kind === "quiet" && i === index ? { ...each, quiescentA: each.quiescentA * (1 + step) } : each,
              ),
            };
            if (kind === "loss") continue;
            const point = settle(moved, stand.built.topology, stand.nominals);
            const numeric =
              ((shows({ ...stand.built, circuit: moved }, point, probe) ?? 0) - (shows(stand.built, stand.point, probe) ?? 0)) / step;
            expect(Math.abs(numeric * uncertain.u - moves), `${probeKey(probe)} by ${key}`).toBeLessThan(0.01 * Math.abs(moves) + 1e-7);
            compared++;
          }
        }
      }
    expect(compared).toBeGreaterThan(10);
  });
});

describe("a machine built within its tolerances", () => {
  it("reads within its bands nearly always: two standard deviations leave one in twenty", () => {
    for (const { make } of EXAMPLES.filter((_, i) => i % 2 === 1)) {
      const { figures } = analyse(make());
      let [all, outside] = [0, 0];
      for (let seed = 1; seed <= 6; seed++) {
        const bench = new SimulatedBench(figures, seed, null);
        for (const { steps } of bringUpOf(figures).stages)
          for (const { at, instrument, expect: wanted } of steps) {
            if (!at || wanted.kind !== "band") continue;
            const read = bench.read(at, instrument);
            all++;
            if (read === null || standingOf(wanted.band, read) !== "holds") outside++;
          }
      }
      expect(outside / all).toBeLessThan(0.05);
    }
  });

  it("and one built exactly as planned, read by perfect meters, always", () => {
    for (const { make } of EXAMPLES) {
      const { figures } = analyse(make());
      const bench = new SimulatedBench(figures, 1, null, 0);
      for (const { steps } of bringUpOf(figures).stages)
        for (const { at, instrument, title, expect: wanted } of steps) {
          if (!at || wanted.kind !== "band") continue;
          const read = bench.read(at, instrument) ?? Number.NaN;
          expect(Math.abs(read - wanted.band.value), title).toBeLessThan(1e-6 + 1e-6 * Math.abs(read));
        }
    }
  });
});
