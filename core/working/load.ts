import { actingLimit, bridgeOf } from "../drivers/channel";
import { type ChannelMode, channelsOf } from "../figures/channels";
import type { Figures } from "../figures/figures";
import { drawIn, estimate, levelOf, MEASURED_MARGIN, piecesOf, readingOf } from "../loads/draw";
import { methodById, whatIsKnown } from "../loads/know";
import { cellWords, levelWord } from "../loads/words";
import type { Cell, Level, LevelName } from "../machine/load-schema";
import type { Load } from "../machine/schema";
import { say } from "../quantity/format";
import { entered, LEAST, SOLVED } from "./inputs";
import type { Working, WorkingInput } from "./types";

const WHY = {
  current: "Running motors draw what their torque asks for, whatever the voltage.",
  resistance: "A stalled motor or heater is a resistance: less voltage, less current.",
  power: "Boards with their own converter draw more as the voltage falls.",
} as const;

function levelInput(load: Load, name: LevelName, level: Level): WorkingInput {
  return entered(`I ${levelWord(load.loadKind, name) ?? name}, one`, level, say(level.value, "current"));
}

/** What the state of a cell stands for, before the voltage has its say: inputs, formula and the planned amps. */
function planOf(load: Load, cell: Exclude<Cell, { state: "off" }>): { inputs: WorkingInput[]; formula: string; numbers: string } {
  if (cell.state === "amps") {
    return {
      inputs: [entered("I entered", cell.amps, say(cell.amps.value, "current"))],
      formula: "I = I_entered",
      numbers: say(cell.amps.value, "current"),
    };
  }
  const name: LevelName = cell.state === "reverse" ? "stall" : cell.state;
  const level = levelOf(load, name);
  const inputs = level ? [levelInput(load, name, level)] : [];
  const amps = say(estimate(load, cell).nominalA, "current");
  const each = level ? say(level.value, "current") : "not known";
  if (cell.state === "idle") return { inputs, formula: "I = n · I_idle", numbers: `${load.count} × ${each} = ${amps}` };
  if (cell.state === "run")
    return {
      inputs,
      formula: "I = n · share · I_rated, never below idle",
      numbers: `${load.count} × ${cell.percent} % × ${each} = ${amps}`,
    };
  const k = piecesOf(load, cell);
  const run = levelOf(load, "run");
  if (k < load.count && run) inputs.push(levelInput(load, "run", run));
  const rest = k < load.count && run ? ` + ${load.count - k} × ${say(run.value, "current")}` : "";
  if (cell.state === "reverse") {
    const idle = load.levels?.idle;
    if (idle) inputs.push(levelInput(load, "idle", idle));
    return {
      inputs,
      formula: "I = I_stall + (I_stall − I_idle): supply and back-EMF add up",
      numbers: `${k} × (2 × ${each} − ${say(idle?.value ?? 0, "current")})${rest} = ${amps}`,
    };
  }
  return {
    inputs,
    formula: k < load.count ? "I = k · I_held + (n − k) · I_run" : "I = n · I_held",
    numbers: `${k} × ${each}${rest} = ${amps}`,
  };
}

/** Amps of a load in a mode: its state, its levels, a reading that stands in, and what voltage and driver make of it. */
export function loadAmps(figures: Figures, load: Load, mode: number): Working {
  const figure = figures.parts[load.id];
  const value = figure?.amps[mode] ?? 0;
  const { settings, modes } = figures.machine;
  const cell = load.cells[modes[mode]?.id ?? ""];
  const title = `${load.name}: amps in ${figures.modes[mode]?.name}`;
  if (!cell || drawIn(load, cell).missing !== null) {
    return {
      title,
      value,
      dimension: "current",
      formula: "not known",
      numbers: cell ? `${cellWords(load, cell)}, but that current is not entered` : "no figure entered for this mode",
      inputs: [],
      source: "",
      notes: ["The sums count it as nothing until it is known."],
    };
  }
  if (cell.state === "off") {
    return {
      title,
      value,
      dimension: "current",
      formula: "I = 0",
      numbers: "off",
      inputs: [{ label: "State", text: "off", known: "setting" }],
      source: "",
      notes: [],
    };
  }
  const plan = planOf(load, cell);
  const notes: string[] = [];
  const byReadings = settings.schools.peakBudget === "measured";
  const measured = byReadings ? readingOf(cell) : cell.measured;
  let { formula, numbers } = plan;
  const inputs = [...plan.inputs];
  if (measured) {
    notes.push(`The estimate would be ${say(estimate(load, cell).nominalA, "current")}; the reading stands in for it.`);
    const margin = byReadings ? MEASURED_MARGIN : 1;
    inputs.push(entered("I read", measured, say(measured.value, "current")));
    formula = margin === 1 ? "I = reading" : `I = ${margin} × reading`;
    numbers =
      margin === 1
        ? say(measured.value, "current")
        : `${margin} × ${say(measured.value, "current")} = ${say(measured.value * margin, "current")}`;
  }
  const draw = drawIn(load, cell, settings.schools.peakBudget);
  const behaves = draw.siemens > 0 ? "resistance" : draw.watts > 0 ? "power" : "current";
  const channel = channelMode(figures, load, mode);
  if (behaves !== "current") {
    inputs.push(entered("U it holds at", load.nominalV, say(load.nominalV.value, "voltage")), {
      label: "U at its terminals",
      text: say(figure?.volts[mode] ?? 0, "voltage"),
      known: "computed",
    });
    if (draw.amps === 0 && channel === null) {
      const [top, bottom] = [say(figure?.volts[mode] ?? 0, "voltage"), say(load.nominalV.value, "voltage")];
      formula += behaves === "resistance" ? ";  I · U / U_n" : ";  I · U_n / U";
      numbers += `;  × ${behaves === "resistance" ? `${top} / ${bottom}` : `${bottom} / ${top}`} = ${say(value, "current")}`;
    } else {
      numbers += `;  solved with its voltage: ${say(value, "current")}`;
    }
  }
  const driver = figures.solved.circuit.feeds.get(load.id)?.driver;
  const limit = driver && actingLimit(driver);
  if (driver && limit !== undefined && draw.siemens > 0 && draw.nominalA > limit)
    notes.push(`${driver.name} limits it to ${say(limit, "current")}.`);
  if (channel && channel.duty < 0.995 && channel.motorA > 0)
    notes.push(
      `The bridge is on ${Math.round(channel.duty * 100)} % of the time: the bus carries ${say(channel.busA, "current")} of it, the motor leads all.`,
    );
  if (load.count > 1) notes.push(`All ${load.count} pieces together.`);
  return { title, value, dimension: "current", formula, numbers, inputs, source: WHY[behaves], notes };
}

