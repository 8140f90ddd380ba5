import { newMachine } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import type { Load, Machine, PartOf, Wire } from "@/core/machine/schema";
import { change } from "../support/judged";
import { at, must, part } from "../support/small";

/** A kind of part in a sound machine, with every figure it can have. */
export interface Fixture {
  /** What it is called in the table. */
  kind: string;
  /** The part whose figures are moved. */
  id: string;
  make: () => Machine;
  /** Figures that are tried in it, where another row has the rest. */
  only?: readonly string[];
  /** The same machine with somebody else on the part, so that two share it. */
  share?: (machine: Machine) => Machine;
}

type Fuse = NonNullable<Wire["fuse"]>;
const blade = (ratingA: number): Fuse => ({ family: "blade_regular_32v", ratingA });
const run = (gauge: string, metres: number, over: Partial<Wire> = {}) => ({ gauge, lengthM: f(metres), ...over });
/** Amps in "Run", which goes on, in "Push", five seconds, and in "Rest". */
const draws = (amps: number, push = amps, rest = 0) => ({
  run: { state: "amps" as const, amps: f(amps) },
  push: { state: "amps" as const, amps: f(push) },
  idle: rest > 0 ? { state: "amps" as const, amps: f(rest) } : { state: "off" as const },
  rest: rest > 0 ? { state: "amps" as const, amps: f(rest) } : { state: "off" as const },
});

const PACK: Partial<PartOf<"pack">> = {
  openCircuitV: f(26.3),
  fullV: f(29.2),
  lowV: f(25.6),
  internalOhm: f(0.032),
  capacityAh: f(40),
  continuousA: f(24),
  peakA: f(60),
  peakS: f(10),
  chemistry: "lifepo4_energy",
  series: 8,
  plannedCharge: f(0.6),
  lowCharge: f(0.2),
  cutoffV: f(22),
  cutoffS: f(1),
  peukert: f(1.02),
  ratedH: f(5),
  health: f(0.95),
  management: "inside",
};

function blank(): Machine {
  const modes = [
    { id: "run", name: "Run", lastsS: null },
    { id: "push", name: "Push", lastsS: 5 },
    { id: "rest", name: "Rest", lastsS: null },
    { id: "idle", name: "Idle", lastsS: null },
  ];
  return { ...newMachine("Matrix"), modes };
}

/** A pack, its fuse, bars for plus and minus, and a radio that is always on. */
export function base(pack: Partial<PartOf<"pack">> = {}): Machine {
  let machine = blank();
  machine = must(machine, { type: "setSettings", changes: { wantedRunS: 8400, coldestC: 5 } });
  machine = part(machine, "pack", "pack", { ...PACK, ...pack });
  machine = part(machine, "fuse", "main", { fuse: { family: "strip_m5_58v", ratingA: 60 } }, { from: "pack.+", wire: run("4 AWG", 0.1) });
  machine = part(machine, "bar", "plus", { side: "positive", ratedA: f(100) }, { from: "main.out", wire: run("4 AWG", 0.2) });
  machine = part(machine, "bar", "minus", { side: "negative", ratedA: f(100) }, { back: "pack.-", wire: run("4 AWG", 0.2) });
  return load(machine, "radio", { loadKind: "radio", inputMinV: f(9), inputMaxV: f(45) }, 0.2);
}

/** A load on the bars by a fused feed of its own. */
export function load(machine: Machine, id: string, over: Partial<Load>, amps: number, push = amps, from = "plus", back = "minus"): Machine {
  return part(
    machine,
    "load",
    id,
    { nominalV: f(24), cells: draws(amps, push), ...over },
    { from, back, wire: run("12 AWG", 0.6, { fuse: blade(20) }) },
  );
}

const STATES = {
  run: { state: "run" as const, percent: 100 },
  push: { state: "stall" as const },
  rest: { state: "off" as const },
  idle: { state: "off" as const },
};
const GROUND = { groundA: f(1), groundOhm: f(0.01) };
const HOLD_UP = { holdUpF: f(4e-3), holdUpOhm: f(0.02) };
const ONBOARD = {
  outputV: f(5),
  inputMinV: f(7),
  inputMaxV: f(32),
  outputA: f(0.5),
  type: "linear" as const,
  kelvinPerWatt: f(25),
  jumper: "in" as const,
};

/** A lamp whose return goes home by the ground of the part. */
const homeBy = (machine: Machine, ground: string, amps = 0.6) =>
  load(machine, "lamp", { loadKind: "light" }, amps, amps * 1.4, "plus", ground);

