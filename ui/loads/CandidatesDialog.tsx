"use client";
import { useEffect, useMemo, useState } from "react";
import { type Candidate, driverFromClass } from "@/core/choosing/drivers";
import { shelfChanges } from "@/core/choosing/packs";
import type { Driver } from "@/core/machine/schema";
import { partsOnShelf } from "@/core/machine/shelf";
import { say } from "@/core/quantity/format";
import { fetchShelf } from "@/state/api";
import { FigureTable } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { Dialog } from "../kit/Dialog";
import { PlanIt } from "../parts/PlanIt";
import { useDispatch, useWorkbench } from "../workbench/context";
import { useAsked } from "../workbench/useQuestion";

/** Drivers side by side against one motor: every limit with its room, and why a driver is refused. */
export function CandidatesDialog({ driver, loadId, onClose }: { driver: Driver; loadId: string; onClose: () => void }) {
  const { act } = useDispatch();
  const machine = useWorkbench((state) => state.machine);
  const load = machine.parts.find(({ id }) => id === loadId);
  const [kept, setKept] = useState<readonly Driver[]>([]);
  useEffect(() => {
    let gone = false;
    void fetchShelf().then((items) => {
      if (!gone) setKept(partsOnShelf(items ?? []).flatMap(({ id, part }) => (part.kind === "driver" ? [{ ...part, id }] : [])));
    });
    return () => {
      gone = true;
    };
  }, []);
  // What is at hand: drivers of the plan, the one in question first among them, and those on the shelf.
  const shelf = useMemo(() => [...machine.parts.filter((part): part is Driver => part.kind === "driver"), ...kept], [machine.parts, kept]);
  const {
    value: found,
    failed,
    start,
  } = useAsked<readonly Candidate[]>(`drivers ${loadId} ${shelf.map(({ id }) => id).join(" ")}`, (ask) => ask("candidates", loadId, shelf));
  const isKept = (id: string) => kept.some((each) => each.id === id);
  const take = (candidate: Candidate) => {
    const own = kept.find(({ id }) => id === candidate.id);
    const figures = own ? shelfChanges(own.id, own) : driverFromClass(candidate.id);
    if (figures && act({ type: "updatePart", id: driver.id, changes: figures })) onClose();
  };
  const fitting = found?.filter((each) => each.refused.length === 0).length ?? 0;
  return (
    <Dialog
      open
      onOpenChange={onClose}
      wide
      title={`Drivers for ${load?.name ?? "this motor"}`}
      description="Classes are typical figures from memory: they narrow the search, the sheet of the real board decides. Room is what it has over what is needed."
    >
      {failed && <BrokeOff what="The drivers" again={start} />}
      {found === null ? (
        <p className="py-6 text-sm text-soft">Weighing…</p>
      ) : (
        <>
          <p className="mb-1 text-sm">
            <span className="fig text-lg font-bold">{fitting}</span> of {found.length} fit.
          </p>
          <div className="max-h-[58vh] overflow-auto">
            <FigureTable
              sticky
              className="table-fixed [&_td]:py-1 [&_td]:align-top [&_td]:!whitespace-normal"
              caption="Drivers against this motor"
              rows={found}
              keyOf={({ from, id }) => `${from} ${id}`}
              columns={[
                {
                  label: "Driver",
                  headClass: "w-[200px]",
                  sortBy: ({ name }) => name,
                  cellClass: "text-sm",
                  cell: ({ id, name, from, headlineA }) => (
                    <>
                      {name}
                      <span className="block text-xs text-soft">
                        {from === "class"
                          ? "class, typical"
                          : id === driver.id
                            ? "the one planned now"
                            : isKept(id)
                              ? "on your shelf"
                              : "in this plan"}
                        {headlineA !== null && `, printed ${say(headlineA, "current")}`}
                      </span>
                    </>
                  ),
                },
                {
                  label: "Continuous",
                  num: true,
                  headClass: "w-[76px]",
                  sortBy: ({ continuousA }) => continuousA ?? 0,
                  cellClass: "fig",
                  cell: ({ continuousA }) => (continuousA === null ? "?" : say(continuousA, "current", "down")),
                },
                {
                  label: "Least room",
                  num: true,
                  headClass: "w-[86px]",
                  sortBy: ({ margin }) => -margin,
                  cellClass: "fig",
                  cell: ({ margin }) => (Number.isFinite(margin) ? `${Math.floor(margin * 100)} %` : "–"),
                },
                {
                  label: "Keeps",
                  num: true,
                  headClass: "w-[76px]",
                  sortBy: ({ dropV }) => dropV,
                  cellClass: "fig",
                  cell: ({ dropV }) => say(dropV, "voltage", "up"),
                },
                {
                  label: "Heat",
                  num: true,
                  headClass: "w-[76px]",
                  sortBy: ({ heatW }) => heatW,
                  cellClass: "fig",
                  cell: ({ heatW }) => say(heatW, "power", "up"),
                },
                {
                  label: "Against this motor",
                  sortBy: ({ refused }) => refused.length,
                  cellClass: "text-xs",
                  cell: ({ refused, notes, limits }) => (
                    <>
                      <span className={refused.length > 0 ? "font-bold text-fix" : "font-bold"}>
                        {refused.length > 0 ? "Refused" : "Fits"}
                      </span>{" "}
                      {refused.length > 0 ? refused.join("; ") : notes.join(" ")}
                      <span className="block text-soft">
                        {limits
                          .map(
                            ({ what, needs, has, dimension }) => `${what} ${say(needs, dimension, "up")} of ${say(has, dimension, "down")}`,
                          )
                          .join(" · ")}
                      </span>
                    </>
                  ),
                },
                {
                  label: "Take",
                  hidden: true,
                  headClass: "w-[60px]",
                  cell: (each) =>
                    each.refused.length === 0 &&
                    (each.from === "class" || isKept(each.id)) && <PlanIt name={each.name} onTake={() => take(each)} />,
                },
              ]}
            />
          </div>
        </>
      )}
    </Dialog>
  );
}
