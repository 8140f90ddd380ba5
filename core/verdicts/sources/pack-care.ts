import { leastInput } from "../../converters/window";
import { type Build, perBuild } from "../../figures/build";
import type { Figures } from "../../figures/figures";
import type { Load, Pack } from "../../machine/schema";
import { railOrigin } from "../../machine/tree";
import { ocvAt, packVolts } from "../../packs/chemistry";
import { plannedChargeOf } from "../../packs/pack";
import { inSentence, say } from "../../quantity/format";
import { chemistryOf, ocvCurve } from "../../reference/chemistries";
import type { LoadKind } from "../../reference/load-kinds";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "pack-care",
  title: "A pack's management, voltages and company",
  step: "sources",
  needs: "Something that watches the cells and cuts off in time, or a pack for fewer volts.",
});

/** A pack's management, voltages and company. */
export const packCare = rule({ speak, reads: "figures", packBound: true, evaluate });

/** Extra-low voltage that may be touched in dry places, V DC (IEC 61140, IEC 60364-4-41; from memory). */
const TOUCH_V = 60;
const LOGIC: ReadonlySet<LoadKind> = new Set(["board", "computer"]);
const MOTORS: ReadonlySet<LoadKind> = new Set(["motor", "brushless", "servo", "actuator", "pump", "stepper"]);

/** What is said of a pack whatever it gives, with its motors and boards, by pack. */
const packsOf = perBuild((build) =>
  build.machine.parts.flatMap((part) => {
    if (part.kind !== "pack") return [];
    const fed = build.machine.parts.filter(
      (each): each is Load =>
        each.kind === "load" && (LOGIC.has(each.loadKind) || MOTORS.has(each.loadKind)) && feeders(build, each.id).includes(part.id),
    );
    return [
      {
        part,
        said: [...managed(part), ...marks(build, part), ...touch(part)],
        logic: fed.filter(({ loadKind }) => LOGIC.has(loadKind)),
        motors: fed.filter(({ loadKind }) => MOTORS.has(loadKind)),
      },
    ];
  }),
);

function evaluate(figures: Figures): Verdict[] {
  return packsOf(figures).flatMap(({ part, said, logic, motors }) => [
    ...said,
    ...(logic.length > 0 && motors.length > 0 ? crowded(figures, part, logic) : []),
  ]);
}

const about = (part: Pack) => ({ part });

/** Lithium without something that watches every cell. */
function managed(pack: Pack): Verdict[] {
  if (pack.chemistry === undefined || chemistryOf(pack.chemistry).family !== "lithium") return [];
  if (pack.management === "inside" || pack.management === "separate") return [];
  const none = pack.management === "none";
  const says = (management: "inside" | "separate", label: string) => ({
    label,
    command: { type: "updatePart" as const, id: pack.id, changes: { management } },
  });
  return [
    speak({
      ...about(pack),
      key: "management",
      about: pack.id,
      severity: none ? "fix" : "ask",
      headline: none ? `${pack.name}: lithium cells with nothing that watches them` : `${pack.name}: what watches its cells?`,
      detail: `${none ? "One cell run too low or charged too high is ruined or burns. Fit a management board, or an alarm and a balance charger for a hobby pack. " : "A management board inside, or an alarm, cut-off and balance charger beside it? "}A management board is no fuse: it may fail closed, so the fuse at the pack stays.`,
      remedies: none ? [] : [says("inside", "A board is inside"), says("separate", "Alarm and balance charger")],
    }),
  ];
}

