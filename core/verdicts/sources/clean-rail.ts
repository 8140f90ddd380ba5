import { lowPass, lowPassGain } from "../../converters/capacitor";
import { type Build, perBuild } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import type { Command } from "../../machine/commands";
import { freshId, newPart } from "../../machine/defaults";
import { typical } from "../../machine/figure";
import type { BuiltLoad } from "../../machine/schema";
import { railOrigin } from "../../machine/tree";
import { say } from "../../quantity/format";
import { type LoadKind, MOVERS } from "../../reference/load-kinds";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "clean-rail",
  title: "Sensors or sound on a rail with motors",
  step: "sources",
  needs: "A regulator, a filter or a pack of its own.",
});

/** Parts that mind noise on the same rail as parts that make it, with a regulator, a filter or a rail of their own as cures. */
export const cleanRail = rule({ speak, reads: "figures", evaluate });

const QUIET: ReadonlySet<LoadKind> = new Set(["sensor", "sound"]);

/** Bridges chop at about this, Hz; a filter's corner belongs a tenth of it (handbook 6.3, common practice). */
const NOISE_HZ = 20000;
const CORNER_SHARE = 0.1;

/** The filter offered: 100 µH and 220 µF corner at 1.1 kHz; its coil 0.1 Ω, typical. */
const FILTER = { filterMh: 0.1, filterF: 220e-6, filterOhm: 0.1 };

/** Resistance of an ordinary electrolytic of that size, Ω: what limits it above its corner (handbook 6.3, from memory). */
const ESR_OHM = 0.05;

/** Headroom of a regulator of its own above its load. */
const SPARE = 1.5;

/** Loads that mind noise, with those on the same rail that make it, and the cures that hang on no current. */
const mixedOf = perBuild((build) =>
  build.machine.parts.flatMap((part) => {
    if (part.kind !== "load" || !QUIET.has(part.loadKind)) return [];
    const origin = railOrigin(build.ledger, part.id);
    if (origin === null || filtered(part)) return [];
    const noisy = build.machine.parts.filter(
      (each) => each.kind === "load" && MOVERS.has(each.loadKind) && railOrigin(build.ledger, each.id) === origin,
    );
    if (noisy.length === 0) return [];
    return [{ part, source: build.partOf.get(origin), noisy, filter: filterRemedy(part), pack: ownPack(build, part) }];
  }),
);

function evaluate(figures: Figures): Verdict[] {
  return mixedOf(figures).map(({ part, source, noisy, filter, pack }): Verdict => {
    const swing = railSwing(figures, part);
    return speak({
      part,
      severity: "watch",
      headline: `${part.name} shares ${source?.name ?? "its rail"} with ${noisy[0]?.name}${noisy.length > 1 ? ` and ${noisy.length - 1} more` : ""}`,
      detail: `Its supply moves by ${say(swing, "voltage", "up")} between modes, and by brush and switching noise that no table knows (common practice). ${part.loadKind === "sound" ? "That is heard" : "Readings jump with it"}: a regulator of its own, a choke and capacitor before it, or a pack of its own.`,
      compared: { volts: swing },
      remedies: [...ownRegulator(figures, part), filter, ...pack],
    });
  });
}

/** A choke and capacitor whose corner is low enough. */
function filtered(load: BuiltLoad): boolean {
  if (!load.filterMh || !load.filterF) return false;
  return lowPass(load.filterMh.value / 1000, load.filterF.value).cornerHz <= NOISE_HZ * CORNER_SHARE;
}

function railSwing(figures: Figures, load: BuiltLoad): number {
  const figure = figures.parts[load.id];
  const volts = figures.modes.flatMap((_, m) => (figure?.live[m] ? [figure.volts[m] ?? 0] : []));
  return volts.length === 0 ? 0 : Math.max(...volts) - Math.min(...volts);
}

