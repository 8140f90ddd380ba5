import { describe, expect, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "@/tests/support/generate";
import { newcomer } from "@/tests/support/newcomer";
import { seeds } from "@/tests/support/seeds";
import { must } from "@/tests/support/small";
import { analyseFully } from "../analysis/fully";
import type { Machine } from "../machine/schema";
import { causesOf, membersOf } from "./causes";
import { severityRank } from "./order";

const grouped = (machine: Machine) => {
  const { verdicts } = analyseFully(machine).analysis;
  return { machine, verdicts, causes: causesOf(machine, verdicts) };
};
const example = (key: string): Machine => {
  const found = EXAMPLES.find((each) => each.key === key);
  if (!found) throw new Error(key);
  return found.make();
};

describe("verdicts by cause", () => {
  const machines: [string, () => Machine][] = [
    ...EXAMPLES.map(({ key, make }): [string, () => Machine] => [key, make]),
    ["newcomer", () => newcomer()],
    ...seeds(31, 4).map((seed): [string, () => Machine] => [`random ${seed}`, () => generateMachine({ parts: 30, seed, driven: true })]),
  ];

  it.each(machines)("hold each verdict once, speak with the worst of a place, and come by consequence, then by weight: %s", (_, make) => {
    const { verdicts, causes } = grouped(make());
    const members = causes.flatMap(membersOf);
    expect(new Set(members.map(({ id }) => id)).size).toBe(members.length);
    expect(members.map(({ id }) => id).sort()).toEqual(verdicts.map(({ id }) => id).sort());
    for (const cause of causes) {
      const worst = Math.min(...membersOf(cause).map(({ severity }) => severityRank(severity)));
      expect(severityRank(cause.severity), cause.headline).toBe(worst);
      for (const each of cause.alike) expect(each.kin).toBe(cause.head.kin);
    }
    const keys = causes.map((cause) => severityRank(cause.severity) * 1e6 - membersOf(cause).length);
    expect(keys).toEqual([...keys].sort((a, b) => a - b));
  });

  it("are the same whichever way round the verdicts came", () => {
    const { machine, verdicts } = grouped(example("reedcutter"));
    const sets = (list: typeof verdicts) =>
      causesOf(machine, list)
        .map((cause) =>
          membersOf(cause)
            .map(({ id }) => id)
            .sort()
            .join(),
        )
        .sort();
    expect(sets([...verdicts].reverse())).toEqual(sets(verdicts));
  });

  it("make one entry of thin wires behind one source without a fuse, with one action for all of them", () => {
    const { machine, causes } = grouped(example("carillon"));
    const [first] = causes;
    expect(first?.head.rule).toBe("fuse-over-wire");
    expect(first?.alike).toHaveLength(5);
    // What is lost in these wires follows from them.
    expect(first?.follows.map(({ rule }) => rule)).toContain("drop");
    expect(first?.headline).toMatch(/six .*Supply 5 V/i);
    for (const { command } of first?.remedies ?? []) {
      const left = causesOf(machine, analyseFully(must(machine, command)).analysis.verdicts);
      expect(left.some(({ id }) => id === first?.id)).toBe(false);
    }
    expect(first?.remedies.length).toBe(2);
  });

  it("ask sixteen times for a size in one entry", () => {
    const { causes, machine } = grouped(newcomer());
    const asked = causes.filter(({ head }) => head.kin?.startsWith("missing-figure:size"));
    expect(asked).toHaveLength(1);
    const bare = machine.wires.filter(({ pair }) => pair === undefined).length;
    expect(membersOf(asked[0] as (typeof causes)[number]).length).toBeGreaterThanOrEqual(bare);
  });

  it("list a drop, an offset and an overload under the thin wire that makes them", () => {
    const { causes } = grouped(example("reedcutter"));
    const link = causes.find(({ head }) => head.id === "fuse-over-wire:w7");
    expect(link?.follows.map(({ id }) => id)).toEqual(
      expect.arrayContaining(["link-offset:s-radio", "drop:controller", "shared-return:controller"]),
    );
    const cutter = causes.find((cause) => membersOf(cause).some(({ id }) => id === "fuse-over-wire:w16"));
    expect(cutter && membersOf(cutter).map(({ id }) => id)).toEqual(
      expect.arrayContaining(["wire-overload:w16:brief", "link-offset:s-cutter"]),
    );
  });

  it("put a collapse under what is wired the wrong way round", () => {
    const machine = example("marble-lift-corrected");
    const [out, back] = [
      machine.wires.find(({ to }) => to.part === "micro"),
      machine.wires.find(({ from, role }) => from.part === "micro" && role === "return"),
    ];
    if (!out || !back) throw new Error("no feed");
    const crossed = must(must(machine, { type: "reland", wireId: out.id, end: "from", at: back.to }), {
      type: "reland",
      wireId: back.id,
      end: "to",
      at: out.from,
    });
    const { causes } = grouped(crossed);
    const polarity = causes.find(({ head }) => head.rule === "polarity");
    expect(polarity?.severity).toBe("stop");
    const collapses = causes.flatMap(membersOf).filter(({ rule }) => rule === "collapse");
    for (const collapse of collapses) expect(polarity && membersOf(polarity)).toContain(collapse);
  });
});
