import { perBuild } from "../../figures/build";
import { excessOf } from "../../figures/excess";
import type { Figures } from "../../figures/figures";
import { groupBy } from "../../machine/group";
import type { Part } from "../../machine/schema";
import { groundTerminal, isConsumer } from "../../machine/terminals";
import { say } from "../../quantity/format";
import { bearsFor, CONTACT_PEAK } from "../../wires/brief";
import { landingsBeside } from "../link-remedies";
import { rule } from "../rule";
import { speaker } from "../speaker";
import type { Remedy, Verdict } from "../types";

const speak = speaker({
  id: "board-ground",
  title: "Others' returns through a board's ground copper",
  step: "returns",
  needs: "Returns that do not come home through the board.",
});

/**
 * Returns that land on a board, driver or converter go through its ground copper from pin to pin. That is thin: a pin and a
 * trace bear an amp or two, and what a motor sends there lifts the board's own ground or burns the trace.
 */
export const boardGround = rule({ speak, reads: "figures", evaluate });

/** What any board's ground pins bear from one to the other, A, and what hardly any does (typical, from memory). */
const ANY_BOARD_A = 0.5;
const HARDLY_ANY_A = 3;
/** Rise of a trace at its rating and its power of the current (IPC-2221: I ~ ΔT^0.44); copper lifts off from about 100 K on. */
const TRACE_RISE_K = 20;
const TRACE_POWER = 1 / 0.44;
const LIFTS_K = 100;

function evaluate(figures: Figures): Verdict[] {
  return figures.machine.parts.flatMap((part): Verdict[] => (isConsumer(part) ? judge(figures, part) : []));
}

/** Wires of others that land on each part's ground terminal, by index; its own outputs come home by its own minus and are meant to. */
const landings = perBuild(({ machine, ledger, partOf }): ReadonlyMap<string, readonly number[]> => {
  const all = machine.wires.map((wire, branch) => ({ wire, branch }));
  const onGround = groupBy(all, ({ wire: { role, from, to } }) => {
    const part = role === "return" ? partOf.get(to.part) : undefined;
    if (!part || to.terminal !== groundTerminal(part)) return undefined;
    // What the part itself feeds, from its 5 V pin or as a converter, is its own to bring home.
    return ledger.rowOf.get(from.part)?.feed?.from.part === part.id ? undefined : part.id;
  });
  return new Map([...onGround].map(([id, wires]) => [id, wires.map(({ branch }) => branch)]));
});

function judge(figures: Figures, part: Extract<Part, { kind: "load" | "driver" | "converter" }>): Verdict[] {
  const wires = landings(figures).get(part.id);
  if (!wires) return [];
  const rated = part.groundA?.value;
  const limit = rated ?? ANY_BOARD_A;
  const most = wires.reduce((sum, i) => sum + (figures.wires[figures.machine.wires[i]?.id ?? ""]?.worst.amps ?? 0), 0);
  if (most <= limit) return [];
  const { lasting, brief } = excessOf(
    figures,
    (point) => Math.abs(wires.reduce((sum, i) => sum + (point.branchA[i] as number), 0)),
    (seconds) => bearsFor(seconds, limit, CONTACT_PEAK * limit),
  );
  const worst = lasting && (!brief || lasting.share >= brief.share) ? lasting : brief;
  if (!worst || worst.share <= 1) return [];
  const from = [...new Set(wires.map((i) => figures.machine.wires[i]?.from.part ?? ""))];
  const names = from.map((id) => figures.partOf.get(id)?.name ?? "").join(", ");
  const riseK = TRACE_RISE_K * worst.share ** TRACE_POWER;
  const amps = say(worst.amps, "current", "up");
  const remedies: Remedy[] = from.slice(0, 2).flatMap((id) => landingsBeside(figures, id, part.id));
  if (rated === undefined)
    return [
      speak({
        part,
        key: "ask",
        severity: worst.amps > HARDLY_ANY_A ? "fix" : "ask",
        also: from,
        headline:
          worst.amps > HARDLY_ANY_A
            ? `${part.name}: ${amps} of ${names} come home through its ground`
            : `${part.name}: what may its ground carry from pin to pin?`,
        detail: `${amps} that ${names} send back go through its copper in ${figures.modes[worst.mode]?.name}. Pins and traces of boards bear an amp or two (typical, from memory), and its own ground moves with it. Land them on a bar, or enter what its ground carries.`,
        remedies,
      }),
    ];
  return [
    speak({
      part,
      severity: riseK > LIFTS_K ? "stop" : "fix",
      also: from,
      headline: `${part.name}: ${amps} of ${names} through its ground, which carries ${say(worst.limitA, "current", "down")}`,
      detail: `In ${figures.modes[worst.mode]?.name} its ground copper rises by about ${Math.ceil(riseK)} K${riseK > LIFTS_K ? " and burns off the board" : ", and its own ground moves with it"}. Land them on a bar beside it.`,
      compared: { amps: worst.amps, limit: worst.limitA },
      remedies,
    }),
  ];
}
