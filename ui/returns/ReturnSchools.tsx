"use client";
import { CHASSIS_SCHOOLS, LOGIC_SUPPLY_SCHOOLS, RETURN_SCHOOLS, type Settings } from "@/core/machine/schema";
import { DEFAULT_LINK_BUDGET } from "@/core/returns/budget";
import { QuantityInput } from "../kit/QuantityInput";
import { SelectField, words } from "../kit/Select";
import { useDispatch, useWorkbench } from "../workbench/context";

type Schools = Settings["schools"];

const RETURNS: Readonly<Record<(typeof RETURN_SCHOOLS)[number], string>> = {
  "linked bars": "Land on any of several linked bars: links as heavy as the trunk, and no link's signals out of budget.",
  "joined at one point": "Power and logic come home apart and meet once, by a heavy labelled wire; nothing joins them again.",
};
const LOGIC: Readonly<Record<(typeof LOGIC_SUPPLY_SCHOOLS)[number], string>> = {
  "main pack": "One pack to charge; a regulator must ride through every sag of the motors.",
  "own pack": "Motors cannot sag it; a second pack to watch, tied to the motors' minus at exactly one point.",
};
const CHASSIS: Readonly<Record<(typeof CHASSIS_SCHOOLS)[number], string>> = {
  floating: "The first fault makes no current, so it must be looked for with a meter; static needs a bleed.",
  "bonded once": "One bond at the main minus bar; the first plus that touches the frame must blow its fuse.",
};

interface Choice<V extends string> {
  label: string;
  value: V | undefined;
  options: readonly V[];
  demands: Readonly<Record<V, string>>;
  onChange: (value: V | undefined) => void;
}

function School<V extends string>({ label, value, options, demands, onChange }: Choice<V>) {
  return (
    <SelectField
      label={label}
      hint={value ? demands[value] : "No school chosen: nothing is asked beyond the other rules."}
      wide
      value={value}
      options={words(options)}
      none="no school chosen"
      onChange={(chosen) => onChange(chosen)}
    />
  );
}

/** Schools of returns, logic supply and chassis: each changes results, the sentence says what it demands. */
export function ReturnSchoolFields({ schools, onSchools }: { schools: Schools; onSchools: (schools: Partial<Schools>) => void }) {
  return (
    <>
      <School
        label="Returns"
        value={schools.returns}
        options={RETURN_SCHOOLS}
        demands={RETURNS}
        onChange={(returns) => onSchools({ returns })}
      />
      <School
        label="Logic supply"
        value={schools.logicSupply}
        options={LOGIC_SUPPLY_SCHOOLS}
        demands={LOGIC}
        onChange={(logicSupply) => onSchools({ logicSupply })}
      />
      <School
        label="Chassis"
        value={schools.chassis}
        options={CHASSIS_SCHOOLS}
        demands={CHASSIS}
        onChange={(chassis) => onSchools({ chassis })}
      />
    </>
  );
}

/** The schools of the return side beside what a link may lose. */
export function ReturnSchools() {
  const settings = useWorkbench((state) => state.machine.settings);
  const { act, dispatch } = useDispatch();
  const { schools } = settings;
  const links = settings.links ?? DEFAULT_LINK_BUDGET;
  const set = (changes: Partial<Schools>) => act({ type: "setSettings", changes: { schools: { ...schools, ...changes } } });
  const setLinks = (changes: Partial<typeof links>) => dispatch({ type: "setSettings", changes: { links: { ...links, ...changes } } });
  return (
    <section aria-label="Schools of returns" className="grid grid-cols-2 gap-x-8">
      <div>
        <ReturnSchoolFields schools={schools} onSchools={set} />
      </div>
      <div>
        <QuantityInput
          label="Steady offset may use"
          dimension="percent"
          value={links.staticShare * 100}
          min={5}
          max={100}
          hint="of a link's noise margin (common practice, no source)"
          onCommit={(value) => setLinks({ staticShare: (value ?? 50) / 100 })}
        />
        <QuantityInput
          label="With spikes, at most"
          dimension="percent"
          value={links.peakShare * 100}
          min={5}
          max={100}
          hint="of the margin; the rest is for ringing and tolerance (common practice)"
          onCommit={(value) => setLinks({ peakShare: (value ?? 80) / 100 })}
        />
        <QuantityInput
          label="An input bears"
          dimension="voltage"
          value={links.capV}
          min={0.05}
          max={5}
          hint="below its own ground without a series resistor (from memory: see its sheet)"
          onCommit={(value) => setLinks({ capV: value ?? DEFAULT_LINK_BUDGET.capV })}
        />
      </div>
    </section>
  );
}
