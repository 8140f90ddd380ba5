import { behindContact } from "../../figures/behind-contact";
import { BLED_V, stopPressed } from "../../figures/contacts";
import type { Pack, Part } from "../../machine/schema";
import { isSource } from "../../machine/terminals";
import { emptyVoltsOf, fullVoltsOf } from "../../packs/pack";
import { readingU } from "../compare";
import { moves, type Situation } from "../situation";
import { type Maker, plainStep, probes, shownMost, voltsAt, yesStep } from "../steps";
import type { Expect, Stage, Step } from "../types";
import { driverParts, feedTerminals, inputSteps, logicParts, onBench, settingsOf } from "./powered";
import { ownSteps } from "./work";

/** How long a stopped rail may take to be harmless, s. */
const STOPPED_S = 60;

/** The emergency stop, and what else may fail. */
export function stopStage(maker: Maker, own: boolean): Stage | null {
  const { figures } = maker;
  const { stops, alive } = stopPressed(figures);
  const loads = figures.machine.parts.filter((part) => part.kind === "load" || part.kind === "driver");
  if (!loads.some(moves)) return null;
  const pressed = onBench(
    maker,
    own ? "stopped own" : "stopped",
    `${own ? "the machine's own source" : "bench supply"}, everything on, the stop pressed`,
    loads.map(({ id }) => id),
    {
      open: new Set(stops.map(({ id }) => id)),
      own,
    },
  );
  const dead = driverParts(maker).filter(({ id }) => !alive.has(id));
  const drill = (what: string, title: string, outside: string): Step =>
    yesStep({
      grave: true,
      stage: "stop",
      what,
      title,
      places: [{ what: "look", at: "the whole machine" }],
      outside,
      about: stops.map(({ id }) => id),
    });
  return {
    id: "stop",
    title: "Emergency stop",
    setUp:
      stops.length > 0
        ? "With everything turning free, press the stop. Then try what may fail, one thing at a time."
        : "The plan has no emergency stop: prove that the main switch stops everything, and try what may fail.",
    supply: own ? [] : settingsOf(maker, pressed),
    cautions: ["What can fall is held before the stop is tried.", "Capacitors stay charged behind an opened contact: wait, then measure."],
    stopWhen: "anything goes on moving, a contact stays closed, or something starts again by itself",
    steps: [
      drill(
        "all",
        "Everything that moves stops when the stop is pressed",
        "Find what still has power: it is fed past the stop, or its driver does not read its enable.",
      ),
      ...dead.map((part) => deadStep(maker, pressed, part)),
      ...stops.flatMap((part): Step[] => {
        const behind = behindContact(figures.solved.circuit, part);
        if (!behind || behind.farads === 0) return [];
        return [
          plainStep({
            stage: "stop",
            what: `bleeds ${part.id}`,
            title: `From the stop until less than ${BLED_V} V is left behind ${part.name}`,
            quantity: "seconds",
            instrument: "watch",
            places: [{ what: "look", at: "the meter on the motor rail" }],
            expect: { kind: "most", limit: shownMost("watch", "seconds", STOPPED_S), usual: null },
            outside: "Add a bleed resistor: someone will touch this rail.",
            about: [part.id],
          }),
        ];
      }),
      ...inputSteps(
        maker,
        "stop",
        pressed,
        logicParts(maker).filter(({ id }) => alive.has(id)),
        (name) => `Stopped: volts at ${name}`,
      ),
      drill(
        "restart",
        "Nothing starts again when the stop is released",
        "Restart has to be asked for: a reset that is pressed on purpose, and a command that begins at zero.",
      ),
      drill("radio", "With the radio off or the host unplugged, everything stops", "Failsafe is to stop, not to hold the last command."),
      drill("unplugged", "With a signal plug pulled, its motor stops", "Its input floats: pull it to off at the driver."),
      drill(
        "dark",
        "With the logic rail switched off, nothing moves",
        "Enables must be off without logic: a pull resistor at each driver.",
      ),
    ],
  };
}

