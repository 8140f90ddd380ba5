"use client";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import type { Machine, Wire } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { groundWords, LINK_WORDS, levelWords } from "@/core/returns/link-words";
import type { ReturnsFigures } from "@/core/returns/summary";
import { analysisOf, lateOf, ranThroughOf } from "@/state/findings";
import { FigureTable, figure, RowName } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { Button } from "../kit/Button";
import { Explained } from "../words/Explained";
import { pickFigure, useDispatch, useWorkbench } from "../workbench/context";
import { AddLinkDialog } from "./AddLinkDialog";
import { LinkPane } from "./LinkPane";
import { useReturns } from "./useReturns";

/** Which board talks to which and with what ground; the loops those grounds close; what a loose return does. */
export function SignalsView() {
  const machine = useWorkbench((state) => state.machine);
  const { found, failed, start } = useReturns();
  const { act } = useDispatch();
  const [chosen, setChosen] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const signals = machine.signals ?? [];
  const name = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "?";
  const open = signals.find(({ id }) => id === chosen) ?? signals[0];
  return (
    <div className="flex min-h-0 flex-1">
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={-1}>
        {failed && (
          <div className="px-3">
            <BrokeOff what="What the links bear" again={start} />
          </div>
        )}
        <div className="flex items-baseline gap-4 px-3 py-2">
          <h2 className="mr-auto text-sm font-bold">
            <Explained>Links between boards</Explained>
          </h2>
          <Button onClick={() => setAdding(true)}>Add a link</Button>
        </div>
        {signals.length === 0 ? (
          <p className="px-3 pb-3 text-sm text-soft">
            Say which board sends to which, and at what levels. Every signal is measured against its receiver&apos;s ground, so the plan
            then tells how far the two grounds move apart, and whether they share one at all.
          </p>
        ) : (
          <FigureTable
            caption="Links between boards"
            rows={signals}
            keyOf={({ id }) => id}
            chosen={({ id }) => open?.id === id}
            onChoose={({ id }) => setChosen(id)}
            columns={[
              {
                label: "Link",
                cellClass: "max-w-[230px] truncate",
                cell: (signal, place) => (
                  <RowName place={place}>
                    {name(signal.from)} {signal.bothWays ? "↔" : "→"} {name(signal.to)}
                  </RowName>
                ),
              },
              { label: "Kind", cellClass: "text-soft", cell: ({ kind }) => LINK_WORDS[kind] },
              { label: "Levels", cellClass: "max-w-[210px] truncate text-xs text-soft", cell: (signal) => levelWords(signal) },
              { label: "Own ground", cellClass: "text-xs", cell: (signal) => groundWords(machine, signal, false) },
              { label: "Shield", cellClass: "text-xs", cell: (signal) => groundWords(machine, signal, true) },
              {
                label: "Remove",
                hidden: true,
                cell: (signal, { r, c }) => (
                  <button
                    type="button"
                    data-r={r}
                    data-c={c}
                    className="p-1 text-soft hover:text-stop"
                    aria-label={`Remove the link ${name(signal.from)} to ${name(signal.to)}`}
                    title="Remove this link"
                    onClick={() => act({ type: "removeSignal", id: signal.id })}
                  >
                    <Trash2 aria-hidden size={14} />
                  </button>
                ),
              },
            ]}
          />
        )}
        {found && <Loops machine={found.machine} returns={found.returns} />}
        <LooseReturns />
      </div>
      {open && (
        <aside className="w-[300px] shrink-0 overflow-y-auto border-l border-ink bg-sheet px-3.5 py-2.5" aria-label="The chosen link">
          <LinkPane key={open.id} signal={open} />
        </aside>
      )}
      {adding && (
        <AddLinkDialog
          onClose={(made) => {
            setAdding(false);
            if (made) setChosen(made);
          }}
        />
      )}
    </div>
  );
}

