"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { toast } from "sonner";
import { purgeMachine, restoreMachine } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { ago } from "./ago";

interface Deleted {
  id: string;
  name: string;
  deletedAt: string;
}

/** Machines that were taken off the list and can still be brought back. */
export function DeletedDialog({ deleted, onClose }: { deleted: readonly Deleted[]; onClose: () => void }) {
  const router = useRouter();
  const [sure, setSure] = useState<string | null>(null);
  const act = async (done: Promise<boolean>, said: string) => {
    if (!(await done)) return toast.error("That could not be done: the server does not answer, or it was done elsewhere.");
    toast(said);
    setSure(null);
    router.refresh();
    if (deleted.length === 1) onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Deleted machines"
      description="They can be brought back for 30 days; then they are forgotten, with all their revisions."
    >
      <ul>
        {deleted.map(({ id, name, deletedAt }) => (
          <li key={id} className="flex flex-wrap items-baseline gap-x-3 border-b border-hair py-1.5 text-sm">
            <span className="min-w-0 flex-1 basis-[180px] break-words">
              <b>{name}</b> <span className="text-xs text-soft">deleted {ago(deletedAt)}</span>
            </span>
            {sure === id ? (
              <>
                <Button kind="main" onClick={() => void act(purgeMachine(id), `${name} is forgotten.`)}>
                  Forget it for good
                </Button>
                <Button kind="quiet" onClick={() => setSure(null)}>
                  Keep it
                </Button>
              </>
            ) : (
              <>
                <button
                  type="button"
                  className="link"
                  aria-label={`Bring ${name} back`}
                  onClick={() => void act(restoreMachine(id), `${name} is on the list again.`)}
                >
                  Bring it back
                </button>
                <button type="button" className="link" aria-label={`Delete ${name} for good`} onClick={() => setSure(id)}>
                  Delete for good
                </button>
              </>
            )}
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
