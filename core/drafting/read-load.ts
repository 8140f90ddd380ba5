import { NAME_MAX } from "../machine/base-schema";
import { parseGauge } from "../reference/gauges";
import { MOVERS } from "../reference/load-kinds";
import { countIn, isPlural, share } from "./counting";
import { sideOf } from "./demand";
import { besides, spread } from "./read-beside";
import type { AmpsRole, LoadReading, Said, Trouble } from "./reading";
import type { Sharing } from "./sharing";
import { singular } from "./spell";
import type { Thing } from "./vocabulary";
import type { FigureToken, LineWords } from "./words-of-line";

/** Limits of what is planned here: SELV machines up to a few hundred amps. */
export const VOLTS_MOST = 120;
/** Volts of a lithium cell, empty and full. */
const CELL_V = { empty: 3, full: 4.2 } as const;
/** Largest current that is planned, A. */
export const AMPS_MOST = 2000;

const ROLE_WORDS: readonly (readonly [RegExp, AmpsRole | "most" | "phase" | "limit"])[] = [
  [/^(stall|stalled|stalling|stalls|locked|lock|blocked|jammed|jam|held|lrc|stal)$/, "stall"],
  [/^(start|starting|starts|inrush|surge|startup|starter|cold)$/, "start"],
  [/^(no|idle|idling|noload|free|unloaded|standby|quiescent|sleep|sleeping|resting|waiting|hold|holding)$/, "idle"],
  [/^(phase|ph|coil|coils|winding|windings)$/, "phase"],
  [/^(limit|limited)$/, "limit"],
  [/^(peak|max|maximum|maxi|most|up|peaks|burst|maximal|tx|transmit|transmitting)$/, "most"],
  [
    /^(rx|receive|receiving|rated|rating|run|running|runs|nominal|nom|cont|continuous|average|avg|normal|normally|working|load|loaded|draws|draw|operating|moving|drawing|full|printed|working)$/,
    "run",
  ],
];

function roleOf(words: readonly string[]): AmpsRole | "most" | "phase" | "limit" | null {
  // "no load" is idle, "full load" is running.
  for (const [spelling, role] of ROLE_WORDS) if (words.some((word) => spelling.test(word))) return role;
  return null;
}

/** The role of each current in a line: the words before it or behind it, whichever way round the clause is written. */
export function rolesOf(words: LineWords, figures: readonly FigureToken[]): Map<FigureToken, ReturnType<typeof roleOf>> {
  const roles = new Map<FigureToken, ReturnType<typeof roleOf>>();
  const about = figures.map((figure) => ({ figure, ...words.around(figure) }));
  // Where the last current has its word behind it ("2 A running 9 A stall"), so have the others; else it stands before ("2 A stall 9 A").
  const [first] = about;
  const last = about.at(-1);
  const leads = first === undefined || last === undefined || roleOf(first.before) !== null || roleOf(last.after) === null;
  about.forEach(({ figure, before, after }, i) => {
    // A word between two currents is said of one of them only.
    const joined = (other: { figure: FigureToken } | undefined) => other !== undefined && isOneClause(words, figure, other.figure);
    const [near, far] = leads ? [before, joined(about[i + 1]) ? [] : after] : [after, joined(about[i - 1]) ? [] : before];
    roles.set(figure, roleOf(near) ?? roleOf(far));
  });
  return roles;
}

function isOneClause(words: LineWords, a: FigureToken, b: FigureToken): boolean {
  const [i, j] = [words.tokens.indexOf(a), words.tokens.indexOf(b)];
  return words.tokens.slice(Math.min(i, j) + 1, Math.max(i, j)).every(({ is }) => is === "word");
}

/** Words that say nothing of what a thing is called. */
const FILLERS = new Set(
  (
    "a an the my our more another extra additional further of dc each every per piece pieces total together altogether combined all max maximum rated rating nominal running run stall stalled idle load no free start starting inrush surge peak " +
    "current draws draw pulls takes consumes uses at about with and on in is are has up to most working normal average avg cont continuous max. typ typical approx it its when while if using ea pcs x volts volt amps amp watts watt power each. locked held still standby from under full operating moving needs need want wants " +
    "voltage supply phase for ph pc printed label says say off limit limited only also so some like either as than or maybe perhaps ? quiescent unloaded holding hold blocked jammed coil winding resistance apiece both"
  ).split(" "),
);

