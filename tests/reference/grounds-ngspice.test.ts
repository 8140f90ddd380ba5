import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { readMachine } from "@/core/machine/read";
import type { Machine } from "@/core/machine/schema";
import { groundOf } from "@/core/returns/ground";
import { linksOf } from "@/core/returns/links";
import { signalGrounds } from "@/core/returns/loops";
import { looseReturns } from "@/core/returns/loose";
import { returnsOf } from "@/core/returns/summary";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "../support/generate";
import { askNgspice, compareWithNgspice } from "../support/oracle";
import { seeds } from "../support/seeds";
import { talking } from "../support/talking";

/** Offsets of links and parts, and currents in signal grounds, against the simulator's node voltages of the same netlist. */
function compareGrounds(machine: Machine, mode: number): { links: number; grounds: number } | null {
  const { figures } = analyse(machine);
  if (figures.modes[mode]?.collapsed) return null;
  const oracle = askNgspice(machine, mode);
  const ground = groundOf(figures);
  let links = 0;
  linksOf(figures).forEach((link, i) => {
    const signal = machine.signals?.[i];
    if (!signal || !link.joined) return;
    links++;
    const theirs = oracle.volts(ground.nodeOf(signal.from), ground.nodeOf(signal.to));
    expect(Math.abs((link.offsetV[mode] ?? 0) - theirs), `${signal.from} ${signal.to}`).toBeLessThan(1e-4);
  });
  let grounds = 0;
  for (const { wire, amps } of signalGrounds(figures)) {
    const theirs = oracle.amps(machine.wires.indexOf(wire));
    const ours = amps[mode] ?? 0;
    if (Math.abs(ours) < 1e-6) continue;
    grounds++;
    expect(Math.abs(theirs - ours) / Math.abs(ours), wire.id).toBeLessThan(1e-4);
  }
  for (const [id, offset] of Object.entries(returnsOf(figures).offsets)) {
    const reference = machine.parts.find((part) => part.id === offset.reference);
    const node = figures.solved.circuit.nodes.get(offset.reference)?.[
      reference?.kind === "bar" ? "bar" : reference?.kind === "converter" ? "out-" : "-"
    ];
    const theirs = oracle.volts(ground.nodeOf(id), node ?? -1);
    expect(Math.abs((offset.volts[mode] ?? 0) - theirs), id).toBeLessThan(1e-4);
  }
  return { links, grounds };
}

describe("grounds as a circuit against ngspice", () => {
  it.each(EXAMPLES.map(({ key, make }) => [key, make] as const))("agrees on every offset and signal ground of %s", (_key, make) => {
    const machine = make();
    machine.modes.forEach((_, mode) => {
      compareGrounds(machine, mode);
    });
  });

  for (const batch of seeds(0, 7)) {
    it(`agrees on 25 and more meshed machines whose boards talk, batch ${batch + 1}`, () => {
      let solved = 0;
      let links = 0;
      let grounds = 0;
      for (let k = 0; k < 27; k++) {
        const seed = 9000 + batch * 100 + k;
        const machine = talking(generateMachine({ parts: 14 + ((seed * 7) % 40), seed, meshed: true, converters: k % 4 !== 3 }), seed);
        expect(readMachine(machine), `seed ${seed}`).toMatchObject({ ok: true });
        const found = compareGrounds(machine, k % 3);
        if (!found) continue;
        solved++;
        links += found.links;
        grounds += found.grounds;
      }
      expect(solved).toBeGreaterThanOrEqual(25);
      expect(links).toBeGreaterThan(60);
      expect(grounds).toBeGreaterThan(40);
    });
  }

  it("agrees on what a signal ground takes when the return beside it is gone", () => {
    let compared = 0;
    for (let k = 0; k < 12; k++) {
      const machine = talking(generateMachine({ parts: 24, seed: 700 + k, meshed: false }), 700 + k);
      const { figures } = analyse(machine);
      for (const { wire, into } of looseReturns(figures)) {
        if (!into) continue;
        const without = { ...machine, wires: machine.wires.filter(({ id }) => id !== wire) };
        const branch = without.wires.findIndex(({ id }) => id === into.wire);
        compared++;
        const theirs = (["planned", "low"] as const).map((charge) => Math.abs(askNgspice(without, into.mode, charge).amps(branch)));
        // It was found at one of the two charges.
        expect(Math.min(...theirs.map((amps) => Math.abs(amps / into.amps - 1)))).toBeLessThan(1e-4);
      }
    }
    expect(compared).toBeGreaterThan(10);
  });

  it("agrees on whole networks with bonds and resistors in the grounds", () => {
    for (let k = 0; k < 10; k++) {
      const machine = talking(generateMachine({ parts: 30, seed: 400 + k, meshed: k % 2 === 0 }), 400 + k);
      const { volts, amps } = compareWithNgspice(machine, k % 3, k % 2 === 0 ? "low" : "planned");
      expect(volts, `seed ${k}`).toBeLessThan(1e-4);
      expect(amps, `seed ${k}`).toBeLessThan(1e-4);
    }
  });
});
