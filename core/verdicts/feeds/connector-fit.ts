import { familiesThatSuit, plainEnd } from "../../connectors/choose";
import { wireFit } from "../../connectors/contact";
import { mateEnd, setEnd } from "../../connectors/ends";
import { branchOf } from "../../figures/build";
import { sitesOf } from "../../figures/end-sites";
import { briefThrough } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import { gaugeText, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { capital, inSentence, say, withArticle } from "../../quantity/format";
import { gaugeById } from "../../reference/gauges";
import { airAround } from "../../wires/ampacity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "connector-fit",
  title: "Wire or voltage does not suit the connector",
  step: "by role",
  needs: "A connector that takes this wire and these volts: a part only you can choose.",
});

/** Wire range and voltage of each connector. */
export const connectorFit = rule({ speak, reads: "figures", sized: true, evaluate });

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const { wire, end, at, row } of sitesOf(figures)) {
    const mate = wire.pair === undefined ? undefined : figures.wireOf.get(wire.pair);
    if (mateEnd(mate, end)?.family === at.family && mate?.gauge === wire.gauge && mate?.parallel === wire.parallel) continue;
    const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
    const volts = railMaxV(figures, figures.partOf.get(wire.role === "return" ? wire.from.part : wire.to.part));
    const fit = gauge ? wireFit(row, gauge, wire.parallel, at.perPole ?? 1) : "fits";
    if (fit === "fits" && volts <= row.maxV) continue;
    const figure = figures.wires[wire.id];
    const need = gauge && {
      amps: figure?.worstContinuous.amps ?? 0,
      brief: briefThrough(figures, wire.id, branchOf(figures).get(wire.id) ?? -1),
      volts,
      airC: airAround(wire, figures.machine.settings),
      gauge,
      parallel: wire.parallel,
    };
    const [better] = need ? familiesThatSuit(row, at, need) : [];
    const remedies: Remedy[] = better
      ? [
          {
            label: `Use ${better.name}`,
            command: setEnd({ wire, end }, plainEnd(better.id, at)),
          },
        ]
      : [];
    const base = { wire, remedies };
    if (volts > row.maxV) {
      verdicts.push(
        speak({
          ...base,
          key: "volts",
          about: `${wire.id}:${end}`,
          severity: "fix",
          headline: `${row.name}: made for ${row.maxV} V, the rail reaches ${say(volts, "voltage", "up")}`,
          detail: `At the ${wireName(figures, wire)}. Typical of its family; the part's own sheet may allow more.`,
          compared: { volts, limit: row.maxV },
        }),
      );
      continue;
    }
    verdicts.push(
      speak({
        ...base,
        about: `${wire.id}:${end}`,
        severity: "fix",
        headline: `${capital(wireName(figures, wire))}: ${gaugeText(wire)} is ${fit} for ${withArticle(inSentence(row.name))}`,
        detail: `It takes ${row.awgThinnest} to ${row.awgThickest} AWG (${row.mm2Min} to ${row.mm2Max} mm²) a contact. ${
          fit === "too thick"
            ? "Cut strands or pliers instead of a die make a joint that runs warm and pulls out"
            : "A thin wire is not held by the crimp and pulls out"
        }.`,
      }),
    );
  }
  return verdicts;
}
