"use client";
import { clsx } from "clsx";
import type { Judged, JudgedStage } from "@/core/bringup/judge";
import type { StageId } from "@/core/bringup/types";
import { say } from "@/core/quantity/format";

interface Props {
  judged: Judged;
  chosen: StageId;
  onChoose: (stage: StageId) => void;
}

/** Whether a stage is through: it holds, or was left with a reason. */
export function isThrough({ holds, waiver }: JudgedStage): boolean {
  return holds || waiver !== null;
}

/** The stages in order, how far each is, and what the bench supply is set to for the chosen one. */
export function StageList({ judged, chosen, onChoose }: Props) {
  const through = judged.stages.filter(isThrough).length;
  const current = judged.stages.find(({ stage }) => stage.id === chosen);
  return (
    <nav
      aria-label="Stages"
      className="flex w-[244px] shrink-0 flex-col overflow-y-auto border-r border-ink bg-sheet max-lg:w-[196px] max-md:w-full max-md:border-r-0 max-md:border-b"
    >
      <p className="px-3 pt-2 pb-1 text-sm">
        <b>Stages</b>{" "}
        <span className="text-soft">
          {through} of {judged.stages.length} through
        </span>
      </p>
      <ol>
        {judged.stages.map((each, i) => {
          const { stage, done, steps, waiver, holds, opens } = each;
          const bad = steps.some(({ state }) => state === "outside" || state === "look" || state === "stale");
          return (
            <li key={stage.id}>
              <button
                type="button"
                aria-current={stage.id === chosen ? "step" : undefined}
                onClick={() => onChoose(stage.id)}
                className={clsx(
                  "grid w-full grid-cols-[22px_minmax(0,1fr)_auto] items-baseline gap-1 px-3 py-1.5 text-left text-sm",
                  stage.id === chosen ? "bg-ink font-semibold text-paper" : opens ? "hover:bg-tint" : "text-soft hover:bg-tint",
                )}
              >
                <span className="fig text-xs">{holds ? "✓" : waiver ? "–" : i + 1}</span>
                <span>
                  {stage.title}
                  <span className="sr-only">{holds ? ", holds" : waiver ? ", left with a reason" : opens ? "" : ", not open yet"}</span>
                </span>
                <span className={clsx("fig text-xs", bad && stage.id !== chosen && "font-bold text-fix")}>
                  {bad && "! "}
                  {done}/{steps.length}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
      {current && current.stage.supply.length > 0 && (
        <div className="mx-3 my-3 border-l-4 border-fix pl-2 text-xs max-md:hidden">
          {current.stage.supply.map(({ source, name, volts, limitA, atLeast }) => (
            <p key={source} className="pb-0.5">
              Bench supply in place of {name}: <b className="fig">{say(volts, "voltage")}</b>, limit{" "}
              <b className="fig">{say(limitA, "current")}</b>
              {atLeast && ", more once what is not known draws"}.
            </p>
          ))}
        </div>
      )}
    </nav>
  );
}
