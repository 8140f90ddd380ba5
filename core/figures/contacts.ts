import { bankJ, bleedOhm, needsPrecharge, prechargeGapV, prechargeOhm, prechargeS, USUAL_S } from "../connectors/precharge";
import type { Part, Switch } from "../machine/schema";
import { isBoard, isConsumer } from "../machine/terminals";
import { aliveWith } from "../network/alive";
import { type Behind, behindContact } from "./behind-contact";
import type { Build } from "./build";
import type { Figures } from "./figures";
import { railMaxV } from "./rails";

/** One contact: what it carries and breaks, and what it charges when it closes. */
export interface ContactFigures {
  id: string;
  /** Largest current in any mode, and the highest volts there. */
  amps: number;
  volts: number;
  /** Capacitors behind it, F, their energy, J, and parts nobody told of; null where it does not fill any. */
  bank: { farads: number; joules: number; unsaid: string[]; needs: boolean; bleedOhm: number | null } | null;
  /** Its own precharge, or one that would do within a second: Ω, s to 99.3 %, peak A and W, volts left. */
  precharge: { planned: boolean; ohm: number; seconds: number; peakA: number; peakW: number; gapV: number } | null;
}

/** All contacts of a machine, and what the emergency stop does. */
export interface Contacts {
  contacts: ContactFigures[];
  /** With the emergency stop pressed: what opens, what still has power, what has none. */
  stop: { stops: string[]; alive: string[]; dead: string[]; logicDark: string[] } | null;
}

/** A bank is taken as harmless below this, V, and should be within this after a stop, s (common practice, no source). */
export const BLED_V = 5;
/** Time within which a bank should be harmless after a stop, s (common practice, no source). */
export const BLEED_S = 60;

/** Reads all contacts off a machine's figures. */
export function contactsOf(figures: Figures): Contacts {
  const switches = figures.machine.parts.filter((part): part is Switch => part.kind === "switch");
  const { stops, alive } = stopPressed(figures);
  const consumers = figures.machine.parts.filter((part: Part) => isConsumer(part) && figures.parts[part.id]?.wiring === "ok");
  return {
    contacts: switches.map((part) => contact(figures, part)),
    stop:
      stops.length === 0
        ? null
        : {
            stops: stops.map(({ id }) => id),
            alive: consumers.filter(({ id }) => alive.has(id)).map(({ id }) => id),
            dead: consumers.filter(({ id }) => !alive.has(id)).map(({ id }) => id),
            logicDark: consumers.filter((part) => isBoard(part) && !alive.has(part.id)).map(({ id }) => id),
          },
  };
}

function contact(figures: Figures, part: Switch): ContactFigures {
  const volts = railMaxV(figures, part);
  const behind = behindContact(figures.solved.circuit, part);
  const bank =
    behind && (behind.farads > 0 || behind.unsaid.length > 0)
      ? {
          farads: behind.farads,
          joules: bankJ(behind.farads, volts),
          unsaid: behind.unsaid.map(({ id }) => id),
          needs: needsPrecharge(behind.farads, volts),
          bleedOhm: behind.farads > 0 && volts > BLED_V ? bleedOhm(behind.farads, volts, BLED_V, BLEED_S) : null,
        }
      : null;
  return {
    id: part.id,
    amps: breaksA(figures, part),
    volts,
    bank,
    precharge: behind && behind.farads > 0 ? charging(part, volts, behind.farads, drawnMeanwhileA(figures, part, behind) ?? 0) : null,
  };
}

function charging(part: Switch, volts: number, farads: number, drawnA: number): ContactFigures["precharge"] {
  const planned = part.prechargeOhm !== undefined;
  if (!planned && !needsPrecharge(farads, volts)) return null;
  const ohm = part.prechargeOhm?.value ?? prechargeOhm(USUAL_S, farads);
  const seconds = prechargeS(ohm, farads);
  return {
    planned,
    ohm,
    seconds,
    peakA: volts / ohm,
    peakW: volts ** 2 / ohm,
    gapV: prechargeGapV(volts, ohm, farads, part.prechargeS?.value ?? seconds, drawnA),
  };
}

/** Largest current a contact carries in any mode, A: what it has to break. */
export function breaksA(figures: Figures, part: Switch): number {
  const branch = figures.solved.circuit.branches.findIndex(({ kind, id: own }) => kind === "switch" && own === part.id);
  let amps = 0;
  for (const points of [figures.solved.planned, figures.solved.low])
    for (const point of points) amps = Math.max(amps, Math.abs(point.branchA[branch] ?? 0));
  return amps;
}

/**
 * What is drawn behind a contact while the capacitors are being filled, A: the least it carries in a mode in which it is
 * closed, and at least what drivers draw by themselves. Null where it is closed only in modes without an operating point.
 */
export function drawnMeanwhileA(figures: Figures, part: Switch, behind: Behind): number | null {
  const own = [...behind.with, ...behind.unsaid].reduce((sum, each) => sum + (each.kind === "driver" ? (each.ownA?.value ?? 0) : 0), 0);
  const branch = figures.solved.circuit.branches.findIndex(({ kind, id: each }) => kind === "switch" && each === part.id);
  const quiet = figures.machine.modes.flatMap(({ id: mode }, m) => {
    const point = figures.solved.planned[m];
    return part.openIn.includes(mode) || point?.status !== "solved" ? [] : [Math.abs(point.branchA[branch] ?? 0)];
  });
  const closed = figures.machine.modes.some(({ id: mode }) => !part.openIn.includes(mode));
  if (closed && quiet.length === 0) return null;
  return Math.max(own, quiet.length > 0 ? Math.min(...quiet) : 0);
}

/** Parts with the emergency stop pressed: what moves, and what keeps its head. */
export function stopPressed(figures: Build): { stops: Switch[]; alive: ReadonlySet<string> } {
  const { circuit } = figures.solved;
  const stops = circuit.switches.filter((part) => part.stop !== undefined);
  const open = new Set(stops.map(({ id: own }) => circuit.switches.findIndex((each) => each.id === own)));
  return { stops, alive: aliveWith(circuit, (contact) => open.has(contact)) };
}
