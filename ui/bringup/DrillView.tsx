"use client";
import { useEffect, useMemo, useState } from "react";
import type { Judged, JudgedStep } from "@/core/bringup/judge";
import { compare } from "@/core/bringup/judge";
import { expectWords, readWords } from "@/core/bringup/words";
import type { Extra, NextPlace } from "@/core/engine/bring-up";
import { revealBench } from "@/state/api";
import { BrokeOff } from "../kit/BrokeOff";
import { Button } from "../kit/Button";
import { Explained } from "../words/Explained";
import { useLog, useWorkbench } from "../workbench/context";
import { FaultItems } from "./FaultList";
import { useBench } from "./useBench";
import { useBringUpAnswer } from "./useExplanation";

/** A reading of the drill: where, what it showed, and how that stands to the plan. */
interface Taken {
  readonly title: string;
  readonly read: string;
  readonly expected: string;
  readonly off: boolean;
  readonly extra: Extra;
}

/** Somebody built the machine with one fault in it. Find it in as few readings as you can. */
export function DrillView({ judged }: { judged: Judged }) {
  const id = useWorkbench((state) => state.id);
  const { bench, begin, end } = useBench(true);
  const [taken, setTaken] = useState<readonly Taken[]>([]);
  const [guess, setGuess] = useState("");
  const [result, setResult] = useState<{ right: boolean; fault: { id: string; words: string; size: string } | null } | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [helped, setHelped] = useState(false);
  const start = () => {
    setTaken([]);
    setGuess("");
    setResult(null);
    setTrouble(null);
    setHelped(false);
    begin();
  };
  if (!bench)
    return (
      <div className="max-w-[620px] px-4 py-3 text-sm">
        <h2 className="text-base font-bold">
          <Explained>A drill on the simulated bench</Explained>
        </h2>
        <p className="mt-1">
          The bench builds this machine from the plan, every part a little off as parts are, and hides one fault in it: an open or bad
          joint, a short, swapped or reversed wires, a wrong or blown fuse, a regulator set wrong, a motor the wrong way round. Read where
          you like, then say what it is. Nothing of it goes into the log.
        </p>
        <Button kind="main" className="mt-3" onClick={start}>
          Begin
        </Button>
      </div>
    );
  const read = async (step: JudgedStep["step"]) => {
    if (!step.at) return;
    const given = await bench.read(step.at, step.instrument);
    if (!given.ok) return setTrouble(given.detail);
    setTrouble(null);
    const { state } = compare(step.expect, given.value, null);
    const { value } = expectWords(step.quantity, step.expect);
    const extra = { at: step.at, instrument: step.instrument, value: given.value };
    setTaken((before) => [
      ...before,
      {
        title: step.title,
        read: readWords(step.quantity, given.value),
        expected: value,
        off: state === "outside" || state === "look",
        extra,
      },
    ]);
  };
  const readNext = async (next: NextPlace) => {
    const given = await bench.read(next.at, next.instrument);
    if (!given.ok) return setTrouble(given.detail);
    const extra = { at: next.at, instrument: next.instrument, value: given.value };
    setTaken((before) => [
      ...before,
      { title: next.title, read: readWords(next.quantity, given.value), expected: `${next.first} or ${next.second}`, off: false, extra },
    ]);
  };
  const say = async () => {
    const fault = await revealBench(id, bench.line.session);
    setResult({ right: fault !== null && fault.id === guess, fault });
  };
  return (
    <div className="flex min-h-0 flex-1 max-md:flex-col max-md:overflow-y-auto">
      <Places judged={judged} disabled={result !== null} onRead={(step) => void read(step)} />
      <div className="pane min-h-0 min-w-0 flex-1 overflow-y-auto px-5 py-3 max-md:overflow-visible" tabIndex={-1}>
        <div className="flex flex-wrap items-baseline gap-4">
          <h2 className="text-base font-bold">
            <span className="fig text-xl">{taken.length}</span> reading{taken.length === 1 ? "" : "s"} taken
          </h2>
          <button type="button" className="link text-sm" onClick={start}>
            Another fault
          </button>
          <button type="button" className="link text-sm" onClick={end}>
            End the drill
          </button>
        </div>
        {trouble && (
          <p role="alert" className="text-sm text-stop dark:text-fix">
            {trouble}
          </p>
        )}
        <ol aria-live="polite" className="mt-1 max-w-[640px]">
          {taken.map(({ title, read: shown, expected, off }, i) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: readings are told by their order
            <li key={i} className="grid grid-cols-[26px_minmax(0,1fr)_auto_auto] gap-3 border-b border-hair py-1 text-sm">
              <span className="fig text-xs text-soft">{i + 1}</span>
              <span>{title}</span>
              <b className={`fig ${off ? "text-fix" : ""}`}>
                {off && "! "}
                {shown}
              </b>
              <span className="fig text-xs text-soft">expected {expected}</span>
            </li>
          ))}
        </ol>
        {taken.length === 0 && <p className="text-sm text-soft">Choose a place on the left to read there.</p>}
        {result ? (
          <Result result={result} taken={taken.length} helped={helped} />
        ) : (
          <>
            <Guess value={guess} onChange={setGuess} onSay={() => void say()} />
            {helped ? (
              <Help taken={taken} onRead={(next) => void readNext(next)} />
            ) : (
              taken.length > 0 && (
                <button type="button" className="link mt-3 text-sm" onClick={() => setHelped(true)}>
                  What would explain it?
                </button>
              )
            )}
          </>
        )}
      </div>
    </div>
  );
}

