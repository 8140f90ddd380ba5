import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { analyseFully } from "@/core/analysis/fully";
import { typical } from "@/core/machine/figure";
import type { Machine, Settings } from "@/core/machine/schema";
import { backOf, board, join, land, link, withBrain, workshop } from "@/tests/support/grounds";
import { change, one, said, settle } from "@/tests/support/judged";
import { must, part } from "@/tests/support/small";
import { CONNECTORS } from "../../reference/connectors";
import { parasiticV, pinA } from "./pin-current";

const school = (machine: Machine, schools: Partial<Settings["schools"]>) =>
  must(machine, { type: "setSettings", changes: { schools: { ...machine.settings.schools, ...schools } } });

const thin = (machine: Machine, id: string, gauge: string) =>
  must(machine, { type: "updateWire", id: backOf(machine, id).id, changes: { gauge } });

const returnsOf = (machine: Machine) => analyseFully(machine).analysis.verdicts.filter(({ step }) => step === "returns");
const lateOne = (machine: Machine, rule: string) => analyseFully(machine).analysis.verdicts.find((verdict) => verdict.rule === rule);

describe("a workshop whose returns are well", () => {
  it("has nothing said about them, with links and without", () => {
    expect(returnsOf(workshop())).toEqual([]);
    expect(returnsOf(link(link(workshop(), "mind", "drive"), "sense", "mind", { kind: "serial" }))).toEqual([]);
  });
});

describe("a link's offset against its budget", () => {
  const far = () => link(thin(thin(workshop(), "n2", "14 AWG"), "drive", "16 AWG"), "mind", "drive");

  it("stops beyond the whole margin, fixes beyond the budget, watches close to it, and is silent well inside", () => {
    expect(one(far(), "link-offset")?.severity).toBe("stop");
    expect(one(thin(far(), "drive", "10 AWG"), "link-offset")?.severity).toBe("fix");
    expect(
      one(link(thin(workshop(), "n2", "8 AWG"), "mind", "drive", { sender: "mcu33", receiver: "mcu33" }), "link-offset"),
    ).toBeUndefined();
    const close = link(thin(workshop(), "n2", "12 AWG"), "mind", "drive");
    expect(one(close, "link-offset")?.severity).toBe("watch");
  });

  it("is settled by each of its remedies, or brought nearer", () => {
    const bad = thin(far(), "drive", "10 AWG");
    const before = one(bad, "link-offset")?.value ?? 0;
    for (const { command, label } of one(bad, "link-offset")?.remedies ?? []) {
      const after = one(settle(bad, command), "link-offset");
      expect(after?.value ?? 0, label).toBeLessThan(before);
    }
    expect(one(bad, "link-offset")?.remedies.length).toBeGreaterThan(1);
  });

  it("follows the builder's share of the margin", () => {
    const close = link(thin(workshop(), "n2", "12 AWG"), "mind", "drive");
    const strict = must(close, { type: "setSettings", changes: { links: { staticShare: 0.2, peakShare: 0.8, capV: 0.3 } } });
    expect(one(strict, "link-offset")?.severity).toBe("fix");
  });

  it("asks instead of clearing where a return on the way has no size, and where the levels are not told", () => {
    const unsized = must(link(workshop(), "mind", "drive"), {
      type: "updateWire",
      id: backOf(workshop(), "n2").id,
      changes: { gauge: undefined },
    });
    expect(one(unsized, "link-offset")?.severity).toBe("ask");
    expect(one(link(workshop(), "mind", "drive", { receiver: undefined }), "link-offset", "missing")?.severity).toBe("ask");
    expect(one(link(workshop(), "sense", "mind", { kind: "analogue" }), "link-offset", "missing")?.severity).toBe("ask");
  });

  it("asks where a load that would move the grounds is not known", () => {
    const machine = must(link(workshop(), "mind", "drive"), { type: "setCell", loadId: "motor", modeId: "m2", cell: null });
    expect(one(machine, "link-offset")?.severity).toBe("ask");
  });

  it("asks for the ground wire of a USB cable, which always ties", () => {
    const cable = link(workshop(), "mind", "sense", { kind: "usb" });
    const verdict = one(cable, "link-offset", "cable");
    expect(verdict?.severity).toBe("ask");
    expect(one(settle(cable, verdict?.remedies[0]?.command), "link-offset", "cable")).toBeUndefined();
  });

  it("refuses levels that do not fit whatever the grounds do", () => {
    expect(
      one(link(workshop(), "mind", "sense", { sender: "lvcmos33", receiver: "cmos5_ratio_in" }), "link-offset", "levels")?.severity,
    ).toBe("fix");
  });

  it("lets isolated inputs and differential links pass what logic may not", () => {
    expect(one(change(far(), "drive", { isolatedInputs: true }), "link-offset")).toBeUndefined();
    expect(one(link(thin(workshop(), "n2", "14 AWG"), "mind", "drive", { kind: "rs485" }), "link-offset")).toBeUndefined();
  });

  it("speaks once for all links that one conductor moves", () => {
    let machine = land(thin(workshop(), "n2", "16 AWG"), "mind", "n2");
    machine = link(link(board(machine, "radio", "n1"), "mind", "sense"), "radio", "mind");
    const verdicts = said(machine, "link-offset");
    expect(verdicts).toHaveLength(1);
    expect([verdicts[0]?.subject.id, ...(verdicts[0]?.also ?? [])]).toEqual(expect.arrayContaining(["mind", "sense", "radio"]));
  });
});

