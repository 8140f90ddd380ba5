"use client";
import { usualBehaviour } from "@/core/loads/behaviour";
import { phaseConductors } from "@/core/loads/phases";
import { STUDS } from "@/core/machine/base-schema";
import type { PartChanges } from "@/core/machine/commands";
import { KIND_NAMES } from "@/core/machine/defaults";
import type { Figure } from "@/core/machine/figure";
import { LOAD_KINDS, type Part } from "@/core/machine/schema";
import { goesOnShelf } from "@/core/machine/shelf";
import { Field } from "../kit/Field";
import { KnownBy } from "../kit/KnownBy";
import { QuantityInput } from "../kit/QuantityInput";
import { always, named, SelectField, words } from "../kit/Select";
import { TextInput } from "../kit/TextInput";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { DriverFields } from "./DriverFields";
import { FIGURE_FIELDS } from "./fields";
import { BEHAVIOUR_NAMES, FuseSelect, LOAD_KIND_NAMES, TOPOLOGIES } from "./KindFields";
import { OwnLeadFields, PhaseLeadFields } from "./LeadFields";
import { LikeThis } from "./LikeThis";
import { LoadPhysics } from "./LoadPhysics";
import { AccuracyField, CostField, DiodeField, ShelfButton } from "./SourceFields";
import { BarFields, ReverseField, SwitchFields } from "./SwitchFields";

function figureOf(part: Part, key: string): Figure | undefined {
  return (part as unknown as Record<string, Figure | undefined>)[key];
}

