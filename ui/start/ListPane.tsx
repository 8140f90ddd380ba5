"use client";
import { useEffect, useEffectEvent, useId, useState } from "react";
import { isQuiet, spoken } from "@/core/drafting/read-list";
import { planWords } from "@/core/drafting/summary";
import { NAME_MAX } from "@/core/machine/schema";
import { say, sayDuration } from "@/core/quantity/format";
import { type Created, createBlank } from "@/state/api";
import { type DraftingThread, saveDraft } from "@/state/drafting";
import type { Drafted } from "@/workers/drafting.worker";
import { Button } from "../kit/Button";
import { Understood } from "./Understood";
import { useList } from "./useList";
import { usePreview } from "./usePreview";
import type { Waiting } from "./ways";

interface Props {
  thread: DraftingThread;
  /** What stands in the field at first. */
  first: Waiting;
  open: (result: Created, assumed: boolean) => boolean;
}

/** Lines up to which a draft is made while the builder pauses. */
const BY_ITSELF = 60;
const NAMELESS = "My machine";

/** The list at the left, what was understood at the right, and the plan it comes to below. */
export function ListPane({ thread, first, open }: Props) {
  const { text, setText: setList, setLine, list, reading, settled } = useList(thread, first.text);
  const [name, setName] = useState(first.name);
  /** Asked for: it is saved as soon as it is made. */
  const [asked, setAsked] = useState(false);
  const [saving, setSaving] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const id = useId();
  const lines = list ? spoken(list) : [];
  const stuck = lines.filter(({ reading: of, troubles }) => of === null || troubles.length > 0).length;
  const loads = lines.filter(({ reading: of, troubles }) => of !== null && !isQuiet(of) && troubles.length === 0).length;
  const wanted = loads > 0 && (asked || lines.length <= BY_ITSELF);
  const { drafted, fresh, failed, progress, make } = usePreview(thread, text, name.trim() === "" ? NAMELESS : name.trim(), wanted);
  const setText: typeof setList = (next) => {
    setAsked(false);
    setTrouble(null);
    setList(next);
  };
  const save = useEffectEvent(async (machine: Drafted["machine"]) => {
    setSaving(true);
    const result = await saveDraft(machine);
    setSaving(false);
    if (!open(result, true) && !result.ok) setTrouble(result.detail);
  });
  // Whoever asks before the list is read, or while a draft of it is being made, waits for that one.
  useEffect(() => {
    if (!asked || !settled) return;
    if (loads > 0 && !failed && !(fresh && drafted)) return;
    setAsked(false);
    if (loads === 0) setTrouble("Write at least one line that is understood: what feeds it, or what is in it.");
    else if (!failed && drafted) void save(drafted.machine);
  }, [asked, settled, loads, failed, fresh, drafted]);
  const busy = asked || saving;

  return (
    <div className="flex min-h-0 flex-1 flex-col">
      <div className="grid min-h-0 flex-1 grid-cols-[clamp(260px,30%,430px)_minmax(0,1fr)] max-desk:flex max-desk:flex-col max-desk:overflow-y-auto">
        <section className="flex min-h-0 flex-col border-r border-ink bg-sheet px-4 py-4 max-desk:border-r-0 max-desk:border-b">
          <label htmlFor={id} className="text-sm">
            <b>What is in the machine?</b> <span className="text-soft">One thing a line, as you would tell a friend.</span>
          </label>
          <textarea
            id={id}
            data-first
            // The page is for typing: nothing else on it is wanted first.
            ref={(element) => {
              if (element && element.dataset.met === undefined) {
                element.dataset.met = "yes";
                element.focus();
              }
            }}
            spellCheck={false}
            className="fig mt-3 min-h-[220px] flex-1 resize-none bg-transparent text-[13.5px] leading-[2] max-desk:min-h-[190px] max-desk:flex-none"
            placeholder={EXAMPLE}
            value={text}
            onChange={(event) => setText(event.target.value)}
          />
          <p className="pt-2 text-xs text-soft">Paste from a spreadsheet works too. Lines that are not understood stay here.</p>
        </section>
        <section aria-label="Understood" className="min-h-0 overflow-y-auto px-5 py-4 max-desk:overflow-visible max-desk:px-3">
          <h2 className="pb-2 text-sm">
            <b>What was understood</b> <span className="text-soft">{lines.length > 0 ? "click a word to change it" : "as you type"}</span>
          </h2>
          {reading && <p className="text-sm text-soft">reading a long list…</p>}
          {list && <Understood lines={list.lines} onLine={setLine} />}
          {list && list.beyond > 0 && (
            <p className="pt-2 text-sm text-fix">
              {list.beyond.toLocaleString("en")} lines more than are read at once: they stay in the field.
            </p>
          )}
          {lines.length === 0 && !reading && (
            <p className="max-w-prose py-3 text-sm text-soft">
              Motors with their volts and watts or amps, what feeds them, lights, boards. What you do not know stays open and is asked for.
            </p>
          )}
          {fresh && drafted && <Sources drafted={drafted} onPick={(line) => setText((now) => `${now.trimEnd()}\n${line}`)} />}
          {fresh && drafted && drafted.left.length > 0 && (
            <ul className="pt-3 text-xs text-soft" aria-label="Not in the draft">
              {drafted.left.slice(0, 6).map(({ number, text: of, why }) => (
                <li key={number}>
                  Not in the draft: <b>{of.trim().slice(0, 80)}</b>. {why}
                </li>
              ))}
            </ul>
          )}
        </section>
      </div>
      <footer className="flex shrink-0 flex-wrap items-center gap-x-5 gap-y-2 border-t-2 border-ink bg-strip px-4 py-3">
        <Button
          kind="main"
          className="!px-4 !py-2 text-base"
          disabled={busy}
          onClick={() => {
            setTrouble(null);
            if (failed) void make();
            setAsked(true);
          }}
        >
          {busy ? "Drafting…" : "Draft it"}
        </Button>
        <label className="flex items-baseline gap-2 text-sm">
          <span className="text-soft">called</span>
          <input
            className="field w-[150px]"
            maxLength={NAME_MAX}
            placeholder={NAMELESS}
            value={name}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <div className="min-w-0 flex-1 basis-[240px] text-sm" role="status">
          {trouble || failed ? (
            <p role="alert" className="font-semibold text-stop dark:text-fix">
              {trouble ?? "The draft broke off. That is a fault of Node Ledger, not of the list, which stays as it is."}
            </p>
          ) : fresh && drafted ? (
            <>
              <p className="font-bold">{planWords(drafted.machine)}</p>
              <p className="text-xs text-soft">every wire sized; one step, can be undone</p>
            </>
          ) : progress !== null ? (
            <p className="text-soft">
              working it out <span className="fig">{Math.round(progress * 100)}</span> %
            </p>
          ) : (
            <p className="text-soft">
              {lines.length === 0
                ? "Main fuse, switch, stop, drivers, converters, returns and sizes come with the draft."
                : `${lines.length - stuck} of ${lines.length} lines understood`}
            </p>
          )}
        </div>
        {fresh && drafted && (
          <p className="text-right text-sm">
            <b className="text-ask">
              <span className="fig text-lg">{drafted.weighed.length}</span> things assumed
            </b>
            <span className="block text-xs text-soft">
              {drafted.weighed.filter(({ weight }) => weight >= 1).length} could change a verdict
            </span>
          </p>
        )}
        {text.trim() === "" && (
          <button
            type="button"
            className="link text-sm"
            onClick={() =>
              void createBlank(name.trim() === "" ? NAMELESS : name.trim()).then(
                (result) => !open(result, false) && !result.ok && setTrouble(result.detail),
              )
            }
          >
            Begin with an empty page
          </button>
        )}
      </footer>
    </div>
  );
}

