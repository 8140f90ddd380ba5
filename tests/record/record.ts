import { createHash } from "node:crypto";
import { analyseFully } from "@/core/analysis/fully";
import { compareSchools } from "@/core/analysis/schools";
import { compareArrangements } from "@/core/choosing/central";
import { converterCandidates } from "@/core/choosing/converters";
import { driverCandidates } from "@/core/choosing/drivers";
import { fusePicture } from "@/core/choosing/fuse-picture";
import { packCandidates, ranked } from "@/core/choosing/packs";
import { replans } from "@/core/choosing/replan";
import { supplyCandidates } from "@/core/choosing/supplies";
import { crossedFaults } from "@/core/faults/crossed";
import { accountOf } from "@/core/figures/account";
import { channelsOf } from "@/core/figures/channels";
import { contactsOf } from "@/core/figures/contacts";
import type { Machine } from "@/core/machine/schema";
import { lossModelOf } from "@/core/network/circuit";
import { compareLayouts } from "@/core/returns/arrange";
import { chassisOf, slips } from "@/core/returns/chassis";
import { compareLogicSupply } from "@/core/returns/logic-supply";
import { adviceFor } from "@/core/returns/practice";
import { returnsOf } from "@/core/returns/summary";
import { gaugeLadder } from "@/core/sizing/ladder";
import { sizePlan } from "@/core/sizing/plan";
import { benchPlan } from "@/core/sources/bench";
import { efficiencyCurve, readConverter } from "@/core/sources/converter";
import { railDemand } from "@/core/sources/demand";
import { sagPicture } from "@/core/sources/sag";

/** Objects that stand for the whole machine again. */
const LEFT_OUT: ReadonlySet<string> = new Set(["figures", "machine", "circuit", "solved", "build", "remedies"]);

/** Words that are a result; all other texts may be worded anew without a figure having moved. */
const RESULTS: ReadonlySet<string> = new Set(["severity", "fate", "danger", "gauge", "family", "selectivity", "status", "wiring", "mark"]);

/** Digits that are kept: what a change of 5 % in a small term moves, and no rounding of a processor does. */
const DIGITS = 6;

/** Every number of an answer in the order of its paths, with the words that are results. */
function valuesOf(value: unknown, found: string[] = []): string[] {
  if (typeof value === "number") found.push(Number.isFinite(value) ? String(Number(value.toPrecision(DIGITS))) : String(value));
  else if (typeof value === "boolean") found.push(String(value));
  else if (value === null || typeof value !== "object") return found;
  else if (ArrayBuffer.isView(value)) for (const each of value as unknown as Iterable<number>) valuesOf(each, found);
  else if (value instanceof Map || value instanceof Set || Array.isArray(value)) for (const each of value) valuesOf(each, found);
  else
    for (const [key, each] of Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1))) {
      if (RESULTS.has(key) && typeof each === "string") found.push(each);
      else if (!LEFT_OUT.has(key)) valuesOf(each, found);
    }
  return found;
}

/** More than this is told by how many there are, their sum and a digest: enough to see that something moved, and where. */
const MOST_IN_FULL = 14;

/** An answer in a line: its values, or how many there are, their sum and a digest. */
export function line(section: string, item: string, answer: unknown): string {
  const values = valuesOf(answer);
  if (values.length <= MOST_IN_FULL) return `${section} ${item}: ${values.join(" ")}`;
  const sum = values.reduce((total, each) => total + (Number.isFinite(Number(each)) ? Number(each) : 0), 0);
  const digest = createHash("sha256").update(values.join(" ")).digest("hex").slice(0, 10);
  return `${section} ${item}: ${values.length} values, sum ${sum.toPrecision(DIGITS)}, ${digest}`;
}

function sized(machine: Machine) {
  const steps = sizePlan(machine, { objective: "mass" });
  for (;;) {
    const { done, value } = steps.next();
    if (done) return value;
  }
}