describe("analogue readings", () => {
  const read = (wish?: number) =>
    link(land(workshop(), "sense", "drive.in-"), "sense", "mind", {
      kind: "analogue",
      fullScaleV: typical(5),
      bits: 10,
      ...(wish ? { wishCounts: typical(wish) } : {}),
    });

  it("tells the error in counts against the wish, or half a count", () => {
    const verdict = one(read(), "analogue-error");
    expect(verdict?.severity).toBe("fix");
    expect(verdict?.limit).toBeCloseTo(2.44e-3, 5);
    expect(one(read(60), "analogue-error")).toBeUndefined();
  });

  it("is settled by landing the sensor where it is read", () => {
    const cure = one(read(2), "analogue-error")?.remedies.find(({ command }) => command.type === "reland");
    expect(cure).toBeDefined();
    expect((one(settle(read(2), cure?.command), "analogue-error")?.value ?? 0) * 4).toBeLessThan(
      one(read(2), "analogue-error")?.value ?? 0,
    );
  });
});

/** A second pack that feeds a board of its own; no minus of it meets the first. */
function twoPacks(): Machine {
  const fed = { lengthM: typical(0.3), fuse: { family: "blade_regular_32v" as const, ratingA: 3 } };
  return link(withBrain(workshop(), fed), "brain", "drive");
}

describe("a common reference", () => {
  it("is missing between two packs that never meet, and made by one tie at the bars", () => {
    const verdict = one(twoPacks(), "common-reference");
    expect(verdict?.severity).toBe("fix");
    const tied = settle(twoPacks(), verdict?.remedies[0]?.command);
    expect(one(tied, "common-reference")).toBeUndefined();
    const tie = tied.wires.at(-1);
    expect([tie?.role, ...[tie?.from.part, tie?.to.part].sort()]).toEqual(["return", "n1", "small"]);
  });

  it("is told once for all links between the same two packs, and apart for a board whose return is open", () => {
    const machine = link(link(twoPacks(), "mind", "brain"), "sense", "brain", { kind: "serial" });
    const [verdict, ...others] = said(machine, "common-reference");
    expect(others).toEqual([]);
    expect([verdict?.subject.id, ...(verdict?.also ?? [])].sort()).toEqual(["brain", "drive", "mind", "sense"]);
    const { status } = analyse(machine).analysis;
    for (const id of ["brain", "drive", "mind", "sense"]) expect(status[id], id).toBe("fix");
    // One tie settles them all.
    expect(said(settle(machine, verdict?.remedies[0]?.command), "common-reference")).toEqual([]);
    const open = must(machine, { type: "removeWire", id: backOf(machine, "sense").id });
    expect(said(open, "common-reference")).toHaveLength(2);
  });

  it("is not needed by an isolated link, and needed by two wires of RS-485", () => {
    expect(one(settle(twoPacks(), one(twoPacks(), "common-reference")?.remedies.at(-1)?.command), "common-reference")).toBeUndefined();
    const bus = must(twoPacks(), { type: "updateSignal", id: "s1", changes: { kind: "rs485" } });
    expect(one(bus, "common-reference")?.severity).toBe("fix");
  });

  it("stops a link between grounds that a source holds apart", () => {
    // The small pack stands on the plus bar: a stack.
    const stacked = join(twoPacks(), "return", "small.-", "plus", "14 AWG");
    const verdict = one(stacked, "common-reference");
    expect(verdict?.severity).toBe("stop");
    expect(verdict?.remedies.some(({ command }) => command.type === "addWire")).toBe(false);
  });

  it("is gone with an open return, which both the wiring and the link say", () => {
    const open = must(link(workshop(), "mind", "sense"), { type: "removeWire", id: backOf(workshop(), "sense").id });
    expect(one(open, "wiring")?.severity).toBe("stop");
    expect(one(open, "common-reference")).toBeDefined();
  });
});

