import type { Build } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { names, wireName } from "../../figures/names";
import { primarySource } from "../../figures/rails";
import type { Part, Wire } from "../../machine/schema";
import { isReturnBar } from "../../machine/terminals";
import { separateReturns } from "../../returns/arrange";
import { barLinks } from "../../returns/bar-links";
import { wiresOf } from "../../returns/ground";
import { mainPackFor, ownPackFor } from "../../returns/logic-supply";
import { secondLinks } from "../../returns/loops";
import { listens, moves, returning } from "../../returns/shared";
import { ownReturn } from "../link-remedies";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "return-school",
  title: "The chosen school of returns or logic supply is not kept",
  step: "returns",
  needs: "Returns landed as your school asks, or another school in the settings.",
});

/** What the schools demand: bars held by two links; power and logic joined at exactly one point; logic on this pack or that. */
export const returnSchool = rule({ speak, reads: "figures", evaluate });

function evaluate(figures: Figures): Verdict[] {
  const { returns, logicSupply } = figures.machine.settings.schools;
  return [
    ...(returns === "joined at one point" ? joinedOnce(figures) : []),
    ...(returns === "linked bars" ? linkedTwice(figures) : []),
    ...(logicSupply ? logicOn(figures, logicSupply) : []),
  ];
}

/** Links between bars that nothing heavy goes round: bolts loosen, and then a bar is gone. */
function linkedTwice(figures: Build): Verdict[] {
  const doubled = new Set(
    secondLinks(figures).flatMap(({ wire, way }) => [wire.id, ...wiresOf(figures, way).map(({ id: other }) => other)]),
  );
  return barLinks(figures).flatMap((link): Verdict[] => {
    if (doubled.has(link.id) || !isReturnBar(figures.partOf.get(link.to.part))) return [];
    const bar = figures.partOf.get(link.from.part)?.name ?? "";
    const { id: _own, pair: _pair, label: _label, ...conductor } = link;
    return [
      speak({
        wire: link,
        key: "link",
        severity: "watch",
        also: [link.from.part],
        headline: `${bar} depends on one link`,
        detail:
          "The school of linked bars wants two that do not share a bolt: a loose one is the usual failure, and every return on that bar then looks for a way through signals.",
        remedies: [{ label: "Lay a second link", command: { type: "addWire", wire: conductor } }],
      }),
    ];
  });
}

function joinedOnce(figures: Figures): Verdict[] {
  const { machine } = figures;
  const boards = returning(figures).filter(listens);
  const logicBars = machine.parts.filter((part) => isReturnBar(part) && part.carries === "logic");
  if (boards.length === 0 || !returning(figures).some(moves)) return [];
  const base = {};
  const first = logicBars[0];
  if (!first) {
    const command = separateReturns(figures);
    return [
      speak({
        ...base,
        machine: "machine",
        about: "none",
        severity: "fix",
        headline: "Power and logic come home together",
        detail: `The chosen school wants a bar for ${names(boards.map(({ name }) => name))} alone, joined to the power returns at one point that is heavy, short and labelled.`,
        remedies: command ? [{ label: "Give logic a bar of its own", command }] : [],
      }),
    ];
  }
  return [...misplaced(figures, logicBars), ...joins(figures, logicBars)];
}

/** Motors that land on a logic bar. */
function misplaced(figures: Build, logicBars: readonly Part[]): Verdict[] {
  const power = figures.machine.parts.find((part) => isReturnBar(part) && part.carries !== "logic");
  return returning(figures).flatMap((part): Verdict[] => {
    const own = moves(part) ? ownReturn(figures, part.id) : undefined;
    const bar = logicBars.find(({ id: barId }) => barId === own?.to.part);
    if (!own || !bar) return [];
    return [
      speak({
        part,
        key: "on",
        severity: "fix",
        also: [own.id],
        headline: `${part.name} comes home on the logic bar`,
        detail: `${bar.name} is for logic. Motor current on it moves every board there.`,
        remedies: power
          ? [
              {
                label: `Land it on ${power.name}`,
                command: { type: "reland", wireId: own.id, end: "to", at: { part: power.id, terminal: "bar" } },
              },
            ]
          : [],
      }),
    ];
  });
}

/** Conductors that join the logic side with the power side: bars' own links, and grounds beside signals. */
function joins(figures: Build, logicBars: readonly Part[]): Verdict[] {
  const logic = new Set(logicBars.map((bar) => bar.id));
  const side = new Set([
    ...logic,
    ...returning(figures).flatMap((part) => (logic.has(ownReturn(figures, part.id)?.to.part ?? "") ? [part.id] : [])),
  ]);
  const crossing = figures.machine.wires.filter(
    (wire: Wire) =>
      (wire.role === "return" || wire.role === "signal" || wire.role === "bond") && side.has(wire.from.part) !== side.has(wire.to.part),
  );
  if (crossing.length <= 1) return [];
  const extra = crossing.filter(({ role }) => role === "signal");
  return [
    speak({
      part: { id: logicBars[0]?.id ?? "" },
      about: "joins",
      severity: "fix",
      also: crossing.map((wire) => wire.id),
      headline: `Power and logic are joined ${crossing.length} times, not once`,
      detail: `By the ${names(crossing.map((wire) => wireName(figures, wire)))}. Most drivers also join power and signal ground inside; where one does, only an isolated input keeps this school. Lift the one join at bring-up: more than 100 kΩ must be left.`,
      remedies:
        extra.length > 0
          ? [
              {
                label: `Drop ${extra.length === 1 ? "the signal ground" : `the ${extra.length} signal grounds`} that join them`,
                command: {
                  type: "batch",
                  label: "Drop signal grounds",
                  commands: extra.map((wire) => ({ type: "removeWire", id: wire.id })),
                },
              },
            ]
          : [],
      compared: { count: crossing.length, limit: 1 },
    }),
  ];
}

/** Boards that do not live on the pack the school has for them. */
function logicOn(figures: Build, wanted: "own pack" | "main pack"): Verdict[] {
  const own = wanted === "own pack";
  const moving = new Set(
    returning(figures)
      .filter(moves)
      .map((part) => primarySource(figures, part.id)?.id),
  );
  const shared = returning(figures).filter(
    (part) => listens(part) && part.loadKind !== "sound" && moving.has(primarySource(figures, part.id)?.id ?? "none") === own,
  );
  const first = shared[0];
  if (!first) return [];
  const source = primarySource(figures, first.id);
  const command = own ? ownPackFor(figures) : mainPackFor(figures);
  return [
    speak({
      part: first,
      about: "pack",
      severity: "watch",
      also: shared.slice(1).map((part) => part.id),
      headline: `${names(shared.map(({ name }) => name))} live on ${source?.name ?? "the motors' source"}`,
      detail: own
        ? "The chosen school gives logic a pack of its own, its minus tied to the motors' minus at one point. Compare both under Arrangements before you build it."
        : "The chosen school has one pack for all, with a regulator that rides through every sag. Compare both under Arrangements before you change it.",
      remedies: command ? [{ label: own ? "A pack of its own for logic" : "Feed logic from the main pack", command }] : [],
    }),
  ];
}
