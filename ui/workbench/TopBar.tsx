"use client";
import { clsx } from "clsx";
import { usePathname } from "next/navigation";
import { STEPS } from "@/core/verdicts/types";
import { analysisOf } from "@/state/findings";
import type { Stepped } from "@/state/workbench";
import { ServerLink } from "../kit/ServerLink";
import { ThemeButton } from "../kit/ThemeButton";
import { useWorkbench, useWorkbenchContext } from "./context";
import { SaveNote } from "./SaveNote";
import { openStep, TABS } from "./step-names";
import { saySteps } from "./useShortcuts";

/** A step that could not be taken back says why; one that was shows on the screen. */
function sayBlocked(done: Stepped, redo: boolean): void {
  if (done?.blocked) saySteps(done, redo);
}

/** Name, steps in working order with their open verdicts, and what concerns the whole machine. */
export function TopBar() {
  const { openDialog } = useWorkbenchContext();
  const id = useWorkbench((state) => state.id);
  const machine = useWorkbench((state) => state.machine);
  const verdicts = useWorkbench((state) => analysisOf(state)?.verdicts);
  const undoStep = useWorkbench((state) => state.undoSteps.at(-1));
  const redoStep = useWorkbench((state) => state.redoSteps.at(-1));
  const undo = useWorkbench((state) => state.undo);
  const redo = useWorkbench((state) => state.redo);
  const path = usePathname();
  const quiet = "px-1.5 py-1 hover:text-ink disabled:opacity-40";
  return (
    <header className="no-print flex min-h-[46px] shrink-0 flex-wrap items-stretch border-b-2 border-ink">
      <div className="flex w-[168px] shrink-0 flex-col justify-center overflow-hidden px-4 max-xl:w-[148px] max-md:w-full max-md:flex-row max-md:items-baseline max-md:justify-between max-md:gap-3 max-md:py-1">
        <h1 className="truncate text-lg leading-tight font-bold" title={machine.name}>
          {machine.name}
        </h1>
        <ServerLink href="/" className="text-xs text-soft hover:underline">
          All machines
        </ServerLink>
      </div>
      <nav aria-label="Steps" className="flex h-[44px] items-stretch max-md:order-3 max-md:h-[40px] max-md:w-full max-md:overflow-x-auto">
        {TABS.map(({ step, label }) => {
          const current = path.endsWith(`/${step}`);
          const open = STEPS.some((each) => each === step)
            ? (verdicts?.filter((verdict) => verdict.step === step && !verdict.decided).length ?? 0)
            : 0;
          return (
            <a
              key={step}
              href={`/m/${id}/${step}`}
              onClick={(event) => {
                if (event.ctrlKey || event.metaKey || event.shiftKey) return;
                event.preventDefault();
                openStep(id, step);
              }}
              aria-current={current ? "page" : undefined}
              className={clsx(
                "flex items-center gap-2 border-l border-hair px-4 text-base max-xl:px-2.5",
                current ? "border-b-4 border-b-accent font-bold" : "text-soft hover:text-ink",
              )}
            >
              {label}
              {open > 0 && (
                <span className="fig text-xs font-bold text-stop dark:text-fix">
                  {open}
                  <span className="sr-only"> open verdicts</span>
                </span>
              )}
            </a>
          );
        })}
      </nav>
      <div className="ml-auto flex items-center gap-1 px-3 text-xs whitespace-nowrap text-soft max-md:ml-0 max-md:w-full max-md:overflow-x-auto max-md:pb-1">
        <SaveNote />
        <button
          type="button"
          className={quiet}
          disabled={!undoStep}
          title={undoStep ? `Undo: ${undoStep.label}` : undefined}
          onClick={() => sayBlocked(undo(), false)}
        >
          Undo
        </button>
        <button
          type="button"
          className={quiet}
          disabled={!redoStep}
          title={redoStep ? `Redo: ${redoStep.label}` : undefined}
          onClick={() => sayBlocked(redo(), true)}
        >
          Redo
        </button>
        <button type="button" className={quiet} onClick={() => openDialog({ kind: "history" })}>
          History
        </button>
        <button type="button" className={quiet} onClick={() => openDialog({ kind: "settings" })}>
          Settings
        </button>
        <ThemeButton className={quiet} />
        <button type="button" className={quiet} onClick={() => openDialog({ kind: "keys" })}>
          Keys ?
        </button>
      </div>
    </header>
  );
}