describe("signal grounds", () => {
  const looped = (gauge = "26 AWG", over = {}) => join(link(workshop(), "mind", "drive"), "signal", "mind.-", "drive.in-", gauge, over);

  it("are a loop beside the heavy return, with its amps, and cured by dropping, a resistor, or an isolator", () => {
    const verdict = one(looped(), "ground-loop");
    expect(verdict?.severity).toBe("watch");
    expect(verdict?.value).toBeGreaterThan(0.3);
    for (const { command, label } of verdict?.remedies ?? []) expect(one(settle(looped(), command), "ground-loop"), label).toBeUndefined();
    expect(verdict?.remedies).toHaveLength(3);
  });

  it("are to be mended when they carry more than they can", () => {
    const starved = thin(thin(looped("30 AWG"), "drive", "18 AWG"), "n2", "18 AWG");
    expect(one(starved, "signal-ground")?.severity).toBe("fix");
  });

  it("ask where their size is not known, and say nothing of a ground that carries nothing", () => {
    const unsized = join(link(workshop(), "mind", "drive"), "signal", "mind.-", "drive.in-", undefined);
    expect(one(unsized, "ground-loop")?.severity).toBe("ask");
    const quiet = join(link(workshop(), "mind", "sense"), "signal", "mind.-", "sense.-", "26 AWG");
    expect(one(quiet, "ground-loop")?.value ?? 0).toBeLessThan(0.02);
  });

  it("take everything when the heavy return comes loose", () => {
    const verdict = lateOne(looped(), "loose-return");
    expect(verdict?.severity).toBe("fix");
    expect(verdict?.value).toBeGreaterThan(18);
    expect(lateOne(looped("8 AWG"), "loose-return")).toBeUndefined();
    expect(lateOne(link(workshop(), "mind", "drive"), "loose-return")).toBeUndefined();
  });

  it("count a shield tied at both ends, and let it be lifted at one", () => {
    const verdict = one(looped("24 AWG", { shield: true }), "ground-loop");
    const lifted = settle(looped("24 AWG", { shield: true }), verdict?.remedies[0]?.command);
    expect(one(lifted, "ground-loop")).toBeUndefined();
    expect(lifted.signals?.[0]?.shieldLifted).toBe(true);
  });

  it("tell of a part with two returns", () => {
    const twice = join(workshop(), "return", "drive.in-", "n1", "18 AWG");
    const verdict = one(twice, "ground-loop", "twice");
    expect(verdict?.severity).toBe("watch");
    expect(one(settle(twice, verdict?.remedies[0]?.command), "ground-loop")).toBeUndefined();
    // Two links between bars are no mistake.
    expect(one(join(workshop(), "return", "n2", "n1", "6 AWG"), "ground-loop")).toBeUndefined();
  });
});

describe("returns that share metal with motors", () => {
  it("are told with what they do to the board, and cured by another landing", () => {
    const riding = land(workshop(), "mind", "n2");
    const talking = link(riding, "mind", "sense");
    const verdict = one(talking, "shared-return");
    expect(verdict?.severity).toBe("watch");
    expect(verdict?.value).toBeGreaterThan(0.02);
    for (const { command } of verdict?.remedies ?? []) expect(one(settle(talking, command), "shared-return")).toBeUndefined();
  });

  it("are a Fix under the school that keeps power and logic apart, or where a link cannot bear it", () => {
    const riding = link(land(workshop(), "mind", "n2"), "mind", "sense");
    expect(one(school(riding, { returns: "joined at one point" }), "shared-return")?.severity).toBe("fix");
    expect(one(thin(riding, "n2", "16 AWG"), "shared-return")?.severity).toBe("fix");
  });

  it("do not count where everything goes the same way", () => {
    const machine = link(land(land(workshop(), "mind", "n2"), "sense", "n2"), "mind", "sense");
    expect(one(machine, "shared-return")).toBeUndefined();
  });
});

