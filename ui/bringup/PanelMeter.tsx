"use client";
import { useState } from "react";
import { PANEL_STEP, panelOf } from "@/core/bringup/panel";
import { say } from "@/core/quantity/format";
import { freshKey } from "@/state/keys";
import { Button } from "../kit/Button";
import { Explained } from "../words/Explained";
import { useLog, useWorkbenchContext } from "../workbench/context";
import { EMPTY, NumberField, numberIn, type Typed } from "./NumberField";

/** A panel meter against the better one: how far it is off, and how to trim or to read it. */
export function PanelMeter() {
  const { log } = useWorkbenchContext();
  const readings = useLog((state) => state.log.readings);
  const kit = useLog((state) => state.kit);
  const [shown, setShown] = useState<Typed>(EMPTY);
  const [reference, setReference] = useState<Typed>(EMPTY);
  const panel = panelOf(readings);
  const [s, r] = [numberIn(shown), numberIn(reference)];
  const keep = () => {
    if (s === null || r === null) return;
    log.getState().add([
      {
        queueId: freshKey(),
        step: PANEL_STEP,
        stage: null,
        place: "Panel meter, beside the hand meter",
        quantity: "volts",
        value: s,
        instrument: kit.volts,
        uncertainty: null,
        takenAt: new Date().toISOString(),
        note: "",
        way: "typed",
        expected: r,
        basis: null,
        struck: false,
      },
    ]);
    setShown(EMPTY);
    setReference(EMPTY);
  };
  return (
    <section className="mt-6 max-w-[860px] border-t border-hair pt-2" aria-label="Panel meter">
      <h3 className="text-sm font-bold">
        <Explained>Panel meter</Explained>
      </h3>
      <p className="text-xs text-soft">Read it beside your meter near the lowest and near the highest volts it will see.</p>
      <div className="mt-1 flex flex-wrap items-end gap-4">
        <NumberField label="it shows" dimension="voltage" value={shown} onType={setShown} />
        <NumberField label="your meter shows" dimension="voltage" value={reference} onType={setReference} />
        <Button onClick={keep} disabled={s === null || r === null}>
          Keep both
        </Button>
      </div>
      {panel && (
        <p className="mt-2 text-sm">
          Off by <b className="fig">{say(panel.trim.offBy, "voltage", "up")}</b> at most over {panel.points.length} point
          {panel.points.length === 1 ? "" : "s"};{" "}
          {panel.trim.offBy <= panel.allowed
            ? `as good as such meters are (${say(panel.allowed, "voltage", "down")}).`
            : `more than such meters should be (${say(panel.allowed, "voltage", "down")}).`}{" "}
          True volts = {panel.trim.gain.toFixed(4)} × shown {panel.trim.offset < 0 ? "−" : "+"}{" "}
          {say(Math.abs(panel.trim.offset), "voltage")}, which leaves {say(panel.trim.restAfter, "voltage", "up")}.
        </p>
      )}
    </section>
  );
}
