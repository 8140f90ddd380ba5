import type { Circuit, Emf, LoadElement } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import { ModeSolver } from "../network/solve";
import type { Topology } from "../network/topology";

/** Share of its volts below which a load no longer holds its current or power: it fades, resets or stands. */
const HOLDS_FROM = 0.6;
/** What stands behind a converter that is off: no volts, and next to nothing that conducts. */
const OFF: Pick<Emf, "volts" | "lowVolts" | "ohm" | "lowOhm"> = { volts: 0, lowVolts: 0, ohm: 1e3, lowOhm: 1e3 };

/** A load that falls with its volts: what it draws at its nominal volts as a resistance. */
function faded(load: LoadElement, volts: number): LoadElement {
  const amps = (load.amps[0] as number) + (load.watts[0] as number) / volts;
  if (amps === 0) return load;
  return {
    ...load,
    amps: Float64Array.of(0),
    watts: Float64Array.of(0),
    siemens: Float64Array.of((load.siemens[0] as number) + amps / volts),
    inMatrix: true,
  };
}

/** Volts each load has in the sound network, or is made for where that has no operating point. */
export function nominalsOf(circuit: Circuit, topology: Topology): Float64Array {
  const sound = solveOnce(circuit, topology);
  const parts = new Map(circuit.machine.parts.map((part) => [part.id, part]));
  return Float64Array.from(circuit.loads, ({ id, pos, neg }) => {
    const volts = (sound.nodeV[pos] as number) - (sound.nodeV[neg] as number);
    const part = parts.get(id);
    return volts > 0 ? volts : part?.kind === "load" ? part.nominalV.value : USUAL_V;
  });
}

/** Volts a driver is taken to be made for where the network does not tell, V. */
const USUAL_V = 12;

function solveOnce(circuit: Circuit, topology: Topology): OperatingPoint {
  return new ModeSolver(circuit, topology).solve(0, "planned");
}

/**
 * The operating point of a network that may be broken. Loads hold their current or power while they have most of their volts
 * and fade below; converters stop below their input. What no such state solves is dead: zeros. `nominals`: volts of each load
 * in the sound network.
 */
export function settle(circuit: Circuit, topology: Topology, nominals: Float64Array): OperatingPoint {
  const first = solveOnce(circuit, topology);
  if (first.status === "solved" && lowestInput(circuit, topology, first, new Set()) === null) return first;
  const weak = circuit.loads.map((load, i) => faded(load, nominals[i] as number));
  const stopped = new Set<number>();
  let last = first;
  for (let round = 0; round <= circuit.converters.length; round++) {
    const emfs = circuit.emfs.map((emf) => (stopped.has(emf.converter) ? { ...emf, ...OFF } : emf));
    const converters = circuit.converters.map((each, c) => (stopped.has(c) ? { ...each, quiescentA: 0 } : each));
    const faint = solveOnce({ ...circuit, emfs, converters, loads: weak }, topology);
    if (faint.status === "solved") {
      const under = lowestInput(circuit, topology, faint, stopped);
      if (under !== null) {
        stopped.add(under);
        continue;
      }
      last = faint;
      // Those that still have their volts hold what they draw.
      const volts = (i: number) => {
        const { pos, neg } = circuit.loads[i] as LoadElement;
        return (faint.nodeV[pos] as number) - (faint.nodeV[neg] as number);
      };
      const loads = circuit.loads.map((load, i) => (volts(i) >= HOLDS_FROM * (nominals[i] as number) ? load : (weak[i] as LoadElement)));
      const held = solveOnce({ ...circuit, emfs, converters, loads }, topology);
      return held.status === "solved" ? held : faint;
    }
    const next = circuit.converters.findIndex((_, c) => !stopped.has(c));
    const starved = circuit.converters.findIndex(({ id }, c) => id === faint.starved && !stopped.has(c));
    if (starved < 0 && next < 0) break;
    stopped.add(starved >= 0 ? starved : next);
  }
  return last;
}

function inputV(circuit: Circuit, point: OperatingPoint, c: number): number {
  const { inPos, inNeg } = circuit.converters[c] as Circuit["converters"][number];
  return (point.nodeV[inPos] as number) - (point.nodeV[inNeg] as number);
}

/** What a converter needs at its input to run, V: what its sheet says, else half of what it gives, at least a diode's drop. */
function leastInput(circuit: Circuit, c: number): number {
  const { id, emf } = circuit.converters[c] as Circuit["converters"][number];
  const part = circuit.machine.parts.find((each) => each.id === id);
  if (part?.kind === "converter" && part.inputMinV) return part.inputMinV.value * STARTS_UNDER;
  if ((part?.kind === "driver" || part?.kind === "load") && part.onboard) return part.onboard.inputMinV.value * STARTS_UNDER;
  return (circuit.emfs[emf]?.volts ?? 1) / 2;
}

/** Converters run a little below their sheet's least input. */
const STARTS_UNDER = 0.9;

/** A converter that runs with less than it needs; null: none does. */
function lowestInput(circuit: Circuit, topology: Topology, point: OperatingPoint, but: ReadonlySet<number>): number | null {
  for (let c = 0; c < circuit.converters.length; c++) {
    if (but.has(c) || topology.converters.on[c] !== 1) continue;
    if (inputV(circuit, point, c) < leastInput(circuit, c)) return c;
  }
  return null;
}
