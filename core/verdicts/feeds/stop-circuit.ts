import type { Build } from "../../figures/build";
import { stopPressed } from "../../figures/contacts";
import type { Driver, Load, Settings, Switch } from "../../machine/schema";
import { isBoard } from "../../machine/terminals";
import type { LoadKind } from "../../reference/load-kinds";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "stop-circuit",
  title: "Emergency stop",
  step: "feeds",
  needs: "Decide what the emergency stop cuts and what stays alive, and wire it so.",
});

/**
 * Under the school "opens motor power" everything that moves must lose its supply; under "disables the drives" each driver
 * needs an input for it. In both, logic stays alive and a deliberate reset is needed (ISO 13850, IEC 60204-1: categories 0
 * and 1). This is no safety assessment: standards and a competent person decide.
 */
export const stopCircuit = rule({ speak, reads: "build", evaluate });

const MOVES: ReadonlySet<LoadKind> = new Set(["motor", "stepper", "brushless", "servo", "actuator", "coil"] as const);

/** Small movers that usually stay fed with logic to hold their place. */
const HOLDS_PLACE: ReadonlySet<LoadKind> = new Set(["servo", "coil"] as const);

/** Whether a load must not be able to move with the emergency stop pressed, however little it draws. */
export function mustStop(kind: LoadKind): boolean {
  return MOVES.has(kind) && !HOLDS_PLACE.has(kind);
}

function evaluate(figures: Build): Verdict[] {
  const drivers = figures.machine.parts.filter((part): part is Driver => part.kind === "driver");
  const moving = figures.machine.parts.filter((part): part is Load => part.kind === "load" && MOVES.has(part.loadKind));
  const [first] = moving;
  if (!first) return [];
  const { stops, alive } = stopPressed(figures);
  const about = {};
  const school = figures.machine.settings.schools.stop ?? impliedBy(stops, drivers);
  if (school === undefined) return [];
  if (stops.length === 0 && school === "opens power")
    return [
      speak({
        ...about,
        part: { id: drivers[0]?.id ?? first.id },
        about: "none",
        severity: "fix",
        headline: "No contact is marked as opened by the emergency stop",
        detail:
          "Your school opens the motors' supply. Mark the contactor that does it, or add one between the main switch and the drivers.",
      }),
    ];
  return [
    ...(school === "opens power" ? stillMoving(moving, stops, alive) : [...undisabled(drivers), ...undriven(figures, moving, alive)]),
    ...deadLogic(figures, stops, alive),
    ...stops.flatMap(loop),
  ];
}

/** Without a chosen school what is in the plan tells which one it follows; a machine without any stop is not judged by one. */
function impliedBy(stops: readonly Switch[], drivers: readonly Driver[]): Settings["schools"]["stop"] {
  if (stops.length > 0) return "opens power";
  return drivers.some(({ stopInput }) => stopInput !== undefined) ? "disables drives" : undefined;
}

function stillMoving(moving: readonly Load[], stops: readonly Switch[], alive: ReadonlySet<string>): Verdict[] {
  const live = moving.filter((part) => alive.has(part.id));
  const [first] = live;
  if (!first) return [];
  return [
    speak({
      part: first,
      about: "moving",
      severity: live.some(({ loadKind }) => mustStop(loadKind)) ? "stop" : "watch",
      also: live.map((part) => part.id),
      headline: `${first.name}${live.length > 1 ? ` and ${live.length - 1} more` : ""} can still move with the emergency stop pressed`,
      detail: `${stops.map(({ name }) => name).join(" and ")} ${stops.length > 1 ? "do" : "does"} not cut ${live
        .map(({ name }) => name)
        .slice(0, 4)
        .join(", ")}. Feed what moves from behind the stop contact.`,
    }),
  ];
}

