"use client";
import { CategoryScale, Chart, type ChartConfiguration, LinearScale, LineController, LineElement, PointElement, Tooltip } from "chart.js";
import { useCallback, useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import { type LogFigures, logCommand, logFigures, NEW_MODE, thinned } from "@/core/bringup/current-log";
import { readCells } from "@/core/exchange/csv";
import { type ReadLog, readCurrentLog } from "@/core/exchange/current-log";
import type { Load } from "@/core/machine/schema";
import { say, sayDuration } from "@/core/quantity/format";
import { Button } from "../kit/Button";
import { ChartCanvas } from "../kit/ChartCanvas";
import { chartAnimation, CHART_FONT as font, token } from "../kit/chart";
import { FileInput } from "../kit/FileInput";
import { always, Select } from "../kit/Select";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench } from "../workbench/context";
import { TriedPanel } from "./TriedPanel";

Chart.register(CategoryScale, LinearScale, LineController, LineElement, PointElement, Tooltip);

/** A log of a current from a file: what it shows, and what of it becomes a figure of the plan. */
export function CurrentLogView() {
  const [read, setRead] = useState<{ name: string; log: ReadLog } | null>(null);
  const file = useRef<HTMLInputElement>(null);
  const take = async (given: File) => {
    setRead({ name: given.name, log: readCurrentLog(readCells(await given.text())) });
  };
  const figures = read?.log.ok ? logFigures(read.log.log) : null;
  return (
    <div className="pane min-h-0 flex-1 overflow-y-auto px-4 py-3" tabIndex={-1}>
      <div className="flex flex-wrap items-baseline gap-4">
        <h2 className="text-base font-bold">{read ? read.name : "A log of a current"}</h2>
        <Button onClick={() => file.current?.click()}>Choose a file</Button>
        <FileInput
          label="A log of a current"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          opener={file}
          onFile={(given) => void take(given)}
        />
      </div>
      <p className="max-w-[640px] text-sm text-soft">
        A text file with a column of time and one of amps, and volts if there are any; with or without headings. Times in seconds,
        milliseconds by their heading, or as a clock.
      </p>
      {read && !read.log.ok && (
        <p role="alert" className="mt-2 text-sm text-stop dark:text-fix">
          {read.log.message}
        </p>
      )}
      {read?.log.ok && figures && (
        <>
          {read.log.skipped > 0 && (
            <p className="mt-1 text-xs text-watch">{read.log.skipped} lines were left out: no time, no amps, or back in time.</p>
          )}
          <Shown log={read.log} figures={figures} />
          <Use figures={figures} />
        </>
      )}
    </div>
  );
}

/** Most points that are drawn. */
const DRAWN = 1500;

function Shown({ log: { log }, figures }: { log: ReadLog & { ok: true }; figures: LogFigures }) {
  const points = useMemo(() => thinned(log, DRAWN), [log]);
  const make = useCallback((): ChartConfiguration => {
    const [ink, soft, hair, accent] = ["--ink", "--soft", "--hair", "--accent"].map(token);
    return {
      type: "line",
      data: {
        labels: points.map(({ at }) => at.toFixed(1)),
        datasets: [{ label: "A", data: points.map(({ amps }) => amps), borderColor: accent, pointRadius: 0, borderWidth: 1.5 }],
      },
      options: {
        animation: chartAnimation(),
        maintainAspectRatio: false,
        scales: {
          x: {
            ticks: { color: soft, font, maxTicksLimit: 12 },
            grid: { display: false },
            title: { display: true, text: "s", color: soft },
          },
          y: { ticks: { color: ink, font }, grid: { color: hair }, title: { display: true, text: "A", color: soft } },
        },
      },
    };
  }, [points]);
  const rows: [string, string, string][] = [
    ["mean", say(figures.mean, "current", "up"), "what a pack gives on average"],
    ["r.m.s.", say(figures.rms, "current", "up"), "what heats wires and plugs"],
    ["most", say(figures.most, "current", "up"), `the slowest step is ${say(figures.slowest, "time")}: shorter peaks were not seen`],
    ["95 % of the time below", say(figures.usualMost, "current", "up"), ""],
    ["least", say(figures.least, "current"), ""],
    ["on", say(figures.duty * 100, "percent"), `of the time, with ${say(figures.onMean, "current", "up")} while it is on`],
    ["peaks", String(figures.peaks), "times above half of the most"],
    ["lasts", sayDuration(figures.lasts), `${figures.samples} samples`],
    ...(figures.leastVolts === null
      ? []
      : ([["least volts", say(figures.leastVolts, "voltage", "down"), `mean ${say(figures.meanVolts ?? 0, "voltage")}`]] as [
          string,
          string,
          string,
        ][])),
  ];
  return (
    <>
      <div className="mt-2 h-[200px] max-w-[860px]">
        <ChartCanvas
          make={make}
          label={`Amps over ${sayDuration(figures.lasts)}: mean ${say(figures.mean, "current")}, most ${say(figures.most, "current")}`}
        />
      </div>
      <dl className="mt-2 grid max-w-[860px] grid-cols-[repeat(auto-fill,minmax(260px,1fr))] gap-x-6 text-sm">
        {rows.map(([name, value, note]) => (
          <div key={name} className="border-b border-hair py-1">
            <dt className="inline text-soft">{name} </dt>
            <dd className="inline">
              <b className="fig">{value}</b> <span className="text-xs text-soft">{note}</span>
            </dd>
          </div>
        ))}
      </dl>
    </>
  );
}

