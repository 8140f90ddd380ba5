"use client";
import { useEffect, useMemo, useState } from "react";
import { type Candidate, driverFromClass } from "@/core/choosing/drivers";
import { figuresToPlan } from "@/core/choosing/packs";
import type { Driver } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { fetchShelf } from "@/state/api";
import { SortHead, useSorted } from "../grid/SortHead";
import { Dialog } from "../kit/Dialog";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";

const COLUMNS = [
  { key: "name", label: "Driver", className: "w-[200px]" },
  { key: "continuous", label: "For good", num: true, className: "w-[76px]" },
  { key: "margin", label: "Least room", num: true, className: "w-[86px]" },
  { key: "drop", label: "Keeps", num: true, className: "w-[76px]" },
  { key: "heat", label: "Heat", num: true, className: "w-[76px]" },
  { key: "fit", label: "Against this motor" },
] as const;

function sortValue(candidate: Candidate, key: string): number | string {
  switch (key) {
    case "continuous":
      return candidate.continuousA ?? 0;
    case "margin":
      return -candidate.margin;
    case "drop":
      return candidate.dropV;
    case "heat":
      return candidate.heatW;
    case "fit":
      return candidate.refused.length;
    default:
      return candidate.name;
  }
}

const NOTHING: readonly Candidate[] = [];

/** Drivers side by side against one motor: every limit with its room, and why a driver is refused. */
export function CandidatesDialog({ driver, loadId, onClose }: { driver: Driver; loadId: string; onClose: () => void }) {
  const { analyst } = useWorkbenchContext();
  const { act } = useDispatch();
  const machine = useWorkbench((state) => state.machine);
  const analysis = useWorkbench((state) => state.analysis);
  const load = machine.parts.find(({ id }) => id === loadId);
  const [found, setFound] = useState<readonly Candidate[] | null>(null);
  const [kept, setKept] = useState<readonly Driver[]>([]);
  useEffect(() => {
    let gone = false;
    void fetchShelf().then((items) => {
      if (!gone) setKept((items ?? []).flatMap(({ id, part }) => (part.kind === "driver" ? [{ ...part, id }] : [])));
    });
    return () => {
      gone = true;
    };
  }, []);
  // What is at hand: drivers of the plan, the one in question first among them, and those on the shelf.
  const shelf = useMemo(() => [...machine.parts.filter((part): part is Driver => part.kind === "driver"), ...kept], [machine.parts, kept]);
  useEffect(() => {
    let gone = false;
    if (!analysis) return;
    void analyst()
      ?.candidates(loadId, shelf)
      .then((list) => {
        if (!gone) setFound(list);
      });
    return () => {
      gone = true;
    };
  }, [analyst, analysis, loadId, shelf]);
  const { rows, sort, setSort } = useSorted(found ?? NOTHING, sortValue);
  const take = (candidate: Candidate) => {
    const own = kept.find(({ id }) => id === candidate.id);
    const figures = own ? figuresToPlan(own) : driverFromClass(candidate.id);
    if (figures && act({ type: "updatePart", id: driver.id, changes: figures as Record<string, unknown> })) onClose();
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
      {found === null ? (
        <p className="py-6 text-sm text-soft">Weighing…</p>
      ) : (
        <>
          <p className="mb-1 text-sm">
            <span className="fig text-lg font-bold">{fitting}</span> of {found.length} fit.
          </p>
          <div className="max-h-[58vh] overflow-auto">
            <table className="ledger table-fixed [&_td]:py-1 [&_td]:align-top [&_td]:!whitespace-normal">
              <SortHead columns={COLUMNS} sort={sort} setSort={setSort} last="Take" />
              <tbody>
                {rows.map((each) => (
                  <tr key={`${each.from} ${each.id}`}>
                    <td className="text-sm">
                      {each.name}
                      <span className="block text-xs text-soft">
                        {each.from === "class"
                          ? "class, typical"
                          : each.id === driver.id
                            ? "the one planned now"
                            : kept.some(({ id }) => id === each.id)
                              ? "on your shelf"
                              : "in this plan"}
                        {each.headlineA !== null && `, printed ${say(each.headlineA, "current")}`}
                      </span>
                    </td>
                    <td className="num fig">{each.continuousA === null ? "?" : say(each.continuousA, "current", "down")}</td>
                    <td className="num fig">{Number.isFinite(each.margin) ? `${Math.floor(each.margin * 100)} %` : "–"}</td>
                    <td className="num fig">{say(each.dropV, "voltage", "up")}</td>
                    <td className="num fig">{say(each.heatW, "power", "up")}</td>
                    <td className="text-xs">
                      <span className={each.refused.length > 0 ? "font-bold text-fix" : "font-bold"}>
                        {each.refused.length > 0 ? "Refused" : "Fits"}
                      </span>{" "}
                      {each.refused.length > 0 ? each.refused.join("; ") : each.notes.join(" ")}
                      <span className="block text-soft">
                        {each.limits
                          .map(
                            ({ what, needs, has, dimension }) => `${what} ${say(needs, dimension, "up")} of ${say(has, dimension, "down")}`,
                          )
                          .join(" · ")}
                      </span>
                    </td>
                    <td>
                      {(each.from === "class" || kept.some(({ id }) => id === each.id)) && (
                        <button
                          type="button"
                          className="link text-xs whitespace-nowrap"
                          onClick={() => take(each)}
                          aria-label={`Plan ${each.name}`}
                        >
                          Plan it
                        </button>
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      )}
    </Dialog>
  );
}
