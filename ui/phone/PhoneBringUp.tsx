"use client";
import { useEffect, useRef, useState } from "react";
import { useStore } from "zustand";
import { isDone, type JudgedStage } from "@/core/bringup/judge";
import { soakEnd } from "@/core/bringup/soak";
import type { StageId } from "@/core/bringup/types";
import type { BringUpView, Explanation } from "@/core/engine/bring-up";
import type { BringUpThread } from "@/state/bring-up";
import type { LogStore } from "@/state/log";
import type { PhonePlan } from "@/state/phone";
import { FaultItems } from "../bringup/FaultList";
import { HowToStand } from "../bringup/HowToStand";
import type { Drafts } from "../bringup/ReadingField";
import { Reason, Smoke } from "../bringup/Reason";
import { isThrough } from "../bringup/StageList";
import { StepCard } from "../bringup/StepCard";
import { alarmAt, readingOf, waiverOf } from "../bringup/words";
import { Explained } from "../words/Explained";

interface Props {
  plan: PhonePlan;
  log: LogStore;
  thread: BringUpThread;
}

/** One step a screen: where the probes go, what to expect, the field, and what waits to be sent. */
export function PhoneBringUp({ plan, log, thread }: Props) {
  const state = useStore(log);
  const [view, setView] = useState<BringUpView | null>(null);
  const [broke, setBroke] = useState(false);
  const [stageId, setStage] = useState<StageId | null>(null);
  const [stepId, setStep] = useState<string | null>(null);
  const [kept, setKept] = useState<string | null>(null);
  const drafts = useRef<Drafts>(new Map());
  const { machine } = plan;
  const { log: readings, kit } = state;
  useEffect(() => {
    let current = true;
    void thread
      .ask((service) => service.view(machine, readings, kit))
      .then((found) => {
        if (!current) return;
        setView(found);
        setBroke(false);
      })
      .catch(() => current && setBroke(true));
    return () => {
      current = false;
    };
  }, [thread, machine, readings, kit]);
  const stages = view?.judged.stages ?? [];
  const stage = stages.find((each) => each.stage.id === stageId) ?? stages.find((each) => each.opens && !isThrough(each)) ?? stages[0];
  const steps = stage?.steps ?? [];
  const judged = steps.find((each) => each.step.id === stepId) ?? steps.find((each) => !isDone(each)) ?? steps[0];
  const at = judged ? steps.indexOf(judged) : 0;
  useEffect(() => {
    if (!judged || kept !== judged.step.id || !(judged.state === "holds" || judged.state === "noted")) return;
    setKept(null);
    setStep(null);
  }, [kept, judged]);
  if (broke)
    return (
      <p role="alert" className="p-4 text-base">
        This phone could not work it out. What was read is kept. Open the page anew; if it stays so, go on at the computer.
      </p>
    );
  if (!view) return <p className="p-4 text-base">Working out what to expect…</p>;
  if (!stage || !judged) return <p className="p-4 text-base">A bring-up begins at a source: add a pack or a supply to the plan first.</p>;
  const off = judged.state === "outside" || judged.state === "look";
  const keep = (value: number | null) => {
    log.getState().add([readingOf(judged, value, "phone")]);
    setStep(judged.step.id);
    setStage(stage.stage.id);
    setKept(judged.step.id);
  };
  const all = stages.reduce((sum, each) => sum + each.steps.length, 0);
  const done = stages.reduce((sum, each) => sum + each.done, 0);
  const big = "min-h-[48px] border border-rule px-3 text-base disabled:opacity-40";
  return (
    <main className="mx-auto max-w-[560px] pb-6">
      <h1 className="sr-only">{machine.name}: bring-up</h1>
      <div className="border-b-2 border-ink px-4 py-2">
        <label className="block text-xs text-soft" htmlFor="phone-stage">
          {machine.name}
        </label>
        <select
          id="phone-stage"
          className="h-[48px] w-full bg-transparent text-base font-bold"
          value={stage.stage.id}
          onChange={(event) => {
            setStage(stages.find((each) => each.stage.id === event.target.value)?.stage.id ?? null);
            setStep(null);
          }}
        >
          {stages.map((each, i) => (
            <option key={each.stage.id} value={each.stage.id}>
              {stageLine(each, i)}
            </option>
          ))}
        </select>
      </div>
      <Head stage={stage} />
      {stage.opens || stage.waiver ? (
        <>
          <StepCard
            stage={stage.stage}
            judged={judged}
            end={soakEnd(stage, judged.step.id)}
            place={at + 1}
            of={steps.length}
            onKeep={keep}
            drafts={drafts.current}
            large
          />
          <div className="grid grid-cols-2 gap-2 px-4">
            {judged.waiver ? (
              <button type="button" className={`${big} col-span-2`} onClick={() => log.getState().endWaiver(judged.waiver?.queueId ?? "")}>
                Left out: {judged.waiver.reason}. Take that back
              </button>
            ) : (
              (!isDone(judged) || off) && (
                <Reason
                  large
                  label={off ? "Go on although it is outside, because" : "It cannot be read, because"}
                  button={off ? "Go on, with a reason" : "Cannot reach it"}
                  onGive={(reason) => {
                    log.getState().waive(waiverOf(stage.stage.id, judged.step.id, reason));
                    setStep(null);
                  }}
                />
              )
            )}
            <button type="button" className={big} disabled={at === 0} onClick={() => setStep(steps[at - 1]?.step.id ?? null)}>
              Back
            </button>
            <button
              type="button"
              className={big}
              disabled={at === steps.length - 1}
              onClick={() => setStep(steps[at + 1]?.step.id ?? null)}
            >
              Next
            </button>
          </div>
          {off && judged.step.at && <Explains plan={plan} log={log} thread={thread} />}
        </>
      ) : (
        <p className="m-4 border-l-4 border-fix pl-3 text-base">This stage opens when the one before holds, or is left with a reason.</p>
      )}
      <div className="mt-3 grid grid-cols-2 gap-2 px-4">
        <Smoke large onGive={(what) => log.getState().add([alarmAt(judged, what, "phone")])} />
      </div>
      {!stage.holds && !stage.waiver && stage.opens && (
        <div className="mt-3 px-4">
          <Reason
            large
            label="The rest of this stage is left, because"
            button="Leave the rest of this stage, with a reason"
            onGive={(reason) => log.getState().waive(waiverOf(stage.stage.id, null, reason))}
          />
        </div>
      )}
      <div className="mt-4 px-4">
        {state.unsent > 0 && (
          <p role="status" className="text-sm">
            <b>Not sent yet: {state.unsent}</b> kept on this phone, sent when the bench computer answers.
          </p>
        )}
        <div aria-hidden className="mt-2 h-1.5 bg-hair">
          <div className="h-full bg-accent" style={{ width: `${all === 0 ? 0 : (100 * done) / all}%` }} />
        </div>
        <p className="mt-1 text-xs text-soft">
          {done} of {all} readings
        </p>
      </div>
    </main>
  );
}

