import type { Build } from "../../figures/build";
import type { Signal } from "../../machine/schema";
import { say } from "../../quantity/format";
import { LOGIC_FAMILIES, type LogicFamily } from "../../reference/logic";
import { CLAMP_A, isolates } from "../../returns/budget";
import { linkName } from "../../returns/link-words";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "link-volts",
  title: "A signal higher than its input bears",
  step: "returns",
  needs: "A level shifter between the two, or boards for the same volts.",
});

/**
 * Every pin is judged by the volts that reach it: a sender on a higher supply pushes current into its receiver's input, which
 * bears its own supply and a diode's drop, or a milliamp through a resistor.
 */
export const linkVolts = rule({ speak, reads: "build", evaluate });

/** An input bears this above its own supply before its protection conducts, V (usual absolute maximum, from memory). */
const ABOVE_SUPPLY_V = 0.5;
/** Drop of the diode that conducts then, V. */
const DIODE_V = 0.6;

function evaluate(build: Build): Verdict[] {
  return (build.machine.signals ?? []).flatMap((signal): Verdict[] => {
    const to = build.partOf.get(signal.to);
    if (!signal.sender || !signal.receiver || isolates(signal, to)) return [];
    const [sender, receiver] = [LOGIC_FAMILIES[signal.sender], LOGIC_FAMILIES[signal.receiver]];
    return [...judge(build, signal, sender, receiver), ...(signal.bothWays ? judge(build, signal, receiver, sender) : [])].slice(0, 1);
  });
}

function judge(build: Build, signal: Signal, sender: LogicFamily, receiver: LogicFamily): Verdict[] {
  if (!sender.out || !receiver.input || !receiver.clamps) return [];
  const over = sender.supplyV - receiver.supplyV;
  if (over <= ABOVE_SUPPLY_V) return [];
  const series = signal.seriesOhm?.value ?? 0;
  const amps = series > 0 ? Math.max(0, over - DIODE_V) / series : Number.POSITIVE_INFINITY;
  if (amps <= CLAMP_A) return [];
  const ohm = Math.ceil((over - DIODE_V) / CLAMP_A / 100) * 100;
  const part = build.partOf.get(signal.to);
  return [
    speak({
      part: { id: signal.to },
      about: signal.id,
      severity: "stop",
      also: [signal.from],
      headline: `${linkName(build, signal)}: ${sender.name} sends up to ${say(sender.supplyV, "voltage", "up")} into an input for ${say(receiver.supplyV, "voltage")}`,
      detail: `An input bears about ${say(ABOVE_SUPPLY_V, "voltage")} above its own supply (from memory); beyond, ${Number.isFinite(amps) ? `${say(amps, "current", "up")} go` : "all that the sender can push goes"} into the pin of ${part?.name ?? "the receiver"}, which bears ${say(CLAMP_A, "current", "down")}. A level shifter, or a resistor in the line where it is slow.`,
      compared: { volts: sender.supplyV, limit: receiver.supplyV + ABOVE_SUPPLY_V },
      remedies: [
        {
          label: `${say(ohm, "resistance")} in the line`,
          command: { type: "updateSignal", id: signal.id, changes: { seriesOhm: { value: ohm, provenance: "guess" } } },
        },
      ],
    }),
  ];
}
