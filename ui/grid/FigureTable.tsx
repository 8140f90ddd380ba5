"use client";
import { clsx } from "clsx";
import { ArrowDown, ArrowUp } from "lucide-react";
import { type ComponentProps, type CSSProperties, type ReactNode, useState } from "react";
import { Figure } from "../figure/Figure";
import { Explained, MarkOf } from "../words/Explained";
import { useWorkbench } from "../workbench/context";
import { type Column, fixedLayout, NARROW_HIDDEN } from "./TableHead";
import { useGridKeys } from "./useGridKeys";

/** Where a cell stands: whatever takes the focus there carries it, so that arrow keys find it. */
export interface CellPlace {
  r: number;
  c: number;
}

type FigureOf = Omit<ComponentProps<typeof Figure>, "cell">;

/** A column told once: its head, its cells, and by what it sorts. Its place among the others is its number for arrow keys. */
export interface TableColumn<R> extends Omit<Column, "className"> {
  /** Stands in the head in place of the label, which then only names the column. */
  head?: ReactNode;
  headClass?: string;
  cell: (row: R, place: CellPlace) => ReactNode;
  /** Classes of its cells, besides those that figures and narrow screens ask for. */
  cellClass?: string | ((row: R) => string | false | undefined);
  /** What it sorts by; a column without stays as it is. */
  sortBy?: (row: R) => number | string;
}

/** A cell that holds one figure with its working; where there is none, a dash or what is given. */
export function figure<R>(of: (row: R) => FigureOf | false | null | undefined, none: ReactNode = <None />): TableColumn<R>["cell"] {
  return (row, place) => {
    const props = of(row);
    return props ? <Figure {...props} cell={place} /> : none;
  };
}

export function None({ children = "–" }: { children?: ReactNode }) {
  return <span className="text-soft">{children}</span>;
}

/** What names a row: its first stop for arrow keys. */
export function RowName({ place, children, ...rest }: { place: CellPlace; children: ReactNode } & ComponentProps<"button">) {
  return (
    <button type="button" data-r={place.r} data-c={place.c} className="block w-full truncate text-left" {...rest}>
      {children}
    </button>
  );
}

type Sort = { column: number; down: boolean } | null;

function compare(a: number | string, b: number | string): number {
  return typeof a === "string" || typeof b === "string" ? String(a).localeCompare(String(b)) : a - b;
}

interface Props<R> {
  /** A string names the table for readers; anything else is shown above it. */
  caption: ReactNode;
  columns: readonly TableColumn<R>[];
  rows: readonly R[];
  keyOf: (row: R) => string;
  /** Shown in place of a table without rows. */
  empty?: ReactNode;
  /** Columns keep their widths; those without one have at least this room for their content, px. Absent: the browser measures. */
  rest?: number;
  /** The part a row stands for: marked when it is the chosen one. */
  partOf?: (row: R) => string;
  /** Chooses a row by click or by focus; where absent and rows stand for parts, the part is chosen. */
  onChoose?: (row: R) => void;
  chosen?: (row: R) => boolean;
  rowClass?: (row: R, index: number) => string | false | undefined;
  rowTitle?: (row: R) => string | undefined;
  className?: string;
  sticky?: boolean;
  /** The head is only told to readers: the cells speak for themselves. */
  headless?: boolean;
  /** Shows at most so many rows, after sorting. */
  most?: number;
  /** Rows below those of the table, over all columns. */
  foot?: ReactNode;
}

/**
 * A table told by columns: head, cells, sorting, places for arrow keys and the empty state come from one description, so that
 * none can be out of step with another. Rows that stand for parts choose their part.
 */
export function FigureTable<R>(props: Props<R>) {
  if (props.rows.length === 0 && props.empty !== undefined) return props.empty;
  return props.partOf ? <PartTable {...props} partOf={props.partOf} /> : <Table {...props} />;
}

