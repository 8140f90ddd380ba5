import { driverCandidates, driverFromClass } from "../choosing/drivers";
import { actingLimit } from "../drivers/channel";
import { driverLimits } from "../drivers/limits";
import { hasLimit, usualLimit } from "../drivers/usual-limit";
import type { Figures } from "../figures/figures";
import { railMaxV } from "../figures/rails";
import { commandOf, startGroups } from "../loads/start-groups";
import type { Command } from "../machine/commands";
import type { Driver, Load, Mode } from "../machine/schema";
import { railOrigin } from "../machine/tree";
import { say } from "../quantity/format";
import { ELECTRONICS } from "../reference/load-kinds";
import { BY_DROP } from "../sizing/share-drop";
import { driverCurrent } from "../verdicts/loads/driver-current";
import { RULE_OF } from "../verdicts/rules";
import { countWord } from "../verdicts/together";
import type { Remedy, Verdict } from "../verdicts/types";

/** A mode that ends sooner is a start or a jam, s. */
const BRIEF_S = 60;
/** Volts a 5 V converter is set to so that its boards keep theirs (handbook practice, common practice). */
const RAISED = { fromV: 4.9, toV: 5.06, setV: 5.1 } as const;

/**
 * Cures that builders use before they cut metal, the cheapest first: a limit in the driver, starts one after the other, a driver
 * of the next class, a converter set a little higher. Whoever offers one tries it first.
 */
export function firstCures(figures: Figures, verdict: Verdict): Remedy[] {
  const raised = BY_DROP.has(verdict.rule) ? raisedConverter(figures, verdict) : [];
  if (!RULE_OF.get(verdict.rule)?.byDraw) return raised;
  const names = new Set([verdict.subject.id, verdict.cause ?? "", ...(verdict.also ?? [])]);
  const drivers = figures.machine.parts.filter((part): part is Driver => part.kind === "driver");
  const named = drivers.filter(({ id }) => names.has(id));
  const [only] = named;
  const limits = named.length === 1 && only ? limited(figures, [only]) : [];
  return [
    ...limits,
    ...limited(figures, drivers),
    ...figures.machine.modes.flatMap((mode) => staggered(figures, mode)),
    ...(only && verdict.rule === driverCurrent.id ? nextDriver(figures, only) : []),
    ...raised,
  ];
}

const loadsOf = (figures: Figures, driver: Driver): Load[] =>
  figures.machine.parts.filter(
    (part): part is Load => part.kind === "load" && figures.solved.circuit.feeds.get(part.id)?.driver.id === driver.id,
  );

/** The usual limit set in drivers that have none, or one that lets more through than their motors need. */
function limited(figures: Figures, drivers: readonly Driver[]): Remedy[] {
  const set = drivers.flatMap((driver) => {
    const peakA = driverLimits(driver).peak?.value;
    if (peakA === undefined || !hasLimit(driver)) return [];
    const limits = loadsOf(figures, driver).map((load) => ({ load, limit: usualLimit(load, peakA) }));
    const amps = Math.max(0, ...limits.map(({ limit }) => limit ?? 0));
    if (amps === 0 || (actingLimit(driver) ?? Number.POSITIVE_INFINITY) <= amps) return [];
    const stall = Math.max(...limits.map(({ load }) => load.levels?.stall?.value ?? load.levels?.start?.value ?? amps));
    const command: Command = { type: "updatePart", id: driver.id, changes: { limitA: { value: amps, provenance: "guess" } } };
    return [{ driver, amps, torque: Math.round((100 * amps) / stall), command }];
  });
  const [first] = set;
  if (!first) return [];
  if (set.length === 1)
    return [
      {
        label: `Set the current limit of ${first.driver.name} to ${say(first.amps, "current", "down")}: ${first.torque} % of its stall torque is left`,
        command: first.command,
      },
    ];
  const label = `Set current limits in the ${countWord(set.length)} drivers: ${set
    .slice(0, 3)
    .map(({ driver, amps }) => `${driver.name} ${say(amps, "current", "down")}`)
    .join(", ")}${set.length > 3 ? ", …" : ""}`;
  return [{ label, command: { type: "batch", label: label.slice(0, 200), commands: set.map(({ command }) => command) } }];
}

/** A brief mode in which only the largest of its starts happens, while the others run. */
function staggered(figures: Figures, mode: Mode): Remedy[] {
  if (mode.lastsS === null || mode.lastsS >= BRIEF_S) return [];
  const starting = figures.machine.parts.filter((part): part is Load => part.kind === "load" && part.cells[mode.id]?.state === "start");
  const [first, ...rest] = startGroups(starting);
  if (rest.length === 0) return [];
  const commands = rest
    .flat()
    .map(({ id }): Command => ({ type: "setCell", loadId: id, modeId: mode.id, cell: { state: "run", percent: 100 } }));
  const label = `${mode.name}: start one after the other, ${first?.[0] ? commandOf(first[0]) : "the largest"} while the rest runs`;
  return [{ label, command: { type: "batch", label: label.slice(0, 200), commands } }];
}

/** Figures of the class that fits a driver's motors, where the one that is there does not. */
function nextDriver(figures: Figures, driver: Driver): Remedy[] {
  const loads = loadsOf(figures, driver);
  const [load] = [...loads].sort((a, b) => (b.levels?.run?.value ?? 0) - (a.levels?.run?.value ?? 0));
  const runA = load?.levels?.run?.value;
  if (!load || !runA) return [];
  const highV = railMaxV(figures, driver);
  const lowV = figures.parts[driver.id]?.lowestV?.volts ?? null;
  const fits = driverCandidates(
    {
      load,
      continuousA: runA * 1.1,
      peakA: load.levels?.stall?.value ?? runA,
      highestV: highV > 0 ? highV : null,
      lowestV: lowV,
    },
    [],
  ).find(({ refused, stall, oneWay }) => refused.length === 0 && stall !== "refused" && !oneWay);
  const made = fits && driverFromClass(fits.id);
  if (!fits || !made) return [];
  const changes = { ...made, channels: Math.max(driver.channels, made.channels ?? 1) };
  return [
    { label: `Take another driver in place of ${driver.name}: ${fits.name}`, command: { type: "updatePart", id: driver.id, changes } },
  ];
}

/** A 5 V converter set to 5.1 V, where what hangs on it is made for that. */
export function raisedConverter(figures: Figures, { subject }: Pick<Verdict, "subject">): Remedy[] {
  const origin = figures.partOf.get(railOrigin(figures.ledger, subject.id) ?? "");
  if (origin?.kind !== "converter" || origin.topology === "linear") return [];
  const { outputV } = origin;
  if (outputV.value < RAISED.fromV || outputV.value > RAISED.toV) return [];
  const bears = figures.machine.parts.every(
    (part) =>
      part.kind !== "load" ||
      railOrigin(figures.ledger, part.id) !== origin.id ||
      (part.inputMaxV === undefined ? !ELECTRONICS.has(part.loadKind) || part.nominalV.value >= 5 : part.inputMaxV.value >= RAISED.setV),
  );
  if (!bears) return [];
  return [
    {
      label: `Set ${origin.name} to ${RAISED.setV} V`,
      command: { type: "updatePart", id: origin.id, changes: { outputV: { ...outputV, value: RAISED.setV } } },
    },
  ];
}
