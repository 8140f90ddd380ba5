import { type Build, closedMetal } from "../../figures/build";
import { railCapacitance } from "../../figures/capacitance";
import type { BuiltLoad, BuiltPart, Pack, PartOf } from "../../machine/schema";
import { railOrigin, setVolts } from "../../machine/tree";
import { say } from "../../quantity/format";
import { chemistryOf } from "../../reference/chemistries";
import { busAfter, busCapacitance } from "../../sources/supply";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({
  id: "regeneration",
  title: "Braking energy has nowhere to go",
  step: "sources",
  needs: "Somewhere for the braking energy to go: a brake resistor, a source that takes it back, or a slower stop.",
});

/** Each rail with motors that give energy back: whether anything on it can take it, or a brake planned for it holds. */
export const regeneration = rule({ speak, reads: "build", evaluate });

/** Over-voltage protection of a supply trips from here, share of its volts (handbook 4.1: 115 to 140 %, from memory). */
const TRIPS_FROM = 1.15;

/** Bank energy below which a few capacitors of the drives themselves take it, J (typical drive bus, common practice). */
const SMALL_J = 0.02;

type Braked = PartOf<"driver"> | PartOf<"bar">;

/** Loads that send energy back while they brake: motors whose bridge can conduct both ways. */
function givesBack(figures: Build, load: BuiltLoad): boolean {
  if (load.brakingJ) return load.brakingJ.value > SMALL_J;
  if (load.loadKind !== "motor" && load.loadKind !== "brushless") return false;
  const driver = figures.solved.circuit.feeds.get(load.id)?.driver;
  return load.loadKind === "brushless" || (driver !== undefined && (driver.bridge ?? "mosfet") === "mosfet");
}

function evaluate(figures: Build): Verdict[] {
  const byRail = new Map<string, BuiltLoad[]>();
  for (const part of figures.machine.parts) {
    if (part.kind !== "load" || !givesBack(figures, part)) continue;
    const origin = railOrigin(figures.ledger, part.id);
    if (origin === null) continue;
    const list = byRail.get(origin);
    if (list) list.push(part);
    else byRail.set(origin, [part]);
  }
  return [...byRail].flatMap(([origin, loads]) => {
    const source = figures.partOf.get(origin);
    if (!source) return [];
    if (source.kind === "pack" && !source.diode) return fromPack(figures, source, loads);
    if (source.kind === "supply" && source.sinks && !source.diode) return [];
    return batteryBeside(figures, origin) ? [] : unsunk(figures, source, loads, `${source.name} cannot take current back:`);
  });
}

/** Whether a battery that can take current is joined to the same metal. */
function batteryBeside(figures: Build, origin: string): boolean {
  const { circuit } = figures.solved;
  const own = circuit.emfs.find(({ id: emf }) => emf === origin);
  if (!own) return false;
  const metal = closedMetal(figures);
  return circuit.emfs.some((emf) => {
    const part = figures.partOf.get(emf.id);
    return part?.kind === "pack" && !part.diode && metal(emf.pos) === metal(own.pos);
  });
}

/**
 * A battery takes energy back, unless it must never be charged, is lithium below freezing, or its management switches it off:
 * a full pack's board does, and then the bus has its capacitors alone.
 */
function fromPack(figures: Build, pack: Pack, loads: readonly BuiltLoad[]): Verdict[] {
  if (pack.chemistry === undefined) return [];
  const chemistry = chemistryOf(pack.chemistry);
  const coldest = Math.min(figures.machine.settings.ambientC, figures.machine.settings.coldestC ?? Number.POSITIVE_INFINITY);
  const base = { part: pack, also: loads.map(({ id }) => id) };
  if (chemistry.chargeMaxV === null) {
    return [
      speak({
        ...base,
        severity: "fix",
        headline: `${pack.name}: primary cells, and ${namesOf(loads)} charge${loads.length > 1 ? "" : "s"} them when braking`,
        detail: "Cells that must never be charged leak or vent. An ideal diode at the pack and a brake resistor on the bus keep it out.",
      }),
    ];
  }
  if (chemistry.family !== "lithium") return [];
  if (coldest < 0)
    return [
      speak({
        ...base,
        severity: "fix",
        headline: `${pack.name} takes braking energy of ${namesOf(loads)} at ${say(coldest, "temperature")}`,
        detail:
          "Lithium cells must not be charged below freezing: metal plates inside. Coast instead of braking when cold, or burn the energy in a brake resistor.",
        compared: { celsius: coldest, limit: 0 },
      }),
    ];
  if (pack.management !== "inside") return [];
  return unsunk(figures, pack, loads, "Straight off the charger its management board lets nothing in:");
}

const namesOf = (loads: readonly BuiltLoad[]) =>
  loads
    .slice(0, 3)
    .map(({ name }) => name)
    .join(", ");

