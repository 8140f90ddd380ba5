import { levelsFrom, methodById, whatIsKnown } from "@/core/loads/know";
import type { Inputs } from "@/core/loads/methods/types";
import { applyCommand } from "@/core/machine/apply";
import type { Command, FeedChanges } from "@/core/machine/commands";
import { newMachine, newPart } from "@/core/machine/defaults";
import { datasheet, type Figure, guess, measured, typical } from "@/core/machine/figure";
import type { Cell, FuseRef, Load, Machine, PartKind, PartOf, Settings, Signal, TerminalRef, Wire } from "@/core/machine/schema";
import { signalWire } from "@/core/machine/signal-wire";
import { ledgerOf } from "@/core/machine/tree";
import { parseCell } from "@/core/machine/typed";

/** Where a demo part hangs: terminals are written "bar-p1" (a bar) or "pack.+". */
interface Hang {
  from?: string;
  back?: string;
  gauge?: string;
  m?: number;
  backM?: number;
  bundle?: number;
  parallel?: number;
  fuse?: FuseRef;
  insulation?: string;
  /** What both conductors share besides: ends, joints, surroundings. */
  shared?: FeedChanges;
}

const measuredLength = (m: number): Figure => measured(m);

/** Builds an example through the same commands the screens use, so that an example cannot hold what a builder could not enter. */
export class Plan {
  machine: Machine;

  constructor(
    name: string,
    description: string,
    modes: readonly (readonly [string, string, number | null])[],
    settings: Partial<Settings>,
  ) {
    this.machine = newMachine(name);
    this.machine.description = description;
    this.machine.modes = modes.map(([id, modeName, lastsS]) => ({ id, name: modeName, lastsS }));
    this.do({ type: "setSettings", changes: settings });
  }

  do(command: Command): void {
    const result = applyCommand(this.machine, command);
    if (!result.ok) throw new Error(`${this.machine.name}: ${result.message} (${JSON.stringify(command)})`);
    this.machine = result.machine;
  }

  private at(text: string): TerminalRef {
    const [part = "", terminal = "bar"] = text.split(".");
    return { part, terminal };
  }

  add<K extends PartKind>(
    kind: K,
    id: string,
    name: string,
    over: Partial<Omit<PartOf<K>, "id" | "name" | "kind">>,
    hang: Hang = {},
  ): void {
    const part = newPart(kind, id, name, over);
    const wire: Partial<Wire> = { gauge: hang.gauge, bundle: hang.bundle, fuse: hang.fuse };
    if (hang.m !== undefined) wire.lengthM = measuredLength(hang.m);
    if (hang.parallel !== undefined) wire.parallel = hang.parallel;
    if (hang.insulation !== undefined) wire.insulation = hang.insulation;
    for (const key of Object.keys(wire) as (keyof Wire)[]) if (wire[key] === undefined) delete wire[key];
    const feed = { ...(hang.from ? { from: this.at(hang.from) } : {}), ...(hang.back ? { back: this.at(hang.back) } : {}), wire };
    this.do({ type: "addPart", part, feed });
    const back = this.machine.wires.at(-1);
    const laid = this.machine.wires.findLast((each) => each.pair === undefined);
    if (hang.shared && laid) this.do({ type: "setFeed", id: laid.id, changes: hang.shared });
    if (hang.backM !== undefined && back) this.do({ type: "updateWire", id: back.id, changes: { lengthM: measuredLength(hang.backM) } });
  }

  /** One conductor alone: a link between bars, between two blocks, a logic side that comes home by its motor return. */
  lay(role: "supply" | "return", from: string, to: string, gauge: string, m: number, over: Partial<Wire> = {}): void {
    this.do({
      type: "addWire",
      wire: { role, from: this.at(from), to: this.at(to), gauge, parallel: 1, insulation: "pvc80", lengthM: measuredLength(m), ...over },
    });
  }

  /** Labels every feed in ledger order. */
  labelAll(): void {
    let n = 0;
    for (const { feed } of ledgerOf(this.machine).rows) if (feed) this.do({ type: "setFeed", id: feed.id, changes: { label: `W${++n}` } });
  }

  /** A link between two boards; `ground` is its own ground wire. */
  signal(signal: Signal, ground?: { gauge: string; m: number }): void {
    this.do({ type: "addSignal", signal });
    if (ground) this.do(signalWire(this.machine, signal, false, { gauge: ground.gauge, lengthM: measuredLength(ground.m) }));
  }

  /** Joins the frame to the return side. */
  bond(from: string, to: string, by: NonNullable<Wire["bondBy"]>, size: { gauge: string; m: number } | null): void {
    this.do({
      type: "addWire",
      wire: {
        role: "bond",
        from: this.at(from),
        to: this.at(to),
        bondBy: by,
        parallel: 1,
        insulation: "pvc80",
        ...(size ? { gauge: size.gauge, lengthM: measuredLength(size.m) } : {}),
      },
    });
  }
}

/** A plug at the far end of a feed, its recessed half on the live side where that was seen to. */
export const plug = (family: string, coding?: string): FeedChanges => ({
  toEnd: { family, ...(coding ? { coding, live: "recessed" as const } : {}) },
});

export const blade = (ratingA: number): FuseRef => ({ family: "blade_regular_32v", ratingA });

const known = { m: measured, d: datasheet, t: typical, g: guess } as const;

/**
 * Cells by mode from text: amps with how they are known, e.g. "9.2m" measured, "52d" datasheet, "0.5t", "1.6g", or a state
 * as it is typed ("off", "run 70 %", "stall 1") of a group of `count`.
 */
export function cells(byMode: Readonly<Record<string, string>>, count = 1): Record<string, Cell> {
  return Object.fromEntries(
    Object.entries(byMode).map(([mode, text]): [string, Cell] => {
      if (/^[\d.]+[mdtg]$/.test(text)) {
        const how = known[text.slice(-1) as keyof typeof known];
        return [mode, { state: "amps", amps: how(Number(text.slice(0, -1))) }];
      }
      const cell = parseCell(text, 12, count);
      if (!cell.ok || cell.value === null) throw new Error(`"${text}" is no state`);
      return [mode, cell.value];
    }),
  );
}

/** Levels that a helper arrives at from what is known, as the builder would have them written. */
export function knowing(methodId: string, inputs: Inputs, about: Partial<Load>): NonNullable<Load["levels"]> {
  const method = methodById(methodId);
  const load = newPart("load", "any", "any", about);
  const known = method ? whatIsKnown(method, inputs, load) : null;
  if (!method || !known) throw new Error(`${methodId} tells nothing`);
  return levelsFrom(method, inputs, known);
}
