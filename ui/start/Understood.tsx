"use client";
import { memo, useMemo } from "react";
import { supposedChips } from "@/core/drafting/chips";
import { corrected } from "@/core/drafting/edits";
import { isQuiet } from "@/core/drafting/read-list";
import type { Chip, ChipKey, ReadLine } from "@/core/drafting/reading";
import { ChipButton } from "./ChipButton";

interface Props {
  lines: readonly ReadLine[];
  /** Another text for one line, by its number. */
  onLine: (number: number, text: string) => void;
}

/** Most lines shown: whoever pastes thousands reads the count. */
const SHOWN = 400;

/** What was understood, line by line; each word of it can be changed, and what was not understood has its nearest readings beside it. */
export function Understood({ lines, onLine }: Props) {
  const said = lines.filter(({ reading, chips }) => reading === null || !isQuiet(reading) || chips.length > 0);
  const shown = said.slice(0, SHOWN);
  if (said.length === 0) return null;
  return (
    <div>
      <div
        aria-hidden
        className="grid grid-cols-(--understood) gap-x-3 border-b border-ink px-1.5 pb-1 text-xs font-semibold text-soft max-md:hidden"
      >
        <span />
        <span>thing</span>
        <span>volts</span>
        <span>each draws</span>
        <span>held still</span>
      </div>
      <ul aria-label="What was understood">
        {shown.map((line) => (
          <Row key={line.number} line={line} onLine={onLine} />
        ))}
      </ul>
      {said.length > shown.length && (
        <p className="pt-2 text-xs text-soft">
          and <span className="fig">{said.length - shown.length}</span> more lines
        </p>
      )}
    </div>
  );
}

const VOLTS: ReadonlySet<ChipKey> = new Set(["volts"] as const);
const DRAWS: ReadonlySet<ChipKey> = new Set(["run", "idle", "watts", "phase", "most", "capacity"] as const);
const HELD: ReadonlySet<ChipKey> = new Set(["stall", "start"] as const);

const Row = memo(function Row({ line, onLine }: { line: ReadLine; onLine: Props["onLine"] }) {
  const { reading, troubles, nearest, number, text } = line;
  const chips = useMemo(() => [...line.chips, ...supposedChips(line)], [line]);
  const chip = (each: Chip) => (
    <ChipButton
      key={`${each.key} ${each.text} ${each.at?.start ?? ""}`}
      line={line}
      chip={each}
      onCorrect={(typed) => onLine(number, corrected(line, each, typed))}
    />
  );
  if (reading === null)
    return (
      <li className="border-b border-hair bg-fix/8 px-1.5 py-1.5 text-sm">
        <p>
          <span className="font-semibold break-words text-fix">{text.trim().slice(0, 160)}</span>{" "}
          <span className="text-soft">line {number}</span>
        </p>
        <p className="text-xs">{troubles[0]?.why}</p>
        <Choices line={line} onLine={onLine} lead="is it a" />
      </li>
    );
  const single = reading.is === "load" || reading.is === "pack";
  const of = (keys: ReadonlySet<ChipKey>) => (single ? chips.filter(({ key }) => keys.has(key)) : []);
  const [volts, draws, held] = [of(VOLTS), of(DRAWS), of(HELD)];
  const count = reading.is === "pack" ? undefined : chips.find(({ key }) => key === "count");
  const rest = chips.filter((each) => each !== count && ![volts, draws, held].some((column) => column.includes(each)));
  const asked = troubles.length > 0;
  return (
    <li className={`border-b border-hair px-1.5 py-1.5 text-sm ${asked ? "bg-fix/8" : ""}`}>
      <div className="grid grid-cols-(--understood) items-baseline gap-x-3 gap-y-1 max-md:flex max-md:flex-wrap">
        <span className="fig text-right max-md:text-left">{count ? chip(count) : null}</span>
        <span className="flex min-w-0 flex-wrap items-baseline gap-x-2.5 gap-y-1">{rest.map(chip)}</span>
        <span className="fig">{volts.map(chip)}</span>
        <span className="fig flex flex-wrap gap-x-2.5">{draws.map(chip)}</span>
        <span className="fig flex flex-wrap gap-x-2.5">{held.map(chip)}</span>
      </div>
      {asked && (
        <p className="text-xs font-semibold text-fix">
          {troubles[0]?.why} <span className="font-normal text-soft">line {number}</span>
        </p>
      )}
      {asked && nearest.length > 0 && <Choices line={line} onLine={onLine} lead="do you mean" />}
    </li>
  );
});

function Choices({ line: { nearest, number }, onLine, lead }: { line: ReadLine; onLine: Props["onLine"]; lead: string }) {
  return (
    <p className="flex flex-wrap items-baseline gap-x-3 text-sm">
      <span className="text-soft">{lead}</span>
      {nearest.map(({ label, line }) => (
        <button key={label} type="button" className="link" onClick={() => onLine(number, line)}>
          {label}
        </button>
      ))}
    </p>
  );
}
