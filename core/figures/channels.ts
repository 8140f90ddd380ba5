import { bridgeDrop, bridgeHeat } from "../drivers/bridge";
import { bridgeOf } from "../drivers/channel";
import { deliverableAt } from "../drivers/deliverable";
import { phaseCurrent } from "../loads/phases";
import { oncePer } from "../machine/once";
import type { BuiltLoad, Driver, Load, Wire } from "../machine/schema";
import { nodeAt, wireOhm } from "../network/circuit";
import type { OperatingPoint } from "../network/point";
import { type Build, perBuild } from "./build";
import type { Figures } from "./figures";
import { railMaxV } from "./rails";

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

/** A channel of a driver with its motor. */
export interface Channel {
  number: number;
  load: Load;
  modes: ChannelMode[];
}

const NONE: Channel[] = [];

/** Every channel of a driver that has a motor, by number. */
export function channelsOf(figures: Figures, driver: Driver): readonly Channel[] {
  return allChannels(figures).get(driver.id) ?? NONE;
}

/** Where each channel with a motor is read off a solved network. */
const channelPlans = perBuild((build) => {
  const { circuit } = build.solved;
  const place = new Map(build.plans.map(({ id, load }) => [id, load]));
  const legs = new Map(circuit.branches.map(({ kind, b }, i) => [kind === "bridge" ? b : -1, i]));
  return [...circuit.feeds].flatMap(([loadId, { driver, channel }]) => {
    const at = place.get(loadId) ?? -1;
    const leg = legs.get(nodeAt(circuit, driver.id, `${channel}a`));
    return at < 0 || leg === undefined ? [] : [{ loadId, driver: driver.id, channel, at, leg, bridge: bridgeOf(driver) }];
  });
});

const allChannels = oncePer((figures: Figures): ReadonlyMap<string, Channel[]> => {
  const { planned, low } = figures.solved;
  const byDriver = new Map<string, Channel[]>();
  for (const { loadId, driver, channel, at, leg, bridge } of channelPlans(figures)) {
    const load = figures.partOf.get(loadId);
    if (load?.kind !== "load") continue;
    const modes = figures.machine.modes.map((_, m): ChannelMode => {
      const sagged = low !== planned && (low[m]?.loadA[at] ?? 0) > (planned[m]?.loadA[at] ?? 0);
      const point = (sagged ? low : planned)[m];
      const motorA = point?.loadA[at] ?? 0;
      const busA = point?.branchA[leg] ?? 0;
      return {
        motorA,
        busA,
        duty: motorA > 0 ? Math.min(1, busA / motorA) : 0,
        dropV: bridgeDrop(bridge, motorA),
        heatW: bridgeHeat(bridge, motorA),
        low: sagged,
      };
    });
    const list = byDriver.get(driver);
    if (list) list.push({ number: channel, load, modes });
    else byDriver.set(driver, [{ number: channel, load, modes }]);
  }
  for (const list of byDriver.values()) list.sort((a, b) => a.number - b.number);
  return byDriver;
});

/** One channel of a driver with all that hangs on it: motors in parallel, or through a bar, add up. */
export interface ChannelLoad {
  readonly number: number;
  readonly loads: readonly BuiltLoad[];
  /** What flows in its leads at an operating point, A of motor current. */
  readonly amps: (point: OperatingPoint, mode: number) => number;
  /** No more than this flows there in any mode, A. */
  readonly mostA: number;
}

/** Every channel of a driver that has a lead on it. */
export function channelLoads(figures: Figures, driver: Driver): ChannelLoad[] {
  return (legsOf(figures).get(driver.id) ?? []).map(({ number, loads, legs }) => ({
    number,
    loads,
    // A phase carries what it is set to even where nobody knows what its supply draws.
    mostA: Math.max(
      ...legs.map((wires) => wires.reduce((sum, { id }) => sum + (figures.wires[id]?.worst.amps ?? 0), 0)),
      ...loads.flatMap(({ id }) => phaseAmps(figures).get(id) ?? []),
    ),
    amps: (point, mode) => {
      let most = 0;
      for (const wires of legs) {
        let sum = 0;
        for (const { branch, sign } of wires) sum += sign * (point.branchA[branch] as number);
        most = Math.max(most, Math.abs(sum));
      }
      for (const { id } of loads) most = Math.max(most, phaseAmps(figures).get(id)?.[mode] ?? 0);
      return most;
    },
  }));
}

/** What a stepper's driver holds in each phase while it is on, A r.m.s. by mode: its supply draws less. */
const phaseAmps = oncePer((figures: Figures): ReadonlyMap<string, readonly number[]> => {
  const found = new Map<string, readonly number[]>();
  for (const part of figures.machine.parts) {
    const phase = part.kind === "load" ? phaseCurrent(part) : null;
    if (part.kind !== "load" || !phase || !figures.solved.circuit.feeds.has(part.id)) continue;
    found.set(
      part.id,
      figures.machine.modes.map(({ id }) => {
        const cell = part.cells[id];
        return cell === undefined || cell.state === "off" ? 0 : phase.rmsA * part.count;
      }),
    );
  }
  return found;
});

/** Leads on each leg of each channel, as branches with 1 where current leaves the driver by them. */
const legsOf = perBuild((build) => {
  const { circuit } = build.solved;
  const fed = new Map<string, string[]>();
  for (const [load, { driver, channel }] of circuit.feeds) {
    const key = `${driver.id} ${channel}`;
    fed.set(key, [...(fed.get(key) ?? []), load]);
  }
  const at = new Map<string, { id: string; branch: number; sign: 1 | -1 }[]>();
  const put = ({ part, terminal }: Wire["from"], id: string, branch: number, sign: 1 | -1) => {
    if (build.partOf.get(part)?.kind !== "driver") return;
    const key = `${part} ${terminal}`;
    const known = at.get(key);
    if (known) known.push({ id, branch, sign });
    else at.set(key, [{ id, branch, sign }]);
  };
  build.machine.wires.forEach((wire, branch) => {
    put(wire.from, wire.id, branch, 1);
    put(wire.to, wire.id, branch, -1);
  });
  return new Map(
    build.machine.parts.flatMap((part) => {
      if (part.kind !== "driver") return [];
      const channels = Array.from({ length: part.channels }, (_, i) => {
        const number = i + 1;
        const loads = (fed.get(`${part.id} ${number}`) ?? []).map((id) => build.partOf.get(id)).filter((load) => load?.kind === "load");
        return { number, loads, legs: [at.get(`${part.id} ${number}a`) ?? [], at.get(`${part.id} ${number}b`) ?? []] };
      }).filter(({ legs }) => legs.some((wires) => wires.length > 0));
      return [[part.id, channels] as const];
    }),
  );
});

/** What the driver could push into a motor held still at its rail's highest voltage, A; null where that is not known. */
export function deliverableStall(figures: Build, driver: Driver, load: BuiltLoad): number | null {
  const feed = figures.solved.circuit.feeds.get(load.id);
  if (!feed) return null;
  const volts = railMaxV(figures, driver);
  const leads = wireOhm(figures.machine, feed.out) + (feed.back ? wireOhm(figures.machine, feed.back) : 0);
  return deliverableAt(load, bridgeOf(driver), volts, leads);
}
