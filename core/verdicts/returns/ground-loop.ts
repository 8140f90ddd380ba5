import { type Build, perBuildFrom } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { gaugeText, inMode, partName, wireName } from "../../figures/names";
import type { Wire } from "../../machine/schema";
import { capital, say } from "../../quantity/format";
import { secondReturns, signalGrounds, thinGrounds } from "../../returns/loops";
import { settledTemperature } from "../../wires/ampacity";
import { loopCures } from "../link-remedies";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Severity, Verdict } from "../types";
import { heatWords, lastingSeverity } from "../wire-heat";

const speak = speaker({
  id: "ground-loop",
  title: "A reference made twice, or a signal ground that carries motor current",
  step: "returns",
  needs: "One of the two ways home taken away, or the link isolated.",
});

const speakOfGround = speaker({
  id: "signal-ground",
  title: "A signal ground that carries more than it bears",
  step: "returns",
  needs: "One of the two ways home taken away, or the link isolated.",
});

/** Signal grounds and shields with the current they carry, and second ways home of one part. */
export const groundLoop = rule({ speak, others: [speakOfGround], reads: "figures", evaluate });

/** Share of a rating from which little is left. */
const WATCH_FROM = 0.8;

/** Less than this in a thin ground is no concern of anybody, A: ten milliamps over an ohm are ten millivolts. */
const NOTHING_A = 0.01;

function evaluate(figures: Figures): Verdict[] {
  return [
    ...signalGrounds(figures).flatMap(({ wire, worst, unsure }) => ofSignal(figures, wire.id, unsure, worst.amps, worst.mode, worst.low)),
    ...secondReturns(figures).map((chord) => twice(figures, chord.wire)),
  ];
}

const ofSignal = perBuildFrom((figures, wireId, unsure: boolean, amps: number, mode: number, low: boolean): readonly Verdict[] => {
  const ground = thinGrounds(figures).get(wireId);
  if (!ground) return [];
  const { wire, chord, limitA } = ground;
  const worst = { amps, mode, low };
  const name = wireName(figures, wire);
  const base = { wire, also: [wire.from.part, wire.to.part], compared: { amps: worst.amps } };
  if (limitA !== null && worst.amps > limitA * WATCH_FROM) {
    const over = worst.amps > limitA;
    return [
      speakOfGround({
        ...base,
        severity: over ? groundSeverity(figures, wire, worst.amps) : "watch",
        headline: `${capital(name)}: ${say(worst.amps, "current", "up")} of motor current${over ? ", over" : " of"} the ${say(limitA, "current", "down")} it carries`,
        detail: `${inMode(figures, worst).replace(/^i/, "I")} that much comes home through ${gaugeText(wire)}, because it joins the two grounds ${chord ? "beside the heavy return" : "and nothing heavier does"}. No fuse sees it${over ? heat(figures, wire, worst.amps) : ""}.`,
        compared: { amps: worst.amps, limit: limitA },
        remedies: loopCures(figures, wire, chord !== null),
      }),
    ];
  }
  if (unsure && worst.amps > NOTHING_A)
    return [
      speak({
        ...base,
        key: "unsure",
        severity: "ask",
        headline: `${capital(name)}: how much comes home through it?`,
        detail: `At least ${say(worst.amps, "current")}. Its size, its length or a load behind it is not known. A clamp meter round it, zeroed, with the motors running, settles it.`,
      }),
    ];
  if (!chord || worst.amps <= NOTHING_A) return [];
  return [
    speak({
      ...base,
      about: wire.id,
      severity: "watch",
      headline: `${say(worst.amps, "current", "up")} of motor current in the ${name}`,
      detail: `It joins two grounds that the power returns join already: a loop. ${inMode(figures, worst).replace(/^i/, "I")} it takes its share of what flows there, and all of it if a heavy return comes loose. It takes little off the offset between them.`,
      remedies: loopCures(figures, wire, true),
    }),
  ];
});

function twice(figures: Figures, wire: Wire): Verdict {
  const worst = figures.wires[wire.id]?.worst ?? { amps: 0, mode: 0, low: false };
  const from = partName(figures, wire.from.part);
  return speak({
    wire,
    key: "twice",
    severity: "watch",
    also: [wire.from.part],
    headline: `${from} has its reference twice: a loop with ${say(worst.amps, "current", "up")} in it`,
    detail: `The return to ${partName(figures, wire.to.part)} closes a loop with heavier metal, so current of other loads comes through ${from} ${inMode(figures, worst)}. Tie once.`,
    compared: { amps: worst.amps },
    remedies: [{ label: "Remove the second return", command: { type: "removeWire", id: wire.id } }],
  });
}

/** What that current makes of the wire. */
function heat(build: Build, wire: Wire, amps: number): string {
  const ampacity = build.wires[wire.id]?.ampacity;
  return ampacity
    ? `, and ${heatWords(wire, settledTemperature(wire, ampacity, amps))}`
    : ", and its wire or its connector gives way first";
}

/** A thin ground over what it carries: by how hot its wire gets; of unknown size the worse cannot be ruled out. */
function groundSeverity(build: Build, wire: Wire, amps: number): Severity {
  const ampacity = build.wires[wire.id]?.ampacity;
  return ampacity ? lastingSeverity(wire, settledTemperature(wire, ampacity, amps)) : "stop";
}