function driven(over: Partial<PartOf<"driver">> = {}, motor: Partial<Load> = {}, channels = 2): Machine {
  const wire = run("8 AWG", 0.4);
  const machine = part(
    base(),
    "driver",
    "drive",
    {
      channels,
      bridgeOhm: f(0.02),
      bridgeV: f(0.2),
      ownA: f(0.03),
      headlineA: f(40),
      continuousA: f(12),
      peakA: f(30),
      peakS: f(10),
      totalA: f(20),
      inputMinV: f(9),
      inputMaxV: f(45),
      limitA: f(25),
      dutyCap: f(1),
      logic: "onboard",
      logicV: f(5),
      logicA: f(0.02),
      onboard: ONBOARD,
      layers: [{ layer: "chip", continuousA: f(20), peakA: f(40), maxV: f(48) }],
      inputF: f(400e-6),
      brakeOnV: f(34),
      brakeOhm: f(2),
      brakePulseJ: f(40),
      ...GROUND,
      ...over,
    },
    { from: "plus", back: "minus", wire: { ...wire, fuse: { family: "blade_maxi_32v", ratingA: 30 } } },
  );
  return part(
    machine,
    "load",
    "motor",
    { nominalV: f(24), levels: { idle: f(0.5), run: f(8), stall: f(24) }, brakingJ: f(10), cells: draws(8, 9), ...motor },
    { from: "drive.1a", back: "drive.1b", wire },
  );
}

function converted(over: Partial<PartOf<"converter">>, amps: number): Machine {
  const machine = part(
    base(),
    "converter",
    "reg",
    {
      topology: "buck",
      isolated: false,
      outputV: f(5),
      efficiency: f(0.9),
      outputOhm: f(0.01),
      quiescentA: f(0.01),
      ratedA: f(5),
      limitA: f(6),
      inputMinV: f(7),
      inputMaxV: f(36),
      startF: f(3e-3),
      inputF: f(100e-6),
      minLoadA: f(0.01),
      startsAtV: f(9),
      ...HOLD_UP,
      ...GROUND,
      ...over,
    },
    { from: "plus", back: "minus", wire: run("14 AWG", 0.4, { fuse: blade(5) }) },
  );
  return part(
    machine,
    "load",
    "board",
    { loadKind: "board", nominalV: f(5), inputMinV: f(4.5), inputMaxV: f(5.5), inputF: f(1e-3), cells: draws(amps, amps * 1.4, 0.05) },
    { from: "reg.out+", back: "reg.out-", wire: run("14 AWG", 0.3) },
  );
}
const beside = (machine: Machine, amps: number) =>
  part(
    machine,
    "load",
    "second",
    { loadKind: "board", nominalV: f(5), inputMinV: f(4.5), inputMaxV: f(5.5), cells: draws(amps) },
    { from: "reg.out+", back: "reg.out-", wire: run("14 AWG", 0.3) },
  );

function switched(over: Partial<PartOf<"switch">> = {}): Machine {
  let machine = part(
    base(),
    "switch",
    "contactor",
    {
      device: "contactor",
      contactOhm: f(5e-4),
      ratedA: f(15),
      peakA: f(30),
      peakS: f(10),
      breakA: f(30),
      breakV: f(60),
      makeA: f(60),
      prechargeOhm: f(47),
      prechargeS: f(2),
      prechargeJ: f(20),
      coilOhm: f(96),
      pickUpV: f(17),
      dropOutV: f(8),
      openIn: ["rest"],
      ...over,
    },
    { from: "plus", wire: run("8 AWG", 0.3) },
  );
  const wire = { parallel: 1, insulation: "pvc80", ...run("18 AWG", 0.3), fuse: blade(3) };
  machine = must(machine, { type: "addWire", wire: { ...wire, role: "supply", from: at("plus"), to: at("contactor.c+") } });
  machine = must(machine, {
    type: "addWire",
    wire: { role: "return", from: at("contactor.c-"), to: at("minus"), parallel: 1, insulation: "pvc80", ...run("18 AWG", 0.3) },
  });
  return load(machine, "heater", { loadKind: "heater", inputF: f(6e-3) }, 10, 12, "contactor.out");
}

function supplied(over: Partial<PartOf<"supply">> = {}): Machine {
  let machine = blank();
  machine = part(machine, "supply", "supply", {
    outputV: f(24),
    outputOhm: f(0.01),
    ratedA: f(10),
    limitA: f(13),
    boxW: f(400),
    minLoadA: f(0.5),
    crossShare: f(0.02),
    derateFromC: f(50),
    derateShare: f(0.025),
    startF: f(3e-3),
    startS: f(0.1),
    inputF: f(1e-3),
    make: "enclosed",
    overload: "hiccup",
    ...over,
  } as Partial<PartOf<"supply">>);
  return load(
    machine,
    "heater",
    { loadKind: "heater", inputF: f(1e-3), inputMinV: f(20), inputMaxV: f(30), cells: draws(6, 7, 1) },
    6,
    7,
    "supply.+",
    "supply.-",
  );
}

