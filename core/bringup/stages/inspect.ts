import { fuseSites } from "../../figures/fuse-sites";
import { wireName } from "../../figures/names";
import { happens, isChassis, isSource } from "../../machine/terminals";
import type { Branch } from "../../network/circuit";
import { nodeAt } from "../../network/circuit";
import { metalOf } from "../../network/metal";
import { capital, say } from "../../quantity/format";
import { FUSE_FAMILIES } from "../../reference/fuses";
import { type Built, built } from "../built";
import { readingU } from "../compare";
import { bareMetal, besides } from "../ohms";
import type { Situation } from "../situation";
import { type Maker, plainStep, probes, shownMost, wirePlace, yesStep } from "../steps";
import type { Stage, Step } from "../types";
import { railAmps, railEnds, railWords } from "./rails";

const STAGE = "inspect";
/** A two-lead meter tells a joined wire by no more than this, Ω (handbook grounding section 9). */
const JOINED_OHM = 0.5;
/** Between rails anything below this is a miswire, Ω (handbook grounding section 9). */
const APART_OHM = 10;
/** What "open" has to be at least, Ω. */
const OPEN_OHM = 1e4;
/** Volts that capacitors may still hold when a meter is set to ohms, V. */
const EMPTY_V = 1;

/** Nothing plugged in, nothing fed, all contacts closed. */
export const UNPOWERED: Situation = {
  id: "unpowered",
  words: "batteries and supplies unplugged, all loads unplugged",
  fedBy: "nothing",
  share: 1,
  plugged: new Set(),
  cells: new Map(),
  open: new Set(),
  warm: false,
};

/** Before anything has power: everything is where the plan has it, and nothing touches what it should not. */
export function inspectStage(maker: Maker): Stage {
  const { figures } = maker;
  const bench = built(figures.machine, UNPOWERED);
  return {
    id: STAGE,
    title: "Nothing connected",
    setUp: "Unplug batteries, supplies and chargers, and pull every load's plug. Zero the meter's leads.",
    supply: [],
    cautions: [
      "Capacitors stay charged after the pack is gone: measure before you touch.",
      "Rings and watches off. Cut or unplug a pack's leads one at a time.",
    ],
    stopWhen:
      "any reading between two rails, or between a rail and its return, that is low and stays low; a plug the wrong way round; a fuse that is not the planned one",
    steps: [
      ...emptySteps(maker),
      ...fuseSteps(maker),
      yesStep({
        stage: STAGE,
        what: "tug",
        title: "Every crimp holds a tug, every stud has its torque mark",
        places: [{ what: "look", at: "every end of every wire" }],
        outside: "Make it again. A crimp that moves now is a joint that burns later.",
        about: [],
      }),
      ...continuitySteps(maker, bench),
      ...apartSteps(maker),
      ...contactSteps(maker, bench),
      ...frameSteps(maker, bench),
    ],
  };
}

function emptySteps({ figures, kit }: Maker): Step[] {
  return figures.machine.parts.filter(isSource).map((source) => {
    return plainStep({
      stage: STAGE,
      grave: true,
      what: `empty ${source.id}`,
      title: `No volts left where ${source.name} is plugged in`,
      quantity: "volts",
      instrument: kit.volts,
      places: probes(figures, { part: source.id, terminal: "+" }, { part: source.id, terminal: "-" }, "at the machine's side of the plug"),
      expect: { kind: "most", limit: shownMost(kit.volts, "volts", EMPTY_V), usual: 0 },
      outside: "Something is still plugged in, or a capacitor is charged. Let it empty through a resistor, never through a screwdriver.",
      about: [source.id],
    });
  });
}

