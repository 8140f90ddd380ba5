import type { Analysis } from "../analysis/types";
import { endSites, mateEnd } from "../connectors/ends";
import { gaugeText } from "../figures/names";
import { type OwnRun, ownRuns } from "../loads/phases";
import { KIND_NAMES } from "../machine/defaults";
import type { FuseRef, Machine, Part, Wire } from "../machine/schema";
import { happens, isChassis } from "../machine/terminals";
import { ledgerOf } from "../machine/tree";
import { say } from "../quantity/format";
import { FUSE_FAMILIES } from "../reference/fuses";
import { gaugeById } from "../reference/gauges";
import { insulationById } from "../reference/insulation";
import { groundWords, LINK_WORDS, levelWords } from "../returns/link-words";
import { openAndDecided } from "../verdicts/decided";
import { SEVERITY_WORDS } from "../verdicts/types";
import { markdownText } from "./escape";

/** The build sheet: what is printed, taken to the shop and to the bench. All cells are text ready to print. */
export interface Sheet {
  feeds: { depth: number; rail: string; name: string; run: string; conductor: string; fuse: string; worst: string; limit: string }[];
  buy: { count: string; what: string; detail: string }[];
  cut: { label: string; conductor: string; colour: string; length: string; from: string; to: string }[];
  links: { name: string; kind: string; levels: string; ground: string; shield: string }[];
  verdicts: { severity: string; headline: string; detail: string }[];
  /** What was accepted or put off, with its reason and date. */
  accepted: { severity: string; headline: string; kind: string; reason: string; date: string }[];
}

const NOT_KNOWN = "?";

function conductor(wire: Wire): string {
  if (wire.board) return gaugeText(wire);
  const size = wire.gauge ?? NOT_KNOWN;
  return wire.parallel > 1 ? `${wire.parallel} × ${size}` : size;
}

function fuseText(fuse: FuseRef | undefined): string {
  return fuse ? `${fuse.ratingA} A` : "–";
}

function terminal(parts: ReadonlyMap<string, Part>, ref: Wire["from"]): string {
  const part = parts.get(ref.part);
  if (!part) return NOT_KNOWN;
  return part.kind === "bar" ? part.name : `${part.name} ${ref.terminal.replace("-", "−")}`;
}

function buyList(machine: Machine): Sheet["buy"] {
  const rows: Sheet["buy"] = [];
  for (const part of machine.parts) {
    // A frame is there already, and fuses are counted below.
    if (part.kind === "fuse" || isChassis(part)) continue;
    const count = part.kind === "load" ? part.count : 1;
    rows.push({ count: `${count}`, what: part.name, detail: `${KIND_NAMES[part.kind]}${part.note ? `, ${part.note}` : ""}` });
  }
  const fuses = new Map<string, { fuse: FuseRef; count: number }>();
  const note = (fuse: FuseRef | undefined) => {
    if (!fuse) return;
    const key = `${fuse.family} ${fuse.ratingA}`;
    const entry = fuses.get(key) ?? { fuse, count: 0 };
    entry.count++;
    fuses.set(key, entry);
  };
  for (const part of machine.parts) if (part.kind === "fuse") note(part.fuse);
  for (const wire of machine.wires) note(wire.fuse);
  for (const { fuse, count } of fuses.values()) {
    rows.push({
      count: `${count} + ${FUSE_FAMILIES[fuse.family].sort === "fuse" && fuse.family.startsWith("blade") ? Math.min(count, SPARES_MOST) : 1} spare`,
      what: `Fuse ${fuse.ratingA} A`,
      detail: `${FUSE_FAMILIES[fuse.family].name}, ${FUSE_FAMILIES[fuse.family].standard}; ${count} holder${count > 1 ? "s" : ""}`,
    });
  }
  rows.push(...connectors(machine), ...capacitors(machine), ...resistors(machine), ...wireTotals(machine));
  return rows;
}

/** Spare blades of one rating that anybody carries; of what is bolted down one (common practice, no source). */
const SPARES_MOST = 3;

/** Connectors by family and key: a mated pair for each housing, which a feed and its return share. */
function connectors(machine: Machine): Sheet["buy"] {
  const totals = new Map<string, { name: string; count: number; note: string }>();
  const wires = new Map(machine.wires.map((wire) => [wire.id, wire]));
  for (const { wire, end, at, row } of endSites(machine)) {
    if (mateEnd(wire.pair === undefined ? undefined : wires.get(wire.pair), end)?.family === at.family) continue;
    const key = `${row.id} ${at.coding ?? ""}`;
    const entry = totals.get(key) ?? { name: row.name, count: 0, note: at.coding ? `key or colour ${at.coding}` : "" };
    entry.count += row.fixedPoles === 1 && row.sort !== "joint" ? 2 : 1;
    totals.set(key, entry);
  }
  return [...totals.values()].map(({ name, count, note }) => ({
    count: `${count} + 1 spare`,
    what: name,
    detail: [note, "both halves, with contacts for its wires"].filter((text) => text !== "").join("; "),
  }));
}

