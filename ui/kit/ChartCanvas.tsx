"use client";
import { Chart, type ChartConfiguration } from "chart.js";
import { useTheme } from "next-themes";
import { useEffect, useRef } from "react";

interface Props {
  /** Makes the chart of the theme's colours; another function is another chart. */
  make: () => ChartConfiguration;
  /** What it shows, for who does not see it. */
  label: string;
}

/** A chart that is drawn again when its data or the theme changes. Its parts are registered by who makes it. */
export function ChartCanvas({ make, label }: Props) {
  const canvas = useRef<HTMLCanvasElement>(null);
  const { resolvedTheme } = useTheme();
  useEffect(() => {
    if (!canvas.current || !resolvedTheme) return;
    const chart = new Chart(canvas.current, make());
    return () => chart.destroy();
  }, [make, resolvedTheme]);
  return <canvas ref={canvas} role="img" aria-label={label} />;
}
