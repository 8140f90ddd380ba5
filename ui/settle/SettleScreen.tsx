"use client";
import { useState } from "react";
import { toast } from "sonner";
import type { Settled } from "@/core/engine/settling";
import type { Named } from "@/core/settling/offers";
import type { Aim } from "@/core/settling/search";
import type { SettleChange } from "@/core/settling/settle";
import { countWord } from "@/core/verdicts/together";
import { analysedOf, analysisOf } from "@/state/findings";
import { BrokeOff } from "../kit/BrokeOff";
import { Button } from "../kit/Button";
import { SelectField } from "../kit/Select";
import { SeverityMark } from "../kit/Severity";
import { CountMarks } from "../verdicts/Counts";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { useSettlement } from "./useSettlement";
import { YoursList } from "./YoursList";

const AIMS: readonly { value: Aim; label: string }[] = [
  { value: "fewest", label: "fewest changes" },
  { value: "mass", label: "least mass to carry" },
  { value: "cost", label: "lowest usual price" },
];

/** How many of each severity. */
function countOf(named: readonly Named[]) {
  const counts = { stop: 0, fix: 0, watch: 0, ask: 0 };
  for (const { severity } of named) counts[severity]++;
  return counts;
}

function grams(massG: number): string {
  if (Math.abs(massG) < 0.5) return "–";
  const size = Math.abs(massG);
  return `${massG > 0 ? "+" : "−"}${size >= 1000 ? `${(size / 1000).toFixed(2)} kg` : `${Math.round(size)} g`}`;
}

interface RowProps {
  change: SettleChange;
  n: number;
  onTake: (change: SettleChange) => void;
  disabled: boolean;
}

function ChangeRow({ change, n, onTake, disabled }: RowProps) {
  const [open, setOpen] = useState(false);
  const { what, lines, settles, brings, massG, takes } = change;
  return (
    <li className="grid grid-cols-[28px_minmax(0,1fr)_minmax(90px,170px)_76px_56px] items-baseline gap-x-2 border-b border-hair px-4 py-2 max-sm:grid-cols-[24px_minmax(0,1fr)_56px]">
      <span className="fig text-sm">{n}</span>
      <div>
        <p className="text-sm leading-snug font-bold">{what}</p>
        <p className="text-xs leading-snug text-soft">
          {takes.money}; {takes.work}
        </p>
        {lines.length > 0 && (
          <button type="button" aria-expanded={open} className="text-xs text-soft hover:text-ink" onClick={() => setOpen(!open)}>
            <span aria-hidden>{open ? "▾" : "▸"}</span> {lines.length === 1 ? "what it is now" : `the ${countWord(lines.length)} of them`}
          </button>
        )}
        {open && (
          <ul className="mt-1 border-l border-hair pl-3 text-xs">
            {lines.map((line) => (
              <li key={line} className="py-0.5">
                {line}
              </li>
            ))}
          </ul>
        )}
        {brings.length > 0 && (
          <p className="mt-0.5 text-xs text-soft" title={brings.map(({ headline }) => headline).join("\n")}>
            brings <CountMarks counts={countOf(brings)} />{" "}
            {brings.some(({ severity }) => severity === "stop" || severity === "fix") && "until the rest is taken"}
          </p>
        )}
      </div>
      <span className="text-xs leading-snug max-sm:col-start-2" title={settles.map(({ headline }) => headline).join("\n")}>
        <CountMarks counts={countOf(settles)} />
      </span>
      <span className="fig text-right text-sm max-sm:hidden">{grams(massG)}</span>
      <button
        type="button"
        className="link text-right text-sm disabled:opacity-50 max-sm:col-start-3 max-sm:row-start-1"
        aria-label={`Take: ${what}`}
        disabled={disabled}
        onClick={() => onTake(change)}
      >
        take
      </button>
    </li>
  );
}

/** What is settled, in one line: the number that matters first. */
function Summary({ found, stale }: { found: Settled; stale: boolean }) {
  const settled = found.before.stop + found.before.fix - found.after.stop - found.after.fix;
  const grave = found.before.stop + found.before.fix;
  const count = found.changes.length;
  if (grave === 0)
    return (
      <p className="text-lg font-bold">
        {count === 0 ? "No Stop and no Fix is open" : "No Stop and no Fix is open; this gives every wire a size"}
      </p>
    );
  return (
    <p>
      <b className="block text-lg">
        {count === 0
          ? "No change that was tried settles any of it"
          : `${count} ${count === 1 ? "change settles" : "changes settle"} ${settled} of ${grave} Stops and Fixes`}
      </b>{" "}
      <span className="text-sm text-soft">
        {stale
          ? "as the plan was; looking again…"
          : `tried together on this plan, no new one comes up; ${found.before.all} open now, ${found.after.all} after`}
      </span>
    </p>
  );
}