function stageLine({ stage, done, steps, holds, waiver }: JudgedStage, i: number): string {
  const mark = holds ? "✓ " : waiver ? "– " : "";
  return `${mark}${i + 1} ${stage.title}, ${done} of ${steps.length}`;
}

function Head({ stage: { stage } }: { stage: JudgedStage }) {
  return (
    <details className="border-b border-hair px-4">
      <summary className="flex min-h-[44px] cursor-pointer items-center text-sm text-soft">
        How to stand for this stage, and what to beware of
      </summary>
      <div className="pb-3 text-sm">
        <HowToStand stage={stage} supply />
      </div>
    </details>
  );
}

/** What would explain the readings, worked out on the phone itself. */
function Explains({ plan: { machine }, log, thread }: Props) {
  const { log: readings, kit } = useStore(log);
  const [found, setFound] = useState<Explanation | "broke" | null>(null);
  useEffect(() => {
    let current = true;
    void thread
      .ask((service) => service.explain(machine, readings, kit, []))
      .then((value) => current && setFound(value))
      .catch(() => current && setFound("broke"));
    return () => {
      current = false;
    };
  }, [thread, machine, readings, kit]);
  if (found === "broke") return <p className="mt-3 px-4 text-sm">This phone could not work out what would explain it.</p>;
  if (!found) return <p className="mt-3 px-4 text-sm text-soft">Trying every single fault…</p>;
  return (
    <section aria-label="What would explain it" className="mt-4 px-4">
      <h2 className="text-sm font-bold">
        <Explained>What would explain it</Explained>
      </h2>
      <ol className="text-base">
        <FaultItems look faults={found.faults.slice(0, 3)} />
      </ol>
      {found.next && (
        <p className="mt-2 text-sm">
          <b>Next, to tell them apart:</b> {found.next.title}: {found.next.first} or {found.next.second}.
        </p>
      )}
    </section>
  );
}
