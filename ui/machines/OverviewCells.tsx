import type { MachineOverview, OverviewState } from "@/core/machine/summary";
import { formatQuantity } from "@/core/quantity/format";
import type { Severity } from "@/core/verdicts/types";
import { SeverityMark } from "../kit/Severity";

function Count({ severity, n }: { severity: Severity; n: number }) {
  if (n === 0) return null;
  return (
    <span className="pr-3 whitespace-nowrap">
      <SeverityMark severity={severity} /> <span className="fig font-semibold">{n}</span>
    </span>
  );
}

function Counts({ parts, stops, fixes, watches, asks, accepted }: MachineOverview) {
  return (
    <>
      <Count severity="stop" n={stops} />
      <Count severity="fix" n={fixes} />
      <Count severity="watch" n={watches} />
      <Count severity="ask" n={asks} />
      {stops + fixes + watches + asks === 0 && (
        <span className="text-xs text-soft">{parts === 0 ? "nothing to judge" : accepted > 0 ? "nothing open" : "clear"}</span>
      )}
      {accepted > 0 && <span className="pl-2 text-xs text-soft">{accepted} accepted</span>}
    </>
  );
}

const WORDS = {
  unreadable: "cannot be read by this version",
  broken: "its analysis broke off: a fault of Node Ledger, not of the plan",
  damaged: "its entry in the ledger file is damaged",
} as const;

/** Open verdicts of a machine, or why nothing is said of it: nobody may take silence for a clean bill. */
export function Verdicts({ overview }: { overview: OverviewState }) {
  if (overview.kind === "known") return <Counts {...overview} />;
  if (overview.kind === "waiting") return <span className="text-xs text-soft">working it out…</span>;
  return (
    <>
      <SeverityMark severity="ask" /> <span className="text-xs text-soft">{WORDS[overview.kind]}</span>
    </>
  );
}

/** Where a machine is opened: at what has to be settled, where something has. */
export function firstStep(overview: OverviewState): "settle" | "feeds" {
  return overview.kind === "known" && overview.stops + overview.fixes > 0 ? "settle" : "feeds";
}

/** Volts of the main source. */
export function MainVolts({ overview }: { overview: OverviewState }) {
  if (overview.kind !== "known" || overview.mainV === null) return "–";
  return `${Number(overview.mainV.toFixed(1))} V`;
}

/** The most its sources give in any mode; at least that where something is not known. */
export function WorstAmps({ overview }: { overview: OverviewState }) {
  const known = overview.kind === "known" ? overview : null;
  const amps = known?.worstA == null ? null : formatQuantity(known.worstA, "current", "up");
  return (
    <>
      {amps && known?.worstAtLeast && <span className="pr-1 font-bold text-ask">≥</span>}
      <span className="fig text-lg font-bold">{amps?.digits ?? "–"}</span>
      <span className="unit">{amps?.unit}</span>
    </>
  );
}
