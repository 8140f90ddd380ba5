"use client";
import type { ChangesOf } from "@/core/machine/commands";
import type { Onboard } from "@/core/machine/load-schema";
import { type Driver, LOGIC_FEEDS, type Load } from "@/core/machine/schema";
import { sameTerminal } from "@/core/machine/terminals";
import { parseSize } from "@/core/machine/typed";
import { say } from "@/core/quantity/format";
import { Field } from "../kit/Field";
import { LengthField } from "../kit/LengthField";
import { QuantityInput } from "../kit/QuantityInput";
import { always, SelectField } from "../kit/Select";
import { TextInput } from "../kit/TextInput";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench } from "../workbench/context";
import { LOGIC_NAMES } from "./DriversView";

/** What a regulator on a bipolar bridge board usually is (handbook sources-and-regulators section 5.4, from memory). */
const USUAL: Onboard = {
  outputV: { value: 5, provenance: "typical" },
  inputMinV: { value: 7, provenance: "typical" },
  inputMaxV: { value: 12, provenance: "typical" },
  outputA: { value: 0.2, provenance: "typical" },
  type: "linear",
  kelvinPerWatt: { value: 60, provenance: "typical" },
  jumper: "in",
};

/** How a driver's logic side gets its 5 V: from whom, through what, and what that allows. */
export function LogicPane({ driver }: { driver: Driver }) {
  const { act, dispatch } = useDispatch();
  const update = (changes: ChangesOf<"driver">) => dispatch({ type: "updatePart", id: driver.id, changes });
  return (
    <section aria-label={`${driver.name}, logic side`} className="overflow-y-auto border-r border-hair px-3.5 py-2.5">
      <h2 className="border-b border-ink pb-1 text-sm font-bold">
        <Explained>Logic side</Explained>
      </h2>
      <SelectField
        label="Fed from"
        value={driver.logic}
        options={LOGIC_FEEDS.map((each) => ({ value: each, label: LOGIC_NAMES[each] }))}
        none="not planned"
        onChange={(chosen) => {
          const logic = chosen;
          const onboard = logic === "onboard" ? (driver.onboard ?? USUAL) : driver.onboard;
          act({ type: "updatePart", id: driver.id, changes: { logic, onboard } });
        }}
      />
      {driver.logic === undefined ? (
        <p className="mt-1 text-xs text-soft">
          A driver&apos;s chip needs its own 5 V beside the motor feed. Say where it comes from, and a missing or double feed is found.
        </p>
      ) : (
        <>
          <QuantityInput
            slim
            optional
            label="It draws"
            dimension="current"
            value={driver.logicA?.value}
            onCommit={(value) =>
              update({ logicA: value === undefined ? undefined : { value, provenance: driver.logicA?.provenance ?? "typical" } })
            }
          />
          <LogicWire driver={driver} />
        </>
      )}
      {(driver.logic === "onboard" || driver.onboard) && <OnboardFields part={driver} />}
    </section>
  );
}

