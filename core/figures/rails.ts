import type { BuiltPart, Source } from "../machine/schema";
import { stringVolts } from "../machine/strings";
import { isSource } from "../machine/terminals";
import { railOrigin, setVolts } from "../machine/tree";
import type { OperatingPoint } from "../network/point";
import { type Build, perBuild, perBuildOf } from "./build";
import { givingTo } from "./part-plan";

/** Volts of the rail a part hangs on, the base of its drop in percent; 0 where it hangs on none. */
export function railVolts(build: Build, partId: string): number {
  return outputVolts(build, build.partOf.get(railOrigin(build.ledger, partId) ?? ""));
}

function outputVolts(build: Build, source: BuiltPart | undefined): number {
  return source?.kind === "pack" ? stringVolts(build.machine, source) : setVolts(source);
}

const sourcesOf = perBuild((build) => new Map(build.plans.map(({ id, sources }) => [id, sources])));

/** Whether a part's rail has several sources, so that another one may feed it in another mode. */
export function sharesRail(build: Build, partId: string): boolean {
  return (sourcesOf(build).get(partId)?.length ?? 0) > 1;
}

/** What feeds a part at an operating point, and its volts: the base of the drop there. */
export function railIn(build: Build, partId: string, point: OperatingPoint): { source: BuiltPart | null; volts: number } {
  const giving = givingTo(sourcesOf(build).get(partId) ?? [], point);
  const source = (giving && build.partOf.get(giving.id)) ?? null;
  return { source, volts: source ? outputVolts(build, source) : 0 };
}

/** Highest voltage a part can see, V, with what is known; falls back on its rail's own figure where nothing reaches it. */
export function railMaxV(build: Build, part: BuiltPart | undefined): number {
  if (!part) return 0;
  return build.parts[part.id]?.reachesV ?? railVolts(build, part.id);
}

/** The source at the head of a part's rails. */
export const primarySource = perBuildOf((figures, partId): Source | null => {
  let at = partId;
  for (let step = 0; step < figures.machine.parts.length; step++) {
    const originId = railOrigin(figures.ledger, at);
    const origin = originId === null ? undefined : figures.partOf.get(originId);
    if (!origin) return null;
    if (isSource(origin)) return origin;
    const above = figures.ledger.rowOf.get(origin.id);
    if (!above?.parent || above.parent === at) return null;
    at = above.rail?.origin === origin.id ? above.parent : origin.id;
    if (at === origin.id && railOrigin(figures.ledger, at) === origin.id) return null;
  }
  return null;
});
