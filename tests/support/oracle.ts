import { expect } from "vitest";
import { netlist } from "@/core/exchange/spice";
import type { Machine } from "@/core/machine/schema";
import { buildCircuit } from "@/core/network/build";
import type { Charge } from "@/core/network/point";
import { ModeSolver } from "@/core/network/solve";
import { buildTopology, openKey } from "@/core/network/topology";
import { runNgspice } from "./ngspice";

/** What ngspice says of a machine in one mode: volts between two of its nodes, amps in a wire from its `from` to its `to`. */
export function askNgspice(
  machine: Machine,
  mode: number,
  charge: Charge = "planned",
): { volts: (a: number, b: number) => number; amps: (wire: number) => number } {
  const circuit = buildCircuit(machine);
  const topology = buildTopology(circuit, openKey(circuit, machine.modes[mode]?.id ?? ""));
  const list = netlist(circuit, topology, mode, charge);
  const printed = runNgspice(list);
  const at = (node: number): number => {
    const name = list.node(node);
    // A node that nothing feeds is not in the netlist: it stands at nothing.
    if (name === "0" || name === null) return 0;
    return printed.get(name) ?? printed.get(`v(${name})`) ?? Number.NaN;
  };
  return { volts: (a, b) => at(a) - at(b), amps: (wire) => printed.get(`@${list.branch[wire]}[i]`) ?? Number.NaN };
}

/** Oracle: a general-purpose circuit simulator, fed by our own SPICE export, tolerances set tightly. */
export function compareWithNgspice(machine: Machine, mode: number, charge: Charge): { volts: number; amps: number } {
  const circuit = buildCircuit(machine);
  const topology = buildTopology(circuit, openKey(circuit, machine.modes[mode]?.id ?? ""));
  const point = new ModeSolver(circuit, topology).solve(mode, charge);
  expect(point.status).toBe("solved");
  const list = netlist(circuit, topology, mode, charge);
  const oracle = runNgspice(list);
  let volts = 0;
  let amps = 0;
  for (let node = 0; node < circuit.nodeCount; node++) {
    const name = list.node(node);
    if (name === null || name === "0") continue;
    const theirs = oracle.get(name) ?? oracle.get(`v(${name})`);
    expect(theirs, `node ${name}`).toBeDefined();
    volts = Math.max(volts, Math.abs((theirs as number) - (point.nodeV[node] as number)));
  }
  const compare = (names: (string | null)[], ours: Float64Array, theirsOf: (printed: number, i: number) => number) => {
    names.forEach((name, i) => {
      if (name === null) return;
      const theirs = theirsOf(oracle.get(`@${name}[i]`) as number, i);
      const mine = ours[i] as number;
      // Below a microamp both are rounding noise of a 25 V network.
      if (Math.abs(mine) > 1e-6) amps = Math.max(amps, Math.abs(theirs - mine) / Math.abs(mine));
    });
  };
  compare(list.branch, point.branchA, (printed) => printed);
  // Sources are exported in Norton form: what leaves the terminal is the source current less what its resistance takes.
  compare(list.emf, point.emfA, (printed, i) => {
    const emf = circuit.emfs[i];
    // A source with limits is one behavioural source: it prints what it gives.
    if (list.emf[i]?.startsWith("bs")) return printed;
    return emf ? (charge === "low" ? emf.lowVolts / emf.lowOhm : emf.volts / emf.ohm) - printed : Number.NaN;
  });
  compare(list.converter, point.converterA, (printed) => printed);
  return { volts, amps };
}
