"use client";
import type { JudgedStep } from "@/core/bringup/judge";
import { likelyCauses } from "@/core/bringup/symptoms";
import type { Stage } from "@/core/bringup/types";
import { expectWords, readWords } from "@/core/bringup/words";
import { capital } from "@/core/quantity/format";
import { INSTRUMENTS, instrumentRange } from "@/core/reference/instruments";
import { BandBar } from "./BandBar";
import { Places } from "./Places";
import { type Drafts, ReadingField } from "./ReadingField";
import { STATE_WORDS } from "./words";

interface Props {
  stage: Stage;
  judged: JudgedStep;
  /** Where a temperature ends by its readings so far. */
  end?: { endC: number; tauS: number } | null;
  /** Its place among the steps of its stage, from 1. */
  place: number;
  of: number;
  onKeep: (value: number | null) => void;
  large?: boolean;
  drafts: Drafts;
}

/** One step: where the probes go, what to expect, and where the reading is typed. */
export function StepCard({ stage, judged, end, place, of, onKeep, large, drafts }: Props) {
  const { step, state, reading, beyond } = judged;
  const { quantity, expect, instrument } = step;
  const { value, bounds } = expectWords(quantity, expect);
  const range = expect.kind === "band" ? instrumentRange(instrument, quantity, expect.band.value) : "";
  const last = reading ? readWords(quantity, reading.value) : null;
  const off = state === "outside" || state === "look";
  const causes = off ? likelyCauses(judged) : [];
  const what = STATE_WORDS[state];
  return (
    <article aria-label={step.title} className={large ? "px-4 py-3" : undefined}>
      <p className="text-xs text-soft">
        {stage.title} · {place} of {of} · {INSTRUMENTS[instrument].name}
        {range && `, ${range} range`}
      </p>
      <h2 className="mt-0.5 mb-2 text-xl leading-tight font-bold">{step.title}</h2>
      {step.at?.kind === "network" && <p className="mb-1.5 max-w-[560px] text-xs text-soft">{capital(step.at.situation.words)}.</p>}
      <Places places={step.places} />
      {quantity === "yes" ? (
        <YesNo state={state} onKeep={onKeep} {...(large ? { large } : {})} />
      ) : (
        <div className={large ? "mt-3 space-y-3" : "mt-4 flex flex-wrap items-start gap-x-12 gap-y-3"}>
          <div>
            <p className="text-xs text-soft">expect</p>
            <p className="fig text-[26px] leading-tight font-bold">{value}</p>
            <p className="max-w-[240px] text-xs text-soft">{bounds}</p>
          </div>
          <ReadingField
            key={step.id}
            about={step.id}
            drafts={drafts}
            quantity={quantity}
            expect={expect}
            last={last}
            onKeep={onKeep}
            {...(large ? { large } : {})}
          />
        </div>
      )}
      {step.coarse && <p className="mt-2 max-w-[560px] text-xs text-watch">{step.coarse}</p>}
      {reading && (
        <p className={`mt-3 text-sm ${what.className}`} role="status">
          {quantity === "yes" ? what.word : `${last}: ${what.word}`}
          {off && beyond !== 0 && `, ${readWords(quantity, Math.abs(beyond))} too ${beyond > 0 ? "high" : "low"}`}
        </p>
      )}
      {expect.kind === "band" && (
        <div className="mt-2">
          <BandBar
            band={expect.band}
            read={reading?.value ?? null}
            label={`Expected ${value}, passes from ${bounds}${last ? `; read ${last}` : ""}`}
            words={(each, rounding) => readWords(quantity, each, rounding)}
          />
        </div>
      )}
      {off && (
        <div className="mt-3 max-w-[600px] border-l-4 border-fix pl-3 text-sm">
          <p>{step.outside}</p>
          {causes.length > 0 && <p className="mt-1 text-xs text-soft">Usually, likeliest first: {causes.join("; ")}.</p>}
          {step.grave && state === "outside" && (
            <p className="mt-1 font-bold text-stop dark:text-fix">Nothing gets power before this is found.</p>
          )}
        </div>
      )}
      {end && (
        <p className="mt-2 max-w-[600px] text-sm">
          By its three readings it ends at <b className="fig">{readWords("celsius", end.endC, "up")}</b>, with a time constant of{" "}
          {Math.round(end.tauS / 60)} minutes.
        </p>
      )}
      {state === "stale" && (
        <p className="mt-2 max-w-[600px] text-sm text-ask">What it reads was changed in the plan since it was read. Read it again.</p>
      )}
    </article>
  );
}

function YesNo({ state, onKeep, large }: { state: JudgedStep["state"]; onKeep: (value: number) => void; large?: boolean }) {
  const button = large ? "min-h-[48px] flex-1 px-3" : "px-4 py-1.5 text-sm";
  return (
    <div className="mt-4 flex gap-2">
      <button
        type="button"
        data-reading
        onClick={() => onKeep(1)}
        className={`border border-ink bg-ink font-semibold text-paper ${button}`}
      >
        {state === "holds" ? "Still so" : "Yes, it is so"}
      </button>
      <button type="button" onClick={() => onKeep(0)} className={`border border-rule hover:border-ink ${button}`}>
        No
      </button>
    </div>
  );
}
