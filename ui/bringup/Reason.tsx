"use client";
import { type FormEvent, useId, useState } from "react";

interface Props {
  label: string;
  button: string;
  /** What giving it does, on the button that does it. */
  act?: string;
  onGive: (reason: string) => void;
  large?: boolean;
}

/** Something that is left needs a reason in words: it opens where it is asked for, and stands in the log and among the verdicts. */
export function Reason({ label, button, act = "Go on", onGive, large }: Props) {
  const [open, setOpen] = useState(false);
  const [text, setText] = useState("");
  const [error, setError] = useState<string | null>(null);
  const id = useId();
  if (!open)
    return (
      <button type="button" className={large ? "min-h-[48px] border border-rule px-3" : "link text-sm"} onClick={() => setOpen(true)}>
        {button}
      </button>
    );
  const give = (event: FormEvent) => {
    event.preventDefault();
    const reason = text.trim();
    if (reason.length < 3) return setError("Say it in a few words.");
    setOpen(false);
    setText("");
    onGive(reason);
  };
  return (
    <form onSubmit={give} className={large ? "col-span-2 w-full" : "flex flex-wrap items-baseline gap-2"}>
      <label htmlFor={id} className="text-xs text-soft">
        {label}
      </label>
      <input
        id={id}
        // biome-ignore lint/a11y/noAutofocus: it was asked for by the button in its place
        autoFocus
        value={text}
        maxLength={300}
        aria-invalid={error !== null}
        aria-describedby={error ? `${id}-error` : undefined}
        onChange={(event) => {
          setText(event.target.value);
          setError(null);
        }}
        className={large ? "min-h-[48px] w-full border border-rule bg-sheet px-2" : "field w-[240px]"}
      />
      {error && (
        <span id={`${id}-error`} role="alert" className="text-xs font-semibold text-stop dark:text-fix">
          {error}
        </span>
      )}
      <span className="flex gap-2 pt-1">
        <button type="submit" className={`border border-ink ${large ? "min-h-[48px] px-4" : "px-2 text-sm"}`}>
          {act}
        </button>
        <button type="button" className={`text-soft ${large ? "min-h-[48px] px-4" : "text-sm"}`} onClick={() => setOpen(false)}>
          Cancel
        </button>
      </span>
    </form>
  );
}

/** Smoke, heat or a smell: always at hand, whatever stands open, and a verdict that stops until it is struck out. */
export function Smoke({ onGive, large }: Pick<Props, "onGive" | "large">) {
  return (
    <Reason
      label="Smoke, heat or smell: power off first, then what and where"
      button="Smoke: stop"
      act="Stop here"
      onGive={onGive}
      {...(large ? { large } : {})}
    />
  );
}
