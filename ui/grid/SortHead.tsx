"use client";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useMemo, useState } from "react";

export interface SortColumn {
  key: string;
  label: string;
  /** Figures: right-aligned. */
  num?: boolean;
  className?: string;
}

export type Sort = { key: string; down: boolean } | null;

function compare(a: number | string, b: number | string): number {
  return typeof a === "string" || typeof b === "string" ? String(a).localeCompare(String(b)) : a - b;
}

/** Rows in the order asked for; as they come until somebody asks. `read` must not change between renders. */
export function useSorted<T>(rows: readonly T[], read: (row: T, key: string) => number | string) {
  const [sort, setSort] = useState<Sort>(null);
  const sorted = useMemo(() => {
    if (!sort) return rows;
    return [...rows].sort((a, b) => (sort.down ? -1 : 1) * compare(read(a, sort.key), read(b, sort.key)));
  }, [rows, sort, read]);
  return { rows: sorted, sort, setSort };
}

/** The head of a table whose columns sort, each by a button. `last` names a column of actions. */
export function SortHead({
  columns,
  sort,
  setSort,
  last,
}: {
  columns: readonly SortColumn[];
  sort: Sort;
  setSort: (sort: Sort) => void;
  last?: string;
}) {
  return (
    <thead className="sticky top-0 z-10 bg-paper">
      <tr>
        {columns.map(({ key, label, num, className }) => (
          <th
            key={key}
            scope="col"
            className={`${num ? "num" : ""} ${className ?? ""}`}
            aria-sort={sort?.key === key ? (sort.down ? "descending" : "ascending") : "none"}
          >
            <button
              type="button"
              className="inline-flex items-center gap-1 font-semibold"
              onClick={() => setSort(sort?.key === key ? { key, down: !sort.down } : { key, down: false })}
            >
              {label}
              {sort?.key === key && (sort.down ? <ArrowDown size={12} aria-hidden /> : <ArrowUp size={12} aria-hidden />)}
            </button>
          </th>
        ))}
        {last && (
          <th scope="col" className="w-[60px]">
            <span className="sr-only">{last}</span>
          </th>
        )}
      </tr>
    </thead>
  );
}