function Places({ judged, disabled, onRead }: { judged: Judged; disabled: boolean; onRead: (step: JudgedStep["step"]) => void }) {
  return (
    <div
      className="pane w-[360px] shrink-0 overflow-y-auto border-r border-ink max-lg:w-[260px] max-md:max-h-[260px] max-md:w-full max-md:border-r-0 max-md:border-b"
      tabIndex={-1}
    >
      {judged.stages.map(({ stage, steps }) => {
        const readable = steps.filter(({ step }) => step.at !== null);
        return readable.length === 0 ? null : (
          <details key={stage.id} open={stage.id === "tree"}>
            <summary className="cursor-pointer border-b border-ink px-3 py-1 text-sm font-bold">
              {stage.title} <span className="font-normal text-soft">{readable.length}</span>
            </summary>
            <ul>
              {readable.map(({ step }) => (
                <li key={step.id}>
                  <button
                    type="button"
                    disabled={disabled}
                    className="w-full border-b border-hair px-3 py-1 text-left text-[12.5px] hover:bg-tint"
                    onClick={() => onRead(step)}
                  >
                    {step.title}
                  </button>
                </li>
              ))}
            </ul>
          </details>
        );
      })}
    </div>
  );
}

function Guess({ value, onChange, onSay }: { value: string; onChange: (id: string) => void; onSay: () => void }) {
  const kit = useLog((state) => state.kit);
  const { value: faults } = useBringUpAnswer("faults", (service, machine) => service.faults(machine, kit));
  const [filter, setFilter] = useState("");
  const words = filter.trim().toLowerCase();
  const shown = useMemo(
    () => (faults ?? []).filter(({ words: each }) => each.toLowerCase().includes(words)).sort((a, b) => a.words.localeCompare(b.words)),
    [faults, words],
  );
  // What is chosen must be among what is shown: nobody says what they cannot see.
  useEffect(() => {
    if (value !== "" && !shown.some(({ id }) => id === value)) onChange("");
  }, [shown, value, onChange]);
  return (
    <div className="mt-4 max-w-[640px] border-t border-ink pt-2">
      <h3 className="text-sm font-bold">
        <Explained>It is…</Explained>
      </h3>
      <p className="mt-1 flex flex-wrap items-baseline gap-2 text-sm">
        <input
          aria-label="Faults with these words"
          className="field w-[150px]"
          placeholder="part or fault"
          value={filter}
          onChange={(event) => setFilter(event.target.value)}
        />
        <select aria-label="The fault" className="field max-w-[360px]" value={value} onChange={(event) => onChange(event.target.value)}>
          <option value="">{faults ? `one of ${shown.length}` : "…"}</option>
          {shown.map(({ id, words: each }) => (
            <option key={id} value={id}>
              {each}
            </option>
          ))}
        </select>
        <Button onClick={onSay} disabled={value === ""}>
          Say so
        </Button>
      </p>
    </div>
  );
}

function Help({ taken, onRead }: { taken: readonly Taken[]; onRead: (next: NextPlace) => void }) {
  const kit = useLog((state) => state.kit);
  const extra = useMemo(() => taken.map((each) => each.extra), [taken]);
  const { value, asking, failed, start } = useBringUpAnswer(
    "drill help",
    (service, machine) => service.explain(machine, { readings: [], waivers: [] }, kit, extra),
    extra,
  );
  if (failed) return <BrokeOff what="What would explain it" again={start} />;
  if (!value) return <p className="mt-3 text-sm text-soft">Trying every single fault…</p>;
  return (
    <div className="mt-3 max-w-[640px]" aria-busy={asking}>
      <ol className="text-sm">
        <FaultItems faults={value.faults} look={false} />
      </ol>
      {value.next && (
        <p className="mt-2 text-sm">
          <b>Tells most next:</b> {value.next.title}.{" "}
          <button type="button" className="link" onClick={() => value.next && onRead(value.next)}>
            Read there
          </button>
        </p>
      )}
    </div>
  );
}

function Result({
  result: { right, fault },
  taken,
  helped,
}: {
  result: { right: boolean; fault: { words: string; size: string } | null };
  taken: number;
  helped: boolean;
}) {
  return (
    <div role="status" className="mt-4 max-w-[640px] border-l-4 border-accent pl-3">
      <p className="text-lg font-bold">
        {right ? `Found, in ${taken} reading${taken === 1 ? "" : "s"}${helped ? ", with help" : ""}.` : "Not that."}
      </p>
      <p className="text-sm">
        {fault
          ? `Hidden was: ${fault.words}${fault.size ? `, ${fault.size}` : ""}.`
          : "The bench no longer knows what was hidden: begin another."}
      </p>
    </div>
  );
}
