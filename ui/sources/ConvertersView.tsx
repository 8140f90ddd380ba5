"use client";
import dynamic from "next/dynamic";
import type { Arrangement } from "@/core/choosing/central";
import type { Converter } from "@/core/machine/schema";
import { say } from "@/core/quantity/format";
import { readConverter } from "@/core/sources/converter";
import { Figure } from "../figure/Figure";
import { columns, fixedLayout, TableHead } from "../grid/TableHead";
import { useGridKeys } from "../grid/useGridKeys";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { pickFigure, useLedger, useWorkbench } from "../workbench/context";
import { useAnswer } from "./useAnswer";

/** The chart library is only fetched by those who look at charts. */
const LossPane = dynamic(() => import("./LossPane").then((module) => module.LossPane), { ssr: false });

const NONE = <span className="text-soft">–</span>;

/** Every converter with its window, its heat and what is left of its current, and the one regulator against many. */
export function ConvertersView() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const modes = useWorkbench((state) => state.machine.modes);
  const settings = useWorkbench((state) => state.machine.settings);
  const analysis = useWorkbench((state) => state.analysis);
  const selected = useWorkbench((state) => state.selected);
  const select = useWorkbench((state) => state.select);
  const rows = ledger.rows.flatMap(({ part }) => (part.kind === "converter" ? [part] : []));
  const onKeyDown = useGridKeys(rows.length, 7);
  if (rows.length === 0) {
    return <p className="p-6 text-sm text-soft">No converter yet. Select what should feed one, press A, and choose Converter.</p>;
  }
  const head = columns(
    "Converter",
    ["Takes", 118],
    ["Sees", 118],
    ["Gives#", 54],
    ["For good#", 64],
    ["Yields#", 44],
    ["Heat#", 54],
    ["Chip#", 44],
    ["Most in#", 54],
    ["Verdict", 50],
  );
  const chosen = rows.find(({ id }) => id === selected) ?? rows[0];
  return (
    <div className="min-h-0 flex-1 overflow-auto pane">
      <table className="ledger" style={fixedLayout(head, 140)} onKeyDown={onKeyDown}>
        <caption className="sr-only">Converters</caption>
        <TableHead columns={head} />
        <tbody>
          {rows.map((part, index) => {
            const figure = analysis?.parts[part.id];
            const given = pickFigure(figure?.outA ?? undefined, mode);
            const m = given?.mode ?? 0;
            const read = figure ? readConverter(part, figure, m, settings) : null;
            const status = analysis?.status[part.id];
            const { rating } = read ?? {};
            return (
              <tr
                key={part.id}
                data-row={part.id}
                aria-selected={part.id === selected}
                onFocus={() => select(part.id)}
                onClick={() => select(part.id)}
              >
                <td>
                  <button type="button" data-r={index} data-c={0} className="block w-full truncate text-left">
                    <RailTag rail={ledger.rails.find((rail) => rail.origin === part.id) ?? null} />{" "}
                    <span className="pl-1">{part.name}</span>
                    <span className="pl-2 text-xs text-soft">
                      {part.topology}
                      {part.isolated && ", isolated"}
                    </span>
                  </button>
                </td>
                <td className="fig">
                  {read?.leastInV == null ? (
                    <span className="text-ask">?</span>
                  ) : (
                    say(read.leastInV, "voltage", "up").replace(/\u00a0V$/, "")
                  )}{" "}
                  – {part.inputMaxV ? say(part.inputMaxV.value, "voltage", "down") : <span className="text-ask">?</span>}
                </td>
                <td className="fig">
                  {figure?.lowestV ? say(figure.lowestV.volts, "voltage", "down").replace(/\u00a0V$/, "") : "?"} –{" "}
                  {figure?.highestV == null ? <span className="text-ask">?</span> : say(figure.highestV, "voltage", "up")}
                </td>
                <td className="num">
                  {given && figure?.live[m] === 1 ? (
                    <Figure
                      cell={{ r: index, c: 1 }}
                      value={given.value}
                      dimension="current"
                      rounding="up"
                      strong
                      atLeast={figure.atLeast[m] === 1}
                      label={`Given by ${part.name}`}
                      of={{ kind: "outputAmps", part: part.id, mode: m }}
                    />
                  ) : (
                    NONE
                  )}
                </td>
                <td className="num">
                  <Figure
                    cell={{ r: index, c: 2 }}
                    value={rating?.continuousA}
                    dimension="current"
                    rounding="down"
                    label={`What ${part.name} may give for good`}
                    of={{ kind: "rating", part: part.id }}
                  />
                  {rating?.printedA != null && (
                    <span className="fig block text-xs text-soft">of {say(rating.printedA, "current", "down")}</span>
                  )}
                </td>
                <td className="num">
                  <Figure
                    cell={{ r: index, c: 3 }}
                    value={read?.efficiency == null ? null : read.efficiency * 100}
                    dimension="percent"
                    rounding="down"
                    label={`What ${part.name} yields`}
                    of={{ kind: "efficiency", part: part.id, mode: m }}
                  />
                </td>
                <td className="num">
                  <Figure
                    cell={{ r: index, c: 4 }}
                    value={read?.heatW}
                    dimension="power"
                    rounding="up"
                    label={`Lost inside ${part.name}`}
                    of={{ kind: "lossInside", part: part.id, mode: m }}
                  />
                </td>
                <td className="num">
                  <Figure
                    cell={{ r: index, c: 5 }}
                    value={read?.chipC}
                    dimension="temperature"
                    rounding="up"
                    label={`Chip of ${part.name}`}
                    of={{ kind: "chip", part: part.id, mode: m }}
                  />
                </td>
                <td className="num">
                  <Figure
                    cell={{ r: index, c: 6 }}
                    value={read?.worstInA}
                    dimension="current"
                    rounding="up"
                    label={`Most amps into ${part.name}`}
                    of={{ kind: "worstInput", part: part.id }}
                  />
                </td>
                <td>{status && <SeverityMark severity={status} />}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="px-3 pt-1 text-xs text-soft">
        Takes: the window it works in, dropout included. Sees: lowest in the worst mode with the pack low, highest with it full. Gives and
        heat are of {mode === "worst" ? "its worst mode" : modes[mode]?.name}; for good at {Math.round(settings.ambientC)} °C. Most in: what
        its input wire and fuse carry when it gives its most at that lowest input.
      </p>
      {chosen && <Arrangements converter={chosen} />}
      {chosen && <LossPane key={chosen.id} converter={chosen} />}
    </div>
  );
}

/** One regulator for all its loads against one beside each. */
function Arrangements({ converter }: { converter: Converter }) {
  const { value, failed } = useAnswer(`arrangements ${converter.id}`, async (service, machine) => ({
    found: await service.arrangements(machine, converter.id),
  }));
  if (failed || !value) return null;
  const { found } = value;
  return (
    <section aria-label="One regulator or many" className="px-3 pt-4 pb-3">
      <h2 className="text-sm font-bold">
        {converter.name}: one for all, or one beside each load? {found && <span className="font-normal text-soft">in {found.mode}</span>}
      </h2>
      {!found ? (
        <p className="text-xs text-soft">Fewer than two loads hang straight on it, so there is nothing to spread.</p>
      ) : (
        <table className="ledger mt-1 max-w-[760px]">
          <caption className="sr-only">The two arrangements side by side</caption>
          <thead>
            <tr>
              <th scope="col">
                <span className="sr-only">Figure</span>
              </th>
              <th scope="col" className="num">
                One for all, as planned
              </th>
              <th scope="col" className="num">
                One beside each
              </th>
            </tr>
          </thead>
          <tbody>
            {ARRANGEMENT_ROWS.map(({ label, of }) => (
              <tr key={label}>
                <td>{label}</td>
                <td className="num fig">{of(found.central)}</td>
                <td className="num fig">{of(found.pointOfUse)}</td>
              </tr>
            ))}
          </tbody>
        </table>
      )}
      {found && (
        <p className="mt-1 text-xs text-soft">
          The same make beside each load, fed over the load&apos;s own wires at the higher voltage. One for all is cheaper and loses less
          when idle; one beside each holds its volts whatever the others draw, and one that fails takes only its own load with it.
        </p>
      )}
    </section>
  );
}

const ARRANGEMENT_ROWS: readonly { label: string; of: (each: Arrangement) => string }[] = [
  { label: "Regulators", of: (each) => `${each.converters}` },
  { label: "Drawn at their inputs", of: (each) => say(each.inputW, "power", "up") },
  { label: "Heat in the regulators", of: (each) => say(each.convertersW, "power", "up") },
  { label: "Heat in the wires to the loads", of: (each) => say(each.wiresW, "power", "up") },
  {
    label: "Least room above a minimum",
    of: (each) => {
      const worst = each.lowest
        .filter(({ leastV }) => leastV !== null)
        .sort((a, b) => a.volts / (a.leastV ?? 1) - b.volts / (b.leastV ?? 1))[0];
      return worst ? `${say(worst.volts, "voltage", "down")} at ${worst.name}` : "–";
    },
  },
  {
    label: "Largest swing at a load between modes",
    of: (each) => (each.swingAt === null ? "–" : `${say(each.swingV, "voltage", "up")} at ${each.swingAt}`),
  },
];
