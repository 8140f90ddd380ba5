"use client";
import { Chart, Legend, LineController, LineElement, LogarithmicScale, PointElement, ScatterController, Tooltip } from "chart.js";
import { useTheme } from "next-themes";
import { useEffect, useRef } from "react";
import type { FusePicture } from "@/core/choosing/fuse-picture";
import { say } from "@/core/quantity/format";
import { chartAnimation, CHART_FONT as font, token } from "../kit/chart";

Chart.register(LineController, ScatterController, LineElement, PointElement, LogarithmicScale, Legend, Tooltip);

/** Opening band of a fuse over current, with what it feeds, what its wire bears and what a short drives; log-log. */
export function FuseChart({ picture, name, legend }: { picture: FusePicture; name: string; legend: boolean }) {
  const { resolvedTheme } = useTheme();
  return <Canvas key={resolvedTheme} picture={picture} name={name} legend={legend} />;
}

const LEAST_S = 1e-3;
const MOST_S = 1e4;
/** What goes on continuously is drawn at the top. */
const GOOD_S = MOST_S;

function Canvas({ picture, name, legend }: { picture: FusePicture; name: string; legend: boolean }) {
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current) return;
    const [ink, soft, accent, stop, fix, hair] = ["--ink", "--soft", "--accent", "--stop", "--fix", "--hair"].map(token) as [
      string,
      string,
      string,
      string,
      string,
      string,
    ];
    const points = (curve: readonly { amps: number; seconds: number }[]) => curve.map(({ amps, seconds }) => ({ x: amps, y: seconds }));
    const line = (label: string, data: { x: number; y: number }[], borderColor: string, over: object = {}) => ({
      type: "line" as const,
      label,
      data,
      borderColor,
      borderWidth: 1.75,
      pointRadius: 0,
      pointStyle: "line" as const,
      ...over,
    });
    const amps = [...picture.marks.map((mark) => mark.amps), picture.fuse.ratingA];
    const most = Math.max(picture.short?.mostA ?? 0, picture.fuse.ratingA * 20);
    const chart = new Chart(canvas.current, {
      type: "line",
      data: {
        datasets: [
          line("may open", points(picture.earliest), accent, { borderDash: [6, 3] }),
          line("sure to be open", points(picture.latest), accent, { fill: false }),
          ...(picture.wire ? [line("its wire bears", points(picture.wire), fix, { borderDash: [2, 2] })] : []),
          ...(picture.short
            ? [
                line(
                  "short, weakest",
                  [
                    { x: picture.short.leastA, y: LEAST_S },
                    { x: picture.short.leastA, y: MOST_S },
                  ],
                  stop,
                  { borderWidth: 1 },
                ),
                line(
                  "short, strongest",
                  [
                    { x: picture.short.mostA, y: LEAST_S },
                    { x: picture.short.mostA, y: MOST_S },
                  ],
                  stop,
                  { borderWidth: 1, borderDash: [8, 3] },
                ),
              ]
            : []),
          {
            type: "scatter" as const,
            label: "assured by its standard",
            data: picture.gates.flatMap(({ amps: x, minS, maxS }) => [
              ...(minS === null || minS > MOST_S ? [] : [{ x, y: minS }]),
              ...(maxS === null ? [] : [{ x, y: maxS }]),
            ]),
            backgroundColor: accent,
            pointRadius: 2.5,
          },
          {
            type: "scatter" as const,
            label: "modes",
            data: picture.marks.map((mark) => ({ x: mark.amps, y: mark.seconds ?? GOOD_S, mode: mark.label })),
            backgroundColor: ink,
            pointStyle: "rectRot" as const,
            pointRadius: 5,
          },
          {
            type: "scatter" as const,
            label: "motor held still",
            data: picture.motor.flatMap(({ stallA, windingS }) =>
              stallA === null
                ? []
                : [{ x: stallA, y: windingS !== null && Number.isFinite(windingS) ? windingS : GOOD_S, mode: "held still" }],
            ),
            backgroundColor: stop,
            pointStyle: "triangle" as const,
            pointRadius: 6,
          },
        ],
      },
      options: {
        responsive: true,
        maintainAspectRatio: false,
        animation: chartAnimation(),
        scales: {
          x: {
            type: "logarithmic",
            min: Math.max(picture.fuse.ratingA / 20, Math.min(...amps) / 1.5),
            max: most * 1.3,
            grid: { color: hair },
            ticks: {
              color: soft,
              font,
              maxRotation: 0,
              autoSkip: false,
              callback: (value) => (/^[13]e/.test(Number(value).toExponential(0)) ? say(Number(value), "current") : ""),
            },
          },
          y: {
            type: "logarithmic",
            min: LEAST_S,
            max: MOST_S * 2,
            grid: { color: hair },
            ticks: {
              color: soft,
              font,
              maxTicksLimit: 8,
              callback: (value) => (/^1e?/.test(Number(value).toExponential(0)) ? say(Number(value), "time") : ""),
            },
          },
        },
        plugins: {
          legend: { display: legend, position: "right", labels: { color: ink, font, boxWidth: 22, boxHeight: 9, usePointStyle: true } },
          tooltip: {
            callbacks: {
              label: (item) => {
                const raw = item.raw as { mode?: string };
                return `${raw.mode ?? item.dataset.label}: ${say(Number(item.parsed.x), "current")}, ${Number(item.parsed.y) >= GOOD_S ? "continuously" : say(Number(item.parsed.y), "time")}`;
              },
            },
          },
        },
      },
    });
    return () => chart.destroy();
  }, [picture, legend]);
  return (
    <canvas ref={canvas} role="img" aria-label={`Time over current of the ${picture.name} before ${name}; the numbers stand under Fuse`} />
  );
}
