import { newMachine } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import type { Load, Machine, PartOf } from "@/core/machine/schema";
import { sluice } from "../mistakes/machines";
import { change, lead, supplied } from "../support/judged";
import { packed } from "../support/packed";
import { at, backedUp, must, part, simple } from "../support/small";
import { type Case, edge, fact } from "./support";

const on = (volts: number, over: Partial<Load>, amps = 0.01) =>
  supplied({ outputV: f(volts), ratedA: f(10), limitA: f(12) }, amps, { behaviour: "current", ...over });
const brief = (machine: Machine, seconds: number, amps: number, load = "load") => {
  const next = must(machine, { type: "addMode", name: "Brief", lastsS: seconds });
  return must(next, { type: "setCell", loadId: load, modeId: next.modes.at(-1)?.id ?? "", cell: { state: "amps", amps: f(amps) } });
};
/** A converter on the small machine's rail that feeds a sensor. */
const converted = (over: Partial<PartOf<"converter">>, amps: number, load: Partial<Load> = {}) => {
  const wire = { gauge: "14 AWG", lengthM: f(0.2) };
  const machine = part(
    simple({ amps: 1 }),
    "converter",
    "reg",
    {
      topology: "linear",
      isolated: false,
      outputV: f(5),
      efficiency: f(0.9),
      outputOhm: f(0.01),
      ratedA: f(50),
      limitA: f(50),
      inputMinV: f(6),
      inputMaxV: f(40),
      ...over,
    },
    { from: "main.out", back: "pack.-", wire },
  );
  return part(
    machine,
    "load",
    "sensor",
    { loadKind: "sensor", nominalV: f(5), cells: { m1: { state: "amps", amps: f(amps) } }, ...load },
    { from: "reg.out+", back: "reg.out-", wire },
  );
};
/** Two lead packs in parallel, the second some volts higher. */
const parallel = (apart: number, over: object = {}) => {
  let machine = newMachine("Parallel");
  machine = must(machine, { type: "addPart", part: lead("a", 12.6) });
  machine = must(machine, { type: "addPart", part: lead("b", 12.6 + apart, over) });
  for (const [from, to] of [
    ["a.+", "b.+"],
    ["a.-", "b.-"],
  ] as const)
    machine = must(machine, {
      type: "addWire",
      wire: {
        role: from === "a.+" ? "supply" : "return",
        from: at(from),
        to: at(to),
        gauge: "6 AWG",
        parallel: 1,
        insulation: "pvc80",
        lengthM: f(0.2),
      },
    });
  return machine;
};
const braking = (joules: number, over: Partial<Load> = {}) =>
  on(24, { loadKind: "brushless", nominalV: f(24), inputMinV: f(10), inputMaxV: f(60), brakingJ: f(joules), inputF: f(1e-3), ...over });
/** A lithium pack with a management board, a bus with a brushless drive, and what may be planned on the bus. */
const managed = (joules: number, bar: Partial<PartOf<"bar">> = {}, most = 40) => {
  let machine = newMachine("Managed");
  const wire = { gauge: "8 AWG", lengthM: f(0.2) };
  machine = part(machine, "pack", "pack", {
    openCircuitV: f(26),
    fullV: f(29.2),
    lowV: f(25),
    internalOhm: f(0.02),
    chemistry: "lifepo4_energy",
    series: 8,
    capacityAh: f(40),
    continuousA: f(40),
    management: "inside",
  });
  machine = part(machine, "fuse", "main", { fuse: { family: "blade_maxi_32v", ratingA: 30 } }, { from: "pack.+", wire });
  machine = part(machine, "bar", "bus", bar, { from: "main.out", wire });
  return part(
    machine,
    "load",
    "winch",
    {
      loadKind: "brushless",
      behaviour: "power",
      nominalV: f(24),
      inputMinV: f(12),
      inputMaxV: f(most),
      inputF: f(1e-3),
      brakingJ: f(joules),
      cells: { m1: { state: "amps", amps: f(2) } },
    },
    { from: "bus", back: "pack.-", wire },
  );
};
const rise = (from: number, to: number, farad: number) => ((to ** 2 - from ** 2) / 2) * farad;

