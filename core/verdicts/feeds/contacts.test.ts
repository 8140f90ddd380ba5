import { describe, expect, it } from "vitest";
import { settledBarge } from "@/tests/support/barge";
import { change, one, said, schools } from "@/tests/support/judged";
import { at, driven, must, part, simple } from "@/tests/support/small";
import { analyseFully } from "../../analysis/fully";
import { contactsOf } from "../../figures/contacts";
import { newMachine } from "../../machine/defaults";
import { datasheet as f } from "../../machine/figure";
import type { Cell, Machine } from "../../machine/schema";

describe("contacts", () => {
  /** Pack, fuse, a contact that opens in the second mode, and a load behind it. */
  function switched(over: object, amps = 15, packV = 24, rest: Cell = { state: "off" }): Machine {
    let machine = must(newMachine("Switched"), { type: "addMode", name: "Off", lastsS: null });
    machine = must(machine, { type: "addMode", name: "Ready", lastsS: null });
    const [on = "", off = "", ready = ""] = machine.modes.map(({ id }) => id);
    machine = part(machine, "pack", "pack", {
      openCircuitV: f(packV),
      fullV: f(packV * 1.1),
      lowV: f(packV * 0.95),
      internalOhm: f(0.01),
      continuousA: f(100),
    });
    machine = part(
      machine,
      "switch",
      "main",
      { contactOhm: f(3e-4), openIn: [off], ...over },
      { from: "pack.+", wire: { gauge: "10 AWG", lengthM: f(0.1), fuse: { family: "strip_m5_58v", ratingA: 40 } } },
    );
    return part(
      machine,
      "load",
      "heater",
      {
        loadKind: "heater",
        nominalV: f(packV),
        cells: { [on]: { state: "amps", amps: f(amps) }, [off]: { state: "amps", amps: f(amps) }, [ready]: rest },
      },
      { from: "main.out", back: "pack.-", wire: { gauge: "10 AWG", lengthM: f(0.5) } },
    );
  }

  it("that open under load say what they break, or are asked", () => {
    expect(one(switched({}), "dc-contact")?.severity).toBe("ask");
    expect(said(switched({ breakA: f(30), breakV: f(32) }), "dc-contact")).toEqual([]);
    expect(one(switched({ breakA: f(10), breakV: f(32) }), "dc-contact", "amps")).toMatchObject({ severity: "stop", limit: 10 });
    expect(one(switched({ breakA: f(30), breakV: f(24) }), "dc-contact", "volts")?.severity).toBe("stop");
    expect(one(switched({ acOnly: true }), "dc-contact", "ac")?.severity).toBe("stop");
    expect(one(switched({ acOnly: true, openIn: [] }), "dc-contact", "ac")?.severity).toBe("fix");
    expect(said(switched({}, 15, 9), "dc-contact")).toEqual([]);
  });

  it("precharge capacitors that would weld them, enough and for long enough", () => {
    const bank = (over: object, farads = 6e-3) =>
      change(switched({ breakA: f(30), breakV: f(32), ...over }), "heater", { inputF: f(farads) });
    expect(one(bank({}), "precharge")?.severity).toBe("fix");
    expect(one(bank({}), "precharge")?.value).toBeCloseTo(0.5 * 6e-3 * 26.4 ** 2, 6);
    expect(said(bank({}, 100e-6), "precharge")).toEqual([]);
    const good = { prechargeOhm: f(33), prechargeS: f(1.2), prechargeJ: f(10), makeA: f(200) };
    expect(said(bank(good), "precharge")).toEqual([]);
    expect(one(bank({ ...good, prechargeS: f(0.3) }), "precharge", "gap")?.severity).toBe("fix");
    expect(one(bank({ ...good, prechargeJ: f(1) }), "precharge", "pulse")?.severity).toBe("fix");
    expect(one(bank({ ...good, prechargeJ: undefined }), "precharge", "pulse")?.severity).toBe("ask");
    expect(one(bank({ ...good, prechargeS: undefined }), "precharge", "time")?.severity).toBe("ask");
    expect(one(bank({ ...good, prechargeS: f(0.3), makeA: f(20) }), "precharge", "make")?.severity).toBe("fix");
  });

  it("do not fill what something behind them keeps empty", () => {
    const good = { breakA: f(30), breakV: f(32), prechargeOhm: f(33), prechargeS: f(1.2), prechargeJ: f(10) };
    const drawing = change(switched(good, 15, 24, { state: "amps", amps: f(0.2) }), "heater", { inputF: f(6e-3) });
    expect(one(drawing, "precharge", "gap")?.value).toBeCloseTo(26.4 * Math.exp(-1.2 / (33 * 6e-3)) + 0.2 * 33, 6);
    const held = change(switched(good, 15, 24, { state: "amps", amps: f(10) }), "heater", { inputF: f(6e-3) });
    expect(one(held, "precharge", "gap")?.value).toBeCloseTo(26.4, 6);
    expect(contactsOf(analyseFully(held).figures).contacts[0]?.precharge?.gapV).toBeCloseTo(26.4, 6);
  });

  it("ask for the capacitors of drivers nobody told of, with a precharge or without", () => {
    let machine = driven({}, {}, 36);
    machine = part(machine, "switch", "sw", { contactOhm: f(3e-4) }, { from: "main.out", wire: { gauge: "4 AWG", lengthM: f(0.1) } });
    const wire = machine.wires.find(({ to }) => to.part === "drive");
    machine = must(machine, { type: "reland", wireId: wire?.id ?? "", end: "from", at: at("sw.out") });
    expect(one(machine, "precharge", "ask")?.also).toEqual(["drive"]);
    expect(one(change(machine, "sw", { prechargeOhm: f(33) }), "precharge", "ask")?.also).toEqual(["drive"]);
  });

  it("of a charging port are recessed, fused by the battery, and hold motion", () => {
    const port = (over: object) =>
      part(
        simple(),
        "switch",
        "port",
        { device: "charging port", contactOhm: f(1e-3), ratedA: f(10), ...over },
        { from: "main.out", wire: { gauge: "14 AWG", lengthM: f(0.4) } },
      );
    const severities = (over: object) => said(port(over), "charging-port").map(({ severity }) => severity);
    expect(severities({})).toEqual(["fix", "ask", "ask"]);
    expect(severities({ recessed: false, holdsMotion: false, ratedA: f(30) })).toEqual(["stop", "fix"]);
    expect(severities({ recessed: true, holdsMotion: true, ratedA: f(30) })).toEqual([]);
  });
});

