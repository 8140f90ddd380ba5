"use client";
import { clsx } from "clsx";
import type { Signal } from "@/core/machine/schema";
import { formatQuantity, say } from "@/core/quantity/format";
import { LINK_WORDS } from "@/core/returns/link-words";
import type { LinkFigures } from "@/core/returns/links";
import { humDb } from "@/core/returns/practice";
import { linkMark, WATCH_FROM } from "@/core/verdicts/link-severity";
import { upCounts } from "@/core/verdicts/returns/link-offset";
import type { Verdict } from "@/core/verdicts/types";
import { analysisOf } from "@/state/findings";
import { Figure } from "../figure/Figure";
import { type CellPlace, FigureTable, RowName } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { SeverityMark } from "../kit/Severity";
import { useWorkbench } from "../workbench/context";
import { Unsure } from "./OffsetsView";
import { useReturns } from "./useReturns";

const NO_VERDICTS: readonly Verdict[] = [];

interface Row {
  signal: Signal;
  link: LinkFigures;
  /** Mode shown, its volts and its part of the budget. */
  mode: number;
  volts: number;
  share: number;
}

/** Every link with the offset between its two boards against what it tolerates, the tightest first. */
export function LinkBars() {
  const { found, failed, start } = useReturns();
  const verdicts = useWorkbench((state) => analysisOf(state)?.verdicts) ?? NO_VERDICTS;
  const mode = useWorkbench((state) => state.mode);
  const selected = useWorkbench((state) => state.selected);
  if (failed) return <BrokeOff what="What the links bear" again={start} />;
  if (!found) return null;
  const { machine, returns } = found;
  const name = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "?";
  const rows = returns.links.flatMap((link): Row[] => {
    const signal = machine.signals?.find(({ id }) => id === link.id);
    if (!signal) return [];
    const shown = mode === "worst" ? (link.worst?.mode ?? 0) : mode;
    const volts = mode === "worst" && link.worst ? link.worst.volts : (link.offsetV[shown] ?? 0);
    return [{ signal, link, mode: shown, volts, share: mode === "worst" ? (link.worst?.share ?? 0) : (link.share[shown] ?? 0) }];
  });
  rows.sort((a, b) => rank(b) - rank(a));
  const modeName = mode === "worst" ? "worst" : machine.modes[mode]?.name;
  const namesFor = ({ signal }: Row) => `${name(signal.from)} to ${name(signal.to)}`;
  const namesOf = (signal: Signal) => `${name(signal.from)} → ${name(signal.to)}`;
  return (
    <section aria-label="Signals and the ground under them">
      <h2 className="pb-1 text-sm">
        <span className="font-bold">Signals and the ground under them</span>{" "}
        <span className="text-soft">offset between the two boards against what a steady offset may use of the link, {modeName}</span>
      </h2>
      {rows.length === 0 ? (
        <p className="text-sm text-soft">
          No links yet. Under Signals and loops you say which board talks to which; then each ground is held against what its link bears.
        </p>
      ) : (
        <FigureTable
          headless
          caption="Links by how much of their budget they use"
          rows={rows}
          keyOf={({ signal }) => signal.id}
          partOf={({ signal }) => signal.from}
          chosen={({ signal }) => selected === signal.from || selected === signal.to}
          columns={[
            {
              label: "Link",
              cellClass: "w-[29%] max-w-0 truncate",
              cell: ({ signal }, place) => <RowName place={place}>{namesOf(signal)}</RowName>,
            },
            { label: "Kind", cellClass: "w-[13%] text-soft", cell: ({ signal }) => LINK_WORDS[signal.kind] },
            { label: "Share of its budget", cellClass: "w-[22%]", cell: (row) => <Bar row={row} /> },
            {
              label: "Offset",
              num: true,
              cellClass: "whitespace-nowrap",
              cell: (row, place) => <Offset row={row} names={namesFor(row)} place={place} />,
            },
            {
              label: "Of what it bears",
              cellClass: "w-[16%] whitespace-nowrap",
              cell: (row, place) => <Bears row={row} names={namesFor(row)} place={place} />,
            },
            {
              label: "Verdict",
              cellClass: "w-[17%] whitespace-nowrap",
              cell: ({ link }) => (
                <>
                  <SeverityMark severity={linkMark(link, verdicts)} />
                  {link.worst && mode !== "worst" && link.worst.mode !== mode && link.worst.share > WATCH_FROM && (
                    <span className="pl-1.5 text-xs text-soft">{machine.modes[link.worst.mode]?.name}</span>
                  )}
                </>
              ),
            },
          ]}
        />
      )}
    </section>
  );
}

/** What cannot be judged stands first, then what uses most. */
function rank({ link, share }: Row): number {
  if (link.allowed.kind === "isolated") return -1;
  if (!link.joined) return 1e6;
  return link.allowed.kind === "invalid" ? 1e5 : share;
}

function Bar({ row: { link, share } }: { row: Row }) {
  if (link.allowed.kind !== "held" || !link.joined) return null;
  return (
    <span aria-hidden className="relative block h-2 bg-hair/60">
      <span
        className={clsx("absolute inset-y-0 left-0", share > 1 ? "bg-hatch" : "bg-accent/70")}
        style={{ width: `${Math.min(100, share * 100)}%` }}
      />
    </span>
  );
}

interface Words {
  row: Row;
  names: string;
  place: CellPlace;
}

/** How far the two grounds are apart, or how far they move where that is heard. */
function Offset({ row: { signal, link, mode, volts }, names, place }: Words) {
  if (!link.joined) return null;
  if (link.allowed.kind === "heard") return <span className="fig">{say(swingOf(link), "voltage", "up")}</span>;
  if (link.allowed.kind !== "held") return null;
  return (
    <>
      <Figure
        value={volts}
        dimension="voltage"
        label={`Offset of ${names}`}
        of={{ kind: "linkOffset", signal: signal.id, mode }}
        cell={place}
      />
      {link.unsure && <Unsure />}
    </>
  );
}

/** What the offset is held against; in words where it is not held against anything. */
function Bears({ row: { signal, link, mode, volts }, names, place }: Words) {
  if (!link.joined && link.allowed.kind !== "isolated") return <span className="text-xs font-semibold text-fix">no common reference</span>;
  switch (link.allowed.kind) {
    case "isolated":
      return <span className="text-xs text-soft">isolated</span>;
    case "missing":
      return <span className="text-xs text-ask">? {link.allowed.what}</span>;
    case "invalid":
      return <span className="text-xs font-semibold text-fix">levels do not match</span>;
    case "heard": {
      const db = humDb(swingOf(link));
      return <span className="text-xs text-soft">{Number.isFinite(db) ? `${Math.floor(db)} dB under line` : ""}</span>;
    }
    case "held": {
      const { step } = link.allowed;
      if (step)
        return (
          <span className="fig">
            {upCounts(Math.abs(volts) / step.volts)} <span className="text-xs text-soft">of {step.counts} counts</span>
          </span>
        );
      const limit = volts >= 0 ? link.allowed.steadyAboveV : link.allowed.steadyBelowV;
      const { digits, unit } = formatQuantity(limit, "voltage", "down");
      return (
        <>
          <span className="text-xs text-soft">of</span>{" "}
          <Figure
            value={limit}
            dimension="voltage"
            rounding="down"
            label={`What ${names} bears: ${digits} ${unit}`}
            of={{ kind: "linkBudget", signal: signal.id, mode }}
            className="text-soft"
            cell={place}
          />
        </>
      );
    }
  }
}

const swingOf = (link: LinkFigures) => Math.max(...link.offsetV) - Math.min(...link.offsetV);
