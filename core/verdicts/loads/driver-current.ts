import { stallClass } from "../../drivers/bridge";
import { actingLimit } from "../../drivers/channel";
import { driverLimits, type LayerLimit } from "../../drivers/limits";
import { perBuildOf } from "../../figures/build";
import { type ChannelLoad, channelLoads, deliverableStall } from "../../figures/channels";
import { type Excess, excessOf } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import { names } from "../../figures/names";
import { canStall } from "../../loads/budget";
import { missionHeating, missionOf } from "../../loads/mission";
import type { BuiltLoad, Driver } from "../../machine/schema";
import type { OperatingPoint } from "../../network/point";
import { say } from "../../quantity/format";
import { bearsFor } from "../../wires/brief";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "driver-current",
  title: "Driver channel over its continuous or peak current",
  step: "loads",
  needs: "A larger driver, cooling that its sheet allows, or a limit in its program.",
});

/**
 * Current of each channel, all that hangs on it together, against the lowest layer's limit as it is cooled, continuously and for as
 * long as each mode lasts; all channels against the driver's total; and what a stall would do, whatever the modes plan.
 */
export const driverCurrent = rule({ speak, reads: "figures", byDraw: true, evaluate });

/** Package and copper of a bridge follow their current within 5-60 s (from memory): near the quick end. */
const BRIDGE_TAU_S = 10;
/** Share of a limit from which it is watched (our choice). */
const WATCH_FROM = 0.9;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part) => (part.kind === "driver" ? ofDriver(figures, part) : []));
}

/** A channel, or the driver as a whole, over what it bears. */
interface Found {
  key: "lasting" | "brief" | "total";
  what: string;
  excess: Excess;
  limit: LayerLimit;
  peakA: number | undefined;
  words: () => { time: string; loads: string };
}

function ofDriver(figures: Figures, driver: Driver): Verdict[] {
  const channels = channelLoads(figures, driver);
  if (channels.length === 0) return [];
  const limits = driverLimits(driver);
  if (!limits.continuous) return [askContinuous(driver)];
  const { continuous, peak } = limits;
  const bears = (seconds: number | null) => bearsFor(seconds, continuous.value, peak?.value ?? continuous.value, driver.peakS?.value);
  const found: Found[] = [];
  for (const channel of channels) {
    if (channel.mostA <= WATCH_FROM * continuous.value) continue;
    const { lasting, brief } = excessOf(figures, channel.amps, bears);
    const put = (key: Found["key"], excess: Excess, limit: LayerLimit, time: () => string) => {
      const words = () => ({ time: time(), loads: names(channel.loads.map(({ name }) => name)) });
      found.push({ what: "a channel", peakA: driver.peakA && peak?.value, key, excess, limit, words });
    };
    if (lasting) put("lasting", lasting, continuous, () => "continuously");
    if (brief) put("brief", brief, peak ?? continuous, () => `for ${say(figures.machine.modes[brief.mode]?.lastsS ?? 0, "time")}`);
    const heating = overMission(figures, channel, continuous.value, bridgeTau(driver, continuous.value, peak?.value));
    if (heating) put("lasting", heating, continuous, () => "over and over, as heating goes");
  }
  const verdicts = (["lasting", "brief"] as const).flatMap((key) =>
    worstOf(found.filter((each) => each.key === key)).map((each) => over(figures, driver, each)),
  );
  // A chip or a carrying board that is rated says nothing of the board between them.
  if (!limits.board) verdicts.push(askContinuous(driver));
  verdicts.push(...whole(figures, driver, channels));
  for (const load of new Set(channels.flatMap(({ loads }) => loads))) {
    const stalled = stall(figures, load.id);
    if (stalled) verdicts.push(stalled);
  }
  return verdicts;
}

function askContinuous(driver: Driver): Verdict {
  const headline = driver.headlineA
    ? ` The printed ${say(driver.headlineA.value, "current")} is what its chip survives, not what the board carries continuously: often a third of it.`
    : "";
  return speak({
    part: driver,
    key: "ask",
    severity: "ask",
    headline: `${driver.name}: what does a channel carry continuously?`,
    detail: `Until its continuous current without a heatsink is entered, ${driver.layers?.some((layer) => layer.continuousA) ? "only the limits of what it is built from are held against its motors" : "no motor on it can be judged"}.${headline} Its sheet says it, often in small print; else a thermometer on its case after ten minutes at what the motor runs with tells whether that much is borne.`,
  });
}

/** The one furthest over its limit, where it is worth saying. */
function worstOf(found: readonly Found[]): Found[] {
  const [worst] = [...found].sort((a, b) => b.excess.share - a.excess.share);
  return worst && worst.excess.share > WATCH_FROM ? [worst] : [];
}

/** What the mission's cycle heats a channel to, as a steady current against what it carries continuously. */
function overMission(figures: Figures, channel: ChannelLoad, limitA: number, tauS: number): Excess | null {
  const plan = missionOf(figures.machine);
  if (!plan) return null;
  const series = (points: readonly OperatingPoint[]) => points.map((point, m) => (point.status === "solved" ? channel.amps(point, m) : 0));
  const { planned, low } = figures.solved;
  const amps = missionHeating(plan, series(planned), low === planned ? null : series(low), tauS);
  return { share: amps / limitA, amps, limitA, mode: -1, low: false };
}

