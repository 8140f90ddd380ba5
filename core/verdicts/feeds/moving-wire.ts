import type { Build } from "../../figures/build";
import { wireName } from "../../figures/names";
import type { Wire } from "../../machine/schema";
import { capital } from "../../quantity/format";
import { insulationById } from "../../reference/insulation";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "moving-wire",
  title: "Wire across a moving joint",
  step: "by role",
  needs: "A wire made for bending, held on both sides of the joint.",
});

/** A conductor that moves wants fine strands, a relief at both sides and insulation that does not tear (handbook section 8). */
export const movingWire = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  return figures.machine.wires.flatMap((wire): Verdict[] => {
    if (!wire.moves || (wire.pair !== undefined && figures.wireOf.get(wire.pair)?.moves)) return [];
    const base = { wire };
    const name = capital(wireName(figures, wire));
    const set = (label: string, changes: Partial<Pick<Wire, "strand" | "relief">>) => ({
      label,
      command: { type: "setFeed" as const, id: wire.pair ?? wire.id, changes },
    });
    const found: Verdict[] = [];
    if (wire.strand !== "fine")
      found.push(
        speak({
          ...base,
          key: "strand",
          severity: wire.strand === undefined ? "ask" : wire.strand === "solid" ? "stop" : "fix",
          headline:
            wire.strand === undefined ? `${name}: which strands cross the joint?` : `${name}: ${wire.strand} wire across a moving joint`,
          detail:
            "Bending breaks coarse strands one after the other, inside the insulation, until the last ones carry it all. Class 6 (finest) strands bear it.",
          remedies: [
            {
              ...set(wire.strand === undefined ? "It is fine-stranded, class 6" : "Use fine-stranded wire, class 6", { strand: "fine" }),
              ...(wire.strand === undefined ? { way: "fact" as const } : {}),
            },
          ],
        }),
      );
    if (!wire.relief)
      found.push(
        speak({
          ...base,
          key: "relief",
          severity: wire.relief === undefined ? "ask" : "fix",
          headline: `${name}: ${wire.relief === undefined ? "is it held on both sides of the joint?" : "nothing holds it beside the joint"}`,
          detail:
            "Fix the wire within 10 to 15 times its diameter of each connector, and let a loop bend, not twist, across the axis; no tie and no joint at the moving point (common practice).",
          remedies: [{ ...set("It is held on both sides", { relief: true }), way: "fact" as const }],
        }),
      );
    if (insulationById(wire.insulation)?.abrasion === "poor" && wire.surroundings !== "sleeve")
      found.push(
        speak({
          ...base,
          key: "wall",
          severity: "watch",
          headline: `${name}: its insulation tears where it rubs`,
          detail: "Silicone wire bends well and nicks easily. A sleeve over it settles that (and lets it carry a fifth less).",
        }),
      );
    return found;
  });
}
