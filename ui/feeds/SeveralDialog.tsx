"use client";
import { useState } from "react";
import { setSeveral } from "@/core/drafting/like";
import { PROVENANCES, type Provenance } from "@/core/machine/figure";
import { parseSize } from "@/core/machine/typed";
import { say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";
import { finder } from "../kit/finds";
import { SelectField, words } from "../kit/Select";
import { useDispatch, useLedger, useWorkbench } from "../workbench/context";

/** Several feeds edited at once: those that are ticked get the same length, the same size, or the same standing. */
export function SeveralDialog({ onClose }: { onClose: () => void }) {
  const ledger = useLedger();
  const machine = useWorkbench((state) => state.machine);
  const { dispatch } = useDispatch();
  const [text, setText] = useState("");
  const [ticked, setTicked] = useState<ReadonlySet<string>>(new Set());
  const [length, setLength] = useState("");
  const [size, setSize] = useState("");
  const [known, setKnown] = useState<Provenance | undefined>(undefined);
  const [wrong, setWrong] = useState<{ length?: string; size?: string; form?: string }>({});
  const finds = finder(text);
  const feeds = ledger.rows.flatMap(({ part, feed, back }) => {
    const wire = feed ?? back;
    return wire ? [{ id: wire.id, name: part.name, wire }] : [];
  });
  const shown = feeds.filter(({ name, wire }) => finds(`${name} ${wire.gauge ?? ""}`));
  const all = shown.length > 0 && shown.every(({ id }) => ticked.has(id));
  const tick = (ids: readonly string[], on: boolean) => {
    const next = new Set(ticked);
    for (const id of ids)
      if (on) next.add(id);
      else next.delete(id);
    setTicked(next);
  };
  const apply = () => {
    const lengthM = length.trim() === "" ? null : parseQuantity(length, "length");
    const gauge = size.trim() === "" ? null : parseSize(size);
    const troubles = {
      ...(lengthM && !lengthM.ok ? { length: lengthM.message } : {}),
      ...(gauge && !gauge.ok ? { size: gauge.message } : {}),
    };
    if (Object.keys(troubles).length > 0) return setWrong(troubles);
    const command = setSeveral(machine, [...ticked], {
      ...(lengthM?.ok ? { lengthM: { value: lengthM.value, provenance: known ?? "measured" } } : {}),
      ...(gauge?.ok && gauge.value ? { gauge: gauge.value } : {}),
      ...(known ? { known } : {}),
    });
    const done = dispatch(command);
    if (!done.ok) return setWrong({ form: done.message });
    onClose();
  };
  const nothing = length.trim() === "" && size.trim() === "" && known === undefined;
  return (
    <Dialog
      open
      wide
      onOpenChange={onClose}
      title="Several feeds at once"
      description="Tick the feeds, then say what they have in common. What is left empty stays as it is."
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          apply();
        }}
      >
        <div className="flex flex-wrap items-baseline gap-x-4 pb-1 text-sm">
          <input
            data-first
            aria-label="Find a feed"
            placeholder="find"
            className="field w-[180px]"
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <label className="flex items-baseline gap-1.5">
            <input
              type="checkbox"
              checked={all}
              onChange={(event) =>
                tick(
                  shown.map(({ id }) => id),
                  event.target.checked,
                )
              }
            />
            all of these
          </label>
          <span className="ml-auto text-soft">
            <span className="fig text-ink">{ticked.size}</span> ticked
          </span>
        </div>
        <ul className="max-h-[38vh] overflow-y-auto border-y border-hair text-sm" aria-label="Feeds">
          {shown.map(({ id, name, wire }) => (
            <li key={id} className="border-b border-hair">
              <label className="grid grid-cols-[20px_minmax(0,1fr)_auto_auto] items-baseline gap-x-3 px-1 py-1">
                <input type="checkbox" checked={ticked.has(id)} onChange={(event) => tick([id], event.target.checked)} />
                <span className="truncate">{name}</span>
                <span className="fig text-soft">{wire.gauge ?? "no size"}</span>
                <span className="fig w-[120px] text-right text-soft">
                  {wire.lengthM ? `${say(wire.lengthM.value, "length")}, ${wire.lengthM.provenance}` : "no length"}
                </span>
              </label>
            </li>
          ))}
        </ul>
        <div className="mt-3">
          <Field label="Length" error={wrong.length ?? null}>
            {(props) => (
              <input
                {...props}
                className="fig field"
                placeholder="as it is"
                value={length}
                onChange={(event) => setLength(event.target.value)}
              />
            )}
          </Field>
          <Field label="Size" error={wrong.size ?? null}>
            {(props) => (
              <input
                {...props}
                className="fig field"
                placeholder="as it is"
                value={size}
                onChange={(event) => setSize(event.target.value)}
              />
            )}
          </Field>
          <SelectField wide label="Lengths known by" none="as they are" value={known} options={words(PROVENANCES)} onChange={setKnown} />
        </div>
        {wrong.form && (
          <p role="alert" className="text-sm font-semibold text-stop dark:text-fix">
            {wrong.form}
          </p>
        )}
        <Button type="submit" kind="main" className="mt-3" disabled={ticked.size === 0 || nothing}>
          Edit {ticked.size} feed{ticked.size === 1 ? "" : "s"}
        </Button>
      </form>
    </Dialog>
  );
}
