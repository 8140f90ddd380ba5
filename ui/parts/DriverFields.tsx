"use client";
import { thermalLimit } from "@/core/drivers/bridge";
import { bridgeOf } from "@/core/drivers/channel";
import type { DriverLayer } from "@/core/machine/load-schema";
import { BRIDGES, type Driver } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { Field } from "../kit/Field";
import { QuantityInput } from "../kit/QuantityInput";
import { useDispatch } from "../workbench/context";

/** Chip to air of a bare bipolar bridge, and the rise from 25 to 130 °C (handbook check value CV-21, from memory). */
const PACKAGE_K_PER_W = 35;
const RISE_K = 105;

const BRIDGE_NAMES = { mosfet: "MOSFET", bipolar: "bipolar", "low side": "one low-side switch", relay: "relay contacts" } as const;

/** A driver's bridge, its diodes, and the layers under its own board. */
export function DriverFields({ driver }: { driver: Driver }) {
  const { act, dispatch } = useDispatch();
  const change = (changes: Record<string, unknown>) => ({ type: "updatePart" as const, id: driver.id, changes });
  const layers = driver.layers ?? [];
  const setLayer = (i: number, next: DriverLayer | null) =>
    change({ layers: next ? layers.map((each, k) => (k === i ? next : each)) : layers.filter((_, k) => k !== i) });
  // Layers have no ids of their own: their place is what tells them apart.
  const keyed = layers.map((layer, i) => ({ layer, key: `${i}` }));
  return (
    <>
      <Field slim label="Bridge">
        {(props) => (
          <select
            {...props}
            className="field w-full"
            value={driver.bridge ?? "mosfet"}
            onChange={(event) => act(change({ bridge: event.target.value }))}
          >
            {BRIDGES.map((each) => (
              <option key={each} value={each}>
                {BRIDGE_NAMES[each]}
              </option>
            ))}
          </select>
        )}
      </Field>
      {driver.bridge === "bipolar" && driver.bridgeOhm && (
        <p className="text-xs text-soft">
          A bare package ({PACKAGE_K_PER_W} K a watt, from memory) carries about{" "}
          {say(thermalLimit(bridgeOf(driver), RISE_K, PACKAGE_K_PER_W, 1), "current", "down")} on one channel
          {driver.channels > 1 &&
            `, ${say(thermalLimit(bridgeOf(driver), RISE_K, PACKAGE_K_PER_W, driver.channels), "current", "down")} on each of ${driver.channels}`}
          .
        </p>
      )}
      <Field slim label="Freewheel diodes">
        {(props) => (
          <select
            {...props}
            className="field w-full"
            value={driver.freewheel ?? ""}
            onChange={(event) => act(change({ freewheel: event.target.value === "" ? undefined : event.target.value }))}
          >
            <option value="">{(driver.bridge ?? "mosfet") === "mosfet" ? "inside, as in any MOSFET" : "not known"}</option>
            <option value="inside">inside</option>
            <option value="fitted">fitted outside</option>
            <option value="missing">missing</option>
          </select>
        )}
      </Field>
      <Field slim label="Current sense">
        {(props) => (
          <select
            {...props}
            className="field w-full"
            value={driver.currentSense === undefined ? "" : String(driver.currentSense)}
            onChange={(event) => act(change({ currentSense: event.target.value === "" ? undefined : event.target.value === "true" }))}
          >
            <option value="">not known</option>
            <option value="true">yes: a stall can be noticed</option>
            <option value="false">no</option>
          </select>
        )}
      </Field>
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
              label={{ continuousA: "Carries for good", peakA: "Peak", maxV: "Bears" }[of]}
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
