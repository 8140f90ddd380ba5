import { expect } from "vitest";
import { accountOf } from "@/core/figures/account";
import { type Figures, powerBalance } from "@/core/figures/figures";

/** Power and the account of every part balance in every mode that has an operating point. */
export function expectBalanced(figures: Figures): void {
  figures.modes.forEach((mode, m) => {
    if (mode.collapsed) return;
    expect(Math.abs(powerBalance(figures.solved, m))).toBeLessThan(1e-5);
    for (const { id, name } of figures.machine.parts)
      expect(Math.abs(accountOf(figures, id, m)?.balance ?? 0), `${name} ${mode.name}`).toBeLessThan(1e-7);
  });
}
