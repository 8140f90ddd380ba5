"use client";
import { CategoryScale, Chart, type ChartConfiguration, LinearScale, LineController, LineElement, PointElement, Tooltip } from "chart.js";
import { format, parseISO } from "date-fns";
import { useCallback } from "react";
import type { Reading } from "@/core/bringup/log";
import { readWords } from "@/core/bringup/words";
import type { ReadQuantity } from "@/core/reference/instruments";
import { ChartCanvas } from "../kit/ChartCanvas";
import { chartAnimation, CHART_FONT as font, token } from "../kit/chart";

Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);

interface Props {
  title: string;
  quantity: ReadQuantity;
  readings: readonly Reading[];
}

/** One place over time, with what the plan expected each time. */
export function TimeChart({ title, quantity, readings }: Props) {
  const make = useCallback((): ChartConfiguration => {
    const [ink, soft, hair, accent] = ["--ink", "--soft", "--hair", "--accent"].map(token);
    return {
      type: "line",
      data: {
        labels: readings.map(({ takenAt }) => format(parseISO(takenAt), "d MMM HH:mm")),
        datasets: [
          {
            label: "read",
            data: readings.map(({ value }) => value),
            borderColor: accent,
            backgroundColor: accent,
            pointRadius: 4,
            borderWidth: 2,
          },
          {
            label: "expected",
            data: readings.map(({ expected }) => expected),
            borderColor: soft,
            borderDash: [5, 4],
            pointRadius: 0,
            borderWidth: 1.5,
            spanGaps: true,
          },
        ],
      },
      options: {
        animation: chartAnimation(),
        maintainAspectRatio: false,
        scales: {
          x: { ticks: { color: soft, font }, grid: { display: false } },
          y: { ticks: { color: ink, font, callback: (value) => readWords(quantity, Number(value)) }, grid: { color: hair } },
        },
        plugins: { tooltip: { callbacks: { label: ({ dataset, parsed }) => `${dataset.label}: ${readWords(quantity, parsed.y ?? 0)}` } } },
      },
    };
  }, [readings, quantity]);
  return (
    <figure className="h-[190px] shrink-0 border-t-2 border-ink bg-sheet px-3 pt-1 pb-2">
      <figcaption className="truncate text-xs text-soft">
        {title}: {readings.length} readings, dashed what the plan expected
      </figcaption>
      <div className="h-[156px]">
        <ChartCanvas make={make} label={`${title}: ${readings.map(({ value }) => readWords(quantity, value)).join(", ")}`} />
      </div>
    </figure>
  );
}