/** The changes that settle the plan, tried together, and what only the builder can decide. */
export function SettleScreen() {
  const { trying } = useWorkbenchContext();
  const [aim, setAim] = useState<Aim>("fewest");
  const { act } = useDispatch();
  const machine = useWorkbench(analysedOf);
  const empty = useWorkbench((state) => state.machine.parts.length === 0);
  const known = useWorkbench((state) => analysisOf(state) !== null);
  const question = useSettlement(aim, machine);
  const { found, sofar, left } = question;

  const take = async (change: SettleChange) => {
    if (!machine) return;
    const tried = await trying.ask((service) => service.try(machine, change.command), Number.POSITIVE_INFINITY).catch(() => null);
    const stop = tried?.brings.find(({ severity }) => severity === "stop");
    if (stop) {
      toast.error(`Taken alone it would bring a Stop: ${stop.headline}. Take those above it first, or all of them.`);
      return;
    }
    if (!act(change.command)) return;
    left(change);
    toast.success(`Done: ${change.what}. It settles ${change.settles.length}; Ctrl Z takes it back.`);
  };
  const takeAll = () => {
    if (!found || found.changes.length === 0) return;
    const label = `Settle the plan, ${found.changes.length} changes`;
    let done = 0;
    // One undo each, so that any of them can be taken back by itself.
    for (const { command } of found.changes) if (act(command)) done++;
    toast.success(`${label}: ${done} taken. Each Ctrl Z takes one back.`);
    left(null);
  };

  return (
    <div className="min-h-0 flex-1 overflow-auto" tabIndex={-1}>
      <div className="flex items-start gap-x-6 gap-y-1 border-b border-ink bg-strip px-4 py-3 max-sm:flex-col" aria-live="polite">
        <div className="min-w-0 flex-1">
          {found ? (
            <Summary found={found} stale={question.stale} />
          ) : (
            <p className="text-lg font-bold">
              {empty ? "Nothing to settle yet" : known ? "Looking for the changes that settle this plan" : "Working out the verdicts"}
            </p>
          )}
        </div>
        <div className="w-[250px] shrink-0 max-sm:w-full">
          <SelectField label="Aim" value={aim} options={AIMS} onChange={(next) => setAim(next ?? "fewest")} />
        </div>
      </div>
      {question.asking && (
        <div className="flex flex-wrap items-baseline gap-3 px-4 py-2 text-xs text-soft">
          <progress aria-label="Settling" value={question.progress?.done ?? 0} max={question.progress?.of ?? 1} className="w-28" />
          <span className="min-w-0 flex-1 truncate">{question.progress?.doing}</span>
          <button type="button" className="link" onClick={question.stop}>
            Stop
          </button>
        </div>
      )}
      {question.failed && <BrokeOff what="What settles the plan" again={question.start} />}
      {question.stopped && (
        <p className="px-4 py-3 text-sm">
          Stopped.{" "}
          <button type="button" className="link" onClick={question.start}>
            Look again
          </button>
        </p>
      )}
      {empty && (
        <p className="px-4 py-3 text-sm text-soft">
          Add a source and what it feeds: once rules find something, the changes that settle it stand here.
        </p>
      )}
      {!found && sofar.length > 0 && (
        <ol className="px-4 py-2 text-sm">
          {sofar.map((what) => (
            <li key={what} className="border-b border-hair py-1.5 font-semibold">
              {what}
            </li>
          ))}
        </ol>
      )}
      {found && found.changes.length > 0 && (
        <section aria-label="Do this">
          <div className="grid grid-cols-[28px_minmax(0,1fr)_minmax(90px,170px)_76px_56px] gap-x-2 border-b border-ink px-4 pt-2 pb-1 text-xs font-bold text-soft max-sm:hidden">
            <span />
            <span>do this</span>
            <span>settles</span>
            <span className="text-right">mass</span>
            <span />
          </div>
          <ol>
            {found.changes.map((change, i) => (
              <ChangeRow key={change.what} change={change} n={i + 1} onTake={(each) => void take(each)} disabled={question.stale} />
            ))}
          </ol>
          <div className="flex flex-wrap items-baseline gap-4 px-4 py-3 text-sm">
            <Button kind="main" onClick={takeAll} disabled={question.stale}>
              Take all {countWord(found.changes.length)}
            </Button>
            <span className="text-soft">one undo each</span>
          </div>
        </section>
      )}
      {found && <YoursList yours={found.yours} />}
      {found && found.yours.length === 0 && found.changes.length === 0 && found.before.stop + found.before.fix === 0 && (
        <p className="px-4 py-3 text-sm text-soft">
          What is left to watch or to measure stands among the verdicts. <SeverityMark severity="watch" /> is inside its limits;{" "}
          <SeverityMark severity="ask" /> wants a figure.
        </p>
      )}
    </div>
  );
}
