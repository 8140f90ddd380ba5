import { capital } from "../quantity/format";
import { countIn } from "./counting";
import { lastSingular, nameOf, rolesOf, VOLTS_MOST } from "./read-load";
import type { ConverterReading, DriverReading, PackReading, Said, SupplyReading, Trouble } from "./reading";
import { numberWord } from "./scan";
import { CHEMISTRY_WORDS, type Thing } from "./vocabulary";
import type { FigureToken, LineWords } from "./words-of-line";

type Head = readonly { start: number; end: number }[];

/** Sane volts of a source or rail, else the reason why not. */
function sane(words: LineWords, said: Said | null, troubles: Trouble[]): Said | null {
  if (!said) return null;
  if (said.value >= 0.5 && said.value <= VOLTS_MOST) return said;
  const text = words.text.slice(said.start, said.end).trim();
  troubles.push({
    why: said.value < 0.5 ? `${text}: nothing runs on that. Write its volts.` : `Up to ${VOLTS_MOST} V is planned here, not ${text}.`,
    at: said,
  });
  return null;
}

function odd(words: LineWords, troubles: Trouble[]): void {
  for (const token of words.tokens) if (token.is === "odd") troubles.push({ why: token.why, at: token });
}

/** Most volts of one cell, full. */
const CELL_MOST_V = 4.3;