/** Name and every figure of the selected part. */
export function PartPane({ part }: { part: Part }) {
  const { dispatch, act } = useDispatch();
  const { openDialog } = useWorkbenchContext();
  const modes = useWorkbench((state) => state.machine.modes);
  const update = (changes: PartChanges) => dispatch({ type: "updatePart", id: part.id, changes });
  const change = (changes: PartChanges) => {
    act({ type: "updatePart", id: part.id, changes });
  };
  return (
    <section aria-label={`${part.name}, figures`} className="overflow-y-auto px-3.5 py-2.5">
      <div className="flex flex-wrap items-baseline gap-x-2">
        <h2 className="min-w-24 flex-1 text-sm font-bold">
          <TextInput label="Name of the part" value={part.name} onCommit={(name) => update({ name })} className="w-full !px-0 font-bold" />
        </h2>
        <span className="text-xs text-soft">{KIND_NAMES[part.kind]}</span>
        <LikeThis part={part} />
        <ShelfButton part={part} />
        <button type="button" className="link text-xs" onClick={() => openDialog({ kind: "remove", part: part.id })}>
          Remove
        </button>
      </div>
      {part.kind === "bar" && (
        <>
          <BarFields part={part} />
          <p className="mt-2 text-xs text-soft">
            A bar has no volts of its own: everything that lands on it meets in one node. Its wire and its account are on the left.
          </p>
        </>
      )}
      {part.kind === "fuse" && (
        <Field slim label="Fuse">
          {() => <FuseSelect label="Fuse" fuse={part.fuse} onChange={(fuse) => fuse && change({ fuse: { ...part.fuse, ...fuse } })} />}
        </Field>
      )}
      {part.kind === "load" && (
        <>
          <SelectField
            label="Which"
            value={part.loadKind}
            options={LOAD_KINDS.map((each) => ({ value: each, label: LOAD_KIND_NAMES[each] }))}
            onChange={always((chosen) => {
              const loadKind = chosen;
              change({ loadKind, behaviour: usualBehaviour(loadKind) });
            })}
          />
          <SelectField
            label="Its current"
            value={part.behaviour}
            options={named(BEHAVIOUR_NAMES)}
            onChange={always((chosen) => change({ behaviour: chosen }))}
          />
          <QuantityInput
            slim
            label="Pieces"
            dimension="count"
            min={1}
            max={200}
            value={part.count}
            onCommit={(count) =>
              count !== undefined && Number.isInteger(count) ? update({ count }) : { ok: false, message: "A whole number of pieces." }
            }
          />
        </>
      )}
      {part.kind === "converter" && (
        <>
          <SelectField
            label="Steps volts"
            value={part.topology}
            options={words(TOPOLOGIES)}
            onChange={always((chosen) => change({ topology: chosen }))}
          />
          {part.lossW && (
            <SelectField
              label="Losses follow"
              value={part.lossBasis ?? "out"}
              options={[
                { value: "out", label: "amps at its output" },
                { value: "in", label: "amps at its input (boost)" },
              ]}
              onChange={always((chosen) => change({ lossBasis: chosen }))}
            />
          )}
          <SelectField
            label="Output minus"
            value={part.isolated ? "isolated" : "common"}
            options={[
              { value: "common", label: "common with its input" },
              { value: "isolated", label: "isolated" },
            ]}
            onChange={always((chosen) => change({ isolated: chosen === "isolated" }))}
          />
        </>
      )}
      {part.kind === "driver" && (
        <QuantityInput
          slim
          label="Channels"
          dimension="count"
          min={1}
          max={8}
          value={part.channels}
          onCommit={(channels) =>
            channels !== undefined && Number.isInteger(channels)
              ? update({ channels })
              : { ok: false, message: "A whole number from 1 to 8." }
          }
        />
      )}
      {FIGURE_FIELDS[part.kind]
        .filter(({ of }) => of?.(part) ?? true)
        .map((field) => {
          const figure = figureOf(part, field.key);
          const scale = field.share ? 100 : 1;
          return (
            <div key={field.key} className="grid grid-cols-[minmax(0,1fr)_88px] items-baseline gap-2">
              {field.group && <h3 className="col-span-2 mt-2 border-t border-hair pt-1 text-xs font-bold">{field.group}</h3>}
              <QuantityInput
                slim
                label={field.label}
                dimension={field.dimension}
                value={figure ? Number((figure.value * scale).toPrecision(12)) : undefined}
                optional={!field.required}
                {...(field.hint ? { hint: field.hint } : {})}
                {...(field.min === undefined ? {} : { min: field.min })}
                {...(field.max === undefined ? {} : { max: field.max })}
                onCommit={(value) =>
                  update({
                    [field.key]:
                      value === undefined ? undefined : { ...figure, value: value / scale, provenance: figure?.provenance ?? "datasheet" },
                  })
                }
              />
              {figure && (
                <KnownBy
                  label={`How ${field.label} is known`}
                  value={figure.provenance}
                  onChange={(provenance) => change({ [field.key]: { ...figure, provenance } })}
                />
              )}
            </div>
          );
        })}
      {(part.kind === "bar" || part.kind === "pack" || part.kind === "switch") && (
        <SelectField
          label="Stud for its lugs"
          none="not said"
          value={part.stud}
          options={words(STUDS)}
          onChange={(stud) => change({ stud })}
        />
      )}
      {goesOnShelf(part.kind) && <CostField part={part} />}
      {(part.kind === "converter" || part.kind === "supply") && <AccuracyField part={part} />}
      {(part.kind === "converter" || part.kind === "supply") && <DiodeField part={part} />}
      {part.kind === "switch" && <SwitchFields part={part} />}
      {(part.kind === "driver" || part.kind === "converter" || part.kind === "load") && <ReverseField part={part} />}
      {part.kind === "load" && part.count > 1 && <OwnLeadFields load={part} />}
      {part.kind === "load" && <LoadPhysics load={part} />}
      {part.kind === "load" && phaseConductors(part) > 0 && <PhaseLeadFields load={part} />}
      {part.kind === "driver" && <DriverFields driver={part} />}
      {part.kind === "switch" && (
        <fieldset className="mt-1">
          <legend className="text-sm">Open in</legend>
          <div className="flex flex-wrap gap-x-4 text-sm">
            {modes.map((mode) => (
              <label key={mode.id}>
                <input
                  type="checkbox"
                  className="mr-1.5"
                  checked={part.openIn.includes(mode.id)}
                  onChange={(event) =>
                    change({ openIn: event.target.checked ? [...part.openIn, mode.id] : part.openIn.filter((id) => id !== mode.id) })
                  }
                />
                {mode.name}
              </label>
            ))}
          </div>
        </fieldset>
      )}
    </section>
  );
}
