import { type Judged, judge } from "../bringup/judge";
import { EMPTY_LOG, type Log } from "../bringup/log";
import { bringUpOf } from "../bringup/plan";
import { type BringUp, type Kit, USUAL_KIT } from "../bringup/types";
import { BLED_V, contactsOf } from "../figures/contacts";
import type { Figures } from "../figures/figures";
import type { ShownFigures } from "../figures/types";
import { groupBy } from "../machine/group";
import type { Machine, Part } from "../machine/schema";
import type { ShelfItem } from "../machine/shelf";
import { isChassis, isReturnBar } from "../machine/terminals";
import { ledgerOf } from "../machine/tree";
import { say, sayDuration } from "../quantity/format";
import { flowOf } from "../returns/flow";
import { groundWords, LINK_WORDS, levelWords } from "../returns/link-words";
import type { Picture } from "../returns/pen";
import { pictureOf } from "../returns/picture";
import { returnsOf } from "../returns/summary";
import { runTimes } from "../sources/run";
import { causesOf, membersOf } from "../verdicts/causes";
import { openAndDecided } from "../verdicts/decided";
import { SEVERITY_WORDS, type Severity, type Verdict } from "../verdicts/types";
import { type PaperStage, paperStages } from "./bring-up";
import { type BuyList, buyList } from "./buy";
import { type Drawing, drawingOf } from "./drawing";
import {
  type Connection,
  type CutGroup,
  connectionsOf,
  cutGroups,
  type FeedLine,
  type FuseLine,
  feedLines,
  fuseLines,
  type Label,
  labelsOf,
} from "./lists";
import { boxesOf, ratedAs } from "./ratings";
import { tagsOf } from "./tags";
import { conductorText, NOT_KNOWN, partsOf } from "./words";

/** A link with its levels, for those who wire it. */
export interface LinkLine {
  readonly name: string;
  readonly kind: string;
  readonly levels: string;
  readonly ground: string;
  readonly shield: string;
}

/** A verdict that was left as it is. */
export interface AcceptedLine {
  readonly severity: string;
  readonly headline: string;
  readonly kind: string;
  readonly reason: string;
  readonly date: string;
}

/** Open verdicts of one cause. */
export interface OpenLine {
  readonly severity: string;
  readonly headline: string;
  readonly places: number;
}

/** The build sheet: what is printed, taken to the shop and to the bench. All texts are ready to print. */
export interface Sheet {
  readonly name: string;
  readonly description: string;
  /** What the machine is in numbers, the one that matters first. */
  readonly numbers: readonly { readonly label: string; readonly value: string }[];
  /** "2 Stop, 14 Fix, 3 accepted". */
  readonly standing: string;
  readonly drawing: Drawing;
  readonly returns: { readonly mode: string; readonly picture: Picture } | null;
  /** How everything comes home, a line a place. */
  readonly waysBack: readonly string[];
  /** What an emergency stop leaves; null where there is none. */
  readonly stopped: readonly string[] | null;
  readonly feeds: readonly FeedLine[];
  readonly fuses: readonly FuseLine[];
  readonly cut: readonly CutGroup[];
  readonly buy: BuyList;
  readonly labels: readonly Label[];
  readonly connections: readonly Connection[];
  readonly links: readonly LinkLine[];
  readonly bringUp: readonly PaperStage[];
  readonly open: readonly OpenLine[];
  /** Every open verdict with why. */
  readonly verdicts: readonly { readonly severity: string; readonly headline: string; readonly detail: string }[];
  readonly accepted: readonly AcceptedLine[];
  readonly cautions: readonly string[];
}

/** Figures of a machine with what is said of it. */
export interface SheetFigures extends ShownFigures {
  readonly verdicts: readonly Verdict[];
}

/** What a sheet is made with beside the plan. */
export interface SheetMeans {
  readonly shelf?: readonly ShelfItem[] | undefined;
  readonly log?: Log | undefined;
  readonly kit?: Kit | undefined;
  /** Bring-up that is known already, with what was read. */
  readonly judged?: Judged | undefined;
}

/** Cautions that go with every sheet; about packs only where there is one, about mains only where there is a supply. */
export function cautionsFor(machine: Pick<Machine, "parts">): string[] {
  const has = (kind: Part["kind"]) => machine.parts.some((part) => part.kind === kind);
  const lithium = machine.parts.some((part) => part.kind === "pack" && /^(lifepo4|nmc|lipo)/.test(part.chemistry ?? "lipo"));
  return [
    "Before the first power-up: sources unplugged, check every plus against minus with a meter, then power through a small fuse or a limited bench supply, one rail at a time, motors off the ground or uncoupled.",
    ...(has("pack")
      ? [
          `${lithium ? "A lithium pack pushes" : "A battery pushes"} hundreds of amps and more into a short: take off rings, insulate tools, one terminal at a time.`,
        ]
      : []),
    "Charged capacitors stay live after switch-off: measure before you touch.",
    ...(has("supply")
      ? ["Mains wiring inside supplies and chargers is outside this sheet: local codes and licensed people decide it."]
      : []),
  ];
}

