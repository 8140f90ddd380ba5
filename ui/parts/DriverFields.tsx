"use client";
import { thermalLimit } from "@/core/drivers/bridge";
import { bridgeChanges } from "@/core/drivers/bridge-typical";
import { bridgeOf } from "@/core/drivers/channel";
import type { ChangesOf } from "@/core/machine/commands";
import type { DriverLayer } from "@/core/machine/load-schema";
import { BRIDGES, type Driver } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { QuantityInput } from "../kit/QuantityInput";
import { SelectField } from "../kit/Select";
import { useDispatch } from "../workbench/context";

/** Chip to air of a bare bipolar bridge, and the rise from 25 to 130 °C (handbook check value CV-21, from memory). */
const PACKAGE_K_PER_W = 35;
const RISE_K = 105;

const BRIDGE_NAMES = { mosfet: "MOSFET", bipolar: "bipolar", "low side": "one low-side switch", relay: "relay contacts" } as const;

const FREEWHEELS = [
  { value: "inside", label: "inside" },
  { value: "fitted", label: "fitted outside" },
  { value: "missing", label: "missing" },
] as const;
const SENSES = [
  { value: "yes", label: "yes: a stall can be noticed" },
  { value: "no", label: "no" },
] as const;

const COOLED = [
  { value: "heatsink", label: "its heatsink" },
  { value: "air", label: "moving air" },
] as const;

/** A driver's bridge, its diodes, and the layers under its own board. */
export function DriverFields({ driver }: { driver: Driver }) {
  const { act, dispatch } = useDispatch();
  const change = (changes: ChangesOf<"driver">) => ({ type: "updatePart" as const, id: driver.id, changes });
  const layers = driver.layers ?? [];
  const setLayer = (i: number, next: DriverLayer | null) =>
    change({ layers: next ? layers.map((each, k) => (k === i ? next : each)) : layers.filter((_, k) => k !== i) });
  // Layers have no ids of their own: their place is what tells them apart.
  const keyed = layers.map((layer, i) => ({ layer, key: `${i}` }));
  return (
    <>
      <SelectField
        label="Bridge"
        value={driver.bridge ?? "mosfet"}
        options={BRIDGES.map((value) => ({ value, label: BRIDGE_NAMES[value] }))}
        onChange={(bridge) => act(change(bridgeChanges(driver, bridge)))}
      />
      {driver.bridge === "bipolar" && driver.bridgeOhm && (
        <p className="text-xs text-soft">
          A bare package ({PACKAGE_K_PER_W} K a watt, from memory) carries about{" "}
          {say(thermalLimit(bridgeOf(driver), RISE_K, PACKAGE_K_PER_W, 1), "current", "down")} on one channel
          {driver.channels > 1 &&
            `, ${say(thermalLimit(bridgeOf(driver), RISE_K, PACKAGE_K_PER_W, driver.channels), "current", "down")} on each of ${driver.channels}`}
          .
        </p>
      )}
      <SelectField
        label="Cooling"
        none="none, bare board"
        value={driver.cooling === "none" ? undefined : driver.cooling}
        options={COOLED}
        onChange={(cooling) => act(change({ cooling }))}
      />
      <SelectField
        label="Emergency stop on"
        none="nothing in it"
        value={driver.stopInput}
        options={[
          { value: "enable" as const, label: "its enable or reset line" },
          { value: "certified" as const, label: "a certified torque-off input" },
        ]}
        onChange={(stopInput) => act(change({ stopInput }))}
      />
      <SelectField
        label="Freewheel diodes"
        none={(driver.bridge ?? "mosfet") === "mosfet" ? "inside, as in any MOSFET" : "not known"}
        value={driver.freewheel}
        options={FREEWHEELS}
        onChange={(freewheel) => act(change({ freewheel }))}
      />
      <SelectField
        label="Current sense"
        none="not known"
        value={driver.currentSense === undefined ? undefined : driver.currentSense ? "yes" : "no"}
        options={SENSES}
        onChange={(sense) => act(change({ currentSense: sense === undefined ? undefined : sense === "yes" }))}
      />
      <SelectField
        label="Signal inputs"
        none="share its ground"
        value={driver.isolatedInputs ? "isolated" : undefined}
        options={[{ value: "isolated" as const, label: "isolated (optocouplers)" }]}
        onChange={(inputs) => act(change({ isolatedInputs: inputs === undefined ? undefined : true }))}
      />
      {keyed.map(({ layer, key }, i) => (
        <fieldset key={key} className="mt-1 border-t border-hair">
          <legend className="pr-2 text-xs font-bold">
            {layer.layer === "chip" ? "Its chip" : "The controller board it is stacked on"}{" "}
            <button type="button" className="link font-normal" onClick={() => act(setLayer(i, null))}>
              remove
            </button>
          </legend>
          {(["continuousA", "peakA", "maxV"] as const).map((of) => (
            <QuantityInput
              key={of}
              slim
              optional
              label={{ continuousA: "Carries continuously", peakA: "Peak", maxV: "Bears" }[of]}
              dimension={of === "maxV" ? "voltage" : "current"}
              value={layer[of]?.value}
              onCommit={(value) => {
                const { [of]: before, ...rest } = layer;
                return dispatch(
                  setLayer(i, value === undefined ? rest : { ...rest, [of]: { value, provenance: before?.provenance ?? "datasheet" } }),
                );
              }}
            />
          ))}
        </fieldset>
      ))}
      {layers.length < 4 && (
        <p className="mt-1 flex flex-wrap gap-x-4 text-xs">
          <button type="button" className="link" onClick={() => act(change({ layers: [...layers, { layer: "chip" }] }))}>
            Add its chip&apos;s limits
          </button>
          <button type="button" className="link" onClick={() => act(change({ layers: [...layers, { layer: "controller board" }] }))}>
            It is stacked on a controller
          </button>
        </p>
      )}
    </>
  );
}
