import type { Figures } from "../../figures/figures";
import { names, partName } from "../../figures/names";
import type { Signal } from "../../machine/schema";
import { capital, say } from "../../quantity/format";
import { LOGIC_FAMILIES } from "../../reference/logic";
import { CLAMP_A, isolates } from "../../returns/budget";
import { groundOf } from "../../returns/ground";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "pin-current",
  title: "A board powered through its signals while its own supply is off",
  step: "returns",
  needs: "A resistor in each line, or outputs held low while the other side has no supply.",
});

/** Links into a board that some mode leaves without supply while the sender has it, one verdict a sender. */
export const pinCurrent = rule({ speak, reads: "figures", evaluate });

/** Drop of an input's clamp diode, V (handbook grounding section 2, from memory). */
const DIODE_V = 0.6;

/** Resistance of a driving pin, Ω, and what a small board draws, A (typical). */
const OUTPUT_OHM = 100;
const DRAWS_A = 0.01;

/** A usual resistor that holds a 5 V signal to a milliamp: (5 − 0.6) / 1 mA is 4.4 kΩ. */
const SERIES_OHM = 4700;

/** What flows through a pin into a board that is not powered, A: the sender's supply less a diode, over the series resistor. */
export function pinA(supplyV: number, seriesOhm: number): number {
  return seriesOhm > 0 ? Math.max(0, supplyV - DIODE_V) / seriesOhm : Number.POSITIVE_INFINITY;
}

/** Rail that a board without supply is lifted to through a signal, V: supply less diode and what `amps` lose in the resistor. */
export function parasiticV(supplyV: number, seriesOhm: number, amps: number): number {
  return Math.max(0, supplyV - DIODE_V - amps * seriesOhm);
}

function evaluate(figures: Figures): Verdict[] {
  const bySender = new Map<string, { mode: number; links: Signal[] }>();
  for (const signal of figures.machine.signals ?? []) {
    const mode = unpowered(figures, signal);
    if (mode === null) continue;
    const entry = bySender.get(signal.from) ?? { mode, links: [] };
    entry.links.push(signal);
    bySender.set(signal.from, entry);
  }
  return [...bySender].map(([sender, { mode, links }]) => {
    const supplyV = Math.max(...links.map((signal) => (signal.sender ? LOGIC_FAMILIES[signal.sender].supplyV : 0)));
    const receivers = [...new Set(links.map(({ to }) => partName(figures, to)))];
    return speak({
      part: { id: sender },
      severity: "watch",
      also: links.map(({ to }) => to),
      headline: `${capital(partName(figures, sender))} feeds ${names(receivers, 2)} through signals in ${figures.modes[mode]?.name}`,
      detail: `Without supply there, a high signal runs through the input's clamp diode into the whole board: it half runs, resets badly, and the pin bears about ${say(CLAMP_A, "current", "down")} (typical). Through a pin of ${OUTPUT_OHM} Ω a board that draws ${say(DRAWS_A, "current")} stands at ${say(parasiticV(supplyV, OUTPUT_OHM, DRAWS_A), "voltage")}. A resistor of ${say(SERIES_OHM, "resistance")} in each line, outputs held low when that supply is off, or isolation.`,
      remedies: [
        {
          label: `${say(SERIES_OHM, "resistance")} in each line`,
          command: {
            type: "batch" as const,
            label: "Resistors in signal lines",
            commands: links.map((signal) => ({
              type: "updateSignal" as const,
              id: signal.id,
              changes: { seriesOhm: { value: SERIES_OHM, provenance: "typical" as const } },
            })),
          },
        },
      ],
    });
  });
}

/** The first mode in which only the sender is powered, and the signal drives more than a pin bears; null where there is none. */
function unpowered(figures: Figures, signal: Signal): number | null {
  const to = figures.partOf.get(signal.to);
  const family = signal.sender && LOGIC_FAMILIES[signal.sender];
  // Only what drives a line high from its own supply can feed through it.
  if (!family || isolates(signal, to) || pinA(family.supplyV, signal.seriesOhm?.value ?? 0) <= CLAMP_A) return null;
  const [sender, receiver] = [figures.parts[signal.from], figures.parts[signal.to]];
  const ground = groundOf(figures);
  const [a, b] = [ground.nodeOf(signal.from), ground.nodeOf(signal.to)];
  if (!sender || receiver?.wiring !== "ok" || ground.piece[a] !== ground.piece[b]) return null;
  const mode = figures.modes.findIndex(({ collapsed }, m) => !collapsed && sender.live[m] === 1 && receiver.live[m] !== 1);
  return mode < 0 ? null : mode;
}
