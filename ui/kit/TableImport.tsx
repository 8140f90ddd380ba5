"use client";
import { type ReactNode, useMemo, useRef, useState } from "react";
import { asTable, type Column, type Mapping, type ReadRow, ROWS_MOST, type Sheeted } from "@/core/exchange/columns";
import { CSV_MOST, csvText } from "@/core/exchange/csv";
import { FigureTable } from "../grid/FigureTable";
import { Explained } from "../words/Explained";
import { Button } from "./Button";
import { FileInput } from "./FileInput";
import { Select } from "./Select";

/** Rows of a preview that are shown before anybody asks for more: those with trouble first. */
const SHOWN = 60;

interface Props<K extends string, T> {
  columns: readonly Column<K>[];
  /** How such a table may begin, as an example. */
  example: string;
  /** What is there already. */
  start?: string;
  read: (table: Sheeted<K>) => readonly ReadRow<T>[];
  /** A row as it was understood, in words. */
  say: (value: T) => ReactNode;
  /**
   * What stands under the preview: where rows go, and the button that takes them. `keepRest` leaves what was not taken in the
   * field, rows nobody understood and those that `left` names, to be mended; false: there is none, and the dialog may close.
   */
  children: (values: readonly T[], keepRest: (left?: (value: T) => boolean) => boolean) => ReactNode;
}

/** A table that is pasted or read from a file: its columns matched, every row with what came of it or what is wrong with it. */
export function TableImport<K extends string, T>({ columns, example, start = "", read, say, children }: Props<K, T>) {
  const [text, setText] = useState(start);
  const [own, setOwn] = useState<Mapping<K> | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [all, setAll] = useState(false);
  const file = useRef<HTMLInputElement>(null);
  const table = useMemo(() => (text.trim() === "" ? null : asTable(text, columns)), [text, columns]);
  const mapped = useMemo(() => table && { ...table, mapping: own ?? table.mapping }, [table, own]);
  const tooMany = (mapped?.rows.length ?? 0) > ROWS_MOST;
  const rows = useMemo(() => (mapped && !tooMany ? read(mapped) : []), [mapped, tooMany, read]);
  const values = useMemo(() => rows.flatMap(({ value }) => (value === null ? [] : [value])), [rows]);
  const wrong = rows.filter(({ value }) => value === null);
  const ordered = useMemo(() => [...rows.filter(({ value }) => value === null), ...rows.filter(({ value }) => value !== null)], [rows]);
  const take = (next: string) => {
    setText(next);
    setOwn(null);
    setAll(false);
    setTrouble(null);
  };
  const keepRest = (left?: (value: T) => boolean) => {
    const rest = mapped
      ? rows.filter(({ value }) => value === null || left?.(value)).map(({ row }) => mapped.rows[row - mapped.firstRow] ?? [])
      : [];
    if (rest.length === 0) return false;
    // Columns that were matched by hand stay so.
    setText(csvText({ head: mapped?.headings ?? rest[0] ?? [], rows: mapped?.headings ? rest : rest.slice(1) }));
    return true;
  };
  const choose = async (given: File) => {
    if (given.size > CSV_MOST) return setTrouble(`${given.name} has ${Math.ceil(given.size / 1048576)} MB: a list has at most 8 MB.`);
    take(await given.text());
  };
  const width = Math.max(0, ...(mapped ? [mapped.headings?.length ?? 0, ...mapped.rows.slice(0, 20).map((cells) => cells.length)] : []));
  return (
    <div>
      <div className="flex flex-wrap items-baseline gap-3">
        <label htmlFor="pasted" className="text-sm font-semibold">
          Paste a table, with or without headings
        </label>
        <Button onClick={() => file.current?.click()}>Or choose a file</Button>
        <FileInput label="A table" accept=".csv,.tsv,.txt,text/csv,text/plain" opener={file} onFile={(given) => void choose(given)} />
      </div>
      <textarea
        id="pasted"
        rows={mapped ? 3 : 7}
        spellCheck={false}
        className="field fig mt-1 w-full resize-y border border-rule px-2 py-1 text-xs"
        placeholder={example}
        value={text}
        onChange={(event) => take(event.target.value)}
      />
      {(trouble ?? tooMany) && (
        <p role="alert" className="text-sm font-semibold text-stop dark:text-fix">
          {trouble ?? `This table has ${mapped?.rows.length} rows; at most ${ROWS_MOST} are taken at once.`}
        </p>
      )}
      {mapped && !tooMany && (
        <>
          <h3 className="mt-3 text-sm font-bold">
            <Explained>Columns</Explained>
          </h3>
          <div className="flex flex-wrap gap-x-5 gap-y-1 py-1">
            {Array.from({ length: Math.min(width, 30) }, (_, at) => {
              const heading = mapped.headings?.[at] || `column ${at + 1}`;
              const key = columns.find((column) => mapped.mapping[column.key] === at)?.key;
              return (
                <label key={heading + String(at)} className="text-xs">
                  <span className="text-soft">{heading.slice(0, 30)}</span>{" "}
                  <Select
                    aria-label={`What is ${heading}`}
                    value={key ?? ""}
                    options={[
                      { value: "", label: "left out" },
                      ...columns.map((column) => ({ value: column.key as string, label: column.label })),
                    ]}
                    onChange={(chosen) => {
                      const rest = Object.fromEntries(
                        Object.entries(mapped.mapping).filter(([name, place]) => place !== at && name !== chosen),
                      ) as Mapping<K>;
                      setOwn(chosen ? ({ ...rest, [chosen]: at } as Mapping<K>) : rest);
                    }}
                  />
                </label>
              );
            })}
          </div>
          <p className="mt-2 text-sm" role="status">
            <span className="fig text-lg font-bold">{values.length}</span> of {rows.length} row{rows.length === 1 ? "" : "s"} understood
            {wrong.length > 0 && <span className="font-semibold text-fix">, {wrong.length} not</span>}.
          </p>
          <div className="max-h-[34vh] overflow-auto">
            <FigureTable
              sticky
              className="[&_td]:!whitespace-normal [&_td]:align-top"
              caption="Rows"
              rows={all ? ordered : ordered.slice(0, SHOWN)}
              keyOf={({ row }) => `${row}`}
              columns={[
                { label: "Row", num: true, headClass: "w-[52px]", cellClass: "fig text-soft", cell: ({ row }) => row },
                {
                  label: "What came of it",
                  cell: ({ value, troubles }) =>
                    value === null ? (
                      <ul>
                        {troubles.map(({ column, text: cell, why }) => (
                          <li key={column + why}>
                            <span className="font-bold text-fix">{column}</span>
                            {cell && <span className="fig"> {cell.slice(0, 60)}</span>}: {why}
                          </li>
                        ))}
                      </ul>
                    ) : (
                      say(value)
                    ),
                },
              ]}
            />
          </div>
          {!all && ordered.length > SHOWN && (
            <button type="button" className="link mt-1 text-sm" onClick={() => setAll(true)}>
              Show the other {ordered.length - SHOWN}
            </button>
          )}
          {children(values, keepRest)}
        </>
      )}
    </div>
  );
}
