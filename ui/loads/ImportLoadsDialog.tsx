"use client";
import { useMemo, useState } from "react";
import { toast } from "sonner";
import { type ListedLoad, LOAD_COLUMNS, loadPlan, readLoads } from "@/core/exchange/loads-csv";
import { say } from "@/core/quantity/format";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { TableImport } from "../kit/TableImport";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { LIST_EXAMPLE, listedWords } from "./listed";

/** Loads from a list: pasted from a spreadsheet or read from a file, each hung on the rail of its volts. */
export function ImportLoadsDialog({ onClose }: { onClose: () => void }) {
  return (
    <Dialog
      open
      wide
      onOpenChange={onClose}
      title="Loads from a list"
      description="Each row becomes a load with supply and return on the rail of its volts. Figures of a list count as guesses until you say how they are known."
    >
      <TableImport columns={LOAD_COLUMNS} example={LIST_EXAMPLE} read={readLoads} say={listedWords}>
        {(values, keepRest) => <Take values={values} keepRest={keepRest} onDone={onClose} />}
      </TableImport>
    </Dialog>
  );
}

interface TakeProps {
  values: readonly ListedLoad[];
  keepRest: (left: (load: ListedLoad) => boolean) => boolean;
  onDone: () => void;
}

function Take({ values, keepRest, onDone }: TakeProps) {
  const machine = useWorkbench((state) => state.machine);
  const { store } = useWorkbenchContext();
  const { dispatch } = useDispatch();
  const [rails, setRails] = useState(machine.parts.length === 0);
  const [refused, setRefused] = useState<string | null>(null);
  const plan = useMemo(() => loadPlan(machine, values, rails), [machine, values, rails]);
  const without = useMemo(() => (rails ? plan : loadPlan(machine, values, false)), [machine, values, rails, plan]);
  const count = values.length - plan.homeless.length;
  const volts = [...new Set(without.homeless.map((each) => each.volts))].sort((a, b) => a - b);
  const add = () => {
    if (!plan.command) return;
    const done = dispatch(plan.command);
    if (!done.ok) return setRefused(done.message);
    if (!keepRest((load) => plan.homeless.includes(load))) onDone();
    toast(`${count} load${count === 1 ? "" : "s"} added`, { action: { label: "Undo", onClick: () => store.getState().undo() } });
  };
  return (
    <div className="mt-2">
      {(volts.length > 0 || plan.added.length > 0) && (
        <label className="flex items-baseline gap-2 text-sm">
          <input type="checkbox" checked={rails} onChange={(event) => setRails(event.target.checked)} />
          <span>
            Add a supply for {(plan.added.length > 0 ? plan.added : volts).map((each) => say(each, "voltage")).join(", ")}: no rail has it
            yet.
            {!rails && (
              <span className="text-fix">
                {" "}
                Without it {without.homeless.length} {without.homeless.length === 1 ? "is" : "are"} left out.
              </span>
            )}
          </span>
        </label>
      )}
      {refused && (
        <p role="alert" className="mt-1 text-sm font-semibold text-stop dark:text-fix">
          {refused}
        </p>
      )}
      <Button kind="main" className="mt-2" disabled={count === 0} onClick={add}>
        Add {count} load{count === 1 ? "" : "s"}
      </Button>
    </div>
  );
}
