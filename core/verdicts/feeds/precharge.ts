import {
  bankJ,
  GAP_SHARE,
  inrushA,
  inrushA2s,
  needsPrecharge,
  PULSE_ROOM,
  prechargeGapV,
  prechargeOhm,
  prechargeS,
  USUAL_S,
} from "../../connectors/precharge";
import type { FaultWalk } from "../../faults/walk";
import { energyText } from "../../faults/words";
import { type Behind, behindContact } from "../../figures/behind-contact";
import { drawnMeanwhileA } from "../../figures/contacts";
import type { Figures } from "../../figures/figures";
import { railMaxV } from "../../figures/rails";
import type { Switch } from "../../machine/schema";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "precharge",
  title: "Capacitors charge through a bare contact",
  step: "feeds",
  needs: "A precharge around the contact that fits these capacitors: resistor, time and pulse are yours to choose.",
});

/** Each contact between a source and empty capacitors: whether it needs a precharge, and whether the one it has suffices. */
export const precharge = rule({ speak, reads: "shorts", evaluate });

/** Bus volts from which drivers' unknown capacitors are asked for. */
const ASK_V = 20;

function evaluate(figures: Figures, walk: FaultWalk): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => {
    if (part.kind !== "switch" || part.device === "charging port") return [];
    const behind = behindContact(figures.solved.circuit, part);
    return behind ? judge(figures, walk, part, behind) : [];
  });
}

/** What a standing load leaves missing continuously; more than there is it cannot take. */
function standing(drawnA: number, ohm: number, volts: number): string {
  if (drawnA <= 0) return "";
  const drawn = `${say(drawnA, "current", "up")} drawn meanwhile`;
  return drawnA * ohm < volts
    ? `, and ${drawn} keep ${say(drawnA * ohm, "voltage", "up")} away as long as it lasts`
    : `, and ${drawn} let it fill not at all`;
}