function filterRemedy(load: BuiltLoad): Remedy {
  const { cornerHz } = lowPass(FILTER.filterMh / 1000, FILTER.filterF);
  const gain = lowPassGain(FILTER.filterMh / 1000, FILTER.filterF, ESR_OHM, NOISE_HZ);
  return {
    label: `Choke 100 µH and 220 µF before it (${Math.round(cornerHz)} Hz, ${Math.round(-gain)} dB less at 20 kHz)`,
    command: {
      type: "updatePart",
      id: load.id,
      changes: { filterMh: typical(FILTER.filterMh), filterF: typical(FILTER.filterF), filterOhm: typical(FILTER.filterOhm) },
    },
  };
}

/** A regulator beside the shared one, fed from where that is fed, with the load's wires moved onto it. */
function ownRegulator(figures: Figures, load: BuiltLoad): Remedy[] {
  const { machine, ledger } = figures;
  const shared = figures.partOf.get(railOrigin(ledger, load.id) ?? "");
  const row = ledger.rowOf.get(load.id);
  const above = shared ? ledger.rowOf.get(shared.id) : undefined;
  if (shared?.kind !== "converter" || !row?.feed || !row.back || !above?.feed || !above.back) return [];
  const made = freshId("p", machine.parts);
  const amps = Math.max(...figures.modes.map((_, m) => figures.parts[load.id]?.amps[m] ?? 0));
  const part = newPart("converter", made, `Regulator of ${load.name}`.slice(0, 80), {
    topology: shared.topology,
    outputV: shared.outputV,
    efficiency: shared.efficiency,
    ...(shared.outputOhm ? { outputOhm: shared.outputOhm } : {}),
    ratedA: { value: Number((amps * SPARE).toPrecision(2)), provenance: "guess" },
    ...(shared.inputMinV ? { inputMinV: shared.inputMinV } : {}),
    ...(shared.inputMaxV ? { inputMaxV: shared.inputMaxV } : {}),
  });
  const { gauge, lengthM, insulation, fuse } = above.feed;
  const wire = { insulation, ...(gauge ? { gauge } : {}), ...(lengthM ? { lengthM } : {}), ...(fuse ? { fuse } : {}) };
  const commands: Command[] = [
    { type: "addPart", part, feed: { from: above.feed.from, back: above.back.to, wire } },
    { type: "reland", wireId: row.feed.id, end: "from", at: { part: made, terminal: "out+" } },
    { type: "reland", wireId: row.back.id, end: "to", at: { part: made, terminal: "out-" } },
  ];
  return [{ label: "A regulator of its own", command: { type: "batch", label: `A regulator of its own for ${load.name}`, commands } }];
}

/** A pack of its own, its minus tied to where the load's return landed: one common 0 V, no shared supply. */
function ownPack(figures: Build, load: BuiltLoad): Remedy[] {
  const { machine, ledger } = figures;
  const row = ledger.rowOf.get(load.id);
  if (!row?.feed || !row.back) return [];
  const made = freshId("p", machine.parts);
  const part = newPart("pack", made, `Pack of ${load.name}`.slice(0, 80), {
    openCircuitV: { value: load.nominalV.value, provenance: "guess" },
  });
  const { gauge, lengthM, insulation } = row.back;
  const tie = { parallel: 1, insulation, ...(gauge ? { gauge } : {}), ...(lengthM ? { lengthM } : {}) };
  const commands: Command[] = [
    { type: "addPart", part },
    { type: "addWire", wire: { ...tie, role: "return", from: { part: made, terminal: "-" }, to: row.back.to } },
    { type: "reland", wireId: row.feed.id, end: "from", at: { part: made, terminal: "+" } },
    { type: "reland", wireId: row.back.id, end: "to", at: { part: made, terminal: "-" } },
  ];
  return [
    { label: "A pack of its own, tied at one point", command: { type: "batch", label: `A pack of its own for ${load.name}`, commands } },
  ];
}
