import { endsOf } from "../connectors/ends";
import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import type { Command } from "../machine/commands";
import type { Driver, Load, Part, Wire } from "../machine/schema";
import { say } from "../quantity/format";
import { gaugeById } from "../reference/gauges";

/**
 * Rules of practice against noise, with the numbers that stand behind them (handbook grounding sections 1, 3 and 5). None of
 * them is a standard: "common practice, no source", unless a formula is named.
 */

/** Bulk at a driver, F: C ≥ I·t / ΔV, with 20 µs and 0.5 V (10 A need 400 µF). */
export function bulkF(amps: number, seconds = 20e-6, dipV = 0.5): number {
  return (amps * seconds) / dipV;
}

/** Hold-up capacitance, F, that carries `watts` for `seconds` while the voltage falls from v1 to v2. */
export function holdUpF(watts: number, seconds: number, v1: number, v2: number): number {
  return (2 * watts * seconds) / (v1 ** 2 - v2 ** 2);
}

/** Heat that a capacitor of `farad` across a chopped motor costs its bridge, W: f·C·V². */
export function capacitorLossW(hertz: number, farad: number, volts: number): number {
  return hertz * farad * volts ** 2;
}

/** Inductance of a lone straight wire, H: 2e-7·l·(ln(2l/r) − 0.75) (Rosa, Grover). */
export function loneInductanceH(lengthM: number, diameterM: number): number {
  return 2e-7 * lengthM * (Math.log((4 * lengthM) / diameterM) - 0.75);
}

/** Centres of two conductors side by side, m. */
const PAIR_M = 0.003;
/** Field a compass should not see from the machine itself, T. */
const FIELD_T = 1e-6;

/**
 * How far a magnetic sensor stays from a lone wire, and from a wire beside its return, m: the field is 2e-7·I/r, and beside the
 * return 2e-7·I·d/r² (Biot-Savart).
 */
export function clearLoneM(amps: number): number {
  return (2e-7 * amps) / FIELD_T;
}
/** How far a pair of conductors must be from a magnetic sensor, m. */
export function clearPairM(amps: number): number {
  return Math.sqrt((2e-7 * amps * PAIR_M) / FIELD_T);
}

/** Consumer line level, V (−10 dBV), and how far below it a ground's movement should stay, dB. */
export const LINE_V = 10 ** (-10 / 20);
/** How far below the signal hum should stay, dB (common practice, no source). */
export const HUM_DB = 60;

/** How far below line level a voltage is, dB; infinite for none. */
export function humDb(volts: number): number {
  return volts > 0 ? 20 * Math.log10(LINE_V / volts) : Number.POSITIVE_INFINITY;
}

/** What passes a low pass of time constant `tauS` of a spike, share: 1 − exp(−t/τ). */
export function spikeShare(seconds: number, tauS: number): number {
  return 1 - Math.exp(-seconds / tauS);
}

/** Chopping frequency taken where none is known, Hz, and the edge of its current, A/s: 20 A in a microsecond. */
const CHOP_HZ = 20e3;
const EDGE_S = 1e-6;

/** One thing to fit or to do. */
export interface Advice {
  id: string;
  part: string;
  what: string;
  why: string;
  /** It is in the plan already. */
  done: boolean;
  /** Puts it into the plan. */
  command: Command | null;
}

const SERIES_E6 = [1, 1.5, 2.2, 3.3, 4.7, 6.8];

/** The next usual capacitor at or above, F. */
export function usualAtLeast(farad: number): number {
  const decade = 10 ** Math.floor(Math.log10(farad));
  for (const step of [...SERIES_E6, 10]) if (step * decade >= farad * (1 - 1e-9)) return step * decade;
  return 10 * decade;
}

/** Capacitors and twisted pairs that practice would fit to this machine, driver by driver and motor by motor. */
export function adviceFor(figures: Figures): Advice[] {
  const { machine } = figures;
  return machine.parts.flatMap((part): Advice[] => {
    const joint = jointAdvice(figures, part);
    if (part.kind === "driver") return [...bulkAdvice(figures, part), ...twistAdvice(figures, part), ...joint];
    if (part.kind === "load") return [...brushAdvice(figures, part), ...chipAdvice(part), ...spikeAdvice(figures, part), ...joint];
    return joint;
  });
}

/** A brush that lifts for so long, s; and how far the rail may fall where nobody said, share. */
const LIFT_S = 1e-3;
const LEAST_SHARE = 0.85;

/** What carries a part behind a rotary joint through a brush that lifts (handbook section 7). */
function jointAdvice(figures: Figures, part: Part): Advice[] {
  const feed = figures.ledger.rowOf.get(part.id)?.feed;
  const rotary = feed && endsOf(feed).some(({ row }) => row.sort === "rotary");
  const figure = figures.parts[part.id];
  if (!rotary || !figure) return [];
  const volts = figure.lowestV?.volts ?? 0;
  const least = ("inputMinV" in part ? part.inputMinV?.value : undefined) ?? volts * LEAST_SHARE;
  const watts = figure.worst.amps * volts;
  if (watts === 0 || least >= volts) return [];
  const farad = holdUpF(watts, LIFT_S, volts, least);
  const have = "holdUpF" in part ? (part.holdUpF?.value ?? 0) : 0;
  return [
    {
      id: `lift:${part.id}`,
      part: part.id,
      what: `${Math.round(usualAtLeast(farad) * 1e6)} µF behind the joint, and a clamp for the spike when a brush lifts`,
      why: `C = 2·P·t/(V₁² − V₂²): ${say(watts, "power")} for a millisecond from ${say(volts, "voltage")} to ${say(least, "voltage")} are ${Math.round(farad * 1e6)} µF. Send high voltage across the rings and regulate behind them.`,
      done: have >= farad,
      command: null,
    },
  ];
}

