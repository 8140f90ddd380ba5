import { describe, expect, it } from "vitest";
import { FORTY } from "@/tests/lists/forty";
import { randomList } from "@/tests/lists/random-list";
import { seeds } from "@/tests/support/seeds";
import { analyse } from "../analysis/analyse";
import { analyseFully } from "../analysis/fully";
import { faultWalk } from "../faults/walk";
import { applyCommand } from "../machine/apply";
import { inverted, withChanges } from "../machine/changes";
import { checkReferences } from "../machine/check";
import type { Command } from "../machine/commands";
import { newMachine } from "../machine/defaults";
import type { Machine } from "../machine/schema";
import { machineShape } from "../machine/schema";
import { ledgerOf } from "../machine/tree";
import { ratingsOf, USUAL_FUSES } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { settle } from "../settling/settle";
import { burdenOf, isGrave } from "../verdicts/effect";
import { evaluateShorts } from "../verdicts/rules";
import type { Verdict } from "../verdicts/types";
import { answered, assumptionsOf, confirmed } from "./assumptions";
import { sourceChoices } from "./choose-source";
import { draftAtOnce } from "./draft";
import { moreAtOnce } from "./more";
import { readList } from "./read-list";
import { weighedAtOnce } from "./weigh";

const drafted = (text: string) => draftAtOnce(readList(text), { name: "Draft" });
const applied = (machine: Machine, command: Command): Machine => {
  const result = applyCommand(machine, command);
  if (!result.ok) throw new Error(result.message);
  return result.machine;
};
const grave = (machine: Machine) => analyseFully(machine).analysis.verdicts.filter(isGrave);
const parts = (machine: Machine, kind: string) => machine.parts.filter((part) => part.kind === kind);

const TEN = `pack 2 x 12V 33Ah sealed lead-acid
4 gearmotors 24V 250W, 13.4A, two a driver
12V work lights 4 x 10W
horn 12V 3A
winch 24V
controller 5V 0.5A
computer 5V 3A max
the old blower from the shed
controller talks to both drivers
driver 1.2 m, motors 0.8 m`;

describe("a list becomes a whole plan", () => {
  const { machine, left } = drafted(TEN);

  it("is a document as it is saved", () => {
    expect(machineShape.safeParse(machine).success).toBe(true);
    expect(checkReferences(machine)).toEqual([]);
  });

  it("has what the list names and what it needs besides", () => {
    expect(parts(machine, "driver")).toHaveLength(3);
    expect(
      parts(machine, "converter")
        .map((part) => (part.kind === "converter" ? part.outputV.value : 0))
        .sort(),
    ).toEqual([12, 5]);
    expect(parts(machine, "fuse")).toHaveLength(1);
    expect(machine.parts.some((part) => part.kind === "switch" && part.stop)).toBe(true);
    expect(machine.signals).toHaveLength(3);
    expect(machine.modes.map(({ name }) => name)).toEqual(["Parked", "Running", "Full load", "Start", "One held still", "Stopped"]);
    expect(machine.wires.filter(({ lengthM }) => lengthM === undefined)).toEqual([]);
  });

  it("names the line that is not in it, and leaves none of its parts unfed", () => {
    expect(left.map(({ number }) => number)).toEqual([8]);
    const ledger = ledgerOf(machine);
    for (const part of machine.parts)
      if (part.kind === "load" || part.kind === "driver") expect(ledger.rowOf.get(part.id)?.feed, part.name).toBeTruthy();
  });

  it("takes lengths as the list says them", () => {
    const driver = parts(machine, "driver")[0];
    const feed = machine.wires.find((wire) => wire.to.part === driver?.id && wire.role === "supply");
    expect(feed?.lengthM).toEqual({ value: 1.2, provenance: "datasheet" });
  });

  it("asks for what nobody told, and makes nothing up for it", () => {
    const winch = machine.parts.find(({ name }) => name === "Winch");
    expect(winch?.kind === "load" && winch.levels).toBeFalsy();
    expect(analyseFully(machine).analysis.verdicts.some(({ severity, subject }) => severity === "ask" && subject.id === winch?.id)).toBe(
      true,
    );
  });
});

