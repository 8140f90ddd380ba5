import { inputPower } from "../converters/switched";
import type { Figure } from "../machine/figure";
import { lengthOf } from "../machine/length";
import type { LevelName } from "../machine/load-schema";
import { oncePer } from "../machine/once";
import type { Load, Machine, Part, Wire } from "../machine/schema";
import { builtInOhm, type Circuit, endOhm, fuseOhm, ohmPerM20 } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import { standardU, type ToleranceFigure, togetherness, uniformU } from "../reference/tolerances";
import { runResistance } from "../wires/resistance";
import type { Built } from "./built";
import { COVERAGE, together } from "./compare";
import type { Sure } from "./derive";
import type { Sensitivity } from "./sensitivity";
import { BENCH_C, isLogic, NOW } from "./situation";

/** One thing that may be off, as it moves a reading: one standard deviation of it, in the reading's unit. */
export interface Doubt {
  /** What is off: the same thing in two readings has the same key. */
  readonly key: string;
  /** What it is off together with, and how much (correlation of two of the group). */
  readonly group: string;
  readonly together: number;
  readonly moves: number;
}

/** What a wire's resistance is made of on the bench, Ω. */
export interface WirePieces {
  run: number;
  contacts: number;
  fuse: number;
  resistor: number;
}

/** A wire's resistance by pieces, cold and with fresh contacts. */
export function wirePieces(machine: Machine, wire: Wire, conductorC = BENCH_C): WirePieces {
  const joints = wire.board ? 0 : runResistance(0, 0, conductorC, machine.settings.jointOhm, wire.parallel);
  return {
    run: runResistance(ohmPerM20(wire) * 1000, lengthOf(wire), conductorC, 0, wire.parallel),
    contacts: joints + endOhm(wire.fromEnd, true) + endOhm(wire.toEnd, true),
    fuse: wire.fuse ? fuseOhm(wire.fuse) : 0,
    resistor: builtInOhm(wire),
  };
}

/** A wire's resistance as planned, what was found beyond the plan left out: cold, with fresh contacts, and its doubt (k = 2). */
export function plannedOhm(machine: Machine, wire: Wire): Sure {
  const { run, contacts, fuse, resistor } = wirePieces(machine, { ...wire, extraOhm: undefined });
  const u = together(
    run * standardU("wire length", wire.lengthM ?? GUESSED),
    run * standardU("wire resistance", undefined),
    contacts * standardU("contact", undefined),
    fuse * standardU("fuse resistance", undefined),
    resistor * standardU("resistor", wire.resistorOhm),
  );
  return { value: run + contacts + fuse + resistor, u: COVERAGE * u };
}

const partsOf = oncePer((machine: Machine) => new Map<string, Part>(machine.parts.map((part) => [part.id, part])));

/** What a load's current in its present state is a figure of, and how that is known. */
function drawFigure(load: Load): { figure: ToleranceFigure; known: Pick<Figure, "provenance" | "tolerance"> | undefined; level: string } {
  const cell = load.cells[NOW];
  const logic = isLogic(load);
  const of = (name: LevelName, figure: ToleranceFigure) =>
    ({ figure: logic ? "board current" : figure, known: load.levels?.[name], level: name }) as const;
  if (cell === undefined || cell.state === "off") return of("idle", "no-load current");
  if ("measured" in cell && cell.measured) return { figure: "running current", known: cell.measured, level: "measured" };
  switch (cell.state) {
    case "amps":
      return { figure: logic ? "board current" : "running current", known: cell.amps, level: "amps" };
    case "idle":
      return of("idle", "no-load current");
    case "run":
      return of("run", "running current");
    case "start":
      return load.levels?.start ? of("start", "stall current") : of("stall", "stall current");
    default:
      return of("stall", "stall current");
  }
}

/** Motors of one make and order are off together. */
function batchOf(load: Load): string {
  return `${load.loadKind} ${load.nominalV.value} ${load.levels?.run?.value ?? load.levels?.stall?.value ?? load.name}`;
}

