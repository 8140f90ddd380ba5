"use client";

import { type FormEvent, useEffect, useMemo, useState } from "react";
import { usualBehaviour } from "@/core/loads/behaviour";
import { freshId, KIND_NAMES, newPart } from "@/core/machine/defaults";
import type { Figure } from "@/core/machine/figure";
import { placeUnder } from "@/core/machine/placing";
import { type FuseRef, LOAD_KINDS, type Part, type PartKind } from "@/core/machine/schema";
import { fromShelf, partsOnShelf, type ShelfItem } from "@/core/machine/shelf";
import { terminalName } from "@/core/machine/terminals";
import { parseQuantity } from "@/core/quantity/parse";
import { ratedAs } from "@/core/sheet/ratings";
import { fetchShelf } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";
import { always, SelectField, words } from "../kit/Select";
import { useDispatch, useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { showRow } from "../workbench/showRow";
import { AddLine } from "./AddLine";
import { useConductorFields } from "./ConductorFields";
import { FIGURE_FIELDS } from "./fields";
import { FuseSelect, LOAD_KIND_NAMES, TOPOLOGIES } from "./KindFields";
import { PlaceField } from "./PlaceField";

type Choice = PartKind | "returnBar";
const choiceName = (choice: Choice) => (choice === "returnBar" ? "Negative bar" : choice === "bar" ? "Positive bar" : KIND_NAMES[choice]);

/** Adds a part under another with its supply and return in one step. Unknown figures may stay empty: they are asked for. */
export function AddPartDialog({ under, onClose }: { under: string | null; onClose: () => void }) {
  const machine = useWorkbench((state) => state.machine);
  const { store } = useWorkbenchContext();
  const ledger = useLedger();
  const { dispatch } = useDispatch();
  const [asSource, setAsSource] = useState(under === null || machine.parts.length === 0);
  const [outlet, setOutlet] = useState("");
  const placing = useMemo(() => placeUnder(machine, ledger, asSource ? null : under, outlet), [machine, ledger, under, asSource, outlet]);
  const [wanted, setWanted] = useState<Choice | null>(null);
  const choice = wanted && placing.kinds.includes(wanted) ? wanted : placing.kinds[0];
  const [name, setName] = useState("");
  const [loadKind, setLoadKind] = useState<(typeof LOAD_KINDS)[number]>("motor");
  const [topology, setTopology] = useState<(typeof TOPOLOGIES)[number]>("buck");
  const [channels, setChannels] = useState(1);
  const [ownFuse, setOwnFuse] = useState<FuseRef>({ family: "strip_m5_58v", ratingA: 60 });
  /** Whether its wire is unfolded. */
  const [wired, setWired] = useState(false);
  const [texts, setTexts] = useState<Record<string, string>>({});
  const conductor = useConductorFields();
  const [fuse, setFuse] = useState<FuseRef | null>(null);
  const [landing, setLanding] = useState(0);
  const [errors, setErrors] = useState<Record<string, string>>({});
  const [shelf, setShelf] = useState<readonly ShelfItem[]>([]);
  const [taken, setTaken] = useState<string | undefined>(undefined);
  useEffect(() => {
    let gone = false;
    void fetchShelf().then((items) => {
      if (!gone) setShelf(items ?? []);
    });
    return () => {
      gone = true;
    };
  }, []);
  const lying = partsOnShelf(shelf).filter(({ part }) => placing.kinds.includes(part.kind));
  const ratings = (part: Part) => {
    const { what, ratings: more } = ratedAs(part);
    return [what, ...more].join(", ");
  };
  const own = lying.find(({ id }) => id === taken);

  const kind: PartKind | undefined = own?.part.kind ?? (choice === "returnBar" ? "bar" : choice);
  const fields = kind && !own ? FIGURE_FIELDS[kind].filter((field) => field.early) : [];
  const needsReturn =
    kind === "driver" ||
    kind === "converter" ||
    kind === "load" ||
    choice === "driver" ||
    choice === "converter" ||
    choice === "load" ||
    choice === "returnBar";
  const hasWire = placing.parent !== null;
  const suggested = useMemo(() => {
    if (!choice) return "";
    const base = own
      ? own.part.name
      : choice === "load"
        ? LOAD_KIND_NAMES[loadKind].replace(/^./, (c) => c.toUpperCase())
        : choiceName(choice);
    const names = new Set(machine.parts.map((part) => part.name));
    if (!names.has(base)) return base;
    let n = 2;
    while (names.has(`${base} ${n}`)) n++;
    return `${base} ${n}`;
  }, [choice, loadKind, machine.parts, own]);

  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!kind || !choice) return;
    const wrong: Record<string, string> = {};
    const over: Record<string, unknown> = {};
    for (const field of fields) {
      const text = texts[field.key]?.trim() ?? "";
      if (text === "") {
        if (field.required) wrong[field.key] = `${field.label} is needed to compute anything.`;
        continue;
      }
      const parsed = parseQuantity(text, field.dimension, field.min === undefined ? {} : { min: field.min });
      if (parsed.ok) over[field.key] = { value: parsed.value, provenance: "datasheet" } satisfies Figure;
      else wrong[field.key] = parsed.message;
    }
    const run = conductor.read();
    setErrors(wrong);
    if (!run) setWired(true);
    if (!run || Object.keys(wrong).length > 0) return;

    if (choice === "returnBar") over.side = "negative";
    if (kind === "load") Object.assign(over, { loadKind, behaviour: usualBehaviour(loadKind) });
    if (kind === "converter") over.topology = topology;
    if (kind === "driver") over.channels = channels;
    if (kind === "fuse") over.fuse = ownFuse;
    const id = freshId("p", machine.parts);
    const called = name.trim() === "" ? suggested : name.trim();
    const part: Part = own ? { ...fromShelf(own.id, own.part, id), name: called } : (newPart(kind, id, called, over) as Part);
    const place = placing.landings[landing] ?? placing.landings[0];
    const feed = hasWire
      ? {
          ...(placing.from && choice !== "returnBar" ? { from: placing.from } : {}),
          ...(needsReturn && place ? { back: place.at } : {}),
          wire: { ...run, ...(fuse && choice !== "returnBar" ? { fuse } : {}) },
        }
      : undefined;
    const result = dispatch({ type: "addPart", part, ...(feed ? { feed } : {}) });
    if (!result.ok) return setErrors({ form: result.message });
    onClose();
    showRow(store, id);
  };

  const where = placing.parent
    ? `under ${placing.from ? terminalName(placing.parent, placing.from.terminal) : placing.parent.name}`
    : "as a source";
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={placing.parent ? `Add ${where}` : "Add a source"}
      description="Figures you do not know yet can stay empty; verdicts will ask for those that matter."
    >
      {placing.kinds.length === 0 ? (
        <p className="text-sm">All channels of {placing.parent?.name} are taken. Give it more channels, or select another part first.</p>
      ) : (
        <>
          <AddLine under={asSource ? null : under} outlet={outlet} onDone={onClose} />
          <p className="pt-3 pb-1 text-sm font-semibold">Or field by field</p>
          <form
            onSubmit={submit}
            noValidate
            onKeyDown={(event) => {
              // Enter adds the part from any field; a list opens with Space or an arrow.
              if (event.key !== "Enter" || !(event.target instanceof HTMLSelectElement)) return;
              event.preventDefault();
              event.currentTarget.requestSubmit();
            }}
          >
            {placing.outlets.length > 0 && (
              <SelectField
                label="Takes its supply from"
                wide
                value={outlet}
                options={placing.outlets.map(({ id, name: place }) => ({ value: id, label: place }))}
                onChange={always((chosen) => setOutlet(chosen))}
              />
            )}
            {lying.length > 0 && (
              <SelectField
                label="From the shelf"
                wide
                none="a new one"
                value={taken}
                options={lying.map(({ id, part, count }) => ({
                  value: id,
                  label: `${part.name}${count === null ? "" : count === 0 ? ", none left" : `, ${count} there`}`,
                }))}
                onChange={setTaken}
              />
            )}
            {own && (
              <p className="pb-1 text-xs text-soft">
                {ratings(own.part)}
                {own.quirks && <span className="block whitespace-pre-line text-fix">{own.quirks}</span>}
              </p>
            )}
            {!own && (
              <SelectField
                label="Kind"
                wide
                value={choice}
                options={placing.kinds.map((each) => ({ value: each, label: choiceName(each) }))}
                onChange={always((chosen) => setWanted(chosen))}
              />
            )}
            {kind === "load" && !own && (
              <SelectField
                label="Which"
                wide
                value={loadKind}
                options={LOAD_KINDS.map((each) => ({ value: each, label: LOAD_KIND_NAMES[each] }))}
                onChange={always((chosen) => setLoadKind(chosen))}
              />
            )}
            {kind === "converter" && !own && (
              <SelectField
                label="Steps volts"
                wide
                value={topology}
                options={words(TOPOLOGIES)}
                onChange={always((chosen) => setTopology(chosen))}
              />
            )}
            {kind === "driver" && !own && (
              <Field label="Channels">
                {(props) => (
                  <select {...props} className="field" value={channels} onChange={(event) => setChannels(Number(event.target.value))}>
                    {[1, 2, 3, 4, 5, 6, 7, 8].map((each) => (
                      <option key={each}>{each}</option>
                    ))}
                  </select>
                )}
              </Field>
            )}
            <Field label="Name">
              {(props) => (
                <input
                  {...props}
                  className="field w-full"
                  value={name}
                  placeholder={suggested}
                  maxLength={80}
                  onChange={(event) => setName(event.target.value)}
                />
              )}
            </Field>
            {kind === "fuse" && (
              <Field label="Fuse">{() => <FuseSelect label="Fuse" fuse={ownFuse} onChange={(next) => next && setOwnFuse(next)} />}</Field>
            )}
            {fields.map((field) => (
              <Field key={field.key} label={field.label} error={errors[field.key] ?? null} {...(field.hint ? { hint: field.hint } : {})}>
                {(props) => (
                  <input
                    {...props}
                    className="fig field w-full"
                    value={texts[field.key] ?? ""}
                    placeholder={field.required ? "" : "not known"}
                    onChange={(event) => setTexts({ ...texts, [field.key]: event.target.value })}
                  />
                )}
              </Field>
            ))}
            {hasWire && (
              <details open={wired} onToggle={(event) => setWired(event.currentTarget.open)} className="mt-2 border-t border-hair pt-2">
                <summary className="cursor-pointer text-sm">
                  <b>{choice === "returnBar" ? "Its way back" : needsReturn ? "Its feed, out and back" : "Its supply wire"}</b>{" "}
                  <span className="text-soft">
                    no size and no length yet{needsReturn && placing.landings[0] ? `; comes home on ${placing.landings[0].name}` : ""}
                  </span>
                </summary>
                {conductor.fields}
                {choice !== "returnBar" && kind !== "fuse" && placing.parent?.kind !== "driver" && (
                  <Field label="Fuse at its start">
                    {() => <FuseSelect label="Fuse at its start" fuse={fuse} onChange={setFuse} optional />}
                  </Field>
                )}
                {needsReturn && placing.landings.length > 0 && (
                  <PlaceField label="Return lands on" places={placing.landings} value={landing} onChange={setLanding} />
                )}
              </details>
            )}
            {kind === "pack" && (
              <p className="mt-3 border-l-2 border-fix pl-2 text-xs">
                A battery pushes hundreds of amps into a short, a lithium pack thousands. Fuse close to it; insulate tools; one terminal at
                a time.
              </p>
            )}
            {kind === "supply" && (
              <p className="mt-3 border-l-2 border-fix pl-2 text-xs">
                The mains side of a supply is not planned here: local codes and licensed people decide it.
              </p>
            )}
            {errors.form && (
              <p role="alert" className="mt-3 text-sm font-semibold text-stop dark:text-fix">
                {errors.form}
              </p>
            )}
            <div className="mt-4 flex items-center gap-3">
              <Button type="submit" kind="main">
                Add {(name.trim() || suggested).slice(0, 30)}
              </Button>
              {under !== null && (
                <Button kind="quiet" onClick={() => setAsSource(!asSource)}>
                  {asSource ? "Hang it under the selected part instead" : "Add a source instead"}
                </Button>
              )}
            </div>
          </form>
        </>
      )}
    </Dialog>
  );
}
