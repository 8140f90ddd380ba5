import { bankJ, inrushA, needsPrecharge } from "../../connectors/precharge";
import type { FaultWalk } from "../../faults/walk";
import { behindBranch } from "../../figures/behind-contact";
import { branchOf } from "../../figures/build";
import { sitesOf } from "../../figures/end-sites";
import type { Figures } from "../../figures/figures";
import { wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { capital, say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "plug-inrush",
  title: "Plugging in charges empty capacitors",
  step: "feeds",
  needs: "A plug with a precharge contact, or a contact before it that is opened first.",
});

/** Plugging in is switching on: a plug between a source and empty capacitors, with no contact before it that is opened first. */
export const plugInrush = rule({ speak, reads: "shorts", evaluate });

/** Bus volts from which drivers' unknown capacitors are asked for. */
const ASK_V = 20;

function evaluate(figures: Figures, walk: FaultWalk): Verdict[] {
  const said = new Set<string>();
  return sitesOf(figures).flatMap(({ wire, row }): Verdict[] => {
    if (row.sort !== "plug" || wire.role !== "supply" || said.has(wire.id)) return [];
    said.add(wire.id);
    const behind = behindBranch(figures.solved.circuit, branchOf(figures).get(wire.id) ?? -1);
    const part = figures.partOf.get(wire.to.part);
    if (!behind || !part) return [];
    const volts = railMaxV(figures, part);
    const name = `plug in the ${wireName(figures, wire)}`;
    const first = "A contact before it that is opened first, a plug with a precharge contact, or a resistor touched first.";
    if (behind.unsaid.length > 0 && volts >= ASK_V && !needsPrecharge(behind.farads, volts))
      return [
        speak({
          wire,
          key: "ask",
          severity: "ask",
          also: behind.unsaid.map(({ id }) => id),
          headline: `${capital(name)}: what capacitors sit behind it?`,
          detail: `${behind.unsaid.map((each) => each.name).join(", ")}: nothing switches them off before the plug is pushed in, so it makes onto whatever is at their inputs, at ${say(volts, "voltage", "up")}. The large round capacitors have their µF printed on them.`,
        }),
      ];
    if (!needsPrecharge(behind.farads, volts)) return [];
    const shortA = walk.results
      .filter(({ place, bolted }) => bolted && place === part.id)
      .reduce((most, { mostA }) => Math.max(most, mostA), 0);
    const joules = bankJ(behind.farads, volts);
    return [
      speak({
        wire,
        severity: "fix",
        also: behind.with.map(({ id }) => id),
        headline: `${capital(name)} makes onto empty capacitors`,
        detail: `${say(behind.farads, "capacitance")} at ${say(volts, "voltage", "up")} take ${say(joules, "energy", "up")}${shortA > 0 ? ` and up to ${say(inrushA(behind.farads, volts, volts / shortA), "current", "up")} for an instant` : ""}: the spark pits the contacts each time. ${first}`,
        compared: { joules },
      }),
    ];
  });
}
