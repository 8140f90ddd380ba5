import { describe, expect, it } from "vitest";
import type { Machine } from "@/core/machine/schema";
import { change, feed, one, said } from "@/tests/support/judged";
import { simple } from "@/tests/support/small";

describe("More current than a terminal takes", () => {
  /** A pack on a stud, with so many amps for good, and its lead to the main fuse in one size. */
  const studded = (amps: number, stud: "M4" | "M8" | undefined, gauge: string): Machine =>
    feed(change(simple({ amps, fuse: { family: "strip_m8_32v", ratingA: 100 } }), "pack", { stud }), { gauge }, "w1");

  it("is said with its numbers", () => {
    // An M4 stud takes 10 AWG, which practice puts behind 50 A at most (handbook practice sections 4 and 5).
    const verdict = one(studded(70, "M4", "10 AWG"), "terminal-fit");
    expect(verdict).toMatchObject({ severity: "fix", limit: 50 });
    expect(verdict?.value).toBeCloseTo(70, 0);
  });

  it("is settled by a larger stud", () => {
    expect(said(studded(70, "M8", "10 AWG"), "terminal-fit")).toEqual([]);
  });

  it("a wire that is thicker than the terminal takes is watched, one that fits is not", () => {
    expect(one(studded(5, "M4", "6 AWG"), "terminal-fit")).toMatchObject({ severity: "watch" });
    expect(said(studded(5, "M4", "10 AWG"), "terminal-fit")).toEqual([]);
  });

  it("nothing is said where no stud and no rating is known", () => {
    expect(said(studded(70, undefined, "10 AWG"), "terminal-fit")).toEqual([]);
  });
});