describe("parts that lists ask for", () => {
  it("a window of volts takes the rail that is there", () => {
    const { machine } = drafted("supply 6 V 10 A\n2 servos 4.8-6 V 1 A stall");
    const servo = machine.parts.find(({ kind }) => kind === "load");
    expect(servo?.kind === "load" && servo.nominalV.value).toBe(6);
    expect(parts(machine, "converter")).toHaveLength(0);
  });

  it("motors and logic on the same volts get a converter each", () => {
    const { machine } = drafted("pack 24 V 20 Ah lifepo4\n4 servos 5 V 1 A stall\ncontroller 5 V 0.3 A");
    expect(parts(machine, "converter")).toHaveLength(2);
  });

  it("both outputs of a supply share its box", () => {
    const { machine } = drafted("supply 12 V 16 A + 5 V 20 A\npump 12 V 3 A\ncontroller 5 V 1 A");
    const [a, b] = parts(machine, "supply");
    expect(b?.kind === "supply" && b.box).toBe(a?.id);
  });

  it("blocks are joined as the loads' volts ask for", () => {
    const packOf = (text: string) => drafted(text).machine.parts.find(({ kind }) => kind === "pack");
    const series = packOf("2 x 12 V 7 Ah AGM battery\nmotor 24 V 3 A");
    const parallel = packOf("2 x 12 V 7 Ah AGM battery\nmotor 12 V 3 A");
    expect(series?.kind === "pack" && series.series).toBe(12);
    expect(parallel?.kind === "pack" && [parallel.series, parallel.parallel]).toEqual([6, 2]);
  });

  it("the name, the heat and the wanted run of a list are the machine's", () => {
    const { machine } = drafted("name: Harvest crane\nambient 40 C\nmust run 2 hours\npack 24 V 20 Ah lifepo4\nmotor 24 V 3 A");
    expect([machine.name, machine.settings.ambientC, machine.settings.wantedRunS]).toEqual(["Harvest crane", 40, 7200]);
  });

  it("without a source the chooser's best feeds it, as a guess", () => {
    const { machine } = drafted("motor 24 V 3 A\nlamp 24 V 1 A");
    const source = machine.parts.find(({ kind }) => kind === "pack" || kind === "supply");
    expect(source).toBeDefined();
    expect(assumptionsOf(machine).some(({ at }) => at === source?.id)).toBe(true);
    expect(grave(machine)).toEqual([]);
  });

  it("three sources are offered for such a list, each a line that is read as it is meant", () => {
    const steps = sourceChoices(readList("2 gearmotors 24 V 6 A\nlamp 12 V 1 A\ncontroller 5 V 0.2 A"));
    for (let step = steps.next(); ; step = steps.next())
      if (step.done) {
        expect(step.value.length).toBe(3);
        for (const { line } of step.value) {
          const [read] = readList(line).lines;
          expect(read?.troubles).toEqual([]);
          expect(["pack", "supply"]).toContain(read?.reading?.is);
        }
        break;
      }
  });
});