/** Its rows stand for parts: they choose theirs, and mark the chosen one. */
function PartTable<R>(props: Props<R> & { partOf: (row: R) => string }) {
  const selected = useWorkbench((state) => state.selected);
  const select = useWorkbench((state) => state.select);
  const { partOf, chosen = (row: R) => partOf(row) === selected, onChoose = (row: R) => select(partOf(row)) } = props;
  return <Table {...props} chosen={chosen} onChoose={onChoose} />;
}

function Table<R>(props: Props<R>) {
  const { caption, columns, rows, keyOf, rest, partOf, onChoose, chosen, rowClass, rowTitle, className, sticky, headless, most, foot } =
    props;
  const [sort, setSort] = useState<Sort>(null);
  const by = sort === null ? undefined : columns[sort.column]?.sortBy;
  const sorted = sort && by ? [...rows].sort((a, b) => (sort.down ? -1 : 1) * compare(by(a), by(b))) : rows;
  const shown = most === undefined ? sorted : sorted.slice(0, most);
  const onKeyDown = useGridKeys(shown.length, columns.length);
  const layout: CSSProperties | undefined = rest === undefined ? undefined : fixedLayout(columns, rest);
  // Two columns may bear the same words (modes are the builder's), so a column is known by its place.
  const placed = columns.map((column, c) => ({ column, c, key: `${c}` }));
  return (
    <table className={clsx("ledger", className)} style={layout} onKeyDown={onKeyDown}>
      {typeof caption === "string" ? <caption className="sr-only">{caption}</caption> : caption}
      <thead className={headless ? "sr-only" : sticky ? "sticky top-0 z-10 bg-paper" : undefined}>
        <tr>
          {placed.map(({ column, c, key }) => (
            <th
              key={key}
              scope="col"
              className={clsx(column.num && "num", column.wideOnly && NARROW_HIDDEN, column.headClass)}
              style={
                column.width === undefined || rest === undefined ? undefined : { width: `calc(${column.width}px + 2 * var(--cell-pad))` }
              }
              aria-sort={column.sortBy && (sort?.column === c ? (sort.down ? "descending" : "ascending") : "none")}
            >
              <Head column={column} sort={sort?.column === c ? sort : null} onSort={(down) => setSort({ column: c, down })} />
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {shown.map((row, r) => (
          <tr
            key={keyOf(row)}
            data-row={partOf?.(row)}
            aria-selected={chosen?.(row)}
            className={(rowClass?.(row, r) ?? false) || undefined}
            title={rowTitle?.(row)}
            onFocus={onChoose && (() => onChoose(row))}
            onClick={onChoose && (() => onChoose(row))}
          >
            {placed.map(({ column, c, key }) => (
              <td
                key={key}
                className={clsx(
                  column.num && "num",
                  column.wideOnly && NARROW_HIDDEN,
                  typeof column.cellClass === "function" ? column.cellClass(row) : column.cellClass,
                )}
              >
                {column.cell(row, { r, c })}
              </td>
            ))}
          </tr>
        ))}
        {foot}
      </tbody>
    </table>
  );
}

function Head<R>({ column, sort, onSort }: { column: TableColumn<R>; sort: Sort; onSort: (down: boolean) => void }) {
  const { label, head, hidden, sortBy } = column;
  if (hidden) return <span className="sr-only">{label}</span>;
  if (sortBy)
    return (
      <>
        <button type="button" className="inline-flex items-center gap-1 font-semibold" onClick={() => onSort(sort ? !sort.down : false)}>
          {head ?? label}
          {sort && (sort.down ? <ArrowDown size={12} aria-hidden /> : <ArrowUp size={12} aria-hidden />)}
        </button>
        <MarkOf text={label} />
      </>
    );
  if (head) return head;
  return (
    <span className="inline-block max-w-[min(130px,100%)] truncate align-bottom" title={label}>
      <Explained most={1}>{label}</Explained>
    </span>
  );
}
