import type { Run, RunEnd, RunTimes } from "./run";

/** What ended a run, as a clause: "the pack's cut-off acts in Start both". */
export function endWords(end: RunEnd, nameOf: (id: string) => string, modeOf: (mode: number) => string): string {
  const part = end.part === null ? "" : nameOf(end.part);
  switch (end.cause) {
    case "cut-off":
      return `${part} cuts off under load in ${modeOf(end.mode)}`;
    case "reserve":
      return `${part} is down to its reserve`;
    case "peukert":
      return `${part} has no more to give at this current`;
    case "converter":
      return `${part} falls below its least input in ${modeOf(end.mode)}`;
    case "regulator":
      return `the regulator on ${part} falls below its least input in ${modeOf(end.mode)}`;
    case "part":
      return `${part} falls below its least volts in ${modeOf(end.mode)}`;
    case "collapse":
      return `the voltage collapses in ${modeOf(end.mode)}`;
    case "done":
      return "the mission is done";
    case "endless":
      return "nothing ends it";
  }
}

/** The run that a wish is about: the mission, else the mode without a time limit that ends first. */
export function wishedRun(times: RunTimes): { run: Run; mode: number | null } | null {
  if (times.mission) return { run: times.mission, mode: null };
  const shortest = times.alone.reduce<(typeof times.alone)[number] | null>(
    (best, each) => (best === null || each.run.end.seconds < best.run.end.seconds ? each : best),
    null,
  );
  return shortest && { run: shortest.run, mode: shortest.mode };
}