describe("drivers a list names", () => {
  /** The names of drivers, each with what hangs on it. */
  const driving = (machine: Machine) => {
    const { rowOf } = ledgerOf(machine);
    return Object.fromEntries(
      parts(machine, "driver").map(({ id, name }) => [
        name,
        machine.parts.filter((part) => part.kind === "load" && rowOf.get(part.id)?.parent === id).map((part) => part.name),
      ]),
    );
  };

  it("drive what they are told for, and none is dropped", () => {
    const { machine, left } = drafted(
      "pack 24 V 20 Ah lifepo4\n2 motors 24 V 5 A\n3 dual drivers 30 A\nlift motor 24 V 8 A stall 40 A\nsingle driver 50 A for the lift",
    );
    expect(left).toEqual([]);
    expect(driving(machine)).toEqual({ "Driver 1": ["Motor 1", "Motor 2"], "Driver 2": [], "Driver 3": [], "Lift driver": ["Lift motor"] });
  });

  it.each([
    ["2 pumps 24 V 3 A on a dual driver", [2]],
    ["4 motors 24 V 3 A on two drivers", [2, 2]],
    ["3 motors 24 V 3 A, one driver for all of them", [3]],
    ["2 pumps 24 V 3 A", []],
  ])("%s", (line, each) => {
    const { machine } = drafted(`supply 24 V 20 A\n${line}`);
    expect(Object.values(driving(machine)).map(({ length }) => length)).toEqual(each);
  });

  it("and converters come into a machine that is there, with or without their loads", () => {
    const { machine } = drafted("pack 24 V 20 Ah lifepo4\nlamp 24 V 10 W\ne-stop");
    const { command, left } = moreAtOnce(
      machine,
      readList("driver 30 A\nconverter 24 V to 12 V 10 A\nconverter 24 V to 5 V 6 A\nboard 5 V 1 A").lines,
    );
    if (!command) throw new Error("nothing");
    const now = applied(machine, command);
    expect(left).toEqual([]);
    expect(driving(now)).toEqual({ Driver: [] });
    expect(parts(now, "converter").map((part) => part.kind === "converter" && part.outputV.value)).toEqual([5, 12]);
  });
});

describe("what finds no place is named", () => {
  it.each([
    ["a converter without its volts", "supply 24 V 10 A\nmotor 24 V 3 A\nconverter 10 A"],
    ["a stepper's driver without its stepper", "supply 24 V 10 A\nmotor 24 V 3 A\nstepper driver 4 A"],
  ])("%s", (_, text) => {
    expect(drafted(text).left.map(({ number }) => number)).toEqual([3]);
  });

  it("a driver and a converter where nothing feeds the machine", () => {
    const bar = newMachine("Bare");
    const { machine } = drafted("pack 24 V 20 Ah lifepo4\nlamp 24 V 10 W");
    const unfed = { ...bar, parts: machine.parts.filter(({ kind }) => kind === "load") };
    expect(moreAtOnce(unfed, readList("driver 30 A\nconverter 24 V to 5 V 3 A").lines).left).toHaveLength(2);
  });
});

describe("lines that come with others to volts no rail has", () => {
  it("share one converter that bears them all", () => {
    const { machine } = drafted("pack 24 V 40 Ah lifepo4\nlamp 24 V 10 W\ne-stop");
    const { command } = moreAtOnce(machine, readList("board 5 V 0.2 A\ncomputer 5 V 3 A").lines);
    if (!command) throw new Error("nothing");
    const now = applied(machine, command);
    expect(parts(now, "converter")).toHaveLength(1);
    expect(grave(now)).toEqual([]);
  });

  it("a board whose window the battery leaves gets a converter here too, beside one that bears it", () => {
    const { machine } = drafted("battery 12 V 20 Ah AGM\nplotter 9-32 V 0.5 A\ne-stop");
    const { command } = moreAtOnce(machine, readList("display 11-13 V 0.5 A").lines);
    if (!command) throw new Error("nothing");
    const now = applied(machine, command);
    expect(parts(now, "converter")).toHaveLength(1);
    expect(grave(now)).toEqual([]);
  });
});