/** Reads the rest of a line that is about a battery. */
export function readPack(words: LineWords, head: Head, troubles: Trouble[]): PackReading {
  odd(words, troubles);
  const chemistry = CHEMISTRY_WORDS.find(([spelling]) => spelling.test(words.plain))?.[1] ?? null;
  const joint = words.take(/\b(\d|two|three|four) (?:of (?:them|these) |packs? |blocks? |batteries )?in (series|parallel)\b/);
  const inSeries =
    joint?.found[2] === "series" || words.take(/\b(?:(?:wired |connected )?in series|series|seriell|one after the other)\b/) !== null;
  const inParallel = joint?.found[2] === "parallel" || words.take(/\b(?:(?:wired |connected )?in parallel|parallel)\b/) !== null;
  const forLogic = /\bfor (?:the )?(?:logic|electronics|controller|boards?|brain)\b|\blogic (?:pack|battery)\b/.test(words.plain);
  const [string] = words.figures("series");
  if (string) words.use(string);
  const [cells] = words.figures("cells");
  const cellCount = cells ? words.said(cells).value : null;
  const small = words.take(/\b(\d+|four|six|eight|ten|two|three)? ?x? ?(?:aaa?|d)(?:s|[ -]cells?)?\b(?: batteries| battery)?/);
  const smallCount =
    small?.found[1] === undefined
      ? null
      : ({ two: 2, three: 3, four: 4, six: 6, eight: 8, ten: 10 }[small.found[1]] ?? Number(small.found[1]));
  words.use(
    ...words.tokens.filter(({ start, end }) =>
      head.some((part) => start >= part.start && end <= part.end && !/\d/.test(words.text.slice(start, end))),
    ),
  );
  const counted = countIn(words);
  if (counted.wrong !== null) troubles.push({ why: counted.wrong, at: counted.at });
  const nineVolt = chemistry === "alkaline_9v";
  const [voltsFigure] = words.figures("volts");
  let own = sane(words, voltsFigure ? words.said(voltsFigure) : null, troubles);
  // "24 V (2 x 12 V)": the whole first, then its blocks.
  const [second] = words.figures("volts");
  const together = (whole: number, one: number) => Math.abs(whole / counted.count - one) < 0.05 * one;
  const summed =
    own !== null && second !== undefined && counted.count > 1 && (together(own.value, second.value) || together(second.value, own.value));
  if (own && second && summed) {
    const other = words.said(second);
    own = other.value < own.value ? other : own;
  }
  const capacity = words.first("ampHours");
  const energy = words.first("wattHours");
  const [rate] = words.figures("letterC");
  const amps = words.figures("amps").map((figure) => words.said(figure));
  if (rate) words.use(rate);
  const jointCount = joint ? (numberWord(joint.found[1] ?? "") ?? Number(joint.found[1])) : 1;
  const count = smallCount !== null ? 1 : counted.at === null ? jointCount : counted.count;
  // Cells of their own: what else would 1.2 V a piece be joined as.
  const cellular = own === null ? inSeries && /\b(?:18650|21700|26650)s?\b/.test(words.plain) : own.value <= CELL_MOST_V;
  const loose = cellular && count > 1 && !inParallel && !string;
  let blocks: number | null = null;
  let unjoined: number | null = null;
  let parallel = string?.low ?? 1;
  if (count > 1) {
    if (inParallel && !inSeries) parallel *= count;
    else if (loose) parallel = 1;
    else if (inSeries || nineVolt || summed) blocks = count;
    else if (string || cellCount !== null) parallel *= count;
    else unjoined = count;
  }
  const series = string ? string.value * (blocks ?? 1) : loose ? count : (smallCount ?? cellCount);
  const whole = (said: Said | null, by: number) => (said ? { ...said, value: Number((said.value * by).toPrecision(12)) } : null);
  // Volts of a small cell are the cell's own: "4 AA 1.5 V".
  const perCell = own && series !== null && own.value <= CELL_MOST_V && series > 1;
  const volts = whole(own, perCell ? series : (blocks ?? 1));
  const total = /\btotal|together|in all\b/.test(words.plain) ? 1 : parallel / (string?.low ?? 1);
  const ah = whole(capacity, total) ?? (energy && volts ? { ...energy, value: Number((energy.value / volts.value).toPrecision(4)) } : null);
  const continuous = amps[0] ?? (rate && ah ? { ...ah, start: rate.start, end: rate.end, value: rate.value * ah.value } : null);
  if (nineVolt && volts === null && series === null)
    return {
      is: "pack",
      name: "9 V block",
      chemistry,
      series: 6 * count,
      blocks: count > 1 ? count : null,
      unjoined: null,
      parallel,
      volts: null,
      capacityAh: ah,
      continuousA: continuous,
      lengthM: words.first("metres"),
      forLogic,
    };
  return {
    is: "pack",
    name: forLogic ? "Logic pack" : packName(words, head),
    chemistry,
    series: series ?? (nineVolt ? 6 * count : null),
    blocks,
    unjoined,
    parallel,
    volts: nineVolt ? null : volts,
    capacityAh: ah,
    continuousA: continuous,
    lengthM: words.first("metres"),
    forLogic,
  };
}

/** Words that say of a battery only what it is made of. */
const MADE_OF =
  /^(?:pack|battery|batteries|akku|accu|cells?|blocks?|sealed|lead|acid|agm|gel|sla|vrla|lithium|ion|li|iron|phosphate|lifepo4?|lfp|life|lipo|polymer|nimh|nicd|nickel|alkaline|flooded|aaa?|is|it|lion|power|the|main)s?$/i;

function packName(words: LineWords, head: Head): string {
  const name = nameOf(words, head, "Pack");
  const told = name.split(/[\s-]+/).filter((word) => !MADE_OF.test(word));
  return told.length === 0 || told.length > 3 || /\d/.test(name) ? "Pack" : name.split(" ").length > 4 ? "Pack" : name;
}