/** Setting a bench supply's volts: ± 0.5 % and a digit. */
const BENCH_SET_U = uniformU(0.005);

/** Where in the network an uncertain thing is, and how much of it there is: Ω of a branch, V behind a source, A drawn, W lost. */
export interface Where {
  readonly kind: "branch" | "emf volts" | "emf ohm" | "load" | "quiet" | "loss";
  readonly index: number;
  readonly amount: number;
}

/** One thing that is not as sure as its number looks: where it is, and its relative standard uncertainty. */
export interface Uncertain {
  readonly key: string;
  readonly group: string;
  readonly together: number;
  readonly u: number;
  readonly at: Where;
}

/** Everything that may be off in a machine on the bench at an operating point. The simulated bench builds its machine from the same list. */
export function uncertainOf(built: Built, point: OperatingPoint): readonly Uncertain[] {
  const { circuit, machine, situation } = built;
  const parts = partsOf(machine);
  const found: Uncertain[] = [];
  const add = (key: string, figure: ToleranceFigure, group: string, u: number, at: Where) => {
    if (u > 0 && at.amount !== 0) found.push({ key, group: `${figure} ${group}`, together: togetherness(figure), u, at });
  };
  circuit.branches.forEach((branch, index) => {
    if (branch.kind === "bridge" && parts.get(branch.id)?.kind !== "driver") return;
    const piece = (amount: number): Where => ({ kind: "branch", index, amount });
    const wire = branch.kind === "wire" ? machine.wires[index] : undefined;
    if (wire) {
      const { run, contacts, fuse, resistor } = wirePieces(machine, wire);
      add(`${wire.id} length`, "wire length", "", standardU("wire length", wire.lengthM ?? GUESSED), piece(run));
      add(`${wire.id} size`, "wire resistance", wire.gauge ?? "", standardU("wire resistance", undefined), piece(run));
      add(`${wire.id} contacts`, "contact", "", standardU("contact", undefined), piece(contacts));
      add(`${wire.id} fuse`, "fuse resistance", "", standardU("fuse resistance", undefined), piece(fuse));
      add(`${wire.id} resistor`, "resistor", wire.id, standardU("resistor", wire.resistorOhm ?? wire.extraOhm), piece(resistor));
      return;
    }
    const part = parts.get(branch.id);
    const whole = piece(branch.ohm);
    if (branch.kind === "fuse") add(`${branch.id} fuse`, "fuse resistance", "", standardU("fuse resistance", undefined), whole);
    else if (branch.kind === "switch" && part?.kind === "switch")
      add(`${branch.id} contact`, "switch contact", branch.id, standardU("switch contact", part.contactOhm), whole);
    else if (branch.kind === "bridge" && part?.kind === "driver")
      add(`${branch.id} path`, "driver path", branch.id, standardU("driver path", part.bridgeOhm), whole);
  });
  circuit.emfs.forEach((emf, index) => {
    const part = parts.get(emf.id);
    const volts: Where = { kind: "emf volts", index, amount: emf.volts };
    if (emf.converter < 0 && situation.fedBy === "bench") {
      add(`${emf.id} bench`, "regulator output", emf.id, BENCH_SET_U, volts);
      return;
    }
    const kind: ToleranceFigure = part?.kind === "pack" ? "rest voltage" : "regulator output";
    add(`${emf.id} volts`, kind, emf.id, standardU(kind, givenVolts(part)), volts);
    const ohm =
      part?.kind === "pack" ? part.internalOhm : part?.kind === "supply" || part?.kind === "converter" ? part.outputOhm : undefined;
    const ohmKind: ToleranceFigure = part?.kind === "pack" ? "battery resistance" : "output resistance";
    add(`${emf.id} ohm`, ohmKind, emf.id, standardU(ohmKind, ohm), { kind: "emf ohm", index, amount: 1 });
  });
  circuit.loads.forEach((load, index) => {
    const drawn: Where = { kind: "load", index, amount: point.loadA[index] as number };
    const part = parts.get(load.id);
    if (load.role === "loop") return;
    if (part?.kind === "load") {
      const { figure, known, level } = drawFigure(part);
      add(`${load.id} ${level}`, figure, batchOf(part), standardU(figure, known), drawn);
    } else {
      const known = part?.kind === "driver" ? (load.role === "logic" ? part.logicA : part.ownA) : undefined;
      add(`${load.id} ${load.role}`, "board current", load.id, standardU("board current", known), drawn);
    }
  });
  circuit.converters.forEach((converter, index) => {
    const part = parts.get(converter.id);
    if (part?.kind === "converter")
      add(`${converter.id} quiet`, "board current", converter.id, standardU("board current", part.quiescentA), {
        kind: "quiet",
        index,
        amount: converter.quiescentA,
      });
    if (converter.efficiency === null && converter.loss === null) return;
    const known = part?.kind === "converter" ? part.efficiency : undefined;
    add(`${converter.id} loss`, "converter loss", converter.id, standardU("converter loss", known), {
      kind: "loss",
      index,
      amount: lossOf(built, point, index),
    });
  });
  return found;
}

