"use client";
import { useRef, useState } from "react";
import { type Arrived, bringLedger } from "@/state/ledger-file";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { FileInput } from "../kit/FileInput";
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
  "from-file": "brought as a file",
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

/** Backups, and everything as one file: out to a place of one's choice, and in again on another computer. */
export function LedgerDialog({ ledger, onClose }: { ledger: LedgerFile; onClose: () => void }) {
  const { busy, refused, go } = useWay();
  const [shown, setShown] = useState(8);
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Backups, and the ledger as one file"
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
      <Button className="mt-3" disabled={busy} onClick={() => void go({ action: "back up" })}>
        Back up now
      </Button>
      <OneFile busy={busy} restore={(backup) => void go({ action: "restore", backup }).then((done) => done && onClose())} />
    </Dialog>
  );
}

/** Machines, history, readings and shelf as one file: saved where one likes, opened on another computer by that file alone. */
function OneFile({ busy, restore }: { busy: boolean; restore: (backup: string) => void }) {
  const picker = useRef<HTMLInputElement>(null);
  const [share, setShare] = useState<number | null>(null);
  const [came, setCame] = useState<(Arrived & { file: string }) | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const bring = async (file: File) => {
    setCame(null);
    setRefused(null);
    setShare(0);
    const done = await bringLedger(file, setShare);
    setShare(null);
    if (done.ok) setCame({ ...done, file: file.name });
    else setRefused(`${file.name}: ${done.detail}`);
  };
  return (
    <section className="mt-5 border-t border-ink pt-3" aria-label="One file of everything">
      <h3 className="text-sm font-bold">One file of everything</h3>
      <p className="text-sm text-soft">
        All machines with history and readings, and the shelf. Save it on a stick or in the cloud; on another computer it is opened here.
      </p>
      <div className="mt-2 flex flex-wrap items-center gap-4">
        <a className="link text-sm" href="/api/ledger/file" download>
          Save everything as one file
        </a>
        <Button disabled={busy || share !== null} onClick={() => picker.current?.click()}>
          Open such a file
        </Button>
        <FileInput label="Ledger file" accept=".db,application/vnd.sqlite3" opener={picker} onFile={(file) => void bring(file)} />
        {share !== null && (
          <span role="status" className="text-sm">
            <span className="fig">{Math.round(share * 100)} %</span> brought
          </span>
        )}
      </div>
      {refused && (
        <p role="alert" className="mt-2 text-sm font-semibold text-stop dark:text-fix">
          {refused}
        </p>
      )}
      {came && (
        <div className="mt-2 border-l-2 border-fix pl-3 text-sm">
          <p>
            <b>{came.file}</b> holds {came.machines.length} machine{came.machines.length === 1 ? "" : "s"}
            {came.machines.length > 0 && `: ${came.machines.slice(0, 5).join(", ")}${came.machines.length > 5 ? " …" : ""}`}, and{" "}
            {came.shelf} thing
            {came.shelf === 1 ? "" : "s"} on the shelf.
          </p>
          <p className="text-soft">It takes the place of what is here now. What is here is backed up first, and that can be taken back.</p>
          <Button kind="main" className="mt-1" disabled={busy} onClick={() => restore(came.backup)}>
            Put it in the place of this ledger
          </Button>
        </div>
      )}
    </section>
  );
}
