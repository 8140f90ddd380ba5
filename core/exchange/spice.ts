import type { Machine } from "../machine/schema";
import { givesLogic, terminalsOf } from "../machine/terminals";
import { buildCircuit } from "../network/build";
import { type Circuit, type ConverterElement, nodeAt } from "../network/circuit";
import type { Charge } from "../network/point";
import { buildTopology, openKey, type Topology } from "../network/topology";

/** A netlist and the element names in it, by index in the circuit (null: not part of the solved network). */
export interface Netlist {
  text: string;
  node: (index: number) => string | null;
  branch: (string | null)[];
  emf: (string | null)[];
  load: (string | null)[];
  converter: (string | null)[];
}

function ascii(text: string): string {
  return text.replace(/[^\x20-\x7e]/g, "?");
}

/** Full-precision number that SPICE reads back exactly. */
function num(value: number): string {
  return value.toPrecision(17).replace(/\.?0+($|e)/, "$1");
}

/**
 * One mode of the machine as a SPICE netlist: resistances, sources behind their resistance, current, resistive
 * and constant-power loads, converters as behavioural sources tied to their outputs. Starting voltages are the
 * set-points, so a simulator begins on the stable side.
 */
export function toSpice(machine: Machine, modeId: string, charge: Charge = "planned"): Netlist {
  const circuit = buildCircuit(machine);
  const mode = Math.max(
    0,
    machine.modes.findIndex(({ id }) => id === modeId),
  );
  const topology = buildTopology(circuit, openKey(circuit, machine.modes[mode]?.id ?? modeId));
  return netlist(circuit, topology, mode, charge);
}

/** Where a source with limits is started from, share of its volts. */
const LIMITED_START = 0.97;

/** What a converter draws at its input apart from its quiescent current, as an expression of volts in, volts out and amps out. */
function takenAmps(element: ConverterElement, inV: string, outV: string, outA: string): string {
  const { efficiency, loss } = element;
  if (efficiency === null) return `max(0,${outA})`;
  if (loss === null) return `max(0,${outV}*(${outA}))/${num(efficiency)}/${inV}`;
  const scale = loss.atV === null ? "1" : `(${inV}/${num(loss.atV)})`;
  const given = `max(0,${outA})`;
  const fixed = `max(0,${outV}*(${outA}))+${num(loss.watts)}*${scale}+${num(loss.volts)}*(0.5+0.5*${scale})*${given}`;
  if (!loss.atInput || loss.ohm === 0) return `(${fixed}+${num(loss.ohm)}*${given}*${given})/${inV}`;
  return `(${inV}-sqrt(${inV}*${inV}-${num(4 * loss.ohm)}*(${fixed})))/${num(2 * loss.ohm)}`;
}

