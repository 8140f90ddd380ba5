import type { Load, Part } from "../../machine/schema";
import { isConsumer, isSource } from "../../machine/terminals";
import { LOGIC_FAMILIES } from "../../reference/logic";
import { linksOf } from "../../returns/links";
import { readingU } from "../compare";
import { isLogic, moves, runsFree } from "../situation";
import { ammeter, type Maker, networkStep, plainStep, probes, shownMost, voltsAt, yesStep } from "../steps";
import type { Stage, Step } from "../types";
import { driverParts, feedAmpsStep, inputSteps, logicParts, onBench, railSteps, settingsOf, totalSteps } from "./powered";

const WATCH_IT = "the limit comes on and stays, smell, heat under a finger, or a rail more than 10 % high";

/** The power tree by itself: everything that draws is unplugged. */
export function treeStage(maker: Maker): Stage {
  const whole = onBench(maker, "tree", "bench supply in place of the source, every load unplugged", []);
  const quarter = { ...whole, id: "tree-quarter", share: 0.25 };
  const consumers = maker.figures.machine.parts.filter((part) => isConsumer(part) && part.kind !== "converter");
  const settings = settingsOf(maker, whole);
  const first = maker.figures.machine.parts.filter(isSource).flatMap((source): Step[] => {
    const limitA = settings.find((each) => each.source === source.id)?.limitA ?? 0;
    return [
      plainStep({
        stage: "tree",
        grave: true,
        what: `quarter amps ${source.id}`,
        title: `A quarter of the volts first: amps in place of ${source.name}`,
        quantity: "amps",
        instrument: "supply",
        places: [
          {
            what: "look",
            at: `the bench supply's ammeter, at ${(settings.find((each) => each.source === source.id)?.volts ?? 0) * quarter.share} V`.replace(
              /\.?0+ V/,
              " V",
            ),
          },
        ],
        expect: {
          kind: "most",
          limit: Math.max(0.05, limitA - 0.1),
          usual: maker.stand(quarter).point.emfA[maker.stand(quarter).built.circuit.emfs.findIndex(({ id }) => id === source.id)] ?? 0,
        },
        outside:
          "Off at once. Volts near nothing with the limit on: a short, a capacitor or a part the wrong way round. Then look which feed it is: unplug them one after the other.",
        about: [source.id],
      }),
    ];
  });
  return {
    id: "tree",
    title: "Power tree alone",
    setUp:
      "Loads stay unplugged. Set the bench supply with its output off: volts, current limit, over-voltage trip 10 % above. Raise to a quarter, half, then all of the volts.",
    supply: settings,
    cautions: [
      "A bench supply in place of the pack: it lets go where a pack welds.",
      "One hand where you can; nothing metal on the bench.",
    ],
    stopWhen: WATCH_IT,
    steps: [
      ...first,
      ...totalSteps(maker, "tree", whole),
      ...railSteps(maker, "tree", whole),
      ...inputSteps(maker, "tree", whole, consumers, (name) => `Volts at the open plug of ${name}`),
    ],
  };
}

/** Boards, sensors and radios, and nothing that moves. */
export function logicStage(maker: Maker): Stage | null {
  const parts = logicParts(maker);
  if (parts.length === 0) return null;
  const on = onBench(
    maker,
    "logic",
    "bench supply, logic plugged in, drivers and motors not",
    parts.map(({ id }) => id),
  );
  return {
    id: "logic",
    title: "Logic only",
    setUp:
      "Plug the boards in one after the other, each after its plug showed the right volts and sign. Drivers, motors and the rest stay unplugged.",
    supply: settingsOf(maker, on),
    cautions: ["A computer on USB, a charger or a scope clip is one more path to earth: unplug what the plan does not show."],
    stopWhen: `${WATCH_IT}; a rail that should be dead and shows more than 0.3 V`,
    steps: [...totalSteps(maker, "logic", on), ...inputSteps(maker, "logic", on, parts), ...railSteps(maker, "logic", on)],
  };
}

