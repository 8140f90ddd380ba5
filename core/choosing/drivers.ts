import { bridgeDrop, bridgeHeat, HOT_MOSFET, stallClass } from "../drivers/bridge";
import { deliverableAt } from "../drivers/deliverable";
import { driverLimits } from "../drivers/limits";
import type { Driver, Load } from "../machine/schema";
import { say } from "../quantity/format";
import { DRIVER_CLASSES, type DriverClass } from "../reference/classes";

/** One limit of a candidate against this motor: over 1 is room, under 1 is a breach. */
export interface CandidateLimit {
  what: string;
  needs: number;
  has: number;
  dimension: "current" | "voltage";
  /** What it has over what is needed; for a least voltage the other way round. */
  margin: number;
}

/** A driver weighed against a motor. */
export interface Candidate {
  id: string;
  name: string;
  /** A class of the reference table, or a driver of the builder's own. */
  from: "class" | "shelf";
  continuousA: number | null;
  headlineA: number | null;
  limits: CandidateLimit[];
  /** Smallest margin of all limits. */
  margin: number;
  dropV: number;
  heatW: number;
  stall: ReturnType<typeof stallClass> | null;
  /** Turns its motor one way only. */
  oneWay: boolean;
  /** Why not; empty: it fits. */
  refused: string[];
  /** What to know about one that fits. */
  notes: string[];
}

/** What a driver for one load has to bear. */
export interface DriverDemand {
  load: Load;
  /** Largest current that goes on continuously, and largest at all, A of motor current. */
  continuousA: number;
  peakA: number;
  /** Highest and lowest volts of its rail; null where the pack's are not known. */
  highestV: number | null;
  lowestV: number | null;
}

/** What a class with a fixed drop only keeps as resistance, Ω. */
const LEAST_OHM = 1e-3;

/** Continuous room beyond which a driver is larger than the motor asks for. */
const OVERSIZED = 4;

/** Whether a class drives this kind of load at all: steppers need two phases, brushless motors three. */
function suits(load: Load, { bridgeType, name }: DriverClass): boolean {
  const stepping = /stepper/.test(name) || /chopper/.test(bridgeType);
  if (load.loadKind === "stepper") return stepping;
  if (load.loadKind === "brushless") return /3-phase/.test(bridgeType);
  return !stepping && !/3-phase|signal/.test(bridgeType);
}

function bridgeOfClass(row: DriverClass): { dropV: number; ohm: number } {
  if (row.rdsOhm !== null) return { dropV: 0, ohm: row.rdsOhm * HOT_MOSFET };
  const drop = row.dropTypV ?? 0;
  const at = row.dropAtA ?? 1;
  // The usual bipolar bridge: 1.4 V and the rest resistive (handbook section 2, from memory).
  const fixed = Math.min(1.4, drop);
  return { dropV: fixed, ohm: (drop - fixed) / at };
}

function weigh(
  demand: DriverDemand,
  given: Omit<Candidate, "limits" | "margin" | "dropV" | "heatW" | "stall" | "oneWay" | "refused" | "notes"> & {
    bridge: { dropV: number; ohm: number };
    peakA: number | null;
    limitA: number | undefined;
    minV: number | null;
    maxV: number | null;
    oneWay: boolean;
    diodes: string;
  },
): Candidate {
  const { load, continuousA, peakA, highestV, lowestV } = demand;
  const { bridge, minV, maxV, oneWay, diodes, peakA: peak, limitA, ...shown } = given;
  const limits: CandidateLimit[] = [];
  const refused: string[] = [];
  const notes: string[] = [];
  const atMost = (what: string, needs: number, has: number | null, dimension: CandidateLimit["dimension"]) => {
    if (has === null) return;
    limits.push({ what, needs, has, dimension, margin: needs > 0 ? has / needs : Number.POSITIVE_INFINITY });
    if (needs > has) refused.push(`${what}: needs ${say(needs, dimension, "up")}, has ${say(has, dimension, "down")}`);
  };
  atMost("continuously", continuousA, shown.continuousA, "current");
  atMost("peak", Math.min(peakA, limitA ?? peakA), peak, "current");
  if (highestV === null) notes.push("The rail's highest voltage is not known: its voltage cannot be judged.");
  else atMost("volts at most", highestV, maxV, "voltage");
  if (lowestV !== null && minV !== null) {
    limits.push({
      what: "volts at least",
      needs: lowestV,
      has: minV,
      dimension: "voltage",
      margin: minV > 0 ? lowestV / minV : Number.POSITIVE_INFINITY,
    });
    if (lowestV < minV) refused.push(`volts at least: gets ${say(lowestV, "voltage", "down")}, needs ${say(minV, "voltage", "up")}`);
  }
  const stallA = deliverableAt(load, bridge, highestV ?? load.nominalV.value, 0);
  let stall: Candidate["stall"] = null;
  if (stallA !== null && shown.continuousA !== null) {
    stall = stallClass(stallA, shown.continuousA, peak ?? shown.continuousA, limitA);
    if (stall === "refused") refused.push(`held still: ${say(stallA, "current", "up")} with no limit below its peak`);
    if (stall === "brief") notes.push("Needs a stall time-out of a second or two.");
  }
  const running = load.behaviour === "current" ? continuousA : 0;
  const dropV = bridgeDrop(bridge, running);
  if (lowestV !== null && lowestV > 0 && dropV / lowestV > 0.3)
    refused.push(`its bridge keeps ${say(dropV, "voltage", "up")} of ${say(lowestV, "voltage")}`);
  if (oneWay && load.loadKind === "actuator") refused.push("one direction only: an actuator has to come back");
  else if (oneWay) notes.push("One direction only, no braking.");
  if (/external|none|verify/.test(diodes)) notes.push(`Freewheel diodes: ${diodes}.`);
  if (shown.continuousA !== null && continuousA > 0 && shown.continuousA / continuousA > OVERSIZED)
    notes.push("Larger than this motor asks for; that does no harm.");
  const margin = limits.reduce((least, each) => Math.min(least, each.margin), Number.POSITIVE_INFINITY);
  return { ...shown, limits, margin, dropV, heatW: bridgeHeat(bridge, running), stall, oneWay, refused, notes };
}

