"use client";
import { useState } from "react";
import type { Explanation, Extra, NextPlace } from "@/core/engine/bring-up";
import { INSTRUMENTS } from "@/core/reference/instruments";
import { BrokeOff } from "../kit/BrokeOff";
import { FaultItems, shareWords } from "./FaultList";
import { Places } from "./Places";
import { ReadingField } from "./ReadingField";
import { useExplanation } from "./useExplanation";

interface Props {
  /** Why it is asked: another reason begins anew. */
  about: string;
  /** Goes to a step of the plan that reads the same place; absent where there is none. */
  onKeepBeside: (next: NextPlace, value: number | null) => void;
  /** Takes a reading from the bench; null where none is in use. */
  fromBench: ((next: NextPlace) => Promise<number | null | undefined>) | null;
}

/** Every single fault against all readings: which explain them, and where to read next. */
export function ExplainPanel({ about, onKeepBeside, fromBench }: Props) {
  const [extra, setExtra] = useState<readonly Extra[]>([]);
  const [all, setAll] = useState(false);
  const [of, setOf] = useState(about);
  if (of !== about) {
    setOf(about);
    setExtra([]);
  }
  const { value, failed, asking, stale, start } = useExplanation(`explain ${about}`, extra);
  if (failed) return <BrokeOff what="What would explain it" again={start} />;
  if (!value) return <p className="mt-4 border-t border-ink pt-2 text-sm text-soft">Trying every single fault against all readings…</p>;
  const take = (next: NextPlace, read: number | null) => {
    onKeepBeside(next, read);
    setExtra((before) => [...before, { at: next.at, instrument: next.instrument, value: read }]);
  };
  return (
    <section aria-label="What would explain it" aria-busy={asking || stale} className="mt-4 max-w-[640px] border-t border-ink pt-2">
      <h3 className="text-sm font-bold">
        What would explain it <span className="font-normal text-soft">{intro(value)}</span>
      </h3>
      <ol className="mt-1 text-sm">
        <FaultItems
          look
          faults={value.faults.filter(({ share }, i) => share >= 0.01 || i === 0).slice(0, all ? value.faults.length : FEW)}
        />
        {value.soundShare >= 0.01 && <Other share={value.soundShare} words="No fault: the reading lies within what the plan leaves open" />}
        {value.otherShare >= 0.01 && (
          <Other share={value.otherShare} words="Something in no list: two faults at once, or a figure of the plan that is wrong" />
        )}
      </ol>
      {!all && value.faults.length > FEW && (value.faults[FEW]?.share ?? 0) >= 0.01 && (
        <button type="button" className="link mt-1 text-xs" onClick={() => setAll(true)}>
          More that would
        </button>
      )}
      {!value.explains && (
        <p className="mt-1 text-xs text-watch">No single fault explains all readings well. Read the odd ones again first.</p>
      )}
      {value.next && <Next key={value.next.title} next={value.next} onTake={take} fromBench={fromBench} />}
    </section>
  );
}

/** Explanations that are shown before more are asked for. */
const FEW = 3;

function intro({ tried, readings }: Explanation): string {
  return `${tried} single faults tried against ${readings} reading${readings === 1 ? "" : "s"}`;
}

function Other({ share, words }: { share: number; words: string }) {
  return (
    <li className="grid grid-cols-[64px_minmax(0,1fr)] border-b border-hair py-1.5 text-sm text-soft">
      <span className="fig pr-3 text-right">{shareWords(share)}</span>
      <span>{words}</span>
    </li>
  );
}

function Next({
  next,
  onTake,
  fromBench,
}: {
  next: NextPlace;
  onTake: (next: NextPlace, value: number | null) => void;
  fromBench: Props["fromBench"];
}) {
  const [said, setSaid] = useState<string | null>(null);
  const same = next.first === next.second;
  return (
    <div className="mt-2 border-l-4 border-accent pl-3">
      <p className="text-sm">
        <b>Next, to tell them apart:</b> {next.title}.{" "}
        {same
          ? `By the first two it shows ${next.first}; others would show something else.`
          : `By the first it shows ${next.first}, by the second ${next.second}.`}
      </p>
      <p className="text-xs text-soft">
        {next.setUp} {INSTRUMENTS[next.instrument].name}.
      </p>
      <Places places={next.places} />
      <div className="mt-2 flex flex-wrap items-end gap-3">
        {next.quantity === "yes" ? (
          <>
            <button type="button" className="border border-rule px-3 py-1 text-sm" onClick={() => onTake(next, 1)}>
              Yes
            </button>
            <button type="button" className="border border-rule px-3 py-1 text-sm" onClick={() => onTake(next, 0)}>
              No
            </button>
          </>
        ) : (
          <ReadingField
            about={next.title}
            quantity={next.quantity}
            expect={{ kind: "ask", missing: "" }}
            last={null}
            onKeep={(value) => onTake(next, value)}
          />
        )}
        {fromBench && (
          <button
            type="button"
            className="link text-sm"
            onClick={async () => {
              const value = await fromBench(next);
              if (value === undefined) setSaid("The bench gave no reading.");
              else onTake(next, value);
            }}
          >
            Read from the bench
          </button>
        )}
        {said && (
          <span role="alert" className="text-xs text-stop dark:text-fix">
            {said}
          </span>
        )}
      </div>
    </div>
  );
}