/** What every part of the computation says of a machine, a line an answer. */
export function recordOf(machine: Machine): string[] {
  const { figures, analysis, late } = analyseFully(machine);
  const { faults } = late;
  const lines: string[] = [];
  const put = (section: string, item: string, answer: unknown) => lines.push(line(section, item, answer));
  for (const wire of Object.values(figures.wires)) {
    const { id, runOhm, limitA, temperatureC, worst, worstContinuous, ampacity, exposure } = wire;
    const { fuseLimitA, tauS, tauCopperS } = ampacity ?? {};
    put("wire", id, [runOhm, limitA, fuseLimitA, temperatureC, tauS, tauCopperS, worst.amps, worstContinuous.amps, exposure?.limitA]);
    put("wire-all", id, wire);
  }
  for (const { id, ...rest } of Object.values(figures.parts)) put("part", id, rest);
  for (const { id, severity, value, limit, remedies } of analysis.verdicts) {
    put("verdict", id, { severity, value, limit });
    if (remedies.length > 0)
      put(
        "remedy",
        id,
        remedies.map(({ command }) => command),
      );
  }
  for (const result of faults?.results ?? []) put("short", `${result.place} ${result.bolted ? "bolted" : "arcing"}`, result);
  put("before-fuse", "all", faults?.before);
  put("crossed", "all", faults && crossedFaults(figures, faults));
  put("times", "all", late.times);
  put("loose", "all", late.loose);
  put("returns", "all", returnsOf(figures));
  put("contacts", "all", contactsOf(figures));
  for (const part of machine.parts) {
    if (part.kind === "driver") put("channels", part.id, channelsOf(figures, part));
    put(
      "account",
      part.id,
      machine.modes.map((_, m) => accountOf(figures, part.id, m)),
    );
    if (part.kind === "pack") put("sag", part.id, sagPicture(machine, part.id));
    const figure = figures.parts[part.id];
    const loss = part.kind === "converter" ? lossModelOf(part) : null;
    if (part.kind === "converter" && loss && figure) put("efficiency", part.id, efficiencyCurve(part, loss, figure));
    if (part.kind === "converter" && figure)
      put(
        "converter",
        part.id,
        machine.modes.map((_, m) => readConverter(part, figure, m, machine.settings)),
      );
    if (part.kind === "load" && part.loadKind === "motor" && figure) {
      const demand = { load: part, continuousA: figure.worstContinuous.amps, peakA: figure.worst.amps };
      put("drivers", part.id, driverCandidates({ ...demand, highestV: figure.highestV, lowestV: figure.lowestV?.volts ?? null }, []));
    }
    if (part.kind === "converter") put("arrangements", part.id, compareArrangements(figures, part.id));
    if (part.kind === "fuse") put("fuse", part.id, fusePicture(figures, faults, { kind: "part", id: part.id }));
  }
  for (const wire of machine.wires) {
    put("ladder", wire.id, gaugeLadder(figures, faults, wire.id));
    if (wire.fuse) put("fuse", wire.id, fusePicture(figures, faults, { kind: "wire", id: wire.id }));
  }
  for (const rail of figures.ledger.rails) {
    put("demand", rail.origin, railDemand(figures, rail));
    const kind = figures.partOf.get(rail.origin)?.kind;
    if (kind === "converter") put("converters", rail.origin, ranked(converterCandidates(figures, rail.origin, [])));
    if (kind === "supply") put("supplies", rail.origin, ranked(supplyCandidates(figures, rail.origin, [])));
    if (kind === "pack") put("packs", rail.origin, ranked([...packCandidates(figures, rail.origin, [])].map(({ candidate }) => candidate)));
  }
  put("schools", "all", compareSchools(machine));
  put("layouts", "all", compareLayouts(figures));
  put("logic", "all", compareLogicSupply(figures));
  put("practice", "all", adviceFor(figures));
  put(
    "chassis",
    "all",
    chassisOf(figures).map((chassis) => [chassis, slips(figures, chassis.frame)]),
  );
  put("replans", "all", replans(figures));
  put("bench", "all", benchPlan(figures));
  put("size", "all", sized(machine));
  return lines;
}
