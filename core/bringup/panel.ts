import { uncertaintyOf } from "./compare";
import { type Trim, type TrimPoint, trimOf } from "./derive";
import type { Reading } from "./log";

/** Readings of a panel meter name this step; what the reference showed stands in `expected`. */
export const PANEL_STEP = "panel";

/** Cheap panel meters are off by this share and a last digit as they come (handbook grounding section 10, no source). */
const PANEL_SHARE = 0.01;
const PANEL_DIGIT_V = 0.1;

/** A panel meter against the reference it was compared with, as far as it was read; null where it was not. */
export function panelOf(readings: readonly Reading[]): { points: TrimPoint[]; trim: Trim; allowed: number } | null {
  const points = readings.flatMap((reading): TrimPoint[] => {
    const { step, struck, value, expected } = reading;
    if (step !== PANEL_STEP || struck || value === null || expected === null) return [];
    return [{ shown: value, reference: { value: expected, u: uncertaintyOf({ ...reading, value: expected }) } }];
  });
  const trim = trimOf(points);
  if (!trim) return null;
  const most = Math.max(...points.map(({ reference }) => Math.abs(reference.value)));
  return { points, trim, allowed: PANEL_SHARE * most + PANEL_DIGIT_V + trim.referenceU };
}
