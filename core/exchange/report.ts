import type { Analysis } from "../analysis/types";
import { faultWalk } from "../faults/walk";
import { deviceName, placeName } from "../faults/words";
import type { Figures } from "../figures/figures";
import type { Machine } from "../machine/schema";
import { terminalKey } from "../machine/terminals";
import { say } from "../quantity/format";
import type { Settlement } from "../settling/settle";
import type { SizePlan } from "../sizing/plan";
import { openAndDecided } from "../verdicts/decided";
import { SEVERITY_WORDS } from "../verdicts/types";

/** What `ledger check --json` prints. Currents in A (wires: signed along from → to), volts in V, heat in W, by mode id. */
export interface CheckReport {
  machine: { name: string; parts: number; wires: number };
  modes: { id: string; name: string; lastsS: number | null; sourceA: number; collapsed: boolean; atLeast: boolean }[];
  nodes: { part: string; name: string; amps: Record<string, number>; volts: Record<string, number | null> }[];
  wires: {
    id: string;
    role: string;
    from: string;
    to: string;
    amps: Record<string, number>;
    dropV: Record<string, number>;
    heatW: Record<string, number>;
    limitA: number | null;
    atLeast: boolean;
  }[];
  verdicts: {
    rule: string;
    severity: string;
    subject: string;
    headline: string;
    value: number | null;
    limit: number | null;
    unit: string | null;
  }[];
}

/** What `ledger check --json` prints. */
export function checkReport(machine: Machine, analysis: Analysis): CheckReport {
  const byMode = <T>(at: (mode: number) => T): Record<string, T> => Object.fromEntries(machine.modes.map((mode, m) => [mode.id, at(m)]));
  return {
    machine: { name: machine.name, parts: machine.parts.length, wires: machine.wires.length },
    modes: machine.modes.map(({ id, name, lastsS }, m) => {
      const figure = analysis.modes[m];
      return { id, name, lastsS, sourceA: figure?.sourceA ?? 0, collapsed: figure?.collapsed ?? false, atLeast: figure?.atLeast ?? false };
    }),
    nodes: machine.parts.map((part) => {
      const figure = analysis.parts[part.id];
      return {
        part: part.id,
        name: part.name,
        amps: byMode((m) => figure?.amps[m] ?? 0),
        volts: byMode((m) => (figure?.live[m] ? (figure.volts[m] ?? null) : null)),
      };
    }),
    wires: machine.wires.map((wire) => {
      const figure = analysis.wires[wire.id];
      return {
        id: wire.id,
        role: wire.role,
        from: terminalKey(wire.from),
        to: terminalKey(wire.to),
        amps: byMode((m) => figure?.amps[m] ?? 0),
        dropV: byMode((m) => figure?.dropV[m] ?? 0),
        heatW: byMode((m) => figure?.heatW[m] ?? 0),
        limitA: figure?.limitA ?? null,
        atLeast: figure?.atLeast.some((flag) => flag === 1) ?? false,
      };
    }),
    verdicts: analysis.verdicts.map(({ rule, severity, subject, headline, value, limit, unit }) => ({
      rule,
      severity,
      subject: `${subject.kind} ${subject.id}`,
      headline,
      value: value ?? null,
      limit: limit ?? null,
      unit: unit ?? null,
    })),
  };
}

/** Verdicts as a plain-text table for a terminal, worst first. */
export function verdictTable(machine: Machine, analysis: Analysis): string {
  const { verdicts, modes } = analysis;
  const collapsed = modes.filter((mode) => mode.collapsed).map((mode) => mode.name);
  const head = `${machine.name}: ${machine.parts.length} parts, ${machine.wires.length} wires, ${modes.length} modes`;
  if (verdicts.length === 0) {
    const empty =
      machine.parts.length === 0
        ? "Nothing is in the plan yet."
        : "Clear: no rule found anything, and no figure is missing that could change that.";
    return `${head}\n${empty}`;
  }
  const { open, decided } = openAndDecided(verdicts);
  const rows = [
    ...open.map((verdict) => [SEVERITY_WORDS[verdict.severity], verdict.rule, verdict.headline] as const),
    ...decided.map(({ rule, severity, headline, decided: made }) => {
      const why = made?.reason ? `: ${made.reason}` : "";
      return [SEVERITY_WORDS.accepted, rule, `${SEVERITY_WORDS[severity]}, ${headline} (${made?.kind ?? ""}${why})`] as const;
    }),
  ];
  const ruleWidth = Math.max(...rows.map(([, rule]) => rule.length));
  const lines = rows.map(([severity, rule, headline]) => `${severity.padEnd(5)}  ${rule.padEnd(ruleWidth)}  ${headline}`);
  if (collapsed.length > 0) lines.push(`Without figures: ${collapsed.join(", ")}`);
  return [head, ...lines].join("\n");
}

