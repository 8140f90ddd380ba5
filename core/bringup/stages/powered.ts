import type { Cell } from "../../machine/load-schema";
import type { Load, Part } from "../../machine/schema";
import { inputTerminals, isConsumer, isSource } from "../../machine/terminals";
import { railOrigin } from "../../machine/tree";
import { say } from "../../quantity/format";
import type { InstrumentId } from "../../reference/instruments";
import { shows } from "../probe";
import { isLogic, restingCell, type Situation } from "../situation";
import { ammeter, type Maker, networkStep, probes, terminalWords, voltsAt } from "../steps";
import type { StageId, Step, SupplySetting, Tells } from "../types";
import { railEnds, railWords } from "./rails";

/** The plug a part is fed by: its plus and minus; null for what draws nothing of its own. */
export function feedTerminals(part: Part): { plus: string; minus: string } | null {
  const { supply, back } = inputTerminals(part);
  return isConsumer(part) && supply !== null && back !== null ? { plus: supply, minus: back } : null;
}

/** Parts that must be plugged in for others to have power: drivers and boards whose own regulator or channel feeds them. */
export function withFeeders(maker: Maker, ids: Iterable<string>): Set<string> {
  const { ledger, partOf } = maker.figures;
  const found = new Set<string>();
  for (const id of ids) {
    for (let at: string | null = id; at !== null && !found.has(at); at = ledger.rowOf.get(at)?.parent ?? null) {
      const part = partOf.get(at);
      if (part?.kind === "load" || part?.kind === "driver") found.add(at);
    }
  }
  return found;
}

/** A situation on the bench, with what is plugged in at rest but for `cells`. */
export function onBench(
  maker: Maker,
  id: string,
  words: string,
  ids: Iterable<string>,
  over: { cells?: ReadonlyMap<string, Cell>; share?: number; open?: ReadonlySet<string>; own?: boolean; warm?: boolean } = {},
): Situation {
  const plugged = withFeeders(maker, ids);
  const cells = new Map<string, Cell>();
  for (const each of plugged) {
    const part = maker.figures.partOf.get(each);
    if (part?.kind === "load") cells.set(each, over.cells?.get(each) ?? restingCell(maker.figures.machine, part));
  }
  return {
    id,
    words,
    fedBy: over.own ? "own" : "bench",
    share: over.share ?? 1,
    plugged,
    cells,
    open: over.open ?? new Set(),
    warm: over.warm ?? false,
  };
}

/** What each bench supply is set to in a situation. */
export function settingsOf(maker: Maker, situation: Situation): SupplySetting[] {
  const { built, limits, unknown } = maker.stand(situation);
  return built.circuit.emfs.flatMap((emf) => {
    const limitA = limits.get(emf.id);
    const part = maker.figures.partOf.get(emf.id);
    if (emf.converter >= 0 || limitA === undefined || !part) return [];
    return [{ source: emf.id, name: part.name, volts: emf.volts / situation.share, limitA, atLeast: unknown.length > 0 }];
  });
}

/** A bench supply shows its own amps well above its last digits; small ones are read in series. */
function mainAmmeter(maker: Maker, situation: Situation): (amps: number) => InstrumentId {
  return (amps) => (situation.fedBy === "bench" && Math.abs(amps) >= 0.2 ? "supply" : ammeter(maker.kit, amps));
}

const TOO_MUCH = "Something draws that the plan does not have: a wrong board on a rail, a part the wrong way round, an output that is on.";
const TOO_LITTLE = "Something is dead: a fuse open, a plug not seated, a crimp on insulation.";

