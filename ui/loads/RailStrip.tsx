"use client";
import type { Part, Settings } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { ratingOf } from "@/core/sources/ratings";
import { analysisOf } from "@/state/findings";
import { Figure } from "../figure/Figure";
import { RailTag, railColour } from "../kit/RailTag";
import { pickFigure, useLedger, useWorkbench } from "../workbench/context";

function mayGive(part: Part | undefined, settings: Settings, highestV: number | null): number | undefined {
  const giver = part?.kind === "pack" || part?.kind === "supply" || part?.kind === "converter";
  return giver ? (ratingOf(part, settings, highestV).continuousA ?? undefined) : undefined;
}

/** Each rail's demand in the chosen mode, its worst, and what its source may give continuously (the ink line). */
export function RailStrip() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const analysis = useWorkbench(analysisOf);
  const parts = useWorkbench((state) => state.machine.parts);
  const settings = useWorkbench((state) => state.machine.settings);
  if (ledger.rails.length === 0) return null;
  return (
    <ul aria-label="Rails" className="pane flex shrink-0 overflow-x-auto border-b border-ink">
      {ledger.rails.map((rail) => {
        const source = parts.find(({ id }) => id === rail.origin);
        const figures = analysis?.parts[rail.origin];
        const given = figures?.outA ?? figures?.amps;
        const now = pickFigure(given, mode);
        const worst = figures?.worstOut?.amps ?? 0;
        const rating = mayGive(source, settings, figures?.highestV ?? null);
        const span = Math.max(worst, rating ?? 0, 1e-6) * 1.08;
        const colour = railColour(rail.order);
        return (
          <li
            key={rail.origin}
            className="min-w-[245px] max-[1100px]:min-w-[195px] flex-1 overflow-hidden border-r border-hair px-3 py-1.5"
          >
            <p className="truncate text-xs text-soft">
              <RailTag rail={rail} /> <span className="pl-1">{source?.name} gives</span>
            </p>
            <p className="whitespace-nowrap">
              {now && (
                <Figure
                  value={now.value}
                  dimension="current"
                  rounding="up"
                  strong
                  className="text-xl"
                  atLeast={figures?.atLeast[now.mode] === 1}
                  label={`Given by ${source?.name}`}
                  of={{ kind: "outputAmps", part: rail.origin, mode: now.mode }}
                />
              )}
              <span className="pl-2 text-xs text-soft max-[1100px]:block max-[1100px]:pl-0">
                worst {figures?.worstAtLeast && "≥ "}
                {say(worst, "current", "up")}
                {rating === undefined ? ", rating not known" : `, of ${say(rating, "current", "down")}`}
              </span>
            </p>
            <div aria-hidden className="relative mt-1 h-2.5 bg-hair/60">
              <div className="absolute inset-y-0 left-0 opacity-35" style={{ width: `${(worst / span) * 100}%`, background: colour }} />
              <div className="absolute inset-y-0 left-0" style={{ width: `${((now?.value ?? 0) / span) * 100}%`, background: colour }} />
              {rating !== undefined && <div className="absolute -inset-y-0.5 w-0.5 bg-ink" style={{ left: `${(rating / span) * 100}%` }} />}
            </div>
          </li>
        );
      })}
    </ul>
  );
}
