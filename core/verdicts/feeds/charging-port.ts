import type { Build } from "../../figures/build";
import type { Switch } from "../../machine/schema";
import { say } from "../../quantity/format";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "charging-port",
  title: "Charging port",
  step: "feeds",
  needs: "A fuse near the battery that is not above what the port bears.",
});

/** A port is a hole into the battery: recessed contacts, a fuse near the battery that suits it, no motion while plugged. */
export const chargingPort = rule({ speak, reads: "build", evaluate });

function evaluate(figures: Build): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] =>
    part.kind === "switch" && part.device === "charging port" ? judge(figures, part) : [],
  );
}

function judge(figures: Build, part: Switch): Verdict[] {
  const base = { part };
  const set = (label: string, changes: Partial<Switch>): Remedy => ({ label, command: { type: "updatePart", id: part.id, changes } });
  const found: Verdict[] = [];
  if (!part.recessed)
    found.push(
      speak({
        ...base,
        key: "pins",
        severity: part.recessed === undefined ? "ask" : "stop",
        headline:
          part.recessed === undefined ? `${part.name}: are its live contacts recessed?` : `${part.name} shows live pins of the battery`,
        detail: "With no charger in it, the port is live. Recessed or shrouded contacts, keyed, with polarity marked.",
        remedies: [set("They are recessed", { recessed: true })],
      }),
    );
  if (!part.holdsMotion)
    found.push(
      speak({
        ...base,
        key: "motion",
        severity: part.holdsMotion === undefined ? "ask" : "fix",
        headline: `${part.name}: ${part.holdsMotion === undefined ? "can the machine move while it is plugged in?" : "the machine can move while it is plugged in"}`,
        detail: "A contact in the port that holds the drives disabled saves the cable and who stands beside it.",
        remedies: [set("Motion is held while it is plugged", { holdsMotion: true })],
      }),
    );
  const wire = figures.machine.wires.find(({ to, from }) => to.part === part.id || from.part === part.id);
  const guard = wire ? figures.wires[wire.id]?.exposure : null;
  const rated = part.ratedA?.value;
  if (guard && rated !== undefined && guard.limitA > rated)
    found.push(
      speak({
        ...base,
        key: "fuse",
        severity: "fix",
        headline: Number.isFinite(guard.limitA)
          ? `${part.name}: its fuse lets ${say(guard.limitA, "current")} through, it bears ${say(rated, "current", "down")}`
          : `${part.name}: no fuse between it and the battery`,
        detail: "A fuse near the battery, not above the port's rating; about 1.25 times the charging current (common practice).",
        compared: { amps: guard.limitA, limit: rated },
      }),
    );
  return found;
}
