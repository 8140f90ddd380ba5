import type { UnguardedRun } from "../../faults/unguarded";
import type { FaultWalk } from "../../faults/walk";
import type { Build } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { fuseSites } from "../../figures/fuse-sites";
import { gaugeText, wireEnds } from "../../figures/names";
import { BARE_M, SHEATHED_M } from "../../fuses/place";
import type { Wire } from "../../machine/schema";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Severity, Verdict } from "../types";

const speak = speaker({
  id: "fuse-place",
  title: "Fuse out of reach or too far along",
  step: "feeds",
  needs: "A fuse right at the plus terminal, or less wire before it: where it sits only you can move.",
});

/**
 * Where fuses sit: reachable without dismantling, and at the start of what they protect. What lies before a fuse is judged by
 * what a short there does to it until something further up ends it. Where nothing does, a short bare piece is accepted, and a
 * longer one where it is sheathed (ABYC E-11, from memory).
 */
export const fusePlace = rule({ speak, reads: "shorts", evaluate });

function evaluate(figures: Figures, walk: FaultWalk): Verdict[] {
  return [
    ...outOfReach(figures),
    ...Object.entries(walk.before).flatMap(([id, run]): Verdict[] => {
      const wire = figures.wireOf.get(id);
      return wire ? judge(figures, wire, run) : [];
    }),
  ];
}

function outOfReach(figures: Build): Verdict[] {
  return fuseSites(figures).flatMap((site): Verdict[] =>
    site.fuse.outOfReach
      ? [
          speak({
            subject: site.subject,
            key: "reach",
            severity: "watch",
            headline: `${site.name}: its fuse cannot be reached without taking things apart`,
            detail: "The one that opens is the one behind the panel. A fuse block where a hand gets to it, or a spare way in and out.",
          }),
        ]
      : [],
  );
}

function judge(figures: Build, wire: Wire, run: UnguardedRun): Verdict[] {
  if (run.runM <= BARE_M) return [];
  const sheathed = wire.surroundings === "sleeve" && run.runM <= SHEATHED_M;
  const found = sheathed ? accepted(run) : severityOf(run);
  if (!found) return [];
  const length = say(run.runM, "length", "up");
  const fuse = wire.fuse;
  return [
    speak({
      wire,
      key: "run",
      severity: found.severity,
      headline: `${length} of wire before ${fuse ? "its" : "the first"} fuse: ${found.says}`,
      detail: `A short at the end of it, ${wireEnds(figures, wire)}, drives ${say(run.amps, "current", "up")} through ${gaugeText(wire)}, ${until(run)}${found.ask ? `. ${found.ask}` : ""}. Up to ${say(BARE_M, "length", "down")} is accepted bare, up to ${say(SHEATHED_M, "length", "down")} sheathed and well fixed (boat practice).`,
      compared: { metres: run.runM, limit: BARE_M },
      remedies: fuse
        ? [
            {
              label: "The fuse moves to the start of the wire",
              command: { type: "updateWire", id: wire.id, changes: { fuse: { ...fuse, atM: 0 } } },
            },
          ]
        : nearer(wire, run.runM),
    }),
  ];
}

/** A part that stands closer to its source, or the same run sheathed where its practice accepts that. */
function nearer(wire: Wire, runM: number): Remedy[] {
  const { lengthM } = wire;
  const leftM = lengthM ? Math.floor((BARE_M - (runM - lengthM.value)) * 100) / 100 : 0;
  const shorter: Remedy[] =
    lengthM && leftM > 0
      ? [
          {
            label: `Move it closer: ${say(leftM, "length", "down")} of wire at most`,
            command: { type: "setFeed", id: wire.pair ?? wire.id, changes: { lengthM: { ...lengthM, value: leftM } } },
          },
        ]
      : [];
  if (runM > SHEATHED_M || wire.surroundings === "sleeve") return shorter;
  return [
    ...shorter,
    { label: "Sheathe it and fix it well", command: { type: "updateWire", id: wire.id, changes: { surroundings: "sleeve" } } },
  ];
}

function until({ seconds, opens, held }: UnguardedRun): string {
  if (seconds !== null) return `until what stands before it opens, ${say(seconds, "time", "up")} at most`;
  if (held) return "held by the source's own limit, for as long as it lasts";
  return opens ? "and what stands before it does not end all of it" : "and nothing before it opens";
}

interface Found {
  severity: Severity;
  says: string;
  ask?: string;
}

/** Sheathed as its practice wants it: told only where nothing would end a short. */
function accepted({ seconds, held }: UnguardedRun): Found | null {
  return seconds !== null || held ? null : { severity: "watch", says: "sheathed, and a short in it is ended by nothing" };
}

function severityOf({ fate, seconds, held, unknown }: UnguardedRun): Found | null {
  const ends = seconds !== null;
  switch (fate.fate) {
    case "burns":
      return { severity: "stop", says: "a short there burns it" };
    case "overheats":
      return { severity: "stop", says: "a short there overheats it and is ended by nothing" };
    case "unknown":
      return {
        severity: "ask",
        says: "what would a short there do to it?",
        ask: "Its size and its insulation's short-circuit temperature tell",
      };
    case "bears":
      if (unknown)
        return { severity: "ask", says: "what would a short there do to it?", ask: "The source's resistance or limit is not known" };
      return ends || held ? null : { severity: "fix", says: "a short there is ended by nothing" };
  }
}