describe("electronics on a battery of their volts", () => {
  const asks = (machine: Machine) =>
    analyse(machine)
      .analysis.verdicts.filter(({ severity }) => severity === "ask")
      .map(({ subject }) => machine.parts.find(({ id }) => id === subject.id)?.name);

  it.each(["router 12 V 1 A", "camera 12 V 0.5 A", "controller 12 V 0.3 A", "display 12 V 0.5 A"])("%s: what it bears is asked", (line) => {
    const { machine } = drafted(`battery 12 V 20 Ah AGM\n${line}`);
    expect(grave(machine)).toEqual([]);
    expect(asks(machine)).toEqual([parts(machine, "load")[0]?.name]);
  });

  it("with a window that the battery leaves, they get a converter; with one that holds it, none", () => {
    const narrow = drafted("battery 12 V 20 Ah AGM\ncamera 11-13 V 0.5 A\nmotor 12 V 3 A stall 12 A").machine;
    expect(parts(narrow, "converter")).toHaveLength(1);
    expect(grave(narrow)).toEqual([]);
    const wide = drafted("battery 12 V 20 Ah AGM\nplotter 9-32 V 0.5 A\nmotor 12 V 3 A stall 12 A").machine;
    expect(parts(wide, "converter")).toHaveLength(0);
    expect(grave(wide)).toEqual([]);
    expect(asks(wide)).toEqual([]);
  });

  it("behind a converter a usual window is supposed, and stands as an assumption", () => {
    const { machine } = drafted("battery 24 V 20 Ah AGM\nrouter 12 V 1 A");
    expect(parts(machine, "load").map((load) => load.kind === "load" && load.inputMaxV?.provenance)).toEqual(["guess"]);
  });
});

describe("brushless motors", () => {
  it("told by the cells they are made for hang on such a pack, and a speed controller is part of them", () => {
    const { machine, left } = drafted("6S LiPo 10 Ah 60C\n4 x ESC 60 A\n4 brushless outrunners 6S 30 A max");
    expect(left).toEqual([]);
    expect(parts(machine, "driver")).toEqual([]);
    expect(parts(machine, "load")).toHaveLength(4);
  });

  it("that ask for more than their pack can ever give leave the wires sized for what holds", () => {
    const { machine } = drafted("6S LiPo 2 Ah 25C\n4 brushless outrunners 24 V runs 12 A, starts at 60 A");
    expect(grave(machine).map(({ rule }) => rule)).toContain("collapse");
    const widest = Math.max(...machine.wires.map(({ gauge }) => gaugeById(gauge ?? "")?.areaMm2 ?? 0));
    expect(widest).toBeLessThan(30);
  });
});

describe("what a thing talks to may stand in its own line", () => {
  it.each([
    ["radio 5 V 200 mA, talks to computer by serial", "serial"],
    ["camera 5V 0.25A connected to the computer via usb", "usb"],
    ["4 sensors 5 V 20 mA (talks to computer, i2c)", "i2c"],
  ])("%s", (line, kind) => {
    const { machine, left } = drafted(`supply 5 V 10 A\ncomputer 5 V 2 A\n${line}`);
    expect(left).toEqual([]);
    expect(machine.signals?.map((signal) => signal.kind)).toContain(kind);
  });

  it("a motor that is connected to a wheel talks to nobody", () => {
    expect(drafted("pack 24 V 20 Ah lifepo4\n2 motors 24 V 5 A connected to the wheels").machine.signals ?? []).toEqual([]);
  });
});

describe("the stop reaches what moves on every rail", () => {
  it.each([
    ["behind a converter", "supply 24 V 30 A\n2 steppers 48 V 3 A per phase 1 ohm\nlight 24 V 10 W\ncontroller 24 V 0.3 A\ne-stop"],
    ["a small one on a source of its own", "pack 24 V 40 Ah lifepo4\npack 12 V 10 Ah lifepo4\n2 gearmotors 24 V 8 A\ngearmotor 12 V 0.5 A"],
  ])("%s", (_, text) => {
    const { machine } = drafted(text);
    expect(machine.parts.some((part) => part.kind === "switch" && part.stop)).toBe(true);
    expect(grave(machine).filter(({ rule }) => rule === "stop-circuit")).toEqual([]);
  });
});

/**
 * A short that the main fuse takes too long for, tried with every usual fuse in its place and all thick wires three times as thick
 * as there are: whether none leaves less to stop and to fix.
 */
