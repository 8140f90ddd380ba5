import { newMachine, newPart } from "@/core/machine/defaults";
import { typical } from "@/core/machine/figure";
import type { Cell, Machine, Part, TerminalRef, Wire } from "@/core/machine/schema";
import { randomFrom } from "./random";

export interface GenerateOptions {
  parts: number;
  seed: number;
  modes?: number;
  /** Extra ties between return bars and boards, so that the ground side is meshed. */
  meshed?: boolean;
  converters?: boolean;
  /** Only constant-current and resistive loads, no converters: the network is linear. */
  linear?: boolean;
  /** Motors by their states, drivers that chop, limit and drop volts, and regulators on their boards. */
  driven?: boolean;
}

const SIZES = ["18 AWG", "16 AWG", "14 AWG", "12 AWG", "10 AWG", "1.5 mm²", "2.5 mm²", "4 mm²"];

/** A valid machine of about `parts` parts: a pack, main switch and fuse, bars, then drivers, motors, converters, boards. */
export function generateMachine(options: GenerateOptions): Machine {
  const random = randomFrom(options.seed);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const between = (low: number, high: number) => low + random() * (high - low);
  const machine = newMachine(`Generated ${options.seed}`);
  machine.modes = Array.from({ length: options.modes ?? 3 }, (_, i) => ({
    id: `m${i + 1}`,
    name: `Mode ${i + 1}`,
    lastsS: i % 3 === 2 ? 2 : null,
  }));
  const parts: Part[] = machine.parts;
  const wires: Wire[] = machine.wires;
  const scale = Math.max(1, options.parts / 40);

  const wire = (role: Wire["role"], from: TerminalRef, to: TerminalRef, gauge: string, pair?: string): string => {
    const id = `w${wires.length + 1}`;
    wires.push({
      id,
      role,
      from,
      to,
      gauge,
      parallel: 1,
      insulation: "pvc80",
      lengthM: typical(between(0.2, 2.5)),
      ...(pair ? { pair } : {}),
    });
    return id;
  };
  const add = <P extends Part>(part: P): P => {
    parts.push(part);
    return part;
  };
  const nextId = () => `p${parts.length + 1}`;
  const at = (part: Part | string, terminal: string): TerminalRef => ({ part: typeof part === "string" ? part : part.id, terminal });
  const cells = (amps: number) =>
    Object.fromEntries(
      machine.modes.map((mode) => [
        mode.id,
        random() < 0.15 ? { state: "off" as const } : { state: "amps" as const, amps: typical(amps * between(0.2, 1.2)) },
      ]),
    );

  const pack = add(
    newPart("pack", nextId(), "Pack", {
      openCircuitV: typical(26),
      lowV: typical(24.5),
      fullV: typical(29),
      internalOhm: typical(0.008 / scale),
      continuousA: typical(Math.min(2000, 200 * scale)),
    }),
  );
  const main = add(newPart("switch", nextId(), "Main switch"));
  const fuse = add(newPart("fuse", nextId(), "Main fuse", { fuse: { family: "strip_m8_32v", ratingA: 200 } }));
  wire("supply", at(pack, "+"), at(fuse, "in"), "1/0 AWG");
  wire("supply", at(fuse, "out"), at(main, "in"), "1/0 AWG");
  const bars: Part[] = [];
  const grounds: Part[] = [];
  const barCount = 1 + Math.floor(options.parts / 25);
  for (let i = 0; i < barCount; i++) {
    const bar = add(newPart("bar", nextId(), `Bar P${i + 1}`));
    const ground = add(newPart("bar", nextId(), `Bar N${i + 1}`, { side: "negative" }));
    wire("supply", i === 0 ? at(main, "out") : at(pick(bars), "bar"), at(bar, "bar"), "1/0 AWG");
    wire("return", at(ground, "bar"), i === 0 ? at(pack, "-") : at(pick(grounds), "bar"), "1/0 AWG");
    bars.push(bar);
    grounds.push(ground);
  }
  /** Gives a driver and its motor what only some have: a duty, a limit, a fixed drop, a regulator with a board on it. */
  const animate = (driver: Extract<Part, { kind: "driver" }>, motor: Extract<Part, { kind: "load" }>) => {
    const run = between(0.5, 6);
    motor.behaviour = "current";
    motor.levels = { idle: typical(run * 0.2), run: typical(run), stall: typical(run * between(3, 7)) };
    const chopped = () => (random() < 0.5 ? { duty: between(0.15, 1) } : {});
    motor.cells = Object.fromEntries(
      machine.modes.map((mode): [string, Cell] => {
        const roll = random();
        if (roll < 0.2) return [mode.id, { state: "idle" }];
        if (roll < 0.6) return [mode.id, { state: "run", percent: between(20, 150), ...chopped() }];
        return [mode.id, roll < 0.8 ? { state: "stall", ...chopped() } : { state: roll < 0.95 ? "start" : "reverse" }];
      }),
    );
    if (random() < 0.4) driver.limitA = typical(run * between(1, 3));
    if (random() < 0.4) driver.bridgeV = typical(between(0.5, 2));
    if (random() < 0.3) driver.dutyCap = typical(between(0.3, 0.9));
    if (random() > 0.4) return;
    driver.logic = "onboard";
    driver.logicA = typical(0.02);
    driver.onboard = {
      outputV: typical(5),
      inputMinV: typical(7),
      inputMaxV: typical(30),
      outputA: typical(1),
      type: random() < 0.5 ? "linear" : "buck",
      jumper: "in",
    };
    const brain = add(
      newPart("load", nextId(), `Brain ${parts.length}`, {
        loadKind: "board",
        behaviour: random() < 0.5 ? "power" : "current",
        nominalV: typical(5),
        cells: cells(between(0.05, 0.4)),
      }),
    );
    const feed = wire("supply", at(driver, "5v"), at(brain, "+"), "22 AWG");
    wire("return", at(brain, "-"), random() < 0.5 ? at(driver, "in-") : ground(), "22 AWG", feed);
    if (random() < 0.5) return;
    const probe = add(newPart("load", nextId(), `Probe ${parts.length}`, { loadKind: "sensor", nominalV: typical(5), cells: cells(0.02) }));
    const lead = wire("supply", at(brain, "5v"), at(probe, "+"), "24 AWG");
    wire("return", at(probe, "-"), at(brain, "-"), "24 AWG", lead);
  };

  const converters: Part[] = [];
  const boards: Part[] = [];
  const ground = () => at(pick(grounds), "bar");
  while (parts.length < options.parts) {
    const roll = random();
    const size = pick(SIZES);
    if (options.converters !== false && !options.linear && (roll < 0.12 || converters.length === 0)) {
      const chained = converters.length > 0 && random() < 0.25;
      const outputV = chained ? 5 : pick([12, 12, 6, 5]);
      const parent = chained ? converters.find((each) => each.kind === "converter" && each.outputV.value === 12) : undefined;
      const converter = add(
        newPart("converter", nextId(), `Converter ${parts.length}`, {
          outputV: typical(outputV),
          isolated: random() < 0.25,
          efficiency: typical(between(0.8, 0.95)),
          outputOhm: typical(between(0.005, 0.03)),
          ratedA: typical(20),
        }),
      );
      const supply = wire("supply", parent ? at(parent, "out+") : at(pick(bars), "bar"), at(converter, "in+"), size);
      wire("return", at(converter, "in-"), parent ? at(parent, "out-") : ground(), size, supply);
      converters.push(converter);
    } else if (roll < 0.5 && converters.length > 0) {
      const converter = pick(converters);
      const volts = converter.kind === "converter" ? converter.outputV.value : 5;
      const board = add(
        newPart("load", nextId(), `Board ${parts.length}`, {
          loadKind: "board",
          behaviour: random() < 0.6 ? "power" : "current",
          nominalV: typical(volts),
          cells: cells(between(0.05, 1.2)),
        }),
      );
      const supply = wire("supply", at(converter, "out+"), at(board, "+"), size);
      const shared = converter.kind === "converter" && !converter.isolated && random() < 0.4;
      wire("return", at(board, "-"), shared ? ground() : at(converter, "out-"), size, supply);
      if (options.meshed && random() < 0.5 && converter.kind === "converter" && !converter.isolated) {
        wire("return", at(board, "-"), ground(), "22 AWG");
      }
      boards.push(board);
    } else {
      const driver = add(newPart("driver", nextId(), `Driver ${parts.length}`, { channels: 1, bridgeOhm: typical(between(0.01, 0.05)) }));
      const supply = wire("supply", at(pick(bars), "bar"), at(driver, "in+"), size);
      const line = wires.at(-1);
      if (line && random() < 0.7) line.fuse = { family: "blade_regular_32v", ratingA: pick([10, 15, 20, 25, 30]) };
      wire("return", at(driver, "in-"), ground(), size, supply);
      const motor = add(
        newPart("load", nextId(), `Motor ${parts.length}`, {
          behaviour: options.linear || random() < 0.7 ? (random() < 0.8 ? "current" : "resistance") : "power",
          nominalV: typical(24),
          cells: cells(between(0.5, 9)),
        }),
      );
      const lead = wire("phase", at(driver, "1a"), at(motor, "+"), size);
      wire("phase", at(motor, "-"), at(driver, "1b"), size, lead);
      if (options.meshed && random() < 0.3) wire("return", at(driver, "in-"), ground(), "20 AWG");
      if (options.driven) animate(driver, motor);
    }
  }
  if (options.meshed) {
    for (let i = 2; i < grounds.length; i++) {
      wire("return", at(grounds[i] as Part, "bar"), at(grounds[i - 2] as Part, "bar"), "6 AWG");
      if (wires.at(-1)?.from.part === wires.at(-1)?.to.part) wires.pop();
    }
  }
  return machine;
}