/** The wire that brings 5 V to the logic terminal, or where to take it from. */
function LogicWire({ driver }: { driver: Driver }) {
  const { act, dispatch } = useDispatch();
  const machine = useWorkbench((state) => state.machine);
  const terminal = { part: driver.id, terminal: "5v" };
  const wire = machine.wires.find((each) => sameTerminal(each.to, terminal));
  const from = wire ? machine.parts.find(({ id }) => id === wire.from.part)?.name : null;
  const places = machine.parts.flatMap((part) => {
    if (part.kind === "converter" && part.outputV.value <= 6) return [{ name: part.name, at: { part: part.id, terminal: "out+" } }];
    if (part.kind === "supply" && part.outputV.value <= 6) return [{ name: part.name, at: { part: part.id, terminal: "+" } }];
    return part.kind === "load" && part.loadKind === "board"
      ? [{ name: `${part.name}, its 5 V pin`, at: { part: part.id, terminal: "5v" } }]
      : [];
  });
  return (
    <>
      <Field slim label="5 V wire from">
        {(props) => (
          <span className="flex items-baseline gap-2">
            <select
              {...props}
              className="field min-w-0 flex-1"
              value={wire ? `${wire.from.part} ${wire.from.terminal}` : ""}
              onChange={(event) => {
                const place = places.find(({ at }) => `${at.part} ${at.terminal}` === event.target.value);
                if (!place) {
                  if (wire) act({ type: "removeWire", id: wire.id });
                } else if (wire) act({ type: "reland", wireId: wire.id, end: "from", at: place.at });
                else act({ type: "addWire", wire: { role: "supply", from: place.at, to: terminal, parallel: 1, insulation: "pvc80" } });
              }}
            >
              <option value="">no wire</option>
              {wire && !places.some(({ at }) => sameTerminal(at, wire.from)) && (
                <option value={`${wire.from.part} ${wire.from.terminal}`}>{from}</option>
              )}
              {places.map(({ name, at }) => (
                <option key={`${at.part} ${at.terminal}`} value={`${at.part} ${at.terminal}`}>
                  {name}
                </option>
              ))}
            </select>
          </span>
        )}
      </Field>
      {wire && (
        <>
          <LengthField
            label="that wire, one way"
            wire={wire}
            onCommit={(lengthM) => dispatch({ type: "updateWire", id: wire.id, changes: { lengthM } })}
          />
          <Field slim label="its size">
            {() => (
              <TextInput
                label="Size of the 5 V wire"
                empty="Write a size such as 20 AWG or 0.5 mm2."
                value={wire.gauge ?? ""}
                className="fig w-full text-right"
                onCommit={(text) => {
                  const size = parseSize(text);
                  return size.ok ? dispatch({ type: "updateWire", id: wire.id, changes: { gauge: size.value } }) : size;
                }}
              />
            )}
          </Field>
        </>
      )}
    </>
  );
}

/** The regulator on a driver's or controller's board. */
export function OnboardFields({ part }: { part: Driver | Load }) {
  const { dispatch, act } = useDispatch();
  const { onboard } = part;
  if (!onboard) return null;
  const set = (changes: Partial<Onboard>) => ({
    type: "updatePart" as const,
    id: part.id,
    changes: { onboard: { ...onboard, ...changes } },
  });
  const figure = (
    key: "outputV" | "inputMinV" | "inputMaxV" | "outputA" | "kelvinPerWatt",
    label: string,
    dimension: "voltage" | "current" | "ratio",
    optional = false,
  ) => (
    <QuantityInput
      slim
      label={label}
      dimension={dimension}
      optional={optional}
      value={onboard[key]?.value}
      onCommit={(value) =>
        dispatch(set({ [key]: value === undefined ? undefined : { value, provenance: onboard[key]?.provenance ?? "datasheet" } }))
      }
    />
  );
  return (
    <div className="mt-1 border-t border-hair pt-1">
      <h3 className="text-xs font-bold">
        <Explained>Regulator on its board</Explained>
      </h3>
      <SelectField
        label="Type"
        value={onboard.type}
        options={[
          { value: "linear", label: "linear" },
          { value: "buck", label: "switching" },
        ]}
        onChange={always((chosen) => act(set({ type: chosen === "buck" ? "buck" : "linear" })))}
      />
      <SelectField
        label="Jumper"
        value={onboard.jumper}
        options={[
          { value: "in", label: `in: it makes ${say(onboard.outputV.value, "voltage")}, its terminal is an output` },
          { value: "out", label: `out: ${say(onboard.outputV.value, "voltage")} must be fed in` },
          { value: "fixed", label: "none: always on" },
        ]}
        onChange={always((chosen) => act(set({ jumper: chosen === "in" ? "in" : chosen === "out" ? "out" : "fixed" })))}
      />
      {figure("inputMinV", "Regulates from", "voltage")}
      {figure("inputMaxV", "up to", "voltage")}
      {figure("outputA", "Gives others", "current", true)}
      {onboard.type === "linear" && figure("kelvinPerWatt", "Warms, K per watt", "ratio", true)}
    </div>
  );
}