export const SOURCES: readonly Case[] = [
  edge("source-rating", "four fifths of a supply", "watch", 5, (a) => supplied({ ratedA: f(a), limitA: f(20) }, 4), { below: true }),
  edge("source-rating", "a supply continuously", "fix", 4, (a) => supplied({ ratedA: f(a), limitA: f(20) }, 4), {
    key: "rating:supply",
    below: true,
  }),
  edge(
    "source-rating",
    "a supply in 60 °C, a quarter less",
    "fix",
    4,
    (a) => must(supplied({ ratedA: f(a), limitA: f(20) }, 3), { type: "setSettings", changes: { ambientC: 60 } }),
    { key: "rating:supply", below: true },
  ),
  edge(
    "source-rating",
    "a mode of seconds, by where it limits",
    "fix",
    6,
    (a) => brief(supplied({ ratedA: f(4), limitA: f(a) }, 1), 5, 6),
    { key: "brief", below: true },
  ),
  edge(
    "source-rating",
    "a mode longer than a peak holds: τ = −10/ln(1 − (4/8)²) s",
    "fix",
    20.43,
    (s) => brief(supplied({ ratedA: f(4), limitA: f(8) }, 1), s, 6),
    { key: "brief" },
  ),
  edge("source-rating", "a mode of ten minutes goes on", "fix", 600, (s) => brief(supplied({ ratedA: f(4), limitA: f(8) }, 1), s, 4.02), {
    key: "rating:supply",
  }),
  fact(
    "source-rating",
    "lithium that nothing watches above its amps continuously",
    "stop",
    () => change(change(packed({ amps: 30 }), "pack", { continuousA: f(20), peakA: f(60) }), "pack", { management: "none" }),
    () => change(packed({ amps: 30 }), "pack", { continuousA: f(20), peakA: f(60), management: "inside" }),
  ),
  fact(
    "source-rating",
    "a pack of which nobody knows what it gives",
    "ask",
    () => change(simple(), "pack", { continuousA: undefined, peakA: undefined }),
    () => simple(),
    "ask",
  ),
  edge("supply-limits", "four fifths of its box", "watch", 119.6, (w) => supplied({ ratedA: f(20), limitA: f(25), boxW: f(w) }, 4), {
    key: "box",
    below: true,
    near: 0.02,
  }),
  edge("supply-limits", "its box", "fix", 95.7, (w) => supplied({ ratedA: f(20), limitA: f(25), boxW: f(w) }, 4), {
    key: "box",
    below: true,
    near: 0.02,
  }),
  edge("supply-limits", "its least load", "fix", 4, (a) => supplied({ ratedA: f(20), limitA: f(25), minLoadA: f(a) }, 4), { key: "least" }),
  edge(
    "supply-limits",
    "what it starts into",
    "fix",
    1e-3,
    (c) => supplied({ ratedA: f(20), limitA: f(25), startF: f(1e-3) }, 4, { inputF: f(c) }),
    { key: "start" },
  ),
  edge(
    "supply-limits",
    "how long its start may take: C·U/(I − I_load)",
    "fix",
    (1e-3 * 24) / 2,
    (s) => supplied({ ratedA: f(20), limitA: f(6), startS: f(s) }, 4, { inputF: f(1e-3) }),
    { key: "start", below: true, near: 0.03 },
  ),
  edge(
    "supply-limits",
    "a box's other output that moves above what its part takes: 5 % of 12 V",
    "watch",
    12.6,
    (v) => boxed({ inputMinV: f(5), inputMaxV: f(v) }),
    {
      key: "cross",
      below: true,
      near: 0.005,
    },
  ),
  edge("supply-limits", "and below it", "watch", 11.4, (v) => boxed({ inputMinV: f(v), inputMaxV: f(20) }), { key: "cross", near: 0.006 }),
  edge("two-sources", "blocks of lead a tenth of a volt apart", "stop", 0.1, (v) => parallel(v)),
  fact(
    "two-sources",
    "packs of two kinds",
    "stop",
    () => parallel(0, { chemistry: "lifepo4_energy", series: 4, management: "inside" }),
    () => parallel(0),
  ),
  fact(
    "two-sources",
    "a pack pushed by a supply, without a diode",
    "stop",
    () => joinedSupply({}),
    () => joinedSupply({ diode: true }),
  ),
  fact(
    "two-sources",
    "a battery that gives in no mode",
    "ask",
    () => backedUp(10),
    () => backedUp(10, 11),
    "waits",
  ),
  edge("pack-care", "above what may be touched", "stop", 60, (v) => change(simple(), "pack", { openCircuitV: f(50), fullV: f(v) }), {
    key: "touch",
  }),
  fact(
    "pack-care",
    "lithium that nothing watches",
    "fix",
    () => packed({ over: { management: "none" } }),
    () => packed({ over: { management: "inside" } }),
    "management",
  ),
  edge(
    "pack-care",
    "a full voltage below what its cells rest at: 3 × 4.18 V less half a per cent",
    "fix",
    12.54 * 0.995,
    (v) =>
      change(packed({ over: { chemistry: "nmc_energy", series: 3, openCircuitV: f(11), lowV: f(10.5), fullV: f(13) } }), "pack", {
        fullV: f(v),
      }),
    { key: "full", below: true, near: 0.004 },
  ),

  edge("input-window", "the most it takes", "stop", 12, (v) => on(12, { nominalV: f(12), inputMinV: f(5), inputMaxV: f(v) }), {
    key: "max",
    below: true,
  }),
  edge("input-window", "the least it needs", "fix", 12, (v) => on(12, { nominalV: f(12), inputMinV: f(v), inputMaxV: f(20) }), {
    key: "min",
  }),
  edge(
    "input-window",
    "three per cent above the least",
    "watch",
    12 / 1.03,
    (v) => on(12, { nominalV: f(12), inputMinV: f(v), inputMaxV: f(20) }),
    { key: "min", near: 0.01 },
  ),
  fact(
    "input-window",
    "a full voltage nobody told",
    "ask",
    () => change(simple(), "pack", { fullV: undefined }),
    () => simple(),
    "ask",
  ),
  edge("input-window", "two blocks in series, full: 28.8 V", "stop", 28.8, (v) => change(sluice(), "gate-drive", { inputMaxV: f(v) }), {
    key: "max",
    below: true,
  }),
  edge(
    "converter-limits",
    "a chip ten kelvin below what is planned: 8.2 V × 0.1 A × θ",
    "watch",
    75 / 0.82,
    (k) => converted({ kelvinPerWatt: f(k) }, 0.1),
    { key: "heat", near: 0.03 },
  ),
  edge("converter-limits", "a chip at what it bears", "fix", 100 / 0.82, (k) => converted({ kelvinPerWatt: f(k) }, 0.1), {
    key: "heat",
    near: 0.03,
  }),
  edge("converter-limits", "a chip where solder melts", "stop", 175 / 0.82, (k) => converted({ kelvinPerWatt: f(k) }, 0.1), {
    key: "heat",
    near: 0.02,
  }),
  edge("converter-limits", "a case nobody told of: the worst package", "ask", 0.0738, (a) => converted({ kelvinPerWatt: undefined }, a), {
    key: "heat",
    near: 0.03,
  }),
  edge(
    "converter-limits",
    "a case nobody told of: even the best package",
    "fix",
    0.268,
    (a) => converted({ kelvinPerWatt: undefined }, a),
    { key: "heat", near: 0.03 },
  ),
  edge(
    "converter-limits",
    "no room across it at the lowest charge",
    "fix",
    6.55,
    (v) => converted({ dropoutV: f(v), inputMinV: f(3) }, 0.01),
    { key: "dropout", near: 0.02 },
  ),
  edge("converter-limits", "a start it never sees: full packs, 14.6 V", "fix", 14.6, (v) => converted({ startsAtV: f(v) }, 0.01), {
    key: "switch-on",
  }),
  fact(
    "converter-limits",
    "a start above what it runs down to",
    "watch",
    () => converted({ startsAtV: f(12.5) }, 0.01),
    () => converted({ startsAtV: f(11) }, 0.01),
    "switch-on",
  ),
  edge(
    "converter-limits",
    "an output as far off as it may be",
    "fix",
    0.05,
    (t) => converted({ outputV: { value: 5, provenance: "datasheet", tolerance: t } }, 0.01, { inputMinV: f(4), inputMaxV: f(5.25) }),
    { key: "accuracy" },
  ),

  edge("regeneration", "braking into a supply: 115 % of its volts", "fix", rise(24, 27.6, 1e-3), (j) => braking(j)),
  fact(
    "regeneration",
    "energy nobody told, into a supply",
    "ask",
    () => braking(1, { brakingJ: undefined }),
    () => braking(0.01),
    "ask",
  ),
  edge("regeneration", "braking with a full managed pack: what the weakest part bears", "fix", rise(29.2, 40, 1e-3), (j) => managed(j)),
  edge(
    "regeneration",
    "a brake that is on before the charger is done",
    "fix",
    29.2 * 1.03,
    (v) => managed(5, { brakeOnV: f(v), brakePulseJ: f(10) }),
    { key: "brake-early", below: true },
  ),
  edge("regeneration", "a brake above what the weakest part bears", "fix", 40, (v) => managed(5, { brakeOnV: f(v), brakePulseJ: f(10) }), {
    key: "brake-late",
  }),
  edge("regeneration", "a brake that does not bear one stop", "fix", 5, (j) => managed(j, { brakeOnV: f(34), brakePulseJ: f(5) }), {
    key: "brake-pulse",
  }),
  fact(
    "regeneration",
    "a brake of which nobody knows its pulse",
    "ask",
    () => managed(5, { brakeOnV: f(34) }),
    () => managed(5, { brakeOnV: f(34), brakePulseJ: f(10) }),
    "brake-ask",
  ),
  edge(
    "regeneration",
    "lithium taking energy below freezing",
    "fix",
    0.5,
    (c) => must(managed(0.1), { type: "setSettings", changes: { coldestC: Math.round((c - 0.5) * 100) / 100 } }),
    { below: true },
  ),
  fact(
    "clean-rail",
    "a sensor beside a servo",
    "watch",
    () => mixed("servo"),
    () => mixed("light"),
  ),
  fact(
    "run-time",
    "shorter than wished: 20 Ah at 10 A are two hours",
    "fix",
    () => wished(2.1),
    () => wished(1.9),
  ),
  fact(
    "run-time",
    "little more than wished",
    "watch",
    () => wished(1.85),
    () => wished(1.6),
  ),
  fact(
    "aged-cold",
    "a pack at the end of its life",
    "watch",
    () => sagging(0.022),
    () => sagging(0.008),
  ),
  edge("series-blocks", "a block of a twentieth less", "fix", 38, (ah) => change(sluice(), "lower", { capacityAh: f(ah) }), {
    key: "capacity",
    below: true,
  }),
  fact(
    "series-blocks",
    "blocks of two kinds",
    "stop",
    () => change(sluice(), "lower", { chemistry: "lead_flooded" }),
    () => sluice(),
    "kinds",
  ),
  fact(
    "series-blocks",
    "something fed from between them",
    "fix",
    () =>
      part(
        sluice(),
        "load",
        "tap",
        { loadKind: "light", nominalV: f(12), cells: { watch: { state: "off" }, move: { state: "off" }, frost: { state: "off" } } },
        { from: "lower.+", back: "minus", wire: { gauge: "14 AWG", lengthM: f(1) } },
      ),
    () => sluice(),
    "tap",
  ),
];

