import { composed } from "../choosing/compose";
import { type Figure, typical } from "../machine/figure";
import type { Pack, Supply } from "../machine/schema";
import { type ChemistryId, chemistryOf } from "../reference/chemistries";
import { SUPPLY_KINDS, type SupplyMake, USB_PORTS, type UsbPortId } from "../reference/supplies";
import { figure } from "./make-load";
import type { PackReading, Said, SupplyReading } from "./reading";

/** What a pack of these volts is usually made of, where nobody says: lithium voltages tell themselves. */
function usualChemistry(volts: number): ChemistryId {
  const whole = (cell: number) => Math.abs(volts / cell - Math.round(volts / cell)) * cell < 0.06 && Math.round(volts / cell) > 0;
  if ([6, 12, 24, 36, 48].includes(volts)) return "lead_agm";
  if (whole(3.7) || whole(3.6)) return volts < 30 ? "lipo" : "nmc_energy";
  if (whole(3.2)) return "lifepo4_energy";
  if (whole(1.2)) return "nimh_aa";
  return "lead_agm";
}

/** Small cells whose capacity is that of their size. */
const ONE_SIZE: ReadonlySet<ChemistryId> = new Set(["alkaline_aa", "alkaline_d", "alkaline_9v", "nimh_aa", "nimh_power"] as const);

/** A capacity sold in this chemistry, nearest above what an hour at this current asks for. */
function usualAh(chemistry: ChemistryId, amps: number): number {
  const { sizesAh } = chemistryOf(chemistry);
  return sizesAh.find((each) => each >= amps * 1.25) ?? sizesAh.at(-1) ?? 10;
}

/** Cells in series of a pack, or null where neither cells nor volts are told. */
export function seriesOf({ series, volts }: Pick<PackReading, "series" | "volts">, chemistry: ChemistryId): number | null {
  if (series !== null) return series;
  if (!volts) return null;
  const { nominalV, family } = chemistryOf(chemistry);
  const cells = Math.max(1, Math.round(volts.value / nominalV));
  // Lead is sold in blocks of three and six cells.
  return family === "lead" ? Math.max(3, Math.round(cells / 3) * 3) : cells;
}

/** A pack's figures from its line; `loadA`: what lasts, to suppose a capacity by. Null where nothing tells its volts. */
export function packFigures(reading: PackReading, loadA: number, coldestC: number): Partial<Pack> | null {
  const volts = reading.volts?.value;
  const chemistry = reading.chemistry ?? (volts === undefined ? "lipo" : usualChemistry(volts));
  const series = seriesOf(reading, chemistry);
  if (series === null) return null;
  const row = chemistryOf(chemistry);
  const oneSize = ONE_SIZE.has(chemistry);
  const own = reading.capacityAh?.value;
  const cellAh =
    own !== undefined ? own / reading.parallel : oneSize ? (row.sizesAh[0] ?? 2) : usualAh(chemistry, loadA / reading.parallel);
  const made = composed({ chemistry, series, parallel: reading.parallel, cellAh: Number(cellAh.toPrecision(4)) }, coldestC);
  const supposed = reading.chemistry === null || reading.capacityAh?.provenance === "guess" || (own === undefined && !oneSize);
  const figures = supposed
    ? (Object.fromEntries(
        Object.entries(made).map(([key, value]) => [key, isFigure(value) ? { ...value, provenance: "guess" } : value]),
      ) as Partial<Pack>)
    : made;
  return {
    ...figures,
    ...(reading.capacityAh ? { capacityAh: figure(reading.capacityAh) } : {}),
    ...(reading.continuousA
      ? {
          continuousA: figure(reading.continuousA),
          peakA: typical(Math.max(reading.continuousA.value, Math.min(figures.peakA?.value ?? 0, reading.continuousA.value * 1.5))),
        }
      : {}),
    ...(reading.blocks === null ? {} : { blocks: reading.blocks }),
    ...(row.family === "lithium" ? { management: "inside" as const } : {}),
    note: row.name,
  };
}

function isFigure(value: unknown): value is Figure {
  return typeof value === "object" && value !== null && "value" in value && "provenance" in value;
}

/** Resistance of an output with its screws, Ω (typical). */
const OUTPUT_OHM = 0.01;

function usbPort(amps: number | null): UsbPortId {
  const asked = amps ?? 0.5;
  const ports = Object.entries(USB_PORTS).filter(([id, { volts }]) => volts === 5 && !id.endsWith("unconfigured"));
  const found = ports.find(([, { allowedA }]) => allowedA >= asked) ?? ports.at(-1);
  return (found?.[0] ?? "usb2") as UsbPortId;
}

/** The figures of one output of a supply. What its amps are only the line tells; without them nothing is supposed. */
export function supplyFigures(reading: SupplyReading, output: { volts: Said; amps: Said | null }): Partial<Supply> {
  const make: SupplyMake = reading.make ?? "enclosed";
  const kind = SUPPLY_KINDS[make];
  const rated = output.amps ? figure(output.amps) : undefined;
  return {
    outputV: figure(output.volts),
    outputOhm: make === "usb" ? typical(0.1) : typical(OUTPUT_OHM),
    make,
    overload: kind.overload,
    ...(make === "usb" ? { usbPort: usbPort(rated?.value ?? null) } : {}),
    ...(rated ? { ratedA: rated, limitA: typical(Number((rated.value * kind.peak).toPrecision(4))) } : {}),
    ...(reading.watts && reading.outputs.length > 1 ? { boxW: figure(reading.watts) } : {}),
  };
}