const BECOMES = [
  { value: "rms", label: "its r.m.s., for what heats" },
  { value: "mean", label: "its mean" },
  { value: "onMean", label: "its mean while on" },
  { value: "most", label: "its most" },
] as const;

/** Which figure of the log goes where: into a load's cell of a mode, or as a mode of its own. */
function Use({ figures }: { figures: LogFigures }) {
  const machine = useWorkbench((state) => state.machine);
  const undo = useWorkbench((state) => state.undo);
  const { act } = useDispatch();
  const loads = machine.parts.filter((part): part is Load => part.kind === "load");
  const [loadId, setLoad] = useState<string | undefined>(undefined);
  const [modeId, setMode] = useState<string>(machine.modes.find(({ id }) => id !== machine.modes[0]?.id)?.id ?? NEW_MODE);
  const [becomes, setBecomes] = useState<(typeof BECOMES)[number]["value"]>("rms");
  const load = loads.find(({ id }) => id === loadId);
  const amps = Number(figures[becomes].toPrecision(4));
  const command = load ? logCommand(machine, load, modeId, amps, figures.lasts) : null;
  const options = [
    ...machine.modes.map(({ id, name }) => ({ value: id, label: name })),
    { value: NEW_MODE, label: "a mode of its own, the rest as usual" },
    ...LEVEL_OPTIONS,
  ];
  return (
    <section className="mt-4 max-w-[860px]" aria-label="Into the plan">
      <h3 className="text-sm font-bold">
        <Explained>Into the plan</Explained>
      </h3>
      <p className="mt-1 flex flex-wrap items-baseline gap-2 text-sm">
        <Select
          aria-label="load"
          value={loadId}
          none="choose a load"
          options={loads.map(({ id, name }) => ({ value: id, label: name }))}
          onChange={setLoad}
        />{" "}
        draws
        <Select aria-label="which figure" value={becomes} options={BECOMES} onChange={always((next) => setBecomes(next))} />,{" "}
        <b className="fig">{say(amps, "current")}</b>, in
        <Select aria-label="mode" value={modeId} options={options} onChange={always(setMode)} />
      </p>
      {load && command && (
        <TriedPanel of="current log" command={command}>
          <Button
            kind="main"
            onClick={() => {
              if (act(command))
                toast(`In the plan: ${load.name}, ${say(amps, "current")} measured`, { action: { label: "Undo", onClick: () => undo() } });
            }}
          >
            Take it into the plan
          </Button>
        </TriedPanel>
      )}
    </section>
  );
}

const LEVEL_OPTIONS = [
  { value: "level run", label: "general, as its rated current" },
  { value: "level start", label: "general, as its start current" },
  { value: "level stall", label: "general, as its stall current" },
] as const;
