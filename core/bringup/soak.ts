import { settlesAt } from "./derive";
import type { JudgedStage } from "./judge";
import { SOAK_MINUTES } from "./stages/work";

/** Where a wire's temperature ends by its three readings; null before there are three, and where they do not settle. */
export function soakEnd({ steps }: Pick<JudgedStage, "steps">, stepId: string): { endC: number; tauS: number } | null {
  const place = /^(soak:wire \S+) \d+$/.exec(stepId)?.[1];
  if (place === undefined) return null;
  const points = SOAK_MINUTES.flatMap((minutes) => {
    const reading = steps.find(({ step }) => step.id === `${place} ${minutes}`)?.reading;
    return reading?.value == null ? [] : [{ s: 60 * minutes, celsius: reading.value }];
  });
  const [first, middle, last] = points;
  return first && middle && last ? settlesAt(first, middle, last) : null;
}
