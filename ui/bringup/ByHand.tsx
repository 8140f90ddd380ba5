"use client";
import { useState } from "react";
import { toast } from "sonner";
import { meterDoubt, readingU } from "@/core/bringup/compare";
import { extraOhm, sourceOhm, sureFigure } from "@/core/bringup/derive";
import { plannedOhm } from "@/core/bringup/doubts";
import { ammeter } from "@/core/bringup/steps";
import type { Command } from "@/core/machine/commands";
import type { Machine } from "@/core/machine/schema";
import { endName } from "@/core/machine/terminals";
import { say } from "@/core/quantity/format";
import { Select } from "../kit/Select";
import { ViewTabs } from "../kit/ViewTabs";
import { useDispatch, useLog, useWorkbench } from "../workbench/context";
import { EMPTY, NumberField, numberIn, type Typed } from "./NumberField";
import { TriedPanel } from "./TriedPanel";

const FORMS = [
  { id: "joint", label: "A joint, by its millivolts" },
  { id: "pack", label: "A pack, by two readings" },
] as const;

/** Two figures that no single reading gives: what a joint has beyond the plan, and what a pack has inside. */
export function ByHand() {
  const [form, setForm] = useState<(typeof FORMS)[number]["id"]>("joint");
  return (
    <section className="mt-6 max-w-[860px]" aria-label="From two readings">
      <ViewTabs slim label="From two readings" views={FORMS} view={form} onView={setForm}>
        <div className="py-2">{form === "joint" ? <Joint /> : <PackOhm />}</div>
      </ViewTabs>
    </section>
  );
}

function wireWords(machine: Machine, id: string): string {
  const wire = machine.wires.find((each) => each.id === id);
  return wire ? `${endName(machine, wire.from)} to ${endName(machine, wire.to)}` : id;
}

function Joint() {
  const machine = useWorkbench((state) => state.machine);
  const kit = useLog((state) => state.kit);
  const [wireId, setWire] = useState<string | undefined>(undefined);
  const [volts, setVolts] = useState<Typed>(EMPTY);
  const [amps, setAmps] = useState<Typed>(EMPTY);
  const wire = machine.wires.find(({ id }) => id === wireId);
  const [v, a] = [numberIn(volts), numberIn(amps)];
  const planned = wire ? plannedOhm(machine, wire) : null;
  const found =
    planned && v !== null && a !== null
      ? extraOhm({ value: v, u: readingU(kit.volts, "volts", v) ?? 0 }, { value: a, u: readingU(ammeter(kit, a), "amps", a) ?? 0 }, planned)
      : null;
  const command: Command | null =
    wire && found
      ? {
          type: "updateWire",
          id: wire.id,
          changes: {
            extraOhm: sureFigure(found),
          },
        }
      : null;
  return (
    <div>
      <p className="text-xs text-soft">
        Volts from one end of a wire to the other while a known current flows, each probe on the metal of the lug. What is more than copper,
        fresh ends and fuse is its joints.
      </p>
      <div className="mt-1 flex flex-wrap items-start gap-4">
        <span>
          <label className="block text-xs text-soft" htmlFor="joint-wire">
            wire
          </label>
          <Select
            id="joint-wire"
            className="field max-w-[320px]"
            value={wireId}
            none="choose one"
            options={machine.wires.map(({ id }) => ({ value: id, label: wireWords(machine, id) }))}
            onChange={setWire}
          />
        </span>
        <NumberField label="across it" dimension="voltage" value={volts} onType={setVolts} />
        <NumberField label="through it" dimension="current" value={amps} onType={setAmps} />
      </div>
      {planned && v !== null && a !== null && !found && (
        <p className="mt-1 text-sm">
          Nothing beyond the plan that these readings could tell: the plan gives it {say(planned.value, "resistance")} (±
          {say(planned.u, "resistance", "up")}). Doubt is least with a large current.
        </p>
      )}
      {wire && planned && found && command && (
        <>
          <p className="mt-1 text-sm">
            <b className="fig text-lg">{say(found.value, "resistance")}</b> ±{say(found.u, "resistance", "up")} beyond the plan's{" "}
            {say(planned.value, "resistance")}; that is {say(found.value * (a ?? 0) ** 2, "power")} in the joints at this current.
          </p>
          <Take of={`joint ${wire.id}`} command={command} said={`${wireWords(machine, wire.id)}: ${say(found.value, "resistance")} more`} />
        </>
      )}
    </div>
  );
}

