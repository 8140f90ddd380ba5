import type { Command, PartChanges } from "@/core/machine/commands";
import { datasheet as f } from "@/core/machine/figure";
import type { FuseRef, Load, Machine, Part, PartKind, PartOf, TerminalRef, Wire } from "@/core/machine/schema";
import type { Severity } from "@/core/verdicts/types";
import { byBriefHeat, byHeat, guardA, lastingA, loadsOf, partLastingA, type Sound, sound, worse } from "../oracle";

export type Least = Severity | null | ((after: Machine) => Severity | null);
export interface Put {
  place: string;
  command: Command | Machine;
  /** The least that must be said; null: it does no harm here. A function sees the changed machine. */
  least: Least;
  most?: Severity;
}

/** A kind of mistake: every place of a machine it can be made at. */
export interface Kind {
  kind: string;
  puts: (s: Sound) => Put[];
}

export const AWG = ["4/0", "2/0", "1/0", "2", "4", "6", "8", "10", "12", "14", "16", "18", "20", "22", "24", "26", "28", "30"].map(
  (n) => `${n} AWG`,
);
export const RATINGS = [1, 2, 3, 4, 5, 7.5, 10, 15, 20, 25, 30, 35, 40];
export const ELECTRONIC = new Set([
  "board",
  "computer",
  "sensor",
  "radio",
  "display",
  "sound",
  "stepper",
  "brushless",
  "servo",
  "light",
  "fan",
  "other",
]);

export const power = (machine: Machine) =>
  machine.wires.filter(({ role, gauge }) => (role === "supply" || role === "return" || role === "phase") && gauge);
export const wire = (id: string, changes: Partial<Wire>): Command => ({ type: "updateWire", id, changes }) as Command;
export const part = (id: string, changes: PartChanges): Command => ({ type: "updatePart", id, changes });
export const kindOf = <K extends PartKind>(machine: Machine, kind: K): PartOf<K>[] =>
  machine.parts.filter((each): each is PartOf<K> => each.kind === kind);
export const nameOf = (machine: Machine, id: string) => machine.parts.find((each) => each.id === id)?.name ?? id;
export const label = (machine: Machine, { from, to }: Wire) =>
  `${nameOf(machine, from.part)}.${from.terminal} > ${nameOf(machine, to.part)}.${to.terminal}`;
export const highest = ({ figures }: Sound, id: string) => Math.max(figures.parts[id]?.reachesV ?? 0, ...(figures.parts[id]?.volts ?? []));
export const lowest = ({ figures }: Sound, id: string) => figures.parts[id]?.lowestV?.volts ?? Number.POSITIVE_INFINITY;
export const sides = (machine: Machine, side: "positive" | "negative") =>
  kindOf(machine, "bar").filter((bar) => bar.side === side && bar.form !== "chassis");

/** A wire thinner by so many sizes: by what its lasting current, its timed ones and its fuse do to it. */
export const thinner = (steps: number): Kind => ({
  kind: `wire ${steps} sizes thinner`,
  puts: (s) =>
    power(s.machine).flatMap((each) => {
      const gauge = AWG[AWG.indexOf(each.gauge ?? "") + steps];
      if (!AWG.includes(each.gauge ?? "") || !gauge) return [];
      const thin = { ...each, gauge };
      return [
        {
          place: label(s.machine, each),
          command: wire(each.id, { gauge }),
          least: () => {
            const guard = guardA(s.machine, each);
            return worse(
              byHeat(s.machine, thin, lastingA(s, each)),
              byBriefHeat(s, thin),
              Number.isFinite(guard) ? byHeat(s.machine, thin, guard) : null,
            );
          },
        },
      ];
    }),
});

export const fuses = (s: Sound) => power(s.machine).filter((each) => each.fuse);
export const bigger = ({ family, ratingA }: FuseRef, times: number): FuseRef | null => {
  const rating = RATINGS.find((each) => each >= times * ratingA);
  return rating === undefined || !family.startsWith("blade_regular") ? null : { family, ratingA: rating };
};

