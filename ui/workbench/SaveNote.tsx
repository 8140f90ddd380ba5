"use client";
import { useEffect, useState } from "react";
import { toJson } from "@/core/exchange/json";
import { ownWindow } from "@/state/windows";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { download } from "../kit/download";
import { useWorkbench, useWorkbenchContext } from "./context";

const count = (n: number) => (n === 1 ? "1 edit" : `${n} edits`);

/** Seconds until a moment, counted down on the screen; 0 when it is past. */
function useSecondsUntil(at: number | null): number {
  const [now, setNow] = useState(() => Date.now());
  useEffect(() => {
    if (at === null) return;
    setNow(Date.now());
    const timer = setInterval(() => setNow(Date.now()), 1000);
    return () => clearInterval(timer);
  }, [at]);
  return at === null ? 0 : Math.max(0, Math.ceil((at - now) / 1000));
}

/** How the plan on the screen stands to the ledger, and why when it is not saved. */
export function SaveNote() {
  const save = useWorkbench((state) => state.save);
  const revision = useWorkbench((state) => state.revision);
  const { lookedAt } = useWorkbenchContext();
  const [open, setOpen] = useState(false);
  const waits = save.kind === "waiting" || save.kind === "refused";
  useEffect(() => {
    if (!waits) setOpen(false);
  }, [waits]);
  if (lookedAt) return <span>Looked at · revision {revision}</span>;
  if (!waits) {
    const text = { saved: `Saved · revision ${revision}`, saving: "Saving…", asking: "Edited elsewhere", missing: "Deleted elsewhere" }[
      save.kind
    ];
    return (
      <span role="status" data-save={save.kind}>
        {text}
      </span>
    );
  }
  return (
    <>
      <button type="button" data-save={save.kind} className="font-bold text-stop underline dark:text-fix" onClick={() => setOpen(true)}>
        {save.kind === "waiting" ? "Not saved yet" : "Not accepted"}
      </button>
      {open && <NotSaved onClose={() => setOpen(false)} />}
    </>
  );
}

function NotSaved({ onClose }: { onClose: () => void }) {
  const save = useWorkbench((state) => state.save);
  const machine = useWorkbench((state) => state.machine);
  const pending = useWorkbench((state) => state.pending.length);
  const retry = useWorkbench((state) => state.retry);
  const seconds = useSecondsUntil(save.kind === "waiting" ? save.again : null);
  if (save.kind !== "waiting" && save.kind !== "refused") return null;
  const kept = ownWindow().journal.broken
    ? `${count(pending)} not saved, and this browser keeps no journal: leave this page open until it is saved, or take the plan out as a file.`
    : `${count(pending)} not saved. The browser keeps ${pending === 1 ? "it" : "them"} until ${pending === 1 ? "it is" : "they are"} saved; you may go on working, or close this page.`;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={save.kind === "waiting" ? "Not saved yet" : "The ledger did not accept it"}
      description={save.detail}
    >
      <p className="text-sm">{kept}</p>
      {save.kind === "waiting" && <p className="mt-2 text-sm text-soft">{seconds > 0 ? `Next try in ${seconds} s.` : "Trying…"}</p>}
      <div className="mt-4 flex flex-wrap gap-2">
        <Button kind="main" onClick={retry}>
          Try now
        </Button>
        <Button onClick={() => download(toJson(machine), machine.name, "json")}>Take the plan out as a file</Button>
      </div>
    </Dialog>
  );
}
