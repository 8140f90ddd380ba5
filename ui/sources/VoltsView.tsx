"use client";
import type { Replan } from "@/core/choosing/replan";
import { say } from "@/core/quantity/format";
import { FUSE_FAMILIES } from "@/core/reference/fuses";
import { BrokeOff } from "../kit/BrokeOff";
import { useSourcesAnswer } from "../workbench/useQuestion";

const ROWS: readonly { label: string; hint?: string; of: (each: Replan) => string; strong?: boolean }[] = [
  { label: "Source", of: (each) => each.sourceName },
  { label: "Highest it shows", of: (each) => say(each.fullV, "voltage", "up") },
  {
    label: "Continuous, from the source",
    of: (each) => `${each.continuousAtLeast ? "≥ " : ""}${say(each.continuousA, "current", "up")}`,
    strong: true,
  },
  { label: "Peak", of: (each) => (each.collapses ? "no solution" : `${each.peakAtLeast ? "≥ " : ""}${say(each.peakA, "current", "up")}`) },
  { label: "Heat in the main wires as they are", of: (each) => say(each.wireW, "power", "up") },
  {
    label: "Copper, each wire as thin as it may be",
    of: (each) => `${say(each.copperKg, "mass", "up")}${each.unsized > 0 ? ` and ${each.unsized} beyond the table` : ""}`,
  },
  { label: "Thickest wire then", of: (each) => each.thickest },
  {
    label: "Main fuse, least",
    of: (each) => (each.mainFuse ? `${each.mainFuse.ratingA} A, ${FUSE_FAMILIES[each.mainFuse.family].name}` : "none that large"),
  },
  { label: "Main connector, class", of: (each) => (each.contactA === null ? "bolted lugs" : `${each.contactA} A a contact`) },
  { label: "Converters or other parts needed", of: (each) => `${each.converters}` },
];

/** The same machine planned at 12, 24 and 48 V. */
export function VoltsView() {
  const { value, stale, failed, start } = useSourcesAnswer("replans", async (service, machine) => ({
    plans: await service.replans(machine),
  }));
  if (failed)
    return (
      <div className="p-6">
        <BrokeOff what="The other voltages" again={start} />
      </div>
    );
  if (!value) return <p className="p-6 text-sm text-soft">Planning it at three voltages…</p>;
  const { plans } = value;
  if (!plans) return <p className="p-6 text-sm text-soft">No source yet: add a pack or a supply first.</p>;
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what scrolls and holds nothing to focus is reached by keyboard itself
    <section aria-label="At three main voltages" tabIndex={0} className="min-h-0 flex-1 overflow-auto px-3 py-2 pane" aria-busy={stale}>
      <table className="ledger [&_td]:align-top [&_td]:!whitespace-normal">
        <caption className="pb-1 text-left text-sm font-bold">
          The same machine at another main voltage{" "}
          <span className="font-normal text-soft">same watts in every load, same cells regrouped; solved anew at each</span>
        </caption>
        <thead>
          <tr>
            <th scope="col" className="w-[230px]">
              <span className="sr-only">Figure</span>
            </th>
            {plans.map((each) => (
              <th key={each.volts} scope="col" className="num">
                <span className="fig text-lg">{each.volts} V</span>
                <span className="block text-xs font-normal text-soft">{each.present ? "as planned" : "\u00a0"}</span>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {ROWS.map(({ label, of, strong }) => (
            <tr key={label}>
              <td>{label}</td>
              {plans.map((each) => (
                <td key={each.volts} className={`num fig ${strong ? "text-lg font-bold" : ""} ${each.present ? "bg-tint" : ""}`}>
                  {of(each)}
                </td>
              ))}
            </tr>
          ))}
          <tr>
            <td>Does not take it</td>
            {plans.map((each) => (
              <td key={each.volts} className={`text-xs ${each.present ? "bg-tint" : ""}`}>
                {each.refuses.length === 0 ? (
                  <span className="text-soft">nothing</span>
                ) : (
                  <ul>
                    {each.refuses.map(({ name, why }) => (
                      <li key={name}>
                        <span className="font-semibold">{name}</span> {why}
                      </li>
                    ))}
                  </ul>
                )}
              </td>
            ))}
          </tr>
          <tr>
            <td>Other windings, or a converter before them</td>
            {plans.map((each) => (
              <td key={each.volts} className={`text-xs ${each.present ? "bg-tint" : ""}`}>
                {each.rewound.length === 0 ? <span className="text-soft">nothing</span> : each.rewound.join(", ")}
              </td>
            ))}
          </tr>
        </tbody>
      </table>
      <p className="mt-2 max-w-[92ch] text-xs text-soft">
        Half the volts is twice the amps and four times the loss in the same wire. 12 V has the widest choice of parts and suits up to about
        500 W; 24 V up to 2 kW; 48 V takes parts made for 60 to 100 V, its arcs hold, and a full pack comes close to what may still be
        touched (common practice). Motors are wound for their voltage: the amps above hold for motors of the same watts.
      </p>
    </section>
  );
}
