import type { Analysis } from "../analysis/types";
import type { Machine } from "../machine/schema";
import { terminalKey } from "../machine/terminals";
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
      machine.parts.length === 0 ? "Nothing is in the plan yet." : "Clear: no rule found anything, and no figure it needs is missing.";
    return `${head}\n${empty}`;
  }
  const rows = verdicts.map((verdict) => [SEVERITY_WORDS[verdict.severity], verdict.rule, verdict.headline] as const);
  const ruleWidth = Math.max(...rows.map(([, rule]) => rule.length));
  const lines = rows.map(([severity, rule, headline]) => `${severity.padEnd(5)}  ${rule.padEnd(ruleWidth)}  ${headline}`);
  if (collapsed.length > 0) lines.push(`Without figures: ${collapsed.join(", ")}`);
  return [head, ...lines].join("\n");
}