function fuseSteps({ figures }: Maker): Step[] {
  return fuseSites(figures).map((site) =>
    plainStep({
      stage: STAGE,
      grave: true,
      what: `fuse ${site.subject.id}`,
      title: `Fuse of ${site.name.replace(/ feed$/, "'s feed")}`,
      quantity: "rating",
      instrument: "eyes",
      places: [{ what: "look", at: `the amps printed on it (${FUSE_FAMILIES[site.fuse.family].name})` }],
      expect: { kind: "exact", value: site.fuse.ratingA },
      at: { kind: "fuse", subject: site.subject.id },
      outside: "Put the planned one in. A larger fuse lets the wire burn first; a smaller one opens when you need it.",
      about: [site.subject.id],
    }),
  );
}

function continuitySteps({ figures, kit }: Maker, bench: Built): Step[] {
  const { circuit } = bench;
  const metal = bareMetal(bench.circuit, false);
  return figures.machine.wires.flatMap((wire, i): Step[] => {
    const branch = circuit.branches[i] as Branch;
    if (happens(wire) || wire.board) return [];
    const all = metal.between(branch.a, branch.b);
    const beside = besides(all, branch.ohm);
    const meterU = readingU(kit.volts, "ohms", branch.ohm) ?? 0;
    const resistor = wire.resistorOhm?.value;
    const lift =
      beside < 10 * JOINED_OHM && beside < 1e3 * branch.ohm
        ? `lift one end first: other metal joins the two ends with ${say(beside, "resistance")}`
        : undefined;
    return [
      plainStep({
        stage: STAGE,
        what: `wire ${wire.id}`,
        title: capital(`${wireName(figures, wire)}, end to end`),
        quantity: "ohms",
        instrument: kit.volts,
        places: [...probes(figures, wire.from, wire.to, lift), wirePlace(figures, wire, "look")],
        expect:
          resistor === undefined
            ? { kind: "most", limit: Math.max(JOINED_OHM, branch.ohm + meterU), usual: branch.ohm }
            : {
                kind: "band",
                band: { value: branch.ohm, planLow: branch.ohm - resistor * 0.1, planHigh: branch.ohm + resistor * 0.1, meterU },
              },
        at: { kind: "ohms", red: wire.from, black: wire.to, contactsOpen: false },
        outside: "Open: a crimp on insulation, a plug not seated, or the wire ends somewhere else. Follow it by its label.",
        about: [wire.id],
      }),
    ];
  });
}

function apartSteps({ figures, kit }: Maker): Step[] {
  const steps: Step[] = [];
  const rails = figures.ledger.rails;
  const doubt = (limit: number) => readingU(kit.volts, "ohms", limit) ?? 0;
  const metal = metalOf(figures.solved.circuit.nodeCount, figures.solved.circuit.branches);
  rails.forEach((rail, r) => {
    const ends = railEnds(figures, rail);
    if (!ends) return;
    const amps = railAmps(figures, rail);
    const least = amps ? Math.max(rail.volts / amps, 1) : APART_OHM;
    steps.push(
      plainStep({
        stage: STAGE,
        grave: true,
        what: `return ${rail.origin}`,
        title: `${railWords(figures, rail)} against its return`,
        quantity: "ohms",
        instrument: kit.volts,
        places: probes(figures, ends.plus, ends.minus),
        at: { kind: "ohms", red: ends.plus, black: ends.minus, contactsOpen: false },
        expect: { kind: "least", limit: least + doubt(least), open: true },
        outside: `Less than ${say(least, "resistance", "up")} that stays is a short or a part the wrong way round. A reading that climbs is a capacitor filling: wait for it.`,
        about: [rail.origin],
      }),
    );
    const plus = nodeAt(figures.solved.circuit, ends.plus.part, ends.plus.terminal);
    for (const other of rails.slice(r + 1)) {
      const there = railEnds(figures, other);
      // Rails that the plan itself joins have nothing to be kept apart.
      if (!there || metal(plus) === metal(nodeAt(figures.solved.circuit, there.plus.part, there.plus.terminal))) continue;
      steps.push(
        plainStep({
          stage: STAGE,
          grave: true,
          what: `rails ${rail.origin} ${other.origin}`,
          title: `${railWords(figures, rail)} against ${railWords(figures, other)}`,
          quantity: "ohms",
          instrument: kit.volts,
          places: probes(figures, ends.plus, there.plus),
          at: { kind: "ohms", red: ends.plus, black: there.plus, contactsOpen: false },
          expect: { kind: "least", limit: APART_OHM + doubt(APART_OHM), open: true },
          outside: "Two rails touch: a crossed wire, or a plug in the wrong hole. Power would put the higher one on the lower one's parts.",
          about: [rail.origin, other.origin],
        }),
      );
    }
  });
  return steps;
}

