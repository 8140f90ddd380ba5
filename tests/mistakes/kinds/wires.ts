import type { Command } from "@/core/machine/commands";
import { datasheet as f } from "@/core/machine/figure";
import type { Machine, Wire } from "@/core/machine/schema";
import { INSULATION_C, letThrough, ohmPerM, SHORT_C, withstand } from "../../support/physics";
import { byHeat, guardA, lastingA, worse } from "../oracle";
import { fromPack, fuses, highest, type Kind, label, oversized, power, RATINGS, thinner, wire } from "./support";

/** A wire's withstand from the temperature of its rating on, A²s. */
const bearsOnce = ({ gauge, insulation }: Wire) => withstand(gauge ?? "", INSULATION_C[insulation] ?? 80, SHORT_C[insulation] ?? 160);

/** What is wrong with wires, their fuses and their plugs. */
export const WIRES: readonly Kind[] = [
  thinner(3),
  thinner(5),
  thinner(8),
  {
    kind: "wire ten times as long",
    puts: (s) =>
      power(s.machine).flatMap((each) => {
        if (!each.lengthM || each.role === "phase") return [];
        const more = 9 * each.lengthM.value * ohmPerM(each.gauge ?? "") * lastingA(s, each);
        const load = s.machine.parts.find(({ id }) => id === (each.role === "return" ? each.from.part : each.to.part));
        const rail = load ? highest(s, load.id) : 0;
        const over = load && load.kind !== "driver" && load.kind !== "converter" && rail > 0 && more / rail > 0.06;
        return [
          { place: label(s.machine, each), command: wire(each.id, { lengthM: f(10 * each.lengthM.value) }), least: over ? "fix" : null },
        ];
      }),
  },
  {
    kind: "wire of unknown size",
    puts: (s) =>
      power(s.machine).map((each) => ({ place: label(s.machine, each), command: wire(each.id, { gauge: undefined }), least: "ask" })),
  },
  {
    kind: "wire of unknown length",
    puts: (s) =>
      power(s.machine).map((each) => ({ place: label(s.machine, each), command: wire(each.id, { lengthM: undefined }), least: "ask" })),
  },
  {
    kind: "wire in a bundle of forty",
    puts: (s) =>
      power(s.machine).map((each) => ({
        place: label(s.machine, each),
        command: wire(each.id, { bundle: 40 }),
        least: () => {
          const crowded = { ...each, bundle: 40 };
          const guard = guardA(s.machine, each);
          return worse(byHeat(s.machine, crowded, lastingA(s, each)), Number.isFinite(guard) ? byHeat(s.machine, crowded, guard) : null);
        },
      })),
  },
  oversized(2),
  oversized(5),
  {
    kind: "fuse left out",
    puts: (s) =>
      fuses(s).map((each) => ({
        place: label(s.machine, each),
        command: { type: "setFuse", wireId: each.id, fuse: null } as Command,
        least: (after: Machine) => {
          const bare = after.wires.find(({ id }) => id === each.id) as Wire;
          const guard = guardA(after, bare);
          return Number.isFinite(guard) ? byHeat(after, bare, guard) : fromPack(after, bare) ? "stop" : null;
        },
      })),
  },
  {
    kind: "fuse smaller than what it carries",
    puts: (s) =>
      fuses(s).flatMap((each) => {
        const rating = RATINGS.findLast((a) => a < lastingA(s, each));
        return rating === undefined || !each.fuse?.family.startsWith("blade_regular")
          ? []
          : [
              {
                place: label(s.machine, each),
                command: { type: "setFuse", wireId: each.id, fuse: { ...each.fuse, ratingA: rating } } as Command,
                least: "fix",
              },
            ];
      }),
  },
  {
    kind: "fuse with an AC rating only",
    puts: (s) =>
      fuses(s)
        .filter(({ fuse }) => (fuse?.ratingA ?? 0) <= 10)
        .map((each) => ({
          place: label(s.machine, each),
          command: { type: "setFuse", wireId: each.id, fuse: { family: "cart_5x20_T_glass", ratingA: 6.3 } } as Command,
          least: "ask",
        })),
  },
  {
    kind: "fuse half a metre along its wire",
    puts: (s) =>
      fuses(s).flatMap((each) => {
        if (!each.fuse || (each.lengthM?.value ?? 0) < 0.4) return [];
        const { fuse: _own, ...bare } = each;
        const guard = guardA({ ...s.machine, wires: s.machine.wires.map((w) => (w.id === each.id ? (bare as Wire) : w)) }, bare as Wire);
        const strong = s.machine.parts.some(({ kind }) => kind === "pack") && guard >= 20;
        const burns = !Number.isFinite(guard) || (strong && letThrough("strip", guard) > bearsOnce(each));
        return [
          {
            place: label(s.machine, each),
            command: { type: "setFuse", wireId: each.id, fuse: { ...each.fuse, atM: 0.4 } } as Command,
            least: burns && strong ? "stop" : null,
          },
        ];
      }),
  },
  {
    kind: "plug of a small family",
    puts: (s) =>
      power(s.machine).flatMap((each) => {
        const amps = lastingA(s, each);
        return amps < 2.1
          ? []
          : [
              {
                place: label(s.machine, each),
                command: wire(each.id, { toEnd: { family: "crimp254" } }),
                least: amps > 2 * Math.SQRT2 ? "stop" : "fix",
              },
            ];
      }),
  },
  {
    kind: "solid wire across a joint",
    puts: (s) =>
      power(s.machine)
        .filter(({ pair }) => pair === undefined)
        .map((each) => ({
          place: label(s.machine, each),
          command: wire(each.id, { moves: true, strand: "solid", relief: true }),
          least: "stop",
        })),
  },
];
