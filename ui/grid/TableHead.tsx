import { clsx } from "clsx";
import type { CSSProperties } from "react";
import { cssVariables } from "../kit/css";
import { Explained } from "../words/Explained";

/** For the cells of a column that is left out where the screen is narrow. */
export const NARROW_HIDDEN = "max-[1100px]:hidden";

export interface Column {
  label: string;
  /** Figures: right-aligned. */
  num?: boolean;
  /** Named for readers, not shown. */
  hidden?: boolean;
  className?: string;
  /** Room for the content in px, in a table of fixed layout; columns without share what is left. */
  width?: number;
  /** Left out where the screen is narrow; its cells must be hidden by `NARROW_HIDDEN` too. */
  wideOnly?: boolean;
}

/** The head of a ledger table; long names (modes are the builder's own words) are cut, with the whole name as a tip. */
export function TableHead({ columns, sticky }: { columns: readonly Column[]; sticky?: boolean }) {
  // Two modes may bear the same name, so a column is known by its place.
  const keyed = columns.map((column, index) => ({ ...column, key: `${index}` }));
  return (
    <thead className={sticky ? "sticky top-0 z-10" : undefined}>
      <tr>
        {keyed.map(({ key, label, num, hidden, className, width, wideOnly }) => (
          <th
            key={key}
            scope="col"
            className={clsx(num && "num", wideOnly && NARROW_HIDDEN, className)}
            style={width === undefined ? undefined : { width: `calc(${width}px + 2 * var(--cell-pad))` }}
          >
            <span
              className={hidden ? "sr-only" : "inline-block max-w-[min(130px,100%)] truncate align-bottom"}
              title={hidden ? undefined : label}
            >
              {hidden ? label : <Explained most={1}>{label}</Explained>}
            </span>
          </th>
        ))}
      </tr>
    </thead>
  );
}

/** Columns from words, each with its width in px or without: a label that ends in "#" holds figures. */
export function columns(...labels: readonly (string | readonly [label: string, width: number] | Column)[]): Column[] {
  return labels.map((each) => {
    if (typeof each === "object" && "label" in each) return each;
    const [text, width] = typeof each === "string" ? [each] : each;
    return { label: text.replace(/#$/, ""), ...(text.endsWith("#") ? { num: true } : {}), ...(width === undefined ? {} : { width }) };
  });
}

/**
 * Columns that keep their widths whatever their cells hold: nothing jumps while figures change, and the browser lays out
 * a changed row without measuring all the others.
 * @param rest least room for the content of a column without a width, px
 */
export function fixedLayout(columns: readonly Column[], rest: number): CSSProperties {
  const least = (shown: readonly Column[]) =>
    `calc(${shown.reduce((sum, { width }) => sum + (width ?? rest), 0)}px + ${2 * shown.length} * var(--cell-pad))`;
  const narrow = columns.filter(({ wideOnly }) => !wideOnly);
  return cssVariables({ "--least-wide": least(columns), "--least-narrow": least(narrow) }, { tableLayout: "fixed" });
}

/**
 * The same for a table of class `rows`: each row is a grid of its own with these columns and of one height, so that the
 * browser lays out and paints a changed row alone. In a table of several hundred cells that is most of an edit's time.
 */
export function rowGrid(columns: readonly Column[], rest: number): CSSProperties {
  const tracks = (shown: readonly Column[]) =>
    shown
      .map(({ width }) => `calc(${width ?? rest}px + 2 * var(--cell-pad))`)
      .map((least, i) => (shown[i]?.width === undefined ? `minmax(${least}, 1fr)` : least))
      .join(" ");
  const narrow = columns.filter(({ wideOnly }) => !wideOnly);
  return cssVariables({ "--columns-wide": tracks(columns), "--columns-narrow": tracks(narrow) }, fixedLayout(columns, rest));
}