function isBeyondFuses(machine: Machine, { id, subject }: Verdict): boolean {
  const fuse = machine.parts.find((part) => part.id === subject.id);
  if (!id.startsWith("short-circuit:slow:") || fuse?.kind !== "fuse") return false;
  const thick = {
    ...machine,
    wires: machine.wires.map((wire) =>
      (gaugeById(wire.gauge ?? "")?.areaMm2 ?? 0) > 30 ? { ...wire, gauge: "4/0 AWG", parallel: 3 } : wire,
    ),
  };
  const weigh = (each: Machine) => {
    const { figures, analysis } = analyse(each);
    return burdenOf([...analysis.verdicts, ...evaluateShorts(figures, faultWalk(figures))].filter(isGrave));
  };
  const now = weigh(machine);
  const most = fuse.fuse.ratingA * 3;
  for (const family of USUAL_FUSES)
    for (const ratingA of ratingsOf(family).filter((rating) => rating >= fuse.fuse.ratingA / 3 && rating <= most))
      for (const place of [machine, thick]) {
        const parts = place.parts.map((part) => (part.id === fuse.id ? { ...fuse, fuse: { family, ratingA } } : part));
        if (weigh({ ...place, parts }) < now) return false;
      }
  return true;
}

describe("whatever is understood, no Stop and no Fix that another wiring could avoid", () => {
  it.each([...[...seeds(1, 40), 161].map((seed) => [`list ${seed}`, randomList(seed)] as const), ["forty lines", FORTY] as const])(
    "%s",
    (_name, text) => {
      const { machine } = drafted(text);
      const before = grave(machine);
      const steps = settle(machine, "fewest");
      for (let step = steps.next(); ; step = steps.next())
        if (step.done) {
          expect(step.value.changes.map(({ what }) => what)).toEqual([]);
          break;
        }
      // What is left is what was bought: a source that gives too little, too small for the run, too low in volts.
      const BOUGHT = new Set([
        "source-rating",
        "run-time",
        "rail-mismatch",
        "input-window",
        "supply-limits",
        "collapse",
        "converter-limits",
        "aged-cold",
      ]);
      const left = before.filter(({ rule }) => !BOUGHT.has(rule));
      expect(left.filter((verdict) => !isBeyondFuses(machine, verdict)).map(({ headline }) => headline)).toEqual([]);
    },
    240_000,
  );
});

/** Every number of a plan that counts, in order: how a figure is known and from where to where it could be left out. */
function valuesIn(value: unknown): number[] {
  if (typeof value === "number") return [value];
  if (typeof value !== "object" || value === null) return [];
  return Object.entries(value).flatMap(([key, each]) => (["low", "high", "basis"].includes(key) ? [] : valuesIn(each)));
}

describe("what was assumed", () => {
  const { machine } = drafted(
    "pack 24 V 20 Ah lifepo4\n2 gearmotors 24 V 6 A\nhorn 12 V 2 A\ncontroller 5 V 0.3 A\ncontroller talks to all drivers",
  );

  it("every guess of the plan is in exactly one row", () => {
    const rows = assumptionsOf(machine).flatMap(({ places }) => places.map(({ of, id, path }) => `${of} ${id} ${path.join(".")}`));
    const guesses = JSON.stringify(machine).match(/"provenance":"guess"/g) ?? [];
    expect(new Set(rows).size).toBe(rows.length);
    expect(rows).toHaveLength(guesses.length);
  });

  it("confirmed, each leaves the list, its figures as they were and known, and nothing else changes", () => {
    for (const row of assumptionsOf(machine)) {
      const then = applied(machine, confirmed(machine, row));
      expect(assumptionsOf(then)).toHaveLength(assumptionsOf(machine).length - 1);
      expect(valuesIn(then)).toEqual(valuesIn(machine));
    }
  });

  it("answered, every figure of the row has the value", () => {
    const row = assumptionsOf(machine).find(({ typed, places }) => typed === "length" && places.length > 2);
    expect(row).toBeDefined();
    if (!row) return;
    const then = applied(machine, answered(machine, row, 2.5));
    for (const { id } of row.places)
      expect(then.wires.find((wire) => wire.id === id)?.lengthM).toEqual({ value: 2.5, provenance: "measured" });
  });

  it("what could change most stands first", () => {
    const weights = weighedAtOnce(machine).map(({ weight }) => weight);
    expect(weights).toEqual([...weights].sort((a, b) => b - a));
    expect(weights[0]).toBeGreaterThan(0);
  });
});

