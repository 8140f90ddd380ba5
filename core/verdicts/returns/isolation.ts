import type { Build } from "../../figures/build";
import { names, wireName } from "../../figures/names";
import type { Signal, Wire } from "../../machine/schema";
import { nodeAt } from "../../network/circuit";
import { isolates } from "../../returns/budget";
import { groundOf, wiresOf } from "../../returns/ground";
import { linkName } from "../../returns/link-words";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "isolation",
  title: "Isolation that something bridges",
  step: "returns",
  needs: "What bridges the isolation taken away: which wire that is only you can decide.",
});

/** Isolated links with a ground wire beside them, own supplies that meet elsewhere, isolated converters joined outside. */
export const isolation = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  return [...(figures.machine.signals ?? []).flatMap((signal) => link(figures, signal)), ...converters(figures)];
}

function link(figures: Build, signal: Signal): Verdict[] {
  if (!isolates(signal, figures.partOf.get(signal.to))) return [];
  const own = figures.machine.wires.filter((wire) => wire.signal === signal.id);
  const base = { part: { id: signal.from }, also: [signal.to, ...own.map((wire) => wire.id)] };
  if (own.length > 0)
    return [
      speak({
        ...base,
        key: "own",
        about: signal.id,
        severity: "fix",
        headline: `${linkName(figures, signal)}: a ${own.some(({ shield }) => shield) ? "shield" : "ground wire"} bridges the isolator`,
        detail:
          "The isolator parts the two grounds and the wire beside it joins them again: loop and offset are back. Take it away; an isolator needs its own supply on the far side, not a ground.",
        remedies: [
          {
            label: "Take the wire away",
            command: {
              type: "batch",
              label: `Free the isolator of ${linkName(figures, signal)}`,
              commands: own.map((wire) => ({ type: "removeWire", id: wire.id })),
            },
          },
        ],
      }),
    ];
  if (signal.kind !== "isolated supply") return [];
  const ground = groundOf(figures);
  const way = ground.way(ground.nodeOf(signal.from), ground.nodeOf(signal.to));
  if (!way) return [];
  return [
    speak({
      ...base,
      key: "meets",
      about: signal.id,
      severity: "watch",
      headline: `${linkName(figures, signal)}: both sides meet anyway`,
      detail: `The link has an isolator and a supply of its own for the far side, but the two grounds are joined through the ${through(figures, wiresOf(figures, way))}. The isolator still keeps their offset out of the signal; it separates nothing else.`,
    }),
  ];
}

function through(figures: Build, wires: readonly Wire[]): string {
  return names(
    wires.map((wire) => wireName(figures, wire)),
    3,
  );
}

function converters(figures: Build): Verdict[] {
  const ground = groundOf(figures);
  const { circuit } = figures.solved;
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "converter" || !part.isolated) return [];
    const way = ground.way(nodeAt(circuit, part.id, "in-"), nodeAt(circuit, part.id, "out-"));
    if (!way) return [];
    const wires = wiresOf(figures, way);
    const signal = wires.find(({ role }) => role === "signal" || role === "bond");
    return [
      speak({
        part,
        key: "converter",
        severity: signal ? "fix" : "watch",
        also: wires.map((wire) => wire.id),
        headline: `${part.name} is isolated, but its two minus sides are joined`,
        detail: `They meet through the ${through(figures, wires)}. ${signal ? "That thin conductor is now the only tie between two power systems." : "If they are meant to meet there, a plain converter would do."}`,
        remedies: signal ? [{ label: `Take the ${wireName(figures, signal)} away`, command: { type: "removeWire", id: signal.id } }] : [],
      }),
    ];
  });
}
