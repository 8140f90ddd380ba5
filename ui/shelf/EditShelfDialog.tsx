"use client";
import { type FormEvent, useState } from "react";
import { readCount } from "@/core/exchange/shelf-csv";
import { plainLines } from "@/core/machine/plain-text";
import { QUIRKS_MAX, type ShelfItem, thingName } from "@/core/machine/shelf";
import { parseQuantity } from "@/core/quantity/parse";
import { changeOnShelf } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";
import { ratingWords } from "./words";

interface Props {
  item: ShelfItem;
  onClose: () => void;
  onDone: () => void;
  /** Its ratings are to be written anew. */
  onRatings: () => void;
}

/** How many there are, what one costs, where it lies, and what was found out about it. */
export function EditShelfDialog({ item, onClose, onDone, onRatings }: Props) {
  const [count, setCount] = useState(item.count === null ? "" : `${item.count}`);
  const [cost, setCost] = useState(item.cost === null ? "" : `${item.cost}`);
  const [note, setNote] = useState(item.note);
  const [quirks, setQuirks] = useState(item.quirks);
  const [errors, setErrors] = useState<{ count?: string; cost?: string; form?: string }>({});
  const wire = item.thing.sort === "wire";
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    const many = readCount(count, item.thing.sort);
    const price = parseQuantity(cost, "ratio", { min: 0, max: 1e6 });
    const each = cost.trim() === "" ? null : price.ok ? price.value : undefined;
    if (many === undefined || each === undefined)
      return setErrors({
        ...(many === undefined ? { count: `Write a ${wire ? "" : "whole "}number, or leave it empty where nobody counted.` } : {}),
        ...(each === undefined ? { cost: "Write a price in your own currency, or leave it empty." } : {}),
      });
    const done = await changeOnShelf({ ...item, count: many, cost: each, note: plainLines(note), quirks: plainLines(quirks) });
    if (!done.ok) return setErrors({ form: done.detail });
    onDone();
    onClose();
  };
  return (
    <Dialog open onOpenChange={onClose} title={thingName(item.thing)} description={ratingWords(item.thing)}>
      <form onSubmit={(event) => void submit(event)} noValidate>
        <Field label={wire ? "Metres" : "How many"} error={errors.count ?? null} hint="Empty: there is some, nobody counted.">
          {(props) => (
            <input
              {...props}
              inputMode="decimal"
              className="fig field w-[120px]"
              value={count}
              onChange={(event) => setCount(event.target.value)}
            />
          )}
        </Field>
        <Field label="Cost of one" error={errors.cost ?? null}>
          {(props) => (
            <input
              {...props}
              inputMode="decimal"
              className="fig field w-[120px]"
              value={cost}
              onChange={(event) => setCost(event.target.value)}
            />
          )}
        </Field>
        <Field label="Note" hint="Where it lies, where it came from.">
          {(props) => (
            <input {...props} className="field w-full" maxLength={500} value={note} onChange={(event) => setNote(event.target.value)} />
          )}
        </Field>
        <Field label="Found out" hint="What measuring showed, a line each: channel 2 drops out above 18 A.">
          {(props) => (
            <textarea
              {...props}
              rows={4}
              className="field w-full resize-y border border-rule px-2 py-1"
              maxLength={QUIRKS_MAX}
              value={quirks}
              onChange={(event) => setQuirks(event.target.value)}
            />
          )}
        </Field>
        {errors.form && (
          <p role="alert" className="mt-2 text-sm font-semibold text-stop dark:text-fix">
            {errors.form}
          </p>
        )}
        <div className="mt-3 flex items-center gap-4">
          <Button type="submit" kind="main">
            Keep
          </Button>
          <button type="button" className="link text-sm" onClick={onRatings}>
            Change its ratings
          </button>
        </div>
      </form>
    </Dialog>
  );
}
