import { describe, expect, it } from "vitest";
import { newMachine } from "@/core/machine/defaults";
import { datasheet as f } from "@/core/machine/figure";
import type { Machine, Part } from "@/core/machine/schema";
import { change, lead, one, said, settle, supplied, supplyOf } from "@/tests/support/judged";
import { packed } from "@/tests/support/packed";
import { beside, must, part } from "@/tests/support/small";

describe("source over its rating", () => {
  it("a supply's rating falls with the ambient", () => {
    const machine = supplied({ ratedA: f(6) });
    expect(said(machine, "source-rating")).toEqual([]);
    const hot = must(machine, { type: "setSettings", changes: { ambientC: 65 } });
    expect(one(hot, "source-rating")).toMatchObject({ severity: "fix" });
    expect(one(hot, "source-rating")?.limit).toBeCloseTo(6 * 0.625, 9);
  });

  it("its behaviour beyond the limit is named", () => {
    const says = (overload: string) => one(supplied({ ratedA: f(3), limitA: f(3.2), overload }), "source-rating")?.detail;
    expect(new Set(["hiccup", "latch-off", "fold-back"].map(says)).size).toBe(3);
  });

  it("a pack without a figure is judged by its C rate, and the figure is still asked for", () => {
    const machine = packed({ amps: 30, over: { continuousA: undefined } });
    const verdicts = said(machine, "source-rating");
    expect(verdicts.map(({ severity }) => severity).sort()).toEqual(["ask", "fix"]);
    expect(verdicts.find(({ severity }) => severity === "fix")?.limit).toBe(20);
  });

  it("a USB port gives what its standard allows, whatever it is said to be rated", () => {
    const port = (usbPort: string | undefined, amps: number) =>
      supplied({ outputV: f(5), make: "usb", usbPort, ratedA: f(5) }, amps, { nominalV: f(5) });
    expect(one(port("usb2", 0.6), "source-rating")).toMatchObject({ severity: "fix", limit: 0.5 });
    expect(said(port("c_3a", 0.6), "source-rating")).toEqual([]);
    // Nothing known of the port: half an amp.
    expect(one(port(undefined, 0.6), "source-rating")?.limit).toBe(0.5);
  });

  it("the printed amps of a small module are not believed", () => {
    let machine = supplied({ ratedA: f(20) }, 0.1);
    machine = part(
      machine,
      "converter",
      "buck",
      { outputV: f(5), printedA: f(3), inputMinV: f(7), inputMaxV: f(30) },
      { from: "supply.+", back: "supply.-" },
    );
    machine = part(
      machine,
      "load",
      "board",
      { nominalV: f(5), cells: { m1: { state: "amps", amps: f(2.2) } } },
      { from: "buck.out+", back: "buck.out-" },
    );
    const verdicts = said(machine, "source-rating").filter(({ subject }) => subject.id === "buck");
    expect(verdicts.map(({ severity }) => severity).sort()).toEqual(["ask", "fix"]);
    expect(verdicts.find(({ severity }) => severity === "fix")?.limit).toBeCloseTo(1.8, 9);
  });
});