/** What every source gives in a situation. */
export function totalSteps(maker: Maker, stage: StageId, situation: Situation, title = "Amps out of"): Step[] {
  return maker.figures.machine.parts.filter(isSource).flatMap((source): Step[] => {
    const step = networkStep(
      maker,
      situation,
      { kind: "amps", source: source.id },
      {
        stage,
        what: `${situation.id} amps ${source.id}`,
        title: `${title} ${situation.fedBy === "bench" ? `the bench supply, in place of ${source.name}` : source.name}`,
        places: [
          situation.fedBy === "bench"
            ? { what: "look", at: "the bench supply's ammeter, or a meter in series with its plus" }
            : { what: "clamp", at: `the plus lead of ${source.name}`, note: "every conductor of it through the jaw" },
        ],
        outside: `Too much: ${TOO_MUCH.charAt(0).toLowerCase()}${TOO_MUCH.slice(1)} Too little: ${TOO_LITTLE.charAt(0).toLowerCase()}${TOO_LITTLE.slice(1)}`,
        about: [source.id, ...situation.plugged],
      },
      {},
      mainAmmeter(maker, situation),
    );
    return step ? [step] : [];
  });
}

/** The most volts that everything on a rail bears; undefined where nobody said of any. */
function bearsAtMost({ figures }: Maker, origin: string): number | undefined {
  const most = figures.machine.parts.flatMap((part) => {
    const own = isConsumer(part) && railOrigin(figures.ledger, part.id) === origin ? window(part).most : undefined;
    return own === undefined ? [] : [own];
  });
  return most.length > 0 ? Math.min(...most) : undefined;
}

/** Volts each rail gives. */
export function railSteps(maker: Maker, stage: StageId, situation: Situation): Step[] {
  const { figures } = maker;
  return figures.ledger.rails.flatMap((rail): Step[] => {
    const ends = railEnds(figures, rail);
    if (!ends) return [];
    const step = networkStep(
      maker,
      situation,
      { kind: "volts", red: ends.plus, black: ends.minus },
      {
        stage,
        what: `${situation.id} rail ${rail.origin}`,
        title: `Volts of ${railWords(figures, rail)}`,
        places: probes(figures, ends.plus, ends.minus),
        outside:
          "High: a trimmer never set, or a sense wire open. Low: still limited by the bench supply, or it does not start. Do not plug anything into it.",
        about: [rail.origin],
        // Without a load it is the regulator's own volts.
        tells:
          stage === "tree" && figures.partOf.get(rail.origin)?.kind === "converter"
            ? { kind: "output", converter: rail.origin }
            : undefined,
      },
      { most: bearsAtMost(maker, rail.origin) },
    );
    return step ? [step] : [];
  });
}

/** What a part's own sheet allows at its input. */
function window(part: Part): { least?: number | undefined; most?: number | undefined } {
  return { least: "inputMinV" in part ? part.inputMinV?.value : undefined, most: "inputMaxV" in part ? part.inputMaxV?.value : undefined };
}

/** Volts at the plugs or terminals of parts. `title`: what they are called there. */
export function inputSteps(
  maker: Maker,
  stage: StageId,
  situation: Situation,
  parts: readonly Part[],
  title = (name: string) => `Volts at ${name}`,
): Step[] {
  const { figures } = maker;
  return parts.flatMap((part): Step[] => {
    const ends = feedTerminals(part);
    if (!ends || !isConsumer(part) || figures.solved.circuit.feeds.has(part.id)) return [];
    const probe = voltsAt(part.id, ends.plus, ends.minus);
    const row = figures.ledger.rowOf.get(part.id);
    const step = networkStep(
      maker,
      situation,
      probe,
      {
        stage,
        what: `${situation.id} volts ${part.id}`,
        title: title(part.name),
        places: probes(figures, probe.red, probe.black),
        outside: "Follow it from its fuse on: volts that are lost show as millivolts along the way, plus side and return.",
        about: [part.id, ...(row?.feed ? [row.feed.id] : []), ...(row?.back ? [row.back.id] : [])],
      },
      situation.share === 1 ? window(part) : {},
    );
    return step ? [step] : [];
  });
}

