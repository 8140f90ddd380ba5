import { datasheet as f } from "@/core/machine/figure";
import type { Machine, Wire } from "@/core/machine/schema";
import { change, feed, schools, supplied } from "../support/judged";
import { settlesC, withstand } from "../support/physics";
import { at, driven, must, part, simple } from "../support/small";
import { type Fuse, fused, loaded, timed } from "./feed-machines";
import { type Case, edge, fact } from "./support";

const BLADE = "blade_regular_32v";

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

const moved = (over: Partial<Wire>) => feed(simple({ amps: 2 }), { moves: true, strand: "fine", relief: true, ...over });

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

/** A feed whose own fuse sits half a metre along, behind the main one. */
function beforeFuse(internalOhm: number | undefined): Machine {
  const machine = must(simple({ gauge: "10 AWG" }), { type: "setFuse", wireId: "w2", fuse: { ...fused(BLADE, 10), atM: 0.5 } });
  return change(machine, "pack", { internalOhm: internalOhm === undefined ? undefined : f(internalOhm) });
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

/** A pack with an M4 stud, so many amps for good, and its lead to the main fuse in one size. */
function studded(amps: number, gauge: string): Machine {
  return feed(change(simple({ amps, fuse: { family: "strip_m8_32v", ratingA: 100 } }), "pack", { stud: "M4" }), { gauge }, "w1");
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

/** A pack behind a fuse in which a short flows that a long wire keeps small. */
function longLoop(metres: number): Machine {
  return feed(simple({ amps: 1, fuse: fused("blade_maxi_32v", 20) }), { lengthM: f(metres), gauge: "14 AWG" });
}

function shorted(metres: number, family: Fuse["family"], ratingA: number, gauge: string): Machine {
  return feed(simple({ amps: 1, internalOhm: 0.03, fuse: fused(family, ratingA) }), { lengthM: f(metres), gauge });
}

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
  edge("terminal-fit", "what 10 AWG on an M4 stud is good for, 50 A (handbook practice sections 4 and 5)", "fix", 50, (amps) =>
    studded(amps, "10 AWG"),
  ),
  fact(
    "terminal-fit",
    "two sizes over what an M4 stud takes, 10 AWG",
    "watch",
    () => studded(5, "6 AWG"),
    () => studded(5, "8 AWG"),
    "thick",
  ),
  edge("motor-lead", "what the driver pushes through a stall: 32 A of 14 AWG", "watch", 32, onLead),
  edge("motor-lead", "the same where leads are fused", "fix", 32, (a) => schools(onLead(a), { motorLeads: "fused" })),
  edge("drop", "its limit of 10 %", "fix", 11.6, (m) => dropping(m), { near: 0.03 }),
  edge("drop", "nine tenths of the 5 % that is wished", "watch", 5.19, (m) => dropping(m), { near: 0.03 }),
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