function joinedSupply(over: object): Machine {
  let machine = parallel(0);
  machine = change(change(machine, "a", over), "b", over);
  const wire = { gauge: "12 AWG", parallel: 1, insulation: "pvc80", lengthM: f(0.3) };
  machine = part(machine, "supply", "bench", { outputV: f(13.8), outputOhm: f(0.02), ratedA: f(5), limitA: f(6), ...over });
  machine = must(machine, { type: "addWire", wire: { ...wire, role: "supply", from: at("bench.+"), to: at("a.+") } });
  return must(machine, { type: "addWire", wire: { ...wire, role: "return", from: at("a.-"), to: at("bench.-") } });
}

/** A box of two outputs, a part on the one that is not regulated. */
function boxed(over: Partial<Load>): Machine {
  const machine = supplied({ ratedA: f(10), limitA: f(12) }, 2);
  const second = part(machine, "supply", "twelve", {
    box: "supply",
    outputV: f(12),
    outputOhm: f(0.001),
    ratedA: f(5),
    limitA: f(6),
    crossShare: f(0.05),
  });
  return part(
    second,
    "load",
    "fan",
    { loadKind: "fan", nominalV: f(12), cells: { m1: { state: "amps", amps: f(0.05) } }, ...over },
    { from: "twelve.+", back: "twelve.-", wire: { gauge: "14 AWG", lengthM: f(0.2) } },
  );
}

function mixed(loadKind: Load["loadKind"]): Machine {
  const machine = on(5, { loadKind: "sensor", nominalV: f(5) });
  return part(
    machine,
    "load",
    "other",
    { loadKind, nominalV: f(5), cells: { m1: { state: "amps", amps: f(0.1) } } },
    { from: "supply.+", back: "supply.-", wire: { gauge: "18 AWG", lengthM: f(0.3) } },
  );
}

function wished(hours: number): Machine {
  return must(packed({ amps: 10 }), { type: "setSettings", changes: { wantedRunS: hours * 3600 } });
}

function sagging(ohm: number): Machine {
  return packed({ amps: 20, leastV: 25.3, ohm, reserve: 0.3, over: { lowV: f(25.9), plannedCharge: f(0.5), openCircuitV: f(26.24) } });
}
