import { parseGauge } from "../reference/gauges";
import type { LoadKind } from "../reference/load-kinds";
import { countIn } from "./counting";
import { nameOf } from "./read-load";
import type { AboutReading, LengthsReading, PartReading, Trouble } from "./reading";
import { LineWords } from "./words-of-line";

/** Reads the rest of a line about a switch, a stop button, a fuse, a bar, a port or a diode. */
export function readPart(
  words: LineWords,
  is: PartReading["is"],
  head: readonly { start: number; end: number }[],
  troubles: Trouble[],
): PartReading {
  words.use(...words.tokens.filter(({ start, end }) => head.some((part) => start >= part.start && end <= part.end)));
  const counted = countIn(words);
  if (counted.wrong !== null) troubles.push({ why: counted.wrong, at: counted.at });
  const amps = words.first("amps");
  const of = /\b(?:for|on|of) (?:the |each |all )?([a-z][a-z ]*)/.exec(words.plain)?.[1]?.trim() ?? null;
  const whole = of === null || is !== "fuse" || /^(?:main|pack|battery|everything|whole|machine|plus|positive|all)\b/.test(of);
  return { is, of: whole ? null : of, name: nameOf(words, head, is), count: counted.count, amps };
}

const NOUNS: readonly (readonly [RegExp, LengthsReading["to"][number]["what"], LoadKind | null])[] = [
  [/\b(?:drivers?|bridges?|escs?|motor controllers?)\b/, "driver", null],
  [/\bsteppers?\b/, "load", "stepper"],
  [/\bservos?\b/, "load", "servo"],
  [/\b(?:motors?|gear ?motors?|winch(?:es)?|wheels?)\b/, "motor", null],
  [/\bactuators?\b/, "load", "actuator"],
  [/\bpumps?\b/, "load", "pump"],
  [/\bfans?\b/, "load", "fan"],
  [/\b(?:lights?|lamps?|leds?)\b/, "load", "light"],
  [/\bheaters?\b/, "load", "heater"],
  [/\b(?:controllers?|boards?|computers?|logic|electronics)\b/, "load", "board"],
  [/\bsensors?\b|\bcameras?\b/, "load", "sensor"],
  [/\b(?:pack|battery|batteries|supply|source|main)\b/, "source", null],
  [/\b(?:all|others?|every(?:thing|where)?|rest|else|each)\b/, null, null],
];

/** Lengths of conductors; null where the line is about something else. */
export function readLengths(text: string): LengthsReading | null {
  const words = new LineWords(text);
  const headed = /^\s*(?:all |the |wire |wiring |cable |lead )*(?:lengths?|cables?|wires?|wiring|leads?|runs?|distances?)\b/.test(
    words.plain,
  );
  const metres = words.figures("metres");
  if (metres.length === 0) return null;
  const others = words.tokens.some((token) => token.is === "figure" && token.kind !== "metres" && token.kind !== "gauge");
  if (others) return null;
  const gauges = words.figures("gauge");
  // One size may stand beside one length; which of several belongs to which nobody can tell.
  if (gauges.length > 1 || (gauges.length === 1 && metres.length > 1)) return null;
  const [sized] = gauges;
  const gauge = sized ? (parseGauge(sized.text)?.id ?? null) : null;
  if (sized && gauge === null) return null;
  const to: { -readonly [K in keyof LengthsReading["to"][number]]: LengthsReading["to"][number][K] }[] = [];
  for (const figure of metres) {
    const { before, after } = words.around(figure);
    const said = words.said(figure);
    const noun = (piece: string) => NOUNS.find(([spelling]) => spelling.test(piece));
    const alone = metres.length === 1 && /\b(?:leads?|cables?|wires?|wiring)\b/.test(words.plain);
    const found = noun(before.join(" ")) ?? noun(after.join(" ")) ?? (alone ? noun(words.plain) : undefined);
    if (!found && !headed) return null;
    to.push({ what: found?.[1] ?? null, kind: found?.[2] ?? null, lengthM: said, gauge });
  }
  if (headed) return { is: "lengths", to };
  // Without the word, a line is about lengths only where nothing else is said in it.
  const rest = words.plain
    .replace(sized?.text.toLowerCase() ?? "", " ")
    .replace(/[\d.,]+ ?(?:mm|cm|metres?|meters?|m|feet|ft|inch(?:es)?|in|'|")(?![a-z])/g, " ")
    .split(/[^a-zäöüß]+/)
    .filter(
      (word) =>
        word !== "" &&
        !/^(to|the|a|an|and|each|all|from|are|is|about|away|of|wire|cable|lead|leads|wires|cables|for|at|every|everything|else|other|others|rest|in|between|per|long)$/.test(
          word,
        ),
    );
  return rest.every((word) => NOUNS.some(([spelling]) => spelling.test(word))) ? { is: "lengths", to } : null;
}

/** What surrounds the machine, how long it is to run, what it is called; null where the line is about something else. */
export function readAbout(text: string): AboutReading | null {
  const named = /^\s*(?:name|machine|project|title|called)\s*[:=]\s*(.+)$/i.exec(text);
  if (named?.[1]) return { is: "about", name: named[1].trim(), ambientC: null, runS: null };
  const words = new LineWords(text);
  const [degrees] = words.figures("letterC");
  if (degrees && /\b(?:ambient|outside|outdoors?|summer|temperature|air|room|hot|warm|up to|box|inside)\b/.test(words.plain))
    return { is: "about", name: null, ambientC: words.said(degrees), runS: null };
  const [seconds] = words.figures("seconds");
  if (
    seconds &&
    seconds.value >= 60 &&
    /\b(?:run(?:s|ning)?(?: ?time)?|last|lasts|must run|endurance|autonomy|per charge|on one charge)\b/.test(words.plain)
  )
    return { is: "about", name: null, ambientC: null, runS: words.said(seconds) };
  return null;
}
