import { canStall } from "../loads/budget";
import type { BuiltLoad } from "../machine/schema";

/**
 * What a bridge could push into a load held still, A: everything the loop lets through at `volts`. Null where the load's
 * own stall is not known or it cannot stall.
 * A duty cap lowers nothing here: it is a program's promise, and a stall is where programs are caught out.
 * @param leadOhm both motor leads, Ω
 */
export function deliverableAt(load: BuiltLoad, bridge: { dropV: number; ohm: number }, volts: number, leadOhm: number): number | null {
  const stallA = load.levels?.stall?.value;
  if (stallA === undefined || stallA <= 0 || !canStall(load)) return null;
  const winding = load.nominalV.value / (stallA * load.count);
  return Math.max(0, volts - bridge.dropV) / (winding + bridge.ohm + leadOhm);
}