/** What is on in the stages of drivers and signals. */
function driversOn(maker: Maker) {
  const ids = [...logicParts(maker), ...driverParts(maker)].map(({ id }) => id);
  return onBench(maker, "drivers", "bench supply, logic and drivers plugged in, motor leads off", ids);
}

/** Drivers with nothing on their outputs. */
export function driversStage(maker: Maker): Stage | null {
  const drivers = driverParts(maker);
  if (drivers.length === 0) return null;
  const on = driversOn(maker);
  const off = (part: Part): Step[] => {
    if (part.kind !== "driver") return [];
    return Array.from({ length: part.channels }, (_, i) => {
      const [red, black] = [
        { part: part.id, terminal: `${i + 1}a` },
        { part: part.id, terminal: `${i + 1}b` },
      ];
      return plainStep({
        stage: "drivers",
        grave: true,
        what: `off ${part.id} ${i + 1}`,
        title: `${part.name}, channel ${i + 1}: nothing comes out`,
        quantity: "volts",
        instrument: maker.kit.volts,
        places: probes(maker.figures, red, black),
        expect: { kind: "most", limit: shownMost(maker.kit.volts, "volts", OFF_V), usual: 0 },
        outside:
          "It drives without being told: enable floats, or its input is high at power-up. A motor here would run. Add the pull resistor first.",
        about: [part.id],
      });
    });
  };
  return {
    id: "drivers",
    title: "Drivers, no motors",
    setUp: "Plug the drivers in, motor leads off. Enables off: the emergency stop pressed, or the enable line pulled.",
    supply: settingsOf(maker, on),
    cautions: ["A driver's outputs are live on both legs even when the motor would stand still."],
    stopWhen: "the current jumps when a driver is enabled, or a chip is too hot to touch with nothing on it",
    steps: [
      ...totalSteps(maker, "drivers", on),
      ...inputSteps(maker, "drivers", on, drivers),
      ...drivers.flatMap((part): Step[] => {
        if (part.kind !== "driver" || part.logic === undefined) return [];
        const probe = voltsAt(part.id, "5v", "in-");
        const step = networkStep(maker, on, probe, {
          stage: "drivers",
          what: `logic ${part.id}`,
          title: `Logic volts of ${part.name}`,
          places: probes(maker.figures, probe.red, probe.black),
          outside: "Nothing: its jumper, or the wire from the controller. Too high: its own regulator and the controller's are both on it.",
          about: [part.id],
        });
        return step ? [step] : [];
      }),
      ...drivers.flatMap(off),
    ],
  };
}

/** An output that is off shows less than this, V. */
const OFF_V = 0.5;

/** Links between boards: grounds, then levels. */
export function signalsStage(maker: Maker): Stage | null {
  const { figures, kit } = maker;
  const signals = figures.machine.signals ?? [];
  const on = driversOn(maker);
  const links = new Map(linksOf(figures).map((link) => [link.id, link]));
  const steps = signals.flatMap((signal): Step[] => {
    const [from, to] = [figures.partOf.get(signal.from), figures.partOf.get(signal.to)];
    if (!from || !to || !on.plugged.has(from.id) || !on.plugged.has(to.id)) return [];
    const ground = (part: Part) => ({ part: part.id, terminal: part.kind === "driver" || part.kind === "converter" ? "in-" : "-" });
    const name = `${from.name} to ${to.name}`;
    const allowed = links.get(signal.id)?.allowed;
    const held = allowed?.kind === "held" ? { least: -allowed.steadyBelowV, most: allowed.steadyAboveV } : {};
    const offset = links.get(signal.id)?.joined
      ? networkStep(
          maker,
          on,
          { kind: "volts", red: ground(from), black: ground(to) },
          {
            stage: "signals",
            what: `ground ${signal.id}`,
            title: `Between the grounds of ${name}`,
            places: probes(figures, ground(from), ground(to)),
            outside:
              "Larger than planned: a return on the wrong bar, a loose link, or something shares its way home. Smaller: a shield or the frame is a second way.",
            about: [signal.id, from.id, to.id],
          },
          held,
        )
      : null;
    return [...(offset ? [offset] : []), ...levelSteps(maker, signal.id, name)];
  });
  if (steps.length === 0) return null;
  return {
    id: "signals",
    title: "Signals",
    setUp: "Motor leads stay off. Let each link send low, then high, and measure at the receiver against the receiver's own ground.",
    supply: settingsOf(maker, on),
    cautions: [
      `A scope's ground clip is earth: clip it to the main return only${kit.volts === "bench" ? ", and so may be the bench meter's minus" : ""}.`,
    ],
    stopWhen: "a driver is enabled at power-up, or a link fails when a charger or USB is plugged in",
    steps,
  };
}