/** Entered volts against what the chemistry and the cells can show. */
function marks(figures: Build, pack: Pack): Verdict[] {
  if (pack.chemistry === undefined || !pack.series) return [];
  const chemistry = chemistryOf(pack.chemistry);
  const volts = packVolts(chemistry, pack.series, figures.machine.settings.coldestC ?? 25);
  const verdicts: Verdict[] = [];
  const charge = plannedChargeOf(pack);
  if (pack.plannedCharge && charge !== null) {
    const table = pack.series * ocvAt(chemistry, charge);
    const off = Math.abs(pack.openCircuitV.value - table);
    const may = pack.series * ocvCurve(chemistry).toleranceV + 0.005 * table;
    if (off > may) {
      verdicts.push(
        speak({
          ...about(pack),
          key: "open",
          about: pack.id,
          severity: "watch",
          headline: `${pack.name}: ${say(pack.openCircuitV.value, "voltage")} does not go with ${Math.round(charge * 100)} % charge`,
          detail: `${pack.series} cells of ${inSentence(chemistry.name)} rest at ${say(table, "voltage")} there, give or take ${say(may, "voltage", "up")} (typical, from memory). The run time follows the charge, the modes follow the volts: check chemistry, cells and charge.`,
          compared: { volts: pack.openCircuitV.value, limit: table },
          remedies: [
            {
              label: `Plan with ${say(table, "voltage")}`,
              command: {
                type: "updatePart",
                id: pack.id,
                changes: { openCircuitV: { value: Number(table.toFixed(3)), provenance: "typical" } },
              },
            },
          ],
        }),
      );
    }
  }
  if (pack.fullV && pack.fullV.value < volts.restV * 0.995) {
    verdicts.push(
      speak({
        ...about(pack),
        key: "full",
        about: pack.id,
        severity: "fix",
        headline: `${pack.name} shows more than ${say(pack.fullV.value, "voltage")} when full`,
        detail: `${pack.series} cells of ${inSentence(chemistry.name)} rest at ${say(volts.restV, "voltage", "up")} and reach ${say(volts.highestV, "voltage", "up")} on the charger. Windows are judged by the highest.`,
        compared: { volts: pack.fullV.value, limit: volts.highestV },
        remedies: [
          {
            label: `Plan with ${say(volts.highestV, "voltage", "up")}`,
            command: {
              type: "updatePart",
              id: pack.id,
              changes: { fullV: { value: Number(volts.highestV.toFixed(2)), provenance: "typical" } },
            },
          },
        ],
      }),
    );
  }
  if (pack.cutoffV && pack.cutoffV.value < volts.cutAbsV * 0.995) {
    verdicts.push(
      speak({
        ...about(pack),
        key: "cut",
        about: pack.id,
        severity: "fix",
        headline: `${pack.name} cuts off at ${say(pack.cutoffV.value, "voltage")}, below what its cells bear`,
        detail: `The least is ${say(volts.cutAbsV, "voltage", "up")} (${chemistry.cutAbsV} V a cell); ${say(volts.cutV, "voltage", "up")} is what is planned with.`,
        compared: { volts: pack.cutoffV.value, limit: volts.cutAbsV },
      }),
    );
  }
  return verdicts;
}

/** A full pack above what may be touched. */
function touch(pack: Pack): Verdict[] {
  const full = pack.fullV?.value ?? pack.openCircuitV.value;
  if (full <= TOUCH_V) return [];
  return [
    speak({
      ...about(pack),
      key: "touch",
      about: pack.id,
      severity: "stop",
      headline: `${pack.name} reaches ${say(full, "voltage", "up")}: above ${TOUCH_V} V DC`,
      detail:
        "That is no longer a voltage to touch (IEC 61140, from memory): other rules, insulation and parts apply, and this tool does not plan them. Fewer cells, or a lower charger voltage.",
      compared: { volts: full, limit: TOUCH_V },
    }),
  ];
}

/** Sag between the lightest and the heaviest mode from which a shared battery is small for its motors, share of its volts. */
const SMALL_SAG = 0.12;

/** Motors and the boards that steer them on one small battery: every start is felt by the logic. */
function crowded(figures: Figures, pack: Pack, logic: readonly Load[]): Verdict[] {
  const figure = figures.parts[pack.id];
  if (!figure?.outV) return [];
  const volts = figures.modes.flatMap((_, m) => (figure.live[m] ? [figure.outV?.[m] ?? 0] : []));
  if (volts.length < 2) return [];
  const [high, low] = [Math.max(...volts), Math.min(...volts)];
  const sag = (high - low) / high;
  if (sag < SMALL_SAG) return [];
  const boards = logic.filter((part) => feels(figures, part.id, low));
  if (boards.length === 0) return [];
  const worst = figures.modes.findIndex((_, m) => figure.live[m] && figure.outV?.[m] === low);
  return [
    speak({
      ...about(pack),
      key: "shared",
      cause: pack.id,
      about: pack.id,
      severity: "watch",
      also: boards.map((part) => part.id),
      headline: `${pack.name} is small for what shares it: ${boards[0]?.name} sees ${say(high - low, "voltage", "up")} of sag`,
      detail: `Between its lightest mode and ${figures.modes[worst]?.name} it falls by ${Math.round(sag * 100)} %. Logic and motors on one small battery is the usual cause of resets (common practice): a battery with less resistance, a hold-up capacitor at the board, or its own pack tied to the same 0 V at one point.`,
      compared: { volts: high - low },
    }),
  ];
}

/** Sources and converters a part hangs on, the nearest first. */
function feeders(figures: Build, partId: string): string[] {
  const chain: string[] = [];
  for (let at = railOrigin(figures.ledger, partId); at !== null && !chain.includes(at); at = railOrigin(figures.ledger, at)) chain.push(at);
  return chain;
}

/** Room above its least input below which a converter passes the trouble of its source on. */
const TIGHT = 1.25;

/** Whether a board feels its pack: it hangs on it straight, or behind converters that have little room at its lowest. */
function feels(figures: Build, partId: string, lowV: number): boolean {
  return feeders(figures, partId).every((feeder) => {
    const part = figures.partOf.get(feeder);
    const least = part?.kind === "converter" ? leastInput(part) : null;
    return part?.kind !== "converter" || (least !== null && lowV < least * TIGHT);
  });
}
