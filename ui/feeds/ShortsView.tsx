"use client";
import { useMemo, useState } from "react";
import { type Danger, FAULT_OHM, type FaultResult } from "@/core/faults/walk";
import { energyText, placeName } from "@/core/faults/words";
import { say } from "@/core/quantity/format";
import { lateOf, ranThroughOf } from "@/state/findings";
import { FigureTable, RowName } from "../grid/FigureTable";
import { SelectField } from "../kit/Select";
import { useLedger, useWorkbench } from "../workbench/context";
import { CrossedView } from "./CrossedView";

/** What each danger means, in two or three words and with a shape of its own. */
const DANGER_WORDS: Readonly<Record<Danger, { text: string; look: string }>> = {
  burns: { text: "wire burns", look: "bg-stop px-1.5 font-bold text-on-stop" },
  breaks: { text: "fuse may burst", look: "bg-stop px-1.5 font-bold text-on-stop" },
  never: { text: "never cleared", look: "bg-stop px-1.5 font-bold text-on-stop" },
  unknown: { text: "? not known", look: "font-bold text-ask" },
  slow: { text: "slow", look: "border border-fix px-1 font-bold text-fix" },
  along: { text: "opens more", look: "border-b-2 border-dotted border-watch font-bold text-watch" },
  posts: { text: "bare posts", look: "border-b-2 border-dotted border-watch font-bold text-watch" },
  held: { text: "source holds it", look: "text-soft" },
  clears: { text: "cleared", look: "text-soft" },
};

/** A short at every node in every state of the machine, the worst first. */
export function ShortsView() {
  const faults = useWorkbench((state) => lateOf(state)?.faults ?? null);
  const machine = useWorkbench((state) => state.machine);
  const stale = useWorkbench((state) => ranThroughOf(state) !== state.machine);
  const ledger = useLedger();
  const [bolted, setBolted] = useState<"bolted" | "resistive">("bolted");
  const [state, setState] = useState<string | undefined>(undefined);
  const partOf = useMemo(() => new Map(machine.parts.map((part) => [part.id, part])), [machine.parts]);
  const states = useMemo(() => [...new Set((faults?.results ?? []).map(({ modes }) => modes.join(",")))], [faults]);
  if (!faults)
    return (
      <p className="p-6 text-sm text-soft">
        {stale ? "Walking a short to every node…" : "There is no source with a wire on it yet, so there is nothing to short."}
      </p>
    );
  const modesText = (modes: readonly number[]) => modes.map((m) => machine.modes[m]?.name ?? "").join(", ");
  const shown = faults.results.filter(
    (result) =>
      result.bolted === (bolted === "bolted") &&
      (state === undefined || result.modes.join(",") === state) &&
      partOf.has(result.place.split(".")[0] ?? ""),
  );
  // Every place once, in the state where it is worst, until a state is chosen.
  const once = state === undefined ? shown.filter((result, i) => shown.findIndex(({ place }) => place === result.place) === i) : shown;
  const bad = once.filter(({ danger }) => ["burns", "breaks", "never"].includes(danger)).length;
  return (
    <div className="min-h-0 flex-1 overflow-auto" tabIndex={-1}>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 px-3 py-2 text-sm">
        <p className="mr-auto">
          <span className={`fig text-lg font-bold ${bad > 0 ? "text-stop dark:text-fix" : ""}`}>{bad}</span> of {once.length} places where a
          short is not cleared safely
          {stale && <span className="text-soft"> · being walked again</span>}
        </p>
        <div className="w-[270px]">
          <SelectField
            label="Short"
            value={bolted}
            options={[
              { value: "bolted" as const, label: "bolted, no resistance" },
              { value: "resistive" as const, label: `resistive, ${say(machine.settings.faultOhm ?? FAULT_OHM, "resistance")}` },
            ]}
            onChange={(next) => setBolted(next ?? "bolted")}
          />
        </div>
        {states.length > 1 && (
          <div className="w-[250px]">
            <SelectField
              label="In"
              value={state}
              none="its worst state"
              options={states.map((value) => ({ value, label: modesText(value.split(",").map(Number)) }))}
              onChange={setState}
            />
          </div>
        )}
      </div>
      <FigureTable
        caption="Shorts by danger"
        rows={once}
        keyOf={({ place, modes }) => `${place} ${modes.join()}`}
        partOf={({ place }) => place.split(".")[0] ?? ""}
        rowTitle={({ modes }) => (states.length > 1 ? `while in ${modesText(modes)}` : undefined)}
        columns={[
          {
            label: "Short at",
            cell: (result, place) => (
              <RowName place={place}>
                <b className="font-semibold">{placeName({ partOf }, result.place)}</b>
              </RowName>
            ),
          },
          {
            label: "What becomes of it",
            cell: ({ danger }) => <span className={`text-xs ${DANGER_WORDS[danger].look}`}>{DANGER_WORDS[danger].text}</span>,
          },
          { label: "Amps, weak to strong", num: true, cellClass: "fig", cell: ampsText },
          { label: "Opens first", cellClass: "!whitespace-normal", cell: (result) => opensFirst(result, partOf, ledger.rowOf) },
          { label: "Fastest", num: true, cellClass: "fig", cell: ({ opens }) => (opens ? time(opens.fastestS, "down") : "–") },
          { label: "Slowest", num: true, cellClass: "fig font-bold", cell: ({ opens }) => (opens ? time(opens.slowestS, "up") : "never") },
          { label: "Wire on the way", cellClass: "!whitespace-normal text-xs", cell: wireText },
        ]}
      />
      <p className="px-3 py-2 text-xs text-soft">
        Strongest: source full and new, wires cold. Weakest: source low and worn, wires hot. Times are what the fuse's standard assures. A
        short circuit of a pack can drive thousands of amps and throw molten metal: never try one.
      </p>
      <CrossedView faults={faults} />
    </div>
  );
}

