import type { Figures } from "../../figures/figures";
import type { Switch } from "../../machine/schema";
import { nodeAt } from "../../network/circuit";
import { reachAcross } from "../../network/rest";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "coil",
  title: "A contactor's coil and the volts it gets",
  step: "feeds",
  needs: "A contactor whose coil suits these volts, or another rail for its coil.",
});

/** A planned coil: whether it is fed, pulls in at all, stays in through every mode in which it holds, and is not overdriven. */
export const coil = rule({ speak, reads: "figures", packBound: true, evaluate });

/** A coil pulls in at 75 % of its own volts and bears 130 % continuously (IEC 61810-1 classes, from memory). */
const PICK_UP_SHARE = 0.75;
const MOST_SHARE = 1.3;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => (part.kind === "switch" && part.coilOhm ? judge(figures, part) : []));
}

function judge(figures: Figures, part: Switch): Verdict[] {
  const { circuit } = figures.solved;
  const pair = [nodeAt(circuit, part.id, "c+"), nodeAt(circuit, part.id, "c-")] as const;
  const reach = reachAcross(figures.rest, pair);
  if (!reach)
    return [
      speak({
        part,
        key: "unfed",
        severity: "fix",
        headline: `${part.name}: nothing feeds its coil`,
        detail: "Its coil is planned, but no source is joined to both of its ends: the contact never closes.",
      }),
    ];
  const [pickUp, dropOut] = [part.pickUpV?.value, part.dropOutV?.value];
  const found: Verdict[] = [];
  if (pickUp === undefined || dropOut === undefined)
    found.push(
      speak({
        part,
        key: "ask",
        severity: "ask",
        headline: `${part.name}: at which volts does its coil pull in, and at which may it drop out?`,
        detail:
          "Only then can be said whether a start or a low pack opens it under load. Usual: 75 % and 10 to 50 % of its own volts (from memory).",
      }),
    );
  if (pickUp !== undefined && reach.volts < pickUp)
    found.push(
      speak({
        part,
        key: "pick-up",
        severity: "fix",
        headline: `${part.name} never pulls in: its coil gets ${say(reach.volts, "voltage", "down")}, it needs ${say(pickUp, "voltage", "up")}`,
        detail: "That is with full packs and nothing running. A coil for this voltage, or a feed from a rail that has it.",
        compared: { volts: reach.volts, limit: pickUp },
      }),
    );
  if (pickUp !== undefined && reach.volts > (MOST_SHARE / PICK_UP_SHARE) * pickUp)
    found.push(
      speak({
        part,
        key: "over",
        severity: "fix",
        headline: `${part.name}: its coil gets up to ${say(reach.volts, "voltage", "up")}`,
        detail: `It pulls in at ${say(pickUp, "voltage")}, so it is made for about ${say(pickUp / PICK_UP_SHARE, "voltage")} and bears ${say((MOST_SHARE / PICK_UP_SHARE) * pickUp, "voltage", "down")} continuously (IEC 61810-1, from memory). Above that the coil overheats; a coil for this voltage, or an economiser.`,
        compared: { volts: reach.volts, limit: (MOST_SHARE / PICK_UP_SHARE) * pickUp },
      }),
    );
  if (dropOut === undefined) return found;
  let worst: { volts: number; mode: number } | null = null;
  figures.machine.modes.forEach(({ id }, m) => {
    if (part.openIn.includes(id)) return;
    for (const point of [figures.solved.planned[m], figures.solved.low[m]]) {
      if (point?.status !== "solved" || figures.solved.topologies[m]?.unknownOf[pair[0]] === -2) continue;
      const volts = (point.nodeV[pair[0]] as number) - (point.nodeV[pair[1]] as number);
      if (volts < (worst?.volts ?? Number.POSITIVE_INFINITY)) worst = { volts, mode: m };
    }
  });
  const lowest = worst as { volts: number; mode: number } | null;
  if (!lowest || lowest.volts >= dropOut || (pickUp !== undefined && reach.volts < pickUp)) return found;
  found.push(
    speak({
      part,
      key: "drop-out",
      severity: "fix",
      headline: `${part.name} may drop out in ${figures.modes[lowest.mode]?.name}: its coil is left with ${say(lowest.volts, "voltage", "down")}`,
      detail: `Below ${say(dropOut, "voltage", "up")} the contact opens under full current, arcs, and closes again as the volts recover. Feed the coil from before the loads that pull the volts down, or from a rail of its own.`,
      compared: { volts: lowest.volts, limit: dropOut },
    }),
  );
  return found;
}
