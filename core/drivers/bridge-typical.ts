import type { ChangesOf } from "../machine/commands";
import { typical } from "../machine/figure";
import type { Driver } from "../machine/schema";

type Bridge = NonNullable<Driver["bridge"]>;

/**
 * What each kind of bridge usually keeps of the volts: fixed, and as a resistance of both switches. Bipolar: 1.4 V and the rest
 * resistive (handbook drivers section 2, from memory); the others typical, from memory.
 */
const TYPICAL: Readonly<Record<Bridge, { bridgeV: number | null; bridgeOhm: number }>> = {
  mosfet: { bridgeV: null, bridgeOhm: 0.02 },
  bipolar: { bridgeV: 1.4, bridgeOhm: 0.4 },
  "low side": { bridgeV: null, bridgeOhm: 0.01 },
  relay: { bridgeV: null, bridgeOhm: 0.005 },
};

/** Another kind of bridge with its usual drop; figures that were measured or read off a sheet stay. */
export function bridgeChanges(driver: Driver, bridge: Bridge | undefined): ChangesOf<"driver"> {
  const usual = TYPICAL[bridge ?? "mosfet"];
  const known = (figure: Driver["bridgeV"]) => figure?.provenance === "measured" || figure?.provenance === "datasheet";
  return {
    bridge,
    ...(known(driver.bridgeV) ? {} : { bridgeV: usual.bridgeV === null ? undefined : typical(usual.bridgeV) }),
    ...(known(driver.bridgeOhm) ? {} : { bridgeOhm: typical(usual.bridgeOhm) }),
  };
}