/** The netlist of one mode for a circuit simulator. */
export function netlist(circuit: Circuit, topology: Topology, mode: number, charge: Charge): Netlist {
  const { machine } = circuit;
  const node = (index: number) => {
    const unknown = topology.unknownOf[index] as number;
    return unknown === -2 ? null : unknown === -1 ? "0" : `n${index}`;
  };
  const lines: string[] = [
    `* ${ascii(machine.name)}, mode ${ascii(machine.modes[mode]?.name ?? "")}, exported by Node Ledger`,
    "* SI units. Node 0 is the minus terminal of the first source of each island.",
  ];
  const terminals = machine.parts.flatMap((part) =>
    terminalsOf(part).map((terminal) => ({ part, terminal, index: nodeAt(circuit, part.id, terminal) })),
  );
  for (const { part, terminal, index } of terminals) if (node(index)) lines.push(`* ${node(index)} = ${part.id}.${terminal}`);

  const branch = circuit.branches.map((element, i) => {
    if (!topology.branches.on[i]) return null;
    const name = `r${i}`;
    lines.push(`${name} ${node(element.a)} ${node(element.b)} ${num(element.ohm)} ; ${element.kind} ${element.id}`);
    return name;
  });
  const emf = circuit.emfs.map((element, i) => {
    if (!topology.emfs.on[i]) return null;
    const volts = charge === "low" ? element.lowVolts : element.volts;
    const ohm = charge === "low" ? element.lowOhm : element.ohm;
    const { leastA, mostA } = element;
    if (leastA > Number.NEGATIVE_INFINITY || mostA < Number.POSITIVE_INFINITY) {
      const [plus, minus] = [node(element.pos), node(element.neg)];
      const free = `(${num(volts)}-V(${plus},${minus}))/${num(ohm)}`;
      const capped = mostA < Number.POSITIVE_INFINITY ? `min(${num(mostA)},${free})` : free;
      const held = leastA > Number.NEGATIVE_INFINITY ? `max(${num(leastA)},${capped})` : capped;
      lines.push(`bs${i} ${minus} ${plus} I=${held} ; ${element.id}, ${num(volts)} V behind ${num(ohm)} ohm, within its limits`);
      // A little below its volts, where it conducts: at the kink itself a simulator has no slope to follow.
      if (plus !== "0") lines.push(`.nodeset v(${plus})=${num(volts * LIMITED_START)}`);
      return `bs${i}`;
    }
    // Norton form: with a voltage source, an unloaded output leaves simulators a pivot that cancels to nothing.
    lines.push(
      `is${i} ${node(element.neg)} ${node(element.pos)} ${num(volts / ohm)} ; ${element.id}, ${num(volts)} V behind ${num(ohm)} ohm`,
    );
    lines.push(`rs${i} ${node(element.pos)} ${node(element.neg)} ${num(ohm)}`);
    const pos = node(element.pos);
    if (pos !== "0") lines.push(`.nodeset v(${pos})=${num(volts)}`);
    return `rs${i}`;
  });
  const load = circuit.loads.map((element, i) => {
    const amps = element.amps[mode] as number;
    const siemens = element.siemens[mode] as number;
    const watts = element.watts[mode] as number;
    if (!topology.loads.on[i] || (amps === 0 && siemens === 0 && watts === 0)) return null;
    const [pos, neg] = [node(element.pos), node(element.neg)];
    const name = `${element.id}${element.role === "load" ? "" : ` ${element.role}`}`;
    if (siemens === 0 && watts === 0) {
      lines.push(`i${i} ${pos} ${neg} ${num(amps)} ; ${name}`);
      return `i${i}`;
    }
    if (amps === 0 && watts === 0 && siemens > 0) {
      lines.push(`rl${i} ${pos} ${neg} ${num(1 / siemens)} ; ${name}`);
      return `rl${i}`;
    }
    const volts = `V(${pos},${neg})`;
    const terms = [
      ...(amps === 0 ? [] : [num(amps)]),
      ...(siemens === 0 ? [] : [`${num(siemens)}*${volts}`]),
      ...(watts === 0 ? [] : [`${num(watts)}/${volts}`]),
    ];
    lines.push(`b${i} ${pos} ${neg} I=${terms.join("+").replaceAll("+-", "-")} ; ${name}`);
    return `b${i}`;
  });
  const converter = circuit.converters.map((element, i) => {
    const output = circuit.emfs[element.emf];
    if (!topology.converters.on[i] || !output) return null;
    const [pos, neg] = [node(element.inPos), node(element.inNeg)];
    const out = `V(${node(output.pos)},${node(output.neg)})`;
    const amps = `(${num(output.volts)}-${out})/${num(output.ohm)}`;
    const taken = takenAmps(element, `V(${pos},${neg})`, out, amps);
    lines.push(`bc${i} ${pos} ${neg} I=${taken}+${num(element.quiescentA)} ; ${element.id}`);
    return `bc${i}`;
  });
  for (const { part, terminal, index } of terminals) {
    const supplySide = /^(\+|in\+|in|out|bar|5v|pin|\da)$/.test(terminal) && !(part.kind === "bar" && part.side === "negative");
    const unknown = topology.unknownOf[index] as number;
    const first = circuit.emfs[0];
    if (supplySide && unknown >= 0 && first) {
      const home = circuit.emfs.find((each) => topology.island[each.pos] === topology.island[index]) ?? first;
      const own = givesLogic(terminal) ? circuit.emfs.find((each) => each.id === part.id)?.volts : undefined;
      const nominal = own ?? (part.kind === "load" ? part.nominalV.value : home.volts);
      lines.push(`.nodeset v(n${index})=${num(nominal)}`);
    }
  }
  lines.push(".options reltol=1e-9 abstol=1e-13 vntol=1e-12 gmin=1e-18 pivrel=0.1 itl1=1000", ".op", ".end", "");
  return { text: lines.join("\n"), node, branch, emf, load, converter };
}
