"use client";
import { phaseConductors, phaseCurrent } from "@/core/loads/phases";
import type { ChangesOf } from "@/core/machine/commands";
import type { Load } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { CONNECTORS } from "@/core/reference/connectors";
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

interface LeadProps {
  load: Load;
  which: "ownLead" | "phaseLead";
  title: string;
  remark: string;
}

/** A lead of a load that is no feed of its own in the plan: its size, insulation, length, and the connector in it. */
function LeadFields({ load, which, title, remark }: LeadProps) {
  const { act, dispatch } = useDispatch();
  const change = (changes: ChangesOf<"load">) => ({ type: "updatePart" as const, id: load.id, changes });
  const lead = load[which];
  return (
    <fieldset className="mt-1 border-t border-hair">
      <legend className="pr-2 text-xs font-bold">{title}</legend>
      <GaugeField
        label="Size of its lead"
        gauge={lead?.gauge}
        onChange={(gauge) => act(change({ [which]: gauge === undefined ? undefined : { insulation: "pvc80", ...lead, gauge } }))}
      />
      {lead && (
        <>
          <SelectField
            label="Insulation of its lead"
            value={lead.insulation}
            options={INSULATIONS.map((row) => ({ value: row.id, label: row.name }))}
            onChange={always((insulation) => act(change({ [which]: { ...lead, insulation } })))}
          />
          <QuantityInput
            slim
            optional
            label="Length of its lead"
            dimension="length"
            value={lead.lengthM?.value}
            onCommit={(value) => {
              const { lengthM: before, ...rest } = lead;
              const told = value === undefined ? {} : { lengthM: { value, provenance: before?.provenance ?? "measured" } };
              return dispatch(change({ [which]: { ...rest, ...told } }));
            }}
          />
        </>
      )}
      {which === "phaseLead" && load.phaseLead && (
        <SelectField
          label="Connector in it"
          value={load.phaseLead.family}
          none="none, or not said"
          options={CONNECTORS.filter(({ sort }) => sort !== "rotary").map(({ id, name }) => ({ value: id, label: name }))}
          onChange={(family) => {
            const { family: _before, ...rest } = load.phaseLead as NonNullable<Load["phaseLead"]>;
            act(change({ phaseLead: family === undefined ? rest : { ...rest, family } }));
          }}
        />
      )}
      <p className="text-xs text-soft">{remark}</p>
    </fieldset>
  );
}

/** Of a group of pieces behind one feed: the lead that each piece has for itself. */
export function OwnLeadFields({ load }: { load: Load }) {
  return (
    <LeadFields
      load={load}
      which="ownLead"
      title="Each piece's own lead"
      remark={`From where the feed ends to each of the ${load.count}: it bears its share, and what the group's fuse lets through.`}
    />
  );
}

/** What runs between a drive and its motor, in the phases. */
export function PhaseLeadFields({ load }: { load: Load }) {
  const phase = phaseCurrent(load);
  const count = phaseConductors(load);
  return (
    <LeadFields
      load={load}
      which="phaseLead"
      title="Leads between drive and motor"
      remark={
        phase
          ? `${count} conductors of one size: ${say(phase.rmsA, "current", "up")} r.m.s. in each while it turns, and up to ${say(phase.heldA, "current", "up")} in one held still.`
          : `${count} conductors of one size. What they carry follows from ${load.loadKind === "stepper" ? "what its driver is set to" : "the phase limit of its drive"}.`
      }
    />
  );
}
