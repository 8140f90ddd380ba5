"use client";
import { Chart, Legend, LinearScale, LineController, LineElement, PointElement, Tooltip } from "chart.js";
import { useTheme } from "next-themes";
import { useEffect, useRef, useState } from "react";
import { bestAt, fitLoss, type LossModel } from "@/core/converters/switched";
import type { ChangesOf } from "@/core/machine/commands";
import { datasheet } from "@/core/machine/figure";
import type { Converter } from "@/core/machine/schema";
import { lossModelOf } from "@/core/network/circuit";
import { say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import { efficiencyCurve } from "@/core/sources/converter";
import { analysisOf } from "@/state/findings";
import { Button } from "../kit/Button";
import { chartAnimation, CHART_FONT as font, token } from "../kit/chart";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench } from "../workbench/context";

Chart.register(LineController, LineElement, PointElement, LinearScale, Legend, Tooltip);

const POINTS = [0, 1, 2] as const;

/** Efficiency of a switching converter over its load, where its modes sit on it, and its losses from three sheet points. */
export function LossPane({ converter }: { converter: Converter }) {
  const loss = lossModelOf(converter);
  if (converter.topology === "linear") return null;
  return (
    <section
      aria-label={`${converter.name}, efficiency over load`}
      className="grid gap-x-6 px-3 pt-3 pb-4 md:grid-cols-[minmax(0,1.4fr)_minmax(0,1fr)]"
    >
      <div>
        <h2 className="text-sm font-bold">
          {converter.name}: what it yields over its load{" "}
          {loss && loss.ohm > 0 && loss.watts > 0 && <span className="font-normal text-soft">best at {say(bestAt(loss), "current")}</span>}
          {!loss && (
            <span className="font-normal text-soft">one figure, {Math.round(converter.efficiency.value * 100)} %, at every load</span>
          )}
        </h2>
        {loss ? (
          <Curve converter={converter} loss={loss} />
        ) : (
          <p className="mt-1 text-xs text-soft">Three points off its sheet give a curve, and what it draws when it idles.</p>
        )}
      </div>
      <ThreePoints converter={converter} />
    </section>
  );
}

function Curve({ converter, loss }: { converter: Converter; loss: LossModel }) {
  const { resolvedTheme } = useTheme();
  const figure = useWorkbench((state) => analysisOf(state)?.parts[converter.id]);
  const modes = useWorkbench((state) => state.machine.modes);
  const canvas = useRef<HTMLCanvasElement>(null);
  useEffect(() => {
    if (!canvas.current || !figure || !resolvedTheme) return;
    const { inV, curve, modes: sits } = efficiencyCurve(converter, loss, figure);
    const points = sits.map((point) => ({ ...point, name: modes[point.mode]?.name ?? "" }));
    const [ink, soft] = [token("--ink"), token("--soft")];
    const chart = new Chart(canvas.current, {
      type: "line",
      data: {
        datasets: [
          {
            label: `at ${say(inV, "voltage")} in`,
            data: [...curve],
            borderColor: token("--accent"),
            borderWidth: 2,
            pointRadius: 0,
            pointStyle: "line",
          },
          {
            label: "its modes",
            data: points,
            borderColor: ink,
            backgroundColor: ink,
            showLine: false,
            pointStyle: "rectRot",
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
            type: "linear",
            min: 0,
            grid: { color: token("--hair") },
            ticks: { color: ink, font },
            title: { display: true, text: "A out", color: soft, font },
          },
          y: {
            max: 100,
            grid: { color: token("--hair") },
            ticks: { color: soft, font },
            title: { display: true, text: "%", color: soft, font },
          },
        },
        plugins: {
          legend: { position: "bottom", labels: { color: ink, font, usePointStyle: true } },
          tooltip: {
            callbacks: {
              label: (item) => {
                const point = item.raw as { name?: string };
                return `${point.name ?? ""} ${say(Number(item.parsed.x), "current")}: ${Math.floor(Number(item.parsed.y))} %`;
              },
            },
          },
        },
      },
    });
    return () => chart.destroy();
  }, [converter, loss, figure, modes, resolvedTheme]);
  return (
    <div className="relative h-[190px]">
      <canvas ref={canvas} role="img" aria-label="Efficiency over output current; the table above gives it for the chosen mode" />
    </div>
  );
}

