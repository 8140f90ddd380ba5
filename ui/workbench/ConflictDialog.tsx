"use client";
import { useRouter } from "next/navigation";
import { useState } from "react";
import { toast } from "sonner";
import { changeWords } from "@/core/machine/change-words";
import { type Clash, keyOf } from "@/core/machine/changes";
import type { Machine } from "@/core/machine/schema";
import { importDocument } from "@/state/api";
import type { Asking } from "@/state/saving";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { useWorkbench } from "./context";

type Choice = "mine" | "theirs";

/** The same figure was changed here and elsewhere: both values are shown, and nothing is saved until somebody chose. */
export function ConflictDialog() {
  const save = useWorkbench((state) => state.save);
  return save.kind === "asking" ? <Ask key={save.revision} save={save} /> : null;
}

function Ask({ save }: { save: Asking }) {
  const mine = useWorkbench((state) => state.machine);
  const settle = useWorkbench((state) => state.settle);
  const takeTheirs = useWorkbench((state) => state.takeTheirs);
  const [choices, setChoices] = useState<ReadonlyMap<string, Choice>>(new Map());
  const [busy, setBusy] = useState(false);
  const router = useRouter();
  const { clashes, misfits, since, theirs } = save;
  const open = clashes.filter((clash) => !choices.has(keyOf(clash.change))).length;
  const all = (choice: Choice) => setChoices(new Map(clashes.map((clash) => [keyOf(clash.change), choice])));
  const copy = async () => {
    setBusy(true);
    const result = await importDocument({ ...mine, name: `${mine.name.slice(0, 60)}, my version` });
    setBusy(false);
    if (!result.ok) return toast.error(result.detail);
    takeTheirs();
    toast("Your version is on the list as a machine of its own.");
    router.refresh();
  };
  const elsewhere = [...new Set(since.map(({ label }) => label))].slice(0, 3).join(", ");
  return (
    <Dialog
      open
      wide
      must
      onOpenChange={() => undefined}
      title={clashes.length > 0 ? "The same figure was changed twice" : "An edit no longer fits"}
      description={`${elsewhere ? `This machine was saved from another window meanwhile (${elsewhere}).` : "The ledger has another value by now."} All edits of other figures go together by themselves.`}
    >
      {clashes.length > 0 && (
        <>
          <ul>
            {clashes.map((clash) => (
              <Figure
                key={keyOf(clash.change)}
                clash={clash}
                theirs={theirs}
                choice={choices.get(keyOf(clash.change)) ?? null}
                choose={(choice) => setChoices(new Map([...choices, [keyOf(clash.change), choice]]))}
              />
            ))}
          </ul>
          {clashes.length > 1 && (
            <p className="mt-2 flex gap-3 text-xs">
              <button type="button" className="link" onClick={() => all("mine")}>
                All from here
              </button>
              <button type="button" className="link" onClick={() => all("theirs")}>
                All from the ledger
              </button>
            </p>
          )}
        </>
      )}
      {misfits.length > 0 && (
        <section className="mt-3 text-sm">
          <h3 className="font-bold">
            {misfits.length === 1 ? "One edit from here would be left out" : `${misfits.length} edits from here would be left out`}
          </h3>
          <ul>
            {misfits.map(({ edit, reason }) => (
              <li key={edit.id} className="border-b border-hair py-1">
                {edit.label}: <span className="text-soft">{reason}</span>
              </li>
            ))}
          </ul>
        </section>
      )}
      <div className="mt-4 flex flex-wrap items-center gap-2">
        <Button kind="main" disabled={open > 0 || busy} onClick={() => settle(choices)}>
          {open > 0 ? `Choose ${open === 1 ? "one value" : `${open} values`}` : "Go on with this"}
        </Button>
        <Button onClick={copy} disabled={busy}>
          Keep all of mine as a copy
        </Button>
      </div>
    </Dialog>
  );
}

function Figure({
  clash,
  theirs,
  choice,
  choose,
}: {
  clash: Clash;
  theirs: Machine;
  choice: Choice | null;
  choose: (choice: Choice) => void;
}) {
  const { change } = clash;
  const words = changeWords(theirs, { ...change, before: clash.theirs });
  const option = (value: Choice, label: string, said: string) => (
    <label className="flex min-h-[32px] items-baseline gap-2">
      <input type="radio" name={keyOf(change)} checked={choice === value} onChange={() => choose(value)} />
      <span>
        {label} <b className="fig">{said}</b>
      </span>
    </label>
  );
  return (
    <li className="border-b border-hair py-2 text-sm">
      <fieldset>
        <legend className="font-bold">{words.what}</legend>
        <div className="grid gap-x-6 sm:grid-cols-2">
          {option("mine", "Here:", words.after)}
          {option("theirs", "In the ledger:", words.before)}
        </div>
      </fieldset>
    </li>
  );
}