describe("the schools of returns and logic supply", () => {
  it("joined at one point wants a bar for logic, makes one, and finds what joins it again", () => {
    const asked = school(link(workshop(), "mind", "drive"), { returns: "joined at one point" });
    const verdict = one(asked, "return-school", "none");
    expect(verdict?.severity).toBe("fix");
    const apart = settle(asked, verdict?.remedies[0]?.command);
    expect(said(apart, "return-school")).toEqual([]);
    const again = join(apart, "signal", "mind.-", "drive.in-", "26 AWG");
    const joins = one(again, "return-school", "joins");
    expect(joins?.value).toBe(2);
    expect(said(settle(again, joins?.remedies[0]?.command), "return-school")).toEqual([]);
    const logic = apart.parts.find((each) => each.kind === "bar" && each.carries === "logic")?.id ?? "";
    const wrong = land(apart, "drive", logic);
    const on = one(wrong, "return-school", "on:drive");
    expect(on?.severity).toBe("fix");
    expect(one(settle(wrong, on?.remedies[0]?.command), "return-school", "on:drive")).toBeUndefined();
  });

  it("a pack of its own for logic is asked for where boards live on a regulator of the motors' pack", () => {
    const regulated = () => {
      let machine = part(
        workshop(),
        "converter",
        "buck",
        { outputV: typical(5), inputMinV: typical(7), inputMaxV: typical(36) },
        { from: "plus", back: "n1", wire: { gauge: "18 AWG", lengthM: typical(0.4) } },
      );
      const amps = { state: "amps" as const, amps: typical(0.5) };
      machine = part(
        machine,
        "load",
        "brain",
        { loadKind: "board", nominalV: typical(5), cells: { m1: amps, m2: amps } },
        { from: "buck.out+", back: "buck.out-", wire: { gauge: "20 AWG", lengthM: typical(0.3) } },
      );
      for (const id of ["mind", "sense"]) machine = must(machine, { type: "removePart", id });
      return machine;
    };
    expect(said(regulated(), "return-school")).toEqual([]);
    const wanted = school(regulated(), { logicSupply: "own pack" });
    const verdict = one(wanted, "return-school", "pack");
    expect(verdict?.severity).toBe("watch");
    const own = settle(wanted, verdict?.remedies[0]?.command);
    expect(said(own, "return-school")).toEqual([]);
    // The other school wants it back.
    const back = one(school(own, { logicSupply: "main pack" }), "return-school", "pack");
    expect(said(settle(school(own, { logicSupply: "main pack" }), back?.remedies[0]?.command), "return-school")).toEqual([]);
    expect(said(school(regulated(), { logicSupply: "main pack" }), "return-school")).toEqual([]);
  });

  it("linked bars want two links between them", () => {
    const linked = school(workshop(), { returns: "linked bars" });
    const verdict = one(linked, "return-school", "link");
    expect(verdict?.severity).toBe("watch");
    expect(said(settle(linked, verdict?.remedies[0]?.command), "return-school")).toEqual([]);
  });

  it("a frame floats or is bonded once", () => {
    const frame = part(workshop(), "bar", "frame", { side: "negative", form: "chassis" });
    expect(said(frame, "chassis-bond")).toEqual([]);
    const unbonded = one(school(frame, { chassis: "bonded once" }), "chassis-bond");
    expect(unbonded?.severity).toBe("fix");
    const bonded = settle(school(frame, { chassis: "bonded once" }), unbonded?.remedies[0]?.command);
    expect(said(bonded, "chassis-bond")).toEqual([]);
    expect(one(school(bonded, { chassis: "floating" }), "chassis-bond")?.severity).toBe("watch");
  });
});

