import type { Build } from "../../figures/build";
import { partName } from "../../figures/names";
import type { BuiltPart, Part, TerminalRef } from "../../machine/schema";
import { inputTerminals, isChassis, isConsumer } from "../../machine/terminals";
import { railOrigin } from "../../machine/tree";
import { nodeAt } from "../../network/circuit";
import { landCommand } from "../../returns/land";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "wiring",
  title: "A part with no way back to its source, or none to it",
  step: "feeds",
  needs: "Say where it hangs: a feed and a return of its own.",
});

/** Parts that no current can flow through, and metal that hangs on no source. */
export const wiring = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const part of figures.machine.parts) {
    const figure = figures.parts[part.id];
    if (!figure || !isConsumer(part) || figure.wiring === "ok") continue;
    const row = figures.ledger.rowOf.get(part.id);
    const parent = row?.parent ? figures.parts[row.parent] : undefined;
    // Its driver or converter is cut off: that one is named, not everything behind it.
    if (parent && parent.wiring !== "ok" && parent.wiring !== "source" && parent.wiring !== "metal") continue;
    const subject = { kind: "part" as const, id: part.id };
    if (figure.wiring === "notFed") {
      verdicts.push(
        speak({
          subject,
          cause: part.id,
          about: part.id,
          severity: "fix",
          headline: `Nothing feeds ${part.name}`,
          detail: row?.feed
            ? `Its supply wire begins at ${partName(figures, row.feed.from.part)}, which no source reaches.`
            : "It has no supply wire, so it draws nothing in any mode and the sums leave it out.",
        }),
      );
    } else {
      const lands = row?.back ? partName(figures, row.back.to.part) : null;
      verdicts.push(
        speak.at("returns")({
          subject,
          cause: part.id,
          about: part.id,
          severity: "stop",
          headline: `${part.name} has no way back to its source`,
          detail: lands
            ? `Its return lands on ${lands}, from where no metal leads to the minus of the source that feeds it. Powered like this, its current looks for a way through signal wires.`
            : "It is fed but has no return wire. Powered like this, its current looks for a way through signal wires and the boards behind them.",
          remedies: landings(figures, part),
        }),
      );
    }
  }
  verdicts.push(...floating(figures));
  return verdicts;
}

/** Places where a return would lead back: negative bars on the source's island, and the source's own minus. */
function landings(figures: Build, part: BuiltPart): Remedy[] {
  const { solved, ledger, machine } = figures;
  const originId = railOrigin(ledger, part.id);
  const origin = originId === null ? undefined : figures.partOf.get(originId);
  const back = inputTerminals(part).back;
  if (!origin || !back) return [];
  const minus: TerminalRef = { part: origin.id, terminal: origin.kind === "converter" ? "out-" : "-" };
  const island = solved.wiring.island[nodeAt(solved.circuit, minus.part, minus.terminal)];
  const bars = machine.parts.filter(
    (bar) => bar.kind === "bar" && bar.side === "negative" && solved.wiring.island[nodeAt(solved.circuit, bar.id, "bar")] === island,
  );
  const row = ledger.rowOf.get(part.id);
  const onBars = bars.map((bar): TerminalRef => ({ part: bar.id, terminal: "bar" }));
  // What a regulator feeds goes home to the regulator: on a bar it would ride on what motors lift.
  const places = (origin.kind === "converter" ? [minus, ...onBars] : [...onBars, minus]).slice(0, 2);
  return places.flatMap((at): Remedy[] => {
    const place = `${partName(figures, at.part)}${at.terminal === "bar" ? "" : " minus"}`;
    const command = landCommand(machine, part.id, at);
    return command ? [{ label: `${row?.back ? "Land it on" : "Add a return to"} ${place}`, command }] : [];
  });
}

/** Bars, switches and fuses on islands without any source: their voltage is not defined, so nothing can be said of them. */
function floating(figures: Build): Verdict[] {
  const { solved, machine } = figures;
  const groups = new Map<number, Part[]>();
  for (const part of machine.parts) {
    // A frame that floats is a school, not a mistake.
    if (isConsumer(part) || part.kind === "pack" || part.kind === "supply" || isChassis(part)) continue;
    const node = nodeAt(solved.circuit, part.id, part.kind === "bar" ? "bar" : "in");
    if (solved.wiring.unknownOf[node] !== -2) continue;
    const island = solved.wiring.island[node] as number;
    groups.set(island, [...(groups.get(island) ?? []), part]);
  }
  return [...groups.values()].map((parts) => {
    const first = parts[0] as Part;
    const names = parts.map((part) => part.name).join(", ");
    return speak.at(first.kind === "bar" && first.side === "negative" ? "returns" : "feeds")({
      part: first,
      key: "island",
      severity: "ask",
      headline: `${names}: tied to no source`,
      detail:
        "No metal joins this to a source, so its voltage is not defined and nothing hanging on it is computed. Add the wire that is missing, or remove it.",
    });
  });
}
