import type { Figures } from "../figures/figures";
import type { Circuit, LoadElement } from "../network/circuit";
import { nodeAt } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import { buildTopology, openKey } from "../network/topology";
import { INSTRUMENTS, type InstrumentId, instrumentStep, type ReadQuantity } from "../reference/instruments";
import { type Built, built } from "./built";
import { type Uncertain, uncertainOf } from "./doubts";
import type { SingleFault } from "./faults";
import { bareMetal } from "./ohms";
import { printedOn } from "./predict";
import { shows } from "./probe";
import { nominalsOf, settle } from "./settle";
import { NOW, type Situation } from "./situation";
import { UNPOWERED } from "./stages/inspect";
import { standOf } from "./stand";
import type { Observable } from "./types";

/** Numbers evenly between 0 and 1 from a text and a seed, always the same (FNV-1a and mulberry32, handbook uncertainty section 13). */
export function evenly(seed: number, text: string): number {
  let a = (0x811c9dc5 ^ seed) >>> 0;
  for (let i = 0; i < text.length; i++) a = Math.imul(a ^ text.charCodeAt(i), 0x01000193) >>> 0;
  a = (a + 0x6d2b79f5) >>> 0;
  let t = Math.imul(a ^ (a >>> 15), a | 1) >>> 0;
  t = (t ^ (t + Math.imul(t ^ (t >>> 7), t | 61))) >>> 0;
  return ((t ^ (t >>> 14)) >>> 0) / 4294967296 + 1 / 8589934592;
}

/** A standard normal number from a text and a seed (Box and Muller). */
function normally(seed: number, text: string): number {
  return Math.sqrt(-2 * Math.log(evenly(seed, text))) * Math.cos(2 * Math.PI * evenly(seed, `${text}'`));
}

/** What a hidden fault is: which, and how large. */
export interface Hidden {
  readonly fault: SingleFault;
  readonly size: number;
}

/**
 * A machine that somebody built from the plan: every figure off by what it may be off, parts of one lot together, and, if asked,
 * one fault. Its meters are off and noisy too. The same seed builds the same machine and meters.
 */
export class SimulatedBench {
  private readonly points = new Map<string, { built: Built; point: OperatingPoint }>();
  private reads = 0;

  /** @param noise 1: as the instruments' specifications have it; 0: perfect meters and a machine exactly as planned */
  constructor(
    readonly figures: Figures,
    readonly seed: number,
    private readonly hidden: Hidden | null,
    private readonly noise = 1,
  ) {}

  /** What a meter shows, rounded to its last place; null: over range. `share`: of the planned volts, in place of the situation's. */
  read(at: Observable, instrument: InstrumentId, share?: number): number | null {
    this.reads++;
    const { hidden } = this;
    switch (at.kind) {
      case "fuse":
        return hidden?.fault.eyes.fuse === at.subject ? hidden.size : printedOn(this.figures, at.subject);
      case "turns":
        return hidden?.fault.eyes.turns === at.part ? 0 : 1;
      case "ohms": {
        const ohm = this.ohms(at);
        return ohm < OVER_RANGE_OHM ? this.shown(instrument, "ohms", ohm) : null;
      }
      case "network": {
        const situation =
          share === undefined || share === at.situation.share
            ? at.situation
            : { ...at.situation, id: `${at.situation.id} ${share}`, share };
        const { built: machine, point } = this.solved(situation);
        return this.shown(instrument, at.probe.kind, shows(machine, point, at.probe) ?? 0);
      }
    }
  }

  /** What an instrument makes of a value: its gain is off once and for all, its last digits each time. */
  private shown(instrument: InstrumentId, quantity: ReadQuantity, value: number): number {
    const reads = INSTRUMENTS[instrument].reads[quantity];
    const step = instrumentStep(instrument, quantity, value);
    if (!reads || this.noise === 0) return step > 0 && this.noise > 0 ? Math.round(value / step) * step : value;
    const gain = reads.gain * (2 * evenly(this.seed, `${instrument} ${quantity} gain`) - 1);
    const last = (reads.digits * step + reads.plus) * (2 * evenly(this.seed, `${instrument} ${quantity} ${this.reads}`) - 1);
    const off = value * (1 + this.noise * gain) + this.noise * last;
    const kept = step > 0 ? Math.round(off / step) * step : off;
    // Metal has no negative resistance, however the leads were zeroed.
    return quantity === "ohms" ? Math.max(0, kept) : Number(kept.toPrecision(9));
  }

