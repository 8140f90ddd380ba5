"use client";
import { Button } from "../kit/Button";
import { useWorkbenchContext } from "./context";

/** A machine without parts teaches the next step. */
export function EmptyMachine() {
  const { openDialog } = useWorkbenchContext();
  return (
    <div className="flex flex-1 flex-col items-center justify-center gap-4 p-8 text-center">
      <p className="text-lg font-bold">An empty page</p>
      <p className="max-w-md text-sm text-soft">
        Begin with what feeds the machine: a pack or a DC supply. Then hang a fuse, a switch and a bar under it, and the drivers, converters
        and loads under the bar.
      </p>
      <Button kind="main" onClick={() => openDialog({ kind: "add", under: null })}>
        Add a source
      </Button>
      <p className="text-xs text-soft">or press A</p>
    </div>
  );
}
