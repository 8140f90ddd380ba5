import { bridgeDrop, bridgeHeat } from "../drivers/bridge";
import { bridgeOf } from "../drivers/channel";
import type { Driver, Load } from "../machine/schema";
import { nodeAt } from "../network/circuit";
import type { OperatingPoint } from "../network/solve";
import type { Figures } from "./figures";

/** One channel of a driver with the motor on it, in one mode, at the worse charge for the current. */
export interface ChannelMode {
  motorA: number;
  /** What the bus carries for it. */
  busA: number;
  /** Share of on-time: bus over motor current. */
  duty: number;
  /** Lost in the bridge, V and W. */
  dropV: number;
  heatW: number;
  low: boolean;
}

export interface Channel {
  number: number;
  load: Load;
  modes: ChannelMode[];
}

/** Every channel of a driver that has a motor. */
export function channelsOf(figures: Figures, driver: Driver): Channel[] {
  const { solved, machine } = figures;
  const { circuit } = solved;
  const bridge = bridgeOf(driver);
  const plus = nodeAt(circuit, driver.id, "in+");
  const channels: Channel[] = [];
  for (const [loadId, feed] of circuit.feeds) {
    const load = figures.partOf.get(loadId);
    if (feed.driver.id !== driver.id || load?.kind !== "load") continue;
    const element = circuit.loads.findIndex(({ id, role }) => id === loadId && role === "load");
    const leg = nodeAt(circuit, driver.id, `${feed.channel}a`);
    const branch = circuit.branches.findIndex(({ kind, id, a, b }) => kind === "bridge" && id === driver.id && a === plus && b === leg);
    const read = (point: OperatingPoint | undefined, low: boolean): ChannelMode => {
      const motorA = point?.loadA[element] ?? 0;
      const busA = point?.branchA[branch] ?? 0;
      return {
        motorA,
        busA,
        duty: motorA > 0 ? Math.min(1, busA / motorA) : 0,
        dropV: bridgeDrop(bridge, motorA),
        heatW: bridgeHeat(bridge, motorA),
        low,
      };
    };
    const modes = machine.modes.map((_, m) => {
      const planned = read(solved.planned[m], false);
      const low = read(solved.low[m], true);
      return low.motorA > planned.motorA ? low : planned;
    });
    channels.push({ number: feed.channel, load, modes });
  }
  return channels.sort((a, b) => a.number - b.number);
}
