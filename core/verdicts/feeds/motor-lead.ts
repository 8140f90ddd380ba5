import { actingLimit } from "../../drivers/channel";
import { perBuildFrom } from "../../figures/build";
import { deliverableStall } from "../../figures/channels";
import type { Figures } from "../../figures/figures";
import { railMaxV } from "../../figures/rails";
import { largestFuse, limitAt, thinnest } from "../../fuses/pick";
import { say } from "../../quantity/format";
import { gaugeById } from "../../reference/gauges";
import { mostFuseA } from "../../reference/practice";
import { settledTemperature } from "../../wires/ampacity";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";
import { bearsC } from "../wire-heat";

const speak = speaker({
  id: "motor-lead",
  title: "Driver can deliver more into a stalled motor than its lead bears",
  step: "feeds",
  needs: "A driver with a current limit, or a fuse and lead that go together.",
});

/**
 * The lead between driver and motor against what the driver can push through a stalled motor. One school leaves leads
 * unfused because the driver limits; the other fuses them below stall. Where a driver without a limit can deliver
 * the stall, the first only holds while its program works.
 */
export const motorLead = rule({ speak, reads: "figures", byDraw: true, evaluate });

function evaluate(figures: Figures): Verdict[] {
  const verdicts: Verdict[] = [];
  for (const [loadId, { out }] of figures.solved.circuit.feeds) {
    const verdict = judge(figures, loadId, figures.wires[out.id]?.worstContinuous.amps ?? 0);
    if (verdict) verdicts.push(verdict);
  }
  return verdicts;
}

const judge = perBuildFrom((build, loadId, runA: number): Verdict | null => {
  const { settings } = build.machine;
  const fused = settings.schools.motorLeads === "fused";
  const feed = build.solved.circuit.feeds.get(loadId);
  const load = build.partOf.get(loadId);
  const limit = feed && build.wires[feed.out.id]?.limitA;
  if (!feed || load?.kind !== "load" || limit == null) return null;
  const { driver, out, back } = feed;
  const limited = actingLimit(driver);
  const size = out.gauge === undefined ? undefined : gaugeById(out.gauge);
  const ampacity = build.wires[out.id]?.ampacity;
  // A limit that practice puts before such a lead flows for as long as a jam lasts; its insulation must bear it where it lies.
  const bears = (amps: number) => ampacity != null && settledTemperature(out, ampacity, amps) <= bearsC(out);
  if (!fused && limited !== undefined && size && limited <= mostFuseA(size.areaMm2) * out.parallel && bears(limited)) return null;
  const stall = deliverableStall(build, driver, load);
  if (stall === null) return null;
  const amps = Math.min(stall, limited ?? Number.POSITIVE_INFINITY);
  const fuse = out.fuse?.ratingA ?? back?.fuse?.ratingA;
  if (amps <= limit || (fuse !== undefined && fuse <= limit)) return null;
  const fit = largestFuse(runA / 0.75, Math.min(limit, stall * 0.7), railMaxV(build, driver), null);
  const larger = thinnest(out, (size) => limitAt(size, out, settings) >= amps);
  const remedies: Remedy[] = [
    ...(fused && fit
      ? [{ label: `Fuse the lead, ${fit.ratingA} A`, command: { type: "setFuse" as const, wireId: out.id, fuse: fit } }]
      : []),
    ...(larger
      ? [{ label: `Use ${larger.id} for the lead`, command: { type: "setFeed" as const, id: out.id, changes: { gauge: larger.id } } }]
      : []),
  ];
  return speak({
    wire: out,
    severity: fused ? "fix" : "watch",
    headline: `Lead to ${load.name}: ${driver.name} can push ${say(amps, "current", "up")} through it continuously`,
    detail: `That is the motor held still; the lead carries ${say(limit, "current", "down")}. ${
      fused
        ? "Your school fuses motor leads below the stall, so that a jam ends by itself."
        : "Your school leaves motor leads to the driver, but this driver has no limit below that: only a stall time-out in its program protects the lead."
    }`,
    compared: { amps, limit },
    cause: driver.id,
    remedies,
  });
});
