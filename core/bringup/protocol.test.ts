import { beforeEach, describe, expect, it } from "vitest";
import { marbleLift } from "@/demo/marble-lift";
import { analyse } from "../analysis/analyse";
import { openBench } from "../engine/bench";
import { bringUpOf } from "./plan";
import { answered, linesFor, type Session } from "./protocol";

let session: Session;
const ask = (line: string) => session.ask(line);
beforeEach(() => {
  session = openBench(marbleLift(true), 5, false).session;
});

describe("the bench on a line (IEEE 488.2 common commands)", () => {
  it("says who it is, and that it is ready", () => {
    expect(ask("*IDN?")?.split(",")).toHaveLength(4);
    expect(ask("*OPC?")).toBe("1");
    expect(ask("*TST?")).toBe("0");
    expect(ask("*RST")).toBeNull();
    expect(ask("")).toBeNull();
  });

  it("keeps mistakes in its queue and its registers until they are read", () => {
    expect(ask("FETC:FREQ?")).toBeNull();
    expect(ask("MEAS:VOLT?")).toBeNull();
    expect(ask("*ESR?")).toBe(String(32 + 16));
    expect(ask("*ESR?")).toBe("0");
    expect(Number(ask("*STB?")) & 4).toBe(4);
    expect(ask("SYST:ERR?")).toMatch(/^-113,/);
    expect(ask("SYSTem:ERRor:NEXT?")).toMatch(/^-109,/);
    expect(ask("SYST:ERR?")).toBe('0,"No error"');
    for (let i = 0; i < 30; i++) ask("NOPE");
    ask("*CLS");
    expect(ask("*STB?")).toBe("0");
  });

  it("sums its event register where it was told to", () => {
    ask("*ESE 32");
    expect(ask("*ESE?")).toBe("32");
    ask("NOPE");
    expect(Number(ask("*STB?")) & 32).toBe(32);
  });

  it("measures in long and in short words, in any case, and nothing before the machine stands somewhere", () => {
    expect(ask("MEAS:VOLT? (@cells.+,cells.-)")).toBeNull();
    expect(ask("SYST:ERR?")).toMatch(/^-221,/);
    ask('MACHine:STATe "tree"');
    expect(ask("mach:stat?")).toBe('"tree"');
    expect(ask("MEASure:VOLTage:DC? (@cells.+,cells.-)")).toBe("0");
    ask("OUTP ON");
    const volts = Number(ask("measure:voltage? (@cells.+,cells.-)"));
    expect(Math.abs(volts - 5.2)).toBeLessThan(0.08);
    ask("SOUR:VOLT:SHAR 0.25");
    expect(Math.abs(Number(ask("MEAS:VOLT? (@cells.+,cells.-)")) - 1.3)).toBeLessThan(0.05);
    ask("SOUR:VOLT:SHAR 3");
    expect(ask("SYST:ERR?")).toMatch(/^-222,/);
    expect(ask("MEAS:VOLT? (@cells.+,nowhere.-)")).toBeNull();
  });

  it("shows over range as the standard's large number", () => {
    const open = ask("MEAS:RES? (@micro.+,micro.-)");
    expect(answered(open)).toBeNull();
    expect(answered("9.9E37")).toBeNull();
    expect(answered(null)).toBeUndefined();
    expect(answered("text")).toBeUndefined();
    expect(Number(ask("MEAS:RES? (@cells.+,switch.in)"))).toBeLessThan(0.5);
  });

  it("is sent the same lines by every reading of the plan, and answers all of them", () => {
    const { figures } = analyse(marbleLift(true));
    for (const stage of bringUpOf(figures).stages)
      for (const { at, instrument, title } of stage.steps) {
        if (!at) continue;
        const answers = linesFor(at, instrument).map(ask);
        expect(answered(answers.at(-1) ?? null), title).not.toBeUndefined();
      }
    expect(ask("SYST:ERR?")).toBe('0,"No error"');
  });

  it("builds the same machine by the same seed, another by another, and hides a fault only in a drill", () => {
    const read = (seed: number) => {
      const { session: each } = openBench(marbleLift(true), seed, false);
      each.ask('MACH:STAT "free"');
      each.ask("OUTP ON");
      return each.ask("MEAS:CURR? (@w4)");
    };
    expect(read(1)).toBe(read(1));
    expect(new Set([1, 2, 3, 4, 5].map(read)).size).toBeGreaterThan(2);
    expect(openBench(marbleLift(true), 1, false).hidden).toBeNull();
    expect(openBench(marbleLift(true), 1, true).hidden).toEqual(expect.objectContaining({ fault: expect.anything() }));
  });
});
