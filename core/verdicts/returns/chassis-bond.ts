import { type Build, perBuildFrom } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { gaugeText, names, partName, wireName } from "../../figures/names";
import type { PartOf, Wire } from "../../machine/schema";
import { isReturnBar, isSource } from "../../machine/terminals";
import { capital, say, withArticle } from "../../quantity/format";
import { gaugeById } from "../../reference/gauges";
import { minusPlace } from "../../returns/arrange";
import { chassisOf, framesOf } from "../../returns/chassis";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "chassis-bond",
  title: "The chassis is bonded twice, carries a return, or stands against its school",
  step: "returns",
  needs: "Decide where the frame is bonded, once.",
});

/** The frame: how often it is joined to the return side, what flows there, and what the chosen school asks. */
export const chassisBond = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  return chassisOf(figures).flatMap(({ frame, worst, landed }) => {
    const landedA = Math.max(0, ...landed.map((wire) => figures.wires[wire.id]?.worst.amps ?? 0));
    return judge(figures, frame.id, worst?.amps ?? null, worst?.mode ?? 0, landedA);
  });
}

const judge = perBuildFrom((figures, frameId, worstA: number | null, worstMode: number, landedA: number): readonly Verdict[] => {
  const school = figures.machine.settings.schools.chassis;
  const chassis = framesOf(figures).find(({ frame }) => frame.id === frameId);
  if (!chassis) return [];
  const { frame, bonds, landed, bleeds } = chassis;
  const base = { part: frame };
  const found: Verdict[] = [];
  if (landed.length > 0) {
    found.push(
      speak({
        ...base,
        key: "return",
        severity: "fix",
        also: landed.map((wire) => wire.id),
        headline: `${frame.name} carries the ${names(landed.map((wire) => wireName(figures, wire)))}`,
        detail: `Up to ${say(landedA, "current", "up")} go through joints, paint and bearings whose resistance nobody knows; sensors bolted to the frame feel it. Land it on a bar.`,
        compared: { amps: landedA },
        remedies: landed.flatMap((wire) => ontoBar(figures, wire.id, wire.to.part === frame.id)),
      }),
    );
  }
  if (bonds.length > 1) {
    found.push(
      speak({
        ...base,
        key: "twice",
        severity: "fix",
        also: bonds.map((wire) => wire.id),
        headline: `${frame.name} is bonded ${bonds.length === 2 ? "twice" : `${bonds.length} times`}`,
        detail: `${capital(names(bonds.map((wire) => bondWords(figures, frame, wire.id))))} join it to the return side, so the frame is one more return: ${worstA === null ? "with any current there" : `${say(worstA, "current", "up")} in ${figures.machine.modes[worstMode]?.name}`}, unknown in truth, since no table knows a joint. Keep one, beside the main minus bar, with a label on it.`,
        compared: worstA === null ? undefined : { amps: worstA },
        remedies: bonds.flatMap((wire): Remedy[] => [
          {
            label: `Keep only the one at ${otherEnd(figures, wire.id, frame.id)}`,
            command: {
              type: "batch",
              label: "Bond the chassis once",
              commands: bonds.filter((other) => other !== wire).map((other) => ({ type: "removeWire", id: other.id })),
            },
          },
        ]),
      }),
    );
  }
  if (school === "floating" && bonds.length === 1)
    found.push(
      speak({
        ...base,
        key: "school",
        severity: "watch",
        headline: `${frame.name} is bonded at ${otherEnd(figures, bonds[0]?.id ?? "", frame.id)}, though it should float`,
        detail: bleeds
          ? "Only through a resistor that bleeds static: a first fault still makes no current. Say so at service, or change the school."
          : "A floating frame makes no current at the first fault, and must then be looked for with a meter; this bond makes it a short. Lift it, or change the school.",
        remedies: [{ label: "Lift the bond", command: { type: "removeWire", id: bonds[0]?.id ?? "" } }],
      }),
    );
  found.push(...bonds.flatMap((wire) => light(figures, wire)));
  if (school === "bonded once" && bonds.length === 0 && landed.length === 0) found.push(unbonded(figures, frame));
  return found;
});

