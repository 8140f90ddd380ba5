import { datasheet as f } from "@/core/machine/figure";
import type { Load, Machine, Signal, Wire } from "@/core/machine/schema";
import { backOf, board, join, land, link, withBrain, workshop } from "../support/grounds";
import { change, feed, schools } from "../support/judged";
import { at, must, part, simple } from "../support/small";
import { type Case, edge, fact } from "./support";

const thin = (machine: Machine, id: string, gauge: string, metres?: number) =>
  must(machine, {
    type: "updateWire",
    id: backOf(machine, id).id,
    changes: { gauge, ...(metres === undefined ? {} : { lengthM: f(metres) }) },
  });
const motorA = (machine: Machine, amps: number) =>
  must(machine, { type: "setCell", loadId: "motor", modeId: "m2", cell: { state: "amps", amps: f(amps) } });
const talking = (over: Partial<Signal> = {}) => link(workshop(), "mind", "drive", over);
/** Two boards whose grounds a return of some length holds apart while the motor runs. */
const apart = (metres: number, over: Partial<Signal> = {}) =>
  link(thin(land(workshop(), "mind", "n2"), "n2", "12 AWG", metres), "mind", "sense", over);
/** A sensor read by a board whose ground moves. */
const read = (metres: number) =>
  link(thin(land(workshop(), "sense", "n2"), "n2", "6 AWG", metres), "sense", "mind", {
    kind: "analogue",
    fullScaleV: f(5),
    bits: 10,
    wishCounts: f(4),
  });
const looped = (amps = 20, gauge: string | undefined = "26 AWG", over: Partial<Wire> = {}) =>
  join(link(motorA(workshop(), amps), "mind", "drive"), "signal", "mind.-", "drive.in-", gauge, over);
const framed = (over: Partial<Wire> = {}, gauge: string | undefined = "6 AWG") =>
  join(part(workshop(), "bar", "frame", { side: "negative", form: "chassis" }), "bond", "n1", "frame", gauge, { bondBy: "wire", ...over });
const frame = () => part(workshop(), "bar", "frame", { side: "negative", form: "chassis" });
const apartPacks = () => link(withBrain(workshop(), { lengthM: f(0.3) }), "brain", "drive");
const tied = () => join(apartPacks(), "return", "small.-", "n1", "14 AWG");
/** The driver behind a contact that one mode opens. */
function parted(over: Partial<Signal> = {}): Machine {
  let machine = part(
    workshop(),
    "switch",
    "stop",
    { contactOhm: f(1e-3), openIn: ["m1"] },
    { from: "plus", wire: { gauge: "10 AWG", lengthM: f(0.2) } },
  );
  const own = machine.wires.find(({ to, role }) => to.part === "drive" && role === "supply");
  machine = must(machine, { type: "reland", wireId: own?.id ?? "", end: "from", at: at("stop.out") });
  return link(machine, "mind", "drive", over);
}
const ringed = (rings: number) => {
  const machine = link(workshop(), "mind", "sense");
  return must(machine, {
    type: "updateWire",
    id: backOf(machine, "mind").id,
    changes: { toEnd: { family: "slip10", perPole: rings, loaded: 2 * rings } },
  });
};
/** A meshed link of minus bars behind the driver's 30 A fuse. */
const meshed = (gauge: string) => join(workshop(), "return", "n2", "n1", gauge);
const isolated = () =>
  part(workshop(), "converter", "iso", { isolated: true, outputV: f(5) }, { from: "plus", back: "n1", wire: { gauge: "18 AWG" } });
/** A lamp whose return lands on a board's ground pin. */
const onBoard = (amps: number, groundA?: number) => {
  const machine = part(
    simple({ amps: 0.2 }),
    "load",
    "lamp",
    { loadKind: "light", nominalV: f(12), cells: { m1: { state: "amps", amps: f(amps) } } },
    { from: "main.out", back: "motor.-", wire: { gauge: "14 AWG", lengthM: f(0.3) } },
  );
  return change(machine, "motor", {
    loadKind: "board",
    inputMinV: f(6),
    inputMaxV: f(20),
    ...(groundA === undefined ? {} : { groundA: f(groundA) }),
  });
};
const sensing = (over: Partial<Load>) => change(workshop(), "sense", over);
const heard = (amps: number) => link(board(motorA(workshop(), amps), "amp", "n2", { loadKind: "sound" }), "mind", "amp", { kind: "audio" });
/** Two rails with plugs of one family. */
function twoRails(a: string, b: string): Machine {
  const machine = feed(simple({ gauge: "14 AWG" }), { toEnd: { family: "key60", coding: a } });
  const wire = { gauge: "14 AWG", lengthM: f(0.4) };
  const regulated = part(
    machine,
    "converter",
    "buck",
    { outputV: f(5), ratedA: f(5), limitA: f(6) },
    { from: "main.out", back: "pack.-", wire },
  );
  const whole = part(
    regulated,
    "load",
    "board",
    { loadKind: "board", nominalV: f(5), cells: { m1: { state: "amps", amps: f(1) } } },
    { from: "buck.out+", back: "buck.out-", wire },
  );
  return feed(whole, { toEnd: { family: "key60", coding: b } }, whole.wires.find(({ to }) => to.part === "board")?.id ?? "");
}
const slipping = (ohm: number) => framed({ resistorOhm: f(ohm) });

