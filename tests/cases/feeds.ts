import { datasheet as f } from "@/core/machine/figure";
import type { Cell, Machine, PartOf, Wire } from "@/core/machine/schema";
import { change, feed, schools, supplied } from "../support/judged";
import { settlesC, withstand } from "../support/physics";
import { at, driven, must, part, simple } from "../support/small";
import { type Case, edge, fact } from "./support";

type Fuse = NonNullable<Wire["fuse"]>;
const BLADE = "blade_regular_32v";
const fused = (family: Fuse["family"], ratingA: number): Fuse => ({ family, ratingA });
/** One load on a wire that its fuse leaves alone. */
const loaded = (amps: number, gauge = "14 AWG", over = {}) => simple({ amps, gauge, fuse: fused("blade_maxi_32v", 80), ...over });
const timed = (machine: Machine, seconds: number, amps: number, load = "motor") => {
  const next = must(machine, { type: "addMode", name: "Brief", lastsS: seconds });
  return must(next, { type: "setCell", loadId: load, modeId: next.modes.at(-1)?.id ?? "", cell: { state: "amps", amps: f(amps) } });
};
/** Amps at which a wire settles at some temperature, by bisection of the heat balance by hand. */
function ampsAt(gauge: string, hotC: number, airC: number, together = 1): number {
  let [low, high] = [0, 400];
  for (let i = 0; i < 40; i++) {
    const amps = (low + high) / 2;
    if (settlesC(gauge, amps, airC, together) > hotC) high = amps;
    else low = amps;
  }
  return low;
}
const balance = (machine: Machine) => schools(machine, { ampacity: "heat balance" });
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
const moved = (over: Partial<Wire>) => feed(simple({ amps: 2 }), { moves: true, strand: "fine", relief: true, ...over });
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
/** A stepper of some r.m.s. amps, or a brushless motor with a phase limit, with leads of its own to the motor. */
const phased = (amps: number | undefined, over: object = {}, kind: "stepper" | "brushless" = "stepper") =>
  change(simple({ amps: 1 }), "motor", {
    loadKind: kind,
    inputMinV: f(6),
    inputMaxV: f(30),
    phaseLead: { gauge: "20 AWG", insulation: "pvc80", lengthM: f(1), ...over },
    ...(amps === undefined
      ? {}
      : kind === "stepper"
        ? { stepper: { scale: "rms", setA: f(amps) } }
        : { brushless: { drive: "sine", phaseLimitA: f(amps) } }),
  });
const leadOf = (machine: Machine) => machine.wires.find(({ to }) => to.part === "motor")?.id ?? "";
/** A driver of some limit before a motor on a lead of its own. */
const onLead = (limitA: number) => {
  const machine = driven({ limitA: f(limitA), continuousA: f(60), peakA: f(100) }, { levels: { run: f(6), stall: f(120) } });
  return feed(machine, { gauge: "14 AWG" }, leadOf(machine));
};
const lengthOf = (machine: Machine, id: string, metres: number, over: Partial<Wire> = {}) =>
  must(machine, { type: "updateWire", id, changes: { lengthM: f(metres), ...over } });
/** Nine feeds, all but `bare` of them labelled. */
function labelled(feeds: number, bare: number): Machine {
  let machine = simple({ amps: 0.1 });
  for (let n = 1; n < feeds - 1; n++)
    machine = part(
      machine,
      "load",
      `lamp${n}`,
      { loadKind: "light", nominalV: f(12), cells: { m1: { state: "amps", amps: f(0.1) } } },
      { from: "main.out", back: "pack.-", wire: { gauge: "18 AWG", lengthM: f(0.3) } },
    );
  const own = machine.wires.filter(({ role }) => role === "supply");
  return own.slice(bare).reduce((next, wire, n) => feed(next, { label: `L${n}` }, wire.id), machine);
}
/** A load behind a plug, capacitors at its input. */
const plugged = (farads: number, volts: number) =>
  change(change(ended("key60", 2, { live: "recessed" }), "motor", { inputF: f(farads), nominalV: f(volts) }), "pack", {
    openCircuitV: f(volts),
    fullV: f(volts),
    lowV: f(volts * 0.95),
  });
/** Three lamps in a group, each on a lead of its own. */
const grouped = (each: number, ratingA: number) =>
  change(feed(simple({ amps: 1, fuse: fused(BLADE, ratingA) }), { gauge: "12 AWG" }), "motor", {
    count: 3,
    ownLead: { gauge: "20 AWG", insulation: "pvc80", lengthM: f(0.2) },
    cells: { m1: { state: "amps", amps: f(3 * each) } },
  });
