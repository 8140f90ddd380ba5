import { clsx } from "clsx";

export interface Column {
  label: string;
  /** Figures: right-aligned. */
  num?: boolean;
  /** Named for readers, not shown. */
  hidden?: boolean;
  className?: string;
}

/** The head of a ledger table; long names (modes are the builder's own words) are cut, with the whole name as a tip. */
export function TableHead({ columns, sticky }: { columns: readonly Column[]; sticky?: boolean }) {
  // Two modes may bear the same name, so a column is known by its place.
  const keyed = columns.map((column, index) => ({ ...column, key: `${index}` }));
  return (
    <thead className={sticky ? "sticky top-0 z-10" : undefined}>
      <tr>
        {keyed.map(({ key, label, num, hidden, className }) => (
          <th key={key} scope="col" className={clsx(num && "num", className)}>
            <span className={hidden ? "sr-only" : "inline-block max-w-[130px] truncate align-bottom"} title={hidden ? undefined : label}>
              {label}
            </span>
          </th>
        ))}
      </tr>
    </thead>
  );
}

const num = (label: string): Column => ({ label, num: true });

/** Columns from words: a label that ends in "#" holds figures. */
export function columns(...labels: readonly string[]): Column[] {
  return labels.map((label) => (label.endsWith("#") ? num(label.slice(0, -1)) : { label }));
}
