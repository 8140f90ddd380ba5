"use client";
import { ArrowDown, ArrowUp } from "lucide-react";
import { useEffect, useMemo, useState } from "react";
import { type Candidate, driverFromClass } from "@/core/drivers/candidates";
import type { Driver } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { Dialog } from "../kit/Dialog";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";

const COLUMNS = [
  { key: "name", label: "Driver", width: "w-[200px]" },
  { key: "continuous", label: "For good", num: true, width: "w-[76px]" },
  { key: "margin", label: "Least room", num: true, width: "w-[86px]" },
  { key: "drop", label: "Keeps", num: true, width: "w-[76px]" },
  { key: "heat", label: "Heat", num: true, width: "w-[76px]" },
  { key: "fit", label: "Against this motor", width: "" },
] as const;
type Key = (typeof COLUMNS)[number]["key"];

function sortValue(candidate: Candidate, key: Key): number | string {
  switch (key) {
    case "name":
      return candidate.name;
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
  }
}

function compare(a: number | string, b: number | string): number {
  return typeof a === "string" || typeof b === "string" ? String(a).localeCompare(String(b)) : a - b;
}

/** Drivers side by side against one motor: every limit with its room, and why a driver is refused. */
export function CandidatesDialog({ driver, loadId, onClose }: { driver: Driver; loadId: string; onClose: () => void }) {
  const { analyst } = useWorkbenchContext();
  const { act } = useDispatch();
  const machine = useWorkbench((state) => state.machine);
  const analysis = useWorkbench((state) => state.analysis);
  const load = machine.parts.find(({ id }) => id === loadId);
  const [found, setFound] = useState<readonly Candidate[] | null>(null);
  const [sort, setSort] = useState<{ key: Key; down: boolean } | null>(null);
  // What lies on the shelf: drivers of the plan, the one in question first among them.
  const shelf = useMemo(() => machine.parts.filter((part): part is Driver => part.kind === "driver"), [machine.parts]);
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
  const rows = useMemo(() => {
    if (!found || !sort) return found;
    return [...found].sort((a, b) => (sort.down ? -1 : 1) * compare(sortValue(a, sort.key), sortValue(b, sort.key)));
  }, [found, sort]);
  const take = (candidate: Candidate) => {
    const figures = driverFromClass(candidate.id);
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
              <thead className="sticky top-0">
                <tr>
                  {COLUMNS.map(({ key, label, width, ...rest }) => (
                    <th
                      key={key}
                      scope="col"
                      className={"num" in rest ? `num ${width}` : width}
                      aria-sort={sort?.key === key ? (sort.down ? "descending" : "ascending") : "none"}
                    >
                      <button
                        type="button"
                        className="inline-flex items-center gap-1 font-semibold"
                        onClick={() => setSort(sort?.key === key ? { key, down: !sort.down } : { key, down: false })}
                      >
                        {label}
                        {sort?.key === key && (sort.down ? <ArrowDown size={12} aria-hidden /> : <ArrowUp size={12} aria-hidden />)}
                      </button>
                    </th>
                  ))}
                  <th scope="col" className="w-[60px]">
                    <span className="sr-only">Take</span>
                  </th>
                </tr>
              </thead>
              <tbody>
                {rows?.map((each) => (
                  <tr key={`${each.from} ${each.id}`}>
                    <td className="text-sm">
                      {each.name}
                      <span className="block text-xs text-soft">
                        {each.from === "shelf" ? (each.id === driver.id ? "the one planned now" : "in this plan") : "class, typical"}
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
                      {each.from === "class" && (
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
