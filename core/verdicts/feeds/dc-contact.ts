import { breaksA } from "../../figures/contacts";
import type { Figures } from "../../figures/figures";
import { railMaxV } from "../../figures/rails";
import type { Switch } from "../../machine/schema";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "dc-contact",
  title: "Contact cannot break this DC",
  step: "feeds",
  needs: "A contact rated to break this at DC, or a program that stops the drives before it opens.",
});

/** Contacts that open under load: by an emergency stop, or in a mode. An AC figure says nothing about DC. */
export const dcContact = rule({ speak, reads: "figures", byDraw: true, evaluate });

/** Below this a DC arc goes out by itself at a few amps (handbook: about 12 to 13 V and 0.4 A on copper, Holm, from memory). */
const ARC_V = 13;

/** From here an arc of some amps holds by itself whoever opens the contact (handbook: from about 30 V, from memory). */
const ARC_HOLDS_V = 30;

/** From here the plan asks for a breaking figure: an arc at some amps holds and burns. */
const ASK_V = 20;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => (part.kind === "switch" ? judge(figures, part) : []));
}

function judge(figures: Figures, part: Switch): Verdict[] {
  const amps = breaksA(figures, part);
  const volts = railMaxV(figures, part);
  const opens = part.stop !== undefined || part.openIn.length > 0;
  const base = { part };
  const found: Verdict[] = [];
  if (part.acOnly && volts > ARC_V && amps > 0)
    found.push(
      speak({
        ...base,
        key: "ac",
        severity: opens ? "stop" : "fix",
        headline: `${part.name}: rated for AC only, on ${say(volts, "voltage", "up")} of DC`,
        detail: `An AC arc dies a hundred times a second, a DC arc stays. A 16 A, 250 V AC rocker breaks 5 to 10 A at 28 V of DC and 1 to 2 A at 60 V (from memory). Take one with a DC figure for ${say(amps, "current", "up")}.`,
      }),
    );
  if (part.breakV && volts > part.breakV.value)
    found.push(
      speak({
        ...base,
        key: "volts",
        severity: opens ? "stop" : "fix",
        headline: `${part.name}: breaks up to ${say(part.breakV.value, "voltage")}, the rail reaches ${say(volts, "voltage", "up")}`,
        detail: "Above its voltage the arc does not go out when it opens. Contacts in series, or one made for this voltage.",
        compared: { volts, limit: part.breakV.value },
      }),
    );
  if (part.breakA && amps > part.breakA.value)
    found.push(
      speak({
        ...base,
        key: "amps",
        severity: opens ? "stop" : "fix",
        headline: `${part.name}: has to break ${say(amps, "current", "up")}, it can break ${say(part.breakA.value, "current", "down")}`,
        detail:
          "Carrying and breaking are two ratings; motors, being inductive, often allow only a fifth to a half of the resistive one. Stop the drives first, or take a larger contact.",
        compared: { amps, limit: part.breakA.value },
      }),
    );
  if (!part.breakA && !part.acOnly && amps > 1 && (opens ? volts >= ASK_V : volts > ARC_HOLDS_V))
    found.push(
      speak({
        ...base,
        key: "ask",
        severity: "ask",
        headline: `${part.name}: how many amps of DC can it break?`,
        detail: `${opens ? "It opens" : "No mode opens it, but a hand will:"} with up to ${say(amps, "current", "up")} at ${say(volts, "voltage", "up")} behind it. What it carries is not what it breaks: look for a DC breaking figure with its voltage.`,
      }),
    );
  if (part.breakA && !part.breakV && !part.acOnly && amps > 1 && volts > ARC_HOLDS_V)
    found.push(
      speak({
        ...base,
        key: "ask-volts",
        severity: "ask",
        headline: `${part.name}: up to which voltage can it break?`,
        detail: `Its ${say(part.breakA.value, "current", "down")} hold at some voltage only; the rail reaches ${say(volts, "voltage", "up")}, where an arc of some amps goes on burning. Its sheet settles it, in the line for DC.`,
      }),
    );
  if (part.clamp === "diode" && part.stop)
    found.push(
      speak({
        ...base,
        key: "clamp",
        severity: "watch",
        headline: `${part.name}: a plain diode on its coil slows its release`,
        detail:
          "Three to ten times slower (common practice), and a slow contact burns. A clamp or suppressor with a higher voltage lets it drop quickly.",
      }),
    );
  return found;
}
