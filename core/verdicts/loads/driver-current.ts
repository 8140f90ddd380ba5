import { stallClass } from "../../drivers/bridge";
import { driverLimits, type LayerLimit } from "../../drivers/limits";
import { perBuildOf } from "../../figures/build";
import { channelsOf, deliverableStall } from "../../figures/channels";
import type { Figures } from "../../figures/figures";
import { missionHeating, missionOf } from "../../loads/mission";
import type { Driver } from "../../machine/schema";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({ id: "driver-current", title: "Driver channel over its continuous or peak current", step: "loads" });

/** Motor current of each channel against the lowest layer's limit as it is cooled, and what a stall would do. */
export const driverCurrent = rule({ speak, reads: "figures", evaluate });

/** Package and copper of a bridge follow their current within 5-60 s (from memory): near the quick end. */
const BRIDGE_TAU_S = 10;
/** Share of a limit from which it is watched (our choice). */
const WATCH_FROM = 0.9;

interface Found {
  share: number;
  amps: number;
  limit: LayerLimit;
  mode: string;
  lastsS: number | null;
  mission?: boolean;
  load: string;
}

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part) => (part.kind === "driver" ? ofDriver(figures, part) : []));
}

function ofDriver(figures: Figures, driver: Driver): Verdict[] {
  const verdicts: Verdict[] = [];
  const channels = channelsOf(figures, driver);
  const base = { part: driver };
  if (channels.length === 0) return verdicts;
  const limits = driverLimits(driver);
  if (!limits.continuous) {
    const headline = driver.headlineA
      ? ` The printed ${say(driver.headlineA.value, "current")} is what its chip survives, not what the board carries for good: often a third of it.`
      : "";
    verdicts.push(
      speak({
        ...base,
        key: "ask",
        severity: "ask",
        headline: `${driver.name}: what does a channel carry for good?`,
        detail: `Until its continuous current without a heatsink is entered, no motor on it can be judged.${headline}`,
      }),
    );
    return verdicts;
  }
  const plan = missionOf(figures.machine);
  let worst: Found | null = null;
  const offer = (found: Found) => {
    if (found.share > (worst?.share ?? WATCH_FROM)) worst = found;
  };
  for (const { load, modes } of channels) {
    modes.forEach(({ motorA }, m) => {
      const mode = figures.machine.modes[m];
      const lastsS = mode?.lastsS ?? null;
      const forGood = lastsS === null || (driver.peakS !== undefined && lastsS > driver.peakS.value);
      const limit = forGood ? limits.continuous : limits.peak;
      if (limit) offer({ share: motorA / limit.value, amps: motorA, limit, mode: mode?.name ?? "", lastsS, load: load.name });
    });
    if (plan && limits.continuous) {
      const amps = missionHeating(
        plan,
        modes.map(({ motorA }) => motorA),
        null,
        bridgeTau(driver, limits.continuous.value, limits.peak?.value),
      );
      offer({
        share: amps / limits.continuous.value,
        amps,
        limit: limits.continuous,
        mode: "the mission",
        lastsS: null,
        mission: true,
        load: load.name,
      });
    }
  }
  if (worst) verdicts.push(over(driver, worst));
  for (const { load } of channels) {
    const stalled = stall(figures, load.id);
    if (stalled) verdicts.push(stalled);
  }
  return verdicts;
}

/** The time constant at which a peak held for its stated time heats a cold bridge as far as its continuous current does. */
function bridgeTau(driver: Driver, continuousA: number, peakA: number | undefined): number {
  const seconds = driver.peakS?.value;
  if (seconds === undefined || peakA === undefined || peakA <= continuousA) return BRIDGE_TAU_S;
  return -seconds / Math.log(1 - (continuousA / peakA) ** 2);
}

function over(driver: Driver, { share, amps, limit, mode, lastsS, mission, load }: Found): Verdict {
  const time = mission ? "over and over, as heating goes" : lastsS === null ? "for good" : `for ${say(lastsS, "time")}`;
  return speak({
    part: driver,
    severity: share > 1 ? "fix" : "watch",
    headline: `${driver.name}: ${say(amps, "current", "up")} of ${say(limit.value, "current", "down")} a channel in ${mode}`,
    detail: `${load} takes that ${time}; ${limit.layer} carries ${say(limit.value, "current", "down")}. ${share > 1 ? "The bridge overheats, shuts down or dies." : "Little is left for a warm day."}`,
    compared: { amps, limit: limit.value },
    remedies: cooler(driver, amps),
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
