import { actingLimit } from "../../drivers/channel";
import { driverLimits } from "../../drivers/limits";
import { type Build, perBuildFrom } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { drawIn, levelOf, piecesOf } from "../../loads/draw";
import { methodById, whatIsKnown } from "../../loads/know";
import { goesOn } from "../../machine/lasting";
import type { Cell, Level } from "../../machine/load-schema";
import type { Load } from "../../machine/schema";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "estimate", title: "An estimate matters and is a guess", step: "loads" });

/**
 * A figure that is not measured matters when something on its way is fine at the estimate and not at the top of its
 * range: then no verdict about that way is sure, and one measurement settles it.
 */
export const estimate = rule({ speak, reads: "figures", evaluate });

/** How far a bare guess may be too low: half as much again (common practice, no source). */
const GUESS = 1.5;
const METER = "Put a meter in its supply wire while it does its work.";

/**
 * By how much a cell's current may be higher than planned, A at nominal volts, and the figure that is unsure; never more than a
 * limit that is set in its driver lets through (`limitA`).
 */
function excess(load: Load, cell: Cell, limitA: number): { amps: number; level: Level | null } {
  const none = { amps: 0, level: null };
  if (cell.state === "off" || ("measured" in cell && cell.measured)) return none;
  if (cell.state === "amps") return cell.amps.provenance === "guess" ? { amps: cell.amps.value * (GUESS - 1), level: null } : none;
  const level = levelOf(load, cell.state === "reverse" ? "stall" : cell.state);
  if (!level) return none;
  const high = Math.min(limitA, level.high ?? (level.provenance === "guess" ? level.value * GUESS : level.value));
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

interface Excess {
  mode: number;
  more: number;
  level: Level | null;
}

/** Modes in which a load may draw more than is planned. */
const excesses = perBuildFrom((build, _, load: Load): readonly Excess[] => {
  const driver = build.solved.circuit.feeds.get(load.id)?.driver;
  const limitA = (driver && actingLimit(driver)) ?? Number.POSITIVE_INFINITY;
  return build.machine.modes.flatMap(({ id: modeId }, mode) => {
    const cell = load.cells[modeId];
    if (!cell) return [];
    const { amps: more, level } = excess(load, cell, limitA);
    return more <= 0 || drawIn(load, cell).missing !== null ? [] : [{ mode, more, level }];
  });
});

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "load" || figures.parts[part.id]?.wiring !== "ok") return [];
    let worst: { over: Limit; excess: Excess; beyond: number } | null = null;
    for (const each of excesses(figures, part.id, part)) {
      for (const limit of limitsOn(figures, part, each.mode)) {
        const beyond = limit.amps + each.more - limit.limit;
        if (limit.amps <= limit.limit && beyond > (worst?.beyond ?? 0)) worst = { over: limit, excess: each, beyond };
      }
    }
    return worst === null ? [] : [hangs(figures, part, worst.over, worst.excess)];
  });
}

function hangs(figures: Build, part: Load, over: Limit, { mode, level }: Excess): Verdict {
  const method = level?.basis ? methodById(level.basis.method) : undefined;
  const known = method && level?.basis ? whatIsKnown(method, level.basis.inputs, part) : null;
  const figure = level
    ? `${say(level.value, "current")}${level.high ? `, but it could be ${say(level.high, "current", "up")}` : " is a guess"}`
    : "its current is a guess";
  return speak({
    part,
    severity: "ask",
    headline: `${part.name}: measure it, ${over.what} depends on it`,
    detail: `In ${figures.machine.modes[mode]?.name} ${figure}; ${over.what} takes ${say(over.limit, "current", "down")}. ${known?.narrow.measure ?? METER}`,
  });
}

/** Everything with a rating between the load and the converter or source that feeds its rail, with what it carries in a mode. */
function limitsOn(figures: Figures, load: Load, mode: number): Limit[] {
  const limits: Limit[] = [];
  const forGood = goesOn(figures.machine.modes[mode] ?? { lastsS: null });
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
