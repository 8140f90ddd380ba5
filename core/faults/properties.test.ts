import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { bus } from "@/tests/support/bus";
import { generateMachine } from "@/tests/support/generate";
import { change } from "@/tests/support/judged";
import { randomFrom } from "@/tests/support/random";
import { seeds } from "@/tests/support/seeds";
import { must, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { contactsOf } from "../figures/contacts";
import { datasheet as f } from "../machine/figure";
import { AMPACITY_SCHOOLS, type Machine } from "../machine/schema";
import { nodeAt } from "../network/circuit";
import { buildTopology, openKey } from "../network/topology";
import { usualSizes } from "../reference/gauges";
import { sizedAtOnce } from "../sizing/all";
import { FaultNetwork } from "./network";
import { type FaultResult, faultWalk } from "./walk";

const walkOf = (machine: Machine) => faultWalk(analyse(machine).figures).results;
const at = (results: readonly FaultResult[], place: string) => results.filter((each) => each.place === place && each.bolted);
const most = (results: readonly FaultResult[], place: string) => Math.max(0, ...at(results, place).map(({ mostA }) => mostA));

describe("what must hold of any walk", () => {
  it("thicker wire never lowers a short, longer wire never raises one", () => {
    const sizes = usualSizes("awg").filter(({ areaMm2 }) => areaMm2 > 0.3 && areaMm2 < 20);
    let last = 0;
    for (const { id } of sizes) {
      const now = most(walkOf(simple({ gauge: id, metres: 2 })), "motor");
      expect(now).toBeGreaterThan(last);
      last = now;
    }
    last = Number.POSITIVE_INFINITY;
    for (const metres of [0.2, 1, 4, 12]) {
      const now = most(walkOf(simple({ gauge: "14 AWG", metres })), "motor");
      expect(now).toBeLessThan(last);
      last = now;
    }
  });

  it("the weakest is never stronger than the strongest, the fastest never slower than the slowest, on random machines", () => {
    for (const seed of seeds(40, 45)) {
      const results = walkOf(generateMachine({ parts: 40, seed, meshed: seed % 2 === 0 }));
      expect(results.length).toBeGreaterThan(30);
      for (const each of results) {
        expect(each.leastA, `${seed} ${each.place}`).toBeLessThanOrEqual(each.mostA + 1e-6);
        if (each.opens) expect(each.opens.fastestS, `${seed} ${each.place}`).toBeLessThanOrEqual(each.opens.slowestS);
        expect(each.unknown.length === 0 || each.danger !== "clears", each.place).toBe(true);
      }
    }
  });

  it("a resistive short never drives more than a bolted one at the same place in the same state", () => {
    for (const { make, key } of EXAMPLES) {
      const results = walkOf(make());
      for (const soft of results.filter(({ bolted }) => !bolted)) {
        const hard = results.find((each) => each.bolted && each.place === soft.place && each.modes.join() === soft.modes.join());
        expect(hard?.mostA ?? 0, `${key} ${soft.place}`).toBeGreaterThanOrEqual(soft.mostA - 1e-6);
      }
    }
  });

  it("a stronger pack never weakens a short, and a fuse nobody touched keeps what it breaks", () => {
    const random = randomFrom(8);
    let last = 0;
    for (let ohm = 0.2; ohm > 0.002; ohm *= 0.5 + random() * 0.3) {
      const now = most(walkOf(change(simple(), "pack", { internalOhm: f(ohm) })), "motor");
      expect(now).toBeGreaterThan(last);
      last = now;
    }
  });

  it("several sources share a short as the one voltage says at which what they give within their limits is what flows", () => {
    let held = 0;
    for (const seed of seeds(1, 180)) {
      const { solved } = analyse(bus(seed)).figures;
      const { circuit } = solved;
      const [plus, minus] = [nodeAt(circuit, "plus", "bar"), nodeAt(circuit, "minus", "bar")];
      for (const strength of ["most", "least"] as const)
        for (const ohm of [0.02, 0.4, 3, 40]) {
          const network = new FaultNetwork(circuit, buildTopology(circuit, openKey(circuit, "m1")), strength);
          const flow = network.short(plus, minus, ohm);
          const gives = network.sources.map(({ volts, ohm: inner, limitA }, i) => {
            const { id = "", leastA = 0 } = circuit.emfs[i] ?? {};
            const wires = circuit.machine.wires.reduce(
              (sum, { from, to }, k) => (from.part === id || to.part === id ? sum + (network.ohms[k] ?? 0) : sum),
              inner,
            );
            return (busV: number) => Math.min(limitA, Math.max(leastA, (volts - busV) / wires));
          });
          let [low, high] = [0, 30];
          for (let i = 0; i < 80; i++) {
            const busV = (low + high) / 2;
            if (gives.reduce((sum, give) => sum + give(busV), 0) > busV / ohm) low = busV;
            else high = busV;
          }
          held += gives.filter((give, i) => give(high) === network.sources[i]?.limitA).length;
          expect(flow?.faultA, `seed ${seed}, ${ohm} Ω, ${strength}`).toBeCloseTo(high / ohm, 5);
        }
    }
    expect(held).toBeGreaterThan(20);
  });

  it("opening every contact leaves nothing to short behind them", () => {
    const barge = EXAMPLES[1]?.make() as Machine;
    const off = must(barge, { type: "addMode", name: "All off", lastsS: null });
    const mode = off.modes.at(-1)?.id ?? "";
    let machine = off;
    for (const part of off.parts) if (part.kind === "switch") machine = change(machine, part.id, { openIn: [...part.openIn, mode] });
    const index = machine.modes.length - 1;
    const places = new Set(
      walkOf(machine)
        .filter(({ modes }) => modes.includes(index))
        .map(({ place }) => place),
    );
    expect([...places].sort()).toEqual(["main-fuse", "pack"]);
    expect(contactsOf(analyse(machine).figures).contacts.length).toBe(2);
  });
});

describe("sizing under every school", () => {
  const unsettled = new Set(["fuse-over-wire", "no-fuse", "wire-overload", "drop", "fuse-too-small", "fuse-voltage"]);

  it.each(AMPACITY_SCHOOLS)("leaves the barge without a wire, fuse or drop to stop or fix: %s", (ampacity) => {
    const barge = EXAMPLES[0]?.make() as Machine;
    const machine = must(barge, { type: "setSettings", changes: { schools: { ...barge.settings.schools, ampacity } } });
    const { machine: sized, left } = sizedAtOnce(machine, { objective: "mass" });
    expect(left.map(({ headline }) => headline)).toEqual([]);
    const open = analyse(sized).analysis.verdicts.filter(
      ({ rule, severity }) => unsettled.has(rule) && (severity === "stop" || severity === "fix"),
    );
    expect(open.map(({ headline }) => headline)).toEqual([]);
    // No wire is of a size the school has no figure for.
    const tables = analyse(sized).analysis.verdicts.filter(({ id }) => id.startsWith("missing-figure:table"));
    expect(tables.map(({ headline }) => headline)).toEqual([]);
  });

  it.each(["mass", "cost"] as const)("makes the same machine again when asked twice, by %s", (objective) => {
    const once = sizedAtOnce(EXAMPLES[0]?.make() as Machine, { objective }).machine;
    const again = sizedAtOnce(EXAMPLES[0]?.make() as Machine, { objective }).machine;
    expect(again).toEqual(once);
  });

  it("keeps a driver's feed unfused under the school that wants it so, where the wire survives", () => {
    const barge = EXAMPLES[1]?.make() as Machine;
    const machine = must(barge, { type: "setSettings", changes: { schools: { ...barge.settings.schools, driverFeeds: "main only" } } });
    const { left } = sizedAtOnce(machine, { objective: "mass" });
    expect(left.filter(({ severity }) => severity === "stop").map(({ headline }) => headline)).toEqual([]);
  });
});
