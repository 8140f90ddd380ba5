"use client";
import { useEffect, useMemo } from "react";
import { toast } from "sonner";
import { fetchMachine, lastWords } from "@/state/api";
import { Drafts } from "@/state/drafts";
import { ownWindow } from "@/state/windows";
import type { Notice, Workbench } from "@/state/workbench";

const clock = (at: string) => new Date(at).toLocaleTimeString("en-GB", { hour: "2-digit", minute: "2-digit" });

/** A notice in words. */
function tell(notice: Notice): void {
  if (notice.kind === "left") {
    const edits = notice.edits === 1 ? "1 edit" : `${notice.edits} edits`;
    toast(
      `${edits} from ${clock(notice.at)} ${notice.edits === 1 ? "was" : "were"} still here, and ${notice.edits === 1 ? "is" : "are"} in the plan again.`,
      { duration: 10_000 },
    );
  } else if (notice.kind === "unfit")
    toast(`“${notice.text}” still stood in ${notice.field}. It does not fit there, so nothing was changed.`, { duration: 10_000 });
  else {
    const labels = [...new Set(notice.since.map(({ label }) => label))];
    const more = labels.length > 3 ? ` and ${labels.length - 3} more` : "";
    const said =
      labels.length === 0
        ? "The ledger had changed meanwhile; the edits made here went in beside it."
        : `Joined with edits from another window: ${labels.slice(0, 3).join(", ")}${more}.`;
    toast(said, { duration: 8000 });
  }
}

/**
 * Everything that keeps the open machine and the ledger one: what was left behind is taken up, the newest revision is looked
 * for when the window comes to the front or another window saved, and a page that goes says its last words.
 * @returns where texts are kept that stand in fields nobody has left yet
 */
export function useSaving(id: string, store: Workbench, lookedAt: boolean): Drafts {
  const drafts = useMemo(() => new Drafts(store, () => ownWindow().journal), [store]);
  useEffect(() => {
    if (lookedAt) return;
    const own = ownWindow();
    let gone = false;
    void own
      .alive()
      .then((alive) => own.journal.take(id, alive))
      .then(({ entries, drafts: texts }) => {
        if (!gone) store.getState().takeLeft(entries, texts);
      });

    const refresh = async () => {
      const { revision: known, save, pending } = store.getState();
      if (document.visibilityState !== "visible" || save.kind !== "saved" || pending.length > 0) return;
      const found = await fetchMachine(id, known);
      if (found && found !== "same" && !gone) store.getState().adoptNewer(found.revision, found.document, known);
    };
    const toFront = () => {
      if (store.getState().save.kind === "waiting") store.getState().retry();
      else void refresh();
    };
    const leaving = () => {
      drafts.flush();
      const { pending, revision } = store.getState();
      if (pending.length > 0) lastWords(id, revision, pending, own.name);
    };
    const before = (event: BeforeUnloadEvent) => {
      // Where the browser keeps nothing, what is not saved is gone with the page.
      if (own.journal.broken && store.getState().pending.length > 0) event.preventDefault();
    };
    const unhear = own.onSaved((saved) => {
      if (saved.machine === id && saved.revision !== store.getState().revision) void refresh();
    });
    const unsubscribe = store.subscribe((state, previous) => {
      if (state.notice && state.notice !== previous.notice) tell(state.notice);
      if (state.revision !== previous.revision && state.save.kind !== "asking") own.announce({ machine: id, revision: state.revision });
    });
    void refresh();
    document.addEventListener("visibilitychange", toFront);
    window.addEventListener("focus", toFront);
    window.addEventListener("online", toFront);
    window.addEventListener("pagehide", leaving);
    window.addEventListener("beforeunload", before);
    return () => {
      gone = true;
      leaving();
      unhear();
      unsubscribe();
      document.removeEventListener("visibilitychange", toFront);
      window.removeEventListener("focus", toFront);
      window.removeEventListener("online", toFront);
      window.removeEventListener("pagehide", leaving);
      window.removeEventListener("beforeunload", before);
    };
  }, [id, store, drafts, lookedAt]);
  return drafts;
}
