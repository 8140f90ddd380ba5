"use client";
import { clsx } from "clsx";
import Link from "next/link";
import { usePathname } from "next/navigation";
import { STEPS } from "@/core/verdicts/types";
import { analysisOf } from "@/state/findings";
import { ThemeButton } from "../kit/ThemeButton";
import { useWorkbench, useWorkbenchContext } from "./context";

const TABS = [
  { step: "loads", label: "Loads" },
  { step: "sources", label: "Sources" },
  { step: "feeds", label: "Feeds" },
  { step: "returns", label: "Returns" },
  { step: "sheet", label: "Sheet" },
] as const;

function SaveNote() {
  const save = useWorkbench((state) => state.save);
  const revision = useWorkbench((state) => state.revision);
  const retry = useWorkbench((state) => state.retry);
  if (save.kind === "offline") {
    return (
      <button type="button" className="font-bold text-stop underline dark:text-fix" onClick={retry}>
        Not saved. Try again
      </button>
    );
  }
  const text = { saved: `Saved · revision ${revision}`, saving: "Saving…", conflict: "Edited elsewhere" }[save.kind];
  return (
    <span role="status" data-save={save.kind}>
      {text}
    </span>
  );
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
    <header className="no-print flex h-[46px] shrink-0 items-stretch border-b-2 border-ink">
      <div className="flex w-[168px] shrink-0 flex-col justify-center overflow-hidden px-4">
        <h1 className="truncate text-lg leading-tight font-bold" title={machine.name}>
          {machine.name}
        </h1>
        <Link href="/" className="text-xs text-soft hover:underline">
          All machines
        </Link>
      </div>
      <nav aria-label="Steps" className="flex items-stretch">
        {TABS.map(({ step, label }) => {
          const current = path.endsWith(`/${step}`);
          const open = STEPS.some((each) => each === step) ? (verdicts?.filter((verdict) => verdict.step === step).length ?? 0) : 0;
          return (
            <Link
              key={step}
              href={`/m/${id}/${step}`}
              aria-current={current ? "page" : undefined}
              className={clsx(
                "flex items-center gap-2 border-l border-hair px-4 text-base",
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
            </Link>
          );
        })}
      </nav>
      <div className="ml-auto flex items-center gap-1 px-3 text-xs whitespace-nowrap text-soft">
        <SaveNote />
        <button
          type="button"
          className={quiet}
          disabled={!undoStep}
          title={undoStep ? `Undo: ${undoStep.label}` : undefined}
          onClick={() => undo()}
        >
          Undo
        </button>
        <button
          type="button"
          className={quiet}
          disabled={!redoStep}
          title={redoStep ? `Redo: ${redoStep.label}` : undefined}
          onClick={() => redo()}
        >
          Redo
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
