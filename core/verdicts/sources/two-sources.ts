import { type Build, closedMetal } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { names } from "../../figures/names";
import { groupBy } from "../../machine/group";
import type { BuiltPart, Pack, Supply } from "../../machine/schema";
import { bottomOf, stringsOf, stringVolts } from "../../machine/strings";
import { setVolts } from "../../machine/tree";
import { type Emf, nodeAt } from "../../network/circuit";
import { metalOf } from "../../network/metal";
import { inSentence, say } from "../../quantity/format";
import { chemistryOf } from "../../reference/chemistries";
import { rule } from "../rule";
import { type Said, speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "two-sources",
  title: "Two sources on one node",
  step: "sources",
  needs: "Sources kept apart, or joined through diodes: which, only you can decide.",
});

/** Packs, supplies and converter outputs whose plus and minus meet: who feeds whom, and what flows between them. */
export const twoSources = rule({ speak, reads: "figures", evaluate });

/** Cells of one chemistry may be joined within this (handbook 1.5: 0.05 V a lithium cell, 0.1 V per 12 V block; common practice). */
const CLOSE_V_PER_CELL = 0.05;
const LEAD_CLOSE_V_PER_CELL = 0.1 / 6;

/** Below this nothing worth naming flows, A. */
const NOTICED_A = 0.02;

function evaluate(figures: Figures): Verdict[] {
  const { circuit } = figures.solved;
  if (circuit.emfs.length < 2) return [];
  const metal = closedMetal(figures);
  const groups = groupBy(
    circuit.emfs.flatMap((emf, index) => {
      const part = figures.partOf.get(emf.id);
      const kind = part?.kind;
      // A string counts once, from the plus of its top block to the minus of its bottom one.
      if (part?.kind === "pack" && stringsOf(figures.machine).top.get(part.id)?.id !== part.id) return [];
      // Regulators on boards have a rule of their own.
      return kind === "pack" || kind === "supply" || kind === "converter" ? [{ emf, index }] : [];
    }),
    ({ emf }) => `${metal(emf.pos)} ${metal(minusOf(figures, emf))}`,
  );
  return [...groups.values()].flatMap((group) =>
    group.length < 2 || neverTogether(figures, group) ? [] : [...joined(figures, group), ...waiting(figures, group)],
  );
}

/** One that waits behind its diode in every mode, to take over: as long as no mode lets it, nothing is known of what it would do. */
function waiting(figures: Figures, group: readonly { emf: Emf; index: number }[]): Verdict[] {
  const { planned, low } = figures.solved;
  const gives = (index: number) => [...planned, ...low].some((point) => (point.emfA[index] ?? 0) > NOTICED_A);
  const sources = group.flatMap(({ emf, index }) => (gives(index) ? (figures.partOf.get(emf.id) ?? []) : []));
  // Beside a battery it takes over within the run, as that empties.
  if (sources.length === 0 || sources.some(({ kind }) => kind === "pack")) return [];
  const giving = sources.map(({ name }) => name);
  return group.flatMap(({ emf, index }): Verdict[] => {
    const part = figures.partOf.get(emf.id);
    if (!part || !blocks(part) || gives(index)) return [];
    return [
      speak({
        part,
        key: "waits",
        severity: "ask",
        headline: `${part.name}: what does it carry when ${names(giving)} ${giving.length > 1 ? "are" : "is"} off?`,
        detail: `It gives nothing in any mode, so its currents, its volts and its run time are judged nowhere. A mode in which a switch parts ${names(giving)} from the node settles it.`,
      }),
    ];
  });
}

/** The minus that a source's own current comes back to: of a string the bottom block's. */
function minusOf(figures: Build, { id, neg }: Emf): number {
  const part = figures.partOf.get(id);
  return part?.kind === "pack" ? nodeAt(figures.solved.circuit, bottomOf(figures.machine, part).id, "-") : neg;
}

/** Whether open contacts keep the sources of a group apart in every mode: one at a time, by a switch. */
function neverTogether(figures: Build, group: readonly { emf: Emf; index: number }[]): boolean {
  const { circuit } = figures.solved;
  return figures.machine.modes.every((mode) => {
    const metal = metalOf(circuit.nodeCount, circuit.branches, (contact) => circuit.switches[contact]?.openIn.includes(mode.id) ?? false);
    return new Set(group.map(({ emf }) => `${metal(emf.pos)} ${metal(minusOf(figures, emf))}`)).size === group.length;
  });
}