function ampsText({ leastA, mostA }: FaultResult): string {
  const [weak, strong] = [say(leastA, "current", "down"), say(mostA, "current", "up")];
  return mostA - leastA < mostA * 1e-3 ? strong : `${weak} – ${strong}`;
}

function time(seconds: number, rounding: "up" | "down"): string {
  return Number.isFinite(seconds) ? (seconds < 1e-6 ? "0" : say(seconds, "time", rounding)) : "never";
}

type Rows = ReturnType<typeof useLedger>["rowOf"];

function opensFirst(result: FaultResult, partOf: ReadonlyMap<string, { name: string }>, rowOf: Rows): string {
  if (result.opens) {
    const { kind, id, fuse } = result.opens;
    if (kind === "part") return `${fuse.ratingA} A ${partOf.get(id)?.name ?? ""}`;
    for (const row of rowOf.values()) if (row.feed?.id === id) return `${fuse.ratingA} A to ${row.part.name}`;
    return `${fuse.ratingA} A fuse`;
  }
  if (!result.held) return "nothing";
  const name = partOf.get(result.held.id)?.name ?? "the source";
  return result.held.how === "hiccup" || result.held.how === "latch-off"
    ? `nothing; ${name} gives up by itself`
    : `nothing; ${name} holds its limit`;
}

function wireText(result: FaultResult): string {
  if (!result.wire) return "within its limit";
  const { fate } = result.wire;
  const share =
    fate.letThroughA2s !== null && fate.withstandA2s !== null
      ? `${energyText(fate.letThroughA2s)} of ${energyText(fate.withstandA2s)}`
      : "";
  const hot = fate.endC !== null && Number.isFinite(fate.endC) ? say(fate.endC, "temperature", "up") : "";
  const words = { burns: "burns", overheats: "overheats", unknown: "not known", bears: "survives" }[fate.fate];
  return [words, share || hot].filter((text) => text !== "").join(", ");
}
