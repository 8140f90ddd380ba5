import type { Machine } from "../machine/schema";
import { nominalOf } from "../machine/tree";
import { editText } from "../quantity/format";

const several = (n: number, one: string, many = `${one}s`) => `${n} ${n === 1 ? one : many}`;

function listed(words: readonly string[]): string {
  if (words.length < 2) return words[0] ?? "";
  return `${words.slice(0, -1).join(", ")} and ${words.at(-1)}`;
}

/** A plan in one line: its volts, drivers, converters, fuses, wires. */
export function planWords(machine: Machine): string {
  const of = (kind: Machine["parts"][number]["kind"]) => machine.parts.filter((part) => part.kind === kind);
  const volts = Math.max(
    0,
    ...machine.parts.map((part) =>
      part.kind === "pack" ? nominalOf(part.openCircuitV.value) : part.kind === "supply" ? part.outputV.value : 0,
    ),
  );
  const drivers = of("driver").length;
  const rails = machine.parts.flatMap((part) => (part.kind === "converter" ? [part.outputV.value] : []));
  const fuses = of("fuse").length + machine.wires.filter(({ fuse }) => fuse !== undefined).length;
  const converters =
    rails.length === 0
      ? []
      : [`${listed([...new Set(rails)].sort((a, b) => b - a).map((each) => `a ${editText(each, "voltage")}`))} converter`];
  const with_ = [
    ...(drivers > 0 ? [several(drivers, "driver")] : []),
    ...converters,
    several(fuses, "fuse"),
    several(machine.wires.length, "wire"),
  ];
  return `A ${editText(volts, "voltage")} plan with ${listed(with_)}`;
}
