import type { Figures } from "../../figures/figures";
import { names, partName } from "../../figures/names";
import { railMaxV } from "../../figures/rails";
import { thinnest } from "../../fuses/pick";
import { lengthOf } from "../../machine/length";
import type { Wire } from "../../machine/schema";
import { say } from "../../quantity/format";
import { CLEARS_FROM, chassisOf, type Slip, slips } from "../../returns/chassis";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "chassis-fault",
  title: "A plus that touches the chassis is not cleared",
  step: "returns",
  needs: "A shorter or thicker bond, or fuses that open sooner where the plus can touch the frame.",
});

/** With a direct bond a tool from plus to the frame must blow a fuse; a poor bond heats instead. */
export const chassisFault = rule({ speak, reads: "late", sized: true, evaluate });

/** Room for what the rest of the way changes by, as a factor. */
const SPARE = 1.1;

/** The thinnest bond through which enough flows to open the fuse quickly, where the frame has only one. */
function heavier(figures: Figures, bonds: readonly Wire[], { part, leastA, opens }: Slip): Remedy[] {
  const [bond] = bonds;
  if (!bond || bonds.length > 1 || !opens) return [];
  const volts = railMaxV(figures, figures.partOf.get(part));
  const nowOhm = figures.wires[bond.id]?.runOhm ?? 0;
  const wantedOhm = nowOhm - (volts / leastA - volts / (CLEARS_FROM * opens.ratingA * SPARE));
  const perM = wantedOhm / lengthOf(bond);
  const size = wantedOhm > 0 ? thinnest(bond, (gauge) => gauge.r20OhmPerKm / 1000 / bond.parallel <= perM) : null;
  if (!size || size.id === bond.gauge) return [];
  return [{ label: `Use ${size.id} for the bond`, command: { type: "updateWire", id: bond.id, changes: { gauge: size.id } } }];
}

function evaluate(figures: Figures): Verdict[] {
  return chassisOf(figures).flatMap(({ frame, bonds, bleeds }): Verdict[] => {
    if (bonds.length === 0 || bleeds) return [];
    const bad = slips(figures, frame).filter(({ ends }) => ends === "never" || ends === "slow");
    if (bad.length === 0) return [];
    const never = bad.filter(({ ends }) => ends === "never");
    const worst = (never.length > 0 ? never : bad).reduce((most, each) => (each.leastA > most.leastA ? each : most));
    const places = names([...new Set((never.length > 0 ? never : bad).map(({ part }) => partName(figures, part)))]);
    return [
      speak({
        part: frame,
        severity: never.length > 0 ? "stop" : "fix",
        also: [...bonds.map((wire) => wire.id), ...new Set(bad.map(({ part }) => part))],
        headline: `A tool slipped from ${places} to ${frame.name}: ${never.length > 0 ? "nothing opens" : "the fuse is slow"}`,
        detail: worst.opens
          ? `At ${partName(figures, worst.part)} at least ${say(worst.leastA, "current", "down")} flow, less than ${CLEARS_FROM} times the ${worst.opens.ratingA} A fuse: it need not open quickly, and the bond takes ${say(worst.bondW, "power", "up")}. A shorter or heavier bond, or a smaller fuse (common practice).`
          : `At ${partName(figures, worst.part)} up to ${say(worst.mostA, "current", "up")} flow and no fuse is sure to open: arc, burns and a glowing tool. Cover every plus, take the minus off first and refit it last, and put a fuse before that place.`,
        remedies: never.length > 0 ? [] : heavier(figures, bonds, worst),
        compared: { amps: worst.leastA, limit: worst.opens ? CLEARS_FROM * worst.opens.ratingA : undefined },
      }),
    ];
  });
}
