import { clsx } from "clsx";
import { SEVERITIES, SEVERITY_WORDS, type Severity, type Verdict } from "@/core/verdicts/types";

const SHAPES: Readonly<Record<Severity, string>> = {
  stop: "bg-stop text-on-stop",
  fix: "border border-fix text-fix",
  watch: "border-b-2 border-dotted border-watch text-watch",
  ask: "text-ask",
};

/** How many are open of each severity. */
export function countBySeverity(verdicts: readonly Verdict[]): Readonly<Record<Severity, number>> {
  const counts = { stop: 0, fix: 0, watch: 0, ask: 0 };
  for (const { severity, decided } of verdicts) if (!decided) counts[severity]++;
  return counts;
}

interface MarkProps {
  severity: Severity;
  n: number;
}

/** A number in its severity's shape; its word is read out and stands in the tip. */
export function CountMark({ severity, n }: MarkProps) {
  return (
    <span
      title={`${n} ${SEVERITY_WORDS[severity]}`}
      className={clsx("fig inline-block px-1.5 text-xs leading-[18px] font-bold", SHAPES[severity])}
    >
      {severity === "ask" && <span aria-hidden>? </span>}
      {n}
      <span className="sr-only"> {SEVERITY_WORDS[severity]}</span>
    </span>
  );
}

/** Several of them, those that are not nought. */
export function CountMarks({ counts }: { counts: Readonly<Partial<Record<Severity, number>>> }) {
  return (
    <span className="inline-flex flex-wrap gap-1.5 align-baseline">
      {SEVERITIES.map((severity) => {
        const n = counts[severity] ?? 0;
        return n > 0 ? <CountMark key={severity} severity={severity} n={n} /> : null;
      })}
    </span>
  );
}
