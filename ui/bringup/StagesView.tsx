"use client";
import { clsx } from "clsx";
import { useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import type { Judged, JudgedStage, JudgedStep } from "@/core/bringup/judge";
import { isDone } from "@/core/bringup/judge";
import { soakEnd } from "@/core/bringup/soak";
import type { StageId } from "@/core/bringup/types";
import { readWords } from "@/core/bringup/words";
import type { NextPlace } from "@/core/engine/bring-up";
import { useLog, useWorkbenchContext } from "../workbench/context";
import { ExplainPanel } from "./ExplainPanel";
import { HowToStand } from "./HowToStand";
import type { Drafts } from "./ReadingField";
import { Reason, Smoke } from "./Reason";
import { isThrough, StageList } from "./StageList";
import { StepCard } from "./StepCard";
import type { Bench } from "./useBench";
import { alarmAt, placeOf, readingOf, STATE_WORDS, waiverOf } from "./words";

interface Props {
  judged: Judged;
  bench: Bench | null;
}

/** The stage to go on with: the first that opens and is not through. */
function stageToGoOn(judged: Judged): StageId | undefined {
  return (judged.stages.find((each) => each.opens && !isThrough(each)) ?? judged.stages[0])?.stage.id;
}

function stepToGoOn(steps: readonly JudgedStep[]): string | undefined {
  return (steps.find((each) => !isDone(each)) ?? steps[0])?.step.id;
}

/** Stage by stage, step by step: what to read, what to expect, and what it means when it is not so. */
export function StagesView({ judged, bench }: Props) {
  // Until one is chosen it is the one to go on with, which moves on as stages hold.
  const [chosen, setStage] = useState<StageId | undefined>(undefined);
  const [stepId, setStep] = useState<string | undefined>(undefined);
  const drafts = useRef<Drafts>(new Map());
  const stage = judged.stages.find((each) => each.stage.id === (chosen ?? stageToGoOn(judged))) ?? judged.stages[0];
  if (!stage) return null;
  const choose = (next: StageId) => {
    setStage(next);
    setStep(undefined);
  };
  const step = stage.steps.find((each) => each.step.id === stepId) ?? stage.steps.find((each) => each.step.id === stepToGoOn(stage.steps));
  return (
    <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
      <StageList judged={judged} chosen={stage.stage.id} onChoose={choose} />
      <StepList stage={stage} chosen={step?.step.id} onChoose={setStep} />
      <div className="pane min-h-0 min-w-0 flex-1 overflow-y-auto px-5 py-3 max-md:overflow-visible" tabIndex={-1}>
        {step && (
          <StepPane
            key={stage.stage.id}
            stage={stage}
            judgedStep={step}
            onStep={setStep}
            onStage={() => choose(stageToGoOn(judged) ?? stage.stage.id)}
            bench={bench}
            drafts={drafts.current}
          />
        )}
      </div>
    </div>
  );
}

function StepList({ stage, chosen, onChoose }: { stage: JudgedStage; chosen: string | undefined; onChoose: (step: string) => void }) {
  return (
    <ol
      aria-label={`Steps of ${stage.stage.title}`}
      className="pane w-[284px] shrink-0 overflow-y-auto border-r border-hair max-lg:w-[210px] max-md:max-h-[200px] max-md:w-full max-md:border-r-0 max-md:border-b max-md:border-ink"
    >
      {stage.steps.map(({ step, state, reading }) => {
        const { mark, word, className } = STATE_WORDS[state];
        return (
          <li key={step.id}>
            <button
              type="button"
              aria-current={step.id === chosen ? "true" : undefined}
              onClick={() => onChoose(step.id)}
              className={clsx(
                "grid w-full grid-cols-[18px_minmax(0,1fr)_auto] items-baseline gap-1 border-b border-hair px-2.5 py-1 text-left text-[12.5px] leading-snug",
                step.id === chosen ? "bg-tint font-semibold" : "hover:bg-tint",
              )}
            >
              <span className={clsx("fig text-center", className)} aria-hidden>
                {mark}
              </span>
              <span>
                {step.title}
                <span className="sr-only">, {word}</span>
              </span>
              <span className="fig text-xs text-soft">
                {reading && step.quantity !== "yes" ? readWords(step.quantity, reading.value) : ""}
              </span>
            </button>
          </li>
        );
      })}
    </ol>
  );
}

interface PaneProps {
  stage: JudgedStage;
  judgedStep: JudgedStep;
  onStep: (step: string) => void;
  onStage: () => void;
  bench: Bench | null;
  drafts: Drafts;
}

function StepPane({ stage: judgedStage, judgedStep, onStep, onStage, bench, drafts }: PaneProps) {
  const { log, lookedAt } = useWorkbenchContext();
  const waits = useLog((state) => state.waits);
  const { stage, steps, opens, waiver } = judgedStage;
  const { step, state } = judgedStep;
  const at = steps.findIndex((each) => each.step.id === step.id);
  const [kept, setKept] = useState<string | null>(null);
  const off = state === "outside" || state === "look";
  // A reading that holds leads on by itself; one that does not is looked at first.
  useEffect(() => {
    if (kept !== step.id || !(state === "holds" || state === "noted")) return;
    setKept(null);
    const next = steps.slice(at + 1).find((each) => !isDone(each)) ?? steps.find((each) => !isDone(each));
    if (!next) return;
    onStep(next.step.id);
    // Whoever goes through them by keyboard finds the next field under the fingers.
    requestAnimationFrame(() => document.querySelector<HTMLElement>("[data-reading]")?.focus());
  }, [kept, state, step.id, steps, at, onStep]);
  const keep = (value: number | null, way: "typed" | "bench" = "typed") => {
    log.getState().add([readingOf(judgedStep, value, way)]);
    setKept(step.id);
  };
  const keepBeside = (next: NextPlace, value: number | null) => {
    const reading = readingOf(judgedStep, value, bench ? "bench" : "typed");
    log.getState().add([
      {
        ...reading,
        step: null,
        place: placeOf(next),
        quantity: next.quantity,
        instrument: next.instrument,
        expected: null,
        basis: null,
        note: `Looking for what explains "${step.title}"`.slice(0, 500),
      },
    ]);
  };
  const fromBench = async () => {
    if (!bench || !step.at) return;
    const read = await bench.read(step.at, step.instrument);
    if (read.ok) keep(read.value, "bench");
    else toast.error(read.detail);
  };
  const closed = !opens && !waiver;
  return (
    <>
      <StageHead stage={judgedStage} first={at === 0} />
      {closed && (
        <div className="mb-3 max-w-[560px] border-l-4 border-fix py-1 pl-3 text-sm">
          <p>This stage opens when the one before holds, or is left with a reason.</p>
          <button type="button" className="link mt-1" onClick={onStage}>
            Go on where it stands
          </button>
        </div>
      )}
      <fieldset disabled={lookedAt || closed} className="min-w-0">
        <StepCard
          stage={stage}
          judged={judgedStep}
          end={soakEnd(judgedStage, step.id)}
          place={at + 1}
          of={steps.length}
          onKeep={keep}
          drafts={drafts}
        />
        <div className="mt-3 flex flex-wrap items-baseline gap-x-5 gap-y-1.5">
          {bench && step.at && (
            <button type="button" className="link text-sm" onClick={() => void fromBench()}>
              Read from the bench
            </button>
          )}
          {judgedStep.waiver ? (
            <span className="text-sm text-soft">
              Left out: {judgedStep.waiver.reason}.{" "}
              <button type="button" className="link" onClick={() => log.getState().endWaiver(judgedStep.waiver?.queueId ?? "")}>
                Take that back
              </button>
            </span>
          ) : (
            (!isDone(judgedStep) || off) && (
              <Reason
                label={off ? "Go on although it is outside, because" : "It cannot be read, because"}
                button={off ? "Go on, with a reason" : "Cannot reach it"}
                onGive={(reason) => log.getState().waive(waiverOf(stage.id, step.id, reason))}
              />
            )
          )}
        </div>
        {waits && (
          <p role="status" className="mt-2 text-xs text-watch">
            Kept here, not in the ledger yet: {waits}
          </p>
        )}
        {off && step.at && (
          <ExplainPanel
            about={`${step.id} ${judgedStep.reading?.queueId ?? ""}`}
            onKeepBeside={keepBeside}
            fromBench={
              bench &&
              (async (next) => {
                const read = await bench.read(next.at, next.instrument);
                return read.ok ? read.value : undefined;
              })
            }
          />
        )}
      </fieldset>
      {!lookedAt && (
        <div className="mt-2">
          <Smoke onGive={(what) => log.getState().add([alarmAt(judgedStep, what)])} />
        </div>
      )}
      <p className="mt-2 flex max-w-[620px] justify-end gap-4 text-sm">
        <button
          type="button"
          className="link disabled:opacity-40"
          disabled={at === 0}
          onClick={() => onStep(steps[at - 1]?.step.id ?? step.id)}
        >
          Back
        </button>
        <button
          type="button"
          className="link disabled:opacity-40"
          disabled={at === steps.length - 1}
          onClick={() => onStep(steps[at + 1]?.step.id ?? step.id)}
        >
          Next
        </button>
      </p>
      {!closed && <StageFoot stage={judgedStage} />}
    </>
  );
}

function StageHead({ stage: { stage }, first }: { stage: JudgedStage; first: boolean }) {
  return (
    <details open={first} className="mb-3 max-w-[620px] border-b border-hair pb-2 text-sm">
      <summary className="cursor-pointer text-xs text-soft">How to stand for this stage, and what to beware of</summary>
      <div className="mt-1">
        <HowToStand stage={stage} />
      </div>
    </details>
  );
}

/** The stage as a whole: that it holds, or left with a reason, which can be taken back. */
function StageFoot({ stage: { stage, steps, holds, waiver, done } }: { stage: JudgedStage }) {
  const { log } = useWorkbenchContext();
  return (
    <div className="mt-6 max-w-[620px] border-t border-hair pt-2 text-xs text-soft">
      {holds ? (
        `${stage.title} holds: the next stage is open.`
      ) : waiver ? (
        <>
          {stage.title} was left after {done} of {steps.length}: {waiver.reason}.{" "}
          <button type="button" className="link" onClick={() => log.getState().endWaiver(waiver.queueId)}>
            Take that back
          </button>
        </>
      ) : (
        <Reason
          label="The rest of this stage is left, because"
          button={`Leave the rest of this stage (${steps.length - done} to go), with a reason`}
          onGive={(reason) => log.getState().waive(waiverOf(stage.id, null, reason))}
        />
      )}
    </div>
  );
}
