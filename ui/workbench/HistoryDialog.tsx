"use client";
import { format, isToday, isYesterday } from "date-fns";
import { useEffect, useState } from "react";
import { toast } from "sonner";
import { fetchHistory, type HistoryLine } from "@/state/api";
import { ownWindow } from "@/state/windows";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Explained } from "../words/Explained";
import { useWorkbench, useWorkbenchContext } from "./context";
import { restoreRevision } from "./LookedAt";
import { VersionName } from "./VersionName";
import { WhatChanged } from "./WhatChanged";

function dayOf(at: string): string {
  const day = new Date(at);
  return isToday(day) ? "Today" : isYesterday(day) ? "Yesterday" : format(day, "EEEE d MMMM yyyy");
}

/** Lines by day, in the order they come. */
function byDay(lines: readonly HistoryLine[]): { day: string; lines: HistoryLine[] }[] {
  const days: { day: string; lines: HistoryLine[] }[] = [];
  for (const line of lines) {
    const day = dayOf(line.at);
    const last = days.at(-1);
    if (last?.day === day) last.lines.push(line);
    else days.push({ day, lines: [line] });
  }
  return days;
}

/** Revisions shown at first; a day of work has hundreds. */
const FIRST = 60;

/** What changed, when, and from which window; each revision that is kept can be named, compared, looked at and restored. */
export function HistoryDialog({ onClose }: { onClose: () => void }) {
  const { store, lookedAt } = useWorkbenchContext();
  const id = useWorkbench((state) => state.id);
  const revision = useWorkbench((state) => state.revision);
  const decisions = useWorkbench((state) => state.machine.decisions);
  const [lines, setLines] = useState<readonly HistoryLine[] | null>(null);
  const [shown, setShown] = useState(FIRST);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [named, setNamed] = useState(0);
  const [from, setFrom] = useState<number | null>(null);
  const [to, setTo] = useState<number | null>(null);
  // Asked again after each save, so that what was just done stands in it.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a new revision is a new history
  useEffect(() => {
    let gone = false;
    void fetchHistory(id).then((found) => {
      if (gone) return;
      if ("ok" in found) setTrouble(found.detail);
      else {
        setTrouble(null);
        setLines(found);
      }
    });
    return () => {
      gone = true;
    };
  }, [id, revision, named]);
  const restore = async (line: HistoryLine) => {
    const refused = await restoreRevision(store, line.revision);
    if (refused) return toast.error(refused);
    onClose();
    toast(`The plan is as it was at revision ${line.revision}. Undo takes that back.`);
  };
  const compare = (wanted: number) => {
    if (from === null || from === wanted) {
      setTo(null);
      setFrom(from === wanted ? null : wanted);
    } else setTo(wanted);
  };
  const own = ownWindow().name;
  const versions = lines?.filter(({ name }) => name !== null) ?? [];
  const row = (line: HistoryLine) => (
    <li
      key={line.revision}
      className="grid grid-cols-[52px_minmax(0,1fr)_auto] gap-x-3 border-b border-hair py-1.5 text-sm max-sm:grid-cols-[52px_minmax(0,1fr)]"
    >
      <span className="fig text-soft">{format(new Date(line.at), "HH:mm")}</span>
      <div className="min-w-0">
        <p className="font-semibold break-words">
          {line.name && <span className="mr-2 border-b-2 border-accent">{line.name}</span>}
          <span className={line.name ? "font-normal" : undefined}>{line.label || "Edit"}</span>
          <span className="pl-2 text-xs font-normal text-soft">
            revision {line.revision}
            {line.origin !== null && (line.origin === own ? ", this window" : `, window ${line.origin}`)}
          </span>
        </p>
        {line.lines.length > 0 && (
          <ul className="text-xs text-soft">
            {line.lines.map((each) => (
              <li key={each} className="break-words">
                {each}
              </li>
            ))}
          </ul>
        )}
      </div>
      <div className="flex flex-wrap items-start justify-end gap-1 max-sm:col-start-2 max-sm:justify-start">
        <VersionName line={line} onNamed={() => setNamed(named + 1)} />
        <button
          type="button"
          className="link px-1 py-1 text-xs"
          aria-pressed={from === line.revision || to === line.revision}
          aria-label={`${from === null || from === line.revision ? "What changed since" : "Compare with"} revision ${line.revision}`}
          onClick={() => compare(line.revision)}
        >
          {from === line.revision ? "compared" : from === null ? "What changed since" : "Compare with it"}
        </button>
        {line.revision === revision ? (
          <span className="px-1 py-1 text-xs text-soft">{lookedAt ? "looked at" : "as it is now"}</span>
        ) : (
          <>
            <a className="link px-1 py-1 text-xs" href={`?revision=${line.revision}`} aria-label={`Look at revision ${line.revision}`}>
              Look at it
            </a>
            {!lookedAt && (
              <Button
                kind="quiet"
                className="!px-1 !text-xs underline"
                aria-label={`Restore revision ${line.revision}`}
                onClick={() => void restore(line)}
              >
                Restore
              </Button>
            )}
          </>
        )}
      </div>
    </li>
  );
  return (
    <Dialog
      open
      wide
      onOpenChange={onClose}
      title="History"
      description="Every revision of the last day is kept, then one an hour for two weeks, then one a day; named ones stay. Restoring one is an edit like any other: it makes a new revision, and Undo takes it back."
    >
      {trouble && (
        <p role="alert" className="text-sm font-semibold text-stop dark:text-fix">
          {trouble}
        </p>
      )}
      {from !== null && <WhatChanged key={`${from} ${to}`} from={from} to={to} onClose={() => setFrom(null)} />}
      {!lines && !trouble && <p className="text-sm text-soft">Looking it up…</p>}
      {versions.length > 0 && (
        <section className="mb-4">
          <h3 className="border-b border-ink pb-1 text-sm font-bold">
            <Explained>Named versions</Explained>
          </h3>
          <ul>{versions.map(row)}</ul>
        </section>
      )}
      {decisions && decisions.length > 0 && (
        <details className="mb-4 text-sm">
          <summary className="cursor-pointer border-b border-ink pb-1 font-bold">Decisions with their reasons ({decisions.length})</summary>
          <ul>
            {decisions.map(({ id: key, headline, kind, reason, at }) => (
              <li key={key} className="border-b border-hair py-1">
                <span className="fig text-xs text-soft">{format(new Date(at), "d MMM yyyy")}</span> <b>{headline}</b>{" "}
                <span className="text-soft">{kind}</span>
                {reason && <span className="block text-xs">{reason}</span>}
              </li>
            ))}
          </ul>
        </details>
      )}
      {lines &&
        byDay(lines.slice(0, shown)).map(({ day, lines: all }) => (
          <section key={day} className="mb-4">
            <h3 className="border-b border-ink pb-1 text-sm font-bold">{day}</h3>
            <ul>{all.map(row)}</ul>
          </section>
        ))}
      {lines && lines.length > shown && (
        <button type="button" className="link text-sm" onClick={() => setShown(shown + 5 * FIRST)}>
          Show earlier ones ({lines.length - shown})
        </button>
      )}
    </Dialog>
  );
}
