import type { Chip, ReadLine } from "./reading";

/** Before what a figure stands when it is added to a line. */
const LEADS: Readonly<Partial<Record<Chip["key"], string>>> = {
  idle: "idle ",
  start: "start ",
  stall: "stall ",
  run: "run ",
  phase: "",
  length: "",
};

/**
 * A line with one of its chips corrected: what the chip was read from is written anew, or what was missing is added behind.
 * The list stays the one place where everything stands.
 */
export function corrected(
  { text: typedText, sentence }: Pick<ReadLine, "text" | "sentence">,
  chip: Pick<Chip, "key" | "at">,
  typed: string,
): string {
  const value = typed.trim();
  if (value === "") return typedText;
  // A row has no cell for it: then the row becomes the sentence it stands for.
  const text = chip.at === null && sentence !== undefined ? sentence : typedText;
  if (sentence !== undefined && chip.at !== null) return `${text.slice(0, chip.at.start)}${value}${text.slice(chip.at.end)}`;
  if (chip.key === "kind") {
    const label = /^\s*[^\d:]{2,40}:\s*/.exec(text);
    return label && chip.at !== null && chip.at.end <= label[0].length
      ? `${value}: ${text.slice(label[0].length)}`
      : `${value}: ${text.trim()}`;
  }
  if (chip.at !== null) return `${text.slice(0, chip.at.start)}${value}${text.slice(chip.at.end)}`;
  if (chip.key === "count") return `${value} x ${text.trim()}`;
  const lead = LEADS[chip.key] ?? "";
  const figure = /^[\d.,]+$/.test(value) && UNIT[chip.key] !== undefined ? `${value} ${UNIT[chip.key]}` : value;
  return `${text.trimEnd()}${sentence === undefined ? "," : ""} ${/^[a-z]/i.test(figure) || lead === "" ? "" : lead}${figure}`;
}

const UNIT: Readonly<Partial<Record<Chip["key"], string>>> = {
  volts: "V",
  run: "A",
  idle: "A",
  start: "A",
  stall: "A",
  capacity: "Ah",
  length: "m",
  watts: "W",
};
