"use client";
import { crossoverDuty, phaseRms, stalledBusCurrent } from "@/core/loads/brushless";
import { atTorque, inrushAt, startLetThrough, twoPointModel } from "@/core/loads/motor";
import { rmsOfPeak, supplyGuideV } from "@/core/loads/stepper";
import type { ChangesOf } from "@/core/machine/commands";
import type { Figure } from "@/core/machine/figure";
import type { Load } from "@/core/machine/schema";
import { isBoard } from "@/core/machine/terminals";
import { say } from "@/core/quantity/format";
import type { Dimension } from "@/core/quantity/units";
import { QuantityInput } from "../kit/QuantityInput";
import { always, named, SelectField } from "../kit/Select";
import { OnboardFields } from "../loads/LogicPane";
import { useDispatch } from "../workbench/context";

type Groups = { [G in "motor" | "stepper" | "brushless"]: NonNullable<Load[G]> };
type Group = keyof Groups;
type FigureKey<G extends Group> = { [K in keyof Groups[G]]-?: Figure extends Groups[G][K] ? K : never }[keyof Groups[G]] & string;

/** What each group is when nothing is told yet. */
const EMPTY: Groups = { motor: {}, stepper: { scale: "peak" }, brushless: { drive: "six-step" } };

/** What only this kind of load has. */
export function LoadPhysics({ load }: { load: Load }) {
  const { dispatch, act } = useDispatch();
  const change = (changes: ChangesOf<"load">) => ({ type: "updatePart" as const, id: load.id, changes });
  /** A figure of the load's own kind; what the group needs besides is filled in with the first. */
  const figure = <G extends Group>(group: G, key: FigureKey<G>, label: string, dimension: Dimension, hint?: string) => {
    const known: Partial<Groups[G]> = load[group] ?? {};
    const now = known[key] as Figure | undefined;
    return (
      <QuantityInput
        slim
        optional
        label={label}
        dimension={dimension}
        value={now?.value}
        {...(hint ? { hint } : {})}
        onCommit={(value) => {
          const { [key]: _before, ...rest } = { ...EMPTY[group], ...known };
          const told = value === undefined ? {} : { [key]: { value, provenance: now?.provenance ?? "datasheet" } };
          return dispatch(change({ [group]: { ...rest, ...told } }));
        }}
      />
    );
  };
  switch (load.loadKind) {
    case "motor":
      return (
        <>
          {figure("motor", "noLoadRpm", "Turns, free", "speed")}
          {figure("motor", "stallTorqueNm", "Torque, held still", "torque")}
          {figure(
            "motor",
            "windingS",
            "Winding heats in",
            "time",
            "Time constant of the winding: small can motors 5 to 20 s, 100 W class 20 to 60 s, large ones more.",
          )}
          {figure("motor", "startS", "Start dies away in", "time", "Time constant of its start current: J · R / k².")}
          <TwoPoints load={load} />
        </>
      );
    case "stepper": {
      const { stepper } = load;
      return (
        <>
          {figure("stepper", "ratedA", "Rated, one phase", "current", "R.m.s.")}
          {figure("stepper", "setA", "Driver set to", "current")}
          <SelectField
            label="On a scale of"
            value={stepper?.scale ?? "peak"}
            options={named({ peak: "peak amps", rms: "r.m.s. amps" })}
            onChange={always((scale) => act(change({ stepper: { ...stepper, scale } })))}
          />
          {figure("stepper", "phaseOhm", "One phase", "resistance")}
          {figure("stepper", "phaseMh", "One phase", "inductance")}
          {stepper?.phaseMh && (
            <p className="text-xs text-soft">
              Supply guide: up to {say(supplyGuideV(stepper.phaseMh.value), "voltage", "down")} (32 · √mH, common practice), and at most
              80-90 % of what the driver bears.
            </p>
          )}
          {stepper?.setA && stepper.scale === "peak" && (
            <p className="text-xs text-soft">
              {say(stepper.setA.value, "current")} peak is {say(rmsOfPeak(stepper.setA.value), "current")} r.m.s.
            </p>
          )}
        </>
      );
    }
    case "brushless": {
      const { brushless } = load;
      const [bus, phase] = [brushless?.busLimitA?.value, brushless?.phaseLimitA?.value];
      return (
        <>
          <SelectField
            label="Drive"
            value={brushless?.drive ?? "six-step"}
            options={named({ "six-step": "six-step", sine: "sine, field-oriented" })}
            onChange={always((drive) => act(change({ brushless: { ...brushless, drive } })))}
          />
          {figure("brushless", "busLimitA", "Bus limit", "current", "For supply, feed and fuse.")}
          {figure("brushless", "phaseLimitA", "Phase limit", "current", "For the three phase wires and their plug.")}
          {figure("brushless", "phaseOhm", "One phase", "resistance")}
          {phase !== undefined && (
            <p className="text-xs text-soft">
              Phase wires carry {say(phaseRms(phase, brushless?.drive ?? "six-step"), "current", "up")} r.m.s., and at stall one of them may
              carry all of it.
              {brushless?.phaseOhm &&
                ` Held still at that limit, the bus gives only ${say(stalledBusCurrent(phase, brushless.phaseOhm.value, load.nominalV.value), "current", "up")}: all of it heat.`}
              {bus !== undefined &&
                ` Below a duty of ${Math.round(crossoverDuty(bus, phase) * 100)} % the phase limit rules and the bus carries less.`}
            </p>
          )}
        </>
      );
    }
    case "actuator":
      return (
        <SelectField
          label="At its ends"
          value={load.endSwitches === undefined ? undefined : load.endSwitches ? "stops" : "stalls"}
          options={named({ stops: "switches stop it", stalls: "it stalls" })}
          none="not known"
          onChange={(ends) => act(change({ endSwitches: ends === undefined ? undefined : ends === "stops" }))}
        />
      );
    case "sensor":
      return (
        <SelectField
          label="It feels"
          value={load.senses}
          options={named({
            analogue: "a voltage, read as counts",
            inertial: "turns and tilts",
            magnetic: "a magnetic field",
            other: "something else",
          })}
          none="not said"
          onChange={(senses) => act(change({ senses }))}
        />
      );
    default:
      return isBoard(load) ? <BoardFields load={load} /> : null;
  }
}

