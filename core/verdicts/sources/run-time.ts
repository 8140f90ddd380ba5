import type { Figures } from "../../figures/figures";
import type { Mission } from "../../machine/schema";
import { sayDuration } from "../../quantity/format";
import { endWords, wishedRun } from "../../sources/end";
import type { Run, RunTimes } from "../../sources/run";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "run-time",
  title: "Run time short of the wish",
  step: "sources",
  needs: "A larger pack, less drawn, or a shorter run wanted.",
});

/** Run time on one charge against the wish, and against the mission itself. */
export const runTime = rule({ speak, reads: "discharge", packBound: true, evaluate });

/** Room above the wish below which little is left. */
const CLOSE = 1.15;

function tooShort(mission: Mission | undefined, run: Run, wish: number | undefined): boolean {
  if (wish !== undefined && run.end.seconds < wish && run.end.cause !== "done") return true;
  if (!mission || run.end.cause === "done" || run.end.cause === "endless") return false;
  return run.rounds === 0;
}

function evaluate(figures: Figures, times: RunTimes): Verdict[] {
  const { machine } = figures;
  const wish = machine.settings.wantedRunS;
  if (times.missing.length > 0) {
    if (wish === undefined) return [];
    return times.missing.map((pack) =>
      speak({
        part: pack,
        key: "ask",
        severity: "ask",
        headline: `${pack.name}: ${pack.figures.join(", ")}?`,
        detail: `A run of ${sayDuration(wish)} is wanted, and only with ${pack.figures.length > 1 ? "these figures" : "this figure"} can it be worked out. Its label or sheet settles it.`,
      }),
    );
  }
  const wished = wishedRun(times);
  if (!wished) return [];
  const { run, mode } = wished;
  const first = machine.parts.find((part) => part.kind === "pack");
  const subject = { kind: "part" as const, id: run.end.part ?? first?.id ?? "" };
  const why = endWords(
    run.end,
    (part) => figures.partOf.get(part)?.name ?? "a part",
    (m) => figures.modes[m]?.name ?? "a mode",
  );
  const what = mode === null ? "the mission" : (figures.modes[mode]?.name ?? "a mode");
  const left = Object.entries(run.left)
    .map(([pack, charge]) => `${Math.round(charge * 100)} % left in ${figures.partOf.get(pack)?.name ?? "the pack"}`)
    .join(", ");
  // A mode that cannot be computed says so itself.
  if (run.end.cause === "collapse" && figures.modes.some(({ collapsed }) => collapsed)) return [];
  const short = tooShort(mode === null ? machine.mission : undefined, run, wish);
  if (short) {
    return [
      speak({
        subject,
        about: "",
        severity: "fix",
        headline:
          wish === undefined || run.end.seconds >= wish
            ? `The mission ends after ${sayDuration(run.end.seconds)}, before it is done`
            : `Runs ${run.atMost ? "at most " : ""}${sayDuration(run.end.seconds)}, ${sayDuration(wish)} wanted`,
        detail: `From full packs through ${what}, ${why}, with ${left}.${run.atMost ? " Loads without a figure make it shorter." : ""} A larger pack, one with less resistance, or less to drive.`,
        compared: { seconds: run.end.seconds, limit: wish },
      }),
    ];
  }
  if (wish === undefined || run.end.cause === "endless" || run.end.cause === "done" || run.end.seconds >= wish * CLOSE) return [];
  return [
    speak({
      subject,
      about: "",
      severity: "watch",
      headline: `Runs ${run.atMost ? "at most " : ""}${sayDuration(run.end.seconds)}: little more than the ${sayDuration(wish)} wanted`,
      detail: `From full packs through ${what}, ${why}, with ${left}. The first cold day or a season of age takes the rest.`,
      compared: { seconds: run.end.seconds, limit: wish },
    }),
  ];
}
