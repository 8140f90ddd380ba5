"use client";
import type { Tried } from "@/core/engine/bring-up";
import type { Command } from "@/core/machine/commands";
import { say } from "@/core/quantity/format";
import type { Verdict } from "@/core/verdicts/types";
import { BrokeOff } from "../kit/BrokeOff";
import { SeverityMark } from "../kit/Severity";
import { useBringUpAnswer } from "./useExplanation";

/** What a change would do to the plan, before it is taken: amps by mode, and verdicts that come and go. */
export function TriedPanel({ of, command, children }: { of: string; command: Command; children: React.ReactNode }) {
  const { value, failed, start } = useBringUpAnswer<Tried>(`tried ${of} ${JSON.stringify(command)}`, (service, machine) =>
    service.tried(machine, command),
  );
  if (failed) return <BrokeOff what="What it would change" again={start} />;
  if (!value) return <p className="py-2 text-sm text-soft">Working out what it would change…</p>;
  if (value.refused)
    return (
      <p role="alert" className="py-2 text-sm text-stop dark:text-fix">
        {value.refused}
      </p>
    );
  const moved = value.modes.filter(({ before, after }) => Math.abs(before - after) > 0.001 * Math.max(before, after, 0.1));
  return (
    <div className="border-l-4 border-accent py-1 pl-3 text-sm">
      {moved.length === 0 ? (
        <p>No mode's amps change.</p>
      ) : (
        <ul className="flex flex-wrap gap-x-5">
          {moved.map(({ name, before, after }) => (
            <li key={name}>
              {name} <span className="fig">{say(before, "current")}</span> → <b className="fig">{say(after, "current")}</b>
            </li>
          ))}
        </ul>
      )}
      <Verdicts title="Settles" verdicts={value.lost} none="It settles no verdict." />
      <Verdicts title="Brings" verdicts={value.gained} none="It brings no new one." />
      <div className="mt-1.5">{children}</div>
    </div>
  );
}

function Verdicts({ title, verdicts, none }: { title: string; verdicts: readonly Verdict[]; none: string }) {
  if (verdicts.length === 0) return <p className="text-xs text-soft">{none}</p>;
  return (
    <div className="mt-1">
      <p className="text-xs text-soft">{title}</p>
      <ul>
        {verdicts.map((verdict) => (
          <li key={`${verdict.id} ${verdict.severity}`} className="flex items-baseline gap-2 text-xs">
            <SeverityMark severity={verdict.severity} /> {verdict.headline}
          </li>
        ))}
      </ul>
    </div>
  );
}