/** Wires behind a fuse that no further one guards more tightly. */
export function behind(machine: Machine, fused: Wire): Wire[] {
  return power(machine).filter(
    (each) => each.role !== "return" && guardA(machine, each) === fused.fuse?.ratingA && upstream(machine, each).includes(fused.id),
  );
}
export function upstream(machine: Machine, from: Wire): string[] {
  const way: string[] = [];
  for (let at: Wire | undefined = from; at && !way.includes(at.id); ) {
    way.push(at.id);
    const id: string = at.from.part;
    at = machine.wires.find(
      ({ role, to }) =>
        role === "supply" &&
        to.part === id &&
        (to.terminal === "in+" || to.terminal === "bar" || to.terminal === "in" || to.terminal === "+"),
    );
  }
  return way;
}

export function oversized(times: number): Kind {
  return {
    kind: `fuse ${times} times as large`,
    puts: (s) =>
      fuses(s).flatMap((each) => {
        const fuse = each.fuse && bigger(each.fuse, times);
        if (!fuse) return [];
        return [
          {
            place: label(s.machine, each),
            command: { type: "setFuse", wireId: each.id, fuse } as Command,
            least: (after: Machine) => {
              const fused = after.wires.find(({ id }) => id === each.id) as Wire;
              return worse(...behind(after, fused).map((own) => byHeat(after, own, guardA(after, own))));
            },
          },
        ];
      }),
  };
}

/** A driver's or converter's current figure as a share of the most that goes on. */
export const rating = (
  kind: string,
  key: string,
  share: number,
  amps: (s: Sound, each: Part) => number,
  pick: (each: Part) => boolean,
  least: Severity = "fix",
): Kind => ({
  kind,
  puts: (s) =>
    s.machine.parts.filter(pick).flatMap((each) => {
      const now = amps(s, each);
      return now < 0.05
        ? []
        : [{ place: each.name, command: part(each.id, { [key]: f(Number((share * now).toPrecision(3))) } as PartChanges), least }];
    }),
});

export const missing = (kind: string, key: string, pick: (each: Part, s: Sound) => boolean): Kind => ({
  kind,
  puts: (s) =>
    s.machine.parts
      .filter((each) => key in each && pick(each, s))
      .map((each) => ({ place: each.name, command: part(each.id, { [key]: undefined } as PartChanges), least: "ask" })),
});

export const consumers = (machine: Machine) =>
  machine.parts.filter((each) => each.kind === "load" || each.kind === "driver" || each.kind === "converter");
export const onChannel = (machine: Machine, load: Load) => machine.wires.some(({ role, to }) => role === "phase" && to.part === load.id);
export const feedOf = (machine: Machine, id: string) =>
  machine.wires.find(
    ({ role, to }) => (role === "supply" || role === "phase") && to.part === id && (to.terminal === "+" || to.terminal === "in+"),
  );
export const backOf = (machine: Machine, id: string) =>
  machine.wires.find(
    ({ role, from }) => (role === "return" || role === "phase") && from.part === id && (from.terminal === "-" || from.terminal === "in-"),
  );
export const reland = (wireId: string, end: "from" | "to", at: TerminalRef): Command => ({ type: "reland", wireId, end, at });
export const batch = (...commands: Command[]): Command => ({ type: "batch", label: "a mistake", commands });
export const hasWindow = (each: Part): each is PartOf<"load"> | PartOf<"driver"> | PartOf<"converter"> =>
  "inputMaxV" in each && each.inputMaxV !== undefined;

/** Reversed supply: electronics die, a plain motor turns the other way. */
export function reversedHarm(each: Part): Severity | null {
  if (each.kind !== "load") return "stop";
  if (each.loadKind === "heater") return null;
  return ELECTRONIC.has(each.loadKind) || each.loadKind === "coil" ? "stop" : "fix";
}

export const motorAmps = (s: Sound, driver: Part) =>
  Math.max(
    0,
    ...power(s.machine)
      .filter(({ role, from }) => role === "phase" && from.part === driver.id)
      .map((lead) => lastingA(s, lead)),
  );

