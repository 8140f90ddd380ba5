"use client";
import { Button } from "../kit/Button";
import { useWorkbenchContext } from "./context";

/** A machine without parts teaches the next step. */
export function EmptyMachine() {
  const { openDialog } = useWorkbenchContext();
  return (
    <div className="flex flex-1 flex-col items-center justify-center gap-4 p-8 text-center">
      <p className="text-lg font-bold">An empty page</p>
      <ol className="max-w-md list-decimal pl-5 text-left text-sm">
        <li>
          <b>What feeds it:</b> a pack or a DC supply, its volts.
        </li>
        <li>
          <b>What hangs on it:</b> a fuse and a switch, then drivers, converters and loads under it, each with what it draws.
        </li>
        <li>
          <b>Read the verdicts</b> at the right: they come by themselves, and ask for what they miss.
        </li>
      </ol>
      <div className="flex flex-wrap justify-center gap-3">
        <Button kind="main" onClick={() => openDialog({ kind: "add", under: null })}>
          Add a source
        </Button>
        <Button onClick={() => openDialog({ kind: "import loads" })}>Paste a list of loads</Button>
      </div>
      <p className="text-xs text-soft">or press A</p>
    </div>
  );
}
