import { editText, sayDuration } from "../quantity/format";
import type { Dimension } from "../quantity/units";
import { chemistryOf } from "../reference/chemistries";
import { MOVERS } from "../reference/load-kinds";
import { isPlural } from "./counting";
import type { FoundThing } from "./find-thing";
import { loadFigures } from "./make-load";
import type { Chip, ChipKey, LoadReading, Reading, ReadLine, Said, Span } from "./reading";

/** Places that a reading itself does not keep. */
export interface Extra {
  readonly countAt?: Span | null;
  readonly driverAt?: Span | null;
}

const at = ({ start, end }: Span): Span => ({ start, end });

/** Whether a load's kind is asked for watts or amps: what nothing else tells. */
export function isStrengthKnown(load: LoadReading): boolean {
  return (
    load.watts !== null ||
    load.phaseA !== null ||
    Object.keys(load.amps).length > 0 ||
    load.motorClass !== null ||
    (load.logicClass !== null && load.kind !== "motor")
  );
}

/** What was read of a line, a chip each, in the order people read: how many, what, volts, amps. */
export function chipsOf(text: string, reading: Reading, { countAt = null, driverAt = null }: Extra, head: FoundThing | null): Chip[] {
  const chips: Chip[] = [];
  const [first] = head?.tokens ?? [];
  const last = head?.tokens.at(-1);
  const headAt = first && last ? { start: first.start, end: last.end } : null;
  const put = (key: ChipKey, shown: string, where: Span | null, how: Chip["how"] = "said") =>
    chips.push({ key, text: shown, at: where ? at(where) : null, how });
  const said = (key: ChipKey, figure: Said | null | undefined, dimension: Dimension, word = "") => {
    if (!figure) return;
    const low = figure.low === undefined ? "" : `${editText(figure.low, dimension)}\u00a0to\u00a0`;
    const known = figure.provenance === "datasheet" ? "" : figure.provenance === "guess" ? ", about" : `, ${figure.provenance}`;
    put(key, `${word}${low}${editText(figure.value, dimension)}${known}`, figure, figure.provenance === "guess" ? "supposed" : "said");
  };
  const kindChip = (shown: string) =>
    put(
      "kind",
      head?.meant ? `${shown}, read for ${text.slice(headAt?.start, headAt?.end)}` : shown,
      headAt,
      head?.meant ? "supposed" : "said",
    );
  switch (reading.is) {
    case "load":
      if (countAt === null && reading.count === 1 && MOVERS.has(reading.kind) && isPlural(last))
        put("count", "1, or how many?", null, "asked");
      else put("count", String(reading.count), countAt);
      kindChip(reading.kind === "other" ? "load" : reading.kind);
      put("name", reading.name, null);
      if (reading.volts) said("volts", reading.volts, "voltage");
      else put("volts", "volts?", null, "asked");
      said("run", reading.amps.run, "current");
      said("idle", reading.amps.idle, "current", "idle ");
      said("start", reading.amps.start, "current", "starting ");
      said("stall", reading.amps.stall, "current", "held still ");
      said("most", reading.amps.most, "current", "at most ");
      said("phase", reading.phaseA, "current", "a phase ");
      said("watts", reading.watts, "power");
      if (reading.kind !== "motor" || reading.amps.stall?.start !== reading.ohms?.start) said("ohms", reading.ohms, "resistance");
      if (!isStrengthKnown(reading)) put("run", "watts or amps?", null, "asked");
      if (reading.perDriver !== null) put("driver", reading.perDriver === 0 ? "no driver" : `${reading.perDriver} a driver`, driverAt);
      if (reading.endSwitches) put("switches", "end switches", null);
      said("length", reading.lengthM, "length");
      if (reading.gauge) put("wire", `${reading.gauge}: sized with the rest`, null, "supposed");
      if (reading.talks) put("more", `talks to ${reading.talks.to}${reading.talks.kind ? `, ${reading.talks.kind}` : ""}`, null);
      if (reading.driverA !== null)
        put("more", `driver ${editText(reading.driverA, "current")}: give it a line of its own`, null, "supposed");
      if (reading.fuseA !== null) put("more", `fuse ${editText(reading.fuseA, "current")}: sized with the rest`, null, "supposed");
      break;
    case "pack":
      kindChip("pack");
      if (reading.blocks !== null) put("count", `${reading.blocks} blocks in series`, null);
      if (reading.unjoined !== null) put("count", `${reading.unjoined} blocks: in series or in parallel?`, null, "asked");
      if (reading.series !== null)
        put("cells", `${reading.series} cells in series${reading.parallel > 1 ? `, ${reading.parallel} side by side` : ""}`, null);
      else if (reading.parallel > 1) put("cells", `${reading.parallel} side by side`, null);
      if (reading.chemistry) put("chemistry", chemistryOf(reading.chemistry).name, null);
      if (reading.volts) said("volts", reading.volts, "voltage");
      else if (reading.series === null) put("volts", "volts?", null, "asked");
      said("capacity", reading.capacityAh, "capacity");
      if (!reading.capacityAh && !["alkaline_aa", "alkaline_9v", "alkaline_d", "nimh_aa"].includes(reading.chemistry ?? ""))
        put("capacity", "amp hours?", null, "asked");
      said("run", reading.continuousA, "current", "gives ");
      said("length", reading.lengthM, "length");
      break;
    case "supply":
      kindChip(reading.make === null ? "supply" : `${reading.make} supply`);
      if (reading.outputs.length === 0) put("volts", "volts?", null, "asked");
      for (const output of reading.outputs) {
        said("volts", output.volts, "voltage");
        if (output.amps) said("run", output.amps, "current");
        else put("run", "amps?", null, "asked");
      }
      break;
    case "converter":
      if (reading.count > 1) put("count", String(reading.count), null);
      kindChip(reading.isolated ? "isolated converter" : (reading.topology ?? "converter"));
      said("input", reading.inputV, "voltage", "from ");
      if (reading.outputV) said("volts", reading.outputV, "voltage", "gives ");
      else put("volts", "volts?", null, "asked");
      said("run", reading.amps, "current");
      break;
    case "driver":
      put("count", String(reading.count), null);
      kindChip(reading.forSteppers ? "stepper driver" : "driver");
      if (reading.channels !== null) put("channels", `${reading.channels} channel${reading.channels === 1 ? "" : "s"}`, null);
      said("volts", reading.volts, "voltage", "up to ");
      said("run", reading.amps, "current", "printed ");
      said("stall", reading.peakA, "current", "peak ");
      break;
    case "lengths":
      for (const { what, kind, lengthM, gauge } of reading.to) {
        if (gauge) put("wire", `${gauge}: sized with the rest`, null, "supposed");
        said("length", lengthM, "length", `to ${what === "load" ? (kind ?? "loads") : (what ?? "all others")} `);
      }
      break;
    case "link":
      put("name", `${reading.from} → ${reading.to}`, null);
      put("kind", reading.kind ?? "logic", null, reading.kind === null ? "supposed" : "said");
      break;
    case "about":
      if (reading.name !== null) put("name", `called ${reading.name}`, null);
      said("more", reading.ambientC, "temperature", "air up to ");
      if (reading.runS) put("more", `to run ${sayDuration(reading.runS.value)}`, reading.runS);
      break;
    case "nothing":
    case "remark":
    case "heading":
      break;
    default:
      if (reading.count > 1) put("count", String(reading.count), null);
      kindChip(PART_WORDS[reading.is]);
      said("run", reading.amps, "current");
      if (reading.is === "fuse") put("more", `${reading.of === null ? "" : `for ${reading.of}: `}sized with the rest`, null, "supposed");
  }
  return chips;
}

/** What a load's line leads to that it does not say: running and stall currents that follow from it, with their range. */
export function supposedChips({ reading }: Pick<ReadLine, "reading">): Chip[] {
  if (reading?.is !== "load" || !reading.volts) return [];
  const { levels } = loadFigures(reading, { value: reading.volts.value, provenance: reading.volts.provenance }, reading.count);
  return (["run", "stall"] as const).flatMap((key): Chip[] => {
    const level = levels?.[key];
    const said = key === "run" ? (reading.amps.run ?? reading.amps.most) : reading.amps.stall;
    if (said || level?.provenance !== "guess") return [];
    const short = (value: number) => editText(Number(value.toPrecision(2)), "current");
    const range =
      level.low !== undefined && level.high !== undefined ? ` · ${short(level.low).replace(/ A$/, "")} to ${short(level.high)}` : "";
    return [{ key, text: `${short(level.value)}${range}`, at: null, how: "supposed" }];
  });
}

const PART_WORDS = {
  stop: "emergency stop",
  switch: "main switch",
  fuse: "fuse",
  bar: "bus bar",
  port: "charging port",
  diode: "diode",
} as const;