export const RETURNS: readonly Case[] = [
  fact(
    "mis-mate",
    "one key for two rails",
    "fix",
    () => twoRails("red", "red"),
    () => twoRails("red", "blue"),
  ),
  fact("common-reference", "packs that meet nowhere", "fix", apartPacks, tied),
  fact(
    "common-reference",
    "grounds that a source holds apart",
    "stop",
    () => join(apartPacks(), "return", "small.-", "plus", "14 AWG"),
    tied,
  ),
  fact(
    "switched-return",
    "a fuse in the minus of a board that talks",
    "fix",
    () => fusedReturn(talking()),
    () => fusedReturn(workshop()),
  ),
  fact(
    "pin-current",
    "a signal into a board without supply",
    "watch",
    () => parted(),
    () => talking(),
  ),
  edge("pin-current", "a milliamp through a resistor: (5 − 0.6) V / R", "watch", 4400, (ohm) => parted({ seriesOhm: f(ohm) }), {
    below: true,
  }),
  edge("link-offset", "metres of return at which four fifths of it are used", "watch", 1.216, apart),
  edge("link-offset", "metres at which the share of a margin that is planned with is used", "fix", 1.537, apart),
  edge("link-offset", "metres at which the whole margin is", "stop", 3.139, apart),
  fact(
    "link-offset",
    "levels nobody told",
    "ask",
    () => talking({ receiver: undefined }),
    () => talking(),
    "missing",
  ),
  fact(
    "link-offset",
    "levels that do not fit",
    "fix",
    () => talking({ sender: "lvcmos33", receiver: "cmos5_ratio_in" }),
    () => talking(),
    "levels",
  ),
  fact(
    "link-offset",
    "a USB cable's own ground",
    "ask",
    () => talking({ kind: "usb" }),
    () => talking({ kind: "opto" }),
    "cable",
  ),
  edge("analogue-error", "metres at which four counts of 5 V in 1024 are lost", "fix", 0.3674, read),
  edge("ground-loop", "ten milliamps in a thin ground of some metres", "watch", 28.72, long, { below: true }),
  fact("ground-loop", "a ground of no known size", "ask", unsized, () => looped(20), "unsure"),
  fact(
    "ground-loop",
    "a part with two returns",
    "watch",
    () => join(workshop(), "return", "drive.in-", "n1", "18 AWG"),
    () => workshop(),
    "twice",
  ),
  edge("signal-ground", "four fifths of the 0.86 A of 30 AWG", "watch", 0.8 * 11.63, starved),
  edge("signal-ground", "0.86 A of 30 AWG", "fix", 11.63, starved),
  fact(
    "shared-return",
    "a board that rides on a motor's return",
    "watch",
    () => land(workshop(), "mind", "n2"),
    () => workshop(),
  ),
  fact(
    "shared-return",
    "the same where the school keeps them apart",
    "fix",
    () => schools(land(workshop(), "mind", "n2"), { returns: "joined at one point" }),
    () => land(workshop(), "mind", "n2"),
  ),
  fact(
    "return-school",
    "joined at one point, and no bar for logic",
    "fix",
    () => schools(talking(), { returns: "joined at one point" }),
    () => talking(),
    "none",
  ),
  fact(
    "return-school",
    "linked bars, and one link",
    "watch",
    () => schools(workshop(), { returns: "linked bars" }),
    () => schools(join(workshop(), "return", "n2", "n1", "6 AWG"), { returns: "linked bars" }),
    "link",
  ),
  fact(
    "return-school",
    "logic on the motors' pack",
    "watch",
    () => schools(workshop(), { logicSupply: "own pack" }),
    () => schools(workshop(), { logicSupply: "main pack" }),
    "pack",
  ),
  fact(
    "bar-link",
    "a meshed link lighter than the fuse behind it",
    "fix",
    () => meshed("18 AWG"),
    () => meshed("6 AWG"),
    "fuse",
  ),
  fact(
    "light-return",
    "14 under 10 AWG",
    "watch",
    () => thin(workshop(), "drive", "14 AWG"),
    () => workshop(),
  ),
  fact(
    "return-rings",
    "one ring for a board that talks",
    "watch",
    () => ringed(1),
    () => ringed(2),
  ),
  fact(
    "isolation",
    "an isolator with a ground beside it",
    "fix",
    () => join(talking({ kind: "opto" }), "signal", "mind.-", "drive.in-", "26 AWG"),
    () => talking({ kind: "opto" }),
    "own",
  ),
  fact(
    "isolation",
    "both sides meet anyway",
    "watch",
    () => talking({ kind: "isolated supply" }),
    () => talking({ kind: "opto" }),
    "meets",
  ),
  fact(
    "isolation",
    "an isolated converter joined outside",
    "watch",
    () => join(isolated(), "return", "iso.out-", "n1", "18 AWG"),
    isolated,
    "converter",
  ),
  fact(
    "chassis-bond",
    "a frame bonded twice",
    "fix",
    () => join(framed(), "bond", "n2", "frame", undefined, { bondBy: "standoff", lengthM: undefined }),
    () => framed(),
    "twice",
  ),
  fact(
    "chassis-bond",
    "a frame that carries a return",
    "fix",
    () => land(framed(), "drive", "frame"),
    () => framed(),
    "return",
  ),
  fact(
    "chassis-bond",
    "a bond thinner than its trunk",
    "fix",
    () => framed({}, "8 AWG"),
    () => framed({}, "6 AWG"),
    "light",
  ),
  fact(
    "chassis-bond",
    "its school bonds once",
    "fix",
    () => schools(frame(), { chassis: "bonded once" }),
    () => schools(framed(), { chassis: "bonded once" }),
    "school",
  ),
  fact(
    "chassis-bond",
    "its school floats",
    "watch",
    () => schools(framed(), { chassis: "floating" }),
    () => schools(frame(), { chassis: "floating" }),
    "school",
  ),
  edge("chassis-fault", "five times the fuse: a bond too poor", "fix", 0.0998, slipping),
  edge("chassis-fault", "nothing opens", "stop", 0.4242, slipping),
  fact(
    "noise-practice",
    "an inertial sensor on a shared rail",
    "watch",
    () => sensing({ senses: "inertial" }),
    () => sensing({ senses: "inertial", filterOhm: f(10), filterF: f(1e-5) }),
    "inertial",
  ),
  fact("noise-practice", "a magnetic one", "watch", () => sensing({ senses: "magnetic" }), workshop, "magnetic"),
  edge("noise-practice", "60 dB below line level", "watch", 0.1947, heard, { key: "hum" }),
  edge("loose-return", "what a signal ground bears of a loose return", "fix", 2.15, (a) => looped(a)),
  fact("loose-return", "one of no known size", "ask", unsized, () => looped(20)),
  edge("board-ground", "half an amp through any board", "ask", 0.5, (a) => onBoard(a), { key: "ask" }),
  edge("board-ground", "three amps, which hardly any bears", "fix", 3, (a) => onBoard(a), { key: "ask" }),
  edge("board-ground", "what it carries", "fix", 2, (a) => onBoard(a, 2)),
  edge("board-ground", "100 K of a trace: 20 K at its rating, I^(1/0.44)", "stop", 2 * 5 ** 0.44, (a) => onBoard(a, 2)),
  fact(
    "link-volts",
    "5 V into a 3.3 V input",
    "stop",
    () => talking({ sender: "cmos5", receiver: "lvcmos33" }),
    () => talking({ sender: "lvcmos33", receiver: "lvcmos33" }),
  ),
  edge(
    "link-volts",
    "a milliamp through a resistor: (5 − 3.3 − 0.6) V / R",
    "stop",
    1100,
    (ohm) => talking({ sender: "cmos5", receiver: "lvcmos33", seriesOhm: f(ohm) }),
    { below: true },
  ),
];

/** A ground of no known size beside the heavy one. */
function unsized(): Machine {
  return join(talking(), "signal", "mind.-", "drive.in-", undefined);
}
function fusedReturn(machine: Machine): Machine {
  return must(machine, { type: "setFuse", wireId: backOf(machine, "mind").id, fuse: { family: "blade_regular_32v", ratingA: 3 } });
}
/** A thin ground beside a return that is too thin for its length. */
function starved(amps: number): Machine {
  return thin(looped(amps, "30 AWG"), "drive", "18 AWG", 1);
}
/** A thin ground of some length. */
function long(metres: number): Machine {
  return looped(20, "30 AWG", { lengthM: f(metres) });
}
