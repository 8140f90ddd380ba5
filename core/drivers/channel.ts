import { atRest, type Draw } from "../loads/draw";
import type { Cell } from "../machine/load-schema";
import type { Driver } from "../machine/schema";
import { driverLimits } from "./limits";

/** Typical bridge resistance assumed until it is known, Ω; the missing figure is asked for. */
const ASSUMED_OHM = 0.02;

/** What a driver's bridge loses, as far as it is known. */
export function bridgeOf(driver: Driver): { dropV: number; ohm: number } {
  return { dropV: driver.bridgeV?.value ?? 0, ohm: driver.bridgeOhm?.value ?? ASSUMED_OHM };
}

/** A set limit that really acts: one above what the driver survives is a trip, and nothing may be planned on it. */
export function actingLimit(driver: Driver): number | undefined {
  const limit = driver.limitA?.value;
  const peak = driverLimits(driver).peak?.value;
  return limit !== undefined && peak !== undefined && limit > peak ? undefined : limit;
}

/** The motor's own draw behind a bridge, and what circulates in the bridge without coming from the bus. */
export interface ChannelDraw {
  motor: Draw;
  /** Drawn across the channel's terminals, negative: the current the bridge passes round in the motor loop. */
  loop: { amps: number; siemens: number; watts: number };
}

const NO_LOOP = { amps: 0, siemens: 0, watts: 0 };

/**
 * What a motor on a driver's channel draws, and how much of it the bus does not see. At duty D the bus carries D times
 * the motor current. A stalled motor draws D·V/R; at a current limit the duty settles where the limit is met, so the bus
 * carries the power of winding, leads and bridge. While a motor speeds up at its limit the duty rises to 1, so a start
 * counts in full on the bus. Source: handbook motors-and-drivers section 2 (check values 16-18).
 * @param leadOhm both motor leads, Ω
 */
export function channelDraw(driver: Driver, cell: Cell | undefined, own: Draw, leadOhm: number): ChannelDraw {
  if (own.missing !== null || cell === undefined || cell.state === "off" || cell.state === "amps") return { motor: own, loop: NO_LOOP };
  const { dropV, ohm } = bridgeOf(driver);
  const limit = actingLimit(driver);
  const stalled = atRest(cell) || cell.state === "reverse";
  if (stalled && limit !== undefined && own.siemens > 0 && own.nominalA > limit) {
    const motor: Draw = { amps: limit, siemens: 0, watts: 0, nominalA: limit, missing: null };
    if (cell.state !== "stall") return { motor, loop: NO_LOOP };
    const watts = limit ** 2 * (1 / own.siemens + leadOhm + ohm) + dropV * limit;
    return { motor, loop: { amps: -limit, siemens: 0, watts } };
  }
  const asked = "duty" in cell ? cell.duty : undefined;
  const duty = Math.min(asked ?? 1, driver.dutyCap?.value ?? 1);
  if (own.siemens > 0 && own.amps === 0 && own.watts === 0) {
    // The winding sees what the bridge's fixed drop leaves of the switched voltage.
    const motor: Draw = { ...own, siemens: own.siemens * duty, amps: -own.siemens * dropV };
    const circulating = (1 - duty) / (1 + motor.siemens * leadOhm);
    return { motor, loop: { amps: -circulating * motor.amps, siemens: -circulating * motor.siemens, watts: 0 } };
  }
  return { motor: own, loop: { amps: -(1 - duty) * own.amps, siemens: 0, watts: 0 } };
}
