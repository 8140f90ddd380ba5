import { datasheet as f } from "@/core/machine/figure";
import type { Cell, Machine, PartOf } from "@/core/machine/schema";
import { change, feed, schools } from "../support/judged";
import { at, driven, must, part, simple } from "../support/small";
import { fused, loaded, timed } from "./feed-machines";
import { type Case, edge, fact } from "./support";

/** A pack, a switch that opens in the second mode, and a heater behind it. */
function switched(over: Partial<PartOf<"switch">>, amps = 15, packV = 24, rest: Cell = { state: "off" }, heater = {}): Machine {
  let machine = must(simple({ amps: 1 }), { type: "addMode", name: "Off", lastsS: null });
  machine = must(machine, { type: "addMode", name: "Ready", lastsS: null });
  const [on = "", off = "", ready = ""] = machine.modes.map(({ id }) => id);
  machine = change(machine, "pack", {
    openCircuitV: f(packV),
    fullV: f(packV),
    lowV: f(packV * 0.95),
    internalOhm: f(0.01),
    continuousA: f(100),
  });
  machine = must(machine, { type: "removePart", id: "motor" });
  machine = must(machine, { type: "removePart", id: "main" });
  machine = part(
    machine,
    "switch",
    "main",
    { contactOhm: f(3e-4), openIn: [off], ...over },
    { from: "pack.+", wire: { gauge: "10 AWG", lengthM: f(0.1), fuse: fused("strip_m5_58v", 40) } },
  );
  return part(
    machine,
    "load",
    "heater",
    {
      loadKind: "heater",
      nominalV: f(packV),
      cells: { [on]: { state: "amps", amps: f(amps) }, [off]: { state: "amps", amps: f(amps) }, [ready]: rest },
      ...heater,
    },
    { from: "main.out", back: "pack.-", wire: { gauge: "10 AWG", lengthM: f(0.5) } },
  );
}

const BREAKS = { breakA: f(100), breakV: f(100) };

const bank = (over: object, farads: number, packV = 24) =>
  switched({ ...BREAKS, ...over }, 15, packV, { state: "off" }, { inputF: f(farads) });

const FILLS = { prechargeOhm: f(33), prechargeS: f(3), prechargeJ: f(50), makeA: f(500) };

/** A contact whose coil hangs on the rail beside a load that pulls the rail down. */
function coiled(over: Partial<PartOf<"switch">>, amps = 5, coil = true): Machine {
  const machine = part(
    simple({ amps, internalOhm: 0.1, behaviour: "current" }),
    "switch",
    "contactor",
    { contactOhm: f(1e-3), coilOhm: f(60), pickUpV: f(9), dropOutV: f(4), ...over },
    { from: "main.out", wire: { gauge: "14 AWG", lengthM: f(0.3) } },
  );
  const wire = { parallel: 1, insulation: "pvc80", gauge: "20 AWG", lengthM: f(0.2) };
  if (!coil) return machine;
  return must(must(machine, { type: "addWire", wire: { ...wire, role: "supply", from: at("main.out"), to: at("contactor.c+") } }), {
    type: "addWire",
    wire: { ...wire, role: "return", from: at("contactor.c-"), to: at("pack.-") },
  });
}

/** A bar between the fuse and the load. */
function barred(over: Partial<PartOf<"bar">>, amps: number): Machine {
  const machine = part(
    loaded(amps, "6 AWG"),
    "bar",
    "bus",
    { side: "positive", ...over },
    {
      from: "main.out",
      wire: { gauge: "6 AWG", lengthM: f(0.2) },
    },
  );
  return must(machine, { type: "reland", wireId: "w2", end: "from", at: at("bus.bar") });
}

const ended = (family: string, amps: number, over = {}, gauge = "12 AWG") => feed(loaded(amps, gauge), { toEnd: { family, ...over } });

const port = (over: Partial<PartOf<"switch">>) =>
  part(
    simple(),
    "switch",
    "port",
    { device: "charging port", contactOhm: f(1e-3), ratedA: f(25), recessed: true, holdsMotion: true, ...over },
    { from: "main.out", wire: { gauge: "14 AWG", lengthM: f(0.4) } },
  );

