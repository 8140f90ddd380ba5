"use client";
import { clsx } from "clsx";
import { openAndDecided } from "@/core/verdicts/decided";
import { analysisOf } from "@/state/findings";
import { PANES, type Pane } from "@/state/workbench";
import { useWorkbench } from "./context";

const NAMES: Readonly<Record<Pane, string>> = { table: "Table", account: "Account", verdicts: "Verdicts" };

/** Where the screen is narrow one pane is shown at a time; these choose which. Every other screen shows all of them. */
export function PaneBar() {
  const pane = useWorkbench((state) => state.pane);
  const show = useWorkbench((state) => state.showPane);
  const chosen = useWorkbench((state) => state.machine.parts.find(({ id }) => id === state.selected)?.name);
  const verdicts = useWorkbench((state) => analysisOf(state)?.verdicts);
  const open = verdicts ? openAndDecided(verdicts).open : [];
  const grave = open.filter(({ severity }) => severity === "stop" || severity === "fix").length;
  return (
    <nav aria-label="Panes" className="no-print hidden h-[56px] shrink-0 border-t-2 border-ink bg-sheet max-desk:grid max-desk:grid-cols-3">
      {PANES.map((each) => (
        <button
          key={each}
          type="button"
          aria-pressed={pane === each}
          onClick={() => show(each)}
          className={clsx(
            "min-w-0 border-t-4 px-2 text-center text-sm",
            pane === each ? "border-accent font-bold" : "border-transparent text-soft",
          )}
        >
          {NAMES[each]}
          {each === "verdicts" && open.length > 0 && (
            <span className={clsx("fig pl-1.5 font-bold", grave > 0 && "text-stop dark:text-fix")}>{open.length}</span>
          )}
          {each === "account" && chosen && <span className="block truncate text-xs font-normal text-soft">{chosen}</span>}
        </button>
      ))}
    </nav>
  );
}
