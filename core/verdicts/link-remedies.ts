import { type Build, perBuildOf } from "../figures/build";
import { primarySource } from "../figures/rails";
import type { Command } from "../machine/commands";
import type { Signal, TerminalRef, Wire } from "../machine/schema";
import { groundTerminal, isSource, sameTerminal, terminalName } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { minusPlace } from "../returns/arrange";
import { linkName } from "../returns/link-words";
import { homesOf } from "../returns/shared";
import type { Remedy } from "./types";

/** Takes the link's own ground wire and shield away and puts an isolator in its place. */
const isolateById = perBuildOf((figures, signalId): Remedy => {
  const signal = figures.machine.signals?.find(({ id }) => id === signalId);
  const own = figures.machine.wires.filter((wire) => wire.signal === signalId);
  return {
    last: true,
    label: "Isolate the link",
    command: {
      type: "batch",
      label: `Isolate ${signal ? linkName(figures, signal) : "the link"}`,
      commands: [
        ...own.map(({ id }) => ({ type: "removeWire" as const, id })),
        { type: "updateSignal", id: signalId, changes: { kind: "opto", bothWays: undefined } },
      ],
    },
  };
});

/** An isolator in place of a link's own ground wire and shield. */
export function isolate(figures: Build, signal: Signal): Remedy {
  return isolateById(figures, signal.id);
}

/**
 * Reports whether a careful builder isolates a link: sound, a computer's USB, or boards on sources without a minus in common.
 * A link between boards of one machine wants a better landing instead (handbook practice section 7).
 */
export function isWorthIsolating(figures: Build, { kind, from, to }: Signal): boolean {
  if (kind === "audio" || kind === "usb") return true;
  const [a, b] = [primarySource(figures, from), primarySource(figures, to)];
  if (a !== null && b !== null && a.id !== b.id) return true;
  // One or two drivers whose grounds nothing else keeps still are isolated by hand; every link is not.
  const toDriver = [from, to].some((id) => figures.partOf.get(id)?.kind === "driver");
  return toDriver && (figures.machine.signals ?? []).filter((signal) => signal.kind === "opto").length < MOST_ISOLATED;
}

/** Links between boards and drivers of one machine that are isolated at most. */
const MOST_ISOLATED = 2;

/** The return a part's own current leaves by. */
export function ownReturn(figures: Build, partId: string): Wire | undefined {
  return homesOf(figures)
    .of.get(partId)
    ?.find((wire) => wire.role === "return" && wire.from.part === partId);
}

/** Better places for a board's return: the minus of its own supply (the bar beside it), and where a regulator itself lands. */
export function betterLandings(figures: Build, partId: string, what = "it"): Remedy[] {
  return landingsOf(figures, partId).map(({ on, command }) => ({ label: `Land ${what} on ${on}`, command }));
}

/** The same for what lands on a board: places that are not that board. */
export function landingsBeside(figures: Build, partId: string, boardId: string): Remedy[] {
  const name = figures.partOf.get(partId)?.name ?? "it";
  return landingsOf(figures, partId)
    .filter(({ command }) => !(command.type === "reland" && command.at.part === boardId))
    .slice(0, 1)
    .map(({ on, command }) => ({ label: `Land ${name} on ${on}`, command }));
}

const landingsOf = perBuildOf((figures, partId): readonly { on: string; command: Command }[] => {
  const wire = ownReturn(figures, partId);
  const origin = figures.partOf.get(railOrigin(figures.ledger, partId) ?? "");
  if (!wire || !origin) return [];
  const minus: TerminalRef =
    origin.kind === "converter"
      ? { part: origin.id, terminal: "out-" }
      : isSource(origin)
        ? minusPlace(figures.machine, figures.partOf, origin)
        : { part: origin.id, terminal: groundTerminal(origin) ?? "-" };
  const back = figures.machine.wires.find((each) => each.role === "return" && each.from.part === origin.id && each.from.terminal === "in-");
  return [minus, ...(back ? [back.to] : [])].flatMap((at): { on: string; command: Command }[] => {
    const place = figures.partOf.get(at.part);
    if (!place || sameTerminal(at, wire.to)) return [];
    return [{ on: terminalName(place, at.terminal), command: { type: "reland", wireId: wire.id, end: "to", at } }];
  });
});

/** A resistor for a ground beside fast edges, Ω (10 to 100, handbook section 3). */
const SERIES_OHM = 47;

/** Cures of a signal ground that closes a loop, in the handbook's order. */
export function loopCures(figures: Build, wire: Wire, looped: boolean): Remedy[] {
  const signal = figures.machine.signals?.find((each) => each.id === wire.signal);
  const drop: Remedy = wire.shield
    ? {
        label: "Lift one end of the shield",
        command: {
          type: "batch",
          label: "Lift one end of a shield",
          commands: [
            { type: "removeWire", id: wire.id },
            ...(signal ? [{ type: "updateSignal" as const, id: signal.id, changes: { shieldLifted: true } }] : []),
          ],
        },
      }
    : { label: "Drop the extra ground", command: { type: "removeWire", id: wire.id } };
  return [
    ...(looped ? [drop] : []),
    ...(wire.resistorOhm || wire.shield
      ? []
      : [
          {
            label: `Put ${SERIES_OHM} Ω in it`,
            command: {
              type: "updateWire" as const,
              id: wire.id,
              changes: { resistorOhm: { value: SERIES_OHM, provenance: "typical" as const } },
            },
          },
        ]),
    ...(signal && signal.kind !== "analogue" ? [isolate(figures, signal)] : []),
  ];
}