const STOP = { devices: 2, normallyClosed: true, deliberateReset: true };

/** A motor on a driver behind a contact of the emergency stop, a board before it or behind. */
function stopped(stop: object, board: "before" | "behind" = "before", motor: "before" | "behind" = "behind"): Machine {
  const heavy = { gauge: "4 AWG", lengthM: f(0.1) };
  let machine = part(
    driven(),
    "switch",
    "stop",
    { contactOhm: f(3e-4), ...BREAKS, stop: { ...STOP, ...stop } },
    { from: "main.out", wire: heavy },
  );
  if (motor === "behind") {
    const own = machine.wires.find(({ to, role }) => to.part === "drive" && role === "supply");
    machine = must(machine, { type: "reland", wireId: own?.id ?? "", end: "from", at: at("stop.out") });
  }
  machine = part(
    machine,
    "load",
    "board",
    { loadKind: "board", nominalV: f(24), inputMinV: f(9), inputMaxV: f(30), cells: { m1: { state: "amps", amps: f(0.2) } } },
    { from: board === "before" ? "main.out" : "stop.out", back: "pack.-", wire: { gauge: "18 AWG", lengthM: f(0.3) } },
  );
  return machine;
}

/** A load behind a plug, capacitors at its input. */
const plugged = (farads: number, volts: number) =>
  change(change(ended("key60", 2, { live: "recessed" }), "motor", { inputF: f(farads), nominalV: f(volts) }), "pack", {
    openCircuitV: f(volts),
    fullV: f(volts),
    lowV: f(volts * 0.95),
  });

function pluggedDrive(volts: number): Machine {
  const machine = driven({}, {}, volts);
  const own = machine.wires.find(({ to, role }) => to.part === "drive" && role === "supply");
  return feed(machine, { gauge: "8 AWG", toEnd: { family: "key90", live: "recessed" } }, own?.id ?? "");
}

function standing(amps: number): Machine {
  return switched({ ...BREAKS, ...FILLS }, 15, 24, { state: "amps", amps: f(amps) }, { inputF: f(6e-3) });
}

