import { contactRating } from "../../connectors/contact";
import { setEnd } from "../../connectors/ends";
import { sitesOf } from "../../figures/end-sites";
import type { Figures } from "../../figures/figures";
import { wireName } from "../../figures/names";
import { say } from "../../quantity/format";
import { airAround } from "../../wires/ampacity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "return-rings",
  title: "A rotary joint whose return cannot lose a ring",
  step: "returns",
  needs: "One of the ways around the ring opened.",
});

/**
 * Return rings carry the sum of all rails. When one lifts off, the rest must bear it all, and where there is no other the signal
 * rings do. Joints without any ring to spare are told; more than their rings carry is the connector rule's to say.
 */
export const returnRings = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  const talking = new Set((figures.machine.signals ?? []).flatMap(({ from, to }) => [from, to]));
  return sitesOf(figures).flatMap((site): Verdict[] => {
    const { wire, at, row, end } = site;
    const figure = figures.wires[wire.id];
    if (row.sort !== "rotary" || wire.role !== "return" || !figure) return [];
    const rating = contactRating(row, at, airAround(wire, figures.machine.settings));
    const rings = at.perPole ?? 1;
    const amps = figure.worstContinuous.amps;
    if (!rating || amps === 0 || amps > rating.limitA) return [];
    const left = rings - 1;
    const bears = left === 0 ? 0 : rating.contactA * left * (left > 1 ? rating.limitA / (rating.contactA * rings) : 1);
    if (amps <= bears || (left === 0 && !talking.has(wire.from.part))) return [];
    const more = { ...at, perPole: rings + 1, loaded: Math.min(64, 2 * (rings + 1)) };
    return [
      speak({
        wire,
        about: `${wire.id}:${end}`,
        severity: "watch",
        headline:
          left === 0
            ? `The ${wireName(figures, wire)} crosses the joint on one ring`
            : `One return ring lost leaves ${say(amps, "current", "up")} on rings for ${say(bears, "current", "down")}`,
        detail:
          left === 0
            ? "When its brush lifts, the only way home is through the signal rings. As many and as heavy return rings as all supplies together, and one to spare."
            : "Brushes lift and wear. The return carries the sum of all rails: one ring more than needed keeps the rest within what they bear (common practice).",
        compared: { amps, limit: bears },
        remedies:
          more.perPole <= Math.floor(row.maxPoles / 2)
            ? [{ label: `${more.perPole} rings for the return`, command: setEnd(site, more) }]
            : [],
      }),
    ];
  });
}