function deadStep(maker: Maker, situation: Situation, part: Part): Step {
  const ends = feedTerminals(part) as { plus: string; minus: string };
  return plainStep({
    at: { kind: "network", situation, probe: voltsAt(part.id, ends.plus, ends.minus) },
    stage: "stop",
    grave: true,
    what: `dead ${part.id}`,
    title: `Volts at ${part.name} a minute after the stop`,
    quantity: "volts",
    instrument: maker.kit.volts,
    places: probes(maker.figures, { part: part.id, terminal: ends.plus }, { part: part.id, terminal: ends.minus }),
    expect: { kind: "most", limit: shownMost(maker.kit.volts, "volts", BLED_V), usual: 0 },
    outside: "The contact did not open, something feeds it past the stop, or its capacitors have no bleed resistor.",
    about: [part.id],
  });
}

/** What a rested pack may show: from nearly empty to full, as entered or by its chemistry and cells. */
function restExpect({ figures: { machine }, kit }: Maker, pack: Pack): Expect {
  const planLow = emptyVoltsOf(pack);
  const planHigh = fullVoltsOf(pack, machine.settings.coldestC);
  if (planLow === null || planHigh === null)
    return {
      kind: "ask",
      missing: `What ${pack.name} shows when full and when nearly empty is not known. Give its chemistry and cells, or both volts.`,
    };
  const value = Math.min(planHigh, Math.max(planLow, pack.openCircuitV.value));
  return { kind: "band", band: { value, planLow, planHigh, meterU: readingU(kit.volts, "volts", planHigh) ?? 0 } };
}

/** The pack, or the machine's own supply, at last. */
export function sourceStage(maker: Maker): Stage {
  const { figures, kit } = maker;
  const packs = figures.machine.parts.filter((part): part is Pack => part.kind === "pack");
  const { steps } = ownSteps(maker);
  const rest = packs.map((pack) => {
    return plainStep({
      stage: "source",
      what: `rest ${pack.id}`,
      title: `${pack.name} by itself, rested`,
      quantity: "volts",
      instrument: kit.volts,
      places: probes(
        figures,
        { part: pack.id, terminal: "+" },
        { part: pack.id, terminal: "-" },
        "at the pack's side of the plug, nothing connected",
      ),
      expect: restExpect(maker, pack),
      grave: true,
      outside:
        "High: its charger is set for another pack; put it outside and do not use it. Low: charge it, and if it does not hold, a cell is weak. A minus sign: its plug is the wrong way round.",
      about: [pack.id],
    });
  });
  const sources = figures.machine.parts.filter(isSource);
  return {
    id: "source",
    title: packs.length > 0 ? "The pack instead of the bench supply" : "Its own supply instead of the bench supply",
    setUp:
      packs.length > 0
        ? "Battery last. Main fuse in, main switch open, first connection through a precharge or a lamp. Then read again what the bench supply had shown: at rest, and with everything turning free."
        : "Plug the machine's own supply in, its mains side as it came. Then read again what the bench supply had shown.",
    supply: [],
    cautions:
      packs.length > 0
        ? [
            "A pack does not limit: a slipped tool welds. Cover what is live, one hand, one lead at a time.",
            "Cut or plug pack leads one at a time, minus last on, minus first off.",
          ]
        : ["Mains inside the supply: its cover stays on. Mains wiring is for local codes and licensed people."],
    stopWhen: "a spark larger than a tick when it is plugged in, or any reading that was right on the bench supply and is not now",
    steps: [
      ...rest,
      yesStep({
        stage: "source",
        grave: true,
        what: "fused",
        title: `The main fuse sits at the plus of ${sources[0]?.name ?? "the source"}, with its cover on`,
        places: [{ what: "look", at: "the plus lead" }],
        outside: "Nothing is plugged in before it is there.",
        about: sources.map(({ id }) => id),
      }),
      ...steps,
    ],
  };
}
