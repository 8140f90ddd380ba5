import { datasheet, measured, typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { blade, cells, knowing, Plan } from "./plan";

/** A starter on four AA cells, invented: two small gearmotors on a small bridge, and a microcontroller. */
export function marbleLift(fixed: boolean): Machine {
  const plan = new Plan(
    fixed ? "Marble lift, corrected" : "Marble lift",
    fixed
      ? "The marble lift after its verdicts were settled."
      : "Two small gearmotors and a microcontroller on four AA cells. A first machine.",
    [
      ["wait", "Waiting", null],
      ["run", "Running", null],
      ["start", "Both start", 0.2],
    ],
    { ambientC: 25 },
  );
  // Four alkaline AA cells: 0.2 Ω each fresh, typical; fixed: NiMH at 30 mΩ a cell.
  plan.add("pack", "cells", "Four AA cells", {
    note: fixed ? "NiMH" : "alkaline",
    openCircuitV: typical(fixed ? 5.2 : 5.8),
    fullV: datasheet(fixed ? 5.6 : 6.4),
    lowV: typical(fixed ? 4.96 : 4.98),
    internalOhm: typical(fixed ? 0.14 : 0.85),
    capacityAh: datasheet(fixed ? 2 : 2.2),
    continuousA: typical(fixed ? 2 : 0.5),
    peakA: typical(fixed ? 4 : 1.6),
    chemistry: fixed ? "nimh_aa" : "alkaline_aa",
    series: 4,
    parallel: 1,
    plannedCharge: typical(fixed ? 0.7 : 0.83),
    lowCharge: typical(fixed ? 0.2 : 0.25),
  });
  plan.add(
    "switch",
    "switch",
    "Slide switch",
    { contactOhm: typical(0.02), ratedA: datasheet(3) },
    { from: "cells.+", gauge: fixed ? "22 AWG" : "24 AWG", m: 0.12, ...(fixed ? { fuse: blade(2) } : {}) },
  );
  plan.add("bar", "plus", "Plus strip", {}, { from: "switch.out", gauge: fixed ? "22 AWG" : "24 AWG", m: 0.1 });
  plan.add("bar", "minus", "Minus strip", { side: "negative" }, { back: "cells.-", gauge: fixed ? "22 AWG" : "24 AWG", m: 0.15 });
  plan.add(
    "driver",
    "bridge",
    fixed ? "Small MOSFET bridge" : "Small bridge",
    fixed
      ? {
          channels: 2,
          bridge: "mosfet",
          bridgeOhm: typical(0.36),
          ownA: typical(0.01),
          headlineA: datasheet(1.5),
          continuousA: typical(1),
          peakA: datasheet(2),
          inputMinV: datasheet(2.7),
          inputMaxV: datasheet(10.8),
          logic: "own input",
          logicV: datasheet(5),
          logicA: typical(0.01),
        }
      : {
          channels: 2,
          bridge: "bipolar",
          bridgeV: typical(1.4),
          bridgeOhm: typical(1.15),
          ownA: typical(0.02),
          headlineA: datasheet(2),
          continuousA: typical(0.7),
          heatsinkA: typical(1.2),
          peakA: datasheet(3),
          freewheel: "fitted",
          inputMinV: datasheet(5),
          inputMaxV: datasheet(46),
          logic: "onboard",
          logicV: datasheet(5),
          logicA: typical(0.015),
          onboard: {
            outputV: datasheet(5),
            inputMinV: datasheet(7),
            inputMaxV: datasheet(12),
            outputA: typical(0.2),
            type: "linear",
            kelvinPerWatt: typical(60),
            jumper: "in",
          },
        },
    { from: "plus", back: "minus", gauge: fixed ? "22 AWG" : "24 AWG", m: 0.15 },
  );
  if (fixed) plan.lay("supply", "plus", "bridge.5v", "22 AWG", 0.1);
  const six = { nominalV: datasheet(6) };
  const gearmotor = { loadKind: "motor" as const, ...six };
  plan.add(
    "load",
    "screw",
    "Lift screw",
    {
      ...gearmotor,
      note: "plastic-case gearmotor",
      levels: {
        run: fixed ? measured(0.25) : typical(0.3),
        ...knowing("terminalOhm", { readings: [5.9, 6.3, 6.1, 5.8, 6.4], leadOhm: 0.1 }, six),
      },
      cells: cells({ wait: "off", run: "run", start: "start" }),
    },
    { from: "bridge.1a", back: "bridge.1b", gauge: "24 AWG", m: 0.3 },
  );
  plan.add(
    "load",
    "gate",
    "Gate",
    {
      ...gearmotor,
      note: "plastic-case gearmotor",
      levels: { ...knowing("motorClass", { class: "plastic_gm" }, six), run: measured(0.15), ...(fixed ? { stall: measured(0.5) } : {}) },
      cells: cells({ wait: "off", run: "run", start: "start" }),
    },
    { from: "bridge.2a", back: "bridge.2b", gauge: "24 AWG", m: 0.25 },
  );
  plan.add(
    "load",
    "micro",
    "Microcontroller",
    {
      loadKind: "board",
      nominalV: measured(5),
      inputMinV: datasheet(fixed ? 3.6 : 4.5),
      inputMaxV: datasheet(fixed ? 6 : 5.5),
      cells: cells({ wait: "0.03m", run: "0.05m", start: "0.05m" }),
    },
    { from: "plus", back: "minus", gauge: fixed ? "22 AWG" : "28 AWG", m: 0.2 },
  );
  plan.signal({ id: "s-bridge", from: "micro", to: "bridge", kind: "logic", sender: "cmos5", receiver: "cmos5_ttl_in" });
  return plan.machine;
}