describe("lines added to a machine that is there", () => {
  const there = drafted(
    "pack 24 V 40 Ah lifepo4\n4 servos 6 V stall 1 A\n2 gearmotors 24 V 5 A, one on a driver\ncontroller 5 V 0.3 A",
  ).machine;
  const add = (text: string) => moreAtOnce(there, readList(text).lines);
  const withLines = (text: string) => {
    const { command } = add(text);
    if (!command) throw new Error("nothing to add");
    return applied(there, command);
  };
  const named = (machine: Machine, name: string) => machine.parts.find((part) => part.name === name);

  it("servos hang where servos hang, sized and returned, in one step", () => {
    const then = withLines("2 more servos 6 V 1 A stall");
    const [first] = there.parts.filter((part) => part.kind === "load" && part.loadKind === "servo");
    const added = then.parts.find((part) => !there.parts.some(({ id }) => id === part.id));
    const rows = ledgerOf(then).rowOf;
    expect(added?.kind === "load" && [added.loadKind, added.count]).toEqual(["servo", 2]);
    expect(rows.get(added?.id ?? "")?.parent).toBe(rows.get(first?.id ?? "")?.parent);
    expect(rows.get(added?.id ?? "")?.feed?.gauge).toBeDefined();
    expect(rows.get(added?.id ?? "")?.back).toBeTruthy();
    expect(Object.keys(added?.kind === "load" ? added.cells : {})).toHaveLength(there.modes.length);
  });

  it("a motor gets a driver like the ones beside it", () => {
    const then = withLines("motor 24 V 5 A");
    expect(parts(then, "driver")).toHaveLength(3);
    const motor = named(then, "Motor");
    expect(ledgerOf(then).rows.find(({ part }) => part.id === ledgerOf(then).rowOf.get(motor?.id ?? "")?.parent)?.part.kind).toBe("driver");
  });

  it("volts that no rail has get a converter", () => {
    const then = withLines("lamp 12 V 1 A");
    expect(parts(then, "converter")).toHaveLength(parts(there, "converter").length + 1);
  });

  it("what is there stays as it was, wires too", () => {
    const then = withLines("2 servos 6 V 1 A stall\nlamp 12 V 1 A\nmotor 24 V 5 A");
    for (const wire of there.wires) expect(then.wires.find(({ id }) => id === wire.id)).toEqual(wire);
    for (const part of there.parts) expect(then.parts.find(({ id }) => id === part.id)).toEqual(part);
  });

  it("a line it cannot take is said, and a machine without a source asks for one", () => {
    expect(add("pack 12 V 7 Ah AGM").left).toHaveLength(1);
  });

  it("an empty machine is drafted whole, in one step that can be taken back", () => {
    const empty = newMachine("Empty");
    const { command } = moreAtOnce(empty, readList("pack 12 V 7 Ah AGM\nlamp 12 V 1 A").lines);
    const result = command && applyCommand(empty, command);
    expect(result?.ok && result.machine.name).toBe("Empty");
    expect(result?.ok && parts(result.machine, "load")).toHaveLength(1);
    expect(result?.ok && withChanges(result.machine, inverted(result.changes)).machine).toEqual(empty);
  });

  it("a link between what is there", () => {
    expect(withLines("controller talks to both drivers").signals).toHaveLength(2);
  });
});
