"use client";
import { clsx } from "clsx";
import { toast } from "sonner";
import type { Command } from "@/core/machine/commands";
import type { Machine } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import type { Layout } from "@/core/returns/arrange";
import type { LogicSupply } from "@/core/returns/logic-supply";
import { Button } from "../kit/Button";
import { useAnswer } from "../sources/useAnswer";
import { useDispatch, useWorkbench } from "../workbench/context";
import { ReturnSchools } from "./ReturnSchools";

/** Ways to land all returns, and ways to supply logic, each solved and set side by side; taken as one step, undone as one. */
export function ArrangeView() {
  const { value, stale, failed } = useAnswer("layouts", (service, machine) =>
    Promise.all([service.layouts(machine), service.logicSupply(machine)]),
  );
  const machine = useWorkbench((state) => state.machine);
  const undo = useWorkbench((state) => state.undo);
  const { act } = useDispatch();
  const take = (name: string, command: Command) => {
    if (act(command)) toast(`Done: ${name}`, { action: { label: "Undo", onClick: () => undo() } });
  };
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2" tabIndex={-1}>
      <ReturnSchools />
      {failed && (
        <p className="pt-3 text-sm font-semibold text-stop">Comparing broke off. Change the plan a little and it is tried again.</p>
      )}
      <section aria-label="Arrangements of the returns" className="pt-3">
        <h2 className="text-sm font-bold">
          Arrangements of the returns{stale && value && <span className="font-normal text-soft"> · being compared again</span>}
        </h2>
        {value ? (
          <Layouts layouts={value[0]} machine={machine} onTake={take} />
        ) : (
          <p className="text-sm text-soft">Each arrangement is being solved…</p>
        )}
      </section>
      {value?.[1] && <Supplies supplies={value[1]} machine={machine} onTake={take} />}
    </div>
  );
}

interface Taking {
  machine: Machine;
  onTake: (name: string, command: Command) => void;
}

function partName(machine: Machine, id: string): string {
  return machine.parts.find((part) => part.id === id)?.name ?? "?";
}

function linkWords(machine: Machine, id: string): string {
  const signal = machine.signals?.find((each) => each.id === id);
  return signal ? `${partName(machine, signal.from)} → ${partName(machine, signal.to)}` : "";
}

/** Share of a budget, never rounded down; many times over it is told so. */
function shareWords(share: number): string {
  return share >= 2 ? `${Math.ceil(share * 10 - 1e-9) / 10} times` : `${Math.ceil(share * 100 - 1e-9)} %`;
}