/** Counts in words, graver first; what is not there is said of Stop and Fix only. */
export function standingOf(verdicts: readonly Verdict[]): string {
  const { open, decided } = openAndDecided(verdicts);
  const count = (severity: Severity) => open.filter((each) => each.severity === severity).length;
  const words = (severity: "stop" | "fix" | "watch" | "ask") => {
    const n = count(severity);
    return n > 0
      ? [`${n} ${SEVERITY_WORDS[severity]}`]
      : severity === "stop" || severity === "fix"
        ? [`no ${SEVERITY_WORDS[severity]}`]
        : [];
  };
  return [
    ...words("stop"),
    ...words("fix"),
    ...words("watch"),
    ...words("ask"),
    ...(decided.length > 0 ? [`${decided.length} accepted`] : []),
  ].join(", ");
}

/** The largest of a machine's modes by what its sources give. */
function worstMode(analysis: Pick<ShownFigures, "modes">): number {
  return analysis.modes.reduce((best, mode, m) => (mode.worstA > (analysis.modes[best]?.worstA ?? 0) ? m : best), 0);
}

function numbersOf(figures: Figures, analysis: ShownFigures, buy: BuyList): Sheet["numbers"] {
  const { machine } = figures;
  const ledger = ledgerOf(machine);
  const [main] = ledger.rails;
  const worst = analysis.modes[worstMode(analysis)];
  const runs = runTimes(machine);
  const run = runs.mission ?? runs.alone.map(({ run: each }) => each).sort((a, b) => a.end.seconds - b.end.seconds)[0];
  const mass = machine.parts.reduce((sum, part) => sum + (part.massKg?.value ?? 0) * (part.kind === "load" ? part.count : 1), 0);
  return [
    ...(main ? [{ label: "main rail", value: `${main.tag}, ${say(main.volts, "voltage")}` }] : []),
    ...(worst
      ? [
          {
            label: `at worst, ${worst.name}`,
            value: worst.collapsed ? "collapses" : `${worst.atLeast ? "≥ " : ""}${say(worst.worstA, "current", "up")}`,
          },
        ]
      : []),
    ...(run && Number.isFinite(run.end.seconds) && run.end.cause !== "endless" && run.end.cause !== "done"
      ? [{ label: "runs", value: `${run.atMost ? "≤ " : ""}${sayDuration(run.end.seconds)}` }]
      : []),
    { label: "parts", value: `${machine.parts.length}` },
    { label: "wires", value: `${tagsOf(machine).laid.length}` },
    ...(mass > 0 ? [{ label: "parts weighed", value: say(mass, "mass") }] : []),
    ...(buy.cost > 0
      ? [{ label: `still to buy${buy.unpriced > 0 ? `, ${buy.unpriced} lines without a price` : ""}`, value: buy.cost.toFixed(2) }]
      : []),
  ];
}

/** Where everything comes home: each place returns land on, and how it goes on from there. */
function waysBackOf(machine: Machine): string[] {
  const tags = tagsOf(machine);
  const parts = partsOf(machine);
  const lands = groupBy(
    machine.wires.filter(({ role }) => role === "return"),
    ({ to }) => `${to.part} ${to.terminal}`,
  );
  const nameOf = (id: string, terminal: string) => {
    const part = parts.get(id);
    return part?.kind === "bar" ? part.name : `${part?.name ?? NOT_KNOWN} ${terminal.replace("-", "−")}`;
  };
  const lines = [...lands.values()].map((wires) => {
    const [first] = wires;
    if (!first) return "";
    const at = parts.get(first.to.part);
    const on = at && isReturnBar(at) ? machine.wires.find(({ role, from }) => role === "return" && from.part === at.id) : undefined;
    const own = wires.map(({ from }) => parts.get(from.part)).filter((part) => part !== undefined && !isReturnBar(part)).length;
    const bars = wires.flatMap(({ from }) => (parts.get(from.part)?.kind === "bar" ? [parts.get(from.part)?.name ?? ""] : []));
    const what = [own > 0 ? `${own} return${own > 1 ? "s" : ""}` : "", ...bars].filter(Boolean).join(", ");
    const further = on
      ? `, on by ${tags.wires.get(on.id) ?? "the board"} ${conductorText(on)} to ${nameOf(on.to.part, on.to.terminal)}`
      : "";
    return `${nameOf(first.to.part, first.to.terminal)}: ${what}${further}`;
  });
  const bonds = machine.wires.filter(({ role }) => role === "bond");
  const frames = machine.parts.filter(isChassis);
  for (const wire of bonds)
    lines.push(
      `${nameOf(wire.to.part, wire.to.terminal)} bonded to ${nameOf(wire.from.part, wire.from.terminal)}${wire.bondBy && wire.bondBy !== "wire" ? ` by a ${wire.bondBy}` : ""}`,
    );
  if (frames.length > 0 && bonds.length === 0) lines.push(`${frames.map(({ name }) => name).join(", ")}: not bonded`);
  const grounds = machine.wires.filter(({ role }) => role === "signal");
  if (grounds.length > 0) lines.push(`${grounds.length} signal ground${grounds.length > 1 ? "s" : ""} or shields: see the connections`);
  return lines.filter(Boolean);
}

