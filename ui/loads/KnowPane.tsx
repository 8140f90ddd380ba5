"use client";
import { useState } from "react";
import { levelsCommand } from "@/core/loads/fill";
import { asked, levelsFrom, methodById, methodsFor, whatIsKnown } from "@/core/loads/know";
import type { Inputs, KnownField, Method } from "@/core/loads/methods/types";
import { levelWord } from "@/core/loads/words";
import { LEVELS } from "@/core/machine/load-schema";
import type { Load } from "@/core/machine/schema";
import { editText, formatQuantity, say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import { Button } from "../kit/Button";
import { Field } from "../kit/Field";
import { always, Select } from "../kit/Select";
import { useDispatch, useWorkbenchContext } from "../workbench/context";

/** The method whose figures the load holds already, so that its numbers come back. */
function present(load: Load): { method: string; inputs: Inputs } | null {
  const basis = load.levels?.stall?.basis ?? load.levels?.run?.basis ?? load.levels?.start?.basis ?? load.levels?.idle?.basis;
  return basis && methodById(basis.method)?.kinds.includes(load.loadKind) ? basis : null;
}

function startText(field: KnownField, load: Load, inputs: Inputs | null): string {
  const kept = inputs?.[field.key];
  if (kept !== undefined) return Array.isArray(kept) ? kept.join(" ") : typeof kept === "number" ? editText(kept, field.dimension) : kept;
  if (field.options) return typeof field.initial === "string" ? field.initial : (field.options[0]?.value ?? "");
  const value = typeof field.initial === "function" ? field.initial(load) : field.initial;
  return typeof value === "number" ? editText(value, field.dimension) : "";
}

type Read = { ok: true; value: Inputs[string] | undefined } | { ok: false; message: string };

function readField(field: KnownField, text: string): Read {
  if (field.options) return { ok: true, value: text };
  if (text.trim() === "") return field.optional ? { ok: true, value: 0 } : { ok: true, value: undefined };
  const bounds = { ...(field.min === undefined ? {} : { min: field.min }), ...(field.max === undefined ? {} : { max: field.max }) };
  if (!field.readings) return parseQuantity(text, field.dimension, bounds);
  const values: number[] = [];
  for (const each of text.trim().split(/[\s;]+/)) {
    const parsed = parseQuantity(each, field.dimension, bounds);
    if (!parsed.ok) return parsed;
    values.push(parsed.value);
  }
  return { ok: true, value: values };
}

/** The range an estimate could be in as a line, the estimate as a tick on it. */
function Range({ low, value, high }: { low: number; value: number; high: number }) {
  const top = high * 1.08;
  const at = (amps: number) => `${(amps / top) * 100}%`;
  return (
    <div aria-hidden className="relative h-3">
      <div className="absolute top-1 h-1 bg-ask/35" style={{ left: at(low), width: `${((high - low) / top) * 100}%` }} />
      <div className="absolute top-0 h-3 w-0.5 bg-ink" style={{ left: at(value) }} />
    </div>
  );
}

/** From what the builder knows to a figure, with the range it could be in and the measurement that would narrow it. */
export function KnowPane({ load }: { load: Load }) {
  const methods = methodsFor(load.loadKind);
  const before = present(load);
  const [chosen, setChosen] = useState<string | null>(before?.method ?? null);
  const method = methods.find(({ id }) => id === chosen);
  return (
    <section aria-label={`${load.name}, what do you know?`} className="flex min-h-0 flex-col border-r border-hair px-3.5 pt-2">
      <h2 className="text-sm font-bold">
        What do you know? <span className="font-normal text-soft">{method ? "" : "Any of these gives a figure."}</span>
      </h2>
      {methods.length === 0 && <p className="mt-1 text-xs text-soft">Type its currents at the left, or read them with a meter.</p>}
      <div className="flex shrink-0 flex-wrap gap-x-3 border-b border-ink pb-1 text-xs">
        {methods.map(({ id, title }) => (
          <button
            key={id}
            type="button"
            aria-pressed={id === chosen}
            className={id === chosen ? "font-bold" : "link"}
            onClick={() => setChosen(id === chosen ? null : id)}
          >
            {title}
          </button>
        ))}
      </div>
      {method && <Form key={method.id} method={method} load={load} kept={before?.method === method.id ? before.inputs : null} />}
    </section>
  );
}

/** What a label or a meter says stands above an estimate. */
const TRUSTED: ReadonlySet<string> = new Set(["measured", "datasheet"]);

function Form({ method, load, kept }: { method: Method; load: Load; kept: Inputs | null }) {
  const { act } = useDispatch();
  const [texts, setTexts] = useState<Record<string, string>>(() =>
    Object.fromEntries(method.fields.map((field) => [field.key, startText(field, load, kept)])),
  );
  const { store } = useWorkbenchContext();
  const [asking, setAsking] = useState(false);
  const [touched, setTouched] = useState<ReadonlySet<string>>(new Set());
  const options: Inputs = Object.fromEntries(method.fields.flatMap(({ key, options: list }) => (list ? [[key, texts[key] ?? ""]] : [])));
  const fields = method.fields.filter((field) => asked(field, options));
  const reads = fields.map((field) => ({ field, read: readField(field, texts[field.key] ?? "") }));
  const complete = reads.every(({ read }) => read.ok && read.value !== undefined);
  const inputs: Inputs = Object.fromEntries(
    reads.flatMap(({ field, read }) => (read.ok && read.value !== undefined ? [[field.key, read.value]] : [])),
  );
  const known = complete ? whatIsKnown(method, inputs, load) : null;
  const found = known ? levelsFrom(method, inputs, known) : {};
  // What was read off a label or measured is not written over unasked.
  const labels = LEVELS.filter((level) => {
    const [before, after] = [load.levels?.[level], found[level]];
    return before && !before.basis && after && TRUSTED.has(before.provenance) && before.value !== after.value;
  });
  const write = (over: boolean) => {
    if (!known) return;
    const kept = over ? {} : Object.fromEntries(labels.map((level) => [level, load.levels?.[level]]));
    if (act(levelsCommand(store.getState().machine, load, { ...load.levels, ...found, ...kept }))) setAsking(false);
  };
  return (
    <form
      noValidate
      className="flex min-h-0 flex-1 flex-col"
      onSubmit={(event) => {
        event.preventDefault();
        setTouched(new Set(fields.map(({ key }) => key)));
        if (labels.length > 0) setAsking(true);
        else write(true);
      }}
    >
      <div className="min-h-0 flex-1 overflow-y-auto py-1">
        {method.caution && <p className="mb-1 border-l-2 border-fix pl-2 text-xs">{method.caution}</p>}
        <div className={fields.length > 4 ? "grid grid-cols-2 gap-x-5 [&>div]:grid-cols-[minmax(0,1fr)_92px]" : ""}>
          {reads.map(({ field, read }) => {
            const empty = touched.has(field.key) && read.ok && read.value === undefined;
            const error = !touched.has(field.key) ? null : read.ok ? (empty ? "Needed for this way." : null) : read.message;
            const change = (text: string) => setTexts({ ...texts, [field.key]: text });
            const leave = () => setTouched(new Set([...touched, field.key]));
            return (
              <Field key={field.key} slim label={field.label} error={error} {...(field.hint ? { hint: field.hint } : {})}>
                {(props) =>
                  field.options ? (
                    <Select
                      {...props}
                      className="field w-full"
                      value={texts[field.key]}
                      options={field.options.map(({ value, label }) => ({ value: value, label: label }))}
                      onChange={always((chosen) => change(chosen))}
                    />
                  ) : (
                    <input
                      {...props}
                      className="fig field w-full text-right"
                      value={texts[field.key]}
                      onChange={(event) => change(event.target.value)}
                      onBlur={leave}
                    />
                  )
                }
              </Field>
            );
          })}
        </div>
        {known?.notes.map((note) => (
          <p key={note} className="mt-1 text-xs">
            {note}
          </p>
        ))}
        <p className="mt-1 text-xs text-soft">
          Marked {method.provenance}. {method.source}
        </p>
      </div>
      <div className="shrink-0 border-t border-ink py-1.5" aria-live="polite">
        {complete && !known && (
          <p role="alert" className="text-xs font-semibold text-stop dark:text-fix">
            These numbers contradict each other: they leave no resistance or a negative current. Check units and leads.
          </p>
        )}
        {known?.estimates.map(({ level, value, low, high }) => (
          <div key={level} className="grid grid-cols-[74px_66px_minmax(0,1fr)_auto] items-center gap-2 text-xs leading-tight">
            <span>{levelWord(load.loadKind, level) ?? level}</span>
            <span className="fig text-right text-base leading-tight font-bold">
              {formatQuantity(value, "current").digits}
              <span className="unit">{formatQuantity(value, "current").unit}</span>
            </span>
            <Range low={low} value={value} high={high} />
            <span className="text-soft">
              {say(low, "current", "down")} to {say(high, "current", "up")}
            </span>
          </div>
        ))}
        {asking && labels.length > 0 && (
          <div role="alert" className="mt-1 border-l-2 border-fix pl-2 text-xs">
            <p>
              {labels
                .map(
                  (level) =>
                    `${levelWord(load.loadKind, level) ?? level} is ${say(load.levels?.[level]?.value ?? 0, "current")}, ${load.levels?.[level]?.provenance}`,
                )
                .join("; ")}
              . Put the estimate in its place?
            </p>
            <p className="mt-1 flex gap-3">
              <Button onClick={() => write(false)}>Keep what is known</Button>
              <Button kind="quiet" onClick={() => write(true)}>
                Replace it
              </Button>
            </p>
          </div>
        )}
        <div className="mt-1 flex items-center gap-3">
          <Button type="submit" kind="main" disabled={complete && !known}>
            Take {known && known.estimates.length > 1 ? "these figures" : "this figure"}
          </Button>
          {known && (
            <p className="text-xs leading-tight">
              <span className="font-bold">Narrows it most:</span> {known.narrow.measure}
            </p>
          )}
        </div>
      </div>
    </form>
  );
}
