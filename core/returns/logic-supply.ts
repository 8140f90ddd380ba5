import type { Build } from "../figures/build";
import type { Figures } from "../figures/figures";
import { applyCommand } from "../machine/apply";
import type { Command } from "../machine/commands";
import { freshId, newPart } from "../machine/defaults";
import type { BuiltPart, Converter, TerminalRef, Wire } from "../machine/schema";
import { isSource } from "../machine/terminals";
import { railOrigin } from "../machine/tree";
import { mainPoint, solvedAs } from "./arrange";
import { linksOf } from "./links";
import { listens, moves, returning, sharedMetal } from "./shared";

/** One way to supply the boards, with what they get and how their grounds stand. */
export interface LogicSupply {
  id: "main pack" | "own pack";
  /** As the plan is now. */
  present: boolean;
  command: Command | null;
  /** Lowest volts at each board over all modes, and the lowest it bears; null where not told. */
  lowest: { part: string; volts: number; mode: number; leastV: number | null }[];
  /** Largest movement of any board's supply between modes, V. */
  swingV: number;
  worstLink: { signal: string; share: number; volts: number } | null;
  worstLiftV: number;
}

/** Resistance taken for a small pack nobody has measured, Ω, and volts it is taken to have where the regulator allows (typical). */
const PACK_OHM = 0.1;
const PACK_V = 12;
/** Length of its tie to the motors' minus, m. */
const TIE_M = 0.3;

function feedsLogicOnly(figures: Build, part: BuiltPart): part is Converter {
  if (part.kind !== "converter" || part.isolated) return false;
  const on = returning(figures).filter((each) => railOrigin(figures.ledger, each.id) === part.id);
  return on.some((each) => listens(each) && each.loadKind !== "sound") && !on.some(moves);
}

/** The wires that feed a converter. */
function feedOf(figures: Build, converter: Converter): { feed: Wire; back: Wire } | null {
  const row = figures.ledger.rowOf.get(converter.id);
  return row?.feed && row.back ? { feed: row.feed, back: row.back } : null;
}

/** Converters that feed boards alone, now fed from what moves motors too. */
function logicConverters(figures: Build, ofMotors: boolean): { converter: Converter; feed: Wire; back: Wire }[] {
  const motors = new Set(
    returning(figures)
      .filter(moves)
      .map((part) => railOrigin(figures.ledger, part.id)),
  );
  return figures.machine.parts.flatMap((part) => {
    if (!feedsLogicOnly(figures, part)) return [];
    const fed = feedOf(figures, part);
    const origin = railOrigin(figures.ledger, part.id);
    return fed && motors.has(origin) === ofMotors ? [{ converter: part, ...fed }] : [];
  });
}

/** A small pack for the boards' regulators, its minus tied to the motors' minus once; null where they already have one. */
export function ownPackFor(figures: Build): Command | null {
  const moved = logicConverters(figures, true);
  const at = mainPoint(figures);
  if (moved.length === 0 || !at) return null;
  const fits = moved.every(
    ({ converter }) => (converter.inputMinV?.value ?? 0) < PACK_V * 0.85 && (converter.inputMaxV?.value ?? PACK_V) > PACK_V * 1.25,
  );
  const main = figures.machine.parts.find(isSource);
  const volts = fits ? PACK_V : main?.kind === "pack" ? main.openCircuitV.value : PACK_V;
  const made = freshId("p", figures.machine.parts);
  const first = moved[0]?.back;
  const commands: Command[] = [
    {
      type: "addPart",
      part: newPart("pack", made, "Logic pack", {
        openCircuitV: { value: volts, provenance: "guess" },
        internalOhm: { value: PACK_OHM, provenance: "typical" },
      }),
    },
    {
      type: "addWire",
      wire: {
        role: "return",
        from: { part: made, terminal: "-" },
        to: at,
        parallel: 1,
        insulation: first?.insulation ?? "pvc80",
        lengthM: { value: TIE_M, provenance: "guess" },
        ...(first?.gauge === undefined ? {} : { gauge: first.gauge }),
      },
    },
    ...moved.flatMap(({ feed, back }): Command[] => [
      { type: "reland", wireId: feed.id, end: "from", at: { part: made, terminal: "+" } },
      { type: "reland", wireId: back.id, end: "to", at: { part: made, terminal: "-" } },
    ]),
  ];
  return { type: "batch", label: "A pack of its own for logic", commands };
}

/** The boards' regulators back on the motors' source. */
export function mainPackFor(figures: Build): Command | null {
  const moved = logicConverters(figures, false);
  const at = mainPoint(figures);
  const bar = figures.machine.parts.find((part) => part.kind === "bar" && part.side === "positive");
  const source = figures.machine.parts.find(isSource);
  if (moved.length === 0 || !at || !source) return null;
  const from: TerminalRef = bar ? { part: bar.id, terminal: "bar" } : { part: source.id, terminal: "+" };
  const commands = moved.flatMap(({ feed, back }): Command[] => [
    { type: "reland", wireId: feed.id, end: "from", at: from },
    { type: "reland", wireId: back.id, end: "to", at },
  ]);
  return { type: "batch", label: "Logic from the main pack", commands };
}

/** Both schools of logic supply, by offset and sag; null where no board hangs on a regulator of its own. */
export function compareLogicSupply(figures: Figures): LogicSupply[] | null {
  const toOwn = ownPackFor(figures);
  const toMain = toOwn ? null : mainPackFor(figures);
  const command = toOwn ?? toMain;
  if (!command) return null;
  const applied = applyCommand(figures.machine, command);
  if (!applied.ok) return null;
  const now = read(figures, toOwn ? "main pack" : "own pack", true, null);
  const then = read(solvedAs(applied.machine), toOwn ? "own pack" : "main pack", false, command);
  return toOwn ? [now, then] : [then, now];
}

function read(figures: Figures, id: LogicSupply["id"], present: boolean, command: Command | null): LogicSupply {
  const lowest: LogicSupply["lowest"] = [];
  let swingV = 0;
  for (const part of returning(figures)) {
    if (!listens(part) || part.loadKind === "sound") continue;
    const figure = figures.parts[part.id];
    if (!figure?.lowestV) continue;
    lowest.push({ part: part.id, ...figure.lowestV, leastV: part.inputMinV?.value ?? null });
    const live = [...figure.volts].filter((_, m) => figure.live[m] === 1);
    if (live.length > 0) swingV = Math.max(swingV, Math.max(...live) - Math.min(...live));
  }
  let worstLink: LogicSupply["worstLink"] = null;
  for (const link of linksOf(figures))
    if (link.worst && link.worst.share > (worstLink?.share ?? -1))
      worstLink = { signal: link.id, share: link.worst.share, volts: link.worst.volts };
  const worstLiftV = Math.max(0, ...sharedMetal(figures).map(({ liftV, mode }) => liftV[mode] ?? 0));
  return { id, present, command, lowest, swingV, worstLink, worstLiftV };
}
