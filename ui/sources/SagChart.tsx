"use client";
import { Chart, Legend, LinearScale, LineController, LineElement, PointElement, Tooltip } from "chart.js";
import { useTheme } from "next-themes";
import { useEffect, useRef } from "react";
import { say } from "@/core/quantity/format";
import type { SagPicture } from "@/core/sources/sag";
import { chartAnimation, CHART_FONT as font, token } from "../kit/chart";

Chart.register(LineController, LineElement, PointElement, LinearScale, Legend, Tooltip);

/** Dashes tell the modes apart without colour; after these they begin again in another hue. */
const DASHES: readonly number[][] = [[], [8, 4], [2, 3], [10, 3, 2, 3], [5, 2], [1, 5]];
const HUES = ["--rail-0", "--rail-1", "--rail-2", "--rail-3"];
/** Lines under which things stop that lie this far below the curves are left to the table, share of the volts shown. */
const NEAR = 0.1;

/** Terminal volts over the charge, falling to the right as a run does, with the lines where things stop working. */
export function SagChart({ picture, modes }: { picture: SagPicture; modes: readonly string[] }) {
  const { resolvedTheme } = useTheme();
  return <Canvas key={resolvedTheme} picture={picture} modes={modes} />;
}

function Canvas({ picture, modes }: { picture: SagPicture; modes: readonly string[] }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current) return;
    const [ink, soft] = [token("--ink"), token("--soft")];
    const shown = picture.curves.flatMap(({ volts }) => volts.flatMap((v) => (v === null ? [] : [v])));
    const top = Math.max(...picture.openV);
    const bottom = Math.max(0, Math.min(...shown, top));
    const lines = picture.lines.filter(({ volts }) => volts > bottom - (top - bottom) * NEAR);
    const line = (charge: number, volts: number) => ({ x: charge * 100, y: volts });
    const chart = new Chart(canvas.current, {
      type: "line",
      data: {
        datasets: [
          ...picture.curves.map(({ mode, volts }, i) => ({
            label: modes[mode] ?? "",
            data: volts.flatMap((v, k) => (v === null ? [] : [line(picture.charges[k] ?? 0, v)])),
            borderColor: token(HUES[Math.floor(i / DASHES.length) % HUES.length] ?? "--ink"),
            borderDash: DASHES[i % DASHES.length] as number[],
            borderWidth: 1.75,
            pointRadius: 0,
          })),
          {
            label: "nothing running",
            data: picture.openV.map((v, k) => line(picture.charges[k] ?? 0, v)),
            borderColor: soft,
            borderWidth: 1,
            pointRadius: 0,
          },
          ...lines.map(({ name, volts }) => ({
            label: `${name} stops, ${say(volts, "voltage")}`,
            data: [line(0, volts), line(1, volts)],
            borderColor: ink,
            borderWidth: 1,
            pointRadius: 0,
          })),
          {
            label: `reserve, ${Math.round(picture.reserve * 100)} %`,
            data: [line(picture.reserve, bottom), line(picture.reserve, top)],
            borderColor: ink,
            borderDash: [2, 2],
            borderWidth: 1,
            pointRadius: 0,
          },
        ],
      },
      options: {
        responsive: true,
        maintainAspectRatio: false,
        animation: chartAnimation(),
        interaction: { mode: "nearest", axis: "x", intersect: false },
        scales: {
          x: {
            type: "linear",
            reverse: true,
            min: 0,
            max: 100,
            grid: { color: token("--hair") },
            ticks: { color: ink, font, callback: (value) => `${value} %` },
            title: { display: true, text: "charge", color: soft, font },
          },
          y: { grid: { color: token("--hair") }, ticks: { color: soft, font }, title: { display: true, text: "V", color: soft, font } },
        },
        plugins: {
          legend: {
            position: "right",
            maxWidth: 230,
            labels: { color: ink, font, boxWidth: 34, boxHeight: 0 },
          },
          tooltip: {
            callbacks: {
              title: (items) => `${Math.round(Number(items[0]?.parsed.x ?? 0))} % charge`,
              label: (item) => `${item.dataset.label}: ${say(Number(item.parsed.y), "voltage")}`,
            },
          },
        },
      },
    });
    return () => chart.destroy();
  }, [picture, modes]);
  return (
    <canvas
      ref={canvas}
      role="img"
      aria-label="Terminal volts of the pack over its charge in each mode; the table below says where things stop"
    />
  );
}
