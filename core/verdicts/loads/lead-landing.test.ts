import { describe, expect, it } from "vitest";
import { typical } from "@/core/machine/figure";
import type { Machine } from "@/core/machine/schema";
import { one, remedied, said } from "@/tests/support/judged";
import { at, driven, must, part, simple } from "@/tests/support/small";

/** A driver of two channels with a motor on the first and a bar on each side. */
function twoChannels(): Machine {
  let machine = driven({ channels: 2 });
  machine = part(machine, "bar", "plus", {}, { from: "main.out", wire: { gauge: "4 AWG", lengthM: typical(0.2) } });
  return part(machine, "bar", "minus", { side: "negative" }, { back: "pack.-", wire: { gauge: "4 AWG", lengthM: typical(0.2) } });
}

function landed(ends: { out?: string; back?: string }): Machine {
  let machine = twoChannels();
  const out = machine.wires.find(({ to }) => to.part === "motor")?.id ?? "";
  const back = machine.wires.find(({ from }) => from.part === "motor")?.id ?? "";
  if (ends.out) machine = must(machine, { type: "reland", wireId: out, end: "from", at: at(ends.out) });
  if (ends.back) machine = must(machine, { type: "reland", wireId: back, end: "to", at: at(ends.back) });
  return machine;
}

describe("motor leads on the wrong terminal", () => {
  it.each([
    ["the other channel", { back: "drive.2b" }, "stop"],
    ["the driver's supply", { out: "drive.in+" }, "stop"],
    ["the plus bar", { back: "plus" }, "stop"],
    ["the minus bar", { back: "minus" }, "fix"],
    ["the pack's minus", { back: "pack.-" }, "fix"],
    ["one leg, both", { back: "drive.1a" }, "fix"],
    ["each other's leg", { out: "drive.1b", back: "drive.1a" }, "fix"],
  ] as const)("on %s is said, and landing them again settles it", (_, ends, severity) => {
    const verdict = one(landed(ends), "lead-landing");
    expect(verdict?.severity).toBe(severity);
    expect(said(remedied(landed(ends), verdict), "lead-landing")).toEqual([]);
    expect(said(remedied(landed(ends), verdict), "polarity")).toEqual([]);
  });

  it("leads that run through a bar, and what hangs straight on a rail, are in order", () => {
    expect(said(twoChannels(), "lead-landing")).toEqual([]);
    expect(said(simple(), "lead-landing")).toEqual([]);
    let machine = must(twoChannels(), { type: "removePart", id: "motor" });
    machine = part(machine, "bar", "split", { form: "junction" }, { from: "drive.2a", wire: { gauge: "4 AWG", lengthM: typical(0.1) } });
    machine = part(
      machine,
      "load",
      "second",
      { nominalV: typical(24), levels: { stall: typical(20) }, cells: { m1: { state: "off" } } },
      { from: "split", back: "drive.2b", wire: { gauge: "4 AWG", lengthM: typical(0.1) } },
    );
    expect(said(machine, "lead-landing")).toEqual([]);
  });
});