function otherEnd(figures: Build, wireId: string, frameId: string): string {
  const wire = figures.wireOf.get(wireId);
  return wire ? partName(figures, wire.from.part === frameId ? wire.to.part : wire.from.part) : "?";
}

function bondWords(figures: Build, frame: PartOf<"bar">, wireId: string): string {
  const wire = figures.wireOf.get(wireId);
  const by = wire?.bondBy ?? "wire";
  return `a ${by === "case" ? "motor case" : by} at ${otherEnd(figures, wireId, frame.id)}`;
}

function ontoBar(figures: Build, wireId: string, at: boolean): Remedy[] {
  const bar = figures.machine.parts.find(isReturnBar);
  if (!bar) return [];
  return [
    {
      label: `Land it on ${bar.name}`,
      command: { type: "reland", wireId, end: at ? "to" : "from", at: { part: bar.id, terminal: "bar" } },
    },
  ];
}

/**
 * Copper a bond needs beside a supply of `mm2`: as much up to 16 mm², 16 mm² up to 35, then half (the table of protective
 * conductors in IEC 60204-1, from memory, taken over for a DC bond as common practice).
 */
export function bondMm2(mm2: number): number {
  return mm2 <= 16 ? mm2 : mm2 <= 35 ? 16 : mm2 / 2;
}

/** A bond meant as one that is thinner than the trunk whose fault it must bear until the fuse opens. */
function light(figures: Build, bond: Wire): Verdict[] {
  const size = bond.gauge === undefined ? undefined : gaugeById(bond.gauge);
  if (!size || bond.resistorOhm) return [];
  const own = size.areaMm2 * bond.parallel;
  let trunk: { mm2: number; wire: Wire } | null = null;
  for (const wire of figures.machine.wires) {
    const source = figures.partOf.get(wire.from.part);
    const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
    if (wire.role !== "supply" || !source || !isSource(source) || !gauge) continue;
    const mm2 = gauge.areaMm2 * wire.parallel;
    if (mm2 > (trunk?.mm2 ?? 0)) trunk = { mm2, wire };
  }
  // Sizes one step apart in two systems count as the same.
  if (!trunk || own >= bondMm2(trunk.mm2) * 0.98) return [];
  return [
    speak({
      wire: bond,
      key: "light",
      severity: "fix",
      headline: `The ${wireName(figures, bond)} is thin: ${gaugeText(bond)} under ${withArticle(`${gaugeText(trunk.wire)} supply`)}`,
      detail:
        "A plus that touches the frame drives the whole short through it until the fuse opens. Taken over from the rule for protective conductors: as much copper as the supply, from 16 mm² on less (common practice).",
      compared: { mm2: own, limit: bondMm2(trunk.mm2) },
      remedies:
        trunk.wire.gauge === undefined
          ? []
          : [
              {
                label: `Use ${gaugeText(trunk.wire)}`,
                command: { type: "updateWire", id: bond.id, changes: { gauge: trunk.wire.gauge, parallel: trunk.wire.parallel } },
              },
            ],
    }),
  ];
}

function unbonded(figures: Build, frame: PartOf<"bar">): Verdict {
  const source = figures.machine.parts.find(isSource);
  const at = source && minusPlace(figures.machine, figures.partOf, source);
  const main = figures.machine.wires.find((wire) => wire.role === "return" && wire.from.part === at?.part && wire.to.part === source?.id);
  return speak({
    part: frame,
    key: "school",
    severity: "fix",
    headline: `${frame.name} should be bonded once and is not bonded at all`,
    detail:
      "A plus that touches it then makes no current, blows no fuse and stays unnoticed, and static has nowhere to go. One bond beside the main minus bar, labelled.",
    remedies: at
      ? [
          {
            label: `Bond it at ${partName(figures, at.part)}`,
            command: {
              type: "addWire",
              wire: {
                role: "bond",
                from: at,
                to: { part: frame.id, terminal: "bar" },
                parallel: 1,
                insulation: "pvc80",
                ...(main?.gauge === undefined ? {} : { gauge: main.gauge }),
                bondBy: "wire",
              },
            },
          },
        ]
      : [],
  });
}
