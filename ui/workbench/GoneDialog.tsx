"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { toast } from "sonner";
import { importDocument, restoreMachine } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { useWorkbench } from "./context";

/** The machine was taken off the list elsewhere while it was edited here. */
export function GoneDialog() {
  const save = useWorkbench((state) => state.save);
  const id = useWorkbench((state) => state.id);
  const machine = useWorkbench((state) => state.machine);
  const retry = useWorkbench((state) => state.retry);
  const giveUp = useWorkbench((state) => state.giveUp);
  const [busy, setBusy] = useState(false);
  const router = useRouter();
  if (save.kind !== "missing") return null;
  const putBack = async () => {
    setBusy(true);
    const back = await restoreMachine(id);
    setBusy(false);
    if (back) retry();
    else toast.error("It cannot be put back: it was deleted for good, or the server does not answer. Keep it as a new machine instead.");
  };
  const keep = async () => {
    setBusy(true);
    const made = await importDocument(machine);
    setBusy(false);
    if (!made.ok) return toast.error(made.detail);
    giveUp();
    router.push(`/m/${made.id}/feeds`);
  };
  return (
    <Dialog
      open
      must
      onOpenChange={() => undefined}
      title={`${machine.name} was deleted elsewhere`}
      description="It was taken off the list while it was edited here. What you see on this screen is still whole."
    >
      <div className="flex flex-wrap gap-2">
        <Button kind="main" onClick={putBack} disabled={busy}>
          Put it back on the list
        </Button>
        <Button onClick={keep} disabled={busy}>
          Keep it as a new machine
        </Button>
      </div>
    </Dialog>
  );
}
