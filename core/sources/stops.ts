import { carryTime } from "../converters/capacitor";
import { leastInput } from "../converters/window";
import { goesOn } from "../machine/lasting";
import type { Machine, Part } from "../machine/schema";
import { inputTerminals, isConsumer, regulates } from "../machine/terminals";
import { type Circuit, nodeAt } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import type { PackModel } from "../packs/pack";

/** Something that stops working below a voltage across two nodes. */
export interface Stop {
  readonly kind: "cut-off" | "converter" | "part" | "regulator";
  readonly part: Part;
  readonly pos: number;
  readonly neg: number;
  readonly leastV: number;
  /** A dip of up to this many seconds is carried: a cut-off's delay, a hold-up capacitor. */
  readonly ridesS: number;
}

/** Diode between a rail and a hold-up capacitor, V (Schottky, typical). */
const HOLD_UP_DIODE_V = 0.4;

/** Everything in a machine that sets a least voltage: packs that cut off, converters, drivers, boards and their regulators. */
export function stopsOf(machine: Machine, circuit: Circuit, packs: readonly PackModel[], emfOf: readonly number[], low: LowPoints): Stop[] {
  const stops: Stop[] = [];
  packs.forEach((model, p) => {
    const emf = circuit.emfs[emfOf[p] as number];
    const cut = model.pack.cutoffV?.value ?? model.chemistry.cutAbsV * model.series;
    if (emf)
      stops.push({ kind: "cut-off", part: model.pack, pos: emf.pos, neg: emf.neg, leastV: cut, ridesS: model.pack.cutoffS?.value ?? 0 });
  });
  for (const part of machine.parts) {
    if (!isConsumer(part)) continue;
    const { supply, back } = inputTerminals(part);
    const pos = nodeAt(circuit, part.id, supply ?? "");
    const neg = nodeAt(circuit, part.id, back ?? "");
    const least = part.kind === "converter" ? leastInput(part) : (part.inputMinV?.value ?? null);
    if (least !== null) {
      const ridesS = part.kind === "driver" ? 0 : ridesOf(machine, circuit, part, least, low);
      stops.push({ kind: part.kind === "converter" ? "converter" : "part", part, pos, neg, leastV: least, ridesS });
    }
    if (regulates(part)) stops.push({ kind: "regulator", part, pos, neg, leastV: part.onboard.inputMinV.value, ridesS: 0 });
  }
  return stops;
}

/** A point of the network by mode, with the packs at the lowest charge the plan runs them to. */
export type LowPoints = (mode: number) => OperatingPoint | undefined;

/** Least volts a part has in the modes that last: what its capacitor is charged from. Null where it has none or none is solved. */
function lastingV(machine: Machine, circuit: Circuit, part: Part, low: LowPoints): number | null {
  const { supply, back } = inputTerminals(part);
  const pos = nodeAt(circuit, part.id, supply ?? "");
  const neg = nodeAt(circuit, part.id, back ?? "");
  let least: number | null = null;
  for (const [m, mode] of machine.modes.entries()) {
    if (!goesOn(mode)) continue;
    const point = low(m);
    if (point?.status !== "solved") return null;
    const volts = (point.nodeV[pos] as number) - (point.nodeV[neg] as number);
    // Cut off by a switch it needs no carrying.
    if (volts > 0 && volts < (least ?? Number.POSITIVE_INFINITY)) least = volts;
  }
  return least;
}

/** Most power a part takes at its input in any mode, W; for a converter what its rated output asks for. Null: not known. */
function mostPower(machine: Machine, circuit: Circuit, part: Part, volts: number): number | null {
  if (part.kind === "converter") return part.ratedA ? (part.outputV.value * part.ratedA.value) / part.efficiency.value : null;
  const load = circuit.loads.find(({ id, role }) => id === part.id && role === "load");
  if (!load || load.unknown.includes(1)) return null;
  return machine.modes.reduce(
    (most, _, m) => Math.max(most, (load.amps[m] as number) * volts + (load.siemens[m] as number) * volts ** 2 + (load.watts[m] as number)),
    0,
  );
}

/** What a capacitor at a part would have to carry: from which volts, and how much power; null where that is not known. */
export function holdUpNeed(machine: Machine, circuit: Circuit, part: Part, low: LowPoints): { fromV: number; watts: number } | null {
  const lasting = lastingV(machine, circuit, part, low);
  const watts = lasting === null ? null : mostPower(machine, circuit, part, lasting);
  return lasting === null || watts === null ? null : { fromV: lasting - HOLD_UP_DIODE_V, watts };
}

/** How long a part's own capacitor carries it from the least volts it has continuously down to its least, s; 0 without one. */
export function ridesOf(machine: Machine, circuit: Circuit, part: Part, leastV: number, low: LowPoints): number {
  if ((part.kind !== "load" && part.kind !== "converter") || !part.holdUpF) return 0;
  const need = holdUpNeed(machine, circuit, part, low);
  if (!need || need.fromV <= leastV) return 0;
  return carryTime(part.holdUpF.value, part.holdUpOhm?.value ?? 0, need.watts, need.fromV, leastV);
}
