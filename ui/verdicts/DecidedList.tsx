"use client";
import { format } from "date-fns";
import type { Verdict } from "@/core/verdicts/types";
import { SeverityMark } from "../kit/Severity";
import { useDispatch } from "../workbench/context";

const KINDS = { accepted: "accepted", later: "put off for later", "not mine": "left to somebody else" } as const;

/** Verdicts that were accepted or put off, struck through, each with its reason and the way back. */
export function DecidedList({ verdicts, onJump }: { verdicts: readonly Verdict[]; onJump: (verdict: Verdict) => void }) {
  const { act } = useDispatch();
  if (verdicts.length === 0) return null;
  return (
    <section aria-label="Accepted or put off" className="mt-4">
      <h3 className="border-b border-ink pb-1 text-sm font-bold">
        Accepted or put off <span className="fig font-normal text-soft">{verdicts.length}</span>
      </h3>
      <ul>
        {verdicts.map((verdict) => (
          <li key={verdict.id} className="border-b border-hair py-2">
            <button
              type="button"
              className="block text-left text-sm leading-snug text-soft line-through hover:text-ink"
              onClick={() => onJump(verdict)}
            >
              {verdict.headline}
            </button>
            <p className="mt-0.5 text-xs leading-snug">
              <SeverityMark severity={verdict.severity} /> {KINDS[verdict.decided?.kind ?? "accepted"]}{" "}
              {format(new Date(verdict.decided?.at ?? 0), "d MMM yyyy")}
              {verdict.decided?.reason ? `: ${verdict.decided.reason}` : ""}
            </p>
            <button type="button" className="link mt-1 text-xs" onClick={() => act({ type: "undecide", id: verdict.id })}>
              Open it again
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
