import type { TerminalRef } from "../machine/schema";
import { nodeAt } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import type { Built } from "./built";
import { type Doubt, doubtsOf, type Uncertain } from "./doubts";
import type { Linear, Sensitivity, Weights } from "./sensitivity";

/** Where a meter is put at a machine that has power. Amps count from a wire's start to its end, and out of a source's plus. */
export type Probe =
  | { readonly kind: "volts"; readonly red: TerminalRef; readonly black: TerminalRef }
  | { readonly kind: "amps"; readonly wire: string }
  | { readonly kind: "amps"; readonly source: string };

/** A probe as one text: the same place has the same. */
export function probeKey(probe: Probe): string {
  if (probe.kind === "volts") return `V ${probe.red.part}.${probe.red.terminal} ${probe.black.part}.${probe.black.terminal}`;
  return "wire" in probe ? `A ${probe.wire}` : `A ${probe.source} +`;
}

/** The indices in a network that a probe reads; null where the machine has no such place. */
type Place = { volts: readonly [number, number] } | { branch: number } | { emf: number };

function placeOf({ circuit, machine }: Built, probe: Probe): Place | null {
  if (probe.kind === "volts") {
    const [a, b] = [nodeAt(circuit, probe.red.part, probe.red.terminal), nodeAt(circuit, probe.black.part, probe.black.terminal)];
    return a < 0 || b < 0 ? null : { volts: [a, b] };
  }
  if ("wire" in probe) {
    const branch = machine.wires.findIndex(({ id }) => id === probe.wire);
    return branch < 0 ? null : { branch };
  }
  const emf = circuit.emfs.findIndex(({ id }) => id === probe.source);
  return emf < 0 ? null : { emf };
}

/** What a perfect meter shows, V or A; null where there is no such place. */
export function shows(built: Built, point: OperatingPoint, probe: Probe): number | null {
  const place = placeOf(built, probe);
  if (!place) return null;
  if ("branch" in place) return point.branchA[place.branch] as number;
  if ("emf" in place) return point.emfA[place.emf] as number;
  const [red, black] = place.volts;
  // Between pieces that no source joins a meter shows nothing.
  const { unknownOf, island } = built.topology;
  if (unknownOf[red] === -2 || unknownOf[black] === -2 || island[red] !== island[black]) return 0;
  return (point.nodeV[red] as number) - (point.nodeV[black] as number);
}

/** What moves a reading, element by element, the direct share of a resistance through which a current is read included. */
function sensitivityOf(built: Built, point: OperatingPoint, linear: Linear, place: Place): Sensitivity | null {
  const { circuit, topology } = built;
  if ("volts" in place) {
    const [red, black] = place.volts;
    const weights: Weights = [
      [red, 1],
      [black, -1],
    ];
    return linear.of(weights);
  }
  if ("branch" in place) {
    const branch = circuit.branches[place.branch];
    if (!branch || topology.branches.on[place.branch] !== 1) return null;
    const moved = linear.of([
      [branch.a, 1 / branch.ohm],
      [branch.b, -1 / branch.ohm],
    ]);
    const amps = point.branchA[place.branch] as number;
    return moved && { ...moved, branch: (i) => moved.branch(i) - (i === place.branch ? amps : 0) };
  }
  const emf = circuit.emfs[place.emf];
  // At its limit it shows the limit, whatever else is off.
  if (!emf || topology.emfs.on[place.emf] !== 1 || Math.abs((point.emfA[place.emf] as number) - emf.mostA) < 1e-7) return null;
  const moved = linear.of([
    [emf.pos, -1 / emf.ohm],
    [emf.neg, 1 / emf.ohm],
  ]);
  const amps = point.emfA[place.emf] as number;
  return (
    moved && {
      ...moved,
      emfVolts: (i) => moved.emfVolts(i) + (i === place.emf ? 1 / emf.ohm : 0),
      emfOhm: (i) => moved.emfOhm(i) - (i === place.emf ? amps : 0),
    }
  );
}

/** Everything that makes a reading doubtful before a meter is there; empty where the place has no voltage. */
export function doubtsAt(built: Built, point: OperatingPoint, linear: Linear, uncertain: readonly Uncertain[], probe: Probe): Doubt[] {
  const place = placeOf(built, probe);
  const moved = place && sensitivityOf(built, point, linear, place);
  return moved ? doubtsOf(built, uncertain, moved) : [];
}

/** How a reading moves with each load whose draw nobody knows, in its unit per amp; loads that do not move it are left out. */
export function unknownAt(built: Built, point: OperatingPoint, linear: Linear, probe: Probe): { id: string; perAmp: number }[] {
  const unknown = built.circuit.loads.flatMap((load, i) => (load.unknown[0] === 1 ? [{ id: load.id, i }] : []));
  if (unknown.length === 0) return [];
  const place = placeOf(built, probe);
  const moved = place && sensitivityOf(built, point, linear, place);
  if (!moved) return [];
  return unknown.map(({ id, i }) => ({ id, perAmp: moved.load(i) })).filter(({ perAmp }) => Math.abs(perAmp) > 1e-9);
}
