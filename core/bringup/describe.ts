import type { Figures } from "../figures/figures";
import { wireName } from "../figures/names";
import type { ReadQuantity } from "../reference/instruments";
import { probes, wirePlace } from "./steps";
import type { Observable, Place } from "./types";

/** A reading in words: what it is called, where its probes go, and how the machine has to stand. */
export interface Described {
  readonly title: string;
  readonly quantity: ReadQuantity;
  readonly places: readonly Place[];
  readonly setUp: string;
}

/** Says what a reading is, for one that is no step of the plan. */
export function inWords(figures: Figures, at: Observable): Described {
  const name = (id: string) => figures.partOf.get(id)?.name ?? id;
  switch (at.kind) {
    case "fuse": {
      const wire = figures.wireOf.get(at.subject);
      const where = wire ? `the ${wireName(figures, wire)}` : name(at.subject);
      return {
        title: `The fuse in ${where}`,
        quantity: "rating",
        places: [{ what: "look", at: "the amps printed on it" }],
        setUp: "Without power.",
      };
    }
    case "turns":
      return {
        title: `${name(at.part)} turns the planned way`,
        quantity: "yes",
        places: [{ what: "look", at: name(at.part) }],
        setUp: "Turning free, lifted.",
      };
    case "ohms": {
      const lifted = (at.lifted ?? []).map((id) => figures.wireOf.get(id)).flatMap((wire) => (wire ? [name(wire.to.part)] : []));
      const places = probes(figures, at.red, at.black);
      return {
        title: `Ohms from ${places[0]?.at} to ${places[1]?.at}${lifted.length > 0 ? `, with the plugs of ${lifted.join(", ")} pulled` : ""}`,
        quantity: "ohms",
        places,
        setUp: `Without power, all loads unplugged${at.contactsOpen ? ", all contacts open" : ""}.`,
      };
    }
    case "network": {
      const { probe, situation } = at;
      const setUp = `${situation.words.charAt(0).toUpperCase()}${situation.words.slice(1)}.`;
      if (probe.kind === "volts") {
        const places = probes(figures, probe.red, probe.black);
        return { title: `Volts from ${places[0]?.at} to ${places[1]?.at}`, quantity: "volts", places, setUp };
      }
      if ("source" in probe)
        return {
          title: `Amps out of ${name(probe.source)}`,
          quantity: "amps",
          places: [{ what: "clamp", at: `the plus lead of ${name(probe.source)}` }],
          setUp,
        };
      const wire = figures.wireOf.get(probe.wire);
      return {
        title: wire ? `Amps in the ${wireName(figures, wire)}` : "Amps",
        quantity: "amps",
        places: wire ? [wirePlace(figures, wire, "clamp")] : [],
        setUp,
      };
    }
  }
}
