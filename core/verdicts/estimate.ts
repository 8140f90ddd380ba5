import type { Figures } from "../analysis/figures";
import { driverLimits } from "../drivers/limits";
import { drawIn, levelOf, piecesOf } from "../loads/draw";
import { methodById, whatIsKnown } from "../loads/know";
import type { Cell, Level } from "../machine/load-schema";
import type { Load } from "../machine/schema";
import { say } from "../quantity/format";
import type { Verdict } from "./types";

export const id = "estimate";
export const title = "An estimate matters and is a guess";

/** How far a bare guess may be too low: half as much again (common practice, no source). */
const GUESS = 1.5;
const METER = "Put a meter in its supply wire while it does its work.";

/** By how much a cell's current may be higher than planned, A at nominal volts, and the figure that is unsure. */
function excess(load: Load, cell: Cell): { amps: number; level: Level | null } {
  const none = { amps: 0, level: null };
  if (cell.state === "off" || ("measured" in cell && cell.measured)) return none;
  if (cell.state === "amps") return cell.amps.provenance === "guess" ? { amps: cell.amps.value * (GUESS - 1), level: null } : none;
  const level = levelOf(load, cell.state === "reverse" ? "stall" : cell.state);
  if (!level) return none;
  const high = level.high ?? (level.provenance === "guess" ? level.value * GUESS : level.value);
  if (level.provenance === "measured" || high <= level.value) return none;
  const share = cell.state === "run" ? cell.percent / 100 : cell.state === "reverse" ? 2 : 1;
  return {
    amps: (high - level.value) * share * (cell.state === "run" || cell.state === "idle" ? load.count : piecesOf(load, cell)),
    level,
  };
}

interface Limit {
  what: string;
  amps: number;
  limit: number;
}

/**
 * A figure that is not measured matters when something on its way is fine at the estimate and not at the top of its
 * range: then no verdict about that way is sure, and one measurement settles it.
 */
export function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "load" || figures.parts[part.id]?.wiring !== "ok") return [];
    let worst: { over: Limit; mode: string; level: Level | null; more: number } | null = null;
    figures.machine.modes.forEach((mode, m) => {
      const cell = part.cells[mode.id];
      if (!cell) return;
      const { amps: more, level } = excess(part, cell);
      if (more <= 0 || drawIn(part, cell).missing !== null) return;
      for (const limit of limitsOn(figures, part, m)) {
        if (limit.amps <= limit.limit && limit.amps + more > limit.limit && (!worst || limit.amps + more - limit.limit > worst.more))
          worst = { over: limit, mode: mode.name, level, more: limit.amps + more - limit.limit };
      }
    });
    if (worst === null) return [];
    const { over, mode, level } = worst as { over: Limit; mode: string; level: Level | null; more: number };
    const method = level?.basis ? methodById(level.basis.method) : undefined;
    const known = method && level?.basis ? whatIsKnown(method, level.basis.inputs, part) : null;
    const figure = level
      ? `${say(level.value, "current")}${level.high ? `, but it could be ${say(level.high, "current", "up")}` : " is a guess"}`
      : "its current is a guess";
    return [
      {
        id: `${id}:${part.id}`,
        rule: id,
        severity: "ask",
        step: "loads",
        subject: { kind: "part", id: part.id },
        headline: `${part.name}: measure it, ${over.what} hangs on it`,
        detail: `In ${mode} ${figure}; ${over.what} takes ${say(over.limit, "current", "down")}. ${known?.narrow.measure ?? METER}`,
        remedies: [],
      },
    ];
  });
}

/** Everything with a rating between the load and the converter or source that feeds its rail, with what it carries in a mode. */
function limitsOn(figures: Figures, load: Load, mode: number): Limit[] {
  const limits: Limit[] = [];
  const forGood = figures.machine.modes[mode]?.lastsS === null;
  let row = figures.ledger.rowOf.get(load.id);
  for (let steps = 0; row?.feed && steps < 50; steps++) {
    const wire = row.feed;
    const figure = figures.wires[wire.id];
    const amps = Math.abs(figure?.amps[mode] ?? 0);
    if (figure && forGood) {
      if (figure.limitA !== null) limits.push({ what: `the wire to ${row.part.name}`, amps, limit: figure.limitA });
      if (wire.fuse) limits.push({ what: `the fuse of ${row.part.name}`, amps, limit: wire.fuse.ratingA });
    }
    const parent = figures.partOf.get(wire.from.part);
    if (parent?.kind === "driver") {
      const driver = driverLimits(parent);
      const limit = forGood ? driver.continuous : driver.peak;
      if (limit) limits.push({ what: parent.name, amps, limit: limit.value });
    }
    const given = parent ? figures.parts[parent.id] : undefined;
    if (parent?.kind === "converter" || parent?.kind === "supply") {
      const limit = forGood ? parent.ratedA?.value : (parent.limitA ?? parent.ratedA)?.value;
      if (limit !== undefined) limits.push({ what: parent.name, amps: (given?.outA ?? given?.amps)?.[mode] ?? 0, limit });
      return limits;
    }
    if (parent?.kind === "pack") {
      const limit = forGood ? parent.continuousA?.value : (parent.peakA ?? parent.continuousA)?.value;
      if (limit !== undefined) limits.push({ what: parent.name, amps: given?.amps[mode] ?? 0, limit });
      return limits;
    }
    row = parent ? figures.ledger.rowOf.get(parent.id) : undefined;
  }
  return limits;
}
