import { describe, expect, expectTypeOf, it } from "vitest";
import { EXAMPLES } from "@/demo/index";
import { generateMachine } from "@/tests/support/generate";
import { randomFrom } from "@/tests/support/random";
import { must, part, simple } from "@/tests/support/small";
import { talking } from "@/tests/support/talking";
import { analyse } from "../analysis/analyse";
import { budgeted } from "../loads/budget";
import type { Command } from "../machine/commands";
import { typical } from "../machine/figure";
import type { Cell } from "../machine/load-schema";
import { sameBuild } from "../machine/same-build";
import type { Machine } from "../machine/schema";
import { buildLedger, ledgerOf } from "../machine/tree";
import { TopologyCache } from "../network/topology";
import { returnsOf } from "../returns/summary";
import { RULES } from "../verdicts/rules";
import { auditKept, type Build, perBuild, perBuildFrom, perBuildOf } from "./build";
import { solveMachine } from "./solved";

/** Numbers to eight digits: a solution that was kept and one found anew differ in the last ones. */
function told(value: unknown): unknown {
  return JSON.parse(
    JSON.stringify(value, (_, each) => {
      if (ArrayBuffer.isView(each)) return Array.from(each as Float64Array, (number) => number);
      if (typeof each !== "number" || !Number.isFinite(each)) return typeof each === "number" ? String(each) : each;
      return Math.abs(each) < 1e-9 ? 0 : Number(each.toPrecision(8));
    }),
  );
}

function randomEdit(machine: Machine, random: () => number): Command {
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const load = pick(machine.parts.filter(({ kind }) => kind === "load"));
  const wire = pick(machine.wires.filter(({ role }) => role === "supply"));
  const cells: (Cell | null)[] = [
    null,
    { state: "off" },
    { state: "amps", amps: typical(0.2 + random() * 30) },
    { state: "amps", amps: typical(0.1), measured: { value: 4, provenance: "measured" } },
    { state: "run", percent: 60 },
    { state: "stall" },
  ];
  const cell: Command = { type: "setCell", loadId: load.id, modeId: pick(machine.modes).id, cell: pick(cells) };
  const others: Command[] = [
    { type: "setFeed", id: wire.id, changes: { gauge: pick(["20 AWG", "14 AWG", "6 AWG"]) } },
    { type: "setFeed", id: wire.id, changes: { lengthM: { value: 0.2 + random() * 6, provenance: "measured" } } },
    { type: "setFuse", wireId: wire.id, fuse: random() < 0.5 ? null : { family: "blade_regular_32v", ratingA: 10 } },
    { type: "updatePart", id: load.id, changes: { name: `${load.name} again`, levels: { run: typical(2), stall: typical(9) } } },
    { type: "setSettings", changes: { ambientC: 20 + Math.round(random() * 30) } },
    { type: "moveMode", id: pick(machine.modes).id, by: 1 },
    { type: "removePart", id: load.id },
  ];
  return random() < 0.65 ? cell : pick(others);
}

const MACHINES: readonly [string, () => Machine][] = [
  ...EXAMPLES.map(({ key, make }): [string, () => Machine] => [key, make]),
  ["boards that talk", () => talking(generateMachine({ parts: 40, seed: 8, modes: 4, driven: true, meshed: true }), 8)],
  ["a meshed machine", () => generateMachine({ parts: 60, seed: 77, modes: 4, driven: true, meshed: true })],
  ["a radial one", () => generateMachine({ parts: 40, seed: 5, modes: 6, driven: true })],
];

describe("an analysis that goes on from the one before", () => {
  it.each(MACHINES)("says what one made from new says, edit after edit: %s", (_, make) => {
    const random = randomFrom(2611);
    const cache = new TopologyCache();
    let machine = make();
    let alike = 0;
    for (let turn = 0; turn < 22; turn++) {
      const before = machine;
      machine = must(machine, randomEdit(machine, random));
      if (machine !== before && sameBuild(before, machine)) alike++;
      const kept = analyse(machine, cache).analysis;
      const fresh = analyse(machine).analysis;
      expect(told(kept), `turn ${turn}`).toEqual(told(fresh));
    }
    // Both ways are gone: over what stands, and anew.
    expect(alike).toBeGreaterThan(5);
    expect(alike).toBeLessThan(20);
  });

  it("every rule finds the same on figures that were kept as on its own", () => {
    const cache = new TopologyCache();
    const machine = (EXAMPLES[0] as (typeof EXAMPLES)[number]).make();
    analyse(machine, cache);
    const edited = must(machine, {
      type: "setCell",
      loadId: "pump",
      modeId: machine.modes[1]?.id ?? "",
      cell: { state: "amps", amps: typical(6) },
    });
    const { figures } = analyse(edited, cache);
    const fresh = analyse(edited).figures;
    for (const rule of RULES)
      if (rule.reads === "build" || rule.reads === "figures")
        expect(told(rule.evaluate(figures)), rule.id).toEqual(told(rule.evaluate(fresh)));
  });
});