/** Amps in the wire that feeds a part. */
export function feedAmpsStep(maker: Maker, stage: StageId, situation: Situation, part: Load, title: string, tells: Tells): Step | null {
  const { figures } = maker;
  const feed = figures.ledger.rowOf.get(part.id)?.feed;
  if (!feed) return null;
  return networkStep(
    maker,
    situation,
    { kind: "amps", wire: feed.id },
    {
      stage,
      what: `${situation.id} amps ${part.id}`,
      title,
      places: [{ what: "clamp", at: `the plus lead of ${part.name}`, label: feed.label, note: `near ${terminalWords(figures, feed.to)}` }],
      outside:
        "High: it does not turn freely, it is another motor than planned, or it is held. None: enable off, a lead off, its driver's fault light.",
      about: [part.id, feed.id],
      tells,
    },
  );
}

/** Volts at a pack's own terminals while it works: with the amps of the same moment they tell its resistance. */
export function packVoltsSteps(maker: Maker, stage: StageId, situation: Situation, when: string): Step[] {
  return maker.figures.machine.parts.flatMap((part): Step[] => {
    if (part.kind !== "pack") return [];
    const probe = voltsAt(part.id, "+", "-");
    const step = networkStep(maker, situation, probe, {
      stage,
      what: `${situation.id} pack ${part.id}`,
      title: `${when}: volts at ${part.name}`,
      places: probes(maker.figures, probe.red, probe.black),
      outside: "Low: its resistance is higher than planned, it is cold, or one cell is weak.",
      about: [part.id],
    });
    return step ? [step] : [];
  });
}

/** Volts a motor really gets, behind its driver and its leads. */
export function motorVoltsStep(maker: Maker, stage: StageId, situation: Situation, part: Load, title: string): Step | null {
  const { figures } = maker;
  const feed = figures.solved.circuit.feeds.get(part.id);
  const probe = voltsAt(part.id, "+", "-");
  return networkStep(maker, situation, probe, {
    stage,
    what: `${situation.id} motor ${part.id}`,
    title,
    places: probes(figures, probe.red, probe.black),
    outside: "Low: a joint in one of its two leads, or the bridge loses more than planned. Chopped volts read as their mean.",
    about: [part.id, ...(feed ? [feed.out.id, ...(feed.back ? [feed.back.id] : [])] : [])],
  });
}

/** The part whose volts are the nearest to its least, or the lowest share of what it is made for: the one to watch. */
export function weakest(maker: Maker, situation: Situation, parts: readonly Part[]): Part[] {
  const { built, point } = maker.stand(situation);
  const room = (part: Part): number => {
    const ends = feedTerminals(part);
    if (!ends || maker.figures.solved.circuit.feeds.has(part.id)) return Number.POSITIVE_INFINITY;
    const volts = shows(built, point, voltsAt(part.id, ends.plus, ends.minus)) ?? 0;
    const least = ("inputMinV" in part ? part.inputMinV?.value : undefined) ?? (part.kind === "load" ? part.nominalV.value * 0.9 : 0);
    return least > 0 ? volts / least : Number.POSITIVE_INFINITY;
  };
  const ranked = parts.map((part) => ({ part, room: room(part) })).filter((each) => Number.isFinite(each.room));
  return ranked
    .sort((a, b) => a.room - b.room)
    .slice(0, 1)
    .map(({ part }) => part);
}

/** Loads that are logic, in the machine's order. */
export function logicParts(maker: Maker): Load[] {
  return maker.figures.machine.parts.filter((part): part is Load => isLogic(part));
}

/** Drivers, in the machine's order. */
export function driverParts(maker: Maker): Part[] {
  return maker.figures.machine.parts.filter(({ kind }) => kind === "driver");
}

/** How the first supply is set, for a sentence. */
export function settingWords(settings: readonly SupplySetting[]): string {
  return settings
    .map(({ name, volts, limitA }) => `${say(volts, "voltage")}, limit ${say(limitA, "current")} in place of ${name}`)
    .join("; ");
}
