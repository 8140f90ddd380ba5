"use client";
import { useState } from "react";

interface Props {
  label: string;
  value: string;
  onCommit: (value: string) => { ok: true } | { ok: false; message: string };
  className?: string;
  maxLength?: number;
}

/** A text that saves itself on Enter and on leaving; an empty name is refused beside the field and the old one kept. */
export function TextInput({ label, value, onCommit, className = "w-full", maxLength = 80 }: Props) {
  const [draft, setDraft] = useState<string | null>(null);
  const [error, setError] = useState<string | null>(null);
  const finish = () => {
    if (draft === null || draft === value) return setDraft(null);
    const result = draft.trim() === "" ? { ok: false as const, message: "Give it a name." } : onCommit(draft.trim());
    if (!result.ok) return setError(result.message);
    setError(null);
    setDraft(null);
  };
  return (
    <span className="block">
      <input
        aria-label={label}
        aria-invalid={Boolean(error)}
        className={`field ${className}`}
        value={draft ?? value}
        maxLength={maxLength}
        onChange={(event) => {
          setDraft(event.target.value);
          setError(null);
        }}
        onBlur={finish}
        onKeyDown={(event) => {
          if (event.key === "Enter") finish();
          if (event.key === "Escape" && draft !== null) {
            event.stopPropagation();
            setDraft(null);
            setError(null);
          }
        }}
      />
      {error && (
        <span role="alert" className="block text-xs font-semibold text-stop dark:text-fix">
          {error}
        </span>
      )}
    </span>
  );
}
