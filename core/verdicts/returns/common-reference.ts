import { type Build, perBuild, perBuildFrom } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import { names, partName } from "../../figures/names";
import { primarySource } from "../../figures/rails";
import { guess } from "../../machine/figure";
import { ASSUMED_M } from "../../machine/length";
import type { Signal } from "../../machine/schema";
import { say } from "../../quantity/format";
import { minusPlace } from "../../returns/arrange";
import { isolates } from "../../returns/budget";
import { groundOf } from "../../returns/ground";
import { LINK_WORDS, linkName } from "../../returns/link-words";
import { linkPlanOf } from "../../returns/links";
import { isolate } from "../link-remedies";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "common-reference",
  title: "Two boards talk without a common reference",
  step: "returns",
  needs: "One tie between the two minus sides, at the sources, or an isolated link.",
});

/** Links that need a common ground and have none: two packs or supplies that never meet, or a return that is open. */
export const commonReference = rule({ speak, reads: "figures", evaluate });

/** Links that need a common ground and have no metal between theirs. */
const apartLinks = perBuild((build) =>
  (build.machine.signals ?? []).filter(
    (signal) => linkPlanOf(build, signal.id)?.way === null && !isolates(signal, build.partOf.get(signal.to)),
  ),
);

function evaluate(figures: Figures): Verdict[] {
  // Links between the same two systems are one trouble with one cure.
  const found = new Map<string, { verdict: Verdict; others: Signal[] }>();
  for (const signal of apartLinks(figures)) {
    const apart = openReturnApart(figures, signal);
    const key = systemsOf(figures, signal, apart) ?? signal.id;
    const first = found.get(key);
    if (first) first.others.push(signal);
    else found.set(key, { verdict: judge(figures, signal.id, signal, apart), others: [] });
  }
  return [...found.values()].map(({ verdict, others }) => {
    if (others.length === 0) return verdict;
    const also = new Set([...(verdict.also ?? []), ...others.flatMap(({ from, to }) => [from, to])]);
    also.delete(verdict.subject.id);
    const same = names(others.map((signal) => linkName(figures, signal)));
    return { ...verdict, also: [...also], detail: `${verdict.detail} The same goes for ${same}.` };
  });
}

/** The two sources of a link's boards, as a key; null where it is not two sources that never meet. */
function systemsOf(figures: Build, signal: Signal, apart: number | null): string | null {
  const [a, b] = [signal.from, signal.to].map((end) => primarySource(figures, end)?.id);
  const open = [signal.from, signal.to].some((end) => figures.parts[end]?.wiring !== "ok");
  return a && b && a !== b && !open && apart === null ? [a, b].sort().join(" ") : null;
}

const judge = perBuildFrom((figures, _, signal: Signal, apart: number | null): Verdict => {
  return speak({
    part: { id: signal.from },
    about: signal.id,
    severity: apart === null ? "fix" : "stop",
    also: [signal.to],
    headline: `${linkName(figures, signal)}: no common reference`,
    detail:
      apart === null
        ? unrelated(figures, signal)
        : `No metal joins their grounds, and a source between them holds them ${say(apart, "voltage")} apart. Joined through the signal, that voltage drives current through its pins. Isolate the link; a wire between these grounds would short that source.`,
    cause: [signal.from, signal.to].find((end) => figures.parts[end]?.wiring !== "ok"),
    remedies: [...(apart === null ? tie(figures, signal) : []), isolate(figures, signal)],
  });
});

/** Volts that sources hold between two grounds no metal joins; null where nothing relates them. */
function openReturnApart(figures: Figures, signal: Signal): number | null {
  const { solved } = figures;
  const ground = groundOf(figures);
  const [a, b] = [ground.nodeOf(signal.from), ground.nodeOf(signal.to)];
  if (a < 0 || b < 0 || solved.wiring.unknownOf[a] === -2 || solved.wiring.island[a] !== solved.wiring.island[b]) return null;
  const volts = solved.planned.flatMap((point) =>
    point.status === "solved" ? [Math.abs((point.nodeV[a] as number) - (point.nodeV[b] as number))] : [],
  );
  return volts.length === 0 ? null : Math.max(...volts);
}

function unrelated(figures: Build, signal: Signal): string {
  const [a, b] = [signal.from, signal.to].map((end) => primarySource(figures, end));
  const open = [signal.from, signal.to].find((end) => figures.parts[end]?.wiring === "noReturn" || figures.parts[end]?.wiring === "apart");
  const bus = signal.kind === "rs485" || signal.kind === "can" ? " Two wires carry the data, but a third must carry the reference." : "";
  if (open)
    return `${partName(figures, open)} has no return, so its ground hangs in the air and its current looks for a way through the pins of this link: through a clamp diode into the other board.${bus}`;
  const whose = a && b && a.id !== b.id ? `${a.name} and ${b.name} meet nowhere` : "No metal joins their two grounds";
  return `${whose}, so their ${LINK_WORDS[signal.kind]} link has nothing to be measured against: it reads at random, or current finds a way through its pins.${bus} Tie the two minus sides once, at the sources, not at a signal connector.`;
}

/** One wire between the minus sides of the two sources, as heavy as the lighter of their returns. */
function tie(figures: Build, signal: Signal): Remedy[] {
  const [a, b] = [signal.from, signal.to].map((end) => primarySource(figures, end));
  if (!a || !b || a.id === b.id) return [];
  const [from, to] = [b, a].map((source) => minusPlace(figures.machine, figures.partOf, source));
  if (!from || !to) return [];
  const gauges = [a, b].flatMap(
    (source) => figures.machine.wires.find((wire) => wire.role === "return" && wire.to.part === source.id)?.gauge ?? [],
  );
  return [
    {
      label: `Tie ${partName(figures, from.part)} to ${partName(figures, to.part)} once`,
      command: {
        type: "addWire",
        wire: {
          role: "return",
          from,
          to,
          parallel: 1,
          insulation: "pvc80",
          lengthM: guess(ASSUMED_M),
          ...(gauges[0] === undefined ? {} : { gauge: gauges[0] }),
        },
      },
    },
  ];
}
