import { blade } from "@/demo/plan";

/** Feeds between two bars, each with a blade fuse at its start. */
export const fromBars = (from: string, back: string, insulation: string) => (gauge: string, m: number, ratingA: number) => ({
  from,
  back,
  gauge,
  insulation,
  m,
  fuse: blade(ratingA),
});
