import type { Build } from "../../figures/build";
import { wireName } from "../../figures/names";
import { capital, say } from "../../quantity/format";
import { ampacityOf } from "../../wires/ampacity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "parallel-wires",
  title: "Conductors in parallel",
  step: "by role",
  needs: "Conductors of one size, one length and one kind of end, or a single thicker one.",
});

/**
 * "I doubled it": conductors that differ do not share evenly, and when one comes off the rest carry everything while the
 * fuse was made for all of them. Building code allows it only from 1/0 up (NEC 310.10(G)); thinner pairs are machine practice.
 */
export const parallelWires = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  const { settings } = figures.machine;
  return figures.machine.wires.flatMap((wire): Verdict[] => {
    if (wire.parallel < 2 || wire.board) return [];
    const feed = wire.pair === undefined ? undefined : figures.wireOf.get(wire.pair);
    if (feed && feed.parallel === wire.parallel && feed.gauge === wire.gauge) return [];
    const figure = figures.wires[wire.id];
    const base = { wire };
    const name = capital(wireName(figures, wire));
    const found: Verdict[] = [];
    if (wire.unequal)
      found.push(
        speak({
          ...base,
          key: "unequal",
          severity: "fix",
          headline: `${name}: its ${wire.parallel} conductors do not share evenly`,
          detail:
            "Current divides by resistance, ends included: 3 mΩ against 1 mΩ of lug moves a fifth of it. Same length, size, lugs, torque and route for all.",
          remedies: [
            {
              label: "They are alike now",
              way: "fact",
              command: { type: "setFeed", id: wire.pair ?? wire.id, changes: { unequal: undefined } },
            },
          ],
        }),
      );
    const left = ampacityOf({ ...wire, parallel: wire.parallel - 1 }, settings);
    const guard = figure?.exposure;
    if (
      left &&
      guard &&
      Number.isFinite(guard.limitA) &&
      !guard.unknown &&
      guard.limitA <= (figure?.limitA ?? 0) &&
      guard.limitA > left.limitA
    )
      found.push(
        speak({
          ...base,
          key: "single",
          severity: "watch",
          headline: `${name}: one conductor off, and the fuse no longer protects the ${wire.parallel === 2 ? "other" : "rest"}`,
          detail: `What is left may carry ${say(left.limitA, "current", "down")}, and up to ${say(guard.limitA, "current")} may flow continuously. A fuse for each conductor (at both ends from three on), or a single thicker wire.`,
          compared: { amps: guard.limitA, limit: left.limitA },
        }),
      );
    return found;
  });
}