/** Drivers for a load, from the reference classes and the builder's own, those that fit first and the closest fit before the largest. */
export function driverCandidates(demand: DriverDemand, shelf: readonly Driver[]): Candidate[] {
  const classes = DRIVER_CLASSES.filter((row) => suits(demand.load, row)).map((row) =>
    weigh(demand, {
      id: row.id,
      name: row.name,
      from: "class",
      continuousA: row.bareA,
      headlineA: row.headlineA,
      bridge: bridgeOfClass(row),
      peakA: row.peakA,
      limitA: undefined,
      minV: row.inputMinV,
      maxV: row.inputMaxV,
      oneWay: /one direction|sink/.test(row.bridgeType),
      diodes: row.freewheel,
    }),
  );
  const own = shelf.map((driver) => {
    const limits = driverLimits(driver);
    return weigh(demand, {
      id: driver.id,
      name: driver.name,
      from: "shelf",
      continuousA: limits.continuous?.value ?? null,
      headlineA: driver.headlineA?.value ?? null,
      bridge: { dropV: driver.bridgeV?.value ?? 0, ohm: driver.bridgeOhm?.value ?? 0 },
      peakA: limits.peak?.value ?? null,
      limitA: driver.limitA?.value,
      minV: driver.inputMinV?.value ?? null,
      maxV: limits.volts?.value ?? null,
      oneWay: driver.bridge === "low side",
      diodes: driver.freewheel === "missing" ? "external, missing" : "inside",
    });
  });
  // A driver that turns one way comes after those that turn both: nobody said that one way will do.
  const rank = ({ refused, oneWay }: Candidate) => (refused.length > 0 ? 2 : oneWay ? 1 : 0);
  return [...own, ...classes].sort((a, b) => rank(a) - rank(b) || (a.continuousA ?? 0) - (b.continuousA ?? 0));
}

/** A class as a driver's figures, all typical. */
export function driverFromClass(id: string): Partial<Driver> | null {
  const row = DRIVER_CLASSES.find((each) => each.id === id);
  if (!row) return null;
  const typical = (value: number | null) => (value === null ? undefined : { value, provenance: "typical" as const });
  const bridge = bridgeOfClass(row);
  const bipolar = row.rdsOhm === null;
  const figures = {
    headlineA: typical(row.headlineA),
    continuousA: typical(row.bareA),
    heatsinkA: undefined,
    airA: undefined,
    cooling: "none" as const,
    peakA: typical(row.peakA),
    inputMinV: typical(row.inputMinV),
    inputMaxV: typical(row.inputMaxV),
    bridgeOhm: typical(Math.max(LEAST_OHM, Number(bridge.ohm.toPrecision(4)))),
    bridgeV: bipolar ? typical(bridge.dropV) : undefined,
    bridge: /one direction/.test(row.bridgeType)
      ? ("low side" as const)
      : bipolar
        ? ("bipolar" as const)
        : /changeover/.test(row.bridgeType)
          ? ("relay" as const)
          : ("mosfet" as const),
    freewheel: /^(internal|body)/.test(row.freewheel) ? ("inside" as const) : undefined,
    limitA: undefined,
    layers: undefined,
    note: row.name,
  };
  return figures as Partial<Driver>;
}