function Layouts({ layouts, machine, onTake }: { layouts: Layout[] } & Taking) {
  if (layouts.length === 1)
    return <p className="text-sm text-soft">The returns are arranged already, or there is no negative bar yet to arrange them on.</p>;
  const best = Math.min(...layouts.map(({ worstLink }) => worstLink?.share ?? Number.POSITIVE_INFINITY));
  return (
    <>
      <table className="ledger mt-1">
        <caption className="sr-only">Arrangements compared</caption>
        <thead>
          <tr>
            <th>Arrangement</th>
            <th className="num">Worst link</th>
            <th>which</th>
            <th className="num">Over budget</th>
            <th className="num">Motors lift a board by</th>
            <th className="num">Loops</th>
            <th className="num">Copper</th>
            <th className="num">Moved</th>
            <th>
              <span className="sr-only">Take it</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {layouts.map((layout) => (
            <tr key={layout.id}>
              <td className="font-bold">{layout.name}</td>
              <td className="num">
                {layout.worstLink ? (
                  <span className={clsx("fig", layout.worstLink.share > 1 && "text-fix", layout.worstLink.share === best && "font-bold")}>
                    {shareWords(layout.worstLink.share)}
                  </span>
                ) : (
                  <span className="text-soft">–</span>
                )}
              </td>
              <td className="max-w-[210px] truncate text-xs text-soft">
                {layout.worstLink &&
                  `${linkWords(machine, layout.worstLink.signal)}, ${say(Math.abs(layout.worstLink.volts), "voltage", "up")} in ${machine.modes[layout.worstLink.mode]?.name}`}
              </td>
              <td className="num fig">{layout.linksOver}</td>
              <td className="num">
                {layout.worstLift ? (
                  <span title={partName(machine, layout.worstLift.part)} className="fig">
                    {say(layout.worstLift.volts, "voltage", "up")}
                  </span>
                ) : (
                  <span className="text-soft">nothing</span>
                )}
              </td>
              <td className="num fig">{layout.loops}</td>
              <td className="num fig">
                {say(layout.copperKg, "mass")}
                {layout.unsized > 0 && <span className="text-xs text-ask"> + {layout.unsized} unsized</span>}
              </td>
              <td className="num fig">
                {layout.moved}
                {layout.dropped > 0 && <span className="text-xs text-soft">, {layout.dropped} dropped</span>}
              </td>
              <td>
                {layout.command && (
                  <Button onClick={() => layout.command && onTake(layout.name, layout.command)} aria-label={`Take ${layout.name}`}>
                    Take it
                  </Button>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <dl className="grid grid-cols-[auto_minmax(0,1fr)] gap-x-4 gap-y-0.5 pt-2 text-xs">
        {layouts
          .filter(({ id }) => id !== "as drawn")
          .map(({ id, name, demands }) => (
            <div key={id} className="contents">
              <dt className="font-semibold">{name}</dt>
              <dd>{demands}</dd>
            </div>
          ))}
      </dl>
      <p className="pt-1 text-xs text-soft">A return that lands elsewhere keeps its length until you measure it again.</p>
    </>
  );
}

function Supplies({ supplies, machine, onTake }: { supplies: LogicSupply[] } & Taking) {
  const boards = [...new Set(supplies.flatMap(({ lowest }) => lowest.map(({ part }) => part)))];
  return (
    <section aria-label="Logic supply" className="pt-4">
      <h2 className="text-sm font-bold">Logic from the main pack, or from a pack of its own</h2>
      <table className="ledger mt-1">
        <caption className="sr-only">Logic supply compared</caption>
        <thead>
          <tr>
            <th>What</th>
            {supplies.map(({ id, present }) => (
              <th key={id} className="num">
                {id === "main pack" ? "From the main pack" : "Its own pack, tied once"}
                {present && ", as now"}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {boards.map((board) => (
            <tr key={board}>
              <td>{partName(machine, board)}, lowest volts</td>
              {supplies.map(({ id, lowest }) => {
                const at = lowest.find(({ part }) => part === board);
                const low = at?.leastV != null && at.volts < at.leastV;
                return (
                  <td key={id} className={clsx("num fig", low && "font-bold text-fix")}>
                    {at ? say(at.volts, "voltage", "down") : "–"}
                    {at && (
                      <span className="pl-1.5 text-xs font-normal text-soft">
                        {machine.modes[at.mode]?.name}
                        {low ? `, needs ${say(at.leastV ?? 0, "voltage", "up")}` : ""}
                      </span>
                    )}
                  </td>
                );
              })}
            </tr>
          ))}
          <tr>
            <td>Their supply moves between modes by</td>
            {supplies.map(({ id, swingV }) => (
              <td key={id} className="num fig">
                {say(swingV, "voltage", "up")}
              </td>
            ))}
          </tr>
          <tr>
            <td>Worst link, share of its budget</td>
            {supplies.map(({ id, worstLink }) => (
              <td key={id} className={clsx("num fig", worstLink && worstLink.share > 1 && "text-fix")}>
                {worstLink ? shareWords(worstLink.share) : "–"}
              </td>
            ))}
          </tr>
          <tr>
            <td>Motors lift a board by</td>
            {supplies.map(({ id, worstLiftV }) => (
              <td key={id} className="num fig">
                {worstLiftV > 0 ? say(worstLiftV, "voltage", "up") : "nothing"}
              </td>
            ))}
          </tr>
          <tr>
            <td>
              <span className="sr-only">Take it</span>
            </td>
            {supplies.map(({ id, command }) => (
              <td key={id} className="num">
                {command && (
                  <Button onClick={() => onTake(id === "own pack" ? "a pack of its own" : "the main pack", command)}>
                    {id === "own pack" ? "Give logic its own pack" : "Feed logic from the main pack"}
                  </Button>
                )}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p className="pt-1 text-xs text-soft">
        The other pack is a guess until you say what it is. Two packs have two charges to watch and must share one tie, at their bars, not
        at a signal connector; a lithium pack of its own needs its own fuse and protection.
      </p>
    </section>
  );
}
