import type { FuseRef, Load, Machine, Pack, Part, Supply, Switch } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { capital, inSentence, say } from "../quantity/format";
import { chemistryOf } from "../reference/chemistries";
import { FUSE_FAMILIES } from "../reference/fuses";
import type { LoadKind } from "../reference/load-kinds";

/** What a part is and what it must bear, as a shop understands it: "Motor driver, 2 channels, 60 A printed". */
export interface Rated {
  readonly what: string;
  /** Ratings behind it, the deciding one first; empty where none is known. */
  readonly ratings: readonly string[];
}

const volts = (value: number) => `${Number(value.toFixed(2))}\u00a0V`;
/** As it is printed on a part: no digits that nobody measured. */
const amps = (value: number) => `${Number(value.toPrecision(3))}\u00a0A`;
const known = (list: readonly (string | null | undefined | false)[]): string[] => list.filter((text): text is string => !!text);

const LOADS: Readonly<Record<LoadKind, string>> = {
  motor: "DC motor",
  brushless: "Brushless motor with drive",
  stepper: "Stepper motor with drive",
  servo: "Servo",
  actuator: "Linear actuator",
  pump: "Pump",
  fan: "Fan",
  heater: "Heater",
  coil: "Coil or solenoid",
  light: "Light",
  sound: "Amplifier or sounder",
  board: "Controller board",
  computer: "Computer",
  sensor: "Sensor",
  radio: "Radio",
  display: "Display",
  other: "Consumer",
};

const DEVICES: Readonly<Record<NonNullable<Switch["device"]>, string>> = {
  toggle: "Switch",
  isolator: "Battery isolator",
  relay: "Relay",
  contactor: "Contactor",
  "solid state": "Solid-state switch",
  "charging port": "Charging port",
};

const CONVERTERS = {
  linear: "Linear regulator",
  buck: "Step-down converter",
  boost: "Step-up converter",
  "buck-boost": "Step-up and step-down converter",
} as const;

function packRated({ chemistry, series, blocks = 1, parallel = 1, openCircuitV, capacityAh, continuousA, peakA }: Pack): Rated {
  const cell = chemistry === undefined ? undefined : chemistryOf(chemistry);
  const kind = cell ? inSentence(cell.name) : "chemistry not told";
  const nominal = cell && series ? cell.nominalV * series : openCircuitV.value;
  const ampHours = capacityAh ? say(capacityAh.value / (blocks > 1 ? parallel : 1), "capacity") : null;
  const perBlock = blocks > 1 ? `Battery block, ${volts(nominal / blocks)}` : `Battery pack, ${volts(nominal)}`;
  return {
    what: perBlock,
    ratings: known([
      kind,
      ampHours,
      blocks <= 1 && (series ?? 1) > 1 && `${series} cells in series`,
      blocks > 1 && `${blocks} in series${parallel > 1 ? `, ${parallel} such rows in parallel` : ""}`,
      continuousA && `${amps(continuousA.value)} continuously`,
      peakA && `${amps(peakA.value)} peak`,
    ]),
  };
}

/** A box of one or more outputs as one thing: "DC supply, 12 V 16 A and 5 V 20 A". */
function supplyRated(outputs: readonly Supply[]): Rated {
  const [first] = outputs;
  const each = outputs.map(({ outputV, ratedA }) => `${volts(outputV.value)}${ratedA ? ` ${amps(ratedA.value)}` : ", amps not told"}`);
  const name =
    first?.usbPort !== undefined ? "USB port or charger" : outputs.length > 1 ? `DC supply, ${outputs.length} outputs` : "DC supply";
  return {
    what: `${name}, ${each.join(" and ")}`,
    ratings: known([first?.boxW && `${say(first.boxW.value, "power")} all together`, first?.sinks && "takes current back"]),
  };
}

function switchRated({ device, ratedA, breakA, breakV, peakA, coilOhm, pickUpV, stop, name }: Switch): Rated {
  const what = device ? DEVICES[device] : "Switch";
  return {
    what: `${what}${ratedA ? `, ${amps(ratedA.value)}` : ", amps not told"}`,
    ratings: known([
      breakA && breakV ? `breaks ${amps(breakA.value)} at ${volts(breakV.value)} DC` : "DC rating not told",
      peakA && `${amps(peakA.value)} peak`,
      coilOhm && `coil ${say(coilOhm.value, "resistance")}${pickUpV ? `, pulls in at ${volts(pickUpV.value)}` : ""}`,
      stop &&
        `with ${stop.devices} stop button${stop.devices > 1 ? "s or edges" : ""}, normally ${stop.normallyClosed ? "closed" : "open"}`,
      device === undefined && name !== what && "kind not told",
    ]),
  };
}