export const CONTACTS: readonly Case[] = [
  edge("node-rating", "nine tenths of a bar", "watch", 0.9 * 40, (a) => barred({ ratedA: f(40) }, a)),
  edge("node-rating", "a bar", "fix", 40, (a) => barred({ ratedA: f(40) }, a)),
  edge("node-rating", "60 K at its joints: √2 of it", "stop", 20 * Math.SQRT2, (a) => barred({ ratedA: f(20) }, a)),
  edge("node-rating", "2 A a mm² of its metal", "fix", 20, (mm2) => barred({ copperMm2: f(mm2) }, 40), { below: true }),
  edge("node-rating", "the smallest bar", "ask", 30, (a) => barred({}, a)),
  edge("node-rating", "the smallest strip", "ask", 15, (a) => barred({ form: "terminal strip" }, a)),
  edge("node-rating", "seconds: half as much again", "fix", 30, (a) => timed(barred({ ratedA: f(20) }, 5), 8, a), { key: "brief" }),
  edge("connector-current", "nine tenths of a contact", "watch", 18, (a) => ended("auto28", a)),
  edge("connector-current", "a contact continuously", "fix", 20, (a) => ended("auto28", a)),
  edge("connector-current", "60 K: √2 of it", "stop", 20 * Math.SQRT2, (a) => ended("auto28", a)),
  edge("connector-current", "what the class number promises for seconds", "fix", 30, (a) => timed(ended("key30", 5), 2, a), {
    key: "brief",
  }),
  fact(
    "connector-fit",
    "too thin a wire",
    "fix",
    () => ended("key60", 2, {}, "18 AWG"),
    () => ended("key60", 2, {}, "12 AWG"),
  ),
  fact(
    "connector-fit",
    "too thick a wire",
    "fix",
    () => ended("key60", 2, {}, "8 AWG"),
    () => ended("key60", 2, {}, "12 AWG"),
  ),
  edge("connector-fit", "a plug made for 60 V", "fix", 60, (v) => change(ended("key60", 2), "pack", { fullV: f(v) }), { key: "volts" }),
  fact(
    "live-pins",
    "bare metal on the live side",
    "fix",
    () => ended("key60", 2, { live: "pins" }),
    () => ended("key60", 2, { live: "recessed" }),
  ),
  fact(
    "live-pins",
    "nobody told which half",
    "ask",
    () => ended("key60", 2),
    () => ended("key60", 2, { live: "recessed" }),
  ),
  edge("part-rating", "nine tenths of a contact", "watch", 15 / 0.9, (a) => switched({ ratedA: f(a), ...BREAKS }), { below: true }),
  edge("part-rating", "a contact continuously", "fix", 15, (a) => switched({ ratedA: f(a), ...BREAKS }), { below: true }),
  edge("part-rating", "60 K: √2 of it", "stop", 15 / Math.SQRT2, (a) => switched({ ratedA: f(a), ...BREAKS }), { below: true }),
  edge(
    "part-rating",
    "its peak for seconds",
    "fix",
    30,
    (a) => timed(switched({ ratedA: f(20), peakA: f(30), peakS: f(5), ...BREAKS }, 5), 4, a, "heater"),
    { key: "brief" },
  ),
  edge(
    "part-rating",
    "longer than its peak holds: τ = −5/ln(1 − (20/40)²) s",
    "fix",
    (-5 / Math.log(1 - 0.25)) * -Math.log(1 - (20 / 30) ** 2),
    (s) => timed(switched({ ratedA: f(20), peakA: f(40), peakS: f(5), ...BREAKS }, 5), s, 30, "heater"),
    { key: "brief" },
  ),
  edge("part-rating", "one nobody rated", "ask", 1, (a) => switched(BREAKS, a)),
  edge("dc-contact", "what it may break", "stop", 15, (a) => switched({ breakA: f(a), breakV: f(60) }), { key: "amps", below: true }),
  edge("dc-contact", "the same where only a hand opens it", "fix", 15, (a) => switched({ breakA: f(a), breakV: f(60), openIn: [] }), {
    key: "amps",
    below: true,
  }),
  edge("dc-contact", "at which volts", "stop", 24, (v) => switched({ breakA: f(60), breakV: f(v) }), { key: "volts", below: true }),
  edge("dc-contact", "an AC rating above an arc's 13 V", "stop", 13, (v) => switched({ acOnly: true }, 15, v), { key: "ac" }),
  edge("dc-contact", "nobody told what it breaks", "ask", 20, (v) => switched({}, 15, v), { key: "ask" }),
  edge("dc-contact", "nobody told, and no mode opens it", "ask", 30, (v) => switched({ openIn: [] }, 15, v), { key: "ask" }),
  edge("dc-contact", "nobody told at which volts", "ask", 30, (v) => switched({ breakA: f(60) }, 15, v), { key: "ask-volts" }),
  fact(
    "dc-contact",
    "a diode that slows a stop",
    "watch",
    () => change(stopped({}), "stop", { clamp: "diode" }),
    () => stopped({}),
    "clamp",
  ),
  fact(
    "stop-circuit",
    "a motor that keeps its power, no school chosen",
    "stop",
    () => stopped({}, "before", "before"),
    () => stopped({}),
    "moving",
  ),
  fact(
    "stop-circuit",
    "a loop that needs current to stop",
    "stop",
    () => stopped({ normallyClosed: false }),
    () => stopped({}),
    "open",
  ),
  fact(
    "stop-circuit",
    "released, it goes again",
    "fix",
    () => stopped({ deliberateReset: false }),
    () => stopped({}),
    "reset",
  ),
  fact(
    "stop-circuit",
    "a board that goes dark",
    "fix",
    () => stopped({}, "behind"),
    () => stopped({}),
    "logic",
  ),
  fact(
    "stop-circuit",
    "its school and no contact",
    "fix",
    () => schools(driven(), { stop: "opens power" }),
    () => schools(stopped({}), { stop: "opens power" }),
    "none",
  ),
  fact(
    "stop-circuit",
    "drives nobody told the input of",
    "ask",
    () => schools(driven(), { stop: "disables drives" }),
    () => schools(driven({ stopInput: "certified" }), { stop: "disables drives" }),
  ),
  fact(
    "stop-circuit",
    "enable lines alone",
    "watch",
    () => schools(driven({ stopInput: "enable" }), { stop: "disables drives" }),
    () => schools(driven({ stopInput: "certified" }), { stop: "disables drives" }),
    "silicon",
  ),
  fact(
    "charging-port",
    "live pins",
    "stop",
    () => port({ recessed: false }),
    () => port({}),
    "pins",
  ),
  fact(
    "charging-port",
    "pins nobody told of",
    "ask",
    () => port({ recessed: undefined }),
    () => port({}),
    "pins",
  ),
  fact(
    "charging-port",
    "motion while plugged",
    "fix",
    () => port({ holdsMotion: false }),
    () => port({}),
    "motion",
  ),
  edge("charging-port", "a fuse above what it bears", "fix", 20, (a) => port({ ratedA: f(a) }), { key: "fuse", below: true }),
  edge("precharge", "½ J at 20 V", "fix", 0.5, (j) => bank({}, (2 * j) / 400, 20)),
  edge("precharge", "500 µF from 24 V on", "fix", 500e-6, (c) => bank({}, c)),
  edge(
    "precharge",
    "5 % that are missing: e^(−t/RC)",
    "fix",
    -Math.log(0.05) * 33 * 6e-3,
    (s) => bank({ ...FILLS, prechargeS: f(s) }, 6e-3),
    { key: "gap", below: true },
  ),
  edge("precharge", "½ C·U² in its resistor", "fix", 0.5 * 6e-3 * 24 ** 2, (j) => bank({ ...FILLS, prechargeJ: f(j) }, 6e-3), {
    key: "pulse",
    below: true,
  }),
  edge(
    "precharge",
    "a resistor that lets in more than its contact may make: 24 V / R",
    "fix",
    24 / 50,
    (ohm) => bank({ ...FILLS, prechargeOhm: f(ohm), makeA: f(50) }, 6e-3),
    {
      key: "low",
      below: true,
    },
  ),
  fact(
    "precharge",
    "no pulse known",
    "ask",
    () => bank({ ...FILLS, prechargeJ: undefined }, 6e-3),
    () => bank(FILLS, 6e-3),
    "pulse",
  ),
  fact(
    "precharge",
    "no time known",
    "ask",
    () => bank({ ...FILLS, prechargeS: undefined }, 6e-3),
    () => bank(FILLS, 6e-3),
    "time",
  ),
  edge("precharge", "what a standing load keeps away: I·R", "fix", 1.2 / 33, (a) => standing(a), { key: "gap" }),
  edge("plug-inrush", "a drive of unknown capacitors behind a plug, full packs", "ask", 20 / 1.05, (v) => pluggedDrive(v), { key: "ask" }),
  edge("plug-inrush", "500 µF from 24 V on", "fix", 500e-6, (c) => plugged(c, 24)),
  edge("plug-inrush", "½ J at 20 V", "fix", 0.5, (j) => plugged((2 * j) / 400, 20)),
  fact(
    "coil",
    "nothing feeds it",
    "fix",
    () => coiled({}, 5, false),
    () => coiled({}),
    "unfed",
  ),
  fact(
    "coil",
    "nobody told its volts",
    "ask",
    () => coiled({ pickUpV: undefined }),
    () => coiled({}),
    "ask",
  ),
  edge("coil", "what it pulls in at, packs full", "fix", 14.57, (v) => coiled({ pickUpV: f(v) }), { key: "pick-up", near: 0.01 }),
  edge("coil", "1.3 times its own volts", "fix", (14.57 * 0.75) / 1.3, (v) => coiled({ pickUpV: f(v) }), { key: "over", below: true }),
  edge("coil", "what it drops out at with the pack low", "fix", 10, (v) => coiled({ dropOutV: f(v) }, 15), { key: "drop-out", near: 0.06 }),
];
