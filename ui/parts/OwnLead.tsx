"use client";
import type { ChangesOf } from "@/core/machine/commands";
import type { Load } from "@/core/machine/schema";
import { GAUGES } from "@/core/reference/gauges";
import { INSULATIONS } from "@/core/reference/insulation";
import { Field } from "../kit/Field";
import { QuantityInput } from "../kit/QuantityInput";
import { always, SelectField } from "../kit/Select";
import { useDispatch } from "../workbench/context";

/** Every size of the table, or none. */
export function GaugeField({ label, gauge, onChange }: { label: string; gauge: string | undefined; onChange: (gauge?: string) => void }) {
  return (
    <Field slim label={label}>
      {(props) => (
        <select
          {...props}
          className="fig field"
          value={gauge ?? ""}
          onChange={(event) => onChange(event.target.value === "" ? undefined : event.target.value)}
        >
          <option value="">not known</option>
          {(["awg", "metric"] as const).map((system) => (
            <optgroup key={system} label={system === "awg" ? "AWG, stranded" : "Metric, fine-stranded"}>
              {GAUGES.filter((each) => each.system === system).map((each) => (
                <option key={each.id}>{each.id}</option>
              ))}
            </optgroup>
          ))}
        </select>
      )}
    </Field>
  );
}

/** Of a group of pieces behind one feed: the lead that each piece has for itself. */
export function OwnLeadFields({ load }: { load: Load }) {
  const { act, dispatch } = useDispatch();
  const change = (changes: ChangesOf<"load">) => ({ type: "updatePart" as const, id: load.id, changes });
  const { ownLead } = load;
  return (
    <fieldset className="mt-1 border-t border-hair">
      <legend className="pr-2 text-xs font-bold">Each piece&apos;s own lead</legend>
      <GaugeField
        label="Size of its lead"
        gauge={ownLead?.gauge}
        onChange={(gauge) => act(change({ ownLead: gauge === undefined ? undefined : { insulation: "pvc80", ...ownLead, gauge } }))}
      />
      {ownLead && (
        <>
          <SelectField
            label="Insulation of its lead"
            value={ownLead.insulation}
            options={INSULATIONS.map((row) => ({ value: row.id, label: row.name }))}
            onChange={always((insulation) => act(change({ ownLead: { ...ownLead, insulation } })))}
          />
          <QuantityInput
            slim
            optional
            label="Length of its lead"
            dimension="length"
            value={ownLead.lengthM?.value}
            onCommit={(value) => {
              const { lengthM: before, ...rest } = ownLead;
              return dispatch(
                change({
                  ownLead: value === undefined ? rest : { ...rest, lengthM: { value, provenance: before?.provenance ?? "measured" } },
                }),
              );
            }}
          />
        </>
      )}
      <p className="text-xs text-soft">
        From where the feed ends to each of the {load.count}: it bears its share, and what the group&apos;s fuse lets through.
      </p>
    </fieldset>
  );
}