function undisabled(drivers: readonly Driver[]): Verdict[] {
  const bare = drivers.filter((part) => part.stopInput === undefined);
  const plain = drivers.filter((part) => part.stopInput === "enable");
  const say = (list: readonly Driver[]) =>
    list
      .map(({ name }) => name)
      .slice(0, 4)
      .join(", ");
  const [none] = bare;
  const [enable] = plain;
  return [
    ...(none
      ? [
          speak({
            part: none,
            about: "input",
            severity: "ask",
            also: bare.map((part) => part.id),
            headline: `${none.name}${bare.length > 1 ? ` and ${bare.length - 1} more` : ""}: which input does the emergency stop act on?`,
            detail: `Your school disables the drives. ${say(bare)}: an enable or reset line, or a certified torque-off input?`,
          }),
        ]
      : []),
    ...(enable
      ? [
          speak({
            part: enable,
            about: "silicon",
            severity: "watch",
            headline: "The stop relies on enable lines: a shorted bridge runs on",
            detail: `${say(plain)}: neither chip nor program is made for safety. Use it to ramp down, and let a contact take the power away shortly after.`,
          }),
        ]
      : []),
  ];
}

/** Nothing can be disabled where there is no drive: what moves straight off a rail runs on. */
function undriven(figures: Build, moving: readonly Load[], alive: ReadonlySet<string>): Verdict[] {
  const { feeds } = figures.solved.circuit;
  const running = moving.filter(({ id: own, loadKind }) => mustStop(loadKind) && !feeds.has(own) && alive.has(own));
  const [first] = running;
  if (!first) return [];
  return [
    speak({
      part: first,
      about: "undriven",
      severity: "stop",
      also: running.map((part) => part.id),
      headline: `${first.name}${running.length > 1 ? ` and ${running.length - 1} more` : ""} ${running.length > 1 ? "have" : "has"} no drive that the emergency stop could disable`,
      detail: "It hangs straight on its rail and keeps its power. A contact that the stop opens before it, or a drive with a stop input.",
    }),
  ];
}

function deadLogic(figures: Build, stops: readonly Switch[], alive: ReadonlySet<string>): Verdict[] {
  if (stops.length === 0) return [];
  const dead = figures.machine.parts.filter((part) => isBoard(part) && figures.parts[part.id]?.wiring === "ok" && !alive.has(part.id));
  const [first] = dead;
  if (!first) return [];
  return [
    speak({
      part: first,
      about: "logic",
      severity: "fix",
      also: dead.map((part) => part.id),
      headline: `${first.name}${dead.length > 1 ? ` and ${dead.length - 1} more` : ""} ${dead.length > 1 ? "go" : "goes"} dark with the emergency stop pressed`,
      detail:
        "In both schools logic stays alive: position, brakes and messages are kept, and nothing starts by itself when power returns. Feed it from before the stop contact, fused on its own.",
    }),
  ];
}

function loop(part: Switch): Verdict[] {
  const { stop } = part;
  if (!stop) return [];
  const base = { part };
  const set = (label: string, changes: Partial<NonNullable<Switch["stop"]>>) => ({
    label,
    command: { type: "updatePart" as const, id: part.id, changes: { stop: { ...stop, ...changes } } },
  });
  return [
    ...(stop.normallyClosed
      ? []
      : [
          speak({
            ...base,
            key: "open",
            severity: "stop",
            headline: `${part.name}: its stop loop needs current to stop`,
            detail:
              "A broken wire then means no stop. Buttons normally closed, all in series, energise to run: a broken wire stops the machine.",
            remedies: [set("All normally closed, in series", { normallyClosed: true })],
          }),
        ]),
    ...(stop.deliberateReset
      ? []
      : [
          speak({
            ...base,
            key: "reset",
            severity: "fix",
            headline: `${part.name}: releasing the button lets the machine go again`,
            detail: "Reset is a deliberate act, and it must not restart motion (ISO 13850): a self-holding relay with its own button.",
            remedies: [set("A reset button of its own", { deliberateReset: true })],
          }),
        ]),
  ];
}