/** A settlement as `ledger settle --json` prints it. */
export function settleReport({ changes, yours, before, after }: Settlement) {
  return {
    changes: changes.map(({ what, lines, settles, massG, takes }) => ({
      what,
      settles: settles.map(({ id }) => id),
      lines,
      massG: Math.round(massG),
      money: takes.money,
      work: takes.work,
    })),
    yours: yours.map(({ id }) => id),
    before,
    after,
  };
}

/** A settlement as a plain-text list: what to do, what that settles, and what is left to the builder. */
export function settleTable({ changes, yours, before, after }: Settlement): string {
  const grave = before.stop + before.fix;
  if (grave === 0) return "No Stop and no Fix is open.";
  const left = after.stop + after.fix;
  return [
    `${changes.length} ${changes.length === 1 ? "change settles" : "changes settle"} ${grave - left} of ${grave} Stops and Fixes; ${before.all} verdicts open now, ${after.all} after.`,
    ...changes.flatMap(({ what, lines, settles, takes }, i) => [
      `${String(i + 1).padStart(2)}. ${what} (settles ${settles.length}; ${takes.money}; ${takes.work})`,
      ...(lines.length > 1 ? lines.map((line) => `      ${line}`) : []),
    ]),
    ...(yours.length > 0 ? ["Then only you can decide:"] : []),
    ...yours.flatMap(({ severity, headline, needs, answers }) => [
      `    ${SEVERITY_WORDS[severity]}: ${headline}`,
      `      ${needs}`,
      ...answers.map(({ label }) => `      If it is so already: ${label}`),
    ]),
  ].join("\n");
}

/** Columns of text, each as wide as its widest cell. */
function columnsOf(rows: readonly (readonly string[])[]): string {
  const widths = (rows[0] ?? []).map((_, i) => Math.max(...rows.map((row) => (row[i] ?? "").length)));
  return rows
    .map((row) =>
      row
        .map((cell, i) => cell.padEnd(widths[i] ?? 0))
        .join("  ")
        .trimEnd(),
    )
    .join("\n");
}

/** The short-circuit walk as a table, worst first. */
export function shortTable(figures: Figures): string {
  const { results } = faultWalk(figures);
  const modes = (indexes: readonly number[]) => indexes.map((m) => figures.modes[m]?.name ?? "").join(", ");
  return columnsOf([
    ["Danger", "Short at", "Amps", "Opens first", "Slowest", "While in"],
    ...results.map((each) => [
      `${each.danger}${each.bolted ? "" : ", resistive"}`,
      placeName(figures, each.place),
      `${say(each.leastA, "current", "down")} to ${say(each.mostA, "current", "up")}`,
      each.opens
        ? deviceName(figures, each.opens)
        : each.held
          ? `nothing; ${figures.partOf.get(each.held.id)?.name ?? "the source"} holds it`
          : "nothing",
      each.opens && Number.isFinite(each.opens.slowestS) ? say(each.opens.slowestS, "time", "up") : "never",
      modes(each.modes),
    ]),
  ]);
}

/** What sizing would change, and what it cannot settle. */
export function sizeTable(plan: SizePlan): string {
  const left = plan.left.map(({ severity, headline }) => `${SEVERITY_WORDS[severity]}: ${headline}`);
  const changes = columnsOf([
    ["What", "Now", "Sized", "Why"],
    ...plan.changes.map(({ name, before, after, why }) => [name, before, after, why]),
  ]);
  return [
    plan.changes.length === 0 ? "Nothing to change." : changes,
    `Copper ${plan.beforeKg.toFixed(2)} kg now, ${plan.afterKg.toFixed(2)} kg sized.`,
    ...(left.length > 0 ? ["No choice of size settles:", ...left] : []),
  ].join("\n");
}
