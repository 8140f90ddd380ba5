import type { Column, Row } from "./matrix";
import { ADDS_UP } from "./matrix";

interface Reason {
  figure: RegExp;
  columns: readonly Column[] | "all";
  kind?: RegExp;
  why: string;
}

const HIGH = ["too high"] as const;
const LOW = ["too low"] as const;
const MISSING = ["missing"] as const;
const BOTH = ["too high", "too low"] as const;
const LOAD = ["shared", "lasting"] as const;

/** Why nobody speaks in a cell, by figure: the first that fits counts. */
const REASONS: readonly Reason[] = [
  {
    figure: /^(contactOhm|outputOhm|what it draws|length)$/,
    columns: MISSING,
    why: "nothing said of this machine changes anywhere in its range: it is listed among what need not be asked",
  },
  { figure: /massKg/, columns: "all", why: "weighs, and endangers nothing" },
  {
    figure: /^its feed$/,
    columns: ["too high", "too low", "shared", "lasting"],
    why: "its volts, its wire and its draw are rows of their own",
  },
  {
    figure: /^what it draws$/,
    columns: ["too low", "shared", "lasting"],
    why: "less is drawn; what adds up is judged at the ratings on the way",
  },
  { figure: /^(size|length|rating)$/, columns: ["too high", "too low"], kind: /^(wire|fuse)$/, why: "thicker and shorter is no danger" },
  {
    figure: /^(loaded wires together|insulation|soldered or moving|volts it breaks|wire before it|contacts)$/,
    columns: "all",
    why: "the usual counts, or it is judged by its size",
  },
  // Packs.
  {
    figure: /^openCircuitV/,
    columns: ["too high", "too low"],
    why: "higher than its full or lower than its empty volts is refused as it is typed",
  },
  { figure: /^(openCircuitV|nominalV|outputV|efficiency)$/, columns: MISSING, why: "cannot be left out" },
  { figure: /^(lowV|fullV)/, columns: "all", why: "beyond its planned volts it is refused as it is typed; milder is no danger" },
  { figure: /^internalOhm/, columns: LOAD, why: "no rating" },
  { figure: /^capacityAh/, columns: HIGH, why: "a larger one only lasts longer" },
  {
    figure: /^(plannedCharge|lowCharge|health|cutoffS|cutoffV|peukert|ratedH)/,
    columns: MISSING,
    why: "the usual of its chemistry counts",
  },
  { figure: /^(plannedCharge|lowCharge|health)/, columns: BOTH, why: "the other way it lasts longer" },
  { figure: /^(cutoffS|ratedH|peukert)/, columns: "all", why: "moves the run time by little: the wish for it is judged as a whole" },
  // Ratings of all kinds.
  {
    figure: /(^|\.)(peakA|peakS)$/,
    columns: "all",
    why: "a peak counts from its lasting figure on; without one that, or the usual of its kind, counts",
  },
  { figure: /^headlineA/, columns: "all", why: "what is printed is told, and never counted on" },
  { figure: /^printedA/, columns: "all", why: "only where no rating is known, 60 % of it" },
  {
    figure: /(^|\.)(continuousA|ratedA|heatsinkA|airA|totalA|groundA|boxW|breakA|breakV|makeA|pinA|maxV|copperMm2|outputA)$/,
    columns: HIGH,
    why: "more than is needed is no danger",
  },
  { figure: /(^|\.)limitA$/, columns: HIGH, why: "above what flows it is judged by the wires behind it, which are told" },
  { figure: /(^|\.)limitA$/, columns: LOW, why: "less than asked trips or limits: the source's rating says so" },
  { figure: /^layers/, columns: MISSING, why: "a layer nobody names is not known to be there" },
  { figure: /^(totalA|boxW|copperMm2)$/, columns: MISSING, why: "a second limit beside each channel's, output's or joint's own" },
  { figure: /^(breakV|makeA)$/, columns: MISSING, why: "asked above 30 V, or once a precharge is planned" },
  { figure: /^ratedA$/, columns: MISSING, kind: /^bar/, why: "asked from what the smallest of its form carries" },
  { figure: /^(groundA|pinA)$/, columns: LOAD, why: "the sum of what lands there is what is judged" },
  {
    figure: /^(ratedA|continuousA|totalA|breakA|limitA)$/,
    columns: LOAD,
    why: "one already uses it continuously, and what joins is the same sum",
  },
  // Supplies and converters.
  { figure: /^(outputOhm|contactOhm|bridgeOhm|bridgeV|groundOhm)$/, columns: LOW, why: "less is lost" },
  { figure: /^(bridgeV|groundOhm|ownA|quiescentA|logicA)$/, columns: MISSING, why: "counts as nothing: milliohms and milliamps" },
  { figure: /^(ownA|quiescentA|logicA)$/, columns: LOW, why: "less is drawn" },
  { figure: /^minLoadA$/, columns: ["too low", "missing"], why: "most need none" },
  { figure: /^crossShare$/, columns: "all", why: "needs another output of its box" },
  { figure: /^(derateFromC|derateShare)$/, columns: "all", why: "the usual counts where nobody says; milder gives more" },
  { figure: /^(startF|startS)$/, columns: ["too high", "missing"], why: "asked where what it starts into is large" },
  { figure: /^(inputF|bulkF)$/, columns: "all", why: "speaks where it is filled: at the contact, the plug or the supply before it" },
  { figure: /^efficiency$/, columns: HIGH, why: "less is lost" },
  { figure: /(^|\.)inputMinV$/, columns: LOW, why: "wider is no danger" },
  { figure: /(^|\.)inputMaxV$/, columns: HIGH, why: "wider is no danger" },
  { figure: /(^|\.)(inputMinV|inputMaxV)$/, columns: MISSING, why: "the volts it is meant for count, with the tolerance of its kind" },
  {
    figure: /^(dutyMax|dropoutV|startsAtV)$/,
    columns: ["too high", "too low", "missing"],
    why: "its printed least input counts; the other way asks less",
  },
  { figure: /^(lossW|lossV|lossOhm|lossAtV)$/, columns: "all", why: "heat and input current carry it: their limits speak" },
  { figure: /^junctionMaxC$/, columns: ["too high", "missing"], why: "105 or 125 °C counts where nobody says" },
  { figure: /^junctionMaxC$/, columns: LOW, why: "its lasting current shrinks with it, and stays above what is asked" },
  { figure: /kelvinPerWatt$/, columns: LOW, why: "cooler" },
  { figure: /kelvinPerWatt$/, columns: MISSING, why: "asked where the worst case would be too hot" },
  { figure: /kelvinPerWatt$/, columns: LOAD, why: "a figure of its own heat" },
  { figure: /^(holdUpF|holdUpOhm)$/, columns: "all", why: "only rides through a dip: the dip itself is told" },
  // Contacts, brakes, coils.
  { figure: /^(prechargeS|prechargeJ)$/, columns: HIGH, why: "longer and stronger are no danger" },
  { figure: /^coilOhm$/, columns: ["too high", "missing"], why: "a coil that is not planned takes nothing; how it pulls is in its volts" },
  { figure: /^dropOutV$/, columns: LOW, why: "it holds longer" },
  { figure: /^(brakeOhm)$/, columns: "all", why: "how fast a motor stops is in no plan: energy and volts are judged" },
  { figure: /^brakePulseJ$/, columns: HIGH, why: "stronger is no danger" },
  // Drivers and loads.
  { figure: /^dutyCap$/, columns: "all", why: "a program's promise: the motor's volts are judged with it, a stall without" },
  { figure: /^logicV$/, columns: "all", why: "5 V counts where nobody says; what feeds it is judged against it" },
  { figure: /^onboard\.outputV$/, columns: "all", why: "what hangs on it is judged by the volts it gets" },
  { figure: /^levels\./, columns: "all", why: "only where a mode uses it; a stall that its driver's limit holds is no more than that" },
  { figure: /^motor\./, columns: "all", why: "helps to know its current, which is what is judged" },
  {
    figure: /^stepper\.(phaseOhm|phaseMh)|^brushless\.phaseOhm/,
    columns: "all",
    why: "helps to know its current, which is what is judged",
  },
  { figure: /^stepper\.(ratedA|setA)|^brushless\.phaseLimitA/, columns: "all", why: "more rated, or less set, is no danger" },
  { figure: /^brushless\.busLimitA/, columns: "all", why: "what the plan draws is judged; a drive that limits draws less" },
  { figure: /^brakingJ$/, columns: LOW, why: "less comes back" },
  { figure: /Lead\.lengthM$/, columns: "all", why: "for the cut list: heat does not hang on it" },
  { figure: /^filter/, columns: "all", why: "lowers noise: its resistance is told as drop" },
  { figure: /./, columns: LOAD, why: "shared and lasting mean something for ratings only" },
];

/** Why a cell is empty; null: nobody knows, which is a gap. */
export function reasonFor(row: Pick<Row, "kind" | "figure">, column: Column): string | null {
  if (column === "reversed")
    return row.figure === "its feed" ? "one metal, or a contact: either way round is the same" : "a number has no direction: see its feed";
  if ((column === "shared" || column === "lasting") && row.figure !== "size" && !ADDS_UP.test(row.figure)) return "no rating that adds up";
  const fits = ({ figure, columns, kind }: Reason) =>
    figure.test(row.figure) && (columns === "all" || columns.includes(column)) && (kind?.test(row.kind) ?? true);
  return REASONS.find(fits)?.why ?? null;
}
