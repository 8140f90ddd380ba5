"use client";

import type { Settings } from "@/core/machine/schema";
import { usualSizes } from "@/core/reference/gauges";
import { spellOut, useSpeltOut } from "@/state/reader";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";
import { QuantityInput } from "../kit/QuantityInput";
import { always, SelectField, words } from "../kit/Select";
import { TextInput } from "../kit/TextInput";
import { ReturnSchoolFields } from "../returns/ReturnSchools";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench } from "./context";
import { SchoolFields } from "./SchoolFields";

const SCHOOL_NOTES: Readonly<Record<Settings["schools"]["fuseLoadFactor"], string>> = {
  "75 %": "A fuse carries at most 75 % of its rating continuously: the usual advice for blade and strip fuses.",
  "80 %": "A fuse may carry 80 % continuously: a wider habit. It runs warmer and ages sooner.",
};

/** Thin sizes that somebody may allow, in both systems. */
const LEAST = words([...usualSizes("awg"), ...usualSizes("metric")].filter(({ areaMm2 }) => areaMm2 < 2.2).map(({ id }) => id));

/** What holds for the whole machine: surroundings, limits and schools. Each changes results, not wording. */
export function SettingsDialog({ onClose }: { onClose: () => void }) {
  const machine = useWorkbench((state) => state.machine);
  const { settings } = machine;
  const spelt = useSpeltOut();
  const { dispatch } = useDispatch();
  const set = (changes: Partial<Settings>) => dispatch({ type: "setSettings", changes });
  const percent = (key: "dropPowerPercent" | "dropBriefPercent" | "dropLogicPercent", label: string, hint: string) => (
    <QuantityInput
      label={label}
      dimension="percent"
      min={0.1}
      max={50}
      hint={hint}
      value={settings[key]}
      onCommit={(value) => (value === undefined ? { ok: true } : set({ [key]: value }))}
    />
  );
  return (
    <Dialog open onOpenChange={onClose} title="Settings of this machine" wide>
      <div className="grid gap-x-10 md:grid-cols-2">
        <section>
          <Field label="Name">
            {() => <TextInput label="Name of the machine" value={machine.name} onCommit={(name) => dispatch({ type: "rename", name })} />}
          </Field>
          <label className="flex items-baseline gap-2 py-1 text-sm">
            <input type="checkbox" checked={spelt} onChange={(event) => spellOut(event.target.checked)} />
            <span>
              Spell verdicts out{" "}
              <span className="text-xs text-soft">plain words first, the trade’s wording second; for all machines, in this browser</span>
            </span>
          </label>
          <h3 className="mt-3 text-sm font-bold">
            <Explained>Surroundings</Explained>
          </h3>
          <QuantityInput
            label="Air around the wires"
            dimension="temperature"
            value={settings.ambientC}
            hint="At the wires and fuses, on the hottest day."
            onCommit={(value) => (value === undefined ? { ok: true } : set({ ambientC: value }))}
          />
          <QuantityInput
            label="Loaded wires together"
            dimension="count"
            min={1}
            max={100}
            value={settings.bundle}
            hint="Where a wire says nothing else."
            onCommit={(value) =>
              value === undefined
                ? { ok: true }
                : Number.isInteger(value)
                  ? set({ bundle: value })
                  : { ok: false, message: "A whole number of wires." }
            }
          />
          <QuantityInput
            label="Conductor at"
            dimension="temperature"
            max={200}
            value={settings.conductorC}
            hint="Resistance is taken at this temperature; cold wire would flatter the drop."
            onCommit={(value) => (value === undefined ? { ok: true } : set({ conductorC: value }))}
          />
          <QuantityInput
            label="One wire end"
            dimension="resistance"
            min={1e-5}
            max={0.1}
            value={settings.jointOhm}
            hint="A good crimped lug: 0.1 to 0.3 mΩ, typical."
            onCommit={(value) => (value === undefined ? { ok: true } : set({ jointOhm: value }))}
          />
          <QuantityInput
            label="Box warmer by, K"
            dimension="count"
            min={0}
            max={100}
            optional
            value={settings.boxRiseK}
            placeholder="no closed box"
            hint="Inside the closed box, over the air outside: its watts over 5.5 W a m² and kelvin of metal, 3.5 of plastic."
            onCommit={(value) => set({ boxRiseK: value })}
          />
          <QuantityInput
            label="A short that is not bolted"
            dimension="resistance"
            min={1e-4}
            max={10}
            optional
            value={settings.faultOhm}
            placeholder="50 mΩ"
            hint="Common practice, no source. Every node is shorted with it too."
            onCommit={(value) => set({ faultOhm: value })}
          />
          <SelectField
            label="Thinnest wire you crimp"
            hint="Sizing proposes no thinner: 24 AWG for leads of small motors, 22 for power to boards, 20 for what moves, 16 on a boat outside its box (common practice; boat: ABYC E-11, from memory)."
            none="usual for its use"
            value={settings.leastGauge}
            options={LEAST}
            onChange={(leastGauge) => set({ leastGauge })}
          />
          <QuantityInput
            label="Coldest day"
            dimension="temperature"
            max={60}
            optional
            value={settings.coldestC}
            hint="Packs are judged once more at this, and aged."
            onCommit={(value) => set({ coldestC: value })}
          />
          <QuantityInput
            label="Run wanted"
            dimension="time"
            min={1}
            optional
            value={settings.wantedRunS}
            hint="On one charge, such as 2 h."
            onCommit={(value) => set({ wantedRunS: value })}
          />
        </section>
        <section>
          <h3 className="text-sm font-bold">
            <Explained>Drop limits, of the rail's volts</Explained>
          </h3>
          {percent(
            "dropPowerPercent",
            "Motors and power, wished",
            "Beyond it a motor is a little slower: Watch. Common practice 2 to 5 %.",
          )}
          {percent(
            "dropBriefPercent",
            "Motors and power, at most",
            "Beyond it: Fix. Also the limit in modes of minutes; starts are judged by what they do to boards. 10 %, common practice.",
          )}
          {percent("dropLogicPercent", "Boards and sensors", "Common practice 2 to 3 %.")}
          <h3 className="mt-3 text-sm font-bold">
            <Explained>Schools</Explained>
          </h3>
          <SelectField
            label="Fuse load factor"
            hint={SCHOOL_NOTES[settings.schools.fuseLoadFactor]}
            wide
            value={settings.schools.fuseLoadFactor}
            options={words(["75 %", "80 %"] as const)}
            onChange={always((chosen) => set({ schools: { ...settings.schools, fuseLoadFactor: chosen } }))}
          />
          <SchoolFields settings={settings} onSchools={(schools) => set({ schools: { ...settings.schools, ...schools } })} />
          <ReturnSchoolFields schools={settings.schools} onSchools={(schools) => set({ schools: { ...settings.schools, ...schools } })} />
        </section>
      </div>
    </Dialog>
  );
}