/** All channels together, where the driver has a figure for that. */
function whole(figures: Figures, driver: Driver, channels: readonly ChannelLoad[]): Verdict[] {
  const total = driver.totalA?.value;
  if (total === undefined) return [];
  const sum = (point: OperatingPoint, m: number) => channels.reduce((amps, channel) => amps + channel.amps(point, m), 0);
  const { lasting } = excessOf(figures, sum, (seconds) => (seconds === null ? total : undefined));
  if (!lasting || lasting.share <= WATCH_FROM) return [];
  const limit = { value: total, layer: "the board as a whole" };
  const found: Found = {
    key: "total",
    what: "in all",
    excess: lasting,
    limit,
    peakA: undefined,
    words: () => ({ time: "continuously", loads: `What its ${channels.length} channels drive` }),
  };
  return [over(figures, driver, found)];
}

/** The time constant at which a peak held for its stated time heats a cold bridge as far as its continuous current does. */
function bridgeTau(driver: Driver, continuousA: number, peakA: number | undefined): number {
  const seconds = driver.peakS?.value;
  if (seconds === undefined || peakA === undefined || peakA <= continuousA) return BRIDGE_TAU_S;
  return -seconds / Math.log(1 - (continuousA / peakA) ** 2);
}

function over(figures: Figures, driver: Driver, { key, what, excess, limit, peakA, words }: Found): Verdict {
  const { time, loads } = words();
  const { amps, share, limitA } = excess;
  const mode = excess.mode < 0 ? "the mission" : (figures.modes[excess.mode]?.name ?? "");
  // Above its peak a bridge is destroyed before anything could end it.
  const destroyed = peakA !== undefined && amps > peakA;
  return speak({
    part: driver,
    ...(key === "lasting" ? {} : { key }),
    severity: destroyed ? "stop" : share > 1 ? "fix" : "watch",
    headline: `${driver.name}: ${say(amps, "current", "up")} of ${say(limitA, "current", "down")} ${what} in ${mode}`,
    detail: `${loads} ${loads.includes(" and ") ? "take" : "takes"} that ${time}; ${limit.layer} carries ${say(limitA, "current", "down")}${key === "brief" ? " for as long" : ""}. ${
      destroyed
        ? `That is above the ${say(peakA, "current", "down")} it survives at all: the bridge is destroyed.`
        : share > 1
          ? "The bridge overheats and shuts down, or dies where nothing shuts it down."
          : "Little is left for a warm day."
    }`,
    compared: { amps, limit: limitA },
    remedies: key === "total" ? [] : cooler(driver, amps),
  });
}

/** Cooling that is already known to be enough. */
function cooler(driver: Driver, amps: number): Remedy[] {
  const options = [
    ["heatsink", driver.heatsinkA, "Fit its heatsink"],
    ["air", driver.airA, "Blow air over it"],
  ] as const;
  for (const [cooling, figure, label] of options) {
    const better = driverLimits({ ...driver, cooling }).continuous;
    if (figure && better && better.value >= amps && (driver.cooling ?? "none") !== cooling)
      return [{ label, command: { type: "updatePart", id: driver.id, changes: { cooling } } }];
  }
  return [];
}

/** What is to be said of a motor held still, whatever the modes do. */
const stall = perBuildOf((figures, loadId): Verdict | null => {
  const driver = figures.solved.circuit.feeds.get(loadId)?.driver;
  const load = figures.partOf.get(loadId);
  if (!driver || load?.kind !== "load") return null;
  const stallA = deliverableStall(figures, driver, load);
  const { continuous, peak } = driverLimits(driver);
  if (stallA === null && canStall(load) && actingLimit(driver) === undefined) return askStall(driver, load);
  if (stallA === null || !continuous || !peak) return null;
  const found = stallClass(stallA, continuous.value, peak.value, driver.limitA?.value);
  if (found === "carries" || found === "limited") return null;
  const current = say(stallA, "current", "up");
  const limitTo = Math.floor(continuous.value * 10) / 10;
  const limited: Remedy[] =
    driver.limitA !== undefined && driver.limitA.value > peak.value
      ? [
          {
            label: `Set its limit to ${say(limitTo, "current", "down")}`,
            command: { type: "updatePart", id: driver.id, changes: { limitA: { ...driver.limitA, value: limitTo } } },
          },
        ]
      : [];
  return speak({
    part: driver,
    key: "stall",
    cause: driver.id,
    kin: found === "refused" ? "refused" : "stall",
    about: load.id,
    severity: found === "refused" ? "fix" : "watch",
    also: [load.id],
    headline:
      found === "refused"
        ? `${load.name} held still pulls ${current}; ${driver.name} survives ${say(peak.value, "current", "down")}`
        : `${load.name} held still pulls ${current}: ${driver.name} needs a time-out`,
    detail:
      found === "refused"
        ? `Nothing limits it, and a fuse is far too slow to save silicon: ${peak.layer} sets the limit. Take a larger driver or one with a real current limit; a slower ramp only makes it rarer.`
        : `It is above the ${say(continuous.value, "current", "down")} of ${continuous.layer} and below the peak. The program must notice a stall and let go within a second or two.`,
    compared: { amps: stallA, limit: peak.value },
    remedies: limited,
  });
});

function askStall(driver: Driver, load: BuiltLoad): Verdict {
  return speak({
    part: load,
    key: "stall-ask",
    kin: "stall-ask",
    severity: "ask",
    also: [driver.id],
    headline: `${load.name}: what does it pull when it is held still?`,
    detail: `${driver.name} has no limit of its own, so a jam drives all of it through the bridge; a motor's stall is five to ten times what it runs with. Ohms at its terminals or a test at low voltage tell.`,
  });
}