function loadRated(load: Load): Rated {
  const { loadKind, nominalV, levels, stepper, brushless, inputMinV, inputMaxV, endSwitches } = load;
  const range = inputMinV && inputMaxV ? `${volts(inputMinV.value)} to ${volts(inputMaxV.value)}` : null;
  return {
    what: `${LOADS[loadKind]}, ${volts(nominalV.value)}`,
    ratings: known([
      levels?.run && `${amps(levels.run.value)} running`,
      levels?.stall && `${amps(levels.stall.value)} stalled`,
      stepper?.ratedA && `${amps(stepper.ratedA.value)} a phase`,
      brushless?.phaseLimitA && `${amps(brushless.phaseLimitA.value)} a phase`,
      range && `takes ${range}`,
      endSwitches && "with end switches",
    ]),
  };
}

/** What a part is, by its ratings. `outputs`: all of the box a supply belongs to. */
export function ratedAs(part: Part, outputs: readonly Supply[] = []): Rated {
  switch (part.kind) {
    case "pack":
      return packRated(part);
    case "supply":
      return supplyRated(outputs.length > 0 ? outputs : [part]);
    case "switch":
      return switchRated(part);
    case "load":
      return loadRated(part);
    case "fuse":
      return { what: fuseRated(part.fuse), ratings: [] };
    case "bar": {
      const { form = "bar", side, ratedA } = part;
      const name = form === "bar" ? "bus bar" : form;
      return {
        what: capital(`${name}${ratedA ? `, ${amps(ratedA.value)}` : ", amps not told"}`),
        ratings: [side === "positive" ? "plus side" : "minus side"],
      };
    }
    case "driver": {
      const { channels, headlineA, continuousA, heatsinkA, airA, cooling, inputMaxV, bridge } = part;
      const cooled = cooling === "heatsink" ? heatsinkA : cooling === "air" ? airA : undefined;
      const lasting = cooled ?? continuousA;
      const printed = headlineA ? `${amps(headlineA.value)} printed` : null;
      return {
        what: `Motor driver, ${channels} channel${channels > 1 ? "s" : ""}, ${printed ?? (lasting ? `${amps(lasting.value)} a channel continuously` : "amps not told")}`,
        ratings: known([
          printed && lasting && `${amps(lasting.value)} a channel continuously`,
          cooled && (cooling === "air" ? "with moving air" : "on a heat sink"),
          inputMaxV && `up to ${volts(inputMaxV.value)}`,
          bridge && bridge !== "mosfet" && `${bridge} bridge`,
        ]),
      };
    }
    case "converter": {
      const { topology, isolated, outputV, ratedA, printedA, inputMinV, inputMaxV } = part;
      const most = ratedA ?? printedA;
      return {
        what: `${CONVERTERS[topology]} to ${volts(outputV.value)}${most ? `, ${amps(most.value)}${ratedA ? "" : " printed"}` : ", amps not told"}`,
        ratings: known([
          isolated && "isolated",
          inputMinV && inputMaxV && `input ${volts(inputMinV.value)} to ${volts(inputMaxV.value)}`,
          !inputMinV && inputMaxV && `input up to ${volts(inputMaxV.value)}`,
          ratedA && printedA && printedA.value !== ratedA.value && `${amps(printedA.value)} printed`,
        ]),
      };
    }
  }
}

/** What tells parts apart that are bought alike: their ratings, whatever they are called; a block of a pack is a block. */
export function partKey(part: Part): string {
  if (part.kind === "pack") {
    const blocks = part.blocks ?? 1;
    return `pack ${Number((part.openCircuitV.value / blocks).toFixed(1))} ${part.chemistry ?? "?"} ${part.capacityAh?.value ?? "?"}`;
  }
  const { what, ratings } = ratedAs(part);
  return [part.kind, what, ...ratings].join(", ");
}

/** "80 A, bolt-down strip, M5, 58 V". */
export function fuseRated({ family, ratingA }: FuseRef): string {
  return `${ratingA}\u00a0A, ${FUSE_FAMILIES[family].name}`;
}

/** Outputs of one box by the id of its first; an output of its own stands alone. */
export function boxesOf(machine: Machine): ReadonlyMap<string, readonly Supply[]> {
  const boxes = new Map<string, Supply[]>();
  for (const part of machine.parts) {
    if (part.kind !== "supply") continue;
    const key = part.box ?? part.id;
    boxes.set(key, [...(boxes.get(key) ?? []), part]);
  }
  return boxes;
}

/** What a part feeds or draws, for its line on the drawing: "105 Ah", "13.4 A". */
export function shortRating(part: Part): string {
  if (part.kind === "pack") return part.capacityAh ? say(part.capacityAh.value, "capacity") : "";
  if (isSource(part)) return part.ratedA ? amps(part.ratedA.value) : "";
  if (part.kind === "converter") {
    const most = part.ratedA ?? part.printedA;
    return most ? amps(most.value) : "";
  }
  return "";
}