const EXAMPLE = `pack 24 V 33 Ah AGM
2 gearmotors 24 V 250 W
work lights 12 V 4 x 10 W
controller 5 V 0.3 A`;

/** Where nothing feeds the list: what the chooser thinks best, to pick from. */
function Sources({ drafted: { sources }, onPick }: { drafted: Drafted; onPick: (line: string) => void }) {
  if (sources.length === 0) return null;
  return (
    <div className="mt-3 border-t border-ink pt-2 text-sm">
      <p>
        <b>Nothing feeds it yet.</b> Drafted with the first of these; pick one, or write your own.
      </p>
      <ul>
        {sources.map(({ line, candidate }) => (
          <li key={line} className="flex flex-wrap items-baseline gap-x-3 border-b border-hair py-1">
            <button type="button" className="link" onClick={() => onPick(line)}>
              {line}
            </button>
            <span className="text-xs text-soft">
              {candidate.refused.length > 0
                ? candidate.refused[0]
                : [
                    ...(candidate.runS === null ? [] : [`runs ${sayDuration(candidate.runS)}`]),
                    ...(candidate.massKg === null ? [] : [say(candidate.massKg, "mass", "up")]),
                    ...(candidate.continuousA === null ? [] : [`gives ${say(candidate.continuousA, "current", "down")}`]),
                  ].join(", ")}
            </span>
          </li>
        ))}
      </ul>
    </div>
  );
}
