"use client";
import { useState } from "react";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { ago } from "./ago";
import { useWay } from "./useWay";

/** The ledger as a file, with its backups. */
export interface LedgerFile {
  path: string;
  bytes: number;
  backups: readonly { name: string; kind: string; at: string; bytes: number }[];
}

const WHY: Readonly<Record<string, string>> = {
  daily: "of the day",
  "before-migration": "before an update",
  "before-restore": "before a restore",
  "by-hand": "made by hand",
};

/** Bytes as people say them. */
export function size(bytes: number): string {
  return bytes < 1_000_000 ? `${Math.max(1, Math.round(bytes / 1000))} kB` : `${(bytes / 1_000_000).toFixed(1)} MB`;
}

/** Backups with size and age; each is restored with one action, which itself can be taken back. */
export function BackupList({ backups, busy, restore }: { backups: LedgerFile["backups"]; busy: boolean; restore: (name: string) => void }) {
  return (
    <ul>
      {backups.map(({ name, kind, at, bytes }) => (
        <li key={name} className="flex flex-wrap items-baseline gap-x-3 border-b border-hair py-1.5 text-sm">
          <span className="min-w-0 flex-1 basis-[200px]">
            <b suppressHydrationWarning>{ago(at)}</b> <span className="text-soft">{WHY[kind] ?? ""}</span>
          </span>
          <span className="fig text-soft">{size(bytes)}</span>
          <button
            type="button"
            className="link"
            disabled={busy}
            aria-label={`Restore the backup of ${new Date(at).toLocaleString("en-GB")}`}
            onClick={() => restore(name)}
          >
            Restore
          </button>
        </li>
      ))}
    </ul>
  );
}

export function LedgerDialog({ ledger, onClose }: { ledger: LedgerFile; onClose: () => void }) {
  const { busy, refused, go } = useWay();
  const [shown, setShown] = useState(8);
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Backups of the ledger"
      description="A backup holds all machines with their revisions. One is made a day when something changed, before each update, and before each restore."
    >
      <p className="text-xs break-all text-soft">
        {ledger.path}, {size(ledger.bytes)}
      </p>
      {refused && (
        <p role="alert" className="mt-2 text-sm font-semibold text-stop dark:text-fix">
          {refused}
        </p>
      )}
      <div className="mt-3">
        {ledger.backups.length === 0 ? (
          <p className="text-sm text-soft">None yet.</p>
        ) : (
          <BackupList
            backups={ledger.backups.slice(0, shown)}
            busy={busy}
            restore={(backup) => void go({ action: "restore", backup }).then((done) => done && onClose())}
          />
        )}
        {ledger.backups.length > shown && (
          <button type="button" className="link mt-2 text-sm" onClick={() => setShown(ledger.backups.length)}>
            Show the other {ledger.backups.length - shown}
          </button>
        )}
      </div>
      <Button kind="main" className="mt-4" disabled={busy} onClick={() => void go({ action: "back up" })}>
        Back up now
      </Button>
    </Dialog>
  );
}