function contactSteps({ figures, kit }: Maker, bench: Built): Step[] {
  const steps: Step[] = [];
  const { circuit } = bench;
  const doubt = readingU(kit.volts, "ohms", OPEN_OHM) ?? 0;
  const open = bareMetal(bench.circuit, true);
  for (const part of circuit.switches) {
    const [a, b] = [nodeAt(circuit, part.id, "in"), nodeAt(circuit, part.id, "out")];
    const bypassed = Number.isFinite(open.between(a, b));
    const said = {
      stage: STAGE,
      quantity: "ohms",
      instrument: kit.volts,
      places: probes(figures, { part: part.id, terminal: "in" }, { part: part.id, terminal: "out" }),
      about: [part.id],
    } as const;
    if (!bypassed)
      steps.push(
        plainStep({
          ...said,
          at: { kind: "ohms", red: { part: part.id, terminal: "in" }, black: { part: part.id, terminal: "out" }, contactsOpen: true },
          grave: true,
          what: `opens ${part.id}`,
          title: part.stop ? `${part.name} opens when the stop is pressed` : `${part.name} opens`,
          expect: { kind: "least", limit: OPEN_OHM + doubt, open: true },
          outside: "It is welded, bridged, or something else goes round it. Nothing gets power before it opens.",
        }),
      );
    if (part.coilOhm) continue;
    steps.push(
      plainStep({
        ...said,
        at: { kind: "ohms", red: { part: part.id, terminal: "in" }, black: { part: part.id, terminal: "out" }, contactsOpen: false },
        what: `closes ${part.id}`,
        title: `${part.name} closes`,
        expect: { kind: "most", limit: JOINED_OHM, usual: part.contactOhm?.value ?? null },
        outside: "Burnt contacts, or its two wires sit on the wrong terminals.",
      }),
    );
  }
  return steps;
}

function frameSteps({ figures, kit }: Maker, bench: Built): Step[] {
  const frame = figures.machine.parts.find(isChassis);
  if (!frame) return [];
  const { circuit } = bench;
  const metal = bareMetal(bench.circuit, false);
  return figures.machine.parts.filter(isSource).map((source) => {
    const ohm = metal.between(nodeAt(circuit, frame.id, "bar"), nodeAt(circuit, source.id, "-"));
    const meterU = readingU(kit.volts, "ohms", Number.isFinite(ohm) ? ohm : OPEN_OHM) ?? 0;
    return plainStep({
      stage: STAGE,
      what: `frame ${source.id}`,
      title: `${frame.name} against the minus of ${source.name}`,
      quantity: "ohms",
      instrument: kit.volts,
      places: probes(figures, { part: frame.id, terminal: "bar" }, { part: source.id, terminal: "-" }),
      at: { kind: "ohms", red: { part: frame.id, terminal: "bar" }, black: { part: source.id, terminal: "-" }, contactsOpen: false },
      expect: Number.isFinite(ohm)
        ? ohm > 1
          ? { kind: "band", band: { value: ohm, planLow: ohm * 0.9, planHigh: ohm * 1.1, meterU } }
          : { kind: "most", limit: Math.max(JOINED_OHM, ohm + meterU), usual: ohm }
        : { kind: "least", limit: OPEN_OHM + meterU, open: true },
      outside: "Lower than drawn: a pinched wire, a standoff or a motor's case joins them. Higher: the bond is loose.",
      about: [frame.id],
    });
  });
}
