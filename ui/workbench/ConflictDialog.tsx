"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { toast } from "sonner";
import { importDocument } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { useWorkbench } from "./context";

/** A stale save: both versions are offered, neither is lost. */
export function ConflictDialog() {
  const save = useWorkbench((state) => state.save);
  const mine = useWorkbench((state) => state.machine);
  const edits = useWorkbench((state) => state.undoSteps.length);
  const resolve = useWorkbench((state) => state.resolve);
  const [busy, setBusy] = useState(false);
  const router = useRouter();
  if (save.kind !== "conflict") return null;
  const { theirs } = save;
  const copy = async () => {
    setBusy(true);
    const result = await importDocument({ ...mine, name: `${mine.name.slice(0, 60)}, my version` });
    setBusy(false);
    if (!result.ok) return toast.error(result.detail);
    resolve("theirs");
    toast("Your version is on the list as a machine of its own.");
    router.refresh();
  };
  const line = (name: string, machine: typeof mine) =>
    `${name}: ${machine.parts.length} parts, ${machine.wires.length} wires, ${machine.modes.length} modes`;
  return (
    <Dialog
      open
      onOpenChange={() => undefined}
      title="Edited in another window"
      description="This machine was saved elsewhere after you opened it here. Nothing is lost: choose how to go on."
    >
      <ul className="text-sm">
        <li>
          {line("Here", mine)}, {edits} edits
        </li>
        <li>{line(`Elsewhere, revision ${save.revision}`, theirs)}</li>
      </ul>
      <div className="mt-4 flex flex-wrap gap-2">
        <Button kind="main" onClick={copy} disabled={busy}>
          Keep both: mine as a copy
        </Button>
        <Button onClick={() => resolve("mine")}>Keep mine</Button>
        <Button onClick={() => resolve("theirs")}>Take the other</Button>
      </div>
      <p className="mt-3 text-xs text-soft">After Keep mine or Take the other, Undo brings back the version you left.</p>
    </Dialog>
  );
}