describe("the emergency stop", () => {
  const stop = { devices: 2, normallyClosed: true, deliberateReset: true };

  it("says nothing without a school, and wants a marked contact under the one that opens power", () => {
    expect(said(driven(), "stop-circuit")).toEqual([]);
    expect(one(schools(driven(), { stop: "opens power" }), "stop-circuit")?.severity).toBe("fix");
  });

  it("finds what still moves and which boards go dark", () => {
    const barge = settledBarge();
    const before = said(barge, "stop-circuit").filter(({ severity }) => severity !== "watch");
    expect(before).toEqual([]);
    const cutter = barge.wires.find(({ to }) => to.part === "drive-cutter");
    const around = must(barge, { type: "reland", wireId: cutter?.id ?? "", end: "from", at: at("bar-p0") });
    const moving = one(around, "stop-circuit", "moving");
    expect(moving?.severity).toBe("stop");
    expect(moving?.also).toContain("cutter");
    const logic = barge.wires.find(({ to }) => to.part === "buck-5");
    const dark = must(barge, { type: "reland", wireId: logic?.id ?? "", end: "from", at: at("bar-p1") });
    expect(one(dark, "stop-circuit", "logic")?.also).toEqual(expect.arrayContaining(["controller", "computer"]));
  });

  it("wants loops that stop when they break, and a reset of its own", () => {
    const barge = settledBarge();
    const loop = (over: object) =>
      said(change(barge, "stop", { stop: { ...stop, ...over } }), "stop-circuit").filter(({ severity }) => severity !== "watch");
    expect(loop({ normallyClosed: false }).map(({ severity }) => severity)).toEqual(["stop"]);
    expect(loop({ deliberateReset: false }).map(({ severity }) => severity)).toEqual(["fix"]);
    expect(loop({})).toEqual([]);
  });

  it("asks for an input of each drive under the school that disables them, and does not trust enable lines alone", () => {
    const machine = schools(driven(), { stop: "disables drives" });
    expect(one(machine, "stop-circuit", "input")?.severity).toBe("ask");
    expect(one(change(machine, "drive", { stopInput: "enable" }), "stop-circuit", "silicon")?.severity).toBe("watch");
    const certified = change(machine, "drive", { stopInput: "certified" });
    expect(said(certified, "stop-circuit")).toEqual([]);
    const fan = part(
      certified,
      "load",
      "thrower",
      { loadKind: "motor", nominalV: f(24), cells: { m1: { state: "amps", amps: f(1) } } },
      { from: "main.out", back: "pack.-", wire: { gauge: "14 AWG", lengthM: f(0.5) } },
    );
    expect(one(fan, "stop-circuit", "undriven")).toMatchObject({ severity: "stop", also: ["thrower"] });
  });

  it("counts coils among what moves", () => {
    const barge = settledBarge();
    const latch = part(
      barge,
      "load",
      "latch",
      { loadKind: "coil", nominalV: f(24), cells: {} },
      { from: "bar-p0", back: "bar-n1", wire: { gauge: "18 AWG", lengthM: f(0.5) } },
    );
    expect(one(latch, "stop-circuit", "moving")?.also).toContain("latch");
  });
});