/** Four lights behind one small fuse. */
function grouped(): Machine {
  return part(
    base(),
    "load",
    "load",
    { loadKind: "light", nominalV: f(24), inputMinV: f(20), inputMaxV: f(31), count: 4, cells: draws(4) },
    { from: "plus", back: "minus", wire: run("12 AWG", 0.6, { fuse: blade(7.5) }) },
  );
}

/** A load of a kind with the figures that go with it. */
function kind(loadKind: Load["loadKind"], over: Partial<Load>, amps = 2): Fixture {
  return {
    kind: loadKind,
    id: "load",
    make: () => load(base(), "load", { loadKind, inputMinV: f(20), inputMaxV: f(31), ...over }, amps, amps * 1.2),
    share: (machine) =>
      part(
        machine,
        "load",
        "second",
        { loadKind: "light", nominalV: f(24), cells: draws(amps) },
        { from: "plus", back: "minus", wire: run("12 AWG", 0.6, { fuse: blade(20) }) },
      ),
  };
}

export const FIXTURES: readonly Fixture[] = [
  {
    kind: "pack",
    id: "pack",
    make: () => load(base(), "heater", { loadKind: "heater" }, 10, 18),
    share: (machine) => load(machine, "second", { loadKind: "heater" }, 9, 14),
  },
  {
    kind: "supply",
    id: "supply",
    make: () => must(supplied(), { type: "setSettings", changes: { ambientC: 55 } }),
    share: (machine) => load(machine, "second", { loadKind: "light" }, 3, 3, "supply.+", "supply.-"),
  },
  {
    kind: "bar",
    id: "plus",
    make: () =>
      change(
        load(base(), "winch", { loadKind: "brushless", inputMinV: f(20), inputMaxV: f(40), inputF: f(1e-3), brakingJ: f(10) }, 10, 16),
        "plus",
        {
          bulkF: f(100e-6),
          brakeOnV: f(34),
          brakeOhm: f(2),
          brakePulseJ: f(40),
        },
      ),
    share: (machine) => load(machine, "second", { loadKind: "heater" }, 9),
  },
  {
    kind: "bar of metal",
    id: "plus",
    make: () => change(load(base(), "heater", { loadKind: "heater" }, 10, 16), "plus", { ratedA: undefined, copperMm2: f(30) }),
    share: (machine) => load(machine, "second", { loadKind: "heater" }, 9),
  },
  {
    kind: "switch",
    id: "contactor",
    make: switched,
    share: (machine) => load(machine, "second", { loadKind: "heater" }, 9, 9, "contactor.out"),
  },
  {
    kind: "driver",
    id: "drive",
    make: () => homeBy(driven(), "drive.in-"),
    share: (machine) =>
      part(
        machine,
        "load",
        "second",
        { nominalV: f(24), levels: { run: f(8), stall: f(20) }, cells: draws(8) },
        { from: "drive.1a", back: "drive.1b", wire: run("8 AWG", 0.4) },
      ),
  },
  {
    kind: "driver with a heatsink",
    id: "drive",
    only: ["heatsinkA"],
    make: () => driven({ heatsinkA: f(15), cooling: "heatsink" }, { cells: draws(13, 13) }),
  },
  {
    kind: "driver in moving air",
    id: "drive",
    only: ["airA"],
    make: () => driven({ airA: f(18), cooling: "air" }, { cells: draws(13, 13) }),
  },
  {
    kind: "driver fed with logic",
    id: "drive",
    only: ["logicV", "logicA"],
    make: () => {
      const machine = driven({ logic: "own input", onboard: undefined });
      const wire = run("18 AWG", 0.3);
      const fed = part(
        machine,
        "converter",
        "five",
        { topology: "buck", outputV: f(5), efficiency: f(0.9), ratedA: f(2), limitA: f(2.5), inputMinV: f(7), inputMaxV: f(36) },
        { from: "plus", back: "minus", wire: { ...wire, fuse: blade(3) } },
      );
      return must(fed, {
        type: "addWire",
        wire: { role: "supply", from: at("five.out+"), to: at("drive.5v"), parallel: 1, insulation: "pvc80", ...wire },
      });
    },
  },
  { kind: "buck", id: "reg", make: () => homeBy(converted({ dutyMax: f(0.9) }, 2), "reg.in-"), share: (machine) => beside(machine, 2) },
  { kind: "buck with a dropout", id: "reg", only: ["dropoutV"], make: () => converted({ dropoutV: f(2) }, 2) },
  {
    kind: "buck of known losses",
    id: "reg",
    only: ["printedA", "lossW", "lossV", "lossOhm", "lossAtV", "junctionMaxC"],
    make: () =>
      must(
        converted(
          { ratedA: undefined, printedA: f(6), lossW: f(0.4), lossV: f(0.1), lossOhm: f(0.05), lossAtV: f(24), junctionMaxC: f(105) },
          2,
        ),
        { type: "setSettings", changes: { ambientC: 45 } },
      ),
    share: (machine) => beside(machine, 2),
  },
  {
    kind: "linear",
    id: "reg",
    only: ["dropoutV", "kelvinPerWatt", "junctionMaxC", "quiescentA", "ratedA"],
    make: () =>
      converted({ topology: "linear", dropoutV: f(2), kelvinPerWatt: f(10), junctionMaxC: f(125), ratedA: f(1), limitA: f(1.5) }, 0.15),
    share: (machine) => beside(machine, 0.15),
  },
  {
    kind: "motor",
    id: "motor",
    make: () =>
      driven(
        { limitA: undefined, layers: undefined, peakA: f(26), logic: undefined, onboard: undefined, brakeOnV: undefined },
        {
          loadKind: "motor",
          cells: STATES,
          inputMaxV: f(60),
          motor: { noLoadRpm: f(3000), stallTorqueNm: f(2), startS: f(0.05), windingS: f(20) },
          brakingJ: f(0.01),
        },
      ),
  },
  {
    kind: "started motor",
    id: "motor",
    only: ["levels.idle", "levels.start"],
    make: () =>
      driven(
        { limitA: undefined, layers: undefined, peakA: f(23) },
        {
          levels: { idle: f(0.5), run: f(8), start: f(20), stall: f(24) },
          cells: { run: { state: "idle" }, push: { state: "start" }, rest: { state: "off" }, idle: { state: "off" } },
        },
      ),
  },
  kind(
    "stepper",
    {
      behaviour: "power",
      stepper: { ratedA: f(2), setA: f(1.6), scale: "rms", phaseOhm: f(1), phaseMh: f(3) },
      phaseLead: { gauge: "20 AWG", insulation: "pvc80", lengthM: f(1) },
    },
    1,
  ),
  kind(
    "brushless",
    {
      behaviour: "power",
      inputF: f(400e-6),
      brakingJ: f(0.05),
      inputMaxV: f(45),
      brushless: { drive: "sine", busLimitA: f(10), phaseLimitA: f(20), phaseOhm: f(0.1) },
      phaseLead: { gauge: "14 AWG", insulation: "pvc80", lengthM: f(1) },
    },
    5,
  ),
  kind("servo", { levels: { run: f(1), stall: f(3) }, cells: STATES }, 1),
  kind("actuator", { levels: { run: f(2), stall: f(5) }, endSwitches: true, cells: STATES }),
  kind("pump", {}),
  kind("fan", {}),
  kind("heater", {}),
  kind("coil", {}, 0.5),
  kind("light", {}),
  {
    ...kind("light", {}),
    kind: "group of lights",
    make: () => change(grouped(), "load", { ownLead: { gauge: "18 AWG", insulation: "pvc80", lengthM: f(0.3) } }),
  },
  kind("sound", { filterMh: f(0.1), filterF: f(220e-6), filterOhm: f(0.05) }),
  {
    kind: "board",
    id: "load",
    make: () => {
      let machine = load(
        base(),
        "load",
        { loadKind: "board", inputMinV: f(9), inputMaxV: f(32), inputF: f(100e-6), pinA: f(0.5), onboard: ONBOARD, ...HOLD_UP, ...GROUND },
        0.1,
      );
      machine = homeBy(machine, "load.-");
      return part(
        machine,
        "load",
        "probe",
        { loadKind: "sensor", nominalV: f(5), cells: draws(0.1, 0.14) },
        { from: "load.pin", back: "load.-", wire: run("24 AWG", 0.2) },
      );
    },
    share: (machine) =>
      part(
        machine,
        "load",
        "second",
        { loadKind: "sensor", nominalV: f(5), cells: draws(0.1) },
        { from: "load.pin", back: "load.-", wire: run("24 AWG", 0.2) },
      ),
  },
  kind("computer", HOLD_UP),
  kind("sensor", { senses: "inertial", filterOhm: f(10), filterF: f(1e-5) }, 0.02),
  kind("radio", {}, 0.2),
  kind("display", {}, 0.5),
  kind("other", {}),
];
