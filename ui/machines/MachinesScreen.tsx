"use client";
import Link from "next/link";
import { useRouter } from "next/navigation";
import { useRef, useState } from "react";
import { toast } from "sonner";
import { readMachineText } from "@/core/machine/read";
import type { MachineOverview, MachineSummary } from "@/core/machine/summary";
import { formatQuantity } from "@/core/quantity/format";
import type { Severity } from "@/core/verdicts/types";
import { type Created, createBlank, createFromExample, deleteMachine, duplicateMachine, importDocument, restoreMachine } from "@/state/api";
import { FigureTable } from "../grid/FigureTable";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";
import { SeverityMark } from "../kit/Severity";
import { ThemeButton } from "../kit/ThemeButton";

const MAX_FILE_BYTES = 8 * 1024 * 1024;

interface Props {
  machines: MachineSummary[];
  examples: { key: string; name: string }[];
}

interface ImportTrouble {
  file: string;
  problems: { path: string; expected: string }[];
}

function Count({ severity, n }: { severity: Severity; n: number }) {
  if (n === 0) return null;
  return (
    <span className="pr-3 whitespace-nowrap">
      <SeverityMark severity={severity} /> <span className="fig font-semibold">{n}</span>
    </span>
  );
}

function Verdicts({ parts, stops, fixes, watches, asks }: MachineOverview) {
  return (
    <>
      <Count severity="stop" n={stops} />
      <Count severity="fix" n={fixes} />
      <Count severity="watch" n={watches} />
      <Count severity="ask" n={asks} />
      {stops + fixes + watches + asks === 0 && <span className="text-xs text-soft">{parts === 0 ? "nothing to judge" : "clear"}</span>}
    </>
  );
}

/** Nobody may take silence for a clean bill. */
/** The most its sources give in any mode; at least that where something is not known. */
function WorstAmps({ overview }: Pick<MachineSummary, "overview">) {
  const amps = overview?.worstA == null ? null : formatQuantity(overview.worstA, "current", "up");
  return (
    <>
      {amps && overview?.worstAtLeast && <span className="pr-1 font-bold text-ask">≥</span>}
      <span className="fig text-lg font-bold">{amps?.digits ?? "–"}</span>
      <span className="unit">{amps?.unit}</span>
    </>
  );
}

const AGO = new Intl.RelativeTimeFormat("en", { numeric: "auto" });
const AGO_UNITS: readonly (readonly [Intl.RelativeTimeFormatUnit, number])[] = [
  ["year", 31_536_000],
  ["month", 2_592_000],
  ["day", 86_400],
  ["hour", 3600],
  ["minute", 60],
];

/** "3 hours ago", in the largest unit that fits. */
function ago(at: string): string {
  const seconds = (Date.parse(at) - Date.now()) / 1000;
  const [unit, size] = AGO_UNITS.find(([, least]) => Math.abs(seconds) >= least) ?? ["second", 1];
  return AGO.format(Math.round(seconds / size), unit);
}

function Unreadable() {
  return (
    <>
      <SeverityMark severity="ask" /> <span className="text-xs text-soft">cannot be read or analysed by this version</span>
    </>
  );
}