  private ohms({ red, black, contactsOpen, lifted }: Observable & { kind: "ohms" }): number {
    const { built: machine } = this.solved(UNPOWERED);
    const metal = bareMetal(machine.circuit, contactsOpen, lifted);
    return metal.between(nodeAt(machine.circuit, red.part, red.terminal), nodeAt(machine.circuit, black.part, black.terminal));
  }

  private solved(situation: Situation): { built: Built; point: OperatingPoint } {
    const found = this.points.get(situation.id);
    if (found) return found;
    const made = this.solve(situation);
    this.points.set(situation.id, made);
    return made;
  }

  private solve(situation: Situation): { built: Built; point: OperatingPoint } {
    const { machine } = this.figures;
    // The bench supply is set as the plan says, whatever was built.
    const planned = standOf(machine, situation.share === 1 ? situation : { ...situation, share: 1 });
    const plain = built(machine, situation, planned.limits);
    const nominals = nominalsOf(plain.circuit, plain.topology);
    const asBuilt = this.perturbed(plain.circuit, uncertainOf(plain, settle(plain.circuit, plain.topology, nominals)));
    const { hidden } = this;
    const circuit = hidden?.fault.change ? hidden.fault.change(asBuilt, hidden.size) : asBuilt;
    const topology = hidden?.fault.rewires ? buildTopology(circuit, openKey(circuit, NOW)) : plain.topology;
    return { built: { ...plain, circuit, topology }, point: settle(circuit, topology, nominals) };
  }

  /** A factor about 1 for one uncertain thing: its own part, and what its lot is off by. */
  private factor({ key, group, together, u }: Uncertain): number {
    const z = Math.sqrt(1 - together) * normally(this.seed, key) + Math.sqrt(together) * normally(this.seed, group);
    // Two standard deviations at most: beyond them it would be a fault, not a tolerance.
    return Math.exp(this.noise * u * Math.max(-2, Math.min(2, z)));
  }

  private perturbed(circuit: Circuit, uncertain: readonly Uncertain[]): Circuit {
    const branches = circuit.branches.map((branch) => ({ ...branch }));
    const emfs = circuit.emfs.map((emf) => ({ ...emf }));
    const converters = circuit.converters.map((each) => ({ ...each }));
    const drawn = new Map<string, number>();
    for (const each of uncertain) {
      const by = this.factor(each);
      const { kind, index, amount } = each.at;
      const [branch, emf, converter, load] = [branches[index], emfs[index], converters[index], circuit.loads[index]];
      if (kind === "branch" && branch) branch.ohm += amount * (by - 1);
      else if (kind === "emf volts" && emf) {
        emf.volts *= by;
        emf.lowVolts *= by;
      } else if (kind === "emf ohm" && emf) {
        emf.ohm *= by;
        emf.lowOhm *= by;
      } else if (kind === "load" && load) drawn.set(load.id, by);
      else if (kind === "quiet" && converter) converter.quiescentA *= by;
      else if (kind === "loss" && converter) {
        if (converter.efficiency !== null && converter.loss === null) converter.efficiency = 1 / (1 + (1 / converter.efficiency - 1) * by);
        if (converter.loss)
          converter.loss = {
            ...converter.loss,
            watts: converter.loss.watts * by,
            volts: converter.loss.volts * by,
            ohm: converter.loss.ohm * by,
          };
      }
    }
    const loads = circuit.loads.map((load): LoadElement => {
      const by = drawn.get(load.id) ?? 1;
      const times = (row: Float64Array) => row.map((value) => value * by);
      return { ...load, amps: times(load.amps), siemens: times(load.siemens), watts: times(load.watts) };
    });
    return { ...circuit, branches, emfs, converters, loads };
  }
}

/** An ohmmeter that shows more than this shows nothing, Ω. */
const OVER_RANGE_OHM = 6e7;
