"use client";
import { useState } from "react";
import { returnPlaces } from "@/core/machine/placing";
import { BOND_MAKERS, type Wire } from "@/core/machine/schema";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { always, SelectField } from "../kit/Select";
import { useConductorFields } from "../parts/ConductorFields";
import { PlaceField } from "../parts/PlaceField";
import { useDispatch, useWorkbench } from "../workbench/context";

const MAKERS: Readonly<Record<NonNullable<Wire["bondBy"]>, string>> = {
  wire: "a wire, meant as the bond",
  standoff: "a metal standoff of a board",
  case: "a motor or driver case",
  shield: "a shield or a connector shell",
};

/** Something that joins the frame to the return side, on purpose or by accident. */
export function AddBondDialog({ frame, onClose }: { frame: string; onClose: () => void }) {
  const machine = useWorkbench((state) => state.machine);
  const { dispatch } = useDispatch();
  const places = returnPlaces(machine).filter(({ at }) => at.part !== frame);
  const [from, setFrom] = useState(0);
  const [by, setBy] = useState<NonNullable<Wire["bondBy"]>>("wire");
  const [error, setError] = useState<string | null>(null);
  const conductor = useConductorFields();
  const add = () => {
    const run = by === "wire" ? conductor.read() : {};
    const at = places[from]?.at;
    if (!run || !at) return;
    const result = dispatch({
      type: "addWire",
      wire: { role: "bond", from: at, to: { part: frame, terminal: "bar" }, bondBy: by, parallel: 1, insulation: "pvc80", ...run },
    });
    if (!result.ok) return setError(result.message);
    onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Add a bond"
      description="What joins the frame to the return side. One is a school, two are a loop."
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <PlaceField label="At" places={places} value={from} error={error} onChange={setFrom} />
        <SelectField
          label="By"
          wide
          value={by}
          options={BOND_MAKERS.map((each) => ({ value: each, label: MAKERS[each] }))}
          onChange={always((chosen) => setBy(chosen ?? "wire"))}
        />
        {by === "wire" && conductor.fields}
        <Button type="submit" kind="main" className="mt-3">
          Add the bond
        </Button>
      </form>
    </Dialog>
  );
}