function NewDialog({ examples, onClose, open }: { examples: Props["examples"]; onClose: () => void; open: (result: Created) => boolean }) {
  const [name, setName] = useState("");
  const [error, setError] = useState<string | null>(null);
  const create = async () => {
    if (name.trim() === "") return setError("Give the machine a name, such as Reedcutter.");
    const result = await createBlank(name.trim());
    if (!open(result) && !result.ok) setError(result.detail);
  };
  return (
    <Dialog open onOpenChange={onClose} title="New machine">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void create();
        }}
      >
        <Field label="Name" error={error}>
          {(props) => (
            <input
              {...props}
              className="field w-full"
              value={name}
              maxLength={80}
              onChange={(event) => {
                setName(event.target.value);
                setError(null);
              }}
            />
          )}
        </Field>
        <Button type="submit" kind="main" className="mt-2">
          Start from blank
        </Button>
      </form>
      <h3 className="mt-6 text-sm font-bold">Or from an example</h3>
      <ul className="mt-1">
        {examples.map((example) => (
          <li key={example.key} className="border-b border-hair py-1">
            <button type="button" className="link text-sm" onClick={async () => open(await createFromExample(example.key))}>
              {example.name}
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}

/** The list of machines: what each asks for, and the ways to begin another. */
export function MachinesScreen({ machines, examples }: Props) {
  const router = useRouter();
  const [creating, setCreating] = useState(false);
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
    const read = readMachineText(await file.text());
    if (!read.ok) return setTrouble({ file: file.name, problems: read.problems });
    open(await importDocument(read.machine));
  };
  const remove = async (machine: MachineSummary) => {
    if (!(await deleteMachine(machine.id))) return toast.error("It could not be deleted: the server does not answer.");
    router.refresh();
    toast(`${machine.name} deleted`, {
      duration: 10000,
      action: {
        label: "Undo",
        onClick: async () => {
          await restoreMachine(machine.id);
          router.refresh();
        },
      },
    });
  };

  return (
    <div className="mx-auto max-w-[1100px] px-6 pb-10">
      <header className="flex items-end gap-4 border-b-2 border-ink pt-6 pb-3">
        <div className="min-w-0 flex-1">
          <h1 className="text-xl font-bold">Node Ledger</h1>
          <p className="text-sm text-soft">The power side of machines with several motors: every amp out, every amp back.</p>
        </div>
        <ThemeButton />
        <Button onClick={() => picker.current?.click()}>Import</Button>
        <input
          ref={picker}
          type="file"
          accept=".json,application/json"
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
          <p className="py-10 text-sm text-soft">No machine yet. Start a new one, from blank or from an example, or import a file.</p>
        ) : (
          <FigureTable
            caption="Machines"
            rows={machines}
            keyOf={({ id }) => id}
            columns={[
              {
                label: "Machine",
                cellClass: "max-w-[360px] !whitespace-normal py-2",
                cell: ({ id, name, description }) => (
                  <>
                    <Link href={`/m/${id}/feeds`} className="text-base font-bold hover:underline">
                      {name}
                    </Link>
                    <span className="block text-xs text-soft">{description}</span>
                  </>
                ),
              },
              {
                label: "Main",
                num: true,
                cellClass: "fig",
                cell: ({ overview }) => (overview?.mainV == null ? "–" : `${Number(overview.mainV.toFixed(1))} V`),
              },
              { label: "Worst", num: true, cell: ({ overview }) => <WorstAmps overview={overview} /> },
              { label: "Parts", num: true, cellClass: "fig", cell: ({ overview }) => overview?.parts ?? "–" },
              { label: "Open verdicts", cell: ({ overview }) => (overview ? <Verdicts {...overview} /> : <Unreadable />) },
              {
                label: "Edited",
                cellClass: "text-xs text-soft",
                cell: ({ updatedAt }) => <span suppressHydrationWarning>{ago(updatedAt)}</span>,
              },
              {
                label: "Actions",
                hidden: true,
                cellClass: "text-xs",
                cell: (machine) => (
                  <>
                    <button
                      type="button"
                      className="link pr-3"
                      aria-label={`Duplicate ${machine.name}`}
                      onClick={async () => {
                        const result = await duplicateMachine(machine.id);
                        if (!result.ok) return toast.error(result.detail);
                        router.refresh();
                      }}
                    >
                      Duplicate
                    </button>
                    {machines.length > 1 && (
                      <Link className="link pr-3" aria-label={`Compare ${machine.name}`} href={`/compare?a=${machine.id}`}>
                        Compare
                      </Link>
                    )}
                    <a className="link pr-3" aria-label={`Export ${machine.name}`} href={`/api/machines/${machine.id}/export`} download>
                      Export
                    </a>
                    <button type="button" className="link" aria-label={`Delete ${machine.name}`} onClick={() => remove(machine)}>
                      Delete
                    </button>
                  </>
                ),
              },
            ]}
          />
        )}
        <p className="pt-6 text-xs text-soft">
          Mains wiring inside supplies and chargers is not planned here: local codes and licensed people decide it.
        </p>
      </main>
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