/** Losses through three points of a sheet: amps and percent, at one input voltage. */
function ThreePoints({ converter }: { converter: Converter }) {
  const { act } = useDispatch();
  const [texts, setTexts] = useState<readonly { amps: string; percent: string }[]>(POINTS.map(() => ({ amps: "", percent: "" })));
  const [atText, setAtText] = useState(converter.lossAtV ? `${converter.lossAtV.value} V` : "");
  const [message, setMessage] = useState<string | null>(null);
  const set = (i: number, change: Partial<{ amps: string; percent: string }>) => {
    setTexts(texts.map((each, k) => (k === i ? { ...each, ...change } : each)));
    setMessage(null);
  };
  const take = () => {
    const read: [number, number][] = [];
    for (const [i, { amps, percent }] of texts.entries()) {
      const [a, p] = [parseQuantity(amps, "current", { min: 0.001 }), parseQuantity(percent, "percent", { min: 1, max: 99.9 })];
      if (!a.ok) return setMessage(`Point ${i + 1}, amps: ${a.message}`);
      if (!p.ok) return setMessage(`Point ${i + 1}, share: ${p.message}`);
      read.push([a.value, p.value / 100]);
    }
    const at = parseQuantity(atText, "voltage", { min: 0.5 });
    if (!at.ok) return setMessage(`Input volts of the sheet: ${at.message}`);
    const [first, second, third] = read;
    if (!first || !second || !third) return;
    if (new Set(read.map(([amps]) => amps)).size < 3)
      return setMessage("Three different currents, please: two alike leave the curve open.");
    const { loss, forced } = fitLoss(converter.outputV.value, [first, second, third]);
    const known = (value: number) => datasheet(Number(value.toPrecision(4)));
    const changes: ChangesOf<"converter"> = {
      lossW: known(loss.watts),
      lossV: known(loss.volts),
      lossOhm: known(loss.ohm),
      lossBasis: "out",
      lossAtV: datasheet(at.value),
    };
    if (!act({ type: "updatePart", id: converter.id, changes })) return;
    setMessage(forced ? "Taken; the points bend the wrong way, so one of the three losses was set to nothing. Check them." : null);
  };
  return (
    <form
      noValidate
      aria-label="Losses from three points of its sheet"
      onSubmit={(event) => {
        event.preventDefault();
        take();
      }}
    >
      <h2 className="text-sm font-bold">
        <Explained>Losses from its sheet</Explained>
      </h2>
      <table className="w-full text-sm">
        <caption className="sr-only">Three points: amps out and efficiency</caption>
        <tbody>
          {POINTS.map((i) => (
            <tr key={i}>
              <td className="w-16 text-xs text-soft">point {i + 1}</td>
              <td>
                <input
                  aria-label={`Amps of point ${i + 1}`}
                  className="field fig w-full"
                  placeholder={["0.5 A", "1.5 A", "3 A"][i]}
                  value={texts[i]?.amps ?? ""}
                  onChange={(event) => set(i, { amps: event.target.value })}
                />
              </td>
              <td>
                <input
                  aria-label={`Efficiency of point ${i + 1}`}
                  className="field fig w-full"
                  placeholder={["86 %", "90 %", "87 %"][i]}
                  value={texts[i]?.percent ?? ""}
                  onChange={(event) => set(i, { percent: event.target.value })}
                />
              </td>
            </tr>
          ))}
          <tr>
            <td className="text-xs text-soft">at</td>
            <td>
              <input
                aria-label="Input volts of the sheet"
                className="field fig w-full"
                placeholder="12 V"
                value={atText}
                onChange={(event) => {
                  setAtText(event.target.value);
                  setMessage(null);
                }}
              />
            </td>
            <td className="pl-2 text-xs text-soft">input</td>
          </tr>
        </tbody>
      </table>
      {message && (
        <p role="alert" className="text-xs text-stop dark:text-fix">
          {message}
        </p>
      )}
      <Button type="submit" className="mt-1">
        Take the curve
      </Button>
    </form>
  );
}
