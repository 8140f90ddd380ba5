import { panelOf } from "../../bringup/panel";
import type { Figures } from "../../figures/figures";
import { say } from "../../quantity/format";
import { type Readings, rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "panel-meter",
  title: "The panel meter is off",
  step: "bring-up",
  needs: "Trim the meter against the one you trust, or note by how much it is off.",
});

/** A panel meter that shows something else than a reference by more than such meters are off: it tells of an empty pack too late. */
export const panelMeter = rule({ speak, reads: "log", evaluate });

function evaluate(_: Figures, { log }: Readings): Verdict[] {
  const panel = panelOf(log.readings);
  if (!panel || panel.trim.offBy <= panel.allowed) return [];
  const { trim, points, allowed } = panel;
  const line =
    trim.gain === 1 ? `add ${say(trim.offset, "voltage")}` : `multiply by ${trim.gain.toFixed(3)} and add ${say(trim.offset, "voltage")}`;
  return [
    speak({
      machine: "machine",
      about: "panel",
      severity: "fix",
      headline: `The panel meter is off by ${say(trim.offBy, "voltage", "up")}`,
      detail: `Such meters are off by up to ${say(allowed, "voltage", "down")} here. ${points.length > 1 ? `Trim it at its low and its high end; or ${line}, which leaves ${say(trim.restAfter, "voltage", "up")}.` : `Read it at a second voltage too, then its gain can be told from its offset; for now ${line}.`}`,
      compared: { volts: trim.offBy, limit: allowed },
    }),
  ];
}
