import { describe, expect, it } from "vitest";
import { change } from "@/tests/support/judged";
import { driven, must, simple } from "@/tests/support/small";
import { upstreamOf } from "../machine/apply";
import { datasheet as f } from "../machine/figure";
import { finish } from "../machine/finish";
import type { Machine } from "../machine/schema";
import { causesOf } from "../verdicts/causes";
import { isBuildable } from "./buildable";
import { offersFor } from "./offers";
import { settle } from "./settle";
import { takesOf } from "./takes";
import { Trials } from "./trial";

/** A driver of 40 A at most before a motor that stalls at 120 A, with nothing that limits it. */
const untamed = () => driven({ limitA: undefined, continuousA: f(20), peakA: f(40) }, { levels: { run: f(12), stall: f(120) } });

const gauged = (gauge: string, parallel = 1) => must(simple(), { type: "setFeed", id: "w2", changes: { gauge, parallel } });

describe("cures that come before metal", () => {
  it("a limit in the driver is offered first for a stall that it does not survive, with the torque it leaves", () => {
    const trials = new Trials();
    const machine = untamed();
    const cause = causesOf(machine, trials.at(machine).swift).find(({ head }) => head.rule === "driver-current");
    const [first] = cause ? offersFor(trials, machine, cause).offers : [];
    expect(first?.command).toMatchObject({ type: "updatePart", id: "drive", changes: { limitA: { provenance: "guess" } } });
    expect(first?.label).toMatch(/% of its stall torque/);
  });

  it("Settle takes it, and says that it costs no money", () => {
    const { changes, machine } = finish(settle(untamed(), "fewest"));
    const limit = machine.parts.find(({ id }) => id === "drive");
    expect(limit?.kind === "driver" && limit.limitA?.value).toBeLessThanOrEqual(40 * 0.9);
    expect(changes.find(({ what }) => /current limit/.test(what))?.takes).toEqual({ money: "no money", work: "one number to set" });
  });

  it("to say that something is so already is an answer, no change", () => {
    const machine = change(driven(), "drive", { freewheel: "missing" });
    const { changes, yours } = finish(settle(machine, "fewest"));
    const answers = yours.flatMap((each) => each.answers.map(({ label }) => label));
    expect(answers).toContain("They are fitted");
    expect(changes.flatMap(({ what }) => what)).not.toContain("They are fitted");
  });
});

describe("changes a careful builder makes", () => {
  const may = (before: Machine, after: Machine) => isBuildable(before, new Trials().at(after));

  it.each([
    ["one size more", gauged("12 AWG"), true],
    ["far more copper than its fuse asks for", gauged("2 AWG"), false],
    ["three in parallel", gauged("14 AWG", 3), false],
    ["a thinner wire", gauged("18 AWG"), false],
    ["nothing at all", simple(), true],
  ])("%s", (_what, after, expected) => {
    expect(may(simple(), after)).toBe(expected);
  });

  it("counts what a change takes: wires to cut, parts, numbers to set", () => {
    expect(takesOf(simple(), gauged("12 AWG"))).toEqual({ money: "small parts", work: "2 wires to cut" });
    expect(takesOf(simple(), simple())).toEqual({ money: "no money", work: "nothing on the machine" });
  });

  it("what hung on a part that is removed goes where that part hung: behind the same fuse", () => {
    const machine = simple();
    const motor = machine.parts.find(({ id }) => id === "motor");
    expect(motor && upstreamOf(machine, motor)).toEqual({ part: "main", terminal: "out" });
  });
});
