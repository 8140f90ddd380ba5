import { describe, expect, it } from "vitest";
import { settledBarge } from "@/tests/support/barge";
import { change } from "@/tests/support/judged";
import { driven, must, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { faultWalk } from "../faults/walk";
import { contactsOf } from "../figures/contacts";
import { datasheet as f } from "../machine/figure";
import type { Machine } from "../machine/schema";
import { explain } from "../working/explain";
import { fusePicture } from "./fuse-picture";

function pictureOf(machine: Machine, of: { kind: "wire" | "part"; id: string }) {
  const { figures } = analyse(machine);
  return fusePicture(figures, faultWalk(figures), of);
}
const MAIN = { kind: "part" as const, id: "main" };

describe("the time-current picture", () => {
  it("falls from left to right, earliest before latest, with the standard's gates on the curves", () => {
    const picture = pictureOf(simple(), MAIN);
    for (const curve of [picture?.earliest ?? [], picture?.latest ?? []]) {
      expect(curve.length).toBeGreaterThan(20);
      curve.slice(1).forEach((point, i) => {
        expect(point.amps).toBeGreaterThan(curve[i]?.amps ?? 0);
        expect(point.seconds).toBeLessThanOrEqual((curve[i]?.seconds ?? 0) * (1 + 1e-9));
      });
    }
    for (const late of picture?.latest ?? []) {
      const early = picture?.earliest.find(({ amps }) => amps === late.amps);
      if (early) expect(early.seconds).toBeLessThanOrEqual(late.seconds);
    }
    expect(picture?.gates.find(({ amps }) => amps === 40)).toMatchObject({ minS: 0.15, maxS: 5 });
  });

  it("shows what its wire bears, each mode, and the short at the far end", () => {
    const machine = must(simple(), { type: "addMode", name: "Start", lastsS: 2, copyFrom: "m1" });
    const picture = pictureOf(machine, MAIN);
    expect(picture?.marks.map(({ label, seconds }) => [label, seconds])).toEqual([
      ["Running", null],
      ["Start", 2],
    ]);
    expect(picture?.short?.leastA).toBeLessThan(picture?.short?.mostA ?? 0);
    const wire = picture?.wire ?? [];
    expect(wire.length).toBeGreaterThan(10);
    wire.slice(1).forEach((point, i) => {
      expect(point.seconds).toBeLessThanOrEqual(wire[i]?.seconds ?? 0);
    });
    expect(pictureOf(simple(), { kind: "wire", id: "w2" })).toBeNull();
    expect(pictureOf(simple(), { kind: "part", id: "motor" })).toBeNull();
  });

  it("answers the motor branch: a start that holds, a stall it ends or does not, and what is not known", () => {
    const motor = { motor: { startS: f(0.05), windingS: f(30) } };
    const answer = (machine: Machine) => pictureOf(machine, MAIN)?.motor[0];
    // Behind a driver that is not on the fuse's own place there is no such question.
    expect(answer(driven())).toBeUndefined();
    const direct = change(simple(), "motor", { levels: { run: f(5), stall: f(60) }, ...motor });
    const fused = must(direct, { type: "updateWire", id: "w2", changes: { fuse: { family: "blade_regular_32v", ratingA: 20 } } });
    const own = pictureOf(fused, { kind: "wire", id: "w2" })?.motor[0];
    // 60 A is three times its rating: open between 40 ms and 5 s; the winding bears twelve times its current for a moment.
    expect(own?.stallOpens?.minS).toBeGreaterThan(0);
    expect(own?.endsStall).toBe("no");
    const slow = change(fused, "motor", { levels: { run: f(20), stall: f(60) }, motor: { startS: f(0.01), windingS: f(3600) } });
    expect(pictureOf(slow, { kind: "wire", id: "w2" })?.motor[0]).toMatchObject({ holdsStart: "yes", endsStall: "yes" });
    const unknown = change(fused, "motor", { motor: undefined });
    expect(pictureOf(unknown, { kind: "wire", id: "w2" })?.motor[0]).toMatchObject({ holdsStart: "ask", endsStall: "ask", windingS: null });
  });

  it("sees little of a stall that a driver holds by chopping", () => {
    const barge = settledBarge();
    const feed = barge.wires.find(({ to }) => to.part === "drive-conveyor")?.id ?? "";
    const own = pictureOf(barge, { kind: "wire", id: feed })?.motor[0];
    expect(own?.stallA).toBeLessThan(15);
    expect(own?.endsStall).not.toBe("yes");
  });
});

describe("contacts side by side", () => {
  it("tells what each has to break, what it fills, and what the stop leaves alive", () => {
    const { figures } = analyse(settledBarge());
    const { contacts, stop } = contactsOf(figures);
    const contactor = contacts.find(({ id }) => id === "stop");
    expect(contactor?.amps).toBeGreaterThan(50);
    expect(contactor?.bank?.farads).toBeCloseTo(2 * 2200e-6 + 2 * 1000e-6 + 470e-6, 9);
    // τ ln(U/5 V) = 60 s: what empties it within a minute of opening.
    const bank = contactor?.bank;
    expect((bank?.bleedOhm ?? 0) * (bank?.farads ?? 0) * Math.log((contactor?.volts ?? 0) / 5)).toBeCloseTo(60, 6);
    expect(contactor?.precharge).toMatchObject({ planned: true, ohm: 3.3 });
    expect(contacts.find(({ id }) => id === "main-switch")?.bank).toBeNull();
    expect(stop?.stops).toEqual(["stop"]);
    expect(stop?.dead).toEqual(expect.arrayContaining(["drive-cutter", "cutter"]));
    expect(stop?.alive).toEqual(expect.arrayContaining(["controller", "buck-5"]));
    expect(stop?.logicDark).toEqual([]);
    expect(contactsOf(analyse(simple()).figures)).toEqual({ contacts: [], stop: null });
  });
});

describe("workings of a wire's limit", () => {
  const working = (machine: Machine, kind: "wireLimit" | "wireTemperature") => explain(analyse(machine).figures, { kind, wire: "w2" });
  const under = (ampacity: "boat" | "building" | "heat balance") => {
    const machine = simple({ gauge: "12 AWG", amps: 8 });
    return must(machine, { type: "setSettings", changes: { schools: { ...machine.settings.schools, ampacity } } });
  };

  it.each(["boat", "building", "heat balance"] as const)("name the school %s, its factors, and give its figure", (school) => {
    const machine = under(school);
    const limit = working(machine, "wireLimit");
    expect(limit?.value).toBeCloseTo(analyse(machine).figures.wires.w2?.limitA ?? 0, 9);
    expect(limit?.school?.toLowerCase()).toContain(school === "heat balance" ? "heat balance" : school);
    expect(limit?.inputs.some(({ label }) => label.includes("k_B"))).toBe(true);
    const temperature = working(machine, "wireTemperature");
    expect(temperature?.value).toBeGreaterThan(25);
    expect(temperature?.inputs.some(({ label }) => label.startsWith("τ"))).toBe(true);
  });

  it("tell what each mode does to the conductor, lasting or timed", () => {
    const start = must(under("heat balance"), { type: "addMode", name: "Start", lastsS: 3 });
    const mode = start.modes[1]?.id ?? "";
    const machine = must(start, { type: "setCell", loadId: "motor", modeId: mode, cell: { state: "amps", amps: f(90) } });
    const inputs = working(machine, "wireTemperature")?.inputs ?? [];
    expect(inputs.find(({ label }) => label === "Running")?.text).toMatch(/settles at \d+/);
    const timed = inputs.find(({ label }) => label === "Start")?.text ?? "";
    expect(timed).toMatch(/for 3\.0\ss: \d+\s°C from cold, at its limit after/);
  });

  it("of a board trace show IPC-2221, and of a sleeve its factor", () => {
    const trace = must(simple({ amps: 2 }), {
      type: "setFeed",
      id: "w2",
      changes: { gauge: undefined, board: { kind: "trace", widthMm: f(5), copperUm: f(35), layer: "outside" } },
    });
    expect(working(trace, "wireLimit")?.formula).toContain("0.725");
    expect(working(trace, "wireLimit")?.value).toBeCloseTo(10.42, 1);
    const pads = must(trace, { type: "setFeed", id: "w2", changes: { board: { kind: "pads" } } });
    expect(working(pads, "wireLimit")?.value).toBe(2);
    const sleeved = must(simple(), { type: "setFeed", id: "w2", changes: { surroundings: "sleeve" } });
    expect(working(sleeved, "wireLimit")?.formula).toContain("k_S");
  });
});