/** Reads the rest of a line that is about a supply: each output its volts with the amps beside them. */
export function readSupply(words: LineWords, thing: Thing & { is: "supply" }, head: Head, troubles: Trouble[]): SupplyReading {
  odd(words, troubles);
  const make = thing.make ?? (/\bbench\b|\blab\b/.test(words.plain) ? "bench" : null);
  for (const mains of words.figures("mains")) words.use(mains);
  const outputs: { volts: Said; amps: Said | null }[] = [];
  let waiting: Said | null = null;
  for (const token of words.tokens) {
    if (token.is !== "figure" || !words.isFree(token)) continue;
    if (token.kind === "volts") {
      // What a supply takes from the wall is none of the plan's volts.
      if (token.value > VOLTS_MOST && (token.low !== undefined || token.value >= 200 || token.value === 230)) {
        words.use(token);
        continue;
      }
      const volts = sane(words, words.said(token), troubles);
      if (!volts) continue;
      if (volts.low !== undefined) troubles.push({ why: `${token.text.trim()}: which volts is it set to? Write that one.`, at: token });
      outputs.push({ volts, amps: waiting });
      waiting = null;
    } else if (token.kind === "amps") {
      const said = words.said(token);
      const last = outputs.at(-1);
      if (last && last.amps === null) last.amps = said;
      else if (outputs.length === 0) waiting = said;
      else if (/\b(?:peak|max|surge|limit)/.test(words.around(token).before.join(" ") + words.around(token).after.join(" "))) continue;
      else troubles.push({ why: `${token.text.trim()}: of which output?`, at: token });
    }
  }
  const watts = words.first("watts");
  if (outputs.length === 0)
    for (const volts of thing.volts ?? [])
      outputs.push({
        volts: { value: volts, provenance: "datasheet", start: head[0]?.start ?? 0, end: head.at(-1)?.end ?? 0 },
        amps: waiting,
      });
  const [only] = outputs;
  if (only && outputs.length === 1 && only.amps === null && watts)
    only.amps = { ...watts, value: Number((watts.value / only.volts.value).toPrecision(4)) };
  const counted = countIn(words);
  if (counted.wrong !== null) troubles.push({ why: counted.wrong, at: counted.at });
  const name = nameOf(words, head, "Supply");
  return { is: "supply", name: name.split(" ").length > 4 ? "Supply" : name, make, outputs, watts, lengthM: words.first("metres") };
}

/** Reads the rest of a line that is about a converter: from which volts to which, and its amps. */
export function readConverter(words: LineWords, thing: Thing & { is: "converter" }, head: Head, troubles: Trouble[]): ConverterReading {
  odd(words, troubles);
  const counted = countIn(words);
  if (counted.wrong !== null) troubles.push({ why: counted.wrong, at: counted.at });
  const figures = words.figures("volts");
  let inputV: Said | null = null;
  let outputV: Said | null = null;
  const [first, second] = figures;
  const boosts = thing.topology === "boost";
  if (first && !second) {
    const said = words.said(first);
    const { low } = said;
    if (low !== undefined && first.joined !== undefined && /to|-|\/|^$/.test(first.joined)) {
      outputV = { ...said, value: boosts ? Math.max(low, said.value) : first.joined === "to" ? said.value : Math.min(low, said.value) };
      inputV = { ...said, value: first.joined === "to" ? low : Math.max(low, said.value) };
    } else outputV = said;
  } else if (first && second) {
    const [a, b] = [words.said(first), words.said(second)];
    const outs = (figure: FigureToken) => /\b(out|output|to|gives|makes)\b/.test(near(words, figure));
    const arrow = words.tokens.some((token) => token.is === "mark" && token.mark === "->");
    const firstIsOut = !arrow && (outs(first) && !outs(second) ? true : !outs(second) && (boosts ? a.value > b.value : a.value < b.value));
    [outputV, inputV] = firstIsOut ? [a, b] : [b, a];
  }
  outputV = sane(words, outputV, troubles);
  const plainly = (said: Said | null): Said | null =>
    said && { value: said.value, provenance: said.provenance, start: said.start, end: said.end };
  outputV = plainly(outputV);
  inputV = plainly(inputV);
  const amps = words.figures("amps").map((figure) => words.said(figure));
  const watts = words.first("watts");
  return {
    is: "converter",
    name: nameOf(words, head, "Converter"),
    topology: thing.topology ?? null,
    isolated: thing.isolated ?? /\bisolated\b/.test(words.plain),
    count: counted.count,
    outputV,
    inputV,
    amps: amps[0] ?? (watts && outputV ? { ...watts, value: watts.value / outputV.value } : null),
  };
}

