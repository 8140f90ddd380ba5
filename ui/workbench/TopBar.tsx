"use client";

import { clsx } from "clsx";
import { usePathname } from "next/navigation";
import { useEffect, useRef } from "react";
import { STEPS } from "@/core/verdicts/types";
import { analysisOf } from "@/state/findings";
import type { Stepped } from "@/state/workbench";
import { Menu } from "../kit/Menu";
import { ServerLink } from "../kit/ServerLink";
import { ThemeButton, useOtherTheme } from "../kit/ThemeButton";
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
  const theme = useOtherTheme();
  const tools: readonly { label: string; title?: string | undefined; off?: boolean; act: () => void }[] = [
    { label: "Undo", title: undoStep && `Undo: ${undoStep.label}`, off: !undoStep, act: () => sayBlocked(undo(), false) },
    { label: "Redo", title: redoStep && `Redo: ${redoStep.label}`, off: !redoStep, act: () => sayBlocked(redo(), true) },
    { label: "History", act: () => openDialog({ kind: "history" }) },
    { label: "Settings", act: () => openDialog({ kind: "settings" }) },
    { label: "Keys ?", act: () => openDialog({ kind: "keys" }) },
  ];
  const quiet = "px-1.5 py-1 hover:text-ink disabled:opacity-40";
  const steps = useRef<HTMLElement>(null);
  const counted = Boolean(verdicts);
  // On a narrow screen the steps scroll sideways: where one is stays in sight, also when counts come beside them.
  useEffect(() => {
    if (path || counted) steps.current?.querySelector("[aria-current]")?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [path, counted]);
  return (
    <header className="no-print flex min-h-[46px] shrink-0 flex-wrap items-stretch border-b-2 border-ink">
      <div className="flex w-[168px] shrink-0 flex-col justify-center overflow-hidden px-4 max-xl:w-[148px] max-desk:w-auto max-desk:min-w-0 max-desk:flex-1 max-desk:py-1">
        <h1 className="truncate text-lg leading-tight font-bold" title={machine.name}>
          {machine.name}
        </h1>
        <ServerLink href="/" className="text-xs text-soft hover:underline">
          All machines
        </ServerLink>
      </div>
      <nav
        ref={steps}
        aria-label="Steps"
        className="flex h-[44px] items-stretch max-desk:order-3 max-desk:w-full max-desk:overflow-x-auto max-desk:border-t max-desk:border-hair"
      >
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
                "flex shrink-0 items-center whitespace-nowrap gap-2 border-l border-hair px-4 text-base max-xl:px-2.5",
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
      <div className="ml-auto flex items-center gap-1 px-3 text-xs whitespace-nowrap text-soft">
        <SaveNote />
        {tools.map(({ label, title, act, off }) => (
          <button key={label} type="button" className={`${quiet} max-desk:hidden`} disabled={off} title={title} onClick={act}>
            {label}
          </button>
        ))}
        <ThemeButton className={`${quiet} max-desk:hidden`} />
        <span className="desk:hidden">
          <Menu
            label="More"
            items={[...tools.filter(({ off }) => !off).map(({ label, title, act }) => ({ label: title ?? label, act })), theme]}
          />
        </span>
      </div>
    </header>
  );
}
