"use client";
import { useState } from "react";
import { type HistoryLine, nameRevision } from "@/state/api";
import { useWorkbench } from "./context";

/** The name of a version: given, changed or taken away where it stands. */
export function VersionName({ line, onNamed }: { line: HistoryLine; onNamed: () => void }) {
  const id = useWorkbench((state) => state.id);
  const [text, setText] = useState<string | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const keep = async (name: string | null) => {
    const done = await nameRevision(id, line.revision, name);
    if (!done.ok) return setRefused(done.detail);
    setText(null);
    setRefused(null);
    onNamed();
  };
  if (text === null)
    return (
      <button
        type="button"
        className="link px-1 py-1 text-xs"
        aria-label={`${line.name ? "Rename" : "Name"} revision ${line.revision}`}
        onClick={() => setText(line.name ?? "")}
      >
        {line.name ? "Rename" : "Name it"}
      </button>
    );
  return (
    <form
      className="flex flex-wrap items-baseline gap-1"
      onSubmit={(event) => {
        event.preventDefault();
        void keep(text.trim() === "" ? null : text.trim());
      }}
    >
      <input
        // Opened by the button it stands in the place of.
        ref={(element) => element?.focus()}
        aria-label={`Name of revision ${line.revision}`}
        className="field w-[150px] text-xs"
        maxLength={80}
        value={text}
        placeholder="first power-up"
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          if (event.key !== "Escape") return;
          event.stopPropagation();
          setText(null);
        }}
      />
      <button type="submit" className="link py-1 text-xs">
        Keep
      </button>
      {refused && (
        <span role="alert" className="w-full text-xs font-semibold text-stop dark:text-fix">
          {refused}
        </span>
      )}
    </form>
  );
}
