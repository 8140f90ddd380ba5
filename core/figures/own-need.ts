import { actingLimit } from "../drivers/channel";
import { ownDraw, ownStart } from "../loads/own-draw";
import type { BuiltLoad, PartOf, Wire } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { type Build, perBuild, perBuildOf } from "./build";
import { railVolts, sharesRail } from "./rails";

/** Currents that the thing at a feed's end draws by itself, whatever the modes plan. */
export interface OwnNeed {
  /** For good, A. */
  readonly lastingA: number;
  /** Its start, A and s. */
  readonly starts: readonly { readonly amps: number; readonly seconds: number }[];
}

const NOTHING: OwnNeed = { lastingA: 0, starts: [] };

/** Loads by the driver that drives them. */
const loadsOf = perBuild((build): ReadonlyMap<string, readonly BuiltLoad[]> => {
  const found = new Map<string, BuiltLoad[]>();
  for (const [id, { driver }] of build.solved.circuit.feeds) {
    const load = build.partOf.get(id);
    if (load?.kind === "load") found.set(driver.id, [...(found.get(driver.id) ?? []), load]);
  }
  return found;
});

/** Longest that motors behind a driver take to speed up, s (handbook practice section 2, from memory). */
const DRIVEN_START_S = 0.5;

/** Own currents of a part on its feed: a load's, or those of all that a driver drives, started on one command. */
export const ownNeed = perBuildOf((build, partId): OwnNeed => {
  const part = build.partOf.get(partId);
  if (part?.kind === "load") {
    const start = build.solved.circuit.feeds.has(partId) ? null : ownStart(part);
    return { lastingA: ownDraw(part) ?? 0, starts: start ? [start] : [] };
  }
  if (part?.kind === "switch") return part.device === "charging port" ? { lastingA: part.ratedA?.value ?? 0, starts: [] } : NOTHING;
  if (part?.kind === "converter") return { lastingA: inputA(build, part), starts: [] };
  if (part?.kind !== "driver") return NOTHING;
  const loads = loadsOf(build).get(partId) ?? [];
  const limit = actingLimit(part) ?? Number.POSITIVE_INFINITY;
  const startA = loads.reduce((sum, load) => {
    const told = load.levels?.start?.value;
    return sum + Math.min(limit, told === undefined ? (Number.isFinite(limit) ? limit : (ownDraw(load) ?? 0)) : told * load.count);
  }, 0);
  return {
    lastingA: loads.reduce((sum, load) => sum + (ownDraw(load) ?? 0), part.ownA?.value ?? 0),
    starts: startA > 0 ? [{ amps: startA, seconds: DRIVEN_START_S }] : [],
  };
});

/** Input of a converter with everything behind it running at once, A, at the lowest volts of its rail; never more than its rating gives. */
function inputA(build: Build, converter: PartOf<"converter">): number {
  const behind = build.machine.parts.filter(
    (part) => (part.kind === "load" || part.kind === "driver") && railOrigin(build.ledger, part.id) === converter.id,
  );
  const outA = Math.min(
    behind.reduce((sum, { id }) => sum + ownNeed(build, id).lastingA, 0),
    converter.ratedA?.value ?? converter.printedA?.value ?? Number.POSITIVE_INFINITY,
  );
  if (converter.topology === "linear") return outA;
  const inV = railVolts(build, converter.id);
  return inV > 0 ? (outA * converter.outputV.value) / (inV * LOW_SHARE * converter.efficiency.value) : 0;
}

/** Lowest volts of a rail for good, share of its own (common practice, no source). */
const LOW_SHARE = 0.9;

/**
 * Highest currents that can flow in a supply wire before the one source of its rail ends them, A: its management, or its limit.
 * Infinite where nothing does, where several sources meet on the rail, and where a driver stands between: a bridge that chops
 * drives more into its motor than it takes from the rail.
 */
export function sourceGives(build: Build, wire: Wire): { lastingA: number; brieflyA: number } {
  const from = build.partOf.get(wire.from.part);
  const rail = from && (from.kind === "converter" || isSource(from) ? from.id : railOrigin(build.ledger, from.id));
  if (wire.role !== "supply" || !rail || from.kind === "driver" || sharesRail(build, wire.to.part)) return NO_LIMIT;
  const origin = build.partOf.get(rail);
  if (origin?.kind === "supply" || origin?.kind === "converter") {
    const limitA = origin.limitA?.value ?? Number.POSITIVE_INFINITY;
    return { lastingA: limitA, brieflyA: limitA };
  }
  if (origin?.kind !== "pack" || origin.management === undefined || origin.management === "none") return NO_LIMIT;
  const lastingA = origin.continuousA?.value ?? Number.POSITIVE_INFINITY;
  return { lastingA, brieflyA: Math.max(lastingA, origin.peakA?.value ?? Number.POSITIVE_INFINITY) };
}

const NO_LIMIT = { lastingA: Number.POSITIVE_INFINITY, brieflyA: Number.POSITIVE_INFINITY };