function joined(figures: Figures, group: readonly { emf: Emf; index: number }[]): Verdict[] {
  const parts = group.flatMap(({ emf }) => figures.partOf.get(emf.id) ?? []);
  const [first] = parts;
  if (!first) return [];
  const base = { part: first, also: parts.slice(1).map((part) => part.id) };
  const who = names(parts.map(({ name }) => name));
  // Each behind an ideal diode of its own: the higher one gives, and none is pushed into.
  if (parts.every((part) => blocks(part))) return [];
  const packs = parts.filter((part): part is Pack => part.kind === "pack");
  const supplies = parts.filter((part): part is Supply => part.kind === "supply");
  const converters = parts.filter((part) => part.kind === "converter");
  const chemistries = new Set(packs.flatMap(({ chemistry, series }) => (chemistry ? [`${chemistryOf(chemistry).family} ${series}`] : [])));
  if (chemistries.size > 1 && packs.filter(({ diode }) => !diode).length > 1) {
    return [
      speak({
        ...base,
        severity: "stop",
        headline: `${who} are joined, but they are different kinds of battery`,
        detail:
          "Chemistries or cell counts that differ charge and discharge each other without limit. Keep them on rails of their own, or join them through ideal diodes.",
      }),
    ];
  }
  if (packs.length > 0 && converters.length === 0 && packs.every(({ diode }) => diode) && supplies.every(({ sinks }) => !sinks)) {
    const open = supplies.filter((supply) => !blocks(supply));
    return [
      speak({
        ...base,
        severity: "watch",
        headline: `${who} feed the same node, the battery through a diode`,
        detail: `Nothing charges the battery and the higher one gives. Switched off, ${open[0]?.name} still sees the battery's volts at its output: only a type whose sheet allows that, or a diode there too.`,
        remedies: diodesAt(open),
      }),
    ];
  }
  const flows = between(figures, group);
  const charger = supplies.find(({ make }) => make === "charger");
  if (charger && packs.length === 1 && converters.length === 0) return charging(figures, base, charger, packs[0] as Pack);
  const amps = flows?.amps ?? 0;
  if (packs.length > 1 && supplies.length === 0 && converters.length === 0) return strings(figures, base, packs, who, amps);
  const apart = tooFarApart(figures, parts);
  return [
    speak({
      ...base,
      severity: (apart && !blocks(apart.part)) || packs.some(({ diode }) => !diode) ? "stop" : "fix",
      headline: `${who} feed the same node`,
      detail: `${
        packs.some(({ diode }) => !diode)
          ? "A battery is charged without control by whatever stands above it, or feeds back into what stands below."
          : "The one a few millivolts higher carries everything and the other idles or is pushed back, until it fails."
      }${
        apart
          ? ` ${apart.name} is made for ${say(apart.own, "voltage")} and gets ${say(apart.reaches, "voltage", "up")} at its output: it and what it feeds are destroyed.`
          : ""
      }${amps > NOTICED_A ? ` In ${flows?.mode} ${flows?.name} takes ${say(amps, "current", "up")} in.` : ""} One source at a time by a switch, or an ideal diode in each.`,
      compared: { amps },
      remedies: diodesAt(parts.filter((part) => !blocks(part))),
    }),
  ];
}

/** A converter's or supply's output bears this much more than its own volts; beyond, its parts fail (common practice, no source). */
const OUTPUT_BEARS = 1.2;

/** The supply or converter whose output is lifted furthest above what it is made for. */
function tooFarApart(figures: Build, parts: readonly BuiltPart[]): { part: BuiltPart; name: string; own: number; reaches: number } | null {
  const volts = parts.map((part) => (part.kind === "pack" ? stringVolts(figures.machine, part) : setVolts(part)));
  const reaches = Math.max(...volts);
  const low = parts.flatMap((part, i) =>
    part.kind !== "pack" && reaches > OUTPUT_BEARS * (volts[i] ?? 0) ? [{ part, name: part.name, own: volts[i] ?? 0, reaches }] : [],
  );
  return low.sort((a, b) => a.own - b.own)[0] ?? null;
}

