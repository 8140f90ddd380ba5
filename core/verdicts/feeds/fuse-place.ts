import { capBefore } from "../../figures/before-fuse";
import type { Build } from "../../figures/build";
import { fuseSites } from "../../figures/fuse-sites";
import { BARE_M, SHEATHED_M } from "../../fuses/place";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "fuse-place", title: "Fuse out of reach or too far along", step: "feeds" });

/**
 * Where fuses sit: reachable without dismantling, and at the start of what they protect. What lies before a fuse is
 * protected by the one upstream, or by being short and well fixed (ABYC E-11, from memory; IEC 60364-4-43 cl. 433.2).
 */
export const fusePlace = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const site of fuseSites(figures)) {
    const base = { subject: site.subject };
    if (site.fuse.outOfReach)
      verdicts.push(
        speak({
          ...base,
          key: "reach",
          severity: "watch",
          headline: `${site.name}: its fuse cannot be reached without taking things apart`,
          detail: "The one that opens is the one behind the panel. A fuse block where a hand gets to it, or a spare way in and out.",
        }),
      );
    const atM = site.fuse.atM ?? 0;
    if (!site.wire || site.subject.kind !== "wire" || atM <= BARE_M) continue;
    const before = capBefore(figures, site.wire);
    const bears = figures.wires[site.wire.id]?.ampacity?.fuseLimitA;
    if (bears === undefined || before <= bears) continue;
    const run = say(atM, "length", "up");
    verdicts.push(
      speak({
        ...base,
        key: "run",
        severity: atM > SHEATHED_M ? "stop" : "fix",
        headline: `${site.name}: ${run} of wire before its fuse`,
        detail: `${Number.isFinite(before) ? `Before it only a fuse that lets ${say(before, "current")} through stands` : "Nothing stands before it"}, and the wire may carry ${say(bears, "current", "down")}. Up to ${say(BARE_M, "length")} is accepted, sheathed and well fixed up to ${say(SHEATHED_M, "length", "down")}.`,
        compared: { metres: atM, limit: BARE_M },
        remedies: [
          {
            label: "The fuse moves to the start of the wire",
            command: { type: "updateWire", id: site.wire.id, changes: { fuse: { ...site.fuse, atM: 0 } } },
          },
        ],
      }),
    );
  }
  return verdicts;
}