function near(words: LineWords, figure: FigureToken): string {
  const { before, after } = words.around(figure);
  return `${before.slice(-2).join(" ")} ${(after[0] ?? "") === "out" || after[0] === "output" ? "out" : ""}`;
}

/** Reads the rest of a line that is about drivers. */
export function readDriver(words: LineWords, head: Head, troubles: Trouble[]): DriverReading {
  odd(words, troubles);
  const forSteppers = /\bstep(?:per)?s?\b/.test(words.plain);
  const dual =
    words.take(/\b(?:dual|double|twin|quad|triple|single)(?:[ -](?:ch(?:annels?)?|way|motors?|axis|axes))?\b/) ??
    // "2 motor drivers" are two of them, a "2-motor driver" is one.
    words.take(
      /\b(?:two|four|one|2|4|1)[ -](?:ch(?:annels?)?|way|axis|axes|motors?(?! (?:driver|bridge|controller|drive|shield|board)s\b))\b/,
    ) ??
    words.take(/^\s*(?:two|four|2|4)(?= (?:motor )?(?:driver|bridge|controller|esc|drive|shield|board)s?\b)/);
  const [channelFigure] = words.figures("channels");
  const channelsSaid = channelFigure ? words.said(channelFigure).value : null;
  // "2x30 A" on a driver are its channels.
  const cross = channelsSaid === null ? words.take(/\b([1-8]) ?x ?(?=\d+(?:[.,]\d+)? ?a\b)/) : null;
  const word = dual?.found[0] ?? "";
  const lead =
    dual !== null &&
    words.plain.slice(0, dual.at.start).trim() === "" &&
    !/(dual|double|twin|quad|triple|single)|ch|way|axis|motor/.test(word);
  const worded =
    lead || dual === null ? null : /dual|double|twin|two|2/.test(word) ? 2 : /quad|four/.test(word) ? 4 : /triple/.test(word) ? 3 : 1;
  const counted = lead ? { count: /two|2/.test(word) ? 2 : /four/.test(word) ? 4 : 1, at: dual.at, wrong: null } : countIn(words);
  if (counted.wrong !== null) troubles.push({ why: counted.wrong, at: counted.at });
  const figures = words.figures("amps");
  const roles = rolesOf(words, figures);
  let amps: Said | null = null;
  let peakA: Said | null = null;
  for (const figure of figures) {
    const role = roles.get(figure);
    const said = words.said(figure);
    if (role === "most" || role === "stall" || role === "start") peakA ??= said;
    else if (amps === null) amps = said;
    else peakA ??= said;
  }
  const [voltsFigure] = words.figures("volts");
  const told =
    /\bfor (?:(?:the|my|both|all|each|every|of|two|three|four|\d+) )*(?<what>\p{L}[\p{L} -]*?)(?=$|[^\p{L} -]| (?:at|on|with|and|from)\b)/u.exec(
      words.plain,
    );
  const forWhat = told?.groups?.what ?? null;
  const own = nameOf(words, head, "Driver");
  const name = forWhat !== null && /^drivers?$/i.test(own) ? capital(`${lastSingular(forWhat)} driver`) : own;
  return {
    is: "driver",
    name: counted.count > 1 ? lastSingular(name) : name,
    count: counted.count,
    channels: channelsSaid ?? (cross ? Number(cross.found[1]) : worded),
    volts: sane(words, voltsFigure ? words.said(voltsFigure) : null, troubles),
    amps,
    peakA,
    forSteppers,
    forBrushless: /\b(?:escs?|brushless|bldc)\b/.test(words.plain),
    forWhat,
  };
}
