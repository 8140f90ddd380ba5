"use client";
import { Trash2 } from "lucide-react";
import { useState } from "react";
import type { Machine, Wire } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { groundWords, LINK_WORDS, levelWords } from "@/core/returns/link-words";
import type { ReturnsFigures } from "@/core/returns/summary";
import { Figure } from "../figure/Figure";
import { Button } from "../kit/Button";
import { pickFigure, useDispatch, useWorkbench } from "../workbench/context";
import { AddLinkDialog } from "./AddLinkDialog";
import { LinkPane } from "./LinkPane";
import { useReturns } from "./useReturns";

/** Which board talks to which and with what ground; the loops those grounds close; what a loose return does. */
export function SignalsView() {
  const machine = useWorkbench((state) => state.machine);
  const found = useReturns();
  const { act } = useDispatch();
  const [chosen, setChosen] = useState<string | null>(null);
  const [adding, setAdding] = useState(false);
  const signals = machine.signals ?? [];
  const name = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "?";
  const open = signals.find(({ id }) => id === chosen) ?? signals[0];
  return (
    <div className="flex min-h-0 flex-1">
      <div className="min-h-0 flex-1 overflow-auto" tabIndex={-1}>
        <div className="flex items-baseline gap-4 px-3 py-2">
          <h2 className="mr-auto text-sm font-bold">Links between boards</h2>
          <Button onClick={() => setAdding(true)}>Add a link</Button>
        </div>
        {signals.length === 0 ? (
          <p className="px-3 pb-3 text-sm text-soft">
            Say which board sends to which, and at what levels. Every signal is measured against its receiver&apos;s ground, so the plan
            then tells how far the two grounds move apart, and whether they share one at all.
          </p>
        ) : (
          <table className="ledger">
            <caption className="sr-only">Links between boards</caption>
            <thead>
              <tr>
                <th>Link</th>
                <th>Kind</th>
                <th>Levels</th>
                <th>Own ground</th>
                <th>Shield</th>
                <th>
                  <span className="sr-only">Remove</span>
                </th>
              </tr>
            </thead>
            <tbody>
              {signals.map((signal) => (
                <tr key={signal.id} aria-selected={open?.id === signal.id} onClick={() => setChosen(signal.id)}>
                  <td className="max-w-[230px] truncate">
                    <button type="button" className="text-left" onClick={() => setChosen(signal.id)} onFocus={() => setChosen(signal.id)}>
                      {name(signal.from)} {signal.bothWays ? "↔" : "→"} {name(signal.to)}
                    </button>
                  </td>
                  <td className="text-soft">{LINK_WORDS[signal.kind]}</td>
                  <td className="max-w-[210px] truncate text-xs text-soft">{levelWords(signal)}</td>
                  <td className="text-xs">{groundWords(machine, signal, false)}</td>
                  <td className="text-xs">{groundWords(machine, signal, true)}</td>
                  <td>
                    <button
                      type="button"
                      className="p-1 text-soft hover:text-stop"
                      aria-label={`Remove the link ${name(signal.from)} to ${name(signal.to)}`}
                      title="Remove this link"
                      onClick={() => act({ type: "removeSignal", id: signal.id })}
                    >
                      <Trash2 aria-hidden size={14} />
                    </button>
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
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
  const figures = useWorkbench((state) => state.analysis?.wires);
  const wires = returns.grounds.flatMap((ground) => {
    const wire = machine.wires.find(({ id }) => id === ground.wire);
    return wire ? [{ ...ground, wire }] : [];
  });
  const name = (wire: Wire) => [wire.from, wire.to].map(({ part }) => machine.parts.find(({ id }) => id === part)?.name ?? "?").join(" – ");
  return (
    <section aria-label="Signal grounds and loops" className="px-3 pt-4">
      <h2 className="text-sm font-bold">Signal grounds, and the current they carry</h2>
      {wires.length === 0 ? (
        <p className="text-sm text-soft">
          No link has a ground wire of its own, and no shield is tied at both ends: nothing to loop through.
        </p>
      ) : (
        <table className="ledger mt-1">
          <caption className="sr-only">Signal grounds</caption>
          <thead>
            <tr>
              <th>Between</th>
              <th>Is</th>
              <th className="num">Amps, {mode === "worst" ? "worst" : machine.modes[mode]?.name}</th>
              <th className="num">May carry</th>
              <th>Beside a heavy return?</th>
            </tr>
          </thead>
          <tbody>
            {wires.map(({ wire, looped, limitA, unsure }) => {
              const amps = pickFigure(figures?.[wire.id]?.amps, mode);
              return (
                <tr key={wire.id}>
                  <td>{name(wire)}</td>
                  <td className="text-soft">
                    {wire.shield ? "shield" : "ground wire"} {wire.gauge ?? ""}
                  </td>
                  <td className="num">
                    {amps && (
                      <Figure
                        value={Math.abs(amps.value)}
                        dimension="current"
                        rounding="up"
                        strong
                        atLeast={unsure}
                        label={`Amps in the signal ground ${name(wire)}`}
                        of={{ kind: "wireAmps", wire: wire.id, mode: amps.mode }}
                      />
                    )}
                  </td>
                  <td className="num fig">{limitA === null ? <span className="text-ask">?</span> : say(limitA, "current", "down")}</td>
                  <td>{looped ? "yes: a loop" : "no: the only tie here"}</td>
                </tr>
              );
            })}
          </tbody>
        </table>
      )}
    </section>
  );
}

/** For every board that talks: what happens when its return comes off. */
function LooseReturns() {
  const late = useWorkbench((state) => state.late);
  const current = useWorkbench((state) => state.lateOf === state.machine);
  const machine = useWorkbench((state) => state.lateOf);
  const select = useWorkbench((state) => state.select);
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
      <table className="ledger mt-1">
        <caption className="sr-only">What a loose return does</caption>
        <thead>
          <tr>
            <th>Return of</th>
            <th>Its current then goes</th>
            <th className="num">Amps</th>
            <th className="num">Before</th>
            <th className="num">May carry</th>
          </tr>
        </thead>
        <tbody>
          {late.loose.map((each) => {
            const wire = machine.wires.find(({ id }) => id === each.into?.wire);
            const over = each.into !== null && each.into.limitA !== null && each.into.amps > each.into.limitA;
            return (
              <tr key={each.wire} data-row={each.part} onClick={() => select(each.part)}>
                <td>{name(each.part)}</td>
                <td className="max-w-[330px] !whitespace-normal">
                  {each.into && wire
                    ? `through the ${wire.shield ? "shield" : "signal ground"} ${name(wire.from.part)} – ${name(wire.to.part)}, in ${machine.modes[each.into.mode]?.name}`
                    : each.pins.length > 0
                      ? `through the pins of its link with ${each.pins.map((id) => linkOf(id, each.part)).join(", ")}: its ground floats up`
                      : "nowhere: another return or an isolator keeps it apart"}
                </td>
                <td className={`num fig font-bold ${over ? "text-fix" : ""}`}>{each.into ? say(each.into.amps, "current", "up") : "–"}</td>
                <td className="num fig">{each.into ? say(each.beforeA, "current", "up") : "–"}</td>
                <td className="num fig">{each.into?.limitA == null ? "–" : say(each.into.limitA, "current", "down")}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </section>
  );
}