describe("the chassis", () => {
  const bonded = (gauge = "6 AWG", over = {}) =>
    join(part(workshop(), "bar", "frame", { side: "negative", form: "chassis" }), "bond", "n1", "frame", gauge, {
      bondBy: "wire",
      ...over,
    });

  it("bonded twice is one more return, and keeps either bond", () => {
    const twice = join(bonded(), "bond", "n2", "frame", undefined, { bondBy: "standoff", lengthM: undefined });
    const verdict = one(twice, "chassis-bond", "twice");
    expect(verdict?.severity).toBe("fix");
    expect(verdict?.value).toBeGreaterThan(1);
    expect(verdict?.remedies).toHaveLength(2);
    for (const { command } of verdict?.remedies ?? []) expect(one(settle(twice, command), "chassis-bond", "twice")).toBeUndefined();
  });

  it("carries no returns", () => {
    const landed = land(bonded(), "drive", "frame");
    const verdict = one(landed, "chassis-bond", "return");
    expect(verdict?.severity).toBe("fix");
    expect(one(settle(landed, verdict?.remedies[0]?.command), "chassis-bond", "return")).toBeUndefined();
  });

  it("wants a bond that bears the short until the fuse opens", () => {
    expect(one(bonded(), "chassis-bond")).toBeUndefined();
    expect(one(bonded("20 AWG"), "chassis-bond", "light")?.severity).toBe("fix");
    // A megohm only bleeds static.
    expect(one(bonded("20 AWG", { resistorOhm: typical(1e6) }), "chassis-bond", "light")).toBeUndefined();
  });

  it("is cleared by a fuse when a tool slips, not through a poor joint, and silent through a megohm", () => {
    expect(lateOne(bonded(), "chassis-fault")).toBeUndefined();
    expect(lateOne(bonded("6 AWG", { resistorOhm: typical(0.3) }), "chassis-fault")?.severity).toMatch(/stop|fix/);
    expect(lateOne(bonded("6 AWG", { resistorOhm: typical(1e6) }), "chassis-fault")).toBeUndefined();
  });
});

describe("isolation, weight of returns, opened returns", () => {
  it("finds an isolator bridged by a ground wire, and frees it", () => {
    const bridged = join(link(workshop(), "mind", "drive", { kind: "opto" }), "signal", "mind.-", "drive.in-", "26 AWG");
    const verdict = one(bridged, "isolation", "own");
    expect(verdict?.severity).toBe("fix");
    expect(one(settle(bridged, verdict?.remedies[0]?.command), "isolation")).toBeUndefined();
    expect(one(link(workshop(), "mind", "drive", { kind: "isolated supply" }), "isolation", "meets")?.severity).toBe("watch");
    expect(one(link(workshop(), "mind", "drive", { kind: "opto" }), "isolation")).toBeUndefined();
  });

  it("finds an isolated converter whose minus sides are joined", () => {
    const isolated = part(
      workshop(),
      "converter",
      "iso",
      { isolated: true, outputV: typical(5) },
      { from: "plus", back: "n1", wire: { gauge: "18 AWG" } },
    );
    expect(one(isolated, "isolation")).toBeUndefined();
    expect(one(join(isolated, "return", "iso.out-", "n1", "18 AWG"), "isolation", "converter")?.severity).toBe("watch");
  });

  it("finds a return lighter than its supply, feed or trunk", () => {
    const verdict = one(thin(workshop(), "drive", "14 AWG"), "light-return");
    expect(verdict?.severity).toBe("watch");
    expect(one(settle(thin(workshop(), "drive", "14 AWG"), verdict?.remedies[0]?.command), "light-return")).toBeUndefined();
    expect(one(thin(workshop(), "n1", "10 AWG"), "light-return")?.subject.id).toBe(backOf(workshop(), "n1").id);
  });

  it("finds a fuse in the minus of a board that talks, and takes it out", () => {
    const talking = link(workshop(), "mind", "drive");
    const fused = must(talking, { type: "setFuse", wireId: backOf(talking, "mind").id, fuse: { family: "blade_regular_32v", ratingA: 3 } });
    const verdict = one(fused, "switched-return");
    expect(verdict?.severity).toBe("fix");
    expect(one(settle(fused, verdict?.remedies[0]?.command), "switched-return")).toBeUndefined();
    // Without signals its current has nowhere else to go.
    expect(
      one(
        must(workshop(), { type: "setFuse", wireId: backOf(workshop(), "mind").id, fuse: { family: "blade_regular_32v", ratingA: 3 } }),
        "switched-return",
      ),
    ).toBeUndefined();
  });

  it("finds a link in a mesh lighter than the fuse behind it", () => {
    const meshed = join(workshop(), "return", "n2", "n1", "18 AWG");
    const verdict = one(meshed, "bar-link", "fuse");
    expect(verdict?.severity).toBe("fix");
    expect(one(settle(meshed, verdict?.remedies[0]?.command), "bar-link", "fuse")).toBeUndefined();
  });
});

