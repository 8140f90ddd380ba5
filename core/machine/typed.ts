import { parseQuantity } from "../quantity/parse";
import { FUSE_FAMILIES, type FuseFamilyId, ratingsOf } from "../reference/fuses";
import { type Gauge, parseGauge } from "../reference/gauges";
import type { Cell, FuseRef } from "./schema";

/** What a typed text means, or a message to show beside its field. */
export type Typed<T> = { ok: true; value: T } | { ok: false; message: string };

/**
 * A load's current in one mode: "2.3A", "800 mA", "250W @ 24V", "off", or nothing for a figure not known yet.
 * Watts alone are taken at the load's own volts. What is typed counts as a guess until the builder says more.
 */
export function parseCell(text: string, nominalV: number): Typed<Cell | null> {
  const trimmed = text.trim();
  if (trimmed === "" || trimmed === "?") return { ok: true, value: null };
  if (/^off$/i.test(trimmed)) return { ok: true, value: { state: "off" } };
  const watts = /w(att)?s?$/i.test(trimmed) && !trimmed.includes("@") ? `${trimmed} @ ${nominalV} V` : trimmed;
  const parsed = parseQuantity(watts, "current");
  return parsed.ok ? { ok: true, value: { state: "amps", amps: { value: parsed.value, provenance: "guess" } } } : parsed;
}

/** Families tried for a bare rating when there is no fuse yet. */
const FIRST_CHOICES: readonly FuseFamilyId[] = ["blade_regular_32v", "blade_maxi_32v", "strip_m5_58v", "strip_m8_70v"];

/** A fuse as typed in a cell: "25", "25 A" or "none"; of the family already there, else of the first that makes it. */
export function parseFuse(text: string, present: FuseRef | undefined): Typed<FuseRef | null> {
  if (/^(|-|–|none|no)$/i.test(text.trim())) return { ok: true, value: null };
  const parsed = parseQuantity(text, "current");
  if (!parsed.ok) return parsed;
  const families = present ? [present.family] : FIRST_CHOICES;
  const family = families.find((each) => ratingsOf(each).includes(parsed.value));
  if (family) return { ok: true, value: { family, ratingA: parsed.value } };
  const shown = present?.family ?? "blade_regular_32v";
  return {
    ok: false,
    message: `A ${FUSE_FAMILIES[shown].name} fuse is made in ${ratingsOf(shown).join(", ")} A. Choose another family below.`,
  };
}

/** A conductor size as typed, as the id of the gauge table. */
export function parseSize(text: string): Typed<Gauge["id"]> {
  const gauge = parseGauge(text);
  return gauge ? { ok: true, value: gauge.id } : { ok: false, message: `"${text.trim()}" is not a wire size. Write 14 AWG or 2.5 mm2.` };
}
