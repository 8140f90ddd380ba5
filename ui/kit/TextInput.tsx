"use client";
import { type Committed, useDraft } from "./useDraft";

interface Props {
  label: string;
  value: string;
  onCommit: (value: string) => Committed;
  className?: string;
  /** What to write where nothing is written; a name unless said otherwise. */
  empty?: string;
}

/** A name or other short text that saves itself; an empty one is refused beside the field and the old one kept. */
export function TextInput({ label, value, onCommit, className = "w-full", empty = "Give it a name." }: Props) {
  const { input, error } = useDraft(value, (text) => (text === "" ? { ok: false, message: empty } : onCommit(text)));
  return (
    <span className="block">
      <input {...input} aria-label={label} aria-invalid={Boolean(error)} className={`field ${className}`} maxLength={80} />
      {error && (
        <span role="alert" className="block text-xs font-semibold text-stop dark:text-fix">
          {error}
        </span>
      )}
    </span>
  );
}
