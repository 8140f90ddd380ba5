"use client";
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";
import { toast } from "sonner";
import { readMachineText } from "@/core/machine/read";
import type { MachineSummary } from "@/core/machine/summary";
import { archiveMachine, type Created, deleteMachine, fetchMachines, importDocument, restoreMachine } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { finder } from "../kit/finds";
import { ServerLink } from "../kit/ServerLink";
import { ThemeButton } from "../kit/ThemeButton";
import { usePolled } from "../kit/usePolled";
import { DeletedDialog } from "./DeletedDialog";
import { FirstRun } from "./FirstRun";
import { FromListDialog } from "./FromListDialog";
import { LedgerDialog, type LedgerFile } from "./LedgerDialog";
import { LeftBehind } from "./LeftBehind";
import { MachineTable } from "./MachineTable";
import { NewDialog } from "./NewDialog";

const MAX_FILE_BYTES = 8 * 1024 * 1024;

interface Props {
  machines: MachineSummary[];
  deleted: { id: string; name: string; deletedAt: string }[];
  ledger: LedgerFile;
  examples: { key: string; name: string }[];
}

interface ImportTrouble {
  file: string;
  problems: { path: string; expected: string }[];
}

/** The list of machines: what each asks for, and the ways to begin another. */
export function MachinesScreen({ machines: asOpened, deleted, ledger, examples }: Props) {
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
  const [creating, setCreating] = useState(false);
  const [list, setList] = useState<{ file: string; text: string } | null>(null);
  const [trouble, setTrouble] = useState<ImportTrouble | null>(null);
  const picker = useRef<HTMLInputElement>(null);

  const open = (result: Created): boolean => {
    if (result.ok) router.push(`/m/${result.id}/feeds`);
    else if (result.problems.length > 0) setTrouble({ file: "this file", problems: result.problems });
    else toast.error(result.detail);
    return result.ok;
  };
  const importFile = async (file: File) => {
    if (file.size > MAX_FILE_BYTES) {
      const expected = `a machine file of at most 8 MB; this one has ${Math.ceil(file.size / 1048576)} MB, so it is something else`;
      return setTrouble({ file: file.name, problems: [{ path: "(whole file)", expected }] });
    }
    const text = await file.text();
    // What is no JSON at all may be a list from a spreadsheet.
    if (!/^\s*[{[]/.test(text) && text.trim() !== "") return setList({ file: file.name, text });
    const read = readMachineText(text);
    if (!read.ok) return setTrouble({ file: file.name, problems: read.problems });
    const done = open(await importDocument(read.machine));
    if (done && read.cleaned.length > 0) {
      const places = `${read.cleaned.slice(0, 3).join(", ")}${read.cleaned.length > 3 ? ` and ${read.cleaned.length - 3} more` : ""}`;
      toast(`Line breaks or characters that cannot be seen were taken out of ${places}.`, { duration: 12_000 });
    }
  };
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
        <ServerLink href="/shelf" className="link text-sm">
          Shelf
        </ServerLink>
        <Button onClick={() => picker.current?.click()}>Import</Button>
        <input
          ref={picker}
          type="file"
          accept=".json,.csv,.tsv,.txt,application/json,text/csv,text/plain"
          className="hidden"
          aria-label="Machine file"
          onChange={(event) => {
            const file = event.target.files?.[0];
            event.target.value = "";
            if (file) void importFile(file);
          }}
        />
        <Button kind="main" onClick={() => setCreating(true)}>
          New machine
        </Button>
      </header>
      <main>
        {machines.length === 0 ? (
          <FirstRun examples={examples} onBlank={() => setCreating(true)} onImport={() => picker.current?.click()} open={open} />
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
            <MachineTable
              machines={shown}
              comparable={machines.length > 1}
              onRemove={(machine) => void remove(machine)}
              onArchive={(machine) => void archive(machine)}
            />
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
      {list && <FromListDialog {...list} onClose={() => setList(null)} open={open} />}
      {creating && <NewDialog examples={examples} onClose={() => setCreating(false)} open={open} />}
      {trouble && (
        <Dialog
          open
          onOpenChange={() => setTrouble(null)}
          title={`Not imported: ${trouble.file}`}
          description="Nothing was changed. What was expected, and where:"
        >
          <ul className="text-sm">
            {trouble.problems.slice(0, 12).map((each) => (
              <li key={`${each.path} ${each.expected}`} className="border-b border-hair py-1">
                <span className="fig font-semibold break-all">{each.path}</span>: expected {each.expected}
              </li>
            ))}
          </ul>
          {trouble.problems.length > 12 && <p className="mt-2 text-xs text-soft">and {trouble.problems.length - 12} more</p>}
        </Dialog>
      )}
    </div>
  );
}
