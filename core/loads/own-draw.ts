import type { BuiltLoad } from "../machine/schema";
import type { LoadKind } from "../reference/load-kinds";

/** Start of a load that is switched directly: times its running current, and how long it lasts, s (handbook practice section 2, from memory, ±30 %). */
export const START_TIMES: Readonly<Partial<Record<LoadKind, { readonly times: number; readonly seconds: number }>>> = {
  motor: { times: 4, seconds: 0.4 },
  pump: { times: 3, seconds: 0.2 },
  fan: { times: 3, seconds: 0.3 },
  actuator: { times: 2.3, seconds: 0.15 },
};

/** Share of its printed bus limit that a brushless drive counts as if it lasted: its fuse is 1.15 times the limit (handbook practice section 4). */
const LIMIT_SHARE = 0.855;
/** Share of its stall that a servo counts on its own feed: it holds as well as moves (handbook practice section 9). */
const SERVO_SHARE = 0.35;
/** Share of its phase current that a stepper's feed counts: it takes most at speed (handbook practice section 2: 0.5 to 0.67). */
const PHASE_SHARE = 0.65;
/** Share of all stalls that a group of servos takes as it is switched on, and how long, s (handbook practice section 2). */
const SERVO_POWER_UP = { share: 0.5, seconds: 0.2 } as const;
/** Length of a start of which only the current is known, s: until it turns (common practice, no source). */
const START_S = 0.3;

/** Current all pieces of a load draw for good when they run, A, whatever its modes plan; null where that is not known. */
export function ownDraw({ levels, count, loadKind, stepper }: BuiltLoad): number | null {
  const run = levels?.run?.value;
  const limit = loadKind === "brushless" ? levels?.start?.value : undefined;
  const held = loadKind === "servo" ? levels?.stall?.value : undefined;
  const phase = loadKind === "stepper" ? stepper?.ratedA?.value : undefined;
  if (run === undefined && limit === undefined && held === undefined && phase === undefined) return null;
  return Math.max(run ?? 0, (limit ?? 0) * LIMIT_SHARE, (held ?? 0) * SERVO_SHARE, (phase ?? 0) * PHASE_SHARE) * count;
}

/** Start of all pieces of a load that is switched directly: as told, else usual for its kind and never above its stall; null: it has none. */
export function ownStart({ levels, count, loadKind }: BuiltLoad): { amps: number; seconds: number } | null {
  const usual = START_TIMES[loadKind];
  const run = levels?.run?.value;
  const told = levels?.start?.value;
  if (loadKind === "brushless") return null;
  const stall = levels?.stall?.value;
  if (loadKind === "servo")
    return stall === undefined ? null : { amps: stall * Math.max(1, count * SERVO_POWER_UP.share), seconds: SERVO_POWER_UP.seconds };
  if (told !== undefined) return { amps: told * count, seconds: usual?.seconds ?? (loadKind === "light" ? FILAMENT_S : START_S) };
  if (!usual || run === undefined) return null;
  return { amps: Math.min(run * usual.times, levels?.stall?.value ?? Number.POSITIVE_INFINITY) * count, seconds: usual.seconds };
}

/** A filament is warm after this, s (handbook practice section 2, from memory). */
const FILAMENT_S = 0.03;
