import type { Build } from "../../figures/build";
import { railCapacitance } from "../../figures/capacitance";
import type { BuiltLoad, BuiltPart, Part } from "../../machine/schema";
import { isSource } from "../../machine/terminals";
import { railOrigin } from "../../machine/tree";
import { metalOf } from "../../network/metal";
import { say } from "../../quantity/format";
import { chemistryOf } from "../../reference/chemistries";
import { busAfter, busCapacitance } from "../../sources/supply";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Verdict } from "../types";

const speak = speaker({ id: "regeneration", title: "Braking energy has nowhere to go", step: "sources" });

/** Each rail with motors that give energy back: whether anything on it can take it. */
export const regeneration = rule({ speak, reads: "build", evaluate });

/** Over-voltage protection of a supply trips from here, share of its volts (handbook 4.1: 115 to 140 %, from memory). */
const TRIPS_FROM = 1.15;

/** Bank energy below which a few capacitors of the drives themselves take it, J (typical drive bus, common practice). */
const SMALL_J = 0.02;

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
    if (source.kind === "supply" && source.sinks) return [];
    return batteryBeside(figures, origin) ? [] : [noSink(figures, source, loads)];
  });
}

/** Whether a battery that can take current is joined to the same metal. */
function batteryBeside(figures: Build, origin: string): boolean {
  const { circuit } = figures.solved;
  const own = circuit.emfs.find(({ id: emf }) => emf === origin);
  if (!own) return false;
  const metal = metalOf(circuit.nodeCount, circuit.branches);
  return circuit.emfs.some((emf) => {
    const part = figures.partOf.get(emf.id);
    return part?.kind === "pack" && !part.diode && metal(emf.pos) === metal(own.pos);
  });
}

/** A battery takes energy back, unless it is lithium and below freezing. */
function fromPack(figures: Build, pack: Extract<Part, { kind: "pack" }>, loads: readonly BuiltLoad[]): Verdict[] {
  if (pack.chemistry === undefined) return [];
  const chemistry = chemistryOf(pack.chemistry);
  const coldest = Math.min(figures.machine.settings.ambientC, figures.machine.settings.coldestC ?? Number.POSITIVE_INFINITY);
  const names = loads
    .slice(0, 3)
    .map(({ name }) => name)
    .join(", ");
  const base = { part: pack };
  if (chemistry.chargeMaxV === null) {
    return [
      speak({
        ...base,
        severity: "fix",
        headline: `${pack.name}: primary cells, and ${names} charge${loads.length > 1 ? "" : "s"} them when braking`,
        detail: "Cells that must never be charged leak or vent. An ideal diode at the pack and a brake resistor on the bus keep it out.",
      }),
    ];
  }
  if (chemistry.family !== "lithium" || coldest >= 0) return [];
  return [
    speak({
      ...base,
      severity: "fix",
      headline: `${pack.name} takes braking energy of ${names} at ${say(coldest, "temperature")}`,
      detail:
        "Lithium cells must not be charged below freezing: metal plates inside. Coast instead of braking when cold, or burn the energy in a brake resistor.",
      compared: { celsius: coldest, limit: 0 },
    }),
  ];
}

function noSink(figures: Build, source: BuiltPart, loads: readonly BuiltLoad[]): Verdict {
  const base = { part: source, also: loads.map((load) => load.id) };
  const names = loads
    .slice(0, 3)
    .map(({ name }) => name)
    .join(", ");
  const unknown = loads.filter(({ brakingJ }) => !brakingJ);
  if (unknown.length > 0) {
    return speak({
      ...base,
      severity: "ask",
      headline: `${names}: how much energy comes back when ${loads.length > 1 ? "they brake" : "it brakes"}?`,
      detail: `${source.name} cannot take current back, so what braking returns lifts the rail. ½·m·v² of what moves, ½·J·ω² of what turns, m·g·h of what sinks; half to four fifths of it arrives. Enter it with the load, or 0 where it only coasts.`,
    });
  }
  const joules = Math.max(...loads.map(({ brakingJ }) => brakingJ?.value ?? 0));
  const volts =
    isSource(source) && source.kind === "supply" ? source.outputV.value : source.kind === "converter" ? source.outputV.value : 0;
  const open = source.kind === "pack" ? (source.fullV?.value ?? source.openCircuitV.value) : volts;
  const farad = railCapacitance(figures, source.id);
  const bears = weakest(figures, source.id, open * TRIPS_FROM);
  const rises = farad > 0 ? busAfter(open, joules, farad) : Number.POSITIVE_INFINITY;
  const fine = rises <= bears.volts;
  return speak({
    ...base,
    severity: fine ? "watch" : "fix",
    headline: fine
      ? `${source.name}: braking lifts its rail to ${say(rises, "voltage", "up")}`
      : Number.isFinite(rises)
        ? `${source.name} cannot take braking energy: its rail rises to ${say(rises, "voltage", "up")}`
        : `${source.name} cannot take the ${say(joules, "energy", "up")} that braking returns`,
    detail: `U₂ = √(U² + 2·E/C) with ${say(joules, "energy", "up")} of the largest stop and ${farad > 0 ? say(farad, "capacitance", "down") : "no capacitor known"}; ${bears.name} bears ${say(bears.volts, "voltage", "down")}. ${
      fine
        ? "Two stops at once bring more."
        : `Holding it there takes ${say(busCapacitance(open, joules, bears.volts), "capacitance", "up")}, a brake resistor that switches in below that, slower stops, or a battery on the bus.`
    }`,
    compared: Number.isFinite(rises) ? { volts: rises, limit: bears.volts } : undefined,
  });
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