function levelSteps({ figures, kit }: Maker, id: string, name: string): Step[] {
  const signal = figures.machine.signals?.find((each) => each.id === id);
  const [sender, receiver] = [signal?.sender, signal?.receiver].map((family) => (family ? LOGIC_FAMILIES[family] : undefined));
  const to = signal && figures.partOf.get(signal.to);
  if (!sender?.out || !receiver?.input || !to) return [];
  const ground = { part: to.id, terminal: to.kind === "driver" ? "in-" : "-" };
  const places = [{ what: "red", at: `the signal pin of ${to.name}` } as const, ...probes(figures, ground, ground).slice(1)];
  const said = { stage: "signals", quantity: "volts", instrument: kit.volts, places, about: [id] } as const;
  // Half of the margin has to stay (handbook grounding section 9).
  const low = (sender.out.low + receiver.input.low) / 2;
  const high = (sender.out.high + receiver.input.high) / 2;
  const outside = "A sender of another family, a wire on the wrong pin, two outputs on one line, or a ground that is not there.";
  return [
    plainStep({
      ...said,
      what: `low ${id}`,
      title: `${name}, sending low`,
      expect: { kind: "most", limit: shownMost(kit.volts, "volts", low), usual: 0 },
      outside,
    }),
    plainStep({
      ...said,
      what: `high ${id}`,
      title: `${name}, sending high`,
      expect: { kind: "least", limit: high + (readingU(kit.volts, "volts", high) ?? 0), open: false },
      outside,
    }),
  ];
}

/** Shares of a motor's volts at which it is first turned. */
const GENTLE = 0.3;
/** What a motor's own current may be, as a factor of the plan's, when it first turns (handbook grounding section 9). */
const FREE_FACTOR = 2;

/** Everything that is not logic, one after the other; motors lifted, from a low voltage upward. */
export function singleStage(maker: Maker): Stage | null {
  const { figures } = maker;
  const base = [...logicParts(maker), ...driverParts(maker)].map(({ id }) => id);
  const rest = figures.machine.parts.filter((part): part is Load => part.kind === "load" && !isLogic(part));
  if (rest.length === 0) return null;
  const ordered = [...rest.filter((part) => !moves(part)), ...rest.filter(moves)];
  const alone = (part: Load) =>
    onBench(maker, `single ${part.id}`, `bench supply, logic and drivers, and ${part.name} alone`, [...base, part.id]);
  const largest = ordered.map(alone).reduce((best, each) => (most(maker, each) > most(maker, best) ? each : best));
  return {
    id: "single",
    title: rest.some(moves) ? "One motor at a time, lifted" : "One load at a time",
    setUp:
      "One load plugged in at a time. Motors turn free: off the ground, belt off, arm held. Begin at a third of the volts and have the stop in your hand.",
    supply: settingsOf(maker, largest),
    cautions: [
      "Lift the machine: nothing that turns touches anything.",
      "Two people from here on. Hair, sleeves and gloves away from what turns.",
      "Stop by coasting: a bench supply cannot take back what a braked motor gives.",
    ],
    stopWhen: "it runs away, turns the wrong way, or stands with the limit on",
    steps: ordered.flatMap((part) => singleSteps(maker, alone(part), part)),
  };
}

