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
import { chartAnimation, CHART_FONT as font, token } from "../kit/chart";
import { railColour } from "../kit/RailTag";
import { useLedger, useWorkbench } from "../workbench/context";

Chart.register(BarController, BarElement, CategoryScale, LinearScale, LineController, LineElement, PointElement, Legend, Tooltip);

/** The hue of a rail at a strength from 0 to 1: neighbours in a stack differ in lightness, and each is named. */
function shade(colour: string, share: number): string {
  return `color-mix(in oklab, ${colour} ${Math.round(share * 100)}%, ${token("--paper")})`;
}

/** What each rail gives in every mode, stacked by who takes it; readings that replaced estimates show both. */
export function ChartView() {
  const ledger = useLedger();
  const machine = useWorkbench((state) => state.machine);
  const analysis = useWorkbench((state) => state.analysis);
  const { resolvedTheme } = useTheme();
  const [origin, setOrigin] = useState<string | null>(null);
  const rail = ledger.rails.find((each) => each.origin === origin) ?? ledger.rails[0];
  const shares = rail && analysis ? railShares(machine, ledger, analysis, rail.origin) : null;
  if (!rail || !shares) return <p className="p-6 text-sm text-soft">No rail yet: add a source first.</p>;
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-auto px-3 py-2">
      <label className="text-sm">
        Rail{" "}
        <select className="field" value={rail.origin} onChange={(event) => setOrigin(event.target.value)}>
          {ledger.rails.map((each) => (
            <option key={each.origin} value={each.origin}>
              {each.tag} · {machine.parts.find(({ id }) => id === each.origin)?.name}
            </option>
          ))}
        </select>
      </label>
      <div className="relative min-h-[240px] flex-1">
        {/* Colours are read off the page when the chart is made: another theme makes it anew. */}
        <Stack key={resolvedTheme} shares={shares} hue={railColour(rail.order)} modes={machine.modes.map(({ name }) => name)} />
      </div>
      <table className="ledger mt-2">
        <caption className="sr-only">The same figures as a table</caption>
        <thead>
          <tr>
            <th scope="col">{rail.tag}</th>
            {machine.modes.map(({ id, name }) => (
              <th key={id} scope="col" className="num">
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {shares.takers.map((taker) => (
            <tr key={taker.id}>
              <td>{taker.name}</td>
              {machine.modes.map(({ id }, m) => (
                <td key={id} className="num fig">
                  {say(taker.amps[m] ?? 0, "current")}
                </td>
              ))}
            </tr>
          ))}
          {shares.estimated && (
            <tr>
              <td className="text-soft">by estimates alone</td>
              {machine.modes.map(({ id }, m) => (
                <td key={id} className="num fig text-soft">
                  {say(shares.estimated?.[m] ?? 0, "current")}
                </td>
              ))}
            </tr>
          )}
        </tbody>
      </table>
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