describe("what a supply's rating does not say", () => {
  it("a box with several outputs has one rating for all", () => {
    let machine = supplied({ ratedA: f(10), boxW: f(100) }, 3);
    expect(said(machine, "supply-limits")).toEqual([]);
    machine = must(machine, {
      type: "addPart",
      part: { id: "five", name: "five", kind: "supply", outputV: f(5), ratedA: f(20), outputOhm: f(0.005), box: "supply" },
    });
    machine = part(
      machine,
      "load",
      "board",
      { nominalV: f(5), cells: { m1: { state: "amps", amps: f(12) } } },
      { from: "five.+", back: "five.-" },
    );
    expect(one(machine, "supply-limits", "box")).toMatchObject({ severity: "fix", limit: 100 });
    // The box removed from under it: it stands alone and no longer counts.
    const alone = change(machine, "five", { box: undefined });
    expect(said(alone, "supply-limits")).toEqual([]);
  });

  it("a least load that is not met", () => {
    expect(one(supplied({ minLoadA: f(5) }, 4), "supply-limits", "least")).toMatchObject({ severity: "fix", limit: 5 });
    expect(said(supplied({ minLoadA: f(3) }, 4), "supply-limits")).toEqual([]);
    // An unknown load might meet it: nothing is claimed.
    expect(said(supplied({ minLoadA: f(5) }, 4, { cells: {} }), "supply-limits")).toEqual([]);
  });

  it("outputs that move with their neighbours' loads, where a part minds", () => {
    let machine = supplied({ crossShare: f(0.08), ratedA: f(10) }, 2, { inputMaxV: f(25), inputMinV: f(20) });
    expect(said(machine, "supply-limits")).toEqual([]);
    machine = must(machine, {
      type: "addPart",
      part: { id: "five", name: "five", kind: "supply", outputV: f(5), ratedA: f(20), outputOhm: f(0.005), box: "supply" },
    });
    expect(one(machine, "supply-limits", "cross")).toMatchObject({ severity: "watch", also: ["load"] });
    expect(said(change(machine, "load", { inputMaxV: f(28) }), "supply-limits")).toEqual([]);
  });

  it("a port's own span of volts against what hangs on it, until it is measured", () => {
    const port = (leastV: number, outputV = f(5)) =>
      supplied({ outputV, make: "usb", usbPort: "c_3a" }, 0.5, { nominalV: f(5), inputMinV: f(leastV), inputMaxV: f(5.6) });
    expect(one(port(4.75), "supply-limits", "port")).toMatchObject({ severity: "watch", also: ["load"] });
    expect(said(port(4.5), "supply-limits")).toEqual([]);
    expect(said(port(4.75, { value: 5.05, provenance: "measured" }), "supply-limits")).toEqual([]);
  });

  it("capacitance it cannot start into, by its own limit and by its protection's patience", () => {
    const bank = { inputF: f(0.01) };
    expect(one(supplied({ startF: f(0.004) }, 4, bank), "supply-limits", "start")).toMatchObject({ severity: "fix", limit: 0.004 });
    // t = C·V / (I_limit − I_load): 40 ms, CV 16 with 11 A and 5 A.
    const timed = (startS: number, amps: number) => supplied({ limitA: f(11), startS: f(startS) }, amps, bank);
    expect(one(timed(0.03, 5), "supply-limits", "start")?.value).toBeCloseTo(0.04, 6);
    expect(said(timed(0.05, 5), "supply-limits")).toEqual([]);
    expect(one(timed(0.05, 11), "supply-limits", "start")).toMatchObject({ severity: "fix" });
  });
});

/** Two sources of some kind on one node with a small load. */
function joined(first: Part, second: Part): Machine {
  let machine = newMachine("Joined");
  machine = must(machine, { type: "addPart", part: first });
  machine = must(machine, { type: "addPart", part: second });
  machine = part(
    machine,
    "load",
    "load",
    { nominalV: f(12), cells: { m1: { state: "amps", amps: f(1) } } },
    { from: `${first.id}.+`, back: `${first.id}.-`, wire: { gauge: "12 AWG", lengthM: f(0.2) } },
  );
  return beside(machine, second.id, "load.+", "load.-", {});
}

