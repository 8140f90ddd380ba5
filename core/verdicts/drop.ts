import type { Figures } from "../analysis/figures";
import { type Standing, steadyOf } from "../analysis/standing";
import type { Part, Wire } from "../machine/schema";
import { railOrigin } from "../machine/tree";
import { capital, say } from "../quantity/format";
import { thinnest } from "../sizing/pick";
import { runResistance } from "../wires/resistance";
import { gaugeText, partName, wireName } from "./helpers";
import type { Remedy, Verdict } from "./types";

export const id = "drop";
export const title = "Voltage drop over the limit";

const LOGIC: ReadonlySet<string> = new Set(["board", "sensor", "radio"]);

/** Limit in % of the rail for a part in a mode: logic rails strictest, timed modes get more room. */
export function dropLimit(figures: Standing, part: Part, mode: number): number {
  const { settings, modes } = figures.machine;
  if (part.kind === "load" && LOGIC.has(part.loadKind)) return settings.dropLogicPercent;
  return modes[mode]?.lastsS == null ? settings.dropPowerPercent : settings.dropBriefPercent;
}

/** Volts of the rail a part hangs on, the base of its drop in percent. */
export function railVolts(figures: Standing, partId: string): number {
  const origin = railOrigin(figures.ledger, partId);
  const source = origin === null ? undefined : figures.partOf.get(origin);
  if (source?.kind === "pack") return source.openCircuitV.value;
  return source?.kind === "supply" || source?.kind === "converter" ? source.outputV.value : 0;
}

export function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const part of figures.machine.parts) {
    const figure = figures.parts[part.id];
    const rail = railVolts(figures, part.id);
    if (figure?.wiring !== "ok" || rail === 0 || part.kind === "driver") continue;
    let worst: { over: number; percent: number; limit: number; mode: number } | null = null;
    figure.dropV.forEach((drop, mode) => {
      const percent = (drop / rail) * 100;
      const limit = dropLimit(figures, part, mode);
      const over = percent / limit;
      if (over > (worst?.over ?? 0.9)) worst = { over, percent, limit, mode };
    });
    if (worst === null) continue;
    const { over, percent, limit, mode } = worst as { over: number; percent: number; limit: number; mode: number };
    const volts = say(figure.dropV[mode] as number, "voltage", "up");
    const culprit = largestDrop(figures, part.id, mode);
    const origin = railOrigin(figures.ledger, part.id);
    verdicts.push({
      id: `${id}:${part.id}`,
      rule: id,
      severity: over > 1 ? "fix" : "watch",
      step: "feeds",
      subject: { kind: "part", id: part.id },
      value: percent,
      limit,
      unit: "%",
      headline: `${part.name} loses ${percent.toFixed(1)}\u00a0% on the way, limit ${limit}\u00a0%`,
      detail: `${volts} of ${say(rail, "voltage")} stay in wires, ends and fuses between ${origin ? partName(figures, origin) : "the source"} and here in ${figures.modes[mode]?.name}.${
        culprit
          ? ` The most, ${say(culprit.drop, "voltage")}, in the ${wireName(figures, culprit.wire)}${culprit.wire.gauge ? ` (${gaugeText(culprit.wire)})` : ""}.`
          : ""
      }`,
      remedies: over > 1 && culprit ? thicker(figures, culprit.wire, mode, ((percent - limit * 0.95) / 100) * rail) : [],
    });
  }
  return verdicts;
}

/** Conductors from the rail's source to a part and from it back again, as far as the ledger knows one way. */
export const wayThere = steadyOf((figures, partId): readonly Wire[] => {
  const way: Wire[] = [];
  const { rowOf } = figures.ledger;
  const first = rowOf.get(partId);
  for (let row = first; row?.feed; row = rowOf.get(row.feed.from.part)) {
    way.push(row.feed);
    if (row.part.kind === "converter" && row.part.id !== partId) break;
    if (figures.partOf.get(row.feed.from.part)?.kind === "converter") break;
  }
  for (let row = first; row?.back && !way.includes(row.back); row = rowOf.get(row.back.to.part)) {
    way.push(row.back);
    if (figures.partOf.get(row.back.to.part)?.kind === "converter") break;
  }
  return way;
});

/** The conductor on the way that costs the most volts. */
function largestDrop(figures: Figures, partId: string, mode: number): { wire: Wire; drop: number } | null {
  let best: { wire: Wire; drop: number } | null = null;
  for (const wire of wayThere(figures, partId)) {
    const drop = figures.wires[wire.id]?.dropV[mode] ?? 0;
    if (drop > (best?.drop ?? 0)) best = { wire, drop };
  }
  return best;
}

/** A thicker size for the conductor that costs the most, where that alone brings the drop inside its limit. */
function thicker(figures: Figures, culprit: Wire, mode: number, saveV: number): Remedy[] {
  const { settings } = figures.machine;
  const feed = culprit.pair === undefined ? culprit : (figures.wireOf.get(culprit.pair) ?? culprit);
  const own = [feed, ...(figures.returnsOf.get(feed.id) ?? [])];
  const conductorC = Math.max(settings.conductorC, settings.ambientC);
  // Volts lost now, and of another size: those in the joints, and those that grow with its ohms per kilometre.
  let now = 0;
  let joints = 0;
  let perOhm = 0;
  for (const wire of own) {
    const figure = figures.wires[wire.id];
    const amps = Math.abs(figure?.amps[mode] ?? 0);
    const run = (ohmPerKm: number) => runResistance(ohmPerKm, wire.lengthM?.value ?? 0, conductorC, settings.jointOhm, wire.parallel);
    now += amps * (figure?.runOhm ?? 0);
    joints += amps * run(0);
    perOhm += amps * (run(1) - run(0));
  }
  const size = thinnest(feed, (gauge) => now - joints - perOhm * gauge.r20OhmPerKm >= saveV);
  if (!size || size.id === feed.gauge) return [];
  return [
    {
      label: `${capital(wireName(figures, culprit))}: use ${size.id}`,
      command: { type: "setFeed", id: feed.id, changes: { gauge: size.id } },
    },
  ];
}