/** Resistor and capacitor before an analogue input: 1 kΩ and 10 nF, and the spike they are told against. */
const INPUT_TAU_S = 10e-6;
const SPIKE_S = 1e-6;

function spikeAdvice(figures: Build, load: Load): Advice[] {
  const senders = (figures.machine.signals ?? []).filter(({ kind, to }) => kind === "analogue" && to === load.id);
  if (senders.length === 0) return [];
  return [
    {
      id: `spike:${load.id}`,
      part: load.id,
      what: `1 kΩ and 10 nF before ${senders.length === 1 ? "its analogue input" : `each of its ${senders.length} analogue inputs`}`,
      why: `Of a spike of 1 V for a microsecond ${Math.round(spikeShare(SPIKE_S, INPUT_TAU_S) * 1000)} mV pass. It does nothing against a ground that moves.`,
      done: false,
      command: null,
    },
  ];
}

function bulkAdvice(figures: Figures, driver: Driver): Advice[] {
  const amps = figures.parts[driver.id]?.worst.amps ?? 0;
  if (amps < 0.5) return [];
  const farad = usualAtLeast(Math.max(100e-6, bulkF(amps)));
  const have = driver.inputF?.value ?? 0;
  const micro = (value: number) => Math.round(value * 1e6);
  return [
    {
      id: `bulk:${driver.id}`,
      part: driver.id,
      what: `${micro(farad)} µF low-ESR and 1 µF ceramic at its supply pins`,
      why: `C = I·t/ΔV: ${say(amps, "current", "up")} for 20 µs with 0.5 V of dip is ${micro(bulkF(amps))} µF; the wire's inductance cannot answer that fast. The ceramic is rated for 1.5 to 2 times the rail.`,
      done: have >= bulkF(amps),
      command: { type: "updatePart", id: driver.id, changes: { inputF: { value: farad, provenance: "typical" } } },
    },
  ];
}

function twistAdvice(figures: Figures, driver: Driver): Advice[] {
  const feed = figures.ledger.rowOf.get(driver.id)?.feed;
  const own = feed ? [feed, ...(figures.returnsOf.get(feed.id) ?? [])] : [];
  if (!feed || own.length < 2) return [];
  const amps = figures.parts[driver.id]?.worst.amps ?? 0;
  return [
    {
      id: `twist:${driver.id}`,
      part: driver.id,
      what: "feed and return twisted, a turn every 3 to 5 cm",
      why: inductanceWords(feed, amps),
      done: own.every((wire) => wire.twisted === true),
      command: { type: "setFeed", id: feed.id, changes: { twisted: true } },
    },
  ];
}

function inductanceWords(wire: Wire, amps: number): string {
  const gauge = wire.gauge === undefined ? undefined : gaugeById(wire.gauge);
  const lengthM = wire.lengthM?.value;
  if (!gauge || !lengthM) return "Side by side they hardly radiate; apart each is an inductance and an aerial.";
  const henry = loneInductanceH(lengthM, 2 * Math.sqrt(gauge.areaMm2 / Math.PI) * 1e-3);
  return `Alone it has ${(henry * 1e6).toFixed(1)} µH: ${say(amps, "current")} switched in 1 µs make ${say((henry * amps) / EDGE_S, "voltage")} along it.`;
}

/** Only brushed motors whose current is not chopped against the capacitor; its cost is told where it is. */
function brushAdvice(figures: Build, load: Load): Advice[] {
  if (load.loadKind !== "motor" && load.loadKind !== "pump" && load.loadKind !== "actuator") return [];
  const feed = figures.solved.circuit.feeds.get(load.id);
  const volts = load.nominalV.value;
  const farad = feed ? 10e-9 : 100e-9;
  const watts = capacitorLossW(CHOP_HZ, farad, volts);
  return [
    {
      id: `brush:${load.id}`,
      part: load.id,
      what: `${feed ? "10 nF" : "100 nF"} across its terminals, 10 nF from each to its case`,
      why: feed
        ? `Brush sparks are stopped where they arise. Behind a bridge at 20 kHz each pulse charges it: f·C·V² is ${say(watts, "power")} in the bridge (with 100 nF ${say(capacitorLossW(CHOP_HZ, 100e-9, volts), "power")}). Not on brushless motors or steppers.`
        : "Brush sparks are stopped where they arise. Not on brushless motors.",
      done: false,
      command: null,
    },
  ];
}

function chipAdvice(load: Load): Advice[] {
  if (load.loadKind !== "board" && load.loadKind !== "sensor") return [];
  return [
    {
      id: `chip:${load.id}`,
      part: load.id,
      what: "100 nF ceramic at every chip's supply pins",
      why: "Most bought boards have them. A sensor on a long lead wants one at its own end too.",
      done: false,
      command: null,
    },
  ];
}