/** Two fuses in a row and a short behind both. */
const twoFuses = (far: number, near: number) => {
  const machine = simple({ amps: 2, fuse: fused(BLADE, far), gauge: "12 AWG", metres: 1 });
  return must(machine, { type: "setFuse", wireId: "w2", fuse: fused(BLADE, near) });
};
/** A pack of some volts whose short a fuse must break: 1000 A for a blade. */
const strong = (volts: number, ohm: number) =>
  change(change(simple({ amps: 2, internalOhm: ohm }), "pack", { fullV: f(volts) }), "main", {});
export const FEEDS: readonly Case[] = [
  fact(
    "no-fuse",
    "a load straight on a pack",
    "stop",
    () => unfused(),
    () => simple(),
  ),
  edge("fuse-over-wire", "a supply's limit above its wire's 41 A", "fix", 41, (a) => supplied({ ratedA: f(20), limitA: f(a) }), {}),
  edge(
    "fuse-over-wire",
    "a limit at which the insulation goes 20 K over what it bears",
    "stop",
    ampsAt("18 AWG", 100, 25),
    (a) => feed(supplied({ ratedA: f(10), limitA: f(a) }), { gauge: "18 AWG" }, "w1"),
    { near: 0.03 },
  ),
  fact(
    "fuse-over-wire",
    "a source nobody told the limit of",
    "ask",
    () => supplied({ ratedA: f(10) }),
    () => supplied({ ratedA: f(10), limitA: f(12) }),
  ),
  edge("fuse-voltage", "a blade for 32 V", "stop", 32, (v) => change(simple({ amps: 1 }), "pack", { fullV: f(v) })),
  edge("fuse-too-small", "75 % of 20 A", "fix", 15, (a) => simple({ amps: a })),
  edge("fuse-place", "before it, bare", "stop", 0.178, (m) => lengthOf(strongest(), "w1", m, { gauge: "20 AWG" })),
  edge("fuse-place", "before it, sheathed", "stop", 1.83, (m) => lengthOf(simple(), "w1", m, { surroundings: "sleeve", gauge: "4/0 AWG" })),
  fact(
    "fuse-place",
    "a source of which nobody knows what a short drives",
    "ask",
    () => beforeFuse(undefined),
    () => beforeFuse(0.02),
  ),
  fact(
    "fuse-place",
    "out of reach",
    "watch",
    () => simple({ fuse: { ...fused(BLADE, 20), outOfReach: true } }),
    () => simple(),
    "reach",
  ),
  fact(
    "backup-fuse",
    "an electronic fuse alone on a battery",
    "fix",
    () => simple({ fuse: fused("efuse_internal", 10) }),
    () => simple(),
  ),
  edge("wire-overload", "nine tenths of 32 A", "watch", 28.8, (a) => loaded(a)),
  edge("wire-overload", "32 A", "fix", 32, (a) => loaded(a)),
  edge("wire-overload", "20 K over its insulation", "stop", ampsAt("18 AWG", 100, 25), (a) => loaded(a, "18 AWG"), { near: 0.03 }),
  edge(
    "wire-overload",
    "60 A in 18 AWG for as long as its time constant allows",
    "watch",
    1.231,
    (s) => balance(timed(loaded(0.1, "18 AWG"), s, 60)),
    { key: "brief", near: 0.03 },
  ),
  edge(
    "wire-overload",
    "the same up to what its insulation bears, 80 °C, with no heat lost",
    "fix",
    withstand("18 AWG", 25, 80) / 60 ** 2,
    (s) => balance(timed(loaded(0.1, "18 AWG"), s, 60)),
    { key: "brief", near: 0.02 },
  ),
  edge(
    "wire-overload",
    "the same up to what only a fault may reach, 160 °C (IEC 60364-5-54 annex A turned round)",
    "stop",
    withstand("18 AWG", 25) / 60 ** 2,
    (s) => balance(timed(loaded(0.1, "18 AWG"), s, 60)),
    { key: "brief", near: 0.02 },
  ),
  fact(
    "parallel-wires",
    "two of unlike length",
    "fix",
    () => feed(simple(), { parallel: 2, unequal: true }),
    () => feed(simple(), { parallel: 2 }),
    "unequal",
  ),
  edge(
    "parallel-wires",
    "one of two off: 22 A of 16 AWG less what two loaded lose",
    "watch",
    22,
    (a) => feed(supplied({ ratedA: f(10), limitA: f(a) }), { gauge: "16 AWG", parallel: 2 }, "w1"),
    { key: "single" },
  ),
  fact(
    "moving-wire",
    "solid across a joint",
    "stop",
    () => moved({ strand: "solid" }),
    () => moved({}),
    "strand",
  ),
  fact(
    "moving-wire",
    "coarse strands",
    "fix",
    () => moved({ strand: "stranded" }),
    () => moved({}),
    "strand",
  ),
  fact(
    "moving-wire",
    "strands nobody told of",
    "ask",
    () => moved({ strand: undefined }),
    () => moved({}),
    "strand",
  ),
  fact(
    "moving-wire",
    "nothing that holds it",
    "fix",
    () => moved({ relief: false }),
    () => moved({}),
    "relief",
  ),
  fact(
    "moving-wire",
    "silicone without a sleeve",
    "watch",
    () => moved({ insulation: "sil200" }),
    () => moved({ insulation: "sil200", surroundings: "sleeve" }),
    "wall",
  ),
  edge("node-rating", "nine tenths of a bar", "watch", 0.9 * 40, (a) => barred({ ratedA: f(40) }, a)),
  edge("node-rating", "a bar", "fix", 40, (a) => barred({ ratedA: f(40) }, a)),
  edge("node-rating", "60 K at its joints: √2 of it", "stop", 20 * Math.SQRT2, (a) => barred({ ratedA: f(20) }, a)),
  edge("node-rating", "2 A a mm² of its metal", "fix", 20, (mm2) => barred({ copperMm2: f(mm2) }, 40), { below: true }),
  edge("node-rating", "the smallest bar", "ask", 30, (a) => barred({}, a)),
  edge("node-rating", "the smallest strip", "ask", 15, (a) => barred({ form: "terminal strip" }, a)),
  edge("node-rating", "seconds: half as much again", "fix", 30, (a) => timed(barred({ ratedA: f(20) }, 5), 8, a), { key: "brief" }),
  edge("connector-current", "nine tenths of a contact", "watch", 18, (a) => ended("auto28", a)),
  edge("connector-current", "a contact for good", "fix", 20, (a) => ended("auto28", a)),
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
  edge("part-rating", "a contact for good", "fix", 15, (a) => switched({ ratedA: f(a), ...BREAKS }), { below: true }),
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
  edge("motor-lead", "what the driver pushes through a stall: 32 A of 14 AWG", "watch", 32, onLead),
  edge("motor-lead", "the same where leads are fused", "fix", 32, (a) => schools(onLead(a), { motorLeads: "fused" })),
  edge("drop", "its limit of 5 %", "fix", 5.78, (m) => dropping(m), { near: 0.03 }),
  edge("drop", "nine tenths of it", "watch", 5.19, (m) => dropping(m), { near: 0.03 }),
  fact(
    "wiring",
    "a part without a way back",
    "stop",
    () => backless(),
    () => simple(),
  ),
  fact(
    "wiring",
    "a part nothing feeds",
    "fix",
    () => part(simple(), "load", "lost", { nominalV: f(12) }),
    () => simple(),
  ),
  fact(
    "wiring",
    "metal tied to no source",
    "ask",
    () => part(simple(), "bar", "lost", {}),
    () => simple(),
    "island",
  ),
  edge("labels", "eight feeds", "watch", 7.5, (n) => labelled(Math.round(n), 9), { near: 0.05 }),
  fact(
    "labels",
    "one of them bare",
    "watch",
    () => labelled(9, 1),
    () => labelled(9, 0),
  ),
  fact(
    "short-circuit",
    "16 AWG bears 19 800 A²s, a 20 A maxi fuse lets more through between its gates",
    "stop",
    () => shorted(3, "blade_maxi_32v", 20, "16 AWG"),
    () => shorted(3, "blade_maxi_32v", 20, "12 AWG"),
  ),
  edge(
    "short-circuit",
    "a slow fuse's last gate against 18 AWG: shorter wire drives it past that",
    "stop",
    6.04,
    (m) => shorted(m, "cart_6x32_slow", 5, "18 AWG"),
    { below: true },
  ),
  edge("short-circuit", "a fuse that takes more than 5 s", "fix", 5.44, longLoop, { key: "slow" }),
  edge("short-circuit", "a short no fuse ends: 1.35 times its rating with the source weak and the wires hot", "fix", 20.25, longLoop, {
    key: "never",
  }),
  edge("breaking-capacity", "1000 A of a blade, half a milliohm of lead included", "stop", 1032, (a) => strong(14.6, 14.6 / a)),
  fact(
    "selective",
    "a larger fuse too near",
    "watch",
    () => twoFuses(20, 15),
    () => twoFuses(30, 5),
  ),
  fact(
    "driver-feeds",
    "its school, no fuse of its own",
    "fix",
    () => schools(shared(), { driverFeeds: "each fused" }),
    () => schools(driven(), { driverFeeds: "each fused" }),
  ),
  edge("driver-feeds", "a feed on the main fuse alone, longer than 3 m", "fix", 3, (m) =>
    schools(mainOnly(m), { driverFeeds: "main only" }),
  ),
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
  edge("group-lead", "11 A of 20 AWG, two loaded side by side", "fix", 11 * 2 ** -0.34, (a) => grouped(a, 7.5), {
    key: "group-lead:motor",
  }),
  fact(
    "group-lead",
    "a fuse for the group above what one lead bears",
    "fix",
    () => grouped(1, 10),
    () => grouped(1, 7.5),
    "fuse",
  ),
  edge("phase-lead", "11 A of 20 AWG, four loaded side by side: nine tenths", "watch", 0.9 * 11 * 4 ** -0.34, (a) => phased(a), {
    key: "phase-lead:motor",
  }),
  edge("phase-lead", "all of it", "fix", 11 * 4 ** -0.34, (a) => phased(a), { key: "phase-lead:motor" }),
  edge(
    "phase-lead",
    "three of a brushless motor, its amplitude over √2",
    "fix",
    11 * 3 ** -0.34 * Math.SQRT2,
    (a) => phased(a, {}, "brushless"),
    { key: "phase-lead:motor" },
  ),
  edge("phase-lead", "20 K over its insulation", "stop", ampsAt("20 AWG", 100, 25, 4), (a) => phased(a), {
    key: "phase-lead:motor",
    near: 0.03,
  }),
  edge("phase-lead", "held still, √2 of it in one", "watch", (11 * 4 ** -0.34) / Math.SQRT2, (a) => phased(a), { key: "held" }),
  edge(
    "phase-lead",
    "a contact, four loaded: nine tenths of 9 A",
    "fix",
    0.9 * 9,
    (a) => phased(a, { gauge: "18 AWG", family: "crimp420" }),
    { key: "contact" },
  ),
  fact(
    "phase-lead",
    "too thick a lead",
    "fix",
    () => phased(1, { gauge: "10 AWG", family: "crimp420" }),
    () => phased(1, { gauge: "20 AWG", family: "crimp420" }),
    "fit",
  ),
  fact(
    "phase-lead",
    "a current nobody told",
    "ask",
    () => phased(undefined),
    () => phased(1),
    "ask",
  ),
];

