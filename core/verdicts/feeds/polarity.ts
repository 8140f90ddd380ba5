import type { Build } from "../../figures/build";
import { partName, wireEnds, wireName } from "../../figures/names";
import { type Crossing, crossedWords, crossingsOf, swapped } from "../../figures/polarity";
import type { Wire } from "../../machine/schema";
import { capital, say } from "../../quantity/format";
import { harm } from "../reversed";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Severity, Verdict } from "../types";

const speak = speaker({
  id: "polarity",
  title: "Plus and minus crossed",
  step: "feeds",
  needs: "Trace both wires at the machine and say which of them is crossed.",
});

/** A conductor that joins plus to minus, and parts that get their volts turned round or none at all. */
export const polarity = rule({ speak, reads: "build", evaluate });

function evaluate(build: Build): Verdict[] {
  return crossingsOf(build).flatMap((crossing): Verdict[] => {
    if (crossing.found === "short") return [shorted(build, crossing)];
    return [turned(build, crossing)];
  });
}

function subjectOf(build: Build, { meets, parts: [first = ""] }: Crossing): { wire: Wire } | { part: { id: string } } {
  for (const { kind, id } of meets) {
    const wire = kind === "wire" ? build.wireOf.get(id) : undefined;
    if (wire) return { wire };
    if (kind === "part") return { part: { id } };
  }
  return { part: { id: first } };
}

function shorted(build: Build, crossing: Crossing): Verdict {
  const [source = ""] = crossing.parts;
  const subject = subjectOf(build, crossing);
  const named = "wire" in subject ? wireName(build, subject.wire) : partName(build, subject.part.id);
  return speak({
    ...subject,
    key: "short",
    cause: crossing.parts[0],
    severity: "stop",
    also: crossing.parts,
    headline: `${capital(named)} joins plus to minus: ${partName(build, source)} is shorted`,
    detail: `As soon as power is on up to ${say(crossing.amps, "current", "up")} flow through it with nothing running, until something opens or burns.${"wire" in subject ? ` It runs ${wireEnds(build, subject.wire)}.` : ""} Do not connect the source before it is moved.`,
    compared: { amps: crossing.amps },
  });
}

function turned(build: Build, crossing: Crossing): Verdict {
  const parts = crossing.parts.flatMap((id) => build.partOf.get(id) ?? []);
  const [first] = parts;
  const worst = parts.map(harm).reduce((a, b) => (rank(b.severity) < rank(a.severity) ? b : a), harm(first));
  const rest = parts.length - 1;
  const names = `${first?.name ?? "A part"}${rest > 0 ? ` and ${rest} more` : ""}`;
  const wires = crossing.meets.length > 0 ? ` Likely crossed: ${crossedWords(build, crossing)}.` : "";
  if (crossing.found === "none")
    return speak({
      part: { id: first?.id ?? "" },
      key: "none",
      cause: crossing.parts[0],
      severity: "fix",
      also: [...crossing.parts, ...crossing.meets.map(({ id }) => id)],
      headline: `${names} ${rest > 0 ? "get" : "gets"} no volts: both terminals sit on the same side`,
      detail: `It is joined to its source and sees ${say(Math.abs(crossing.volts), "voltage")}, so it never runs.${wires}`,
      compared: { volts: crossing.volts },
      remedies: swap(build, crossing),
    });
  return speak({
    part: { id: first?.id ?? "" },
    key: "reversed",
    cause: crossing.parts[0],
    severity: worst.severity,
    also: [...crossing.parts, ...crossing.meets.map(({ id }) => id)],
    headline: `${names}: plus and minus are swapped, ${say(-crossing.volts, "voltage")} the wrong way round`,
    detail: `${worst.words}${wires}`,
    compared: { volts: crossing.volts },
    remedies: swap(build, crossing),
  });
}

function rank(severity: Severity): number {
  return severity === "stop" ? 0 : severity === "fix" ? 1 : 2;
}

/** Both crossed conductors, each where the other lands. */
function swap(build: Build, { meets }: Crossing): Remedy[] {
  const wires = meets.flatMap(({ kind, id }) => (kind === "wire" ? (build.wireOf.get(id) ?? []) : []));
  const [a, b] = wires;
  const ends = a && b ? swapped([a, b]) : null;
  if (!ends) return [];
  const label = "Swap where the two wires land";
  return [{ label, command: { type: "batch", label, commands: ends.map((end) => ({ type: "reland" as const, ...end })) } }];
}
