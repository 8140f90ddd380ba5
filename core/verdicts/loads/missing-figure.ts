import { type Build, perBuild, perBuildFrom, perBuildOf } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { wireEnds, wireName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { limitAt, thinnest } from "../../fuses/pick";
import { drawIn } from "../../loads/draw";
import { ASSUMED_M } from "../../machine/length";
import type { LevelName } from "../../machine/load-schema";
import type { BuiltMachine, BuiltPart, Load, Wire } from "../../machine/schema";
import { happens } from "../../machine/terminals";
import { capital, inSentence, say } from "../../quantity/format";
import { WINDOWED } from "../../reference/load-kinds";
import { type AmpacitySchool, isOutsideTable } from "../../wires/ampacity";
import { SCHOOL_WORDS } from "../../wires/schools";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const LEVEL_VERBS: Readonly<Record<LevelName, string>> = {
  idle: "turns free or waits",
  run: "runs",
  start: "starts",
  stall: "is held still",
};

const speak = speaker({ id: "missing-figure", title: "A figure is missing and matters", step: "by role" });

/** Figures without which other rules must stay silent: they would otherwise look like a clean bill. */
export const missingFigure = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  return [
    ...figures.machine.parts.flatMap((part) => [
      ...(part.kind === "load" ? ofLoad(figures, part.id, part) : []),
      ...ofPart(figures, part.id),
      ...ofWindow(figures, part.id, railMaxV(figures, part)),
    ]),
    ...ofWires(figures).flatMap(({ wire, outside, asked }) => [...(outside ? [outsideTable(figures, wire, outside)] : []), ...asked]),
  ];
}

const NOTHING: readonly Verdict[] = [];

/** What a load does that nobody has told. */
const ofLoad = perBuildFrom((build, _, part: Load): readonly Verdict[] => {
  const { modes } = build.machine;
  const verdicts: Verdict[] = [];
  const missing = modes.filter((mode) => part.cells[mode.id] === undefined);
  if (missing.length > 0) {
    const names = missing.length === modes.length ? "any mode" : missing.map((mode) => mode.name).join(", ");
    verdicts.push(
      speak.at("loads")({
        part,
        key: "cells",
        kin: "cells",
        severity: "ask",
        headline: `${part.name}: what does it draw in ${names}?`,
        detail:
          "Until it is known the sums count it as nothing, so every figure upstream of it is a least value and nothing upstream is called clear. A clamp meter on its supply wire settles it.",
      }),
    );
  }
  for (const [level, needing] of missingLevels(build.machine, part))
    verdicts.push(
      speak.at("loads")({
        part,
        key: `level-${level}`,
        kin: `level-${level}`,
        severity: "ask",
        headline: `${part.name}: how much does it draw when it ${LEVEL_VERBS[level]}?`,
        detail: `${needing.join(", ")} ${needing.length > 1 ? "need" : "needs"} that figure. Open what is known about it below: rated watts, ohms at its terminals or a test at low voltage are enough.`,
      }),
    );
  return verdicts.length > 0 ? verdicts : NOTHING;
});

/** Share over its nominal volts that any electronics without a sheet is trusted to bear (common practice, no source). */
const TRUSTED = 1.1;

/** The window of a board; of other electronics where their rail goes further than anything made for those volts surely bears. */
const ofWindow = perBuildFrom((build, partId, reaches: number): readonly Verdict[] => {
  const part = build.partOf.get(partId);
  if (part?.kind !== "load" || !WINDOWED.has(part.loadKind) || (part.inputMinV && part.inputMaxV)) return NOTHING;
  const board = part.loadKind === "board" || part.loadKind === "computer";
  const strays = !part.inputMaxV && reaches > part.nominalV.value * TRUSTED;
  if (!board && !strays) return NOTHING;
  const detail = board
    ? "Boards reset below their minimum and die above their maximum. Both are in its sheet."
    : "Made for a vehicle it bears what its battery reaches; made for a plug-in adapter it often bears little more than is printed on it. Its highest input is on its label or in its sheet.";
  return [
    speak.at("sources")({
      part,
      key: "window",
      kin: "window",
      severity: "ask",
      headline: strays
        ? `${part.name}: does it bear ${say(reaches, "voltage", "up")}? Between which voltages does it run?`
        : `${part.name}: between which voltages does it run?`,
      detail,
    }),
  ];
});

