import { describe, expect, it } from "vitest";
import { parseCell, parseFuse, parseSize } from "./typed";

describe("cells as typed", () => {
  it("take amps, watts at the load's own volts, watts at others, off, and nothing", () => {
    const amps = (text: string) => {
      const cell = parseCell(text, 12);
      return cell.ok && cell.value?.state === "amps" ? cell.value.amps.value : null;
    };
    expect(amps("2.3A")).toBe(2.3);
    expect(amps("24W")).toBe(2);
    expect(amps("24 watts")).toBe(2);
    expect(amps("24W @ 6V")).toBe(4);
    expect(amps("800 mA")).toBe(0.8);
    expect(parseCell("off", 12)).toEqual({ ok: true, value: { state: "off" } });
    expect(parseCell(" OFF ", 12)).toEqual({ ok: true, value: { state: "off" } });
    expect(parseCell("", 12)).toEqual({ ok: true, value: null });
    expect(parseCell("?", 12)).toEqual({ ok: true, value: null });
  });

  it("count as a guess until the builder says more", () => {
    expect(parseCell("1", 12)).toMatchObject({ value: { amps: { provenance: "guess" } } });
  });

  it.each(["-3 A", "two", "1e9", "5 V", "24W @", "@ 12 V"])("refuse %s", (text) => {
    expect(parseCell(text, 12).ok).toBe(false);
  });
});

describe("fuses as typed", () => {
  it("keep the family that is there, choose one that makes the rating when there is none", () => {
    expect(parseFuse("25", undefined)).toEqual({ ok: true, value: { family: "blade_regular_32v", ratingA: 25 } });
    expect(parseFuse("60 A", undefined)).toEqual({ ok: true, value: { family: "blade_maxi_32v", ratingA: 60 } });
    expect(parseFuse("300", undefined)).toEqual({ ok: true, value: { family: "strip_m8_70v", ratingA: 300 } });
    expect(parseFuse("30", { family: "strip_m5_58v", ratingA: 60 })).toEqual({ ok: true, value: { family: "strip_m5_58v", ratingA: 30 } });
    for (const none of ["", "-", "none", "No"]) expect(parseFuse(none, undefined)).toEqual({ ok: true, value: null });
  });

  it("say which ratings there are", () => {
    const wrong = parseFuse("12", { family: "blade_regular_32v", ratingA: 10 });
    expect(wrong.ok ? "" : wrong.message).toContain("7.5, 10, 15");
    expect(parseFuse("big", undefined).ok).toBe(false);
  });
});

it("sizes as typed name the row of the gauge table", () => {
  expect(parseSize("14awg")).toEqual({ ok: true, value: "14 AWG" });
  expect(parseSize("1.5mm2")).toEqual({ ok: true, value: "1.5 mm²" });
  expect(parseSize("3.7mm2").ok).toBe(false);
});