/** Grounds beside signals, with the motor current in them. */
function Loops({ machine, returns }: { machine: Machine; returns: ReturnsFigures }) {
  const mode = useWorkbench((state) => state.mode);
  const figures = useWorkbench((state) => analysisOf(state)?.wires);
  const wires = returns.grounds.flatMap((ground) => {
    const wire = machine.wires.find(({ id }) => id === ground.wire);
    return wire ? [{ ...ground, wire }] : [];
  });
  const name = (wire: Wire) => [wire.from, wire.to].map(({ part }) => machine.parts.find(({ id }) => id === part)?.name ?? "?").join(" – ");
  return (
    <section aria-label="Signal grounds and loops" className="px-3 pt-4">
      <h2 className="text-sm font-bold">
        <Explained>Signal grounds, and the current they carry</Explained>
      </h2>
      {wires.length === 0 ? (
        <p className="text-sm text-soft">
          No link has a ground wire of its own, and no shield is tied at both ends: nothing to loop through.
        </p>
      ) : (
        <FigureTable
          className="mt-1"
          caption="Signal grounds"
          rows={wires}
          keyOf={({ wire }) => wire.id}
          columns={[
            { label: "Between", cell: ({ wire }) => name(wire) },
            { label: "Is", cellClass: "text-soft", cell: ({ wire }) => `${wire.shield ? "shield" : "ground wire"} ${wire.gauge ?? ""}` },
            {
              label: `Amps, ${mode === "worst" ? "worst" : machine.modes[mode]?.name}`,
              num: true,
              cell: figure(({ wire, unsure }) => {
                const amps = pickFigure(figures?.[wire.id]?.amps, mode);
                return (
                  amps && {
                    value: Math.abs(amps.value),
                    dimension: "current",
                    rounding: "up",
                    strong: true,
                    atLeast: unsure,
                    label: `Amps in the signal ground ${name(wire)}`,
                    of: { kind: "wireAmps", wire: wire.id, mode: amps.mode },
                  }
                );
              }, null),
            },
            {
              label: "May carry",
              num: true,
              cellClass: "fig",
              cell: ({ limitA }) => (limitA === null ? <span className="text-ask">?</span> : say(limitA, "current", "down")),
            },
            { label: "Beside a heavy return?", cell: ({ looped }) => (looped ? "yes: a loop" : "no: the only tie here") },
          ]}
        />
      )}
    </section>
  );
}

/** For every board that talks: what happens when its return comes off. */
function LooseReturns() {
  const late = useWorkbench(lateOf);
  const current = useWorkbench((state) => ranThroughOf(state) === state.machine);
  const machine = useWorkbench(ranThroughOf);
  if (!late || !machine || late.loose.length === 0) return null;
  const name = (id: string | undefined) => machine.parts.find((part) => part.id === id)?.name ?? "?";
  const linkOf = (id: string, part: string) => {
    const signal = machine.signals?.find((each) => each.id === id);
    return name(signal?.from === part ? signal.to : signal?.from);
  };
  return (
    <section aria-label="When a return comes loose" className="px-3 py-4">
      <h2 className="text-sm font-bold">
        When a return comes loose{!current && <span className="font-normal text-soft"> · being solved again</span>}
      </h2>
      <FigureTable
        className="mt-1"
        caption="What a loose return does"
        rows={late.loose}
        keyOf={({ wire }) => wire}
        partOf={({ part }) => part}
        columns={[
          { label: "Return of", cell: ({ part }, place) => <RowName place={place}>{name(part)}</RowName> },
          {
            label: "Its current then goes",
            cellClass: "max-w-[330px] !whitespace-normal",
            cell: ({ into, pins, part }) => {
              const wire = machine.wires.find(({ id }) => id === into?.wire);
              if (into && wire)
                return `through the ${wire.shield ? "shield" : "signal ground"} ${name(wire.from.part)} – ${name(wire.to.part)}, in ${machine.modes[into.mode]?.name}`;
              return pins.length > 0
                ? `through the pins of its link with ${pins.map((id) => linkOf(id, part)).join(", ")}: its ground floats up`
                : "nowhere: another return or an isolator keeps it apart";
            },
          },
          {
            label: "Amps",
            num: true,
            cellClass: ({ into }) => `fig font-bold ${into?.limitA != null && into.amps > into.limitA ? "text-fix" : ""}`,
            cell: ({ into }) => (into ? say(into.amps, "current", "up") : "–"),
          },
          { label: "Before", num: true, cellClass: "fig", cell: ({ into, beforeA }) => (into ? say(beforeA, "current", "up") : "–") },
          {
            label: "May carry",
            num: true,
            cellClass: "fig",
            cell: ({ into }) => (into?.limitA == null ? "–" : say(into.limitA, "current", "down")),
          },
        ]}
      />
    </section>
  );
}