/** What the builder calls it: the words that were not read as anything else. */
export function nameOf(words: LineWords, head: readonly { start: number; end: number }[], fallback: string): string {
  const first = head[0]?.start ?? 0;
  const last = head.at(-1)?.end ?? 0;
  const kept: string[] = [];
  for (const token of words.tokens) {
    const inHead = token.start >= first && token.end <= last;
    if (!inHead && (!words.isFree(token) || token.is === "mark" || token.is === "times")) {
      if (kept.length > 0 && token.start > last) break;
      continue;
    }
    if (token.is === "figure" && !inHead) continue;
    const glue = token.is === "word" && !inHead && FILLERS.has(token.word);
    // Words behind the noun that belong to figures end the name.
    if (glue && token.start > last && token.is === "word" && !["for", "of", "the", "and"].includes(token.word)) break;
    if (glue && token.start < first) continue;
    kept.push(token.text);
  }
  while (kept.length > 1 && FILLERS.has((kept.at(-1) ?? "").toLowerCase())) kept.pop();
  const joined = kept
    .join(" ")
    .replace(/\s+/g, " ")
    .replace(/\be (stop)\b/i, "e-$1")
    .trim();
  const name = joined === "" ? fallback : joined;
  return name.charAt(0).toUpperCase() + name.slice(1, NAME_MAX - 4).trim();
}

/** Said of all pieces together. */
function isTogether(words: LineWords): boolean {
  return words.take(/\b(?:all )?(?:together|altogether|in total|in all|total|combined|for all|for both|the lot)\b/) !== null;
}

/** Reads the rest of a line that is about a load. */
export function readLoad(
  words: LineWords,
  thing: Thing & { is: "load" },
  head: readonly { start: number; end: number }[],
  troubles: Trouble[],
  drivers: Sharing | null,
): LoadReading & { countAt: { start: number; end: number } | null; driverAt: { start: number; end: number } | null } {
  const { kind } = thing;
  const switches = words.take(/\b(?:with |has |incl(?:uding)? )?(?:built[- ]?in |internal )?(?:limit|end)[- ]?(?:switch(?:es)?|stops?)\b/);
  const each = words.take(/\b(?:each|apiece|per (?:piece|motor|servo|unit|lamp|light|one)|ea|a ?piece)\b\.?/);
  const together = isTogether(words);
  // The number of a frame or a model is no count: its noun has it.
  words.use(...words.tokens.filter(({ start, end }) => head.some((part) => start >= part.start && end <= part.end)));
  const { channels, ...beside } = besides(words, kind);
  const counted = countIn(words, head);
  if (counted.wrong !== null) troubles.push({ why: counted.wrong, at: counted.at });
  const last = words.tokens.findLast(({ start, end }) => head.some((part) => start >= part.start && end <= part.end));
  if (counted.at === null && counted.wrong === null && MOVERS.has(kind) && isPlural(last))
    troubles.push({ why: "How many of them? Write the number in front.", at: null });
  else if (each && counted.at === null && counted.wrong === null && sideOf(kind) === "power")
    troubles.push({ why: "Each of how many? Write the number in front.", at: each.at });
  const by = (together && !each ? counted.count : 1) / spread(words, kind, troubles);

  const volts = theVolts(words, troubles);
  const amps: Partial<Record<AmpsRole, Said>> = {};
  let phaseA: Said | null = null;
  const figures = words.figures("amps");
  const roles = rolesOf(words, figures);
  const perPhase = words.take(/(?:\/ ?|per |a )(?:phase|ph|coil|winding)\b\.?/) !== null;
  const unsaid: FigureToken[] = [];
  for (const figure of figures) {
    let role = roles.get(figure) ?? null;
    if (kind === "stepper" && (role === "phase" || perPhase || role === null || role === "run" || role === "most") && phaseA === null) {
      phaseA = words.said(figure);
      continue;
    }
    // A servo draws most held still, a brushless drive at its limit. What others draw at most may be far from their stall.
    if (role === "most" && kind === "servo") role = "stall";
    if (role === "most" && kind === "brushless") role = "start";
    if (role === "limit") role = kind === "brushless" ? "start" : "run";
    if (role === "phase") role = "run";
    if (role === null || amps[role] !== undefined) unsaid.push(figure);
    else amps[role] = share(words.said(figure), by);
  }
  for (const figure of unsaid) {
    if (amps.run === undefined && roles.get(figure) == null) amps.run = share(words.said(figure), by);
    else
      troubles.push({
        why: `What is the ${words.text.slice(figure.start, figure.end).trim()}: running, starting or held still? Write the word beside it.`,
        at: figure,
      });
  }
  const [watt, ...more] = words.figures("watts");
  const watts = channels ?? (watt ? share(words.said(watt), by) : null);
  for (const extra of more) words.use(extra);
  const ohms = words.first("ohms");
  if (kind === "motor" && ohms && ohms.value > 0 && amps.stall === undefined && volts) {
    // Ohms of a winding are its stall: U / R.
    amps.stall = { ...ohms, value: volts.value / ohms.value };
  }
  const lengthM = cableIn(words, head);
  const gaugeToken = words.figures("gauge")[0];
  const gauge = gaugeToken ? (parseGauge(words.said(gaugeToken) && words.text.slice(gaugeToken.start, gaugeToken.end))?.id ?? null) : null;
  for (const said of Object.values(amps))
    if (said.value > AMPS_MOST)
      troubles.push({ why: `${Math.round(said.value)} A is more than is planned here: at most ${AMPS_MOST} A.`, at: said });
  for (const said of Object.values(amps))
    if (said.value <= 0) troubles.push({ why: "A current of nothing at all: leave it away, or write what it draws.", at: said });
  if (watts && (watts.value <= 0 || watts.value > 50000)) troubles.push({ why: "Between 0 and 50 kW is planned here.", at: watts });
  for (const stray of words.tokens) {
    if (stray.is === "odd") troubles.push({ why: stray.why, at: stray });
    if (stray.is === "figure" && stray.kind === "mains" && words.isFree(stray))
      troubles.push({
        why: "Mains is not planned here. Write what the load takes on the DC side, or the supply that feeds it.",
        at: stray,
      });
    if (stray.is === "figure" && stray.kind === "volts" && words.isFree(stray) && volts)
      troubles.push({
        why: `Two voltages, ${words.text.slice(volts.start, volts.end).trim()} and ${stray.text.trim()}: leave the one it runs on.`,
        at: stray,
      });
  }
  const name = nameOf(words, head, kind);
  return {
    is: "load",
    kind,
    name: counted.count > 1 ? lastSingular(name) : name,
    count: counted.count,
    volts,
    amps,
    watts,
    ohms,
    phaseA,
    perDriver: drivers?.of(counted.count) ?? null,
    lengthM,
    gauge,
    ...beside,
    driverA: beside.driverA ?? drivers?.amps ?? null,
    endSwitches: switches !== null,
    motorClass: thing.motorClass ?? null,
    logicClass: thing.logicClass ?? null,
    countAt: counted.at,
    driverAt: drivers?.at ?? null,
  };
}