function judge(figures: Figures, walk: FaultWalk, part: Switch, behind: Behind): Verdict[] {
  const volts = railMaxV(figures, part);
  const { farads } = behind;
  const base = { part };
  const found: Verdict[] = [];
  if (behind.unsaid.length > 0 && volts >= ASK_V)
    found.push(
      speak({
        ...base,
        key: "ask",
        severity: "ask",
        also: behind.unsaid.map((each) => each.id),
        headline: `${part.name}: what capacitors sit behind it?`,
        detail: `${behind.unsaid
          .map(({ name }) => name)
          .slice(0, 3)
          .join(
            ", ",
          )}${behind.unsaid.length > 3 ? " and more" : ""} ${behind.unsaid.length > 1 ? "have" : "has"} some at the input. From about ${say(500e-6, "capacitance")} at ${say(volts, "voltage", "up")} on, closing onto them empty welds contacts${part.prechargeOhm ? "; whether the precharge fills them nobody can tell" : ""}.`,
      }),
    );
  if (farads === 0 || !needsPrecharge(farads, volts)) return found;
  const shortA = walk.results
    .filter(({ place, bolted }) => bolted && place === part.id)
    .reduce((most, { mostA }) => Math.max(most, mostA), 0);
  const loopOhm = shortA > 0 ? volts / shortA : 0;
  const joules = bankJ(farads, volts);
  const bank = `${say(farads, "capacitance")} at ${say(volts, "voltage", "up")} hold ${say(joules, "energy", "up")}`;
  if (!part.prechargeOhm) {
    const ohm = prechargeOhm(USUAL_S, farads);
    return [
      ...found,
      speak({
        ...base,
        severity: "fix",
        headline: `${part.name} closes onto empty capacitors without a precharge`,
        detail: `${bank}${loopOhm > 0 ? `: up to ${say(inrushA(farads, volts, loopOhm), "current", "up")} for an instant (${energyText(inrushA2s(farads, volts, loopOhm))}), which welds contacts and ages fuses` : ""}. About ${say(ohm, "resistance")} around the contact fills them in ${USUAL_S} s; it must bear pulses of ${say(joules * PULSE_ROOM, "energy", "up")}. Drives stay disabled meanwhile.`,
        compared: { joules },
      }),
    ];
  }
  const ohm = part.prechargeOhm.value;
  const makes = part.makeA ?? part.ratedA;
  if (makes && volts / ohm > makes.value)
    found.push(
      speak({
        ...base,
        key: "low",
        severity: "fix",
        headline: `${part.name}: its precharge of ${say(ohm, "resistance")} lets ${say(volts / ohm, "current", "up")} in at once`,
        detail: `That is hardly less than closing without one, and the contact beside it must make it; ${say(makes.value, "current", "down")} is what the main one may. About ${say(prechargeOhm(USUAL_S, farads), "resistance")} fills the bank in ${USUAL_S} s.`,
        compared: { amps: volts / ohm, limit: makes.value },
      }),
    );
  const seconds = part.prechargeS?.value;
  const drawnA = drawnMeanwhileA(figures, part, behind);
  // Where no mode could be solved nobody knows what is drawn: that is said of the mode, and nothing of the precharge.
  if (drawnA === null) return found;
  const gap = prechargeGapV(volts, ohm, farads, seconds ?? prechargeS(ohm, farads), drawnA);
  const closing = loopOhm > 0 ? gap / loopOhm : 0;
  if (seconds !== undefined && gap > volts * GAP_SHARE)
    found.push(
      speak({
        ...base,
        key: "gap",
        severity: "fix",
        headline: `${part.name}: the precharge leaves ${say(gap, "voltage", "up")} missing`,
        detail: `${say(ohm, "resistance")} and ${say(farads, "capacitance")} take ${say(prechargeS(ohm, farads), "time", "up")}${standing(drawnA, ohm, volts)}. Closing then drives ${say(closing, "current", "up")}. ${
          drawnA > 0
            ? "Wait longer, a smaller resistor, or nothing drawn behind it until it is closed: where drives stay disabled till then, a mode with the contact closed and nothing running says so."
            : "Wait longer, or a smaller resistor."
        }`,
        compared: { volts: gap, limit: volts * GAP_SHARE },
      }),
    );
  if (part.makeA && closing > part.makeA.value)
    found.push(
      speak({
        ...base,
        key: "make",
        severity: "fix",
        headline: `${part.name}: closes onto ${say(closing, "current", "up")}, it may make ${say(part.makeA.value, "current", "down")}`,
        detail: `${say(gap, "voltage", "up")} are still missing when it closes, across ${say(loopOhm, "resistance")} of loop.`,
        compared: { amps: closing, limit: part.makeA.value },
      }),
    );
  if (seconds === undefined)
    found.push(
      speak({
        ...base,
        key: "time",
        severity: "ask",
        headline: `${part.name}: how long does it wait before it closes?`,
        detail: `${say(ohm, "resistance")} and ${say(farads, "capacitance")} need ${say(prechargeS(ohm, farads), "time", "up")} until they are full. The setting of its timer or program settles it; a voltmeter behind the contact shows it.`,
      }),
    );
  if (!part.prechargeJ)
    found.push(
      speak({
        ...base,
        key: "pulse",
        severity: "ask",
        headline: `${part.name}: what pulse does its precharge resistor bear?`,
        detail: `${bank}, and the resistor takes as much on every start. It should bear ${say(joules * PULSE_ROOM, "energy", "up")}; many of that wattage do not. The pulse or overload line of its sheet settles it.`,
      }),
    );
  else if (part.prechargeJ.value < joules)
    found.push(
      speak({
        ...base,
        key: "pulse",
        severity: "fix",
        headline: `${part.name}: its precharge resistor takes ${say(joules, "energy", "up")} a start, it bears ${say(part.prechargeJ.value, "energy", "down")}`,
        detail: `${bank}. It also has to survive a shorted bus: ${say(volts ** 2 / ohm, "power", "up")} until the start is given up.`,
        compared: { joules, limit: part.prechargeJ.value },
      }),
    );
  return found;
}
