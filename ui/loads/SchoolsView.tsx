"use client";
import type { PeakBudget } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { BrokeOff } from "../kit/BrokeOff";
import { RailTag } from "../kit/RailTag";
import { always, Select } from "../kit/Select";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench } from "../workbench/context";
import { useAsked } from "../workbench/useQuestion";

const SCHOOLS: Readonly<Record<PeakBudget, { name: string; demands: string }>> = {
  "named modes": { name: "Named modes", demands: "What your modes say happens together. Realistic as far as the list is complete." },
  "all stalled": {
    name: "All stalled at once",
    demands: "Every motor held still together. Cannot be too small; large, costly, and fuses become too big for thin branches.",
  },
  measured: { name: "Measured", demands: "Readings and a quarter more. The cheapest; it misses what never happened on the bench." },
};

/** Each rail's peak under every school of peak budgets; the machine's own school rules all figures elsewhere. */
export function SchoolsView() {
  const { act } = useDispatch();
  const schools = useWorkbench((state) => state.machine.settings.schools);
  const { value: found, failed, start } = useAsked("schools", (ask) => ask("schools"));
  const mine = schools.peakBudget ?? "named modes";
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2">
      <p className="max-w-[70ch] text-sm">
        What must the sources and trunks bear at most? Builders answer in three ways. The chosen one rules every figure and verdict of this
        machine; branches are always sized for their own motor.
      </p>
      {failed && <BrokeOff what="The schools" again={start} />}
      {!found ? (
        <p className="py-6 text-sm text-soft">Working out all three…</p>
      ) : (
        <table className="ledger mt-2 max-w-[860px]">
          <caption className="sr-only">Peak demand of each rail by school</caption>
          <thead>
            <tr>
              <th scope="col">Rail</th>
              {found.schools.map((school) => (
                <th key={school} scope="col" className="num w-[210px] align-bottom">
                  <label className="inline-flex items-baseline gap-2">
                    <input
                      type="radio"
                      name="peak-school"
                      checked={mine === school}
                      onChange={() => act({ type: "setSettings", changes: { schools: { ...schools, peakBudget: school } } })}
                    />
                    {SCHOOLS[school].name}
                  </label>
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {found.rails.map((rail) => (
              <tr key={rail.origin}>
                <td>
                  <RailTag rail={{ ...rail, volts: 0 }} /> <span className="pl-1">{rail.name}</span>
                </td>
                {rail.demand.map((demand, i) => (
                  <td key={found.schools[i]} className={`num ${found.schools[i] === mine ? "bg-strip" : ""}`}>
                    <span className="fig block text-lg leading-tight font-bold">
                      {demand.atLeast && <span className="text-ask">≥ </span>}
                      {say(demand.peakA, "current", "up")}
                    </span>
                    <span className="block text-[11px] text-soft">in {demand.mode}</span>
                  </td>
                ))}
              </tr>
            ))}
            <tr>
              <td className="text-xs text-soft">demands</td>
              {found.schools.map((school) => (
                <td key={school} className="text-right align-top text-xs whitespace-normal text-soft">
                  {SCHOOLS[school].demands}
                </td>
              ))}
            </tr>
          </tbody>
        </table>
      )}
      {found && found.unread.length > 0 && (
        <p className="mt-2 max-w-[80ch] text-xs text-soft">
          <span className="font-bold text-ink">Not read yet:</span> {found.unread.slice(0, 8).join(", ")}
          {found.unread.length > 8 && ` and ${found.unread.length - 8} more`}. The measured school uses their estimates. Type “measured 2.3
          A” in a cell to enter a reading.
        </p>
      )}
      {found && found.steppers.length > 0 && (
        <section className="mt-3 max-w-[80ch] text-sm">
          <h2 className="font-bold">
            <Explained>Several steppers on one supply</Explained>
          </h2>
          {found.steppers.map((each) => (
            <p key={each.name} className="mt-1 text-xs">
              {each.name}, {each.count} steppers in {each.mode}: the sum is{" "}
              <span className="fig font-bold">{say(each.sumA, "current", "up")}</span>, with a simultaneity factor of 0.7{" "}
              <span className="fig font-bold">{say(each.factorA, "current", "up")}</span>. The sum is safe for moves in step; the factor is
              common practice without a source, and wrong where two motors share an axis.
            </p>
          ))}
          <label className="mt-1 block text-xs">
            This machine&apos;s supplies are judged by{" "}
            <Select
              value={schools.stepperSum ?? "sum"}
              options={[
                { value: "sum", label: "the sum of all" },
                { value: "simultaneity", label: "0.7 of the sum" },
              ]}
              onChange={always((chosen) =>
                act({
                  type: "setSettings",
                  changes: { schools: { ...schools, stepperSum: chosen === "simultaneity" ? "simultaneity" : "sum" } },
                }),
              )}
            />
          </label>
        </section>
      )}
      <section className="mt-3 max-w-[80ch] text-sm">
        <h2 className="font-bold">
          <Explained>Motor leads</Explained>
        </h2>
        <p className="text-xs">
          <Select
            aria-label="Motor leads"
            value={schools.motorLeads ?? "unfused"}
            options={[
              { value: "unfused", label: "Unfused: the driver limits what they carry" },
              { value: "fused", label: "Fused below stall: a driver that can deliver the stall must not overheat its lead" },
            ]}
            onChange={always((chosen) =>
              act({
                type: "setSettings",
                changes: { schools: { ...schools, motorLeads: chosen === "fused" ? "fused" : "unfused" } },
              }),
            )}
          />
        </p>
      </section>
    </div>
  );
}