describe("two sources on one node", () => {
  it("batteries of different kinds are a stop, of one kind and apart too, of one kind and close a watch", () => {
    const severity = (second: Part) => one(joined(lead("a", 12.6), second), "two-sources")?.severity;
    expect(severity(lead("b", 13.2, { chemistry: "lifepo4_energy", series: 4 }))).toBe("stop");
    expect(severity(lead("b", 11.9))).toBe("stop");
    expect(severity(lead("b", 12.55))).toBe("watch");
    expect(severity(lead("b", 12.6, { chemistry: "alkaline_aa", series: 8 }))).toBe("stop");
  });

  it("a battery and a supply feed back, with the amps; with a diode at the battery only the supply's own output is left to watch", () => {
    const machine = joined(lead("a", 12.4), supplyOf("b", 13.5));
    const verdict = one(machine, "two-sources");
    expect(verdict).toMatchObject({ severity: "stop" });
    expect(verdict?.value).toBeGreaterThan(10);
    const guarded = settle(machine, verdict?.remedies[0]?.command);
    const found = said(guarded, "two-sources");
    expect(found.map(({ severity }) => severity)).toEqual(["watch", "ask"]);
    expect(said(settle(guarded, found[0]?.remedies[0]?.command), "two-sources").map(({ severity }) => severity)).toEqual(["ask"]);
    const both = joined(lead("a", 12.6, { diode: true }), lead("b", 11.9, { diode: true, chemistry: "lifepo4_energy", series: 4 }));
    expect(said(both, "two-sources")).toEqual([]);
  });

  it("three on one node: the one lifted furthest above its own volts is named, whichever stands first", () => {
    const third = (machine: Machine, volts: number) =>
      beside(must(machine, { type: "addPart", part: supplyOf("c", volts) }), "c", "load.+", "load.-", {});
    for (const [a, b, c] of [
      [24, 12, 5],
      [5, 24, 12],
      [12, 5, 24],
      [24, 5, 12],
    ] as const) {
      const verdict = one(third(joined(supplyOf("a", a), supplyOf("b", b)), c), "two-sources");
      expect(verdict?.severity).toBe("stop");
      expect(verdict?.detail).toContain(`${a === 5 ? "a" : b === 5 ? "b" : "c"} is made for 5.00`);
    }
  });

  it("a charger may be there when its volts are the pack's own, and not in the cold for lithium", () => {
    const charger = (volts: number) => supplyOf("b", volts, { make: "charger", overload: "constant current", limitA: f(3) });
    expect(said(joined(lead("a", 12.6), charger(14.4)), "two-sources")).toEqual([]);
    expect(one(joined(lead("a", 12.6), charger(16)), "two-sources")).toMatchObject({ severity: "stop" });
    expect(one(joined(lead("a", 12.6, { chemistry: undefined }), charger(14.4)), "two-sources")).toMatchObject({ severity: "ask" });
    const lithium = joined(lead("a", 13.2, { chemistry: "lifepo4_energy", series: 4 }), charger(14.4));
    expect(said(lithium, "two-sources")).toEqual([]);
    expect(one(must(lithium, { type: "setSettings", changes: { ambientC: -5 } }), "two-sources")).toMatchObject({ severity: "stop" });
    expect(one(joined(lead("a", 6.2, { chemistry: "alkaline_aa", series: 4 }), charger(7)), "two-sources")).toMatchObject({
      severity: "stop",
    });
  });

  it("one at a time by a switch is no quarrel, unless some mode closes it", () => {
    let machine = newMachine("Switched");
    machine = must(machine, { type: "addMode", name: "On the bench", lastsS: null });
    const [field = "", bench = ""] = machine.modes.map(({ id }) => id);
    machine = must(machine, { type: "addPart", part: lead("a", 12.6) });
    machine = must(machine, { type: "addPart", part: supplyOf("b", 13) });
    machine = part(machine, "switch", "from-a", { openIn: [bench] }, { from: "a.+" });
    machine = part(machine, "bar", "plus", { side: "positive" }, { from: "from-a.out" });
    machine = part(machine, "bar", "minus", { side: "negative" }, { back: "a.-" });
    machine = part(machine, "switch", "from-b", { openIn: [field] }, { from: "b.+" });
    const wire = { gauge: "12 AWG", lengthM: f(0.2), parallel: 1, insulation: "pvc80" };
    machine = must(machine, {
      type: "addWire",
      wire: { ...wire, role: "supply", from: { part: "from-b", terminal: "out" }, to: { part: "plus", terminal: "bar" } },
    });
    machine = must(machine, {
      type: "addWire",
      wire: { ...wire, role: "return", from: { part: "minus", terminal: "bar" }, to: { part: "b", terminal: "-" } },
    });
    expect(said(machine, "two-sources")).toEqual([]);
    expect(one(change(machine, "from-b", { openIn: [] }), "two-sources")).toMatchObject({ severity: "stop" });
  });

  it("sources that only share their minus are two rails", () => {
    let machine = supplied({ ratedA: f(10) });
    machine = must(machine, { type: "addPart", part: supplyOf("other", 5) });
    machine = part(
      machine,
      "load",
      "board",
      { nominalV: f(5), cells: { m1: { state: "amps", amps: f(1) } } },
      { from: "other.+", back: "supply.-" },
    );
    expect(said(machine, "two-sources")).toEqual([]);
  });
});

