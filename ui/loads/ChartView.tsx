"use client";
import {
  BarController,
  BarElement,
  CategoryScale,
  Chart,
  Legend,
  LinearScale,
  LineController,
  LineElement,
  PointElement,
  Tooltip,
} from "chart.js";
import { useTheme } from "next-themes";
import { useEffect, useRef, useState } from "react";
import { type RailShares, railShares } from "@/core/analysis/shares";
import { say } from "@/core/quantity/format";
import { analysisOf } from "@/state/findings";
import { FigureTable, type TableColumn } from "../grid/FigureTable";
import { chartAnimation, CHART_FONT as font, token } from "../kit/chart";
import { railColour } from "../kit/RailTag";
import { always, Select } from "../kit/Select";
import { useLedger, useWorkbench } from "../workbench/context";

Chart.register(BarController, BarElement, CategoryScale, LinearScale, LineController, LineElement, PointElement, Legend, Tooltip);

/** The hue of a rail at a strength from 0 to 1: neighbours in a stack differ in lightness, and each is named. */
function shade(colour: string, share: number): string {
  return `color-mix(in oklab, ${colour} ${Math.round(share * 100)}%, ${token("--paper")})`;
}

/** The row of what the rail would give without readings: no part has such an id. */
const ESTIMATED = "by estimates";

/** What each rail gives in every mode, stacked by who takes it; readings that replaced estimates show both. */
export function ChartView() {
  const ledger = useLedger();
  const machine = useWorkbench((state) => state.machine);
  const analysis = useWorkbench(analysisOf);
  const { resolvedTheme } = useTheme();
  const [origin, setOrigin] = useState<string | null>(null);
  const rail = ledger.rails.find((each) => each.origin === origin) ?? ledger.rails[0];
  const shares = rail && analysis ? railShares(machine, ledger, analysis, rail.origin) : null;
  if (!rail || !shares) return <p className="p-6 text-sm text-soft">No rail yet: add a source first.</p>;
  const { takers, estimated } = shares;
  const rows = estimated ? [...takers, { id: ESTIMATED, name: "by estimates alone", amps: estimated }] : takers;
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-auto px-3 py-2">
      <label className="text-sm">
        Rail{" "}
        <Select
          value={rail.origin}
          options={ledger.rails.map((each) => ({
            value: each.origin,
            label: `${each.tag} · ${machine.parts.find(({ id }) => id === each.origin)?.name}`,
          }))}
          onChange={always((chosen) => setOrigin(chosen))}
        />
      </label>
      <div className="relative min-h-[240px] flex-1">
        {/* Colours are read off the page when the chart is made: another theme makes it anew. */}
        <Stack key={resolvedTheme} shares={shares} hue={railColour(rail.order)} modes={machine.modes.map(({ name }) => name)} />
      </div>
      <FigureTable
        className="mt-2"
        caption="The same figures as a table"
        rows={rows}
        keyOf={({ id }) => id}
        rowClass={({ id }) => id === ESTIMATED && "text-soft"}
        columns={[
          { label: rail.tag, cell: ({ name }) => name },
          ...machine.modes.map(
            ({ name }, m): TableColumn<(typeof rows)[number]> => ({
              label: name,
              num: true,
              cellClass: "fig",
              cell: ({ amps }) => say(amps[m] ?? 0, "current"),
            }),
          ),
        ]}
      />
    </div>
  );
}

function Stack({ shares, hue, modes }: { shares: RailShares; hue: string; modes: readonly string[] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current) return;
    const ink = token("--ink");
    const soft = token("--soft");
    const colour = token(/--[a-z0-9-]+/.exec(hue)?.[0] ?? "--accent");
    const count = shares.takers.length;
    const chart = new Chart(canvas.current, {
      data: {
        labels: [...modes],
        datasets: [
          ...(shares.estimated
            ? [
                {
                  type: "line" as const,
                  label: "by estimates alone",
                  data: [...shares.estimated],
                  borderColor: ink,
                  backgroundColor: ink,
                  borderDash: [4, 3],
                  borderWidth: 1,
                  pointStyle: "rectRot" as const,
                  pointRadius: 5,
                  stack: "estimate",
                },
              ]
            : []),
          ...shares.takers.map((taker, i) => ({
            type: "bar" as const,
            label: taker.name,
            data: [...taker.amps],
            backgroundColor: shade(colour, 1 - (0.72 * i) / Math.max(1, count - 1)),
            borderColor: token("--paper"),
            borderWidth: 1,
            stack: "amps",
          })),
        ],
      },
      options: {
        responsive: true,
        maintainAspectRatio: false,
        animation: chartAnimation(),
        scales: {
          x: { stacked: true, grid: { display: false }, ticks: { color: ink, font } },
          y: {
            stacked: true,
            grid: { color: token("--hair") },
            ticks: { color: soft, font },
            title: { display: true, text: "A", color: soft, font },
          },
        },
        plugins: {
          legend: { position: "right", labels: { color: ink, font, boxWidth: 12 } },
          tooltip: { callbacks: { label: (item) => `${item.dataset.label}: ${say(Number(item.raw), "current")}` } },
        },
      },
    });
    return () => chart.destroy();
  }, [shares, hue, modes]);
  return <canvas ref={canvas} role="img" aria-label="Stacked amps of the rail in each mode; the table below holds the same figures" />;
}
