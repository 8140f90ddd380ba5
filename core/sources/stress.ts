import type { Machine, Pack, Part } from "../machine/schema";
import { agedOhmFactor } from "../packs/chemistry";
import { chemistryOf } from "../reference/chemistries";

/** A pack at the end of its life: the capacity its chemistry is replaced at, and the resistance that goes with it. */
function agedPack(pack: Pack): Pack {
  if (pack.chemistry === undefined) return pack;
  const chemistry = chemistryOf(pack.chemistry);
  const health = pack.health?.value ?? 1;
  if (chemistry.ageing >= health) return pack;
  const grown = agedOhmFactor(chemistry, chemistry.ageing) / agedOhmFactor(chemistry, health);
  const measured = pack.internalOhm?.provenance === "measured";
  return {
    ...pack,
    health: { value: chemistry.ageing, provenance: "typical" },
    // A reading stands for the pack as it is today, so its growth has to be put into it.
    ...(pack.internalOhm && measured ? { internalOhm: { ...pack.internalOhm, value: pack.internalOhm.value * grown } } : {}),
  };
}

/** The same machine with its packs aged, on a day of `ambientC`; null when that changes nothing. */
export function stressed(machine: Machine, ambientC: number): Machine | null {
  const parts = machine.parts.map((part): Part => (part.kind === "pack" ? agedPack(part) : part));
  if (ambientC === machine.settings.ambientC && parts.every((part, i) => part === machine.parts[i])) return null;
  return { ...machine, settings: { ...machine.settings, ambientC }, parts };
}