function givenVolts(part: Part | undefined): Figure | undefined {
  if (part?.kind === "pack") return part.openCircuitV;
  if (part?.kind === "supply" || part?.kind === "converter") return part.outputV;
  return part?.kind === "driver" || part?.kind === "load" ? part.onboard?.outputV : undefined;
}

/** How a reading moves with all of something, in its unit. */
function movesBy(circuit: Circuit, moved: Sensitivity, { kind, index, amount }: Where): number {
  switch (kind) {
    case "branch":
      return (moved.branch(index) * amount) / (circuit.branches[index]?.ohm ?? 1);
    case "emf volts":
      return moved.emfVolts(index) * amount;
    case "emf ohm":
      return moved.emfOhm(index) * amount;
    case "load":
      return moved.load(index) * amount;
    case "quiet":
      return moved.converterAmp(index) * amount;
    case "loss":
      return moved.converterWatt(index) * amount;
  }
}

/** Everything that may be off, as it moves one reading. Leaves out what moves it by next to nothing. */
export function doubtsOf({ circuit }: Built, uncertain: readonly Uncertain[], moved: Sensitivity): Doubt[] {
  return uncertain.flatMap(({ key, group, together, u, at }) => {
    const moves = u * movesBy(circuit, moved, at);
    return Math.abs(moves) < 1e-12 ? [] : [{ key, group, together, moves }];
  });
}

/** A length nobody gave. */
const GUESSED = { provenance: "guess" } as const;

/** W a converter loses at an operating point. */
function lossOf({ circuit }: Built, point: OperatingPoint, c: number): number {
  const converter = circuit.converters[c];
  const emf = circuit.emfs[converter?.emf ?? -1];
  if (!converter || !emf) return 0;
  const across = (a: number, b: number) => (point.nodeV[a] as number) - (point.nodeV[b] as number);
  const amps = Math.max(0, point.emfA[converter.emf] as number);
  const outW = Math.max(0, across(emf.pos, emf.neg) * amps);
  const inW = converter.loss
    ? inputPower(converter.loss, outW, amps, across(converter.inPos, converter.inNeg))
    : outW / (converter.efficiency ?? 1);
  return inW - outW;
}

/** Covariance of two readings through what both hang on; with itself, its variance (JCGM 100, 5.2.2). */
export function covariance(a: readonly Doubt[], b: readonly Doubt[]): number {
  const own = new Map(b.map((doubt) => [doubt.key, doubt]));
  const byGroup = new Map<string, number>();
  for (const { group, together, moves } of b) byGroup.set(group, (byGroup.get(group) ?? 0) + Math.sqrt(together) * moves);
  let sum = 0;
  for (const { key, group, together, moves } of a) {
    const same = own.get(key);
    if (same) sum += (1 - together) * moves * same.moves;
    sum += Math.sqrt(together) * moves * (byGroup.get(group) ?? 0);
  }
  return sum;
}
