import { describe, expect, it } from "vitest";
import { analyse } from "@/core/analysis/analyse";
import { accountOf } from "@/core/figures/account";
import { channelsOf } from "@/core/figures/channels";
import { powerBalance } from "@/core/figures/figures";
import { typical } from "@/core/machine/figure";
import type { Cell } from "@/core/machine/load-schema";
import type { Machine, PartOf } from "@/core/machine/schema";
import { generateMachine } from "@/tests/support/generate";
import { driven, must } from "@/tests/support/small";
import { explain } from "../working/explain";

const doing = (cell: Cell, drive: Partial<PartOf<"driver">> = {}) => driven(drive, { cells: { m1: cell } });
const now = (machine: Machine) => {
  const { figures, analysis } = analyse(machine);
  const drive = machine.parts.find(({ id }) => id === "drive") as PartOf<"driver">;
  const channel = channelsOf(figures, drive)[0]?.modes[0];
  const lead = machine.wires.find(({ to }) => to.part === "motor");
  const feed = machine.wires.find(({ to }) => to.part === "drive");
  return {
    channel,
    motorV: analysis.parts.motor?.volts[0] ?? 0,
    leadA: analysis.wires[lead?.id ?? ""]?.amps[0] ?? 0,
    feedA: analysis.wires[feed?.id ?? ""]?.amps[0] ?? 0,
    drive: analysis.parts.drive,
    figures,
  };
};

describe("motor leads and bus carry their own currents", () => {
  it("fully on they are the same but for the driver's own use", () => {
    const { leadA, feedA } = now(doing({ state: "run", percent: 100 }));
    expect(leadA).toBeCloseTo(6, 9);
    expect(feedA).toBeCloseTo(6.02, 9);
  });

  it("chopped, the feed carries the duty's share and the lead all of it", () => {
    const { leadA, feedA, channel, motorV, drive } = now(doing({ state: "run", percent: 100, duty: 0.25 }));
    expect(leadA).toBeCloseTo(6, 9);
    expect(feedA).toBeCloseTo(1.52, 9);
    expect(channel?.duty).toBeCloseTo(0.25, 9);
    // A quarter of the driver's volts, less bridge and leads at the motor's full current.
    expect(motorV).toBeLessThan(0.25 * (drive?.volts[0] ?? 0) - 6 * 0.01);
    expect(motorV).toBeGreaterThan(0.25 * (drive?.volts[0] ?? 0) - 6 * 0.03);
  });

  it("a cap on the driver holds whatever the mode asks for", () => {
    const { channel } = now(doing({ state: "run", percent: 100, duty: 0.9 }, { dutyCap: typical(0.4) }));
    expect(channel?.duty).toBeCloseTo(0.4, 9);
  });

  it("a stall at a limit takes the limit in the leads and only its heat from the bus", () => {
    const { channel, leadA } = now(doing({ state: "stall" }, { limitA: typical(10) }));
    expect(leadA).toBeCloseTo(10, 9);
    // Winding 0.96 Ω, bridge and leads a few mΩ: 10² · R / U.
    expect(channel?.busA ?? 0).toBeGreaterThan((100 * 0.96) / 24);
    expect(channel?.busA ?? 0).toBeLessThan((100 * 1.0) / 23);
  });

  it("a start at a limit counts in full on the bus: the duty rises to one", () => {
    const { channel } = now(doing({ state: "start" }, { limitA: typical(10) }));
    expect(channel?.busA).toBeCloseTo(10, 6);
  });

  it("a fixed bridge drop comes off what the motor sees, and off its stall", () => {
    const plain = now(doing({ state: "stall" }));
    const bipolar = now(doing({ state: "stall" }, { bridgeV: typical(2) }));
    expect(plain.leadA - bipolar.leadA).toBeCloseTo(2 / (0.96 + 0.01), 1);
    expect(bipolar.motorV).toBeCloseTo(bipolar.leadA * 0.96, 2);
  });

  it("the driver's account balances, what circulates included, and its figures explain themselves", () => {
    const { figures } = now(doing({ state: "run", percent: 100, duty: 0.25 }));
    const account = accountOf(figures, "drive", 0);
    expect(Math.abs(account?.balance ?? 1)).toBeLessThan(1e-9);
    expect(account?.arrives.map(({ amps }) => amps).sort()).toHaveLength(2);
    const volts = explain(figures, { kind: "partVolts", part: "motor", mode: 0 });
    expect(volts?.formula).toContain("D ·");
    expect(explain(figures, { kind: "partAmps", part: "motor", mode: 0 })?.notes.join(" ")).toContain("25 %");
  });

  it("a lead that lands on a bar instead of the channel still closes, and nothing is lost", () => {
    const machine = doing({ state: "run", percent: 100 });
    const back = machine.wires.find(({ from }) => from.part === "motor");
    const landed = must(machine, { type: "reland", wireId: back?.id ?? "", end: "to", at: { part: "pack", terminal: "-" } });
    expect(now(landed).leadA).toBeCloseTo(6, 9);
  });
});

describe("the balance of power", () => {
  it.each([1, 2, 3, 4, 5, 6, 7, 8])("holds with chopping, limits and regulators, machine %d", (seed) => {
    const machine = generateMachine({ parts: 40, seed: 900 + seed, driven: true, meshed: seed % 2 === 0 });
    const { figures } = analyse(machine);
    machine.modes.forEach((_, m) => {
      expect(figures.modes[m]?.collapsed).toBe(false);
      expect(Math.abs(powerBalance(figures.solved, m))).toBeLessThan(1e-6);
      for (const part of machine.parts)
        expect(Math.abs(accountOf(figures, part.id, m)?.balance ?? 1), `${part.name} ${m}`).toBeLessThan(1e-8);
    });
  });

  it("more duty never takes less from the bus", () => {
    const bus = [0.1, 0.3, 0.5, 0.8, 1].map((duty) => now(doing({ state: "stall", duty })).feedA);
    expect([...bus].sort((a, b) => a - b)).toEqual(bus);
  });
});
