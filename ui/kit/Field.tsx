"use client";
import { type ReactNode, useId } from "react";
import { MarkOf } from "../words/Explained";

interface Props {
  label: string;
  error?: string | null;
  hint?: string;
  /** In narrow panes: a slim label, and the hint as a tip on the label instead of a line of its own. */
  slim?: boolean;
  children: (props: { id: string; "aria-invalid": boolean; "aria-describedby": string | undefined }) => ReactNode;
}

/** A labelled input with its message beside it, in one grid row: label, input, then hint or error below the input. */
export function Field({ label, error, hint, slim, children }: Props) {
  const id = useId();
  const note = error ?? (slim ? undefined : hint);
  return (
    <div
      data-explains
      className={`grid items-baseline gap-x-3 ${slim ? "grid-cols-[42%_minmax(0,1fr)] py-0.5" : "grid-cols-[150px_minmax(0,1fr)] py-1"}`}
    >
      <span className={slim ? "text-[12.5px]" : "text-sm"}>
        <label htmlFor={id} title={slim ? hint : undefined}>
          {label}
        </label>
        <MarkOf text={label} />
      </span>
      {children({ id, "aria-invalid": Boolean(error), "aria-describedby": note ? `${id}-note` : undefined })}
      {note && (
        <p
          id={`${id}-note`}
          role={error ? "alert" : undefined}
          className={`col-start-2 text-xs ${error ? "font-semibold text-stop dark:text-fix" : "text-soft"}`}
        >
          {note}
        </p>
      )}
    </div>
  );
}
