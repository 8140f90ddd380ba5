import { describe, expect, it } from "vitest";
import { corrected } from "@/core/drafting/edits";
import { ListReader, readList } from "@/core/drafting/read-list";
import type { ReadLine } from "@/core/drafting/reading";
import { brief } from "./brief";
import { HANDS } from "./hands";
import { LATER_HANDS } from "./hands-later";

const words = (text: string) => text.split(" ").sort().join(" ");
const line = (text: string): ReadLine => readList(text).lines[0] as ReadLine;

describe("lists of many hands", () => {
  const read = [...HANDS, ...LATER_HANDS].flatMap(({ lines }) => {
    const list = readList(lines.map(([text]) => text).join("\n"));
    return lines.map(([text, meant], i) => ({ text, meant, got: brief(list.lines[i] as ReadLine) }));
  });

  it("there are at least forty of them, and at least 95 % of their lines are understood without correction", () => {
    expect(HANDS.length + LATER_HANDS.length).toBeGreaterThanOrEqual(40);
    const understood = read.filter(({ meant, got }) => words(meant) === words(got));
    expect(understood.length / read.length).toBeGreaterThanOrEqual(0.95);
  });

  it("no line is misread in silence: what is not as meant is marked", () => {
    const silent = read.filter(({ meant, got }) => words(meant) !== words(got) && got !== "lost" && got !== "trouble");
    expect(silent).toEqual([]);
  });
});

describe("nothing typed is dropped", () => {
  it("every line is there as it was typed, whatever it says", () => {
    const text = [
      "motor 24 V 5 A",
      "  ",
      "\tpump 12V 3A  ",
      "🙂🙂",
      "\u202bservo 6V 1A\u202c",
      "# not bought yet",
      "-3 motors",
      "::::",
      "½ x",
    ].join("\n");
    expect(readList(text).lines.map(({ text: own }) => own)).toEqual(text.split("\n"));
  });

  it("5,000 lines are read, what is beyond is counted, and one line of a megabyte is marked", () => {
    const many = readList(`${"fan 12 V 0.2 A\n".repeat(5001)}end`);
    expect(many.lines).toHaveLength(5000);
    expect(many.beyond).toBe(2);
    const long = line("motor ".repeat(200_000));
    expect(long.reading).toBeNull();
    expect(long.troubles[0]?.why).toMatch(/letters/);
  });

  it.each([
    "-3 motors",
    "motor 24 V 1e9 A",
    "lamp 0 V",
    "motor 230 VAC",
    "pump 12 V 1,500 A",
    "0 motors 12 V",
    "2.5 motors 12 V 1 A",
    "300 motors 12 V 1 A",
  ])("%s is kept, marked and explained", (text) => {
    const { text: own, troubles } = line(text);
    expect(own).toBe(text);
    expect(troubles.length).toBeGreaterThan(0);
  });

  it.each(["a supply without amps", "supply 24 V"])("%s asks for its amps and nothing is made up", (text) => {
    const { chips } = line(text);
    expect(chips.some(({ how }) => how === "asked")).toBe(true);
  });

  it("reads hostile text in time and never throws", () => {
    for (const text of [
      "1".repeat(400),
      "x".repeat(400),
      "- ".repeat(200),
      "(".repeat(300),
      "24V ".repeat(100),
      "a-".repeat(190),
      `${"9,".repeat(150)}V`,
      "motor ".repeat(60),
    ])
      expect(line(text).text).toBe(text);
  });

  it("finds no NaN in any reading", () => {
    for (const { lines } of HANDS) expect(JSON.stringify(readList(lines.map(([text]) => text).join("\n")))).not.toMatch(/NaN|Infinity/);
  });
});

describe("a chip corrected in place", () => {
  const chip = (read: ReadLine, key: string) => {
    const found = read.chips.find((each) => each.key === key);
    if (!found) throw new Error(`no chip ${key}`);
    return found;
  };

  it("rewrites what it was read from", () => {
    const read = line("4 gearmotors 24 V 250 W, rated 13.4 A");
    expect(corrected(read, chip(read, "run"), "12 A")).toBe("4 gearmotors 24 V 250 W, rated 12 A");
    expect(brief(line(corrected(read, chip(read, "count"), "3")))).toContain("×3");
    expect(brief(line(corrected(read, chip(read, "volts"), "12 V")))).toContain("12V");
  });

  it("adds what was missing, and the line is read with it", () => {
    const read = line("winch 24 V");
    expect(brief(line(corrected(read, chip(read, "run"), "8 A")))).toBe("motor ×1 24V r8");
    const bare = line("horn 3 A");
    expect(brief(line(corrected(bare, chip(bare, "volts"), "12")))).toBe("sound ×1 12V r3");
  });

  it("another kind is a word before the line", () => {
    const read = line("the old blower from the shed 12 V 2 A");
    expect(brief(line(corrected(read, chip(read, "kind"), "motor")))).toMatch(/^motor/);
    const twice = line(corrected(read, chip(read, "kind"), "motor"));
    expect(brief(line(corrected(twice, chip(twice, "kind"), "pump")))).toMatch(/^pump/);
  });

  it("a cell of a table is rewritten in its table", () => {
    const list = readList("name;volts;amps\nwinch motor;24;8\nlamp;12;1");
    const row = list.lines[1] as ReadLine;
    expect(corrected(row, chip(row, "run"), "9,5")).toBe("winch motor;24;9,5");
    const heading = list.lines[0] as ReadLine;
    const amps = heading.chips[2];
    expect(amps && corrected(heading, amps, "Stall amps")).toBe("name;volts;Stall amps");
  });

  it("each button of a line that was not understood makes one that is, or leaves it out", () => {
    for (const text of ["the thing from the shed 12 V 3 A", "gizmo 24 V 5 A", "motor 12 V 2 A 5 A"])
      for (const { line: next } of line(text).nearest) expect(["lost", "trouble"]).not.toContain(brief(line(next)));
  });
});

describe("reading again at every key", () => {
  it("gives the same as reading afresh", () => {
    const reader = new ListReader();
    const text = "pack 24 V 20 Ah lifepo4\nMotors:\nleft 24 V 5 A\nright 24 V 5 A\n\nname,volts,amps\nlamp,12,1";
    for (let end = 0; end <= text.length; end++) {
      const typed = text.slice(0, end);
      expect(reader.read(typed)).toEqual(readList(typed));
    }
  });
});
