"use client";
import { useMemo, useState } from "react";
import { type ListedLoad, LOAD_COLUMNS, loadPlan, readLoads } from "@/core/exchange/loads-csv";
import { applyCommand } from "@/core/machine/apply";
import { newMachine } from "@/core/machine/defaults";
import { NAME_MAX } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { type Created, importDocument } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";
import { TableImport } from "../kit/TableImport";
import { LIST_EXAMPLE, listedWords } from "../loads/listed";

interface Props {
  file: string;
  text: string;
  onClose: () => void;
  open: (result: Created) => boolean;
}

/** A table that was given in place of a machine file: a new machine of the loads in it. */
export function FromListDialog({ file, text, onClose, open }: Props) {
  return (
    <Dialog
      open
      wide
      onOpenChange={onClose}
      title="A new machine of a list"
      description={`${file} is no machine file. Read as a list of loads it gives this; each volts gets a supply whose amps are left open.`}
    >
      <TableImport columns={LOAD_COLUMNS} example={LIST_EXAMPLE} start={text} read={readLoads} say={listedWords}>
        {(values) => <Make file={file} values={values} open={open} />}
      </TableImport>
    </Dialog>
  );
}

function Make({ file, values, open }: { file: string; values: readonly ListedLoad[]; open: (result: Created) => boolean }) {
  const [name, setName] = useState(file.replace(/\.[a-z]{2,4}$/i, "").slice(0, NAME_MAX));
  const [refused, setRefused] = useState<string | null>(null);
  const plan = useMemo(() => loadPlan(newMachine("new"), values, true), [values]);
  const make = async () => {
    if (name.trim() === "") return setRefused("Give the machine a name.");
    const built = plan.command && applyCommand(newMachine(name.trim()), plan.command);
    if (!built?.ok) return setRefused(built?.message ?? "No row of the list is a load.");
    const result = await importDocument(built.machine);
    if (!open(result) && !result.ok) setRefused(result.detail);
  };
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        void make();
      }}
    >
      <Field label="Name" error={refused}>
        {(props) => (
          <input {...props} className="field w-full" maxLength={NAME_MAX} value={name} onChange={(event) => setName(event.target.value)} />
        )}
      </Field>
      {plan.added.length > 0 && (
        <p className="text-xs text-soft">Supplies: {plan.added.map((volts) => say(volts, "voltage")).join(", ")}.</p>
      )}
      <Button type="submit" kind="main" className="mt-2" disabled={values.length === 0}>
        Make a machine of {values.length} load{values.length === 1 ? "" : "s"}
      </Button>
    </form>
  );
}
