import type { Figures } from "../../figures/figures";
import type { Load } from "../../machine/schema";
import { railOrigin } from "../../machine/tree";
import { say } from "../../quantity/format";
import { isolates } from "../../returns/budget";
import { groundOf } from "../../returns/ground";
import { linkName } from "../../returns/link-words";
import { linksOf } from "../../returns/links";
import { clearLoneM, clearPairM, HUM_DB, humDb } from "../../returns/practice";
import { returning } from "../../returns/shared";
import { betterLandings, isolate, ownReturn } from "../link-remedies";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "noise-practice",
  title: "Sensors and sound against motor noise (common practice)",
  step: "returns",
  needs: "Ways apart for what disturbs and what listens.",
});

/** Inertial sensors without a filter or regulator of their own, magnetic ones near large currents, sound that would hum. */
export const noisePractice = rule({ speak, reads: "figures", evaluate });

/** A series resistor and capacitor before an inertial sensor: 10 Ω and 10 µF, 1.6 kHz (handbook section 3). */
const FILTER = { ohm: 10, farad: 10e-6 };

/** Most of the supply that may be lost in the filter's resistor. */
const FILTER_LOSS = 0.03;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "load") return [];
    if (part.senses === "inertial") return inertial(figures, part);
    if (part.senses === "magnetic") return magnetic(figures, part);
    return part.loadKind === "sound" ? hum(figures, part) : [];
  });
}

function inertial(figures: Figures, part: Load): Verdict[] {
  const origin = railOrigin(figures.ledger, part.id);
  const sharers = returning(figures).filter((each) => each.id !== part.id && railOrigin(figures.ledger, each.id) === origin);
  const atDriver = figures.partOf.get(ownReturn(figures, part.id)?.to.part ?? "")?.kind === "driver";
  const filtered = part.filterOhm !== undefined && part.filterF !== undefined;
  if ((filtered || sharers.length === 0) && !atDriver) return [];
  const amps = Math.max(0, ...(figures.parts[part.id]?.amps ?? []));
  const fits = amps * FILTER.ohm <= FILTER_LOSS * part.nominalV.value;
  const filter: Remedy = {
    label: "10 Ω and 10 µF before it",
    command: {
      type: "updatePart",
      id: part.id,
      changes: { filterOhm: { value: FILTER.ohm, provenance: "typical" }, filterF: { value: FILTER.farad, provenance: "typical" } },
    },
  };
  return [
    speak({
      part,
      key: "inertial",
      severity: "watch",
      headline: atDriver ? `${part.name} comes home to a driver` : `${part.name} feels the switching on its supply`,
      detail: `PWM edges corrupt an inertial sensor's bus until it locks up. Feed it by a small linear regulator of its own or through 10 Ω and 10 µF (corner 1.6 kHz), and bring its return to the board that reads it, never to a driver (common practice).`,
      remedies: [...(filtered || !fits ? [] : [filter]), ...(atDriver ? betterLandings(figures, part.id) : [])],
    }),
  ];
}

function magnetic(figures: Figures, part: Load): Verdict[] {
  let amps = 0;
  for (const wire of figures.machine.wires) amps = Math.max(amps, figures.wires[wire.id]?.worst.amps ?? 0);
  if (amps === 0) return [];
  return [
    speak({
      part,
      key: "magnetic",
      severity: "watch",
      headline: `${part.name}: keep it ${say(clearLoneM(amps), "length", "up")} from a lone wire with ${say(amps, "current", "up")}`,
      detail: `At that distance its field is 1 µT, some hundredths of the Earth's and about a degree of heading. Beside its return, twisted, ${say(clearPairM(amps), "length", "up")} are enough. The plan holds no places, so measure it.`,
      compared: { amps },
    }),
  ];
}

function hum(figures: Figures, part: Load): Verdict[] {
  const links = linksOf(figures);
  return (figures.machine.signals ?? []).flatMap((signal, i): Verdict[] => {
    const link = links[i];
    const touches = signal.kind === "audio" && (signal.from === part.id || signal.to === part.id);
    if (!link || !touches || !link.joined || isolates(signal, figures.partOf.get(signal.to))) return [];
    // A sound link's own noise is what its grounds move between modes.
    const volts = Math.max(...link.offsetV) - Math.min(...link.offsetV);
    const db = humDb(volts);
    const looped = groundOf(figures).chords.some(({ wire }) => wire.signal === signal.id);
    if (db >= HUM_DB && !looped) return [];
    return [
      speak({
        part,
        key: "hum",
        about: signal.id,
        severity: "watch",
        also: link.own,
        headline: `${linkName(figures, signal)} will be heard to hum`,
        detail: `The two grounds move by ${say(volts, "voltage", "up")} between modes${db < HUM_DB ? `, only ${Math.floor(db)} dB below line level (−10 dBV)` : ""}${looped ? ", and its ground wire or shield closes a loop" : ""}. An isolating transformer or a digital link, the amplifier's return on a branch of its own, and the shield on one end only (common practice).`,
        compared: { volts },
        remedies: [isolate(figures, signal), ...betterLandings(figures, part.id).slice(0, 1)],
      }),
    ];
  });
}