/** The motor by its two points: resistance, constants, most power and best efficiency. */
function TwoPoints({ load }: { load: Load }) {
  const { idle, stall, run } = load.levels ?? {};
  const { noLoadRpm, stallTorqueNm, startS } = load.motor ?? {};
  if (!stall) return null;
  const inrush = startS
    ? ` Its start falls to ${say(inrushAt(stall.value, startS.value, startS.value, run?.value), "current")} within ${say(startS.value, "time")} and lets ${startLetThrough(stall.value, startS.value).toPrecision(3)} A²s through: a fuse must bear that.`
    : "";
  if (!idle || !noLoadRpm || !stallTorqueNm)
    return <p className="text-xs text-soft">{`Winding about ${say(load.nominalV.value / stall.value, "resistance")}.${inrush}`}</p>;
  const points = {
    volts: load.nominalV.value,
    noLoadA: idle.value,
    noLoadRpm: noLoadRpm.value,
    stallA: stall.value,
    stallTorque: stallTorqueNm.value,
  };
  const model = twoPointModel(points);
  const odd = model.agreement > 1.05 || model.agreement < 0.3;
  const torque = run ? ((run.value - idle.value) / (stall.value - idle.value)) * stallTorqueNm.value : null;
  return (
    <p className={`text-xs ${odd ? "font-semibold text-fix" : "text-soft"}`}>
      {odd
        ? "These four figures contradict each other: torque and speed do not belong to one motor and gear. Check the sheet."
        : `Winding ${say(model.ohm, "resistance")}, most power ${say(model.maxPowerW, "power")}, best efficiency at ${say(model.bestA, "current")}${
            torque !== null
              ? `; at its rated current it turns ${say(atTorque(points, torque).rpm, "speed")} with ${say(torque, "torque")}`
              : ""
          }.`}
      {inrush}
    </p>
  );
}

/** What a controller board gives to others, and the regulator it may carry. */
function BoardFields({ load }: { load: Load }) {
  const { dispatch, act } = useDispatch();
  return (
    <>
      <QuantityInput
        slim
        optional
        label="One pin gives"
        dimension="current"
        value={load.pinA?.value}
        onCommit={(value) =>
          dispatch({
            type: "updatePart",
            id: load.id,
            changes: { pinA: value === undefined ? undefined : { value, provenance: load.pinA?.provenance ?? "datasheet" } },
          })
        }
      />
      {load.onboard ? (
        <>
          <OnboardFields part={load} />
          <button
            type="button"
            className="link text-xs"
            onClick={() => act({ type: "updatePart", id: load.id, changes: { onboard: undefined } })}
          >
            It has no regulator
          </button>
        </>
      ) : (
        <button
          type="button"
          className="link text-xs"
          onClick={() =>
            act({
              type: "updatePart",
              id: load.id,
              changes: {
                onboard: {
                  outputV: { value: 5, provenance: "typical" },
                  inputMinV: { value: 7, provenance: "typical" },
                  inputMaxV: { value: 12, provenance: "typical" },
                  outputA: { value: 0.12, provenance: "typical" },
                  type: "linear",
                  kelvinPerWatt: { value: 90, provenance: "typical" },
                  jumper: "fixed",
                },
              },
            })
          }
        >
          It is fed raw and makes its own 5 V
        </button>
      )}
    </>
  );
}