/** An answer as data: maps and sets as lists, functions by name, numbers to eight digits, each object once on its way down. */
function asData(value: unknown, above: readonly unknown[] = []): unknown {
  if (typeof value === "function") return "a function";
  if (typeof value === "number") return Math.abs(value) < 1e-9 ? 0 : Number(value.toPrecision(8));
  if (typeof value !== "object" || value === null) return value;
  if (above.includes(value)) return "seen";
  const way = [...above, value];
  if (ArrayBuffer.isView(value)) return Array.from(value as Float64Array, (each) => asData(each));
  if (value instanceof Map || value instanceof Set || Array.isArray(value)) return [...value].map((each) => asData(each, way));
  return Object.fromEntries(Object.entries(value).map(([key, each]) => [key, asData(each, way)]));
}

describe("what is kept from edit to edit", () => {
  it.each(MACHINES)("is what would be made anew, whenever it is given again, and nobody writes to it: %s", (_, make) => {
    const random = randomFrom(77);
    const cache = new TopologyCache();
    let machine = make();
    let looked = 0;
    auditKept(
      (kept, again) => {
        looked++;
        expect(asData(kept)).toEqual(asData(again));
      },
      () => {
        for (let turn = 0; turn < 4; turn++) {
          machine = must(machine, randomEdit(machine, random));
          const { figures } = analyse(machine, cache);
          returnsOf(figures);
        }
      },
    );
    expect(looked).toBeGreaterThan(100);
  });

  it("cannot be written to, and one that goes stale is told", () => {
    const names = perBuild((build) => build.machine.parts.map(({ name }) => name));
    let calls = 0;
    const stale = perBuild(() => ++calls);
    const { figures } = analyse(simple());
    const told: unknown[] = [];
    auditKept(
      (kept, again) => told.push([kept, again]),
      () => {
        expect(() => names(figures).push("another")).toThrow(TypeError);
        stale(figures);
        stale(figures);
      },
    );
    expect(told).toContainEqual([1, 2]);
  });
});

describe("the ledger of a machine whose cells are edited", () => {
  it.each(MACHINES)("is the one built from new, and rows that stay are the same rows: %s", (_, make) => {
    const machine = make();
    const load = machine.parts.find(({ kind }) => kind === "load");
    const mode = machine.modes[0];
    const before = ledgerOf(machine);
    const edited = must(machine, {
      type: "setCell",
      loadId: load?.id ?? "",
      modeId: mode?.id ?? "",
      cell: { state: "amps", amps: typical(2.22) },
    });
    const after = ledgerOf(edited);
    expect(after).toEqual(buildLedger(edited));
    expect(after.rowOf.get(load?.id ?? "")?.part).toBe(edited.parts.find(({ id }) => id === load?.id));
    expect(after.rows.filter((row) => !before.rows.includes(row)).map((row) => row.part.id)).toEqual([load?.id]);
  });
});