function PackOhm() {
  const machine = useWorkbench((state) => state.machine);
  const kit = useLog((state) => state.kit);
  const packs = machine.parts.filter((part) => part.kind === "pack");
  const [packId, setPack] = useState<string | undefined>(undefined);
  const [at, setAt] = useState<Readonly<Record<"v1" | "a1" | "v2" | "a2", Typed>>>({ v1: EMPTY, a1: EMPTY, v2: EMPTY, a2: EMPTY });
  const pack = packs.find(({ id }) => id === (packId ?? packs[0]?.id));
  if (!pack) return <p className="text-sm text-soft">This machine has no pack.</p>;
  const [v1, a1, v2, a2] = [numberIn(at.v1), numberIn(at.a1), numberIn(at.v2), numberIn(at.a2)];
  const whole = v1 !== null && a1 !== null && v2 !== null && a2 !== null;
  const found = whole
    ? sourceOhm(
        { volts: v1, amps: a1 },
        { volts: v2, amps: a2 },
        meterDoubt(kit.volts, "volts", v1),
        meterDoubt(ammeter(kit, a2), "amps", a2),
      )
    : null;
  const command: Command | null = found
    ? {
        type: "updatePart",
        id: pack.id,
        changes: {
          internalOhm: sureFigure(found),
        },
      }
    : null;
  return (
    <div>
      <p className="text-xs text-soft">
        The pack's volts at a small and at a large current, ten seconds each, by one meter at its terminals. The larger the step, the surer.
      </p>
      <div className="mt-1 flex flex-wrap items-start gap-4">
        <Select aria-label="pack" value={pack.id} options={packs.map(({ id, name }) => ({ value: id, label: name }))} onChange={setPack} />
        <NumberField label="volts, small load" dimension="voltage" value={at.v1} onType={(v) => setAt({ ...at, v1: v })} />
        <NumberField label="amps, small load" dimension="current" value={at.a1} onType={(a) => setAt({ ...at, a1: a })} />
        <NumberField label="volts, large load" dimension="voltage" value={at.v2} onType={(v) => setAt({ ...at, v2: v })} />
        <NumberField label="amps, large load" dimension="current" value={at.a2} onType={(a) => setAt({ ...at, a2: a })} />
      </div>
      {whole && !found && (
        <p role="alert" className="mt-1 text-sm text-stop dark:text-fix">
          These do not tell a resistance: the currents are too close for the clamp, or the volts do not fall as the amps rise.
        </p>
      )}
      {found && command && (
        <>
          <p className="mt-1 text-sm">
            <b className="fig text-lg">{say(found.value, "resistance")}</b> ±{say(found.u, "resistance", "up")}
            {pack.internalOhm && `; the plan has ${say(pack.internalOhm.value, "resistance")}, ${pack.internalOhm.provenance}`}.
          </p>
          <Take of={`pack ${pack.id}`} command={command} said={`${pack.name}: ${say(found.value, "resistance")}`} />
        </>
      )}
    </div>
  );
}

function Take({ of, command, said }: { of: string; command: Command; said: string }) {
  const { act } = useDispatch();
  const undo = useWorkbench((state) => state.undo);
  return (
    <TriedPanel of={of} command={command}>
      <button
        type="button"
        className="border border-ink bg-ink px-3 py-1 text-sm font-semibold text-paper"
        onClick={() => {
          if (act(command)) toast(`In the plan: ${said}`, { action: { label: "Undo", onClick: () => undo() } });
        }}
      >
        Take it into the plan
      </button>
    </TriedPanel>
  );
}
