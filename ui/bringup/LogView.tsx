"use client";
import { format, parseISO } from "date-fns";
import { useMemo, useRef, useState } from "react";
import { toast } from "sonner";
import type { Judged } from "@/core/bringup/judge";
import type { Reading } from "@/core/bringup/log";
import { readWords } from "@/core/bringup/words";
import { csvText, readHeaded } from "@/core/exchange/csv";
import { READING_COLUMNS, readingRows, readReadings } from "@/core/exchange/readings";
import { INSTRUMENTS } from "@/core/reference/instruments";
import { freshKey } from "@/state/keys";
import { FigureTable, RowName } from "../grid/FigureTable";
import { download } from "../kit/download";
import { FileInput } from "../kit/FileInput";
import { Select } from "../kit/Select";
import { useLog, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { TimeChart } from "./TimeChart";
import { STATE_WORDS } from "./words";

const WAYS: Readonly<Record<Reading["way"], string>> = { typed: "typed", bench: "bench", phone: "phone", imported: "imported" };

/** Everything that was read, newest first: filtered, over time, out to a file and in from one. */
export function LogView({ judged }: { judged: Judged }) {
  const { log } = useWorkbenchContext();
  const name = useWorkbench((state) => state.machine.name);
  const readings = useLog((state) => state.log.readings);
  const [text, setText] = useState("");
  const [stage, setStage] = useState<string | undefined>(undefined);
  const [chosen, setChosen] = useState<string | null>(null);
  const [wrong, setWrong] = useState<readonly { row: number; why: string }[]>([]);
  const file = useRef<HTMLInputElement>(null);
  const states = useMemo(
    () =>
      new Map(
        judged.stages.flatMap(({ steps }) => steps.flatMap(({ reading, state }) => (reading ? [[reading.queueId, state] as const] : []))),
      ),
    [judged],
  );
  const titles = useMemo(() => new Map(judged.stages.map((each) => [each.stage.id as string, each.stage.title])), [judged]);
  const words = text.trim().toLowerCase();
  const rows = [...readings]
    .reverse()
    .filter(
      (each) =>
        (stage === undefined || each.stage === stage) && (words === "" || `${each.place} ${each.note}`.toLowerCase().includes(words)),
    );
  const of = readings.find(({ queueId }) => queueId === chosen);
  const series = of
    ? readings.filter((each) => !each.struck && each.value !== null && (of.step === null ? each.place === of.place : each.step === of.step))
    : [];
  const take = async (given: File) => {
    const { rows: cells } = readHeaded(await given.text());
    const found = readReadings(cells, freshKey);
    setWrong(found.wrong);
    if (found.readings.length === 0) return void toast.error("No row of that file is a reading as the log writes them.");
    log.getState().add(found.readings);
    toast(`${found.readings.length} readings taken in${found.wrong.length > 0 ? `, ${found.wrong.length} rows not` : ""}.`);
  };
  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="flex flex-wrap items-baseline gap-x-4 gap-y-1 border-b border-hair px-3 py-1.5 text-sm">
        <label className="flex items-baseline gap-2">
          <span className="text-soft">Filter</span>
          <input className="field w-[180px]" value={text} onChange={(event) => setText(event.target.value)} placeholder="place or note" />
        </label>
        <label className="flex items-baseline gap-2">
          <span className="text-soft">Stage</span>
          <Select
            value={stage}
            none="all"
            options={judged.stages.map((each) => ({ value: each.stage.id as string, label: each.stage.title }))}
            onChange={setStage}
          />
        </label>
        <span className="text-xs text-soft">
          {rows.length} of {readings.length} readings
        </span>
        <span className="ml-auto flex gap-4">
          <button
            type="button"
            className="link"
            onClick={() => download(csvText({ head: READING_COLUMNS, rows: readingRows(readings) }), `${name} readings`, "csv")}
            disabled={readings.length === 0}
          >
            Readings as CSV
          </button>
          <button type="button" className="link" onClick={() => file.current?.click()}>
            Take in a CSV
          </button>
          <FileInput label="A CSV of readings" accept=".csv,text/csv" opener={file} onFile={(given) => void take(given)} />
        </span>
      </div>
      {wrong.length > 0 && (
        <p role="alert" className="border-b border-hair px-3 py-1 text-xs text-stop dark:text-fix">
          {wrong
            .slice(0, 5)
            .map(({ row, why }) => `Row ${row}: ${why}`)
            .join(". ")}
          {wrong.length > 5 && `, and ${wrong.length - 5} more`}.
        </p>
      )}
      <div className="pane min-h-0 flex-1 overflow-auto" tabIndex={-1}>
        <FigureTable
          caption="Readings, the newest first"
          rows={rows}
          keyOf={({ queueId }) => queueId}
          chosen={({ queueId }) => queueId === chosen}
          onChoose={({ queueId }) => setChosen(queueId)}
          rowClass={({ struck }) => struck && "text-soft line-through"}
          sticky
          empty={<p className="p-4 text-sm text-soft">Nothing was read yet. The first stage says where to begin.</p>}
          columns={[
            { label: "When", cell: (row) => format(parseISO(row.takenAt), "d MMM HH:mm"), sortBy: ({ takenAt }) => takenAt },
            {
              label: "What, where",
              cellClass: "max-w-[250px]",
              cell: (row, place) => (
                <RowName place={place} title={row.place}>
                  {row.place}
                </RowName>
              ),
              sortBy: ({ place }) => place,
            },
            {
              label: "Read",
              num: true,
              cellClass: "fig font-bold",
              cell: (row) => readWords(row.quantity, row.value),
              sortBy: ({ value }) => value ?? Number.POSITIVE_INFINITY,
            },
            {
              label: "Expected",
              num: true,
              cellClass: "fig text-soft",
              cell: (row) => (row.expected === null ? "–" : readWords(row.quantity, row.expected)),
            },
            { label: "Stands", cell: (row) => stands(states, row) },
            { label: "Stage", wideOnly: true, cell: (row) => titles.get(row.stage ?? "") ?? "–" },
            { label: "Instrument", wideOnly: true, cell: (row) => INSTRUMENTS[row.instrument].name.split(",")[0] },
            { label: "How", wideOnly: true, cell: ({ way }) => WAYS[way] },
            { label: "Note", cellClass: "max-w-[110px] truncate", cell: ({ note }) => note },
            {
              label: "Strike out",
              hidden: true,
              cell: (row, { r, c }) => (
                <button
                  type="button"
                  data-r={r}
                  data-c={c}
                  className="link text-xs"
                  onClick={() => log.getState().strike(row.queueId, !row.struck)}
                >
                  {row.struck ? "Take it back in" : "Strike out"}
                </button>
              ),
            },
          ]}
        />
      </div>
      {of && series.length > 1 && <TimeChart title={of.place} quantity={of.quantity} readings={series} />}
    </div>
  );
}

function stands(states: ReadonlyMap<string, keyof typeof STATE_WORDS>, { queueId, struck, step }: Reading) {
  const state = states.get(queueId);
  if (struck) return "struck out";
  if (!state) return <span className="text-soft">{step === null ? "beside the plan" : "before the last"}</span>;
  return <span className={STATE_WORDS[state].className}>{STATE_WORDS[state].word}</span>;
}
