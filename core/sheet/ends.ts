import { END_KEYS } from "../connectors/ends";
import type { FuseRef, Machine, Part, Wire } from "../machine/schema";
import { isBoard } from "../machine/terminals";
import { connectorById } from "../reference/connectors";
import type { FuseFamilyId } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";

/** What goes on an end of a conductor, as it is bought: each conductor of a wire takes one. */
export interface Termination {
  /** "lug" and the like are counted; a connector is counted by its housing elsewhere. */
  readonly sort: "lug" | "ferrule" | "blade" | "connector" | "solder" | "part";
  /** "ring lug 4 AWG, M8". */
  readonly text: string;
}

/** Ferrule sizes, mm² (DIN 46228-4, from memory). */
const FERRULES = [0.25, 0.34, 0.5, 0.75, 1, 1.5, 2.5, 4, 6, 10, 16, 25, 35, 50] as const;
/** Thickest conductor of an insulated receptacle for a 6.3 mm tab, mm² (common practice, no source). */
const BLADE_MAX_MM2 = 6;
/** Thickest conductor that is put under a clamp with a ferrule on a hobby board, mm² (common practice, no source). */
const CLAMP_MAX_MM2 = 16;

/** Studs of fuse families whose name says them. */
const FUSE_STUDS: Partial<Record<FuseFamilyId, string>> = {
  strip_m5_32v: "M5",
  strip_m5_58v: "M5",
  strip_m8_32v: "M8",
  strip_m8_70v: "M8",
  cube_single_bolt: "M8",
  class_t: "M8",
};

/** Fuse families that are bolted down, with their stud; null: held by blades, clips or clamps. */
export function fuseStud(family: FuseFamilyId): string | null {
  return FUSE_STUDS[family] ?? null;
}

/** What a fuse is held by. */
export function holderOf({ family, place }: FuseRef): string {
  const size = family.startsWith("blade_")
    ? `${family.split("_")[1]} blade`
    : family.startsWith("cart_5x20")
      ? "5×20"
      : family.startsWith("cart_6x32")
        ? "6.3×32"
        : null;
  if (fuseStud(family)) return family === "cube_single_bolt" ? "block on the battery's stud" : `bolt-down holder, ${fuseStud(family)}`;
  if (size === null) return "as its maker says";
  return place === "block" ? `way of a fuse block, ${size}` : place === "board" ? `holder on a board, ${size}` : `in-line holder, ${size}`;
}

/** The stud of a connector family that is a ring on one; null for all others. */
export function ringStud(family: string): string | null {
  return family.startsWith("ring") ? family.slice("ring".length) : null;
}

function lug(gauge: string, stud: string | undefined): Termination {
  return { sort: "lug", text: `ring lug ${gauge}, ${stud ?? "stud to measure"}` };
}

function ferrule(wire: Wire): Termination {
  const area = wire.gauge === undefined ? undefined : gaugeById(wire.gauge)?.areaMm2;
  const size = area === undefined ? undefined : FERRULES.find((each) => each >= area * 0.999);
  if (size === undefined) return { sort: "ferrule", text: `ferrule for ${wire.gauge ?? "its size"}` };
  return { sort: "ferrule", text: `ferrule ${size}\u00a0mm²` };
}

/**
 * What an end lands in, by its connector, else by what the part is made as (common practice, no source): studs take lugs,
 * clamps ferrules, switches and relays receptacles. A terminal nobody told of is left to the part.
 */
export function terminationOf(machine: Machine, wire: Wire, end: "from" | "to"): Termination {
  const connector = wire[END_KEYS[end]];
  const gauge = wire.gauge ?? "of its size";
  const ring = connector && ringStud(connector.family);
  if (ring) return lug(gauge, ring);
  if (connector) return { sort: "connector", text: connectorById(connector.family)?.short ?? connector.family };
  const part = machine.parts.find(({ id }) => id === wire[end].part);
  const area = wire.gauge === undefined ? undefined : gaugeById(wire.gauge)?.areaMm2;
  if (!part) return { sort: "part", text: "as its terminal asks" };
  if (wire.role === "signal") return { sort: "part", text: "as its terminal asks" };
  return landing(part, wire, area ?? 0, gauge, wire[end].terminal);
}

function landing(part: Part, wire: Wire, area: number, gauge: string, terminal: string): Termination {
  switch (part.kind) {
    case "bar": {
      const { form = "bar", stud } = part;
      if (form === "Y-lead" || form === "junction") return { sort: "part", text: "crimped splice" };
      if (form === "board") return { sort: "solder", text: "soldered" };
      if (form === "terminal strip") return stud ? lug(gauge, stud) : ferrule(wire);
      if (form === "fuse block" && !stud && area <= BLADE_MAX_MM2) return { sort: "blade", text: "6.3 mm receptacle" };
      return lug(gauge, stud);
    }
    case "pack":
      return lug(gauge, part.stud);
    case "fuse": {
      const stud = fuseStud(part.fuse.family);
      return stud ? lug(gauge, stud) : { sort: "part", text: "tail of its holder" };
    }
    case "switch": {
      if (terminal.startsWith("c")) return { sort: "blade", text: "6.3 mm receptacle" };
      const bolted = part.stud !== undefined || part.device === "contactor" || part.device === "isolator" || area > BLADE_MAX_MM2;
      return bolted ? lug(gauge, part.stud) : { sort: "blade", text: "6.3 mm receptacle" };
    }
    case "supply":
      return part.usbPort !== undefined
        ? { sort: "part", text: "its own plug" }
        : area > CLAMP_MAX_MM2
          ? lug(gauge, undefined)
          : ferrule(wire);
    case "driver":
    case "converter":
      return area > CLAMP_MAX_MM2 ? lug(gauge, undefined) : ferrule(wire);
    case "load":
      return isBoard(part) ? ferrule(wire) : { sort: "part", text: "as its terminal asks" };
  }
}