/** Capacitors and chokes that were planned beside parts: hold-up, bulk, filters. */
function capacitors(machine: Machine): Sheet["buy"] {
  const rows: Sheet["buy"] = [];
  for (const part of machine.parts) {
    if ((part.kind === "load" || part.kind === "converter") && part.holdUpF)
      rows.push({
        count: "1",
        what: `Capacitor ${say(part.holdUpF.value, "capacitance")}, and a diode`,
        detail: `hold-up of ${part.name}`,
      });
    if (part.kind === "bar" && part.bulkF)
      rows.push({ count: "1", what: `Capacitor ${say(part.bulkF.value, "capacitance")}`, detail: `bulk on ${part.name}` });
    if (part.kind === "load" && part.filterMh && part.filterF) {
      const choke = say(part.filterMh.value, "inductance");
      rows.push({
        count: "1",
        what: `Choke ${choke} and capacitor ${say(part.filterF.value, "capacitance")}`,
        detail: `filter before ${part.name}`,
      });
    }
  }
  return rows;
}

/** Resistors in signal grounds, in signal lines and in bonds. */
function resistors(machine: Machine): Sheet["buy"] {
  const totals = new Map<string, number>();
  const note = (ohm: number | undefined) => {
    if (ohm !== undefined && ohm > 0) totals.set(say(ohm, "resistance"), (totals.get(say(ohm, "resistance")) ?? 0) + 1);
  };
  for (const wire of machine.wires) note(wire.resistorOhm?.value);
  for (const signal of machine.signals ?? []) note(signal.seriesOhm?.value);
  return [...totals].map(([ohm, count]) => ({
    count: `${count}`,
    what: `Resistor ${ohm}`,
    detail: "in signal lines, signal grounds or a bond",
  }));
}

type Run = Pick<Wire, "gauge" | "insulation" | "colour" | "lengthM" | "parallel">;

/** Copper of loads' own leads. */
function runsOf(machine: Machine): OwnRun[] {
  return machine.parts.flatMap((part) => (part.kind === "load" ? ownRuns(part) : []));
}

/** Wire by size, insulation and colour, with a tenth to spare for ends and mistakes. */
function wireTotals(machine: Machine): Sheet["buy"] {
  const totals = new Map<string, { wire: Run; metres: number; runs: number; unknown: number }>();
  const wires: Run[] = machine.wires.filter((wire) => !wire.board && !happens(wire));
  const leads = runsOf(machine).map(({ lead, conductors }): Run => ({ ...lead, parallel: conductors }));
  for (const wire of [...wires, ...leads]) {
    const key = `${wire.gauge} ${wire.insulation} ${wire.colour ?? ""}`;
    const entry = totals.get(key) ?? { wire, metres: 0, runs: 0, unknown: 0 };
    entry.metres += (wire.lengthM?.value ?? 0) * wire.parallel;
    entry.runs += wire.parallel;
    if (!wire.lengthM) entry.unknown++;
    totals.set(key, entry);
  }
  const area = (wire: Run) => gaugeById(wire.gauge ?? "")?.areaMm2 ?? 0;
  return [...totals.values()]
    .sort((a, b) => area(b.wire) - area(a.wire))
    .map(({ wire, metres, runs, unknown }) => ({
      count: `${say(metres * 1.1, "length", "up")}`,
      what: `Wire ${wire.gauge ?? "of a size not known yet"}${wire.colour ? `, ${wire.colour}` : ""}`,
      detail: `${insulationById(wire.insulation)?.name ?? wire.insulation}; ${runs} run${runs > 1 ? "s" : ""}, a tenth to spare${unknown ? `; ${unknown} of unknown length not counted` : ""}`,
    }));
}

