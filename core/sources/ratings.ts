import { linearMost } from "../converters/linear";
import { MODULE_MAX_C, moduleMost } from "../converters/switched";
import type { Converter, Pack, Settings, Supply } from "../machine/schema";
import { lossModelOf } from "../network/circuit";
import { inSentence, say } from "../quantity/format";
import { chemistryOf } from "../reference/chemistries";
import { USB_PORTS } from "../reference/supplies";
import { derating } from "./supply";

/** What gives current to a rail. */
export type Giver = Pack | Supply | Converter;

/** What a source may give continuously and for a while, A, at the machine's ambient, and in words where that comes from. */
export interface Rating {
  readonly continuousA: number | null;
  readonly briefA: number | null;
  /** What is printed on it, where the ambient or the case takes something off. */
  readonly printedA: number | null;
  readonly because: string;
  /** The continuous figure is a guess from its class or label: its sheet or management board may allow less. */
  readonly assumed: boolean;
}

/** Hottest chip temperature to plan a linear regulator with, °C, where the part allows 125 (handbook 5.1, common practice). */
export const PLANNED_JUNCTION_C = 110;
/** Share of the printed current of a small module that holds continuously in still air (handbook 5.3: 60 to 70 %, common practice). */
const PRINTED_SHARE = 0.6;

function packRating(pack: Pack): Rating {
  const stated = pack.continuousA?.value;
  const brief = pack.peakA?.value;
  if (stated !== undefined || pack.chemistry === undefined || !pack.capacityAh) {
    return { continuousA: stated ?? null, briefA: brief ?? stated ?? null, printedA: null, because: "as entered", assumed: false };
  }
  const { continuousC, peakC, name } = chemistryOf(pack.chemistry);
  const ah = pack.capacityAh.value;
  return {
    continuousA: continuousC * ah,
    briefA: brief ?? peakC * ah,
    printedA: null,
    because: `${continuousC} C continuously and ${peakC} C for ten seconds, typical of ${inSentence(name)}, from memory`,
    assumed: true,
  };
}

function supplyRating(supply: Supply, ambientC: number): Rating {
  // Without a word of what was negotiated a port is planned on its default current.
  const port = supply.usbPort === undefined ? (supply.make === "usb" ? USB_PORTS.c_default : null) : USB_PORTS[supply.usbPort];
  const printed = port ? Math.min(port.allowedA, supply.ratedA?.value ?? Number.POSITIVE_INFINITY) : (supply.ratedA?.value ?? null);
  const share = port ? 1 : derating(ambientC, supply.derateFromC?.value, supply.derateShare?.value);
  const brief = supply.limitA?.value ?? printed;
  return {
    continuousA: printed === null ? null : printed * share,
    briefA: brief === null ? null : brief * share,
    printedA: share < 1 ? printed : null,
    because: port
      ? `${port.standard} allows it`
      : share < 1
        ? `${Math.round(share * 100)} % of its rating at ${say(ambientC, "temperature")}`
        : "as entered",
    assumed: false,
  };
}

/** `inV`: the highest input it works from, where known: what a linear one must burn. */
export function converterRating(part: Converter, ambientC: number, inV: number | null): Rating {
  const stated = part.ratedA?.value ?? (part.printedA ? part.printedA.value * PRINTED_SHARE : null);
  const brief = part.limitA?.value ?? part.printedA?.value ?? stated;
  const byLabel = part.ratedA ? "as entered" : "60 % of its printed current, common practice for still air";
  const loss = lossModelOf(part);
  let thermal: number | null = null;
  if (part.topology === "linear" && part.kelvinPerWatt && inV !== null) {
    const maxC = Math.min(part.junctionMaxC?.value ?? PLANNED_JUNCTION_C, PLANNED_JUNCTION_C);
    thermal = Math.max(0, linearMost(inV, part.outputV.value, part.quiescentA?.value ?? 0, ambientC, maxC, part.kelvinPerWatt.value));
  } else if (loss && stated !== null && ambientC > 25) {
    thermal = moduleMost(loss, stated, ambientC, part.junctionMaxC?.value ?? MODULE_MAX_C);
  }
  if (thermal === null || (stated !== null && thermal >= stated)) {
    return {
      continuousA: stated,
      briefA: brief,
      printedA: part.ratedA ? null : (part.printedA?.value ?? null),
      because: byLabel,
      assumed: !part.ratedA,
    };
  }
  return {
    continuousA: thermal,
    briefA: brief,
    printedA: stated,
    because:
      part.topology === "linear"
        ? `its chip reaches ${PLANNED_JUNCTION_C} °C then, at ${say(inV ?? 0, "voltage", "up")} in and ${say(ambientC, "temperature")} around it`
        : `the heat it may make at ${say(ambientC, "temperature")}, against ${say(stated ?? 0, "current", "down")} at 25 °C (common practice)`,
    assumed: !part.ratedA,
  };
}

/** What a source may give. `inV`: the highest input of a converter, V, where known. */
export function ratingOf(part: Giver, settings: Pick<Settings, "ambientC">, inV: number | null): Rating {
  if (part.kind === "pack") return packRating(part);
  if (part.kind === "supply") return supplyRating(part, settings.ambientC);
  return converterRating(part, settings.ambientC, inV);
}
