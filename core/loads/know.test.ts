import { describe, expect, it } from "vitest";
import { newPart } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import { readMachine } from "@/core/machine/read";
import type { Load } from "@/core/machine/schema";
import { must, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { LOAD_KINDS } from "../reference/load-kinds";
import { explain } from "../working/explain";
import { asked, levelsFrom, METHODS, methodById, methodsFor, whatIsKnown } from "./know";
import type { Inputs, Method } from "./methods/types";

/** Something plausible for every field of a method, so that all of them are tried. */
const FILL: Readonly<Record<string, Inputs[string]>> = {
  testV: 2,
  testA: 6,
  readings: [0.62, 0.58, 0.66, 0.6, 0.64],
  freeA: 0.6,
  powerW: 60,
  massKg: 20,
  radiusM: 0.06,
  noLoadRpm: 5000,
  noLoadA: 0.6,
  stallA: 30,
  wheelbase: 0.32,
  track: 0.4,
  setA: 1.4,
  phaseOhm: 1.5,
  busLimitA: 15,
  ratedV: 12,
  count: 60,
  ohm: 80,
};

function inputsFor(method: Method, load: Load): Inputs {
  const inputs: Inputs = {};
  for (const field of method.fields) {
    const initial = typeof field.initial === "function" ? field.initial(load) : field.initial;
    inputs[field.key] = FILL[field.key] ?? initial ?? field.options?.[0]?.value ?? 0;
  }
  return inputs;
}

const loadOf = (method: Method): Load => newPart("load", "p1", "Load", { loadKind: method.kinds[0] ?? "motor", nominalV: typical(12) });

describe("what is known gives figures", () => {
  it.each(METHODS.map((method) => [method.id, method] as const))(
    "%s: a figure inside its range, with a working and a way to narrow it",
    (_, method) => {
      const load = loadOf(method);
      const known = whatIsKnown(method, inputsFor(method, load), load);
      expect(known?.estimates.length).toBeGreaterThan(0);
      for (const { value, low, high, formula, numbers } of known?.estimates ?? []) {
        expect(value).toBeGreaterThan(0);
        expect(low).toBeLessThanOrEqual(value);
        expect(high).toBeGreaterThanOrEqual(value);
        expect(high).toBeGreaterThan(low);
        expect(`${formula} ${numbers}`).not.toMatch(/NaN|undefined|Infinity/);
      }
      expect(known?.narrow.measure.length).toBeGreaterThan(10);
    },
  );

  it("every kind of load that has no datasheet has at least one way", () => {
    for (const kind of LOAD_KINDS.filter((each) => each !== "other")) expect(methodsFor(kind).length, kind).toBeGreaterThan(0);
  });

  it("numbers that contradict each other give nothing instead of a negative resistance", () => {
    const method = methodById("lockedRotor");
    const load = newPart("load", "p1", "Motor", { nominalV: typical(12) });
    expect(method && whatIsKnown(method, { testV: 0.4, testA: 4, brushV: 0.5, leadOhm: 0.05 }, load)).toBeNull();
    const ohms = methodById("terminalOhm");
    expect(ohms && whatIsKnown(ohms, { readings: [0.1], leadOhm: 0.2 }, load)).toBeNull();
  });

  it("the range follows what is unsure: a doubtful brush drop at a low test voltage is what to settle first", () => {
    const method = methodById("lockedRotor");
    const load = newPart("load", "p1", "Motor", { nominalV: typical(12) });
    const low = method && whatIsKnown(method, { testV: 1.2, testA: 1.5, brushV: 0.6, leadOhm: 0.02 }, load);
    const high = method && whatIsKnown(method, { testV: 6, testA: 10, brushV: 0.6, leadOhm: 0.02 }, load);
    const spread = (known: typeof low) => (known?.estimates[0] ? known.estimates[0].high / known.estimates[0].low : 0);
    expect(spread(low)).toBeGreaterThan(spread(high));
    expect(low?.narrow.measure).toContain("twice");
  });

  it("more mass, slope or rolling resistance never asks for less current", () => {
    const method = methodById("wheel");
    if (!method) throw new Error("no wheel");
    const load = newPart("load", "p1", "Motor", { nominalV: typical(12) });
    const base = { ...inputsFor(method, load), motors: 2 };
    const amps = (change: Inputs) => whatIsKnown(method, { ...base, ...change }, load)?.estimates[0]?.value ?? 0;
    for (const [key, steps] of [
      ["massKg", [5, 10, 20, 40]],
      ["slopeDeg", [0, 5, 10, 20]],
      ["crr", [0.01, 0.05, 0.1]],
    ] as const) {
      const rising = steps.map((value) => amps({ [key]: value }));
      expect([...rising].sort((a, b) => a - b)).toEqual(rising);
    }
    expect(amps({ gear: 20 })).toBeLessThan(amps({ gear: 5 }));
  });

  it("fields of one way of turning are only asked for there", () => {
    const method = methodById("wheel");
    const keys = (turning: string) => method?.fields.filter((field) => asked(field, { turning })).map(({ key }) => key) ?? [];
    expect(keys("straight")).not.toContain("wheelbase");
    expect(keys("tracks")).toContain("wheelbase");
    expect(keys("factor")).toContain("factor");
  });
});

describe("figures keep where they came from", () => {
  const method = methodById("lockedRotor");
  if (!method) throw new Error("no method");
  const machine = () => {
    const load = simple().parts.find(({ id }) => id === "motor") as Load;
    const inputs = { testV: 3, testA: 4.2, brushV: 0.5, leadOhm: 0.05 };
    const known = whatIsKnown(method, inputs, load);
    if (!known) throw new Error("nothing known");
    return must(simple(), { type: "updatePart", id: "motor", changes: { levels: levelsFrom(method, inputs, known) } });
  };

  it("the working is the method again with the numbers in, and the document reads back", () => {
    const made = machine();
    const working = explain(analyse(made).figures, { kind: "level", part: "motor", level: "stall" });
    expect(working?.formula).toContain("R_lead");
    expect(working?.numbers).toContain("21.1");
    expect(working?.inputs.map(({ text }) => text).join(" ")).toContain("4.20");
    expect(working?.notes.join(" ")).toContain("narrow");
    expect(readMachine(JSON.parse(JSON.stringify(made)))).toMatchObject({ ok: true });
  });

  it("a figure typed over by hand is no longer explained by the method", () => {
    const load = machine().parts.find(({ id }) => id === "motor") as Load;
    const stall = load.levels?.stall;
    const typed = must(machine(), {
      type: "updatePart",
      id: "motor",
      changes: { levels: { stall: { provenance: "guess", ...stall, value: 22, high: 30 } } },
    });
    expect(explain(analyse(typed).figures, { kind: "level", part: "motor", level: "stall" })?.formula).toBe("I = as entered");
  });

  it("a range that does not hold its figure is refused", () => {
    const made = machine() as unknown as { parts: { levels?: { stall?: { low: number } } }[] };
    const stall = made.parts.flatMap(({ levels }) => levels?.stall ?? [])[0];
    const broken = JSON.parse(JSON.stringify(made).replace(`"low":${stall?.low}`, '"low":500'));
    expect(readMachine(broken)).toMatchObject({ ok: false, problems: [{ expected: "at most the figure itself" }] });
  });
});
