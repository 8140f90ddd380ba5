import { channelDraw } from "../drivers/channel";
import { type Draw, drawIn } from "../loads/draw";
import { oncePer } from "../machine/once";
import type { Load, Machine, Part } from "../machine/schema";
import { type Circuit, type DrawPlace, type LoadElement, nodeAt, type Skeleton, wireOhm } from "./circuit";
import { Rows } from "./rows";
import { buildSkeleton } from "./skeleton";

function elementIn(rows: Rows, modes: number) {
  return (id: string, role: LoadElement["role"], pos: number, neg: number): LoadElement & { inMatrix: boolean } => ({
    id,
    role,
    pos,
    neg,
    amps: rows.next(),
    siemens: rows.next(),
    watts: rows.next(),
    inMatrix: false,
    unknown: new Uint8Array(modes),
  });
}

function putDraw(to: LoadElement & { inMatrix: boolean }, mode: number, draw: Pick<Draw, "amps" | "siemens" | "watts">): void {
  to.amps[mode] = draw.amps;
  to.siemens[mode] = draw.siemens;
  to.watts[mode] = draw.watts;
  if (draw.siemens !== 0 || draw.watts !== 0) to.inMatrix = true;
}

/** What one place draws in every mode, and for a chopped motor what its bridge passes round. */
interface Drawn {
  readonly own: LoadElement;
  readonly loop: LoadElement | null;
}

/** Figures a load or driver draws by, by place: a part that an edit left alone draws what it drew. */
const drawnOn = oncePer((_: Skeleton["places"]) => oncePer((_part: Part) => new Map<DrawPlace["role"], Drawn>()));

function drawnAt(skeleton: Skeleton, machine: Machine, place: DrawPlace, part: Part, rows: Rows): Drawn {
  const element = elementIn(rows, machine.modes.length);
  const own = element(place.id, place.role, place.pos, place.neg);
  if (part.kind === "driver") own.amps.fill((place.role === "own" ? part.ownA?.value : part.logicA?.value) ?? 0);
  if (part.kind === "switch" && part.coilOhm) {
    const siemens = 1 / part.coilOhm.value;
    // Its coil is fed wherever its contact is closed.
    machine.modes.forEach(({ id }, m) => {
      putDraw(own, m, { amps: 0, siemens: part.openIn.includes(id) ? 0 : siemens, watts: 0 });
    });
  }
  if (part.kind !== "load") return { own, loop: null };
  const loop = drawLoad(skeleton, machine, part, own, element);
  return { own, loop };
}

function drawLoad(
  skeleton: Skeleton,
  machine: Machine,
  part: Load,
  own: LoadElement & { inMatrix: boolean },
  element: ReturnType<typeof elementIn>,
): LoadElement | null {
  const school = machine.settings.schools.peakBudget;
  const feed = skeleton.feeds.get(part.id);
  const leadOhm = feed ? wireOhm(machine, feed.out) + (feed.back ? wireOhm(machine, feed.back) : 0) : 0;
  const leg = (side: "a" | "b") => (feed ? nodeAt(skeleton, feed.driver.id, `${feed.channel}${side}`) : -1);
  const loop = feed ? element(part.id, "loop", leg("a"), leg("b")) : null;
  let circulates = false;
  machine.modes.forEach((mode, m) => {
    const cell = part.cells[mode.id];
    const draw = drawIn(part, cell, school);
    if (draw.missing !== null) own.unknown[m] = 1;
    if (!feed || !loop) {
      putDraw(own, m, draw);
      return;
    }
    const channel = channelDraw(feed.driver, cell, draw, leadOhm);
    putDraw(own, m, channel.motor);
    putDraw(loop, m, channel.loop);
    circulates ||= channel.loop.amps !== 0 || channel.loop.siemens !== 0 || channel.loop.watts !== 0;
  });
  return circulates ? loop : null;
}

/**
 * The circuit of a machine on its skeleton. The skeleton may have been built for another version of the machine that
 * differs from it in nothing but cells of loads.
 */
export function circuitOn(skeleton: Skeleton, machine: Machine): Circuit {
  const parts = new Map(machine.parts.map((part) => [part.id, part]));
  const rows = new Rows(machine.modes.length);
  const drawn = drawnOn(skeleton.places);
  const loads: LoadElement[] = [];
  const loops: LoadElement[] = [];
  for (const place of skeleton.places) {
    const part = parts.get(place.id) as Part;
    const roles = drawn(part);
    const made = roles.get(place.role) ?? drawnAt(skeleton, machine, place, part, rows);
    roles.set(place.role, made);
    loads.push(made.own);
    if (made.loop) loops.push(made.loop);
  }
  return { ...skeleton, machine, loads: [...loads, ...loops] };
}

/** The network of a machine, built from nothing. */
export function buildCircuit(machine: Machine): Circuit {
  return circuitOn(buildSkeleton(machine), machine);
}