function most(maker: Maker, situation: Parameters<Maker["stand"]>[0]): number {
  return Math.max(0, ...maker.stand(situation).limits.values());
}

function singleSteps(maker: Maker, situation: ReturnType<typeof onBench>, part: Load): Step[] {
  const { figures } = maker;
  const steps: Step[] = [];
  const idle = part.levels?.idle?.value;
  const straight = part.loadKind === "motor" || part.loadKind === "actuator";
  if (straight && moves(part)) {
    const amps = idle === undefined ? null : idle * part.count;
    const instrument = ammeter(maker.kit, amps ?? 0);
    const meterU = readingU(instrument, "amps", amps ?? 0) ?? 0;
    steps.push(
      plainStep({
        stage: "single",
        what: `gentle ${part.id}`,
        title: `${part.name} alone on the bench supply, at ${Math.round(GENTLE * part.nominalV.value * 10) / 10} V`,
        quantity: "amps",
        instrument,
        places: [{ what: "clamp", at: `one lead of ${part.name}`, note: "its leads straight on the bench supply, turning free" }],
        expect:
          amps === null
            ? { kind: "ask", missing: `Its no-load current is not known. Read it here: it becomes the plan's figure.` }
            : { kind: "band", band: { value: amps, planLow: amps / FREE_FACTOR, planHigh: amps * FREE_FACTOR, meterU } },
        outside: "Much more: it rubs, it is geared up, or a winding is shorted. Nothing: brushes or a lead.",
        about: [part.id],
        tells: { kind: "level", load: part.id, level: "idle" },
      }),
    );
  }
  const amps = feedAmpsStep(
    maker,
    "single",
    situation,
    part,
    runsFree(part) ? `Amps of ${part.name}, turning free` : `Amps of ${part.name}, on`,
    { kind: "level", load: part.id, level: runsFree(part) ? "idle" : "run" },
  );
  if (amps) steps.push(amps);
  const host = figures.solved.circuit.feeds.get(part.id)?.driver ?? part;
  steps.push(
    ...inputSteps(maker, "single", situation, [host], (name) =>
      host === part ? `Volts at ${name}` : `Volts at ${name}, ${part.name} turning`,
    ),
  );
  if (straight || part.loadKind === "brushless" || part.loadKind === "stepper")
    steps.push(
      yesStep({
        at: { kind: "turns", part: part.id },
        stage: "single",
        grave: true,
        what: `turns ${part.id}`,
        title: `${part.name} turns the planned way, and its sensor counts the same way`,
        places: [{ what: "look", at: part.name }],
        outside: "Swap its two leads, or change the sign in the program, not both. With feedback the wrong sign makes it run away.",
        about: [part.id],
      }),
    );
  return steps;
}

/** Everything on, nothing loaded. */
export function freeStage(maker: Maker): Stage {
  const loads = maker.figures.machine.parts.filter((part) => part.kind === "load" || part.kind === "driver");
  const on = onBench(
    maker,
    "free",
    "bench supply, everything plugged in, motors turning free",
    loads.map(({ id }) => id),
  );
  return {
    id: "free",
    title: "All on, unloaded",
    setUp: "Everything plugged in, motors still lifted. Switch on one after the other, then let all run free together.",
    supply: settingsOf(maker, on),
    cautions: ["Lift the machine. Stop by coasting while the bench supply feeds it."],
    stopWhen: "boards reset, or the bus rises when something stops",
    steps: [
      ...totalSteps(maker, "free", on),
      ...railSteps(maker, "free", on),
      ...inputSteps(maker, "free", on, [...logicParts(maker), ...driverParts(maker)]),
    ],
  };
}
