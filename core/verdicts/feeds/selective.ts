import type { FaultWalk } from "../../faults/walk";
import { deviceName, placeName } from "../../faults/words";
import type { Figures } from "../../figures/figures";
import { capital } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "selective",
  title: "A short may open more than its own fuse",
  step: "feeds",
  needs: "A fuse behind it that opens sooner.",
});

/** Fuses that may open together with the one nearer to a short, even by the curves between their gates. */
export const selective = rule({ speak, reads: "shorts", evaluate });

function evaluate(figures: Figures, walk: FaultWalk): Verdict[] {
  const behind = new Map<string, { far: { kind: "wire" | "part"; id: string }; near: Set<string>; place: string }>();
  // What is shorted at its own posts is lost whichever fuse opens.
  const posts = new Set(walk.places.flatMap((place) => (place.posts ? [place.id] : [])));
  for (const result of walk.results) {
    if (!result.bolted || !result.opens || posts.has(result.place)) continue;
    for (const { kind, id: far, selectivity } of result.along) {
      if (selectivity !== "no") continue;
      const own = behind.get(`${kind} ${far}`) ?? { far: { kind, id: far }, near: new Set<string>(), place: result.place };
      own.near.add(deviceName(figures, result.opens));
      behind.set(`${kind} ${far}`, own);
    }
  }
  return [...behind.values()].map(({ far, near, place }) => {
    const fuse = far.kind === "part" ? partFuse(figures, far.id) : figures.wireOf.get(far.id)?.fuse;
    const name = fuse ? deviceName(figures, { ...far, fuse }) : "a fuse";
    const list = [...near];
    return speak({
      subject: far,
      cause: null,
      severity: "watch",
      headline: `${capital(name)} may open together with ${list[0]}${list.length > 1 ? ` (and ${list.length - 1} more)` : ""}`,
      detail: `On a short at ${placeName(figures, place)} both may be open before it is over, and everything behind the larger one goes dark. Gates of fuses are wide: about 1 to 2.8 within blade fuses, 1 to 3.2 within strips; a real curve may show that less is enough.`,
    });
  });
}

function partFuse(figures: Figures, partId: string) {
  const part = figures.partOf.get(partId);
  return part?.kind === "fuse" ? part.fuse : undefined;
}