/** What braking does to a rail whose source takes nothing back; nothing to say where a brake takes it, or too little comes. */
function unsunk(figures: Build, source: BuiltPart, loads: readonly BuiltLoad[], why: string): Verdict[] {
  const base = { part: source, also: loads.map((load) => load.id) };
  const names = namesOf(loads);
  const managed = source.kind === "pack" && !source.diode;
  const unknown = loads.filter(({ brakingJ }) => !brakingJ);
  if (unknown.length > 0) {
    return [
      speak({
        ...base,
        key: "ask",
        severity: "ask",
        headline: `${names}: how much energy comes back when ${loads.length > 1 ? "they brake" : "it brakes"}?`,
        detail: `${why} what braking returns lifts the rail. ½·m·v² of what moves, ½·J·ω² of what turns, m·g·h of what sinks; half to four fifths of it arrives. Enter it with the load, or 0 where it only coasts.`,
      }),
    ];
  }
  const joules = Math.max(...loads.map(({ brakingJ }) => brakingJ?.value ?? 0));
  const open = figures.parts[source.id]?.reachesV ?? setVolts(source);
  const farad = railCapacitance(figures, source.id);
  const bears = weakest(figures, source.id, managed ? Number.POSITIVE_INFINITY : open * TRIPS_FROM);
  const brakes = brakesOn(figures, source.id);
  if (brakes.length > 0) return brakes.flatMap((brake) => judgeBrake(brake, open, joules, bears));
  const rises = farad > 0 ? busAfter(open, joules, farad) : Number.POSITIVE_INFINITY;
  const fine = rises <= bears.volts;
  if (fine && managed) return [];
  return [
    speak({
      ...base,
      severity: fine ? "watch" : "fix",
      headline: fine
        ? `${source.name}: braking lifts its rail to ${say(rises, "voltage", "up")}`
        : Number.isFinite(rises)
          ? `${source.name} cannot take braking energy: its rail rises to ${say(rises, "voltage", "up")}`
          : `${source.name} cannot take the ${say(joules, "energy", "up")} that braking returns`,
      detail: `${why} U₂ = √(U² + 2·E/C) with ${say(joules, "energy", "up")} of the largest stop and ${farad > 0 ? say(farad, "capacitance", "down") : "no capacitor known"}; ${bears.name} bears ${say(bears.volts, "voltage", "down")}. ${
        fine
          ? "Two stops at once bring more."
          : `${Number.isFinite(bears.volts) ? `Holding it there takes ${say(busCapacitance(open, joules, bears.volts), "capacitance", "up")}, or ` : ""}a brake resistor that switches in below that, slower stops${managed ? "" : ", or a battery on the bus"}.`
      }`,
      compared: Number.isFinite(rises) && Number.isFinite(bears.volts) ? { volts: rises, limit: bears.volts } : undefined,
    }),
  ];
}

/** Parts of a rail with a brake resistor or clamp planned on them. */
function brakesOn(figures: Build, origin: string): Braked[] {
  return figures.machine.parts.filter(
    (part): part is Braked =>
      (part.kind === "driver" || part.kind === "bar") && part.brakeOnV !== undefined && railOrigin(figures.ledger, part.id) === origin,
  );
}

/** Above the highest charging voltage by this, so that the charger does not feed the resistor (common practice, no source). */
const ABOVE_CHARGE = 1.03;

/** A planned brake: it switches in above what a charger gives and below what the weakest part bears, and bears one stop. */
function judgeBrake(part: Braked, open: number, joules: number, bears: { volts: number; name: string }): Verdict[] {
  const onV = part.brakeOnV?.value ?? 0;
  const pulse = part.brakePulseJ?.value;
  const found: Verdict[] = [];
  if (onV < open * ABOVE_CHARGE)
    found.push(
      speak({
        part,
        key: "brake-early",
        severity: "fix",
        headline: `${part.name}: its brake is on at ${say(onV, "voltage", "down")}, the rail reaches ${say(open, "voltage", "up")} by itself`,
        detail: `A full pack or its charger then burns in the resistor all the time. It belongs above ${say(open * ABOVE_CHARGE, "voltage", "up")}.`,
        compared: { volts: onV, limit: open * ABOVE_CHARGE },
      }),
    );
  if (onV > bears.volts)
    found.push(
      speak({
        part,
        key: "brake-late",
        severity: "fix",
        headline: `${part.name}: its brake comes at ${say(onV, "voltage", "up")}, ${bears.name} bears ${say(bears.volts, "voltage", "down")}`,
        detail: "It must switch in below what the weakest part on the rail bears, with a tenth to spare.",
        compared: { volts: onV, limit: bears.volts },
      }),
    );
  if (pulse === undefined && joules > 0)
    found.push(
      speak({
        part,
        key: "brake-ask",
        severity: "ask",
        headline: `${part.name}: what energy does its brake bear in one stop?`,
        detail: `The largest stop brings ${say(joules, "energy", "up")}. Resistors of that wattage bear very different pulses: their sheet tells.`,
      }),
    );
  else if (pulse !== undefined && pulse < joules)
    found.push(
      speak({
        part,
        key: "brake-pulse",
        severity: "fix",
        headline: `${part.name}: one stop brings ${say(joules, "energy", "up")}, its brake bears ${say(pulse, "energy", "down")}`,
        detail: "The resistor opens or burns, and then nothing holds the rail down. A larger one, or slower stops.",
        compared: { joules, limit: pulse },
      }),
    );
  return found;
}

/** The part of a rail that bears the least, or the supply's own over-voltage trip. */
function weakest(figures: Build, origin: string, tripsAt: number): { volts: number; name: string } {
  let found = { volts: tripsAt, name: "its over-voltage protection, from 115 % on (from memory)," };
  for (const part of figures.machine.parts) {
    if (part.kind !== "driver" && part.kind !== "load" && part.kind !== "converter") continue;
    if (!part.inputMaxV || railOrigin(figures.ledger, part.id) !== origin || part.inputMaxV.value >= found.volts) continue;
    found = { volts: part.inputMaxV.value, name: part.name };
  }
  return found;
}
