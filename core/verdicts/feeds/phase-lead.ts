import { connectorBearsA } from "../../connectors/choose";
import { contactRating, wireFit } from "../../connectors/contact";
import type { Build } from "../../figures/build";
import { limitAt, thinnest } from "../../fuses/pick";

import { type PhaseCurrent, phaseConductors, phaseCurrent } from "../../loads/phases";
import type { Load, Wire } from "../../machine/schema";
import { capital, inSentence, say, withArticle } from "../../quantity/format";
import { type ConnectorRow, connectorById } from "../../reference/connectors";
import { gaugeById } from "../../reference/gauges";
import { type Ampacity, airAround, ampacityOf, settledTemperature } from "../../wires/ampacity";
import { contactSeverity } from "../contact-heat";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";
import { heatWords, lastingSeverity } from "../wire-heat";

const speak = speaker({
  id: "phase-lead",
  title: "Leads between a drive and its motor",
  step: "feeds",
  needs: "Leads and a connector for the phase current: parts only you can choose.",
});

/**
 * The phases of a brushless motor or a stepper carry what their drive pushes, not what its supply draws: turning, the r.m.s.
 * current in every conductor; held still, all of it may stand in one.
 */
export const phaseLead = rule({ speak, reads: "build", evaluate });

type Lead = NonNullable<Load["phaseLead"]>;

/** Share of a limit from which little is left. */
const WATCH_FROM = 0.9;

function evaluate(build: Build): Verdict[] {
  return build.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "load" || !part.phaseLead || phaseConductors(part) === 0) return [];
    const phase = phaseCurrent(part);
    if (!phase) return [askPhase(part)];
    const wire = conductor(part, part.phaseLead, phase);
    return [...wired(build, part, wire, phase), ...plugged(build, part, part.phaseLead, wire, phase)];
  });
}

type Phased = Pick<Load, "id" | "name" | "loadKind">;

function askPhase(part: Phased): Verdict {
  const brushless = part.loadKind === "brushless";
  return speak({
    part,
    key: "ask",
    severity: "ask",
    headline: `${part.name}: what current ${brushless ? "does its drive let into the phases" : "is its driver set to"}?`,
    detail: `Its leads carry that, and not what its supply draws: ${brushless ? "at low speed several times as much" : "it stands in the windings even at rest"}. Look for the ${brushless ? "phase limit of the drive" : "setting of the driver"}.`,
  });
}

/** One of its conductors, as a wire is judged: all of them lie together and carry current at once. */
function conductor({ id }: Phased, { gauge, insulation, lengthM }: Lead, { conductors }: PhaseCurrent): Wire {
  const end = { part: id, terminal: "+" };
  return {
    id: "phase-lead",
    role: "phase",
    from: end,
    to: end,
    gauge,
    insulation,
    parallel: 1,
    bundle: conductors,
    ...(lengthM ? { lengthM } : {}),
  };
}

function wired(build: Build, part: Phased & { phaseLead?: Lead }, wire: Wire, { rmsA, heldA, conductors }: PhaseCurrent): Verdict[] {
  const { settings } = build.machine;
  const ampacity = ampacityOf(wire, settings);
  if (!ampacity) return [];
  const { limitA } = ampacity;
  const remedies = (amps: number): Remedy[] => {
    const size = thinnest(wire, (gauge) => limitAt(gauge, wire, settings) >= amps);
    return size && size.id !== wire.gauge && part.phaseLead
      ? [
          {
            label: `Use ${size.id}`,
            command: { type: "updatePart", id: part.id, changes: { phaseLead: { ...part.phaseLead, gauge: size.id } } },
          },
        ]
      : [];
  };
  if (rmsA > limitA * WATCH_FROM) return [turning(part, wire, ampacity, rmsA, conductors, remedies(rmsA / WATCH_FROM))];
  if (heldA <= limitA) return [];
  return [
    speak({
      part,
      key: "held",
      severity: "watch",
      headline: `${part.name}: held still, ${say(heldA, "current", "up")} may stand in one lead of ${wire.gauge}`,
      detail: `Turning, each carries ${say(rmsA, "current", "up")}; one that stands still where a single phase takes it all has more than the ${say(limitA, "current", "down")} it may carry continuously, and ${heatWords(wire, settledTemperature(wire, ampacity, heldA))}. A drive that lowers its current at rest settles it.`,
      compared: { amps: heldA, limit: limitA },
      remedies: remedies(heldA),
    }),
  ];
}

function turning(part: Phased, wire: Wire, ampacity: Ampacity, rmsA: number, conductors: number, remedies: Remedy[]): Verdict {
  const { limitA } = ampacity;
  const over = rmsA > limitA;
  const hot = settledTemperature(wire, ampacity, rmsA);
  return speak({
    part,
    severity: over ? lastingSeverity(wire, hot) : "watch",
    headline: over
      ? `${part.name}: ${say(rmsA, "current", "up")} in each phase is too much for ${wire.gauge}`
      : `${part.name}: ${Math.floor((rmsA / limitA) * 100)}\u00a0% of what its ${wire.gauge} phase leads may carry`,
    detail: `R.m.s., turning, at its drive's setting; the ${conductors} conductors together may carry ${say(limitA, "current", "down")} each continuously${over ? `: ${heatWords(wire, hot)}` : ""}.`,
    compared: { amps: rmsA, limit: limitA },
    remedies,
  });
}

/** The connector between drive and motor: every contact of it is loaded. */
function plugged(build: Build, part: Phased, { family }: Lead, wire: Wire, { rmsA, conductors }: PhaseCurrent): Verdict[] {
  const row = family === undefined ? undefined : connectorById(family);
  if (!row) return [];
  const unfit = fits(part, row, wire);
  if (unfit) return [unfit];
  const airC = airAround(wire, build.machine.settings);
  const rating = contactRating(row, { family: row.id, loaded: conductors }, airC);
  const bears = rating && connectorBearsA(row, rating, null);
  if (bears === null || rmsA <= bears * WATCH_FROM) return [];
  const share = bears > 0 ? rmsA / bears : Number.POSITIVE_INFINITY;
  const { severity, riseK } = contactSeverity(share);
  return [
    speak({
      part,
      key: "contact",
      severity,
      headline: `${row.name}: ${say(rmsA, "current", "up")} in each phase of ${part.name}, a contact carries ${say(bears, "current", "down")}`,
      detail: `All ${conductors} contacts are loaded at once in ${say(airC, "temperature")}${Number.isFinite(riseK) ? `, and they rise by about ${Math.ceil(riseK)} K` : ""}. One with larger contacts.`,
      compared: { amps: rmsA, limit: bears },
    }),
  ];
}

/** A lead that its contacts are not made for. */
function fits(part: Phased, row: ConnectorRow, wire: Wire): Verdict | null {
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  const fit = gauge ? wireFit(row, gauge, 1, 1) : "fits";
  if (fit === "fits") return null;
  return speak({
    part,
    key: "fit",
    severity: "fix",
    headline: `${capital(part.name)}: ${wire.gauge} is ${fit} for ${withArticle(inSentence(row.name))}`,
    detail: `It takes ${row.awgThinnest} to ${row.awgThickest} AWG (${row.mm2Min} to ${row.mm2Max} mm²) a contact; a joint outside that runs warm and pulls out.`,
  });
}
