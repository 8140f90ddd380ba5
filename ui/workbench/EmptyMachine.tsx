"use client";
import { Button } from "../kit/Button";
import { useWorkbenchContext } from "./context";

/** A machine without parts teaches the next step. */
export function EmptyMachine() {
  const { openDialog } = useWorkbenchContext();
  return (
    <div className="flex flex-1 flex-col items-center justify-center gap-4 p-8 text-center">
      <p className="text-lg font-bold">An empty page</p>
      <p className="max-w-md text-sm">
        Write what is in the machine, one thing a line: what feeds it, its motors with volts and watts or amps, lights, boards. Ten lines
        become a whole plan, sized, with what it assumed in plain view. The verdicts at the right come by themselves.
      </p>
      <div className="flex flex-wrap justify-center gap-3">
        <Button kind="main" onClick={() => openDialog({ kind: "more" })}>
          Write what is in it
        </Button>
        <Button onClick={() => openDialog({ kind: "add", under: null })}>Add a source</Button>
      </div>
      <p className="text-xs text-soft">keys: + for the list, A for one part</p>
    </div>
  );
}
