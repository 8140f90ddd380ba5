import { groupBy } from "../machine/group";
import { SEVERITY_WORDS } from "../verdicts/types";
import type { BuyLine } from "./buy";
import type { Flow, RawRow, Section } from "./pour";
import type { Sheet } from "./sheet";

/** Verdicts that are printed a line each. */
const GRAVE: readonly string[] = [SEVERITY_WORDS.stop, SEVERITY_WORDS.fix];

const text = (words: string): RawRow => ({ kind: "text", text: words });
const NO_HEAD = { head: [] } as const;

/** The sheet in sections, in the order one works with them; verdicts come last. */
export function flowsOf(
  sheet: Sheet,
  { lists, bringUp }: { lists: boolean; bringUp: boolean },
): { lists: Flow; bringUp: Flow; verdicts: Flow } {
  const ends = endCodes(sheet);
  return {
    lists: {
      columns: 3,
      sections: [
        lidCard(sheet),
        waysBack(sheet),
        { title: "With the stop pressed", ...NO_HEAD, rows: (sheet.stopped ?? []).map(text) },
        ...(lists ? [feeds(sheet), cut(sheet, ends), buy(sheet, ends), connections(sheet)] : []),
      ],
    },
    bringUp: { columns: 1, sections: bringUp ? [readings(sheet)] : [] },
    verdicts: {
      columns: 3,
      // Cautions stand where the work happens.
      sections: [accepted(sheet), open(sheet), ...(bringUp ? [] : [{ title: "Cautions", ...NO_HEAD, rows: sheet.cautions.map(text) }])],
    },
  };
}

function lidCard(sheet: Sheet): Section {
  return {
    title: `Lid card: fuses of ${sheet.name}`,
    card: true,
    head: [
      { text: "", share: 7 },
      { text: "Amps", share: 10, right: true },
      { text: "Dead without it", share: 42 },
      { text: "Family", share: 30 },
    ],
    rows: sheet.fuses.map(({ tag, rating, guards, family }) => ({
      kind: "cells",
      cells: [{ text: tag, face: "bold" }, { text: rating, face: "bold" }, { text: guards }, { text: family }],
    })),
  };
}

function waysBack({ waysBack: ways, drawing }: Sheet): Section {
  return {
    title: "Ways back",
    ...NO_HEAD,
    rows: [...ways, ...drawing.also.map((words) => `Also: ${words}`), ...drawing.unfed.map((name) => `Not fed: ${name}`)].map(text),
  };
}

function feeds(sheet: Sheet): Section {
  return {
    title: "Feeds",
    head: [
      { text: "Rail", share: 5.8 },
      { text: "What", share: 25.6 },
      { text: "", share: 7.6 },
      { text: "Run", share: 10.4, right: true },
      { text: "Size", share: 11.4 },
      { text: "Fuse", share: 11.6 },
      { text: "Worst", share: 12, right: true },
      { text: "Carries", share: 9.6, right: true },
    ],
    rows: sheet.feeds.map(({ rail, depth, name, tag, run, conductor, fuse, worst, limit }) => ({
      kind: "cells",
      cells: [
        { text: rail },
        { text: `${"\u00a0".repeat(Math.min(depth, 7))}${name}` },
        { text: tag, face: "bold" },
        { text: run },
        { text: conductor },
        { text: fuse },
        { text: worst },
        { text: limit },
      ],
    })),
  };
}

/** A letter for each end that is bought, so that the cut list says what goes on an end in one letter. */
function endCodes(sheet: Sheet): ReadonlyMap<string, string> {
  const texts = [...new Set(sheet.cut.flatMap(({ lines }) => lines.flatMap(({ fromEnd, toEnd }) => [fromEnd, toEnd])))].filter(Boolean);
  return new Map(texts.map((words, i) => [words, codeOf(i)]));
}

/** In the order of their letters: (a), (b) … (aa). */
function byCode(a: string, b: string): number {
  return a.indexOf(")") - b.indexOf(")") || a.localeCompare(b, "en");
}

/** a, b … z, aa, ab … */
function codeOf(n: number): string {
  return `${n >= 26 ? codeOf(Math.floor(n / 26) - 1) : ""}${String.fromCharCode(97 + (n % 26))}`;
}

function cut(sheet: Sheet, ends: ReadonlyMap<string, string>): Section {
  const end = (words: string) => (words === "" ? "" : ` (${ends.get(words)})`);
  return {
    title: "Cut",
    note: "The letter in brackets is what goes on that end: see Ends.",
    head: [
      { text: "", share: 9 },
      { text: "Length", share: 9, right: true },
      { text: "From, with its end, fuse where it sits, to", share: 71 },
    ],
    rows: sheet.cut.flatMap((group): RawRow[] => [
      { kind: "group", text: [group.gauge, group.colour, group.insulation].filter(Boolean).join(", ") },
      ...group.lines.map(
        ({ tag, pieces, length, from, fromEnd, to, toEnd, fuseTag, twisted }): RawRow => ({
          kind: "cells",
          cells: [
            { text: tag, face: "bold" },
            { text: length },
            {
              text: `${from}${end(fromEnd)} → ${fuseTag ? `${fuseTag} → ` : ""}${to}${end(toEnd)}${twisted ? ", twisted with its pair" : ""}${pieces > 1 ? `, ${pieces} of them` : ""}`,
            },
          ],
        }),
      ),
    ]),
  };
}

/** "3 + 1", metres with one figure, never less than it is. */
function amount({ need, spare, unit }: BuyLine): string {
  return unit === "m" ? metres(need) : `${need}${spare > 0 ? ` + ${spare}` : ""}`;
}

