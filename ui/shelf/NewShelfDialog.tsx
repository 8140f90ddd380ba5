"use client";
import { type FormEvent, useState } from "react";
import type { RowTrouble } from "@/core/exchange/columns";
import { readShelf, SHELF_COLUMNS, type ShelfColumn, shelfTable, withRatings } from "@/core/exchange/shelf-csv";
import { type ShelfItem, thingName } from "@/core/machine/shelf";
import { LOAD_KINDS } from "@/core/reference/load-kinds";
import { changeOnShelf, putOnShelf } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";
import { SelectField } from "../kit/Select";

/** What is asked of each kind: what stands on its label. */
const ASKED: Readonly<Record<string, readonly ShelfColumn[]>> = {
  driver: ["name", "count", "channels", "amps", "printed", "maxV", "note"],
  converter: ["name", "count", "volts", "amps", "minV", "maxV", "family", "note"],
  pack: ["name", "count", "volts", "capacity", "amps", "family", "note"],
  supply: ["name", "count", "volts", "amps", "note"],
  switch: ["name", "count", "amps", "volts", "note"],
  wire: ["count", "gauge", "colour", "insulation", "note"],
  fuse: ["count", "amps", "family", "note"],
  connector: ["count", "family", "colour", "note"],
};
const OF_LOADS: readonly ShelfColumn[] = ["name", "count", "volts", "amps", "peak", "note"];

const HINTS: Partial<Record<ShelfColumn, string>> = {
  amps: "What it carries or gives continuously.",
  peak: "Held still, for motors.",
  printed: "The headline on its label, where that is another figure.",
  family: "As in the lists: blade regular 32 V, lifepo4 energy, buck.",
  count: "Metres of wire; empty where nobody counted.",
};

const KINDS = [...Object.keys(ASKED), ...LOAD_KINDS];

/** What is written of a thing now, by column. */
function written(item: ShelfItem | undefined): Partial<Record<ShelfColumn, string>> {
  const [row] = item ? shelfTable([item]).rows : [];
  return row ? Object.fromEntries(SHELF_COLUMNS.map(({ key }, i) => [key, row[i] ?? ""])) : {};
}

/** One thing for the shelf, a new one or one that is written anew: read by the same rules as a row of a list. */
export function NewShelfDialog({ item, onClose, onDone }: { item?: ShelfItem; onClose: () => void; onDone: () => void }) {
  const [texts, setTexts] = useState(written(item));
  const [kind, setKind] = useState(texts.kind ?? "driver");
  const [troubles, setTroubles] = useState<readonly RowTrouble[]>([]);
  const asked = ASKED[kind] ?? OF_LOADS;
  const label = (key: ShelfColumn) => SHELF_COLUMNS.find((column) => column.key === key)?.label ?? key;
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const cells = SHELF_COLUMNS.map(({ key }) => (key === "kind" ? kind : asked.includes(key) ? (texts[key] ?? "") : ""));
    const mapping = Object.fromEntries(SHELF_COLUMNS.map(({ key }, i) => [key, i]));
    const [row] = readShelf({ headings: null, rows: [cells], firstRow: 1, mapping });
    if (!row?.value) return setTroubles(row?.troubles ?? []);
    const done = item
      ? await changeOnShelf({ ...item, count: row.value.count, note: row.value.note, thing: withRatings(item.thing, row.value.thing) })
      : await putOnShelf([row.value]);
    if (!done.ok) return setTroubles([{ column: "", text: "", why: done.detail }]);
    onDone();
    onClose();
  };
  const shown = asked.map(label);
  const others = troubles.filter(({ column }) => !shown.includes(column));
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={item ? `Ratings of ${thingName(item.thing)}` : "Put something on the shelf"}
      description="What stands on its label; what you do not know stays empty."
    >
      <form onSubmit={(event) => void submit(event)} noValidate>
        <SelectField
          label="Kind"
          wide
          value={kind}
          options={KINDS.map((each) => ({ value: each, label: each }))}
          onChange={(next) => next && setKind(next)}
        />
        {asked.map((key) => (
          <Field
            key={key}
            label={key === "count" && kind === "wire" ? "Metres" : label(key)}
            error={troubles.find(({ column }) => column === label(key))?.why ?? null}
            {...(HINTS[key] ? { hint: HINTS[key] } : {})}
          >
            {(props) => (
              <input
                {...props}
                className="field w-full"
                value={texts[key] ?? ""}
                onChange={(event) => setTexts({ ...texts, [key]: event.target.value })}
              />
            )}
          </Field>
        ))}
        {others.map(({ column, why }) => (
          <p key={column + why} role="alert" className="mt-2 text-sm font-semibold text-stop dark:text-fix">
            {column && `${column}: `}
            {why}
          </p>
        ))}
        <Button type="submit" kind="main" className="mt-3">
          {item ? "Keep" : "Put it on the shelf"}
        </Button>
      </form>
    </Dialog>
  );
}
