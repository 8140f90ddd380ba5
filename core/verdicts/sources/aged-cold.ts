import { computeFigures, type Figures } from "../../figures/figures";
import { solveMachine } from "../../figures/solved";
import { say, sayDuration } from "../../quantity/format";
import { stressed } from "../../sources/stress";
import { type LateReadings, rule } from "../rule";
import { speaker } from "../speaker";
import { SEVERITIES, type Verdict } from "../types";

const speak = speaker({
  id: "aged-cold",
  title: "An aged or cold pack changes a verdict",
  step: "sources",
  needs: "A larger pack, a warmer one, or less drawn from it when it is old and cold.",
});

/** The machine again with its packs at the end of their life, and on its coldest day: what is said then and not now. */
export const agedCold = rule({ speak, reads: "late", evaluate });

const NAMED = 3;

function evaluate(figures: Figures, { now, packBound }: LateReadings): Verdict[] {
  const { machine } = figures;
  const packs = machine.parts.filter((part) => part.kind === "pack" && part.chemistry !== undefined);
  const first = packs[0];
  if (!first) return [];
  const { ambientC, coldestC } = machine.settings;
  const days = [{ ambientC, what: "with the pack aged", key: "aged" }];
  if (coldestC !== undefined && coldestC < ambientC)
    days.push({ ambientC: coldestC, what: `with the pack aged, at ${say(coldestC, "temperature")}`, key: "cold" });
  const known = new Map(now.map((verdict) => [verdict.id, SEVERITIES.indexOf(verdict.severity)]));
  const told = new Set<string>();
  return days.flatMap(({ ambientC: day, what, key }): Verdict[] => {
    const twin = stressed(machine, day);
    if (!twin) return [];
    const then = computeFigures(solveMachine(twin));
    const worse = packBound(then).filter((verdict) => {
      const before = known.get(verdict.id);
      const rank = SEVERITIES.indexOf(verdict.severity);
      const breaks = verdict.severity === "stop" || verdict.severity === "fix";
      return breaks && (before === undefined || rank < before) && !told.has(verdict.id);
    });
    for (const verdict of worse) told.add(verdict.id);
    if (worse.length === 0) return [];
    return [
      speak({
        part: first,
        about: key,
        severity: "watch",
        also: [...new Set(worse.map(({ subject }) => subject.id))],
        headline: `It fails ${what}: ${worse[0]?.headline}`,
        detail: `${
          worse.length > 1
            ? `${worse.length} verdicts are new then${worse.length > NAMED + 1 ? ", among them" : ":"} ${worse
                .slice(1, 1 + NAMED)
                .map(({ headline }) => headline)
                .join("; ")}. `
            : ""
        }Age takes a fifth of the capacity and raises the resistance by half, cold more (typical, from memory).${machine.settings.wantedRunS === undefined ? "" : ` A run of ${sayDuration(machine.settings.wantedRunS)} is wanted.`}`,
      }),
    ];
  });
}