/** Everything the sheet lists. */
export function buildSheet(machine: Machine, analysis: Analysis): Sheet {
  const parts = new Map(machine.parts.map((part) => [part.id, part]));
  const ledger = ledgerOf(machine);
  const feeds = ledger.rows.map(({ part, depth, feed, back, rail }) => {
    const wire = feed ?? back;
    const figure = wire ? analysis.wires[wire.id] : undefined;
    const least = (figure ?? analysis.parts[part.id])?.worstAtLeast ? "≥ " : "";
    const amps = figure ? figure.worst.amps : (analysis.parts[part.id]?.worst.amps ?? 0);
    return {
      depth,
      rail: rail?.tag ?? "0 V",
      name: part.name,
      run: wire?.lengthM ? say(wire.lengthM.value, "length") : wire ? NOT_KNOWN : "–",
      conductor: wire ? conductor(wire) : "–",
      fuse: part.kind === "fuse" ? fuseText(part.fuse) : fuseText(wire?.fuse),
      worst: `${least}${say(amps, "current", "up")}`,
      limit: figure && figure.limitA !== null ? say(figure.limitA, "current", "down") : wire ? NOT_KNOWN : "–",
    };
  });
  const cut = machine.wires.flatMap((wire, i) =>
    wire.board || happens(wire)
      ? []
      : [
          {
            label: wire.label ? `${wire.label}${wire.pair === undefined ? "" : " −"}` : `W${i + 1}`,
            conductor: conductor(wire),
            colour: wire.colour ?? "–",
            length: wire.lengthM ? say(wire.lengthM.value, "length", "up") : NOT_KNOWN,
            from: terminal(parts, wire.from),
            to: terminal(parts, wire.to),
          },
        ],
  );
  for (const { lead, conductors, from, to } of runsOf(machine))
    cut.push({
      label: "–",
      conductor: `${conductors} × ${lead.gauge}`,
      colour: "–",
      length: lead.lengthM ? say(lead.lengthM.value, "length", "up") : NOT_KNOWN,
      from,
      to,
    });
  const { open, decided } = openAndDecided(analysis.verdicts);
  const verdicts = open.map(({ severity, headline, detail }) => ({ severity: SEVERITY_WORDS[severity], headline, detail }));
  const accepted = decided.map(({ severity, headline, decided: made }) => ({
    severity: SEVERITY_WORDS[severity],
    headline,
    kind: made?.kind ?? "accepted",
    reason: made?.reason ?? "",
    date: made?.at.slice(0, 10) ?? "",
  }));
  const links = (machine.signals ?? []).map((signal) => ({
    name: `${parts.get(signal.from)?.name ?? NOT_KNOWN} ${signal.bothWays ? "↔" : "→"} ${parts.get(signal.to)?.name ?? NOT_KNOWN}`,
    kind: LINK_WORDS[signal.kind],
    levels: levelWords(signal),
    ground: groundWords(machine, signal, false),
    shield: groundWords(machine, signal, true),
  }));
  return { feeds, buy: buyList(machine), cut, links, verdicts, accepted };
}

function table(head: readonly string[], rows: readonly (readonly string[])[]): string {
  const line = (cells: readonly string[]) => `| ${cells.map(markdownText).join(" | ")} |`;
  return [line(head), `|${" --- |".repeat(head.length)}`, ...rows.map(line)].join("\n");
}

/** Cautions that go with every sheet. */
export const CAUTIONS = [
  "Before the first power-up: pack unplugged, check every plus against minus with a meter, then power through a small fuse or a limited bench supply, one rail at a time, motors off the ground or uncoupled.",
  "Lithium packs push thousands of amps into a short; take off rings, insulate tools, one terminal at a time. Charged capacitors stay live after switch-off.",
  "Mains wiring inside supplies and chargers is outside this sheet: local codes and licensed people decide it.",
] as const;

/** The sheet as a Markdown file. */
export function sheetMarkdown(machine: Machine, analysis: Analysis): string {
  const sheet = buildSheet(machine, analysis);
  return [
    `# ${markdownText(machine.name)}`,
    machine.description.split("\n").map(markdownText).join("\n"),
    "## Open verdicts",
    sheet.verdicts.length === 0
      ? "None."
      : table(
          ["", "What", "Why"],
          sheet.verdicts.map((v) => [v.severity, v.headline, v.detail]),
        ),
    ...(sheet.accepted.length === 0
      ? []
      : [
          "## Accepted or put off",
          table(
            ["", "What", "Since", "Reason"],
            sheet.accepted.map((v) => [v.severity, v.headline, `${v.kind}, ${v.date}`, v.reason]),
          ),
        ]),
    "## Feeds",
    table(
      ["Rail", "Node", "Run", "Conductor", "Fuse", "Worst", "May carry"],
      sheet.feeds.map((row) => [row.rail, `${"· ".repeat(row.depth)}${row.name}`, row.run, row.conductor, row.fuse, row.worst, row.limit]),
    ),
    "## Buy list",
    table(
      ["How many", "What", "Detail"],
      sheet.buy.map((row) => [row.count, row.what, row.detail]),
    ),
    "## Cut list",
    table(
      ["Label", "Conductor", "Colour", "Length", "From", "To"],
      sheet.cut.map((row) => [row.label, row.conductor, row.colour, row.length, row.from, row.to]),
    ),
    ...(sheet.links.length === 0
      ? []
      : [
          "## Links",
          table(
            ["Link", "Kind", "Levels", "Own ground", "Shield"],
            sheet.links.map((row) => [row.name, row.kind, row.levels, row.ground, row.shield]),
          ),
        ]),
    "## Cautions",
    CAUTIONS.map((line) => `- ${line}`).join("\n"),
    "",
  ].join("\n\n");
}
