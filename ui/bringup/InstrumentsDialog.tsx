"use client";
import { INSTRUMENTS, type InstrumentId } from "@/core/reference/instruments";
import { Dialog } from "../kit/Dialog";
import { QuantityInput } from "../kit/QuantityInput";
import { always, SelectField } from "../kit/Select";
import { useLog, useWorkbenchContext } from "../workbench/context";

const METERS = ["pocket", "hand", "bench"] as const;
const CLAMPS = ["clamp", "fine-clamp", "none"] as const;

/** What there is to read with: pass bands, ranges and the order of the stages follow from it. */
export function InstrumentsDialog({ onClose }: { onClose: () => void }) {
  const { log } = useWorkbenchContext();
  const kit = useLog((state) => state.kit);
  const change = (over: Partial<typeof kit>) => {
    log.getState().setKit({ ...kit, ...over });
    return { ok: true } as const;
  };
  const name = (id: InstrumentId) => INSTRUMENTS[id].name;
  return (
    <Dialog
      open
      onOpenChange={(open) => !open && onClose()}
      title="Instruments"
      description="Pass bands hold the plan's doubt and the meter's. What the bench supply cannot carry is put off until the machine's own source is in."
    >
      <form onSubmit={(event) => event.preventDefault()}>
        <SelectField
          wide
          label="Meter"
          value={kit.volts}
          options={METERS.map((value) => ({ value, label: name(value) }))}
          onChange={always((volts) => change({ volts }))}
        />
        <SelectField
          wide
          label="DC clamp"
          value={kit.clamp}
          options={CLAMPS.map((value) => ({ value, label: value === "none" ? "none: in series with the meter" : name(value) }))}
          onChange={always((clamp) => change({ clamp }))}
        />
        <QuantityInput
          label="Bench supply up to"
          dimension="voltage"
          value={kit.supplyV}
          min={0}
          max={120}
          onCommit={(supplyV) => change({ supplyV: supplyV ?? 0 })}
        />
        <QuantityInput
          label="and up to"
          dimension="current"
          value={kit.supplyA}
          min={0}
          max={200}
          onCommit={(supplyA) => change({ supplyA: supplyA ?? 0 })}
        />
      </form>
      <p className="mt-3 text-xs text-soft">{INSTRUMENTS[kit.volts].trap}</p>
      {kit.clamp !== "none" && <p className="mt-1 text-xs text-soft">{INSTRUMENTS[kit.clamp].trap}</p>}
    </Dialog>
  );
}