function metres(value: number): string {
  return `${(Math.ceil(value * 10 - 1e-6) / 10).toFixed(1)}\u00a0m`;
}

function shelfWords({ have, unit, buy: open }: BuyLine): string {
  if (have === "some") return "on the shelf, not counted";
  if (have === 0) return "";
  const there = unit === "m" ? metres(have) : `${have}`;
  return open === 0 ? `all ${there} on the shelf` : `${there} on the shelf, buy ${unit === "m" ? metres(open) : open}`;
}

function buy(sheet: Sheet, ends: ReadonlyMap<string, string>): Section {
  const groups = groupBy(sheet.buy.lines, ({ group }) => group);
  const { cost, unpriced } = sheet.buy;
  const codeOfEnd = ({ what }: BuyLine) => ends.get(what.charAt(0).toLowerCase() + what.slice(1));
  // What is bought is named by its letter; what is not is named with the rest, so that every letter is explained here.
  const bought = new Set((groups.get("Ends") ?? []).map(codeOfEnd));
  const others = [...ends].filter(([, code]) => !bought.has(code)).map(([words, code]) => `(${code}) ${words}`);
  return {
    title: "Buy",
    note: `+ is spare, by rule: what dies at a first power-up, fuses of each rating, ends that go wrong; wire with a tenth to spare.${
      cost > 0 ? ` Still to buy: ${cost.toFixed(2)}${unpriced > 0 ? `, ${unpriced} lines without a price` : ""}.` : ""
    }`,
    head: [
      { text: "", share: 10 },
      { text: "", share: 79 },
    ],
    rows: [...groups].flatMap(([group, lines]): RawRow[] => {
      if (group === "Ends") {
        const each = lines.map(
          (line) =>
            `(${codeOfEnd(line)}) ${[`${amount(line)} ${line.what.charAt(0).toLowerCase()}${line.what.slice(1)}`, shelfWords(line)].filter(Boolean).join(", ")}`,
        );
        return [{ kind: "text", lead: "Ends:", text: `${[...each, ...others].sort(byCode).join("; ")}.` }];
      }
      return [
        { kind: "group", text: group },
        ...lines.map((line): RawRow => {
          const price = line.costEach === null ? "" : `, ${line.costEach} each`;
          const about = line.group === "Wire" || line.group === "Small parts" ? line.detail : line.ratings;
          return {
            kind: "cells",
            cells: [
              { text: amount(line), face: "bold" },
              { text: [`${line.what}${price}`, about, shelfWords(line)].filter(Boolean).join("; ") },
            ],
          };
        }),
      ];
    }),
  };
}

function connections(sheet: Sheet): Section {
  return {
    title: "Connections",
    ...NO_HEAD,
    rows: sheet.connections.map(({ part, terminals, pins }) => ({
      kind: "text",
      lead: `${part}:`,
      text: [
        ...terminals.map(({ terminal, tag, to }) => `${terminal ? `${terminal}\u00a0` : ""}${tag}\u00a0${to}`),
        ...pins.map(({ pin, signal, to, colour }) => `${[pin ? `pin\u00a0${pin}` : "", signal, colour].filter(Boolean).join(" ")} ${to}`),
      ].join(" · "),
    })),
  };
}

function readings(sheet: Sheet): Section {
  return {
    title: "Bring-up",
    ...NO_HEAD,
    rows: [
      { kind: "text", lead: "Caution.", text: sheet.cautions.join(" ") },
      ...sheet.bringUp.flatMap(({ title, setUp, stopWhen, groups }, i): RawRow[] => [
        { kind: "text", lead: `${i + 1}. ${title}.`, text: `${setUp} Stop at once: ${stopWhen}.` },
        {
          kind: "steps",
          steps: groups.flatMap(({ lead, steps }) => [
            ...(lead ? [{ lead: true, text: lead, read: null, off: false }] : []),
            ...steps.map(({ name, expect, read, off }) => ({ text: [name, expect].filter(Boolean).join(" "), read, off })),
          ]),
        },
      ]),
    ],
  };
}

/** Stop and Fix a line each; what is less grave in a paragraph a word. */
function open(sheet: Sheet): Section {
  const grave = sheet.open.filter(({ severity }) => GRAVE.includes(severity));
  const lesser = groupBy(
    sheet.open.filter(({ severity }) => !GRAVE.includes(severity)),
    ({ severity }) => severity,
  );
  const words = ({ headline, places }: Sheet["open"][number]) => (places > 1 ? `${headline} (${places})` : headline);
  return {
    title: "Open verdicts",
    head: [
      { text: "", share: 9 },
      { text: "", share: 80 },
    ],
    rows: [
      ...grave.map((each): RawRow => ({ kind: "cells", cells: [{ text: each.severity, face: "bold" }, { text: words(each) }] })),
      ...[...lesser].map(([severity, all]): RawRow => ({ kind: "text", lead: `${severity}:`, text: `${all.map(words).join("; ")}.` })),
    ],
  };
}

function accepted(sheet: Sheet): Section {
  return {
    title: "Accepted or put off",
    head: [
      { text: "", share: 9 },
      { text: "", share: 80 },
    ],
    rows: sheet.accepted.map(({ severity, headline, kind, reason, date }) => ({
      kind: "cells",
      cells: [
        { text: severity, face: "bold" },
        { text: `${headline}. ${kind.charAt(0).toUpperCase()}${kind.slice(1)} ${date}${reason ? `: ${reason}` : ""}` },
      ],
    })),
  };
}
