import { datasheet } from "@/core/machine/figure";
import type { Plan } from "./plan";

/** Who talks to whom on the barge, and how the frame is bonded. */
export function talk(plan: Plan, fixed: boolean): void {
  const ttl = { sender: "lvttl33", receiver: "ttl5" } as const;
  // Corrected: 5 V buffers with a resistor in each line, which also keeps the stopped drivers dark, into TTL-level inputs.
  const drive = fixed ? ({ sender: "cmos5", receiver: "cmos5_ttl_in", seriesOhm: datasheet(4700) } as const) : ttl;
  plan.signal({ id: "s-left", from: "controller", to: "drive-left", kind: "pulse", ...drive });
  plan.signal({ id: "s-right", from: "controller", to: "drive-right", kind: "pulse", ...drive });
  // The mistake: a thin ground beside the cutter driver's heavy return.
  plan.signal(
    { id: "s-cutter", from: "controller", to: "drive-cutter", kind: "logic", ...drive },
    fixed ? undefined : { gauge: "26 AWG", m: 2.4 },
  );
  plan.signal({ id: "s-conveyor", from: "controller", to: "drive-conveyor", kind: "logic", ...drive });
  plan.signal({ id: "s-lift", from: "controller", to: "drive-lift", kind: "logic", ...drive });
  for (const side of ["left", "right"] as const)
    plan.signal({ id: `s-rudder-${side}`, from: "controller", to: `rudder-${side}`, kind: "pulse", ...ttl });
  plan.signal({ id: "s-computer", from: "computer", to: "controller", kind: "serial", sender: "mcu33", receiver: "mcu33", bothWays: true });
  plan.signal({ id: "s-radio", from: "radio", to: "controller", kind: "serial", sender: "lvttl33", receiver: "lvttl33" });
  const converter = { fullScaleV: datasheet(5), bits: 10 };
  plan.signal({ id: "s-level", from: "level", to: "controller", kind: "analogue", ...converter, wishCounts: datasheet(2) });
  plan.signal({ id: "s-lift-sense", from: "lift-sense", to: "controller", kind: "analogue", ...converter, wishCounts: datasheet(2) });
  plan.signal({ id: "s-horn", from: "computer", to: "horn", kind: fixed ? "opto" : "audio", ...(fixed ? {} : { shieldLifted: true }) });
  plan.add("bar", "hull", "Hull frame", { side: "negative", form: "chassis", note: "aluminium" });
  plan.bond("bar-n1", "hull", "wire", { gauge: "4 AWG", m: 0.3 });
  // The antenna's shield sits on the frame too.
  if (!fixed) plan.bond("radio.-", "hull", "shield", null);
}