/** Length of its cable: where the line says so, or metres or feet alone behind the noun. A screen's inches and a fan's millimetres are none. */
function cableIn(words: LineWords, head: readonly { end: number }[]): Said | null {
  const said = /\b(?:cables?|wires?|leads?|wiring|away|run of|long run|from the (?:pack|battery|bar|driver|box))\b/.test(words.plain);
  const strip = /\b(?:strips?|tape|ribbon|hose|belt|stroke)\b/.test(words.plain);
  const [figure] = words
    .figures("metres")
    .filter(
      ({ start, text }) =>
        said || (!strip && start > (head.at(-1)?.end ?? 0) && /m$|f(?:ee|oo)?t$/i.test(text.trim()) && !/[mc]m$/i.test(text.trim())),
    );
  return figure ? words.said(figure) : null;
}

/** What several are called, of one. */
export function lastSingular(name: string): string {
  const at = name.lastIndexOf(" ") + 1;
  return name.slice(0, at) + singular(name.slice(at));
}

/** The volts a load runs on. Of a span the volts are asked for, unless it is a window of a board or a servo, which any rail within it feeds. */
function theVolts(words: LineWords, troubles: Trouble[]): Said | null {
  const [figure] = words.figures("volts");
  if (!figure) {
    // "6S" on a motor: it is made for a pack of so many lithium cells, empty to full.
    const cells = words.first("series");
    if (cells) return { ...cells, low: cells.value * CELL_V.empty, value: Number((cells.value * CELL_V.full).toPrecision(4)) };
    const usb = words.take(/\busb\b/);
    return usb ? { value: 5, provenance: "datasheet", ...usb.at } : null;
  }
  const volts = words.said(figure);
  if (volts.value <= 0) {
    troubles.push({
      why: `${words.text.slice(figure.start, figure.end).trim()}: nothing runs on that. Write the volts it is made for.`,
      at: figure,
    });
    return null;
  }
  if (volts.value < 0.5 || volts.value > VOLTS_MOST) {
    troubles.push({
      why: `Machines from 0.5 to ${VOLTS_MOST} V are planned here, not ${words.text.slice(figure.start, figure.end).trim()}.`,
      at: figure,
    });
    return null;
  }
  return volts;
}
