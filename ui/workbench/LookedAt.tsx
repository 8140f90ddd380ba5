"use client";
import { format } from "date-fns";
import { useEffect } from "react";
import { toast } from "sonner";
import { fetchRevision } from "@/state/api";
import type { Workbench } from "@/state/workbench";
import { ServerLink } from "../kit/ServerLink";

const MARK = "#restore=";

/** Puts a revision in the place of the plan, as an edit. @returns why it could not be done, or null */
export async function restoreRevision(store: Workbench, revision: number): Promise<string | null> {
  const found = await fetchRevision(store.getState().id, revision);
  if ("ok" in found) return found.detail;
  const result = store.getState().replaceWith(found.document, `Back to revision ${revision}`);
  return result.ok ? null : result.message;
}

/** Restores the revision that the address asks for, once: where somebody who looked at it chose to go on from it. */
export function useRestore(store: Workbench): void {
  useEffect(() => {
    const { hash, pathname } = window.location;
    if (!hash.startsWith(MARK)) return;
    window.history.replaceState(null, "", pathname);
    const revision = Number(hash.slice(MARK.length));
    void restoreRevision(store, revision).then((refused) => {
      if (refused) toast.error(refused);
      else toast(`The plan is as it was at revision ${revision}. Undo takes that back.`);
    });
  }, [store]);
}

/** Above a plan that is only looked at: what it is, and the ways on. */
export function LookedAt({ id, revision, at }: { id: string; revision: number; at: string }) {
  const path = `/m/${id}/feeds`;
  return (
    <p role="status" className="no-print flex flex-wrap items-baseline gap-x-4 border-b border-ink bg-strip px-4 py-1.5 text-sm">
      <span>
        <b>Revision {revision}</b>, as it was on <span suppressHydrationWarning>{format(new Date(at), "d MMMM yyyy 'at' HH:mm")}</span>. To
        be looked at only.
      </span>
      <ServerLink className="link" href={`${path}${MARK}${revision}`}>
        Restore it
      </ServerLink>
      <ServerLink className="link" href={path}>
        Back to the plan as it is
      </ServerLink>
    </p>
  );
}