/** What a part is that nobody has told. */
const ofPart = perBuildOf((build, partId): readonly Verdict[] => {
  const part = build.partOf.get(partId);
  if (!part) return NOTHING;
  const verdicts: Verdict[] = [];
  if (part.kind === "pack" && !part.internalOhm)
    verdicts.push(
      speak.at("sources")({
        part,
        key: "internal",
        severity: "ask",
        headline: `${part.name}: what is its internal resistance?`,
        detail:
          "Sag cannot be computed without it; for now the pack is taken as nearly perfect. Two readings settle it: volts without load, then volts and amps under load; the fall in volts divided by the amps.",
      }),
    );
  const inner = innerFigure(part);
  if (inner)
    verdicts.push(
      speak.at(part.kind === "supply" || part.kind === "converter" ? "sources" : "feeds")({
        part,
        key: "inner",
        kin: "inner",
        severity: "ask",
        headline: `${part.name}: what is its ${inner}?`,
        detail:
          "Until it is known a small typical value is assumed, so the sag behind it may be more than shown. Volts lost across it divided by the amps through it settle it.",
      }),
    );
  if ((part.kind === "driver" || part.kind === "converter") && (!part.inputMinV || !part.inputMaxV))
    verdicts.push(
      speak.at("sources")({
        part,
        key: "window",
        kin: "window",
        severity: "ask",
        headline: `${part.name}: which input voltage does it take?`,
        detail:
          "Its lowest and highest input voltage are on its board or sheet. Without them a full pack may be too much for it and nobody is warned.",
      }),
    );
  return verdicts.length > 0 ? verdicts : NOTHING;
});

/** Wires that something is asked about: the school whose table does not reach them, and what they lack. */
const ofWires = perBuild((build) =>
  build.machine.wires.flatMap((wire) => {
    if (happens(wire)) return [];
    const school = build.machine.settings.schools.ampacity;
    const rated = wire.role !== "signal" && wire.role !== "bond";
    const outside = rated && isOutside(build, wire) && wire.pair === undefined ? school : undefined;
    const asked = lacking(build, wire);
    return outside || asked.length > 0 ? [{ wire, outside, asked }] : [];
  }),
);

function isOutside(build: Build, wire: Wire): boolean {
  const ampacity = build.wires[wire.id]?.ampacity;
  return ampacity != null && isOutsideTable(ampacity, build.machine.settings);
}

function lacking(build: Build, wire: Wire): Verdict[] {
  const sized = wire.gauge !== undefined || wire.board !== undefined;
  const lacks = [sized ? "" : "size", wire.lengthM === undefined ? "length" : ""].filter((word) => word !== "");
  if (lacks.length === 0) return [];
  // A feed's two conductors are usually alike: one question for both.
  const pair = wire.pair === undefined ? undefined : build.wireOf.get(wire.pair);
  if (pair && (pair.gauge === undefined || wire.gauge !== undefined) && (pair.lengthM === undefined || wire.lengthM !== undefined))
    return [];
  return [
    speak({
      wire,
      key: "wire",
      kin: lacks.join(" and "),
      severity: "ask",
      headline: `${capital(wireName(build, wire))}: what is its ${lacks.join(" and ")}?`,
      detail: sized
        ? `The wire ${wireEnds(build, wire)} counts as ${say(ASSUMED_M, "length")} long until it is known: if it is longer, drop behind it is more than shown. A tape measure settles it.`
        : `The wire ${wireEnds(build, wire)} counts with its two ends only, so drop and heat behind it are too small, and no fuse can be judged against it. Size everything gives it a size${wire.lengthM ? "" : `, for ${say(ASSUMED_M, "length")} until its length is known`}.`,
    }),
  ];
}

/** A size the chosen table does not reach: nothing can be said about its current. */
function outsideTable(figures: Figures, wire: Wire, school: AmpacitySchool): Verdict {
  const { settings } = figures.machine;
  const amps = figures.wires[wire.id]?.worstContinuous.amps ?? 0;
  const size = thinnest(wire, (gauge) => limitAt(gauge, wire, settings) > amps);
  const remedies: Remedy[] = [
    ...(size ? [{ label: `Use ${size.id}`, command: { type: "setFeed" as const, id: wire.id, changes: { gauge: size.id } } }] : []),
    {
      label: "Judge all wires by heat balance",
      command: { type: "setSettings", changes: { schools: { ...settings.schools, ampacity: "heat balance" } } },
    },
  ];
  return speak({
    wire,
    key: "table",
    kin: "table",
    severity: "ask",
    headline: `${capital(wireName(figures, wire))}: ${inSentence(SCHOOL_WORDS[school].name)} has no figure for ${wire.gauge}`,
    detail: "The chosen school's table does not reach this size. Meanwhile it is judged by what heat does to it.",
    remedies,
  });
}

const NOTHING_MISSING: ReadonlyMap<LevelName, string[]> = new Map();

/** Modes by the level whose figure they need and do not have. */
function missingLevels(machine: BuiltMachine, load: Load): ReadonlyMap<LevelName, string[]> {
  let found: Map<LevelName, string[]> | null = null;
  for (const mode of machine.modes) {
    const cell = load.cells[mode.id];
    if (cell === undefined || cell.state === "off" || cell.state === "amps") continue;
    const { missing } = drawIn(load, cell);
    if (missing === null || missing === "cell") continue;
    found ??= new Map();
    found.set(missing, [...(found.get(missing) ?? []), mode.name]);
  }
  return found ?? NOTHING_MISSING;
}

/** The resistance a part's drop hangs on, named when it is missing. */
function innerFigure(part: BuiltPart): string | null {
  if (part.kind === "driver" && !part.bridgeOhm) return "bridge resistance";
  if (part.kind === "switch" && !part.contactOhm) return "contact resistance";
  return (part.kind === "supply" || part.kind === "converter") && !part.outputOhm ? "output resistance" : null;
}
