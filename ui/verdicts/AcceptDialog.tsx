"use client";
import { type FormEvent, useId, useState } from "react";
import { REASON_MIN } from "@/core/machine/decision-schema";
import type { DecisionKind } from "@/core/machine/schema";
import { decisionOn } from "@/core/verdicts/decided";
import { analysisOf } from "@/state/findings";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { SeverityMark } from "../kit/Severity";
import { useDispatch, useWorkbench } from "../workbench/context";

const KINDS: readonly { value: DecisionKind; label: string; hint: string }[] = [
  { value: "accepted", label: "It stays as it is", hint: "you know of it, and why it does no harm" },
  { value: "later", label: "Later", hint: "put off, not settled" },
  { value: "not mine", label: "Not mine", hint: "somebody else has to settle it" },
];

/** Accepts a verdict with a reason, or puts it off. It comes back when its figures get worse than today. */
export function AcceptDialog({ ids, onClose }: { ids: readonly string[]; onClose: () => void }) {
  const all = useWorkbench((state) => analysisOf(state)?.verdicts);
  const verdicts = ids.flatMap((each) => all?.find((verdict) => verdict.id === each) ?? []);
  const [verdict] = verdicts;
  const { dispatch } = useDispatch();
  const [kind, setKind] = useState<DecisionKind>("accepted");
  const [reason, setReason] = useState("");
  const [error, setError] = useState<string | null>(null);
  const id = useId();
  if (!verdict) return null;
  const isStop = verdicts.some(({ severity }) => severity === "stop");
  const must = isStop || kind === "accepted";
  const give = (event: FormEvent) => {
    event.preventDefault();
    if (must && reason.trim().length < REASON_MIN)
      return setError(isStop ? "A Stop is left only with a reason: why is it safe?" : "Say why in a few words.");
    const commands = verdicts.map((each) => ({ type: "decide" as const, decision: decisionOn(each, kind, reason, new Date()) }));
    const [only] = commands;
    const label = `${kind === "accepted" ? "Accept" : "Put off"} ${commands.length} verdicts`;
    const done = dispatch(commands.length === 1 && only ? only : { type: "batch", label, commands });
    if (!done.ok) return setError(done.message);
    onClose();
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Accept or put off"
      description="It is kept in the plan with today's figures, stands struck through with its reason, also on the sheet, and comes back by itself when it gets worse."
    >
      <p className="text-sm">
        <SeverityMark severity={verdict.severity} /> <b>{verdict.headline}</b>
      </p>
      {verdicts.length > 1 && (
        <details className="mt-1 text-xs">
          <summary className="cursor-pointer text-soft">and {verdicts.length - 1} more of its kind</summary>
          <ul className="mt-1 border-l border-hair pl-3">
            {verdicts.slice(1).map(({ id: each, headline, severity }) => (
              <li key={each}>
                {headline} <SeverityMark severity={severity} />
              </li>
            ))}
          </ul>
        </details>
      )}
      {isStop && (
        <p className="mt-2 text-xs font-semibold text-stop dark:text-fix">
          A Stop says that something can burn, burst, be destroyed or move by itself. Accepting it changes nothing of that.
        </p>
      )}
      <form onSubmit={give} className="mt-3">
        <label htmlFor={id} className="text-sm font-semibold">
          Reason{must ? "" : " (may stay empty)"}
        </label>
        <input
          id={id}
          value={reason}
          maxLength={500}
          aria-invalid={error !== null}
          aria-describedby={error ? `${id}-error` : undefined}
          onChange={(event) => {
            setReason(event.target.value);
            setError(null);
          }}
          className="field mt-1 w-full"
        />
        {error && (
          <p id={`${id}-error`} role="alert" className="mt-1 text-xs font-semibold text-stop dark:text-fix">
            {error}
          </p>
        )}
        <fieldset className="mt-3">
          <legend className="sr-only">What becomes of it</legend>
          {KINDS.map(({ value, label, hint }) => (
            <label key={value} className="flex items-baseline gap-2 py-0.5 text-sm">
              <input type="radio" name={`${id}-kind`} checked={kind === value} onChange={() => setKind(value)} />
              <span>
                {label} <span className="text-xs text-soft">{hint}</span>
              </span>
            </label>
          ))}
        </fieldset>
        <div className="mt-4 flex gap-2">
          <Button kind="main" type="submit">
            {kind === "accepted" ? "Accept it" : "Put it off"}
          </Button>
          <Button onClick={onClose}>Leave it open</Button>
        </div>
      </form>
    </Dialog>
  );
}