/** A feed whose own fuse sits half a metre along, behind the main one. */
function beforeFuse(internalOhm: number | undefined): Machine {
  const machine = must(simple({ gauge: "10 AWG" }), { type: "setFuse", wireId: "w2", fuse: { ...fused(BLADE, 10), atM: 0.5 } });
  return change(machine, "pack", { internalOhm: internalOhm === undefined ? undefined : f(internalOhm) });
}
function pluggedDrive(volts: number): Machine {
  const machine = driven({}, {}, volts);
  const own = machine.wires.find(({ to, role }) => to.part === "drive" && role === "supply");
  return feed(machine, { gauge: "8 AWG", toEnd: { family: "key90", live: "recessed" } }, own?.id ?? "");
}
function unfused(): Machine {
  return must(simple(), { type: "reland", wireId: "w2", end: "from", at: at("pack.+") });
}
function strongest(): Machine {
  return change(simple(), "pack", { internalOhm: f(0.005) });
}
function backless(): Machine {
  const machine = simple();
  const back = machine.wires.find(({ role }) => role === "return");
  return must(machine, { type: "removeWire", id: back?.id ?? "" });
}
function dropping(metres: number): Machine {
  return feed(simple({ amps: 5 }), { lengthM: f(metres) });
}
function shared(): Machine {
  const machine = driven();
  return part(
    machine,
    "load",
    "other",
    { nominalV: f(24), cells: { m1: { state: "amps", amps: f(1) } } },
    { from: "main.out", back: "pack.-", wire: { gauge: "10 AWG", lengthM: f(0.3) } },
  );
}
function mainOnly(metres: number): Machine {
  const machine = shared();
  const own = machine.wires.find(({ to, role }) => to.part === "drive" && role === "supply");
  return feed(machine, { lengthM: f(metres) }, own?.id ?? "");
}
function standing(amps: number): Machine {
  return switched({ ...BREAKS, ...FILLS }, 15, 24, { state: "amps", amps: f(amps) }, { inputF: f(6e-3) });
}

/** A pack behind a fuse in which a short flows that a long wire keeps small. */
function longLoop(metres: number): Machine {
  return feed(simple({ amps: 1, fuse: fused("blade_maxi_32v", 20) }), { lengthM: f(metres), gauge: "14 AWG" });
}
function shorted(metres: number, family: Fuse["family"], ratingA: number, gauge: string): Machine {
  return feed(simple({ amps: 1, internalOhm: 0.03, fuse: fused(family, ratingA) }), { lengthM: f(metres), gauge });
}
