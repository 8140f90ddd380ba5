import { endsOf } from "../connectors/ends";
import { ownDraw } from "../loads/own-draw";
import type { BuiltPart, FuseRef, Wire } from "../machine/schema";
import { type Gauge, gaugeById } from "../reference/gauges";
import { HOLDERS, LEAST_AWG, LOAD_ENDS, LOAD_STUDS, STUD_AWG, type TerminalClass, terminalFor } from "../reference/practice";
import type { Build } from "./build";

/** Sizes that go with a wire's place: thinnest a hand crimps for the use, thickest its terminals take. */
export interface TerminalRange {
  readonly least: Gauge;
  readonly most: Gauge | null;
  readonly by: Tightest | null;
}

/** Terminal that sets the most: on which part, and what it is called there. */
export interface Tightest {
  readonly part: BuiltPart;
  readonly where: string;
  readonly terminal: TerminalClass;
}

const gauge = (id: string): Gauge => gaugeById(id) as Gauge;

/** Terminal of a part, by its stud where one is told, else by its class and rating; null: nothing is known of it. */
export function terminalOf(part: BuiltPart): TerminalClass | null {
  const studded = "stud" in part && part.stud ? STUD_AWG[part.stud] : undefined;
  if (studded && "stud" in part) return { name: `${part.stud} stud`, mostAwg: studded };
  switch (part.kind) {
    case "driver": {
      const amps = Math.max(part.headlineA?.value ?? 0, part.peakA?.value ?? 0, (part.continuousA?.value ?? 0) * 1.5);
      return amps > 0 ? terminalFor("driver", amps) : null;
    }
    case "converter": {
      const amps = part.printedA?.value ?? part.ratedA?.value;
      return amps === undefined ? null : terminalFor("converter", amps);
    }
    case "supply":
      return part.ratedA === undefined ? null : terminalFor("supply", part.ratedA.value);
    case "bar":
      if (part.form === "fuse block" || part.form === "terminal strip") return terminalFor("bar", Math.min(60, part.ratedA?.value ?? 60));
      return part.ratedA === undefined || part.form === "junction" || part.form === "chassis"
        ? null
        : terminalFor("bar", part.ratedA.value);
    case "switch":
      return part.ratedA === undefined ? null : terminalFor(contactKind(part.device), part.ratedA.value);
    case "fuse":
      return holderOf(part.fuse);
    case "load": {
      const amps = ownDraw(part) ?? 0;
      const heavy = LOAD_STUDS.find(({ fromA }) => amps >= fromA);
      const ends = LOAD_ENDS[part.loadKind];
      return { name: "terminal of its kind", mostAwg: heavy && thicker(heavy.mostAwg, ends.mostAwg) ? heavy.mostAwg : ends.mostAwg };
    }
    default:
      return null;
  }
}

const thicker = (a: string, b: string) => gauge(a).areaMm2 > gauge(b).areaMm2;

function contactKind(device: string | undefined): "toggle" | "relay" | "contact" {
  return device === "toggle" ? "toggle" : device === "relay" || device === "solid state" ? "relay" : "contact";
}

/** Holder of a fuse, by its family; of a breaker by its rating. */
export function holderOf({ family, ratingA }: FuseRef): TerminalClass {
  return HOLDERS.find(([starts]) => family.startsWith(starts))?.[1] ?? terminalFor("contact", ratingA);
}

/** Terminal, or fuse holder, that takes the least of those at a wire's ends; null: nothing is known. `counts`: of which parts. */
export function tightestTerminal(build: Build, wire: Wire, counts: (part: BuiltPart) => boolean = () => true): Tightest | null {
  const found: Tightest[] = [];
  for (const id of [wire.from.part, wire.to.part]) {
    const part = build.partOf.get(id);
    const terminal = part && counts(part) && !endAt(wire, id) ? terminalOf(part) : null;
    if (part && terminal) found.push({ part, where: part.name, terminal });
  }
  const { fuse, from } = leadOf(build, wire);
  const holds = build.partOf.get(from.part);
  if (fuse && holds) found.push({ part: holds, where: "its fuse's holder", terminal: holderOf(fuse) });
  return found.reduce<Tightest | null>(
    (least, each) => (least && !thicker(least.terminal.mostAwg, each.terminal.mostAwg) ? least : each),
    null,
  );
}

/** Sizes between which a wire's own size lies: what its use asks at least, what its terminals and fuse holder take at most. */
export function terminalRange(build: Build, wire: Wire): TerminalRange {
  const by = tightestTerminal(build, wire);
  return { least: leastFor(build, wire), most: by && gauge(by.terminal.mostAwg), by };
}

/** A plug at an end has a range of its own, which its rule and sizing hold. */
function endAt(wire: Wire, partId: string): boolean {
  return endsOf(wire).some(({ end }) => wire[end].part === partId);
}

function leadOf(build: Build, wire: Wire): Wire {
  return (wire.pair === undefined ? undefined : build.wireOf.get(wire.pair)) ?? wire;
}

/** Thinnest size a person crimps for a wire's use, unless the builder allows thinner. */
function leastFor(build: Build, wire: Wire): Gauge {
  const { settings } = build.machine;
  const allowed = settings.leastGauge === undefined ? undefined : gaugeById(settings.leastGauge);
  if (allowed) return allowed;
  const lead = leadOf(build, wire);
  const ends = [lead.from.part, lead.to.part].map((id) => build.partOf.get(id));
  const fromDriver = ends[0]?.kind === "driver";
  const load = ends.find((part) => part?.kind === "load");
  const boat = settings.schools.ampacity === "boat" && wire.surroundings !== "box";
  const wanted: string[] = [];
  if (load?.kind === "load" && !(fromDriver && (ownDraw(load) ?? 0) < SMALL_A)) wanted.push(LOAD_ENDS[load.loadKind].leastAwg);
  else if (fromDriver) wanted.push(LEAST_AWG.lead);
  else if (ends[1]?.kind === "driver") wanted.push(LEAST_AWG.driver);
  else if (ends[1]?.kind === "bar") wanted.push(LEAST_AWG.trunk);
  else wanted.push(LEAST_AWG.feed);
  const heavy = ends.some(
    (part) =>
      (part?.kind === "converter" && (part.printedA?.value ?? part.ratedA?.value ?? 0) >= HEAVY_CONVERTER_A) ||
      (part?.kind === "load" && part.loadKind === "servo" && (ownDraw(part) ?? 0) >= HEAVY_SERVOS_A),
  );
  if (heavy) wanted.push(LEAST_AWG.heavy);
  if (wire.moves) wanted.push(LEAST_AWG.moving);
  if (boat) wanted.push(wire.surroundings === "sleeve" ? LEAST_AWG.boatSheathed : LEAST_AWG.boat);
  return wanted.map(gauge).reduce((a, b) => (b.areaMm2 > a.areaMm2 ? b : a));
}

/** A motor of less has leads of its own size, A (common practice, no source). */
const SMALL_A = 1.5;
/** Output of a converter, and draw of a group of servos, from which their feed is no thin wire, A (handbook practice section 9). */
const HEAVY_CONVERTER_A = 8;
const HEAVY_SERVOS_A = 3;
