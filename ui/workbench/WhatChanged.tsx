"use client";
import { useEffect, useState } from "react";
import { type Difference, differenceWords } from "@/core/machine/difference-words";
import { fetchRevision } from "@/state/api";
import { DifferenceList } from "../kit/DifferenceList";
import { useWorkbench } from "./context";

/** What changed from one revision to another, or to the plan as it is now, in the builder's words. */
export function WhatChanged({ from, to, onClose }: { from: number; to: number | null; onClose: () => void }) {
  const id = useWorkbench((state) => state.id);
  const now = useWorkbench((state) => state.machine);
  const [found, setFound] = useState<{ differences: readonly Difference[] } | { trouble: string } | null>(null);
  useEffect(() => {
    let gone = false;
    void (async () => {
      const at = async (revision: number) => fetchRevision(id, revision);
      const [a, b] = await Promise.all([at(Math.min(from, to ?? from)), to === null ? { document: now } : at(Math.max(from, to))]);
      if (gone) return;
      if ("ok" in a) return setFound({ trouble: a.detail });
      if ("ok" in b) return setFound({ trouble: b.detail });
      setFound({ differences: differenceWords(a.document, b.document) });
    })();
    return () => {
      gone = true;
    };
  }, [id, from, to, now]);
  return (
    <section className="mb-4 border-2 border-ink bg-strip p-3" aria-label="What changed">
      <div className="flex items-baseline gap-3">
        <h3 className="flex-1 text-sm font-bold">
          {to === null ? `What changed since revision ${from}` : `From revision ${Math.min(from, to)} to ${Math.max(from, to)}`}
        </h3>
        <button type="button" className="link text-xs" onClick={onClose}>
          Close
        </button>
      </div>
      {found === null && <p className="text-sm text-soft">Looking it up…</p>}
      {found && "trouble" in found && (
        <p role="alert" className="text-sm font-semibold text-stop dark:text-fix">
          {found.trouble}
        </p>
      )}
      {found && "differences" in found && (
        <>
          {found.differences.length === 0 ? (
            <p className="text-sm">The two are alike.</p>
          ) : (
            <DifferenceList differences={found.differences} />
          )}
          {to === null && <p className="pt-1 text-xs text-soft">Choose another revision below to compare with that one instead.</p>}
        </>
      )}
    </section>
  );
}