function stoppedOf(figures: Figures): string[] | null {
  const { stop, contacts } = contactsOf(figures);
  if (!stop) return null;
  const names = (ids: readonly string[]) => {
    const all = ids.map((id) => figures.partOf.get(id)?.name ?? id);
    return all.length === 0 ? "nothing" : all.join(", ");
  };
  const bank = contacts.filter(({ id }) => stop.stops.includes(id)).reduce((sum, { bank: each }) => sum + (each?.farads ?? 0), 0);
  return [
    `Dead: ${names(stop.dead)}`,
    `Alive: ${names(stop.alive)}`,
    bank > 0
      ? `Capacitors behind it, ${say(bank, "capacitance")} and what nobody told of: measure under ${say(BLED_V, "voltage")} before you touch`
      : `Capacitors behind it stay charged for a while: measure under ${say(BLED_V, "voltage")} before you touch`,
  ];
}

function openLines(machine: Machine, open: readonly Verdict[]): OpenLine[] {
  return causesOf(machine, open).map((cause) => ({
    severity: SEVERITY_WORDS[cause.severity],
    headline: cause.headline,
    places: membersOf(cause).length,
  }));
}

/** The distribution for paper, px. */
const DRAWING_ROOM = { width: 1108, height: 330 };
/** The picture of returns for paper, px: a quarter of a millimetre each. */
const RETURNS_ROOM = { width: 1540, height: 380 };

/** Everything the sheet shows of a machine. `analysis`: with the verdicts it is to name, late ones too. */
export function sheetOf(figures: Figures, analysis: SheetFigures, means: SheetMeans = {}): Sheet {
  const { machine } = figures;
  const { open, decided } = openAndDecided(analysis.verdicts);
  const boxes = boxesOf(machine);
  const whatOf = (id: string) => {
    const part = figures.partOf.get(id);
    if (!part || part.kind === "bar") return "";
    return part.kind === "supply" ? ratedAs(part, boxes.get(part.box ?? part.id)).what : ratedAs(part).what;
  };
  const mode = worstMode(analysis);
  const flows = machine.parts.length > 0 && machine.wires.some(({ role }) => role === "return");
  const plan: BringUp | null = means.judged ? null : bringUpOf(figures, means.kit ?? USUAL_KIT);
  const judged = means.judged ?? (plan ? judge(figures, plan, means.log ?? EMPTY_LOG) : null);
  const buy = buyList(machine, means.shelf);
  const parts = partsOf(machine);
  return {
    name: machine.name,
    description: machine.description,
    numbers: numbersOf(figures, analysis, buy),
    standing: standingOf(analysis.verdicts),
    drawing: drawingOf(machine, analysis, DRAWING_ROOM),
    returns: flows
      ? {
          mode: machine.modes[mode]?.name ?? "",
          picture: pictureOf(machine, flowOf(machine, analysis, returnsOf(figures), mode), RETURNS_ROOM),
        }
      : null,
    waysBack: waysBackOf(machine),
    stopped: stoppedOf(figures),
    feeds: feedLines(machine, analysis),
    fuses: fuseLines(machine),
    cut: cutGroups(machine),
    buy,
    labels: labelsOf(machine),
    connections: connectionsOf(machine, whatOf),
    links: (machine.signals ?? []).map((signal) => ({
      name: `${parts.get(signal.from)?.name ?? NOT_KNOWN} ${signal.bothWays ? "↔" : "→"} ${parts.get(signal.to)?.name ?? NOT_KNOWN}`,
      kind: LINK_WORDS[signal.kind],
      levels: levelWords(signal),
      ground: groundWords(machine, signal, false),
      shield: groundWords(machine, signal, true),
    })),
    bringUp: judged ? paperStages(figures, judged) : [],
    open: openLines(machine, open),
    verdicts: open.map(({ severity, headline, detail }) => ({ severity: SEVERITY_WORDS[severity], headline, detail })),
    accepted: decided.map(({ severity, headline, decided: made }) => ({
      severity: SEVERITY_WORDS[severity],
      headline,
      kind: made?.kind ?? "accepted",
      reason: made?.reason ?? "",
      date: made?.at.slice(0, 10) ?? "",
    })),
    cautions: cautionsFor(machine),
  };
}
