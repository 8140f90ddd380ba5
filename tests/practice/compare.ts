import { draftAtOnce } from "@/core/drafting/draft";
import { readList } from "@/core/drafting/read-list";
import type { WholeMachine } from "./machines";
import { type Compared, copperKg, gaugeOff, mainFuse, mainWires } from "./measure";

/** A choice of a drafted machine against what practice accepts, with the place it was made. */
export interface Placed extends Omit<Compared, "what"> {
  readonly where: string;
  readonly what: Compared["what"] | "copper";
}

/** All choices of a whole machine of the practice chapter. */
export function comparedMachine({ name, lines, main, mainGauge, feeds, copperKg: [least, most] }: WholeMachine): Placed[] {
  const { machine } = draftAtOnce(readList(lines), { name });
  const found: Placed[] = [];
  const range = (low: string | number, high: string | number) => `${low} to ${high}`;
  const outside = (value: number, low: number, high: number) => (value > high ? value / high - 1 : value < low ? value / low - 1 : 0);
  const fuse = mainFuse(machine);
  if (main)
    found.push({ where: name, what: "main fuse", got: `${fuse ?? "none"} A`, accepted: range(...main), off: outside(fuse ?? 0, ...main) });
  for (const wire of mainWires(machine).slice(0, 1))
    found.push({ where: name, what: "main gauge", got: wire.gauge ?? "?", accepted: range(...mainGauge), off: gaugeOff(wire, mainGauge) });
  for (const { to, fuse: own, gauge } of feeds) {
    const wire = machine.wires.find(
      ({ role, to: end }) =>
        role === "supply" && machine.parts.some(({ id, name: part, kind }) => id === end.part && kind !== "bar" && to.test(part)),
    );
    const where = `${name}: ${to.source}`;
    if (!wire) found.push({ where, what: "feed gauge", got: "no such feed", accepted: "", off: Number.NaN });
    else {
      if (wire.fuse)
        found.push({
          where,
          what: "feed fuse",
          got: `${wire.fuse.ratingA} A`,
          accepted: range(...own),
          off: outside(wire.fuse.ratingA, ...own),
        });
      found.push({ where, what: "feed gauge", got: wire.gauge ?? "?", accepted: range(...gauge), off: gaugeOff(wire, gauge) });
    }
  }
  const copper = copperKg(machine);
  found.push({
    where: name,
    what: "copper",
    got: `${copper.toFixed(3)} kg`,
    accepted: range(least, most),
    off: outside(copper, least, most),
  });
  return found;
}

/** How many of the choices of each sort are inside, and the furthest outside. */
export function summary(found: readonly Pick<Placed, "what" | "off">[]): string {
  const lines = [...new Set(found.map(({ what }) => what))].map((what) => {
    const own = found.filter((each) => each.what === what);
    const inside = own.filter(({ off }) => off === 0).length;
    const offs = own.map(({ off }) => off);
    return `${what.padEnd(12)} ${inside} of ${own.length} inside (${Math.round((100 * inside) / own.length)} %), furthest ${Math.min(0, ...offs).toFixed(2)} to +${Math.max(0, ...offs).toFixed(2)}`;
  });
  const inside = found.filter(({ off }) => off === 0).length;
  return [...lines, `all          ${inside} of ${found.length} inside (${Math.round((100 * inside) / Math.max(1, found.length))} %)`].join(
    "\n",
  );
}