describe("what stands", () => {
  const cell = (amps: number): Command => ({
    type: "setCell",
    loadId: "motor",
    modeId: "m1",
    cell: { state: "amps", amps: typical(amps) },
  });

  it("is one for versions that differ in cells, and another for any other difference", () => {
    const machine = simple();
    const alike = (command: Command) => sameBuild(machine, must(machine, command));
    expect(alike(cell(9))).toBe(true);
    expect(alike({ type: "setCell", loadId: "motor", modeId: "m1", cell: null })).toBe(true);
    const wire = machine.wires.find(({ to }) => to.part === "motor");
    for (const command of [
      { type: "setFeed", id: wire?.id ?? "", changes: { gauge: "10 AWG" } },
      { type: "updatePart", id: "motor", changes: { count: 2 } },
      { type: "updatePart", id: "motor", changes: { name: "Winch" } },
      { type: "setSettings", changes: { ambientC: 55 } },
      { type: "removePart", id: "motor" },
    ] as Command[])
      expect(alike(command), JSON.stringify(command)).toBe(false);
    expect(sameBuild(machine, part(machine, "load", "other", {}))).toBe(false);
    expect(sameBuild(machine, { ...machine, modes: [...machine.modes] })).toBe(false);
    expect(sameBuild(machine, { ...machine, signals: [] })).toBe(false);
  });

  it("knows no cell of any load, so that nothing kept with it can hang on one: reading one does not compile either", () => {
    expectTypeOf<Extract<Build["machine"]["parts"][number], { kind: "load" }>>().not.toHaveProperty("cells");
    expectTypeOf<Build["solved"]["circuit"]["places"][number]>().not.toHaveProperty("part");
    const { build } = solveMachine(generateMachine({ parts: 40, seed: 9, driven: true }));
    const loads = build.machine.parts.flatMap((each) => (each.kind === "load" ? [each] : []));
    expect(loads.length).toBeGreaterThan(5);
    for (const load of loads) expect(load).not.toHaveProperty("cells");
    expect(build.build).toBe(build);
  });

  it("is read once while cells are edited, and again after anything else", () => {
    const cache = new TopologyCache();
    let made = 0;
    const names = perBuild((build) => {
      made++;
      return build.machine.parts.map(({ name }) => name);
    });
    const asked: string[] = [];
    const nameOf = perBuildOf((build, id) => {
      asked.push(id);
      return build.partOf.get(id)?.name;
    });
    const read = (machine: Machine) => {
      const { figures } = analyse(machine, cache);
      return [names(figures), nameOf(figures, "motor"), nameOf(figures, "pack")];
    };
    const machine = simple();
    const first = read(machine);
    expect(read(must(machine, cell(7)))).toEqual(first);
    expect([made, asked]).toEqual([1, ["motor", "pack"]]);
    expect(read(must(machine, { type: "updatePart", id: "motor", changes: { name: "Winch" } }))[1]).toBe("Winch");
    expect(made).toBe(2);
  });

  it("with a reading: said again when that part's reading is another, or anything else than a cell is", () => {
    const cache = new TopologyCache();
    const made: string[] = [];
    const told = perBuildFrom((build, id, amps: number, mode: number) => {
      made.push(`${id} ${amps}`);
      return { name: build.partOf.get(id)?.name, amps, mode };
    });
    const machine = simple();
    const read = (version: Machine, id: string, amps: number) => told(analyse(version, cache).figures, id, amps, 0);
    const first = read(machine, "motor", 3);
    expect(read(must(machine, cell(7)), "motor", 3)).toBe(first);
    expect(read(must(machine, cell(8)), "pack", 3).name).toBe("pack");
    expect(read(must(machine, cell(8)), "motor", 4)).toEqual({ name: "motor", amps: 4, mode: 0 });
    expect(read(must(machine, { type: "updatePart", id: "motor", changes: { name: "Winch" } }), "motor", 4).name).toBe("Winch");
    expect(made).toEqual(["motor 3", "pack 3", "motor 4", "motor 4"]);
  });

  it("is one under the school that plans every motor stalled too", () => {
    const machine = must(generateMachine({ parts: 40, seed: 3, modes: 3, driven: true }), {
      type: "setSettings",
      changes: { schools: { ...simple().settings.schools, peakBudget: "all stalled" } },
    });
    const load = machine.parts.find(({ kind }) => kind === "load");
    const edited = must(machine, { type: "setCell", loadId: load?.id ?? "", modeId: "m2", cell: { state: "amps", amps: typical(3) } });
    const [before, after] = [budgeted(machine), budgeted(edited)];
    expect(after.modes.length).toBe(4);
    expect(sameBuild(before, after)).toBe(true);
    expect(after.parts.filter((each) => !before.parts.includes(each)).map(({ id }) => id)).toEqual([load?.id]);
  });

  it("keeps what other loads draw, element for element, and takes the edited one anew", () => {
    const cache = new TopologyCache();
    const machine = generateMachine({ parts: 40, seed: 3, modes: 4, driven: true });
    const load = machine.parts.find(({ kind }) => kind === "load");
    const before = solveMachine(machine, cache).circuit.loads;
    const edited = must(machine, { type: "setCell", loadId: load?.id ?? "", modeId: "m2", cell: { state: "off" } });
    const after = solveMachine(edited, cache).circuit.loads;
    const changed = after.filter((element) => !before.includes(element)).map(({ id }) => id);
    expect(new Set(changed)).toEqual(new Set([load?.id]));
    expect(after.find(({ id, role }) => id === load?.id && role === "load")?.amps[1]).toBe(0);
  });
});
