"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { toast } from "sonner";
import type { MachineSummary } from "@/core/machine/summary";
import { archiveMachine, type Created, deleteMachine, fetchMachines, restoreMachine } from "@/state/api";
import { Button } from "../kit/Button";
import { FileInput } from "../kit/FileInput";
import { finder } from "../kit/finds";
import { ServerLink } from "../kit/ServerLink";
import { ThemeButton } from "../kit/ThemeButton";
import { usePolled } from "../kit/usePolled";
import { leaveList } from "../start/ways";
import { DeletedDialog } from "./DeletedDialog";
import { FirstRun } from "./FirstRun";
import { LedgerDialog, type LedgerFile } from "./LedgerDialog";
import { LeftBehind } from "./LeftBehind";
import { MachineTable } from "./MachineTable";
import { useImport } from "./useImport";

interface Props {
  machines: MachineSummary[];
  deleted: { id: string; name: string; deletedAt: string }[];
  ledger: LedgerFile;
}

/** The list of machines: what each asks for, and the ways to begin another. */
export function MachinesScreen({ machines: asOpened, deleted, ledger }: Props) {
  const router = useRouter();
  const waits = (list: readonly MachineSummary[]) => list.some(({ overview }) => overview.kind === "waiting");
  const newest = usePolled(
    waits(asOpened) ? asOpened.map(({ id, revision }) => `${id} ${revision}`).join() : null,
    fetchMachines,
    (list) => !waits(list),
  );
  const machines = newest.found ?? asOpened;
  const [text, setText] = useState("");
  const [aside, setAside] = useState(false);
  const finds = finder(text);
  const archived = machines.filter(({ archivedAt }) => archivedAt !== null).length;
  const shown = machines.filter(({ name, description, archivedAt }) => (aside || archivedAt === null) && finds(`${name} ${description}`));
  const [asked, setAsked] = useState<"ledger" | "deleted" | null>(null);

  const open = (result: Created): boolean => {
    if (result.ok) router.push(`/m/${result.id}/feeds`);
    else if (result.problems.length === 0) toast.error(result.detail);
    return result.ok;
  };
  // A list is looked at before it becomes a machine.
  const { take, picker, dialog } = useImport(open, (text, file) => {
    leaveList(text, file);
    router.push("/new");
  });
  const remove = async (machine: MachineSummary) => {
    if (!(await deleteMachine(machine.id))) return toast.error("It could not be deleted: the server does not answer.");
    router.refresh();
    toast(`${machine.name} deleted`, {
      duration: 10000,
      action: {
        label: "Undo",
        onClick: async () => {
          if (!(await restoreMachine(machine.id))) toast.error(`${machine.name} is still deleted: the server does not answer.`);
          router.refresh();
        },
      },
    });
  };

  const archive = async (machine: MachineSummary) => {
    const away = machine.archivedAt === null;
    if (!(await archiveMachine(machine.id, away))) return toast.error("That could not be done: the server does not answer.");
    router.refresh();
    toast(away ? `${machine.name} is put aside` : `${machine.name} is back on the list`, {
      duration: 10000,
      action: {
        label: "Undo",
        onClick: async () => {
          if (!(await archiveMachine(machine.id, !away))) toast.error("That could not be undone: the server does not answer.");
          router.refresh();
        },
      },
    });
  };

  return (
    <div className="mx-auto max-w-[1240px] px-6 pb-10 max-sm:px-3">
      <header className="flex flex-wrap items-end gap-4 border-b-2 border-ink pt-6 pb-3">
        <div className="min-w-0 flex-1 basis-[260px]">
          <h1 className="text-xl font-bold">Node Ledger</h1>
          <p className="text-sm text-soft">The power side of machines with several motors: every amp out, every amp back.</p>
        </div>
        <ThemeButton />
        <ServerLink href="/words" className="link text-sm">
          Words
        </ServerLink>
        <ServerLink href="/shelf" className="link text-sm">
          Shelf
        </ServerLink>
        <Button onClick={() => picker.current?.click()}>Import</Button>
        <FileInput
          label="Machine file"
          accept=".json,.csv,.tsv,.txt,application/json,text/csv,text/plain"
          opener={picker}
          onFile={(file) => void take(file)}
        />
        <ServerLink href="/new" className="border border-ink bg-ink px-3 py-1 text-sm font-semibold whitespace-nowrap text-paper">
          New machine
        </ServerLink>
      </header>
      <main>
        {machines.length === 0 ? (
          <FirstRun />
        ) : (
          <>
            <div className="flex flex-wrap items-baseline gap-x-5 gap-y-1 py-2 text-sm">
              <input
                aria-label="Find a machine"
                placeholder="find"
                className="field w-[220px]"
                value={text}
                onChange={(event) => setText(event.target.value)}
              />
              {archived > 0 && (
                <label className="flex items-center gap-1.5">
                  <input type="checkbox" checked={aside} onChange={(event) => setAside(event.target.checked)} />
                  put aside, too ({archived})
                </label>
              )}
              <span className="ml-auto text-soft">
                <span className="fig text-ink">{shown.length}</span> of {machines.length}
              </span>
            </div>
            <div className="relative overflow-x-auto">
              <MachineTable
                machines={shown}
                comparable={machines.length > 1}
                onRemove={(machine) => void remove(machine)}
                onArchive={(machine) => void archive(machine)}
              />
            </div>
          </>
        )}
        {newest.failed && (
          <p role="alert" className="pt-3 text-sm">
            The server does not answer: what is still missing was not worked out.{" "}
            <button type="button" className="link" onClick={newest.again}>
              Try again
            </button>
          </p>
        )}
        <p className="flex flex-wrap gap-x-6 pt-6 text-sm">
          <button type="button" className="link" onClick={() => setAsked("ledger")}>
            Backups, and the ledger as one file
          </button>
          {deleted.length > 0 && (
            <button type="button" className="link" onClick={() => setAsked("deleted")}>
              Deleted machines ({deleted.length})
            </button>
          )}
        </p>
        <p className="pt-4 text-xs text-soft">
          Mains wiring inside supplies and chargers is not planned here: local codes and licensed people decide it.
        </p>
      </main>
      <LeftBehind names={machines} />
      {asked === "ledger" && <LedgerDialog ledger={ledger} onClose={() => setAsked(null)} />}
      {asked === "deleted" && <DeletedDialog deleted={deleted} onClose={() => setAsked(null)} />}
      {dialog}
    </div>
  );
}