/** Volts over those a load without a window is meant for. */
export function overVolts(load: Load, volts: number, driven: boolean): Severity | null {
  const share = volts / load.nominalV.value;
  if (driven) return share > 1.3 ? "fix" : null;
  const turning = load.loadKind === "motor" || load.loadKind === "pump" || load.loadKind === "actuator";
  return share > (turning ? 2 : 1.55) ? "stop" : share > 1.3 ? "fix" : null;
}

export function switchA(s: Sound, each: Part): number {
  const wires = s.machine.wires.filter(
    ({ from, to }) => (from.part === each.id && from.terminal === "out") || (to.part === each.id && to.terminal === "out"),
  );
  return wires.reduce((sum, own) => sum + lastingA(s, own), 0);
}
export function barA(s: Sound, each: Part): number {
  const wires = s.machine.wires.flatMap((own, i) =>
    own.from.part === each.id ? [{ i, sign: -1 }] : own.to.part === each.id ? [{ i, sign: 1 }] : [],
  );
  let most = 0;
  s.machine.modes.forEach((mode, m) => {
    if (mode.lastsS !== null) return;
    most = Math.max(
      most,
      wires.reduce((sum, { i, sign }) => sum + Math.max(0, sign * (s.figures.solved.planned[m]?.branchA[i] ?? 0)), 0),
    );
  });
  return most;
}
export function leads(s: Sound, driver: PartOf<"driver">): { out: Wire; back: Wire; motor: string; motorId: string }[] {
  return s.machine.wires.flatMap((out) => {
    if (out.role !== "phase" || out.from.part !== driver.id || out.to.terminal !== "+") return [];
    const back = s.machine.wires.find(({ role, from, to }) => role === "phase" && from.part === out.to.part && to.part === driver.id);
    return back ? [{ out, back, motor: nameOf(s.machine, out.to.part), motorId: out.to.part }] : [];
  });
}
export function feedIn(machine: Machine, id: string): Wire | undefined {
  return machine.wires.find(({ role, to }) => role === "supply" && to.part === id && to.terminal === "in");
}
export function addWire(role: "supply" | "return", from: TerminalRef, to: TerminalRef): Command {
  return { type: "addWire", wire: { role, from, to, gauge: "14 AWG", parallel: 1, insulation: "pvc80", lengthM: f(0.3) } };
}
export function loadsOn(s: Sound, origin: string): Load[] {
  return loadsOf(s.machine).filter(({ id }) => s.figures.ledger.rowOf.get(id)?.rail?.origin === origin);
}
/** Joined through a common minus a higher rail pushes into a lower one: into a battery, or over what its parts bear. */
export function joined(s: Sound, high: string, low: string): Severity | null {
  const { island } = s.figures.solved.wiring;
  const node = (id: string) => s.figures.solved.circuit.emfs.find((emf) => emf.id === id)?.pos ?? 0;
  return island[node(high)] === island[node(low)] ? "stop" : null;
}
export function fromPack(machine: Machine, bare: Wire): boolean {
  const top = upstream(machine, bare).at(-1);
  const first = machine.wires.find(({ id }) => id === top);
  return machine.parts.find(({ id }) => id === first?.from.part)?.kind === "pack";
}
/** A mode's time made longer: by what its currents then do to wires, fuses and sources. */
export function timed(s: Sound, lastsS: number | null): Put[] {
  return s.machine.modes.flatMap((mode) => {
    if (mode.lastsS === null) return [];
    return [
      {
        place: mode.name,
        command: { type: "updateMode", id: mode.id, changes: { lastsS } } as Command,
        least: (after: Machine) => {
          const then = sound(after);
          return worse(
            ...power(after).map((each) => byHeat(after, each, lastingA(then, each))),
            ...power(after).map((each) => (each.fuse && lastingA(then, each) > each.fuse.ratingA ? ("fix" as const) : null)),
            ...after.parts.map(
              (each) =>
                (each.kind === "pack" && each.continuousA && partLastingA(then, each) > 1.01 * each.continuousA.value
                  ? "fix"
                  : null) as Severity | null,
            ),
          );
        },
      },
    ];
  });
}
