import type { Build } from "../../figures/build";
import { gaugeText, wireName } from "../../figures/names";
import type { Wire } from "../../machine/schema";
import { isReturnBar, isSource } from "../../machine/terminals";
import { capital, say } from "../../quantity/format";
import { gaugeById } from "../../reference/gauges";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "light-return",
  title: "A return lighter than its supply",
  step: "returns",
  needs: "A return as strong as its feed.",
});

/** Every ampere comes back: returns with less copper than the conductor that brought it. */
export const lightReturn = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  return figures.machine.wires.flatMap((wire): Verdict[] => {
    const supply = wire.role === "return" ? supplyOf(figures, wire) : undefined;
    const [own, out] = [copper(wire), supply && copper(supply)];
    if (!supply || !own || !out || own > out * 0.99) return [];
    const limit = figures.wires[wire.id]?.limitA;
    return [
      speak({
        wire,
        severity: "watch",
        headline: `${capital(wireName(figures, wire))}: ${gaugeText(wire)} under ${gaugeText(supply)}`,
        detail: `What comes by the ${wireName(figures, supply)} goes home by it${limit == null ? "" : `, and it may carry ${say(limit, "current", "down")}`}. It is lost twice over: as drop, and as an offset that signals feel.`,
        compared: { mm2: own, limit: out },
        remedies:
          supply.gauge === undefined
            ? []
            : [
                {
                  label: `Use ${gaugeText(supply)}`,
                  command: { type: "updateWire", id: wire.id, changes: { gauge: supply.gauge, parallel: supply.parallel } },
                },
              ],
      }),
    ];
  });
}

function copper(wire: Wire): number | null {
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  return gauge ? gauge.areaMm2 * wire.parallel : null;
}

/** The conductor out that a return answers: its pair, or the trunk of the source that a bar comes home to. */
function supplyOf(figures: Build, wire: Wire): Wire | undefined {
  if (wire.pair !== undefined) return figures.wireOf.get(wire.pair);
  const source = figures.partOf.get(wire.to.part);
  if (!source || !isSource(source) || !isReturnBar(figures.partOf.get(wire.from.part))) return undefined;
  const trunks = figures.machine.wires.filter((each) => each.role === "supply" && each.from.part === source.id);
  const returns = figures.machine.wires.filter((each) => each.role === "return" && each.to.part === source.id);
  // With several trunks or several ways home none answers another alone.
  return trunks.length === 1 && returns.length === 1 ? trunks[0] : undefined;
}
