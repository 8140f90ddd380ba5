import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { must, simple } from "@/tests/support/small";
import { analyse } from "../analysis/analyse";
import { analyseFully } from "../analysis/fully";
import { toJson } from "../exchange/json";
import { sheetMarkdown } from "../exchange/markdown";
import { verdictTable } from "../exchange/report";
import { applyCommand } from "../machine/apply";
import { changesBetween, inverted, withChanges } from "../machine/changes";
import { readMachineText } from "../machine/read";
import type { DecisionKind, Machine } from "../machine/schema";
import { wholeSheet } from "../sheet/whole";
import { decisionOn } from "./decided";
import type { Verdict } from "./types";

const AT = new Date("2026-11-28T10:00:00Z");
const verdictsOf = (machine: Machine) => analyse(machine).analysis.verdicts;
const find = (machine: Machine, start: string): Verdict => {
  const found = verdictsOf(machine).find(({ id }) => id.startsWith(start));
  if (!found)
    throw new Error(
      `${start}: ${verdictsOf(machine)
        .map(({ id }) => id)
        .join(", ")}`,
    );
  return found;
};
const decide = (machine: Machine, verdict: Verdict, reason = "tried for a season", kind: DecisionKind = "accepted") =>
  must(machine, { type: "decide", decision: decisionOn(verdict, kind, reason, AT) });
const metres = (machine: Machine, m: number) =>
  must(machine, { type: "setFeed", id: "w2", changes: { lengthM: { value: m, provenance: "measured" } } });

describe("a verdict that was accepted", () => {
  const long = simple({ amps: 8, gauge: "14 AWG", metres: 12 });
  const drop = find(long, "drop:");

  it("is kept with its figures, marked, counted apart and no longer what its row stands for", () => {
    const accepted = decide(long, drop);
    expect(find(accepted, "drop:").decided).toMatchObject({
      kind: "accepted",
      reason: "tried for a season",
      value: drop.value,
      limit: drop.limit,
    });
    const before = analyse(long).analysis.status;
    const after = analyse(accepted).analysis.status;
    expect(before.motor).toBe("fix");
    expect(after.motor).toBe("accepted");
    expect(verdictTable(accepted, analyseFully(accepted).analysis)).toMatch(/^Accepted\s+drop.*tried for a season/m);
    expect(sheetMarkdown(accepted, wholeSheet(accepted).sheet)).toMatch(/## Accepted or put off[\s\S]*tried for a season/);
  });

  it("comes back by itself when its figures get worse, and stays when they get better or hardly move", () => {
    const accepted = decide(long, drop);
    expect(find(metres(accepted, 12.02), "drop:").decided).toBeDefined();
    expect(find(metres(accepted, 11.8), "drop:").decided).toBeDefined();
    expect(find(metres(accepted, 14), "drop:").decided).toBeUndefined();
    // The decision is still in the plan: what was worse and is no longer, is accepted again.
    expect(find(metres(metres(accepted, 14), 12), "drop:").decided).toBeDefined();
  });

  it("comes back when it is graver than what was accepted", () => {
    const near = metres(long, 5);
    const watch = find(near, "drop:");
    expect(watch.severity).toBe("watch");
    expect(find(metres(decide(near, watch), 12), "drop:").decided).toBeUndefined();
  });

  it("may be put off without a reason, but a Stop is left only with one", () => {
    const stop = simple({ amps: 8, gauge: "24 AWG" });
    const grave = find(stop, "fuse-over-wire");
    expect(grave.severity).toBe("stop");
    for (const kind of ["accepted", "later", "not mine"] as const) {
      const refused = applyCommand(stop, { type: "decide", decision: decisionOn(grave, kind, "  ", AT) });
      expect(refused.ok).toBe(false);
    }
    expect(find(decide(stop, grave, "bench rig, always watched"), "fuse-over-wire").decided).toBeDefined();
    expect(find(decide(long, drop, "", "later"), "drop:").decided?.kind).toBe("later");
  });

  it("is opened again by one command, decided anew in the place of the old, and goes through files and undo", () => {
    const accepted = decide(long, drop);
    const again = decide(accepted, drop, "looked at once more", "later");
    expect(again.decisions).toHaveLength(1);
    expect(again.decisions?.[0]).toMatchObject({ kind: "later", reason: "looked at once more" });
    expect(must(again, { type: "undecide", id: drop.id })).toEqual(long);
    const read = readMachineText(toJson(accepted));
    expect(read.ok && read.machine).toEqual(accepted);
    const changes = changesBetween(long, accepted);
    expect(withChanges(accepted, inverted(changes)).machine).toEqual(long);
  });

  it("holds for every verdict the examples have, until something is worse", () => {
    for (const { make } of EXAMPLES.slice(0, 2)) {
      const machine = make();
      const { verdicts } = analyseFully(machine).analysis;
      const all = verdicts.reduce((plan, verdict) => decide(plan, verdict), machine);
      const now = analyseFully(all).analysis;
      expect(now.verdicts.filter(({ decided }) => !decided).map(({ id }) => id)).toEqual([]);
      expect(Object.values(now.status).filter((mark) => mark !== "accepted" && mark !== "clear" && mark !== "ask")).toEqual([]);
    }
  });
});