describe("pins and rings", () => {
  /** The driver behind a contact that one mode opens. */
  const stopped = (over = {}) => {
    let machine = part(
      workshop(),
      "switch",
      "stop",
      { contactOhm: typical(1e-3), openIn: ["m1"] },
      { from: "plus", wire: { gauge: "10 AWG", lengthM: typical(0.2) } },
    );
    const feed = machine.wires.find(({ to, role }) => to.part === "drive" && role === "supply");
    machine = must(machine, { type: "reland", wireId: feed?.id ?? "", end: "from", at: { part: "stop", terminal: "out" } });
    return link(machine, "mind", "drive", over);
  };

  it("find a board fed through its signal where its own supply is off, until a resistor or an isolator holds it", () => {
    const verdict = one(stopped(), "pin-current");
    expect(verdict?.severity).toBe("watch");
    expect(one(settle(stopped(), verdict?.remedies[0]?.command), "pin-current")).toBeUndefined();
    expect(one(stopped({ kind: "opto" }), "pin-current")).toBeUndefined();
    expect(one(link(workshop(), "mind", "drive"), "pin-current")).toBeUndefined();
    // The other way round nothing is driven: the driver has no supply to give.
    expect(one(link(stopped({ kind: "opto" }), "drive", "mind"), "pin-current")).toBeUndefined();
  });

  it("know what a pin and its resistor let through (handbook CV22: 5 V, 100 Ω, 10 mA leave 3.4 V)", () => {
    expect(parasiticV(5, 100, 0.01)).toBeCloseTo(3.4, 9);
    expect(pinA(5, 4400)).toBeCloseTo(1e-3, 9);
  });

  const rings = (perPole: number) => {
    const family = CONNECTORS.find(({ sort }) => sort === "rotary")?.id ?? "";
    const machine = link(workshop(), "mind", "sense");
    return must(machine, {
      type: "updateWire",
      id: backOf(machine, "mind").id,
      changes: { toEnd: { family, perPole, loaded: 2 * perPole } },
    });
  };

  it("tell of a return that crosses a joint on one ring, and are settled by another", () => {
    const verdict = one(rings(1), "return-rings");
    expect(verdict?.severity).toBe("watch");
    expect(one(settle(rings(1), verdict?.remedies[0]?.command), "return-rings")).toBeUndefined();
    expect(one(rings(2), "return-rings")).toBeUndefined();
  });
});

describe("rules of practice against noise", () => {
  it("give an inertial sensor a filter, and bring it home from a driver", () => {
    const felt = change(land(workshop(), "sense", "drive.in-"), "sense", {
      senses: "inertial",
      cells: { m1: { state: "amps", amps: typical(0.01) }, m2: { state: "amps", amps: typical(0.01) } },
    });
    const verdict = one(felt, "noise-practice", "inertial");
    expect(verdict?.severity).toBe("watch");
    let mended = felt;
    for (const { command } of verdict?.remedies.slice(0, 2) ?? []) mended = settle(mended, command);
    expect(one(mended, "noise-practice", "inertial")).toBeUndefined();
  });

  it("say how far a magnetic sensor stays from the largest current", () => {
    const verdict = one(change(workshop(), "sense", { senses: "magnetic" }), "noise-practice", "magnetic");
    expect(verdict?.value).toBeCloseTo(20.5, 0);
  });

  it("hear a ground that moves under a sound link, until it is isolated", () => {
    const loud = link(board(workshop(), "amp", "n2", { loadKind: "sound" }), "mind", "amp", { kind: "audio" });
    const verdict = one(loud, "noise-practice", "hum");
    expect(verdict?.severity).toBe("watch");
    expect(one(settle(loud, verdict?.remedies[0]?.command), "noise-practice", "hum")).toBeUndefined();
    expect(
      one(link(board(workshop(), "amp", "n1", { loadKind: "sound" }), "mind", "amp", { kind: "audio" }), "noise-practice", "hum"),
    ).toBeUndefined();
  });
});

describe("what is said of a row", () => {
  it("leaves no board clear whose link is beyond its budget or unknown", () => {
    const bad = link(thin(workshop(), "n2", "16 AWG"), "mind", "drive");
    const { status } = analyse(bad).analysis;
    expect(status.mind).not.toBe("clear");
    expect(status.drive).not.toBe("clear");
    expect(analyse(link(workshop(), "mind", "drive", { sender: undefined })).analysis.status.mind).toBe("ask");
  });
});
