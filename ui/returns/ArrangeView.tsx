"use client";
import { clsx } from "clsx";
import { toast } from "sonner";
import type { Command } from "@/core/machine/commands";
import type { Machine } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import type { Layout } from "@/core/returns/arrange";
import type { LogicSupply } from "@/core/returns/logic-supply";
import { FigureTable, None } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { Button } from "../kit/Button";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench } from "../workbench/context";
import { useSourcesAnswer } from "../workbench/useQuestion";
import { ReturnSchools } from "./ReturnSchools";

/** Ways to land all returns, and ways to supply logic, each solved and set side by side; taken as one step, undone as one. */
export function ArrangeView() {
  const { value, stale, failed, start } = useSourcesAnswer("layouts", (service, machine) =>
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
      {failed && <BrokeOff what="The comparison" again={start} />}
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
      <FigureTable
        className="mt-1"
        caption="Arrangements compared"
        rows={layouts}
        keyOf={({ id }) => id}
        columns={[
          { label: "Arrangement", cellClass: "font-bold", cell: ({ name }) => name },
          {
            label: "Worst link",
            num: true,
            cell: ({ worstLink }) =>
              worstLink ? (
                <span className={clsx("fig", worstLink.share > 1 && "text-fix", worstLink.share === best && "font-bold")}>
                  {shareWords(worstLink.share)}
                </span>
              ) : (
                <None />
              ),
          },
          {
            label: "which",
            cellClass: "max-w-[210px] truncate text-xs text-soft",
            cell: ({ worstLink }) =>
              worstLink &&
              `${linkWords(machine, worstLink.signal)}, ${say(Math.abs(worstLink.volts), "voltage", "up")} in ${machine.modes[worstLink.mode]?.name}`,
          },
          { label: "Over budget", num: true, cellClass: "fig", cell: ({ linksOver }) => linksOver },
          {
            label: "Motors lift a board by",
            num: true,
            cell: ({ worstLift }) =>
              worstLift ? (
                <span title={partName(machine, worstLift.part)} className="fig">
                  {say(worstLift.volts, "voltage", "up")}
                </span>
              ) : (
                <None>nothing</None>
              ),
          },
          { label: "Loops", num: true, cellClass: "fig", cell: ({ loops }) => loops },
          {
            label: "Copper",
            num: true,
            cellClass: "fig",
            cell: ({ copperKg, unsized }) => (
              <>
                {say(copperKg, "mass")}
                {unsized > 0 && <span className="text-xs text-ask"> + {unsized} unsized</span>}
              </>
            ),
          },
          {
            label: "Moved",
            num: true,
            cellClass: "fig",
            cell: ({ moved, dropped }) => (
              <>
                {moved}
                {dropped > 0 && <span className="text-xs text-soft">, {dropped} dropped</span>}
              </>
            ),
          },
          {
            label: "Take it",
            hidden: true,
            cell: ({ name, command }) =>
              command && (
                <Button onClick={() => onTake(name, command)} aria-label={`Take ${name}`}>
                  Take it
                </Button>
              ),
          },
        ]}
      />
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
      <h2 className="text-sm font-bold">
        <Explained>Logic from the main pack, or from a pack of its own</Explained>
      </h2>
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
        at a signal connector; a pack of its own needs its own fuse and protection.
      </p>
    </section>
  );
}