describe("a pack and its care", () => {
  it("lithium asks what watches its cells, nothing is a fix, and lead does not ask", () => {
    const watched = (over: object) => one(packed({ over }), "pack-care", "management");
    expect(watched({ management: undefined })).toMatchObject({ severity: "ask" });
    expect(watched({ management: "none" })).toMatchObject({ severity: "fix" });
    expect(watched({ management: "inside" })).toBeUndefined();
    expect(one(packed({ chemistry: "lead_agm", series: 12, over: { management: undefined } }), "pack-care", "management")).toBeUndefined();
    const asked = watched({ management: undefined });
    expect(
      one(settle(packed({ over: { management: undefined } }), asked?.remedies[0]?.command), "pack-care", "management"),
    ).toBeUndefined();
  });

  it("volts that do not go with the charge, the fullness or the cells", () => {
    const off = packed({ over: { plannedCharge: f(0.5), openCircuitV: f(27) } });
    const verdict = one(off, "pack-care", "open");
    expect(verdict).toMatchObject({ severity: "watch" });
    expect(one(settle(off, verdict?.remedies[0]?.command), "pack-care", "open")).toBeUndefined();
    const flat = packed({ over: { plannedCharge: f(0.2), openCircuitV: f(25.6), fullV: f(26.5), lowV: undefined, lowCharge: undefined } });
    expect(one(flat, "pack-care", "full")).toMatchObject({ severity: "fix" });
    expect(one(packed({ cutoffV: 17 }), "pack-care", "cut")).toMatchObject({ severity: "fix" });
    expect(one(packed({ cutoffV: 22.4 }), "pack-care", "cut")).toBeUndefined();
  });

  it("above 60 V it stops: other rules apply", () => {
    expect(one(packed({ series: 20, chemistry: "lifepo4_energy" }), "pack-care", "touch")).toMatchObject({ severity: "stop", limit: 60 });
    expect(one(packed({ series: 16 }), "pack-care", "touch")).toBeUndefined();
  });

  it("a small battery that logic and motors share", () => {
    const shared = (ohm: number) => {
      let machine = packed({ chemistry: "nimh_aa", series: 5, cellAh: 2, ohm, amps: 0.2 });
      machine = must(machine, { type: "addMode", name: "Start", lastsS: 0.3, copyFrom: "m1" });
      const start = machine.modes[1]?.id ?? "";
      return part(
        machine,
        "load",
        "motor",
        { nominalV: f(6), cells: { m1: { state: "off" }, [start]: { state: "amps", amps: f(4) } } },
        { from: "pack.+", back: "pack.-", wire: { gauge: "18 AWG", lengthM: f(0.1) } },
      );
    };
    expect(one(shared(0.3), "pack-care", "shared")).toMatchObject({ severity: "watch", also: ["load"] });
    expect(one(shared(0.03), "pack-care", "shared")).toBeUndefined();
  });
});

describe("electronics without a window", () => {
  const asked = (loadKind: string, volts: number, over: object = {}) =>
    one(supplied({ outputV: f(volts) }, 0.5, { loadKind, nominalV: f(12), ...over }), "missing-figure", "window")?.severity;

  it.each(["sensor", "radio", "display", "other"])("a %s is asked what it bears where its rail goes a tenth above its volts", (kind) => {
    expect(asked(kind, 12.5)).toBeUndefined();
    expect(asked(kind, 14.4)).toBe("ask");
    expect(asked(kind, 14.4, { inputMaxV: f(16) })).toBeUndefined();
  });

  it("a board is asked in any case, and what is no electronics never", () => {
    expect(asked("board", 12)).toBe("ask");
    expect(asked("motor", 14.4)).toBeUndefined();
  });
});