function diodesAt(parts: readonly BuiltPart[]): Remedy[] {
  return parts.map(({ id, name }) => ({
    label: `Ideal diode at ${name}`,
    command: { type: "updatePart", id, changes: { diode: true } },
  }));
}

/** Whether a source's own diode keeps current out of it. */
function blocks(part: BuiltPart): boolean {
  return (part.kind === "pack" || part.kind === "supply" || part.kind === "converter") && part.diode === true;
}

/** The most that flows into any of them in any mode. */
function between(figures: Figures, group: readonly { emf: Emf; index: number }[]): { amps: number; mode: string; name: string } | null {
  let found: { amps: number; mode: string; name: string } | null = null;
  figures.modes.forEach((mode, m) => {
    for (const { emf, index } of group) {
      const into = -(figures.solved.planned[m]?.emfA[index] ?? 0);
      if (into > (found?.amps ?? 0)) found = { amps: into, mode: mode.name, name: figures.partOf.get(emf.id)?.name ?? "" };
    }
  });
  return found;
}

type Base = Pick<Said, "also"> & { part: { id: string } };

/** A charger on its pack: its volts must be the pack's own, and it must be one for that chemistry. */
function charging(figures: Build, base: Base, charger: Supply, pack: Pack): Verdict[] {
  if (pack.chemistry === undefined || !pack.series) {
    return [
      speak({
        ...base,
        severity: "ask",
        headline: `${pack.name}: which chemistry and how many cells does ${charger.name} charge?`,
        detail: "Only then can its voltage be compared with what the cells bear.",
      }),
    ];
  }
  const chemistry = chemistryOf(pack.chemistry);
  const most = (chemistry.chargeMaxV ?? 0) * pack.series;
  const volts = charger.outputV.value;
  const cold = figures.machine.settings.ambientC < (chemistry.chargeMinC ?? -100);
  if (chemistry.chargeMaxV === null || volts > most * 1.002 || cold) {
    return [
      speak({
        ...base,
        severity: "stop",
        headline:
          chemistry.chargeMaxV === null
            ? `${pack.name} must never be charged: ${charger.name} is joined to it`
            : cold
              ? `${charger.name} charges ${pack.name} below ${say(chemistry.chargeMinC ?? 0, "temperature")}`
              : `${charger.name} gives ${say(volts, "voltage", "up")}, ${pack.name} bears ${say(most, "voltage", "down")}`,
        detail: cold
          ? "Cold lithium cells plate metal when charged and may short inside later. Warm the pack first."
          : `${pack.series} cells of ${inSentence(chemistry.name)} are damaged, and may burn, above ${say(most, "voltage", "down")}. Charge with a charger made for this chemistry and cell count, never unattended.`,
        compared: { volts, limit: most },
      }),
    ];
  }
  return [];
}

/** Packs of one kind in parallel: joined only when they stand at the same volts. */
function strings(figures: Build, base: Base, packs: readonly Pack[], who: string, amps: number): Verdict[] {
  const volts = packs.map((pack) => stringVolts(figures.machine, pack));
  const apart = Math.max(...volts) - Math.min(...volts);
  const series = packs[0]?.series;
  const lead = packs[0]?.chemistry !== undefined && chemistryOf(packs[0].chemistry).family === "lead";
  const close = series === undefined ? null : series * (lead ? LEAD_CLOSE_V_PER_CELL : CLOSE_V_PER_CELL);
  const primary = packs.some(({ chemistry, diode }) => !diode && chemistry !== undefined && chemistryOf(chemistry).family === "alkaline");
  if (close !== null && apart <= close && !primary) {
    return [
      speak({
        ...base,
        severity: "watch",
        headline: `${who} in parallel: join them only when their volts agree`,
        detail: `Within ${say(close, "voltage", "down")} of each other (common practice, no source); one fuse a string at its plus, cables of equal length.`,
        compared: { volts: apart, limit: close },
      }),
    ];
  }
  return [
    speak({
      ...base,
      severity: "stop",
      headline: primary
        ? `${who}: primary cells must not be joined without diodes`
        : `${who} stand ${say(apart, "voltage", "up")} apart and are joined`,
      detail: `${amps > NOTICED_A ? `${say(amps, "current", "up")} flows from one into the other as planned. ` : ""}Charge them to the same volts before they meet, one fuse a string; never mix ages or capacities.`,
      compared: { volts: apart, limit: close ?? undefined },
    }),
  ];
}
