import { typical } from "@/core/machine/figure";
import type { LinkKind, Machine } from "@/core/machine/schema";
import { groundTerminal, isConsumer } from "@/core/machine/terminals";
import { channelFeeds } from "@/core/network/circuit";
import { randomFrom } from "./random";

const KINDS: readonly LinkKind[] = ["logic", "serial", "i2c", "analogue", "rs485", "can"];

/** The same machine with links between random parts, most with a ground wire of their own, and a frame bonded twice. */
export function talking(machine: Machine, seed: number): Machine {
  const random = randomFrom(seed + 77);
  const pick = <T>(list: readonly T[]): T => list[Math.floor(random() * list.length)] as T;
  const copy = structuredClone(machine);
  const behindDriver = channelFeeds(machine);
  const ends = copy.parts.filter((part) => isConsumer(part) && !behindDriver.has(part.id));
  copy.signals = [];
  const ground = (id: string) => {
    const part = copy.parts.find((each) => each.id === id);
    return { part: id, terminal: (part && groundTerminal(part)) ?? "-" };
  };
  for (let i = 0; i < 6 && ends.length > 1; i++) {
    const [from, to] = [pick(ends), pick(ends)];
    if (from.id === to.id) continue;
    const id = `s${i + 1}`;
    const kind = pick(KINDS);
    copy.signals.push({
      id,
      from: from.id,
      to: to.id,
      kind,
      sender: "lvttl33",
      receiver: "ttl5",
      busV: typical(3.3),
      fullScaleV: typical(5),
      bits: 10,
    });
    if (random() < 0.3) continue;
    copy.wires.push({
      id: `g${i + 1}`,
      role: "signal",
      signal: id,
      from: ground(from.id),
      to: ground(to.id),
      gauge: "26 AWG",
      parallel: 1,
      insulation: "pvc80",
      lengthM: typical(0.3 + random()),
      ...(random() < 0.2 ? { resistorOhm: typical(47) } : {}),
      ...(random() < 0.2 ? { shield: true } : {}),
    });
  }
  copy.parts.push({ id: "frame", name: "Frame", kind: "bar", side: "negative", form: "chassis" });
  for (let i = 0; i < 2; i++) {
    const at = pick(copy.parts.filter((part) => part.kind === "bar" && part.side === "negative" && part.id !== "frame"));
    copy.wires.push({
      id: `b${i + 1}`,
      role: "bond",
      bondBy: "wire",
      from: { part: at.id, terminal: "bar" },
      to: { part: "frame", terminal: "bar" },
      gauge: "10 AWG",
      parallel: 1,
      insulation: "pvc80",
      lengthM: typical(0.4),
    });
  }
  return copy;
}