function channelMode(figures: Figures, load: Load, mode: number): ChannelMode | null {
  const driver = figures.solved.circuit.feeds.get(load.id)?.driver;
  if (!driver) return null;
  return channelsOf(figures, driver).find((channel) => channel.load.id === load.id)?.modes[mode] ?? null;
}

/** A level a helper wrote: its method again, with the numbers in, its range and what would narrow it. */
export function explainLevel(load: Load, name: LevelName): Working | null {
  const level = load.levels?.[name];
  if (!level) return null;
  const title = `${load.name}: current when it ${levelWord(load.loadKind, name) ?? name}, one piece`;
  const range =
    level.low !== undefined && level.high !== undefined
      ? [`It could be from ${say(level.low, "current", "down")} to ${say(level.high, "current", "up")}.`]
      : [];
  const method = level.basis ? methodById(level.basis.method) : undefined;
  const known = method && level.basis ? whatIsKnown(method, level.basis.inputs, load) : null;
  const outcome = known?.estimates.find((each) => each.level === name);
  const base = { title, value: level.value, dimension: "current" as const };
  if (!method || !known || !outcome || Math.abs(outcome.value - level.value) > 1e-3 * level.value) {
    return {
      ...base,
      formula: "I = as entered",
      numbers: say(level.value, "current"),
      inputs: [entered("I", level, say(level.value, "current"))],
      source: "",
      notes: range,
    };
  }
  const inputs = method.fields.flatMap((field): WorkingInput[] => {
    const given = level.basis?.inputs[field.key];
    if (given === undefined) return [];
    const option = field.options?.find(({ value }) => value === given)?.label;
    const text =
      option ??
      (Array.isArray(given)
        ? given.map((each) => say(each, field.dimension)).join(", ")
        : typeof given === "number"
          ? say(given, field.dimension)
          : given);
    return [{ label: field.label, text, known: level.provenance }];
  });
  return {
    ...base,
    formula: outcome.formula,
    numbers: outcome.numbers,
    inputs,
    source: method.source,
    notes: [...range, `What would narrow it most: ${known.narrow.measure}`, ...known.notes],
  };
}

/** Volts a motor really gets behind its bridge. */
export function motorVolts(figures: Figures, load: Load, mode: number): Working | null {
  const feed = figures.solved.circuit.feeds.get(load.id);
  const channel = channelMode(figures, load, mode);
  const value = figures.parts[load.id]?.volts[mode] ?? 0;
  if (!feed || !channel || !(channel.motorA > 0)) return null;
  const bridge = bridgeOf(feed.driver);
  const input = figures.parts[feed.driver.id]?.volts[mode] ?? 0;
  const drop = say(channel.dropV, "voltage");
  return {
    title: `${load.name}: volts it really gets in ${figures.modes[mode]?.name}`,
    value,
    dimension: "voltage",
    formula: "U = D · U_driver − U_bridge − U_leads;  U_bridge = U_fixed + R_bridge · I",
    numbers: `${channel.duty.toFixed(2)} × ${say(input, "voltage")} − ${drop} − ${say(channel.duty * input - channel.dropV - value, "voltage")} = ${say(value, "voltage")}`,
    inputs: [
      { label: "I of the motor", text: say(channel.motorA, "current"), known: "computed" },
      feed.driver.bridgeOhm
        ? entered("R_bridge", feed.driver.bridgeOhm, say(bridge.ohm, "resistance"))
        : { label: "R_bridge, not known", text: say(bridge.ohm, "resistance"), known: "table" },
      ...(feed.driver.bridgeV ? [entered("U_fixed", feed.driver.bridgeV, say(bridge.dropV, "voltage"))] : []),
    ],
    source: `${SOLVED} Bridge drop as entered; handbook motors-and-drivers section 2, check value CV-20.`,
    notes: [`The bridge turns ${say(channel.heatW, "power")} into heat.`, ...(figures.parts[load.id]?.atLeast[mode] ? [LEAST] : [])],
  };
}
