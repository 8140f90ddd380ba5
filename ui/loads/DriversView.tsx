"use client";
import type { Analysis } from "@/core/analysis/types";
import { bridgeHeat } from "@/core/drivers/bridge";
import { bridgeOf } from "@/core/drivers/channel";
import { driverLimits } from "@/core/drivers/limits";
import type { Driver, Load } from "@/core/machine/schema";
import { editText, formatQuantity, say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import { Figure } from "../figure/Figure";
import { EditCell } from "../grid/EditCell";
import { columns, fixedLayout, NARROW_HIDDEN, TableHead } from "../grid/TableHead";
import { useGridKeys } from "../grid/useGridKeys";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { pickFigure, useDispatch, useLedger, useWorkbench } from "../workbench/context";

export const COOLING_NAMES = { none: "bare board", heatsink: "heatsink", air: "moving air" } as const;
export const LOGIC_NAMES = { "own input": "own 5 V input", onboard: "its own regulator", controller: "the controller" } as const;

/** The channel that carries most in a mode. */
function heaviest(motors: readonly Load[], analysis: Analysis | null, mode: number): { load: Load; amps: number } | null {
  let most: { load: Load; amps: number } | null = null;
  for (const load of motors) {
    const amps = analysis?.parts[load.id]?.amps[mode] ?? 0;
    if (!most || amps > most.amps) most = { load, amps };
  }
  return most;
}

type AmpsKey = "headlineA" | "continuousA" | "peakA" | "limitA";

function AmpsCell({ driver, of, label, cell }: { driver: Driver; of: AmpsKey; label: string; cell: { r: number; c: number } }) {
  const { dispatch } = useDispatch();
  const figure = driver[of];
  const printed = figure ? formatQuantity(figure.value, "current", "down") : null;
  return (
    <EditCell
      cell={cell}
      className="min-w-10 text-right"
      initial={figure ? editText(figure.value, "current") : ""}
      label={`${driver.name}, ${label}`}
      placeholder="20 A"
      parse={(text) => (text.trim() === "" ? { ok: true as const, value: undefined } : parseQuantity(text, "current"))}
      commit={(value) =>
        dispatch({
          type: "updatePart",
          id: driver.id,
          changes: { [of]: value === undefined ? undefined : { value, provenance: figure?.provenance ?? "datasheet" } },
        })
      }
    >
      {printed ? (
        <span className="fig">
          {printed.digits}
          <span className="unit">{printed.unit}</span>
        </span>
      ) : (
        <span className={of === "continuousA" ? "font-bold text-ask" : "text-soft"}>{of === "continuousA" ? "?" : "–"}</span>
      )}
    </EditCell>
  );
}

/** Every driver: what is printed on it, what it really carries, what its motors ask of it, and how its logic is fed. */
export function DriversView() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const analysis = useWorkbench((state) => state.analysis);
  const selected = useWorkbench((state) => state.selected);
  const select = useWorkbench((state) => state.select);
  const { act } = useDispatch();
  const rows = ledger.rows.flatMap((row) => (row.part.kind === "driver" ? [{ row, driver: row.part }] : []));
  const onKeyDown = useGridKeys(rows.length, 9);
  if (rows.length === 0) {
    return (
      <p className="p-6 text-sm text-soft">
        No drivers yet. Select a bar on Feeds and press A to hang one under it, then its motor under the driver.
      </p>
    );
  }
  const head = [
    ...columns(["Driver", 138], ["Printed#", 48], ["For good#", 52], ["Cooled by", 84], ["Peak#", 48], ["Limit set#", 52]),
    ...columns(["Motor amps#", 66], ["Bus amps#", 60], ["Motor gets#", 62]),
    { label: "Heat", num: true, width: 58, wideOnly: true },
    { label: "Logic from", wideOnly: true },
    ...columns(["Verdict", 50]),
  ];
  return (
    <div className="pane min-h-0 flex-1 overflow-auto">
      <table className="ledger" style={fixedLayout(head, 80)} onKeyDown={onKeyDown}>
        <caption className="sr-only">Drivers with their limits and what their motors draw</caption>
        <TableHead sticky columns={head} />
        <tbody>
          {rows.map(({ row, driver }, index) => {
            const motors = ledger.rows.flatMap((each) =>
              each.parent === driver.id && each.feed?.role === "phase" && each.part.kind === "load" ? [each.part] : [],
            );
            const at = pickFigure(analysis?.parts[driver.id]?.amps, mode);
            const most = at ? heaviest(motors, analysis, at.mode) : null;
            const limits = driverLimits(driver);
            const layered = limits.continuous && driver.continuousA && limits.continuous.value < driver.continuousA.value;
            const bridge = bridgeOf(driver);
            const heat = at
              ? motors.reduce((sum, load) => sum + bridgeHeat(bridge, analysis?.parts[load.id]?.amps[at.mode] ?? 0), 0)
              : null;
            return (
              <tr
                key={driver.id}
                data-row={driver.id}
                aria-selected={driver.id === selected}
                onFocus={() => select(driver.id)}
                onClick={() => select(driver.id)}
              >
                <td className="!h-[38px]">
                  <button type="button" data-r={index} data-c={0} className="block w-full truncate text-left">
                    <RailTag rail={row.rail} /> <span className="pl-1">{driver.name}</span>
                    <span className="block truncate pl-[3.2em] text-xs text-soft">
                      {motors.length === 0 ? "no motor yet" : motors.map(({ name }) => name).join(", ")}
                    </span>
                  </button>
                </td>
                <td className="num">
                  <AmpsCell driver={driver} of="headlineA" label="amps as printed" cell={{ r: index, c: 1 }} />
                </td>
                <td className="num">
                  <AmpsCell driver={driver} of="continuousA" label="amps for good, bare" cell={{ r: index, c: 2 }} />
                  {layered && (
                    <span className="block text-[11px] text-soft">{say(limits.continuous?.value ?? 0, "current", "down")} by a layer</span>
                  )}
                </td>
                <td>
                  <select
                    aria-label={`${driver.name} cooled by`}
                    className="field w-full text-xs"
                    value={driver.cooling ?? "none"}
                    onChange={(event) => act({ type: "updatePart", id: driver.id, changes: { cooling: event.target.value } })}
                  >
                    {Object.entries(COOLING_NAMES).map(([key, name]) => (
                      <option key={key} value={key}>
                        {name}
                      </option>
                    ))}
                  </select>
                </td>
                <td className="num">
                  <AmpsCell driver={driver} of="peakA" label="peak amps" cell={{ r: index, c: 3 }} />
                </td>
                <td className="num">
                  <AmpsCell driver={driver} of="limitA" label="current limit set" cell={{ r: index, c: 4 }} />
                </td>
                <td className="num">
                  {most && at && (
                    <Figure
                      value={most.amps}
                      dimension="current"
                      rounding="up"
                      strong
                      atLeast={analysis?.parts[most.load.id]?.atLeast[at.mode] === 1}
                      label={`${most.load.name}, motor amps`}
                      of={{ kind: "partAmps", part: most.load.id, mode: at.mode }}
                      cell={{ r: index, c: 5 }}
                    />
                  )}
                </td>
                <td className="num">
                  {at && (
                    <Figure
                      value={at.value}
                      dimension="current"
                      rounding="up"
                      atLeast={analysis?.parts[driver.id]?.atLeast[at.mode] === 1}
                      label={`${driver.name}, bus amps`}
                      of={{ kind: "partAmps", part: driver.id, mode: at.mode }}
                      cell={{ r: index, c: 6 }}
                    />
                  )}
                </td>
                <td className="num">
                  {most && at && most.amps > 0 && (
                    <Figure
                      value={analysis?.parts[most.load.id]?.volts[at.mode]}
                      dimension="voltage"
                      rounding="down"
                      label={`${most.load.name}, volts`}
                      of={{ kind: "partVolts", part: most.load.id, mode: at.mode }}
                      cell={{ r: index, c: 7 }}
                    />
                  )}
                </td>
                <td className={`num ${NARROW_HIDDEN}`}>
                  {heat !== null && <Figure value={heat} dimension="power" rounding="up" label="Bridge heat" />}
                </td>
                <td className={`truncate text-xs ${NARROW_HIDDEN}`}>
                  {driver.logic ? LOGIC_NAMES[driver.logic] : <span className="text-soft">not planned</span>}
                </td>
                <td>{analysis?.status[driver.id] && <SeverityMark severity={analysis.status[driver.id] ?? "clear"} />}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
      <p className="px-3 py-2 text-xs text-soft">
        Motor leads carry the motor amps, the feed only the bus amps: while the bridge chops, the rest goes round in the motor&apos;s own
        loop.
      </p>
    </div>
  );
}
