"use client";
import type { Part } from "@/core/machine/schema";
import { isConsumer, isSource } from "@/core/machine/terminals";
import { railOrigin } from "@/core/machine/tree";
import { say } from "@/core/quantity/format";
import { type Giver, ratingOf } from "@/core/sources/ratings";
import { inputWindow } from "@/core/verdicts/sources/input-window";
import { Figure } from "../figure/Figure";
import { columns, fixedLayout, TableHead } from "../grid/TableHead";
import { useGridKeys } from "../grid/useGridKeys";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { pickFigure, pickLowest, useLedger, useWorkbench } from "../workbench/context";

function isGiver(part: Part): part is Giver {
  return isSource(part) || part.kind === "converter";
}

function Amps({ value }: { value: number | undefined }) {
  return value === undefined ? <span className="text-ask">?</span> : <span className="fig">{say(value, "current", "down")}</span>;
}

const WINDOW_HEAD = columns(
  "Part",
  ["Accepts from#", 84],
  ["Lowest here#", 78],
  ["in", 116],
  ["Highest here#", 84],
  ["Accepts to#", 74],
  ["Verdict", 54],
);

/** Sources and converters: what each gives against what it may give. */
function GiversTable() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const selected = useWorkbench((state) => state.selected);
  const select = useWorkbench((state) => state.select);
  const analysis = useWorkbench((state) => state.analysis);
  const modes = useWorkbench((state) => state.machine.modes);
  const settings = useWorkbench((state) => state.machine.settings);
  const rows = ledger.rows.filter((row) => isSource(row.part) || row.part.kind === "converter");
  const onKeyDown = useGridKeys(rows.length, 8);
  const head = columns(
    "Source or converter",
    [`Gives, ${mode === "worst" ? "worst" : modes[mode]?.name}#`, 88],
    ["For good#", 66],
    ["Briefly#", 66],
    ["Volts out#", 64],
    ["Volts in#", 60],
    ["Amps in#", 62],
    ["Lost inside#", 72],
    ["Verdict", 54],
  );
  return (
    <table className="ledger" style={fixedLayout(head, 180)} onKeyDown={onKeyDown}>
      <caption className="sr-only">Sources and converters</caption>
      <TableHead columns={head} />
      <tbody>
        {rows.map(({ part }, index) => {
          const figure = analysis?.parts[part.id];
          const given = pickFigure(figure?.outA ?? figure?.amps, mode);
          const m = given?.mode ?? 0;
          const converter = part.kind === "converter" ? part : null;
          const inV = pickLowest(figure?.volts, figure?.live, given ? m : mode);
          const rating = isGiver(part) ? ratingOf(part, settings, figure?.highestV ?? null) : null;
          const good = rating?.continuousA ?? undefined;
          const brief = rating?.briefA ?? undefined;
          const live = figure?.live[m] === 1;
          const status = analysis?.status[part.id];
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
                  <RailTag rail={ledger.rails.find((rail) => rail.origin === part.id) ?? null} /> <span className="pl-1">{part.name}</span>
                  {part.note && <span className="pl-2 text-xs text-soft">{part.note}</span>}
                </button>
              </td>
              <td className="num">
                {live && given ? (
                  <Figure
                    cell={{ r: index, c: 1 }}
                    value={given.value}
                    dimension="current"
                    rounding="up"
                    strong
                    atLeast={figure?.atLeast[m] === 1}
                    label={`Given by ${part.name}`}
                    of={{ kind: "outputAmps", part: part.id, mode: m }}
                  />
                ) : (
                  <span className="text-xs text-soft">off</span>
                )}
              </td>
              <td className="num">
                {good === undefined ? (
                  <Amps value={good} />
                ) : (
                  <Figure
                    cell={{ r: index, c: 6 }}
                    value={good}
                    dimension="current"
                    rounding="down"
                    label={`What ${part.name} may give for good`}
                    of={{ kind: "rating", part: part.id }}
                  />
                )}
                {rating?.printedA != null && (
                  <span className="fig block text-xs text-soft">of {say(rating.printedA, "current", "down")}</span>
                )}
              </td>
              <td className="num">{brief === undefined ? <span className="text-soft">–</span> : <Amps value={brief} />}</td>
              <td className="num">
                {live && (
                  <Figure
                    cell={{ r: index, c: 2 }}
                    value={figure?.outV?.[m]}
                    dimension="voltage"
                    label={`Volts out of ${part.name}`}
                    of={{ kind: "outputVolts", part: part.id, mode: m }}
                  />
                )}
              </td>
              <td className="num">
                {converter && live && inV ? (
                  <Figure
                    cell={{ r: index, c: 3 }}
                    value={inV.value}
                    dimension="voltage"
                    label={`Volts into ${part.name}`}
                    of={{ kind: "partVolts", part: part.id, mode: m }}
                  />
                ) : (
                  <span className="text-soft">–</span>
                )}
              </td>
              <td className="num">
                {converter && live ? (
                  <Figure
                    cell={{ r: index, c: 4 }}
                    value={figure?.amps[m]}
                    dimension="current"
                    label={`Amps into ${part.name}`}
                    of={{ kind: "converterInput", part: part.id, mode: m }}
                  />
                ) : (
                  <span className="text-soft">–</span>
                )}
              </td>
              <td className="num">
                {live && (
                  <Figure
                    cell={{ r: index, c: 5 }}
                    value={figure?.lossW?.[m]}
                    dimension="power"
                    label={`Lost inside ${part.name}`}
                    of={{ kind: "lossInside", part: part.id, mode: m }}
                  />
                )}
              </td>
              <td>{status && <SeverityMark severity={status} />}</td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** What reaches each part that has an input window, between a full and an almost empty pack. */
function WindowsTable() {
  const ledger = useLedger();
  const selected = useWorkbench((state) => state.selected);
  const select = useWorkbench((state) => state.select);
  const analysis = useWorkbench((state) => state.analysis);
  const parts = useWorkbench((state) => state.machine.parts);
  const modes = useWorkbench((state) => state.machine.modes);
  const rows = ledger.rows.filter(({ part }) => isConsumer(part) && (part.inputMinV !== undefined || part.inputMaxV !== undefined));
  const onKeyDown = useGridKeys(rows.length, 2);
  if (rows.length === 0)
    return (
      <p className="p-3 text-sm text-soft">
        No part has an input window yet. Enter "Input at least" and "Input at most" on converters, drivers and boards.
      </p>
    );
  return (
    <table className="ledger" style={fixedLayout(WINDOW_HEAD, 160)} onKeyDown={onKeyDown}>
      <caption className="px-3 pt-4 pb-1 text-left text-sm font-bold">
        What reaches each part{" "}
        <span className="font-normal text-soft">lowest in the worst mode with the pack low, highest with the pack full</span>
      </caption>
      <TableHead columns={WINDOW_HEAD} />
      <tbody>
        {rows.map(({ part, rail }, index) => {
          if (!isConsumer(part)) return null;
          const figure = analysis?.parts[part.id];
          const origin = parts.find(({ id }) => id === railOrigin(ledger, part.id));
          const verdict = analysis?.verdicts.find((each) => each.rule === inputWindow.id && each.subject.id === part.id);
          const lowKnown = origin?.kind !== "pack" || origin.lowV !== undefined;
          const unsure = !lowKnown || figure?.highestV == null || figure.voltsUnsure || !part.inputMinV || !part.inputMaxV;
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
                  <RailTag rail={rail} /> <span className="pl-1">{part.name}</span>
                </button>
              </td>
              <td className="num fig">{part.inputMinV ? say(part.inputMinV.value, "voltage") : <span className="text-ask">?</span>}</td>
              <td className="num">
                <Figure
                  cell={{ r: index, c: 1 }}
                  value={figure?.lowestV?.volts}
                  dimension="voltage"
                  rounding="down"
                  strong
                  label={`Lowest volts at ${part.name}`}
                  of={{ kind: "partLowest", part: part.id }}
                />
              </td>
              <td className="text-xs text-soft">{figure?.lowestV ? modes[figure.lowestV.mode]?.name : "not connected"}</td>
              <td className="num fig">
                {figure?.highestV == null ? <span className="text-ask">?</span> : say(figure.highestV, "voltage", "up")}
              </td>
              <td className="num fig">{part.inputMaxV ? say(part.inputMaxV.value, "voltage") : <span className="text-ask">?</span>}</td>
              <td>
                <SeverityMark severity={verdict?.severity ?? (unsure ? "ask" : "clear")} />
              </td>
            </tr>
          );
        })}
      </tbody>
    </table>
  );
}

/** Sources and converters with what they give and may give, and the voltage every part ends up with. */
export function RailsView() {
  return (
    <div className="min-h-0 flex-1 overflow-auto pane">
      <GiversTable />
      <WindowsTable />
    </div>
  );
}
