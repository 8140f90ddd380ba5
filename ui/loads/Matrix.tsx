"use client";
import { type KeyboardEvent, memo } from "react";
import type { PartFigures } from "@/core/figures/types";
import { levelsCommand } from "@/core/loads/fill";
import { cellWords, levelWord } from "@/core/loads/words";
import { PROVENANCES, type Provenance } from "@/core/machine/figure";
import type { Cell, LevelName } from "@/core/machine/load-schema";
import type { Load, Mode } from "@/core/machine/schema";
import type { LedgerRow } from "@/core/machine/tree";
import { parseCell } from "@/core/machine/typed";
import { editText, formatQuantity } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import type { Mark } from "@/core/verdicts/types";
import { analysisOf } from "@/state/findings";
import type { ModeChoice } from "@/state/workbench";
import { Figure } from "../figure/Figure";
import { cut } from "../grid/cut";
import { EditCell } from "../grid/EditCell";
import { columns, NARROW_HIDDEN, rowGrid, TableHead } from "../grid/TableHead";
import { useGridKeys } from "../grid/useGridKeys";
import { useShowChosen } from "../grid/useShowChosen";
import { useVirtualRows } from "../grid/useVirtualRows";
import { cssVariables } from "../kit/css";
import { RailTag } from "../kit/RailTag";
import { SeverityMark } from "../kit/Severity";
import { LOAD_KIND_NAMES } from "../parts/KindFields";
import { sameRowProps, useDispatch, useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";

const ROW_HEIGHT = 30;
/** Columns before the modes that can be reached with the arrow keys: name, runs, stalls, worst. */
const FIRST_MODE = 4;

/** How the figures behind a load's modes are known: the weakest of them rules. */
export function weakest(load: Load): Provenance | null {
  let worst = -1;
  for (const cell of Object.values(load.cells)) {
    if (cell.state === "off") continue;
    const figure =
      ("measured" in cell && cell.measured) ||
      (cell.state === "amps"
        ? cell.amps
        : load.levels?.[
            cell.state === "reverse" ? "stall" : cell.state === "start" ? (load.levels.start ? "start" : "stall") : cell.state
          ]);
    if (figure) worst = Math.max(worst, PROVENANCES.indexOf(figure.provenance));
  }
  return PROVENANCES[worst] ?? null;
}

function KnownBy({ provenance }: { provenance: Provenance | null }) {
  if (provenance === null) return <span className="text-soft">–</span>;
  if (provenance === "guess") return <span className="font-bold text-ask">? guess</span>;
  return (
    <span className={provenance === "measured" ? "font-bold" : provenance === "typical" ? "text-soft italic" : "text-soft"}>
      {provenance}
    </span>
  );
}

function editorText(load: Load, cell: Cell | undefined): string {
  if (!cell) return "";
  if ("measured" in cell && cell.measured && cell.state === "amps") return `measured ${editText(cell.measured.value, "current")}`;
  return cell.state === "amps" ? editText(cell.amps.value, "current") : cellWords(load, cell);
}

/** Letters a mode's column has room for. Cut here and not by the browser, which pays for every box it has to clip. */
const ROOM = 14;

function short(words: string): string {
  return words.length > ROOM ? `${words.slice(0, ROOM - 1)}…` : words;
}

function CellText({ load, cell, amps }: { load: Load; cell: Cell | undefined; amps: string }) {
  if (!cell) return <span className="font-bold text-ask">?</span>;
  if (cell.state === "off") return <span className="text-xs text-soft">off</span>;
  const read = "measured" in cell && cell.measured !== undefined;
  const [digits = "–", unit = ""] = amps.split(" ");
  const typed = cell.state === "amps" ? cell.amps.provenance : null;
  const words = typed === null ? cellWords(load, cell) : typed === "guess" ? "? guess" : typed;
  return (
    <>
      <span className="fig block font-bold">
        {digits}
        <span className="unit">{unit}</span>
      </span>
      <span
        title={read || words.length > ROOM ? words : undefined}
        className={`block text-[11px] ${typed === "guess" && !read ? "font-bold text-ask" : "text-soft"} ${typed === "typical" ? "italic" : ""}`}
      >
        {read ? "read" : short(words)}
      </span>
    </>
  );
}

/** A current of one piece that the states refer to, editable in place. */
function LevelCell({ load, level, cell }: { load: Load; level: LevelName; cell: { r: number; c: number } }) {
  const { dispatch } = useDispatch();
  const { store } = useWorkbenchContext();
  const figure = load.levels?.[level];
  const word = levelWord(load.loadKind, level) ?? level;
  const printed = figure ? formatQuantity(figure.value, "current") : null;
  return (
    <EditCell
      cell={cell}
      className="min-w-11 text-right"
      initial={figure ? editText(figure.value, "current") : ""}
      label={`${load.name}, amps of one when it ${word}`}
      placeholder="9.2 A"
      parse={(text) => (text.trim() === "" ? { ok: true as const, value: null } : parseQuantity(text, "current"))}
      commit={(value) => {
        const { [level]: before, ...others } = load.levels ?? {};
        const next =
          value === null
            ? others
            : { ...others, [level]: { value, provenance: before?.basis ? "guess" : (before?.provenance ?? "guess") } };
        return dispatch(levelsCommand(store.getState().machine, load, next));
      }}
    >
      {printed ? (
        <span className="fig">
          {printed.digits}
          <span className="unit">{printed.unit}</span>
        </span>
      ) : (
        <span className="text-soft">–</span>
      )}
    </EditCell>
  );
}

interface ModeCellProps {
  load: Load;
  modeId: string;
  modeName: string;
  row: number;
  column: number;
  chosen: boolean;
  amps: string;
  /** Length of its bar, % of the load's worst. */
  width: string;
}

/** One load in one mode. What it shows is all it depends on: of an edited row only the edited cell is drawn again. */
const ModeCell = memo(function ModeCell({ load, modeId, modeName, row, column, chosen, amps, width }: ModeCellProps) {
  const { dispatch } = useDispatch();
  const cell = load.cells[modeId];
  return (
    <td className={`num bar border-l border-hair ${chosen ? "bg-strip" : ""}`} style={cssVariables({ "--bar": `${width}%` })}>
      <EditCell
        cell={{ r: row, c: column }}
        className="w-full min-w-12 text-right"
        initial={editorText(load, cell)}
        label={`${load.name} in ${modeName}`}
        parse={(text) => parseCell(text, load.nominalV.value, load.count, cell)}
        commit={(value) => {
          const kept =
            cell?.state === "amps" && value?.state === "amps" && !value.measured
              ? { ...value, amps: { ...value.amps, provenance: cell.amps.provenance } }
              : value;
          return dispatch({ type: "setCell", loadId: load.id, modeId, cell: kept });
        }}
        placeholder="run 70 %"
        words
      >
        <CellText load={load} cell={cell} amps={amps} />
      </EditCell>
    </td>
  );
}, sameCell);

/** Only this mode's cell of a load matters here, and the few figures of the load that its words and editor need. */
function sameCell(a: ModeCellProps, b: ModeCellProps): boolean {
  const same = (Object.keys(a) as (keyof ModeCellProps)[]).every((key) => key === "load" || a[key] === b[key]);
  if (!same || a.load === b.load) return same;
  return (
    a.load.cells[a.modeId] === b.load.cells[b.modeId] &&
    a.load.name === b.load.name &&
    a.load.count === b.load.count &&
    a.load.loadKind === b.load.loadKind &&
    a.load.nominalV === b.load.nominalV
  );
}

interface RowProps {
  row: LedgerRow;
  load: Load;
  driver: string | null;
  index: number;
  modes: readonly Mode[];
  mode: ModeChoice;
  selected: boolean;
  /** What the row shows of each mode, joined: rows whose figures stay render nothing. */
  amps: string;
  bars: string;
  worstA: number | undefined;
  worstAtLeast: boolean;
  status: Mark | undefined;
}

const LoadRow = memo(function LoadRow(props: RowProps) {
  const { row, load, driver, index, modes, mode, selected, amps, bars, worstA, worstAtLeast, status } = props;
  const select = useWorkbench((state) => state.select);
  const about = `${load.count > 1 ? `${load.count} × ` : ""}${load.note ?? LOAD_KIND_NAMES[load.loadKind]}`;
  const texts = amps.split("\t");
  const widths = bars.split(" ");
  return (
    <tr data-row={load.id} aria-selected={selected} onFocus={() => select(load.id)} onClick={() => select(load.id)}>
      <td>
        <button type="button" data-r={index} data-c={0} className={`block w-full text-left ${cut(load.name, 16)}`}>
          <RailTag rail={row.rail} slim /> <span className="pl-1">{load.name}</span>
          <span className={`block pl-[3.2em] text-[11px] text-soft ${cut(about, 20)}`}>{about}</span>
        </button>
      </td>
      <td className={`text-sm ${cut(driver ?? "", 10)} ${NARROW_HIDDEN}`} title={driver ?? undefined}>
        {driver ?? <span className="text-soft">–</span>}
      </td>
      <td className="num">
        <LevelCell load={load} level="run" cell={{ r: index, c: 1 }} />
      </td>
      <td className="num">
        <LevelCell load={load} level={levelWord(load.loadKind, "stall") === null ? "start" : "stall"} cell={{ r: index, c: 2 }} />
      </td>
      <td className="num">
        <Figure
          value={worstA}
          dimension="current"
          rounding="up"
          strong
          atLeast={worstAtLeast}
          label={`${load.name}, worst`}
          of={{ kind: "partWorst", part: load.id }}
          cell={{ r: index, c: 3 }}
        />
      </td>
      <td className="text-xs">
        <KnownBy provenance={weakest(load)} />
      </td>
      {modes.map((each, m) => (
        <ModeCell
          key={each.id}
          load={load}
          modeId={each.id}
          modeName={each.name}
          row={index}
          column={m + FIRST_MODE}
          chosen={mode === m}
          amps={texts[m] ?? ""}
          width={widths[m] ?? "0"}
        />
      ))}
      <td>{status && <SeverityMark severity={status} />}</td>
    </tr>
  );
}, sameRowProps);

function ampsOf(figures: PartFigures | undefined, load: Load, modes: readonly Mode[]): string {
  return modes
    .map((mode, m) => {
      const cell = load.cells[mode.id];
      if (!cell || cell.state === "off" || !figures) return "";
      // What was typed stays as typed; a state or a reading shows what the network makes of it.
      const shown = cell.state === "amps" && !cell.measured ? cell.amps.value : (figures.amps[m] ?? 0);
      const { digits, unit } = formatQuantity(shown, "current");
      return `${digits} ${unit}`;
    })
    .join("\t");
}

/** A demand to four digits, upwards: what a row shows does not change with the ninth digit of it. */
function shownUp(value: number): number {
  if (!(value > 0)) return 0;
  const step = 10 ** (Math.floor(Math.log10(value)) - 3);
  return Number((Math.ceil(value / step - 1e-6) * step).toPrecision(6));
}

function barsOf(figures: PartFigures | undefined): string {
  if (!figures) return "";
  const worst = Math.max(0.001, ...figures.amps);
  return Array.from(figures.amps, (amps) => Math.round(Math.max(0, (amps / worst) * 100))).join(" ");
}

/** What every load does and draws in every mode. */
export function Matrix() {
  const ledger = useLedger();
  const mode = useWorkbench((state) => state.mode);
  const selected = useWorkbench((state) => state.selected);
  const analysis = useWorkbench(analysisOf);
  const modes = useWorkbench((state) => state.machine.modes);
  const { act } = useDispatch();
  const rows = ledger.rows.filter((row) => row.part.kind === "load");
  const { scroller, indexes, top, bottom, reveal } = useVirtualRows(rows.length, ROW_HEIGHT);
  const onGridKey = useGridKeys(rows.length, modes.length + FIRST_MODE, reveal);
  const onKeyDown = (event: KeyboardEvent<HTMLElement>) => {
    const at = (event.target as HTMLElement).closest<HTMLElement>("[data-c]");
    const m = Number(at?.dataset.c) - FIRST_MODE;
    const load = rows[Number(at?.dataset.r)]?.part;
    if (event.key === "Enter" && event.shiftKey && !event.ctrlKey && !event.metaKey && !event.altKey && m >= 0 && load?.kind === "load") {
      event.preventDefault();
      fillAcross(act, load, modes, m);
      return;
    }
    onGridKey(event);
  };
  // The panes below open over the lower rows: the chosen one stays in sight.
  useShowChosen(
    selected,
    rows.map(({ part }) => part.id),
    scroller,
    reveal,
  );
  const head = [
    ...columns(["Load", 142]),
    { label: "Driven by", width: 72, wideOnly: true },
    ...columns(["Runs#", 45], ["Peak#", 45], ["Worst#", 50], ["Known by", 56]),
    ...modes.map((each, m) => ({ label: each.name, num: true, className: mode === m ? "!bg-ink !text-paper" : "" })),
    ...columns(["Verdict", 44]),
  ];
  if (rows.length === 0) {
    return (
      <p className="p-6 text-sm text-soft">No loads yet. Select a bar, converter or driver on Feeds and press A to hang one under it.</p>
    );
  }
  return (
    <div ref={scroller} className="pane min-h-0 flex-1 overflow-auto">
      <table className="ledger rows tight" style={rowGrid(head, 51)} onKeyDown={onKeyDown}>
        <caption className="sr-only">What each load does and draws in each mode</caption>
        <TableHead sticky columns={head} />
        <tbody>
          {top > 0 && <tr aria-hidden style={{ height: top }} />}
          {indexes.map((index) => {
            const row = rows[index];
            if (row?.part.kind !== "load") return null;
            const parent = row.parent ? ledger.rowOf.get(row.parent)?.part : undefined;
            const figures = analysis?.parts[row.part.id];
            return (
              <LoadRow
                key={row.part.id}
                row={row}
                load={row.part}
                driver={parent?.kind === "driver" ? parent.name : null}
                index={index}
                modes={modes}
                mode={mode}
                selected={row.part.id === selected}
                amps={ampsOf(figures, row.part, modes)}
                bars={barsOf(figures)}
                worstA={figures && shownUp(figures.worst.amps)}
                worstAtLeast={figures?.worstAtLeast ?? false}
                status={analysis?.status[row.part.id]}
              />
            );
          })}
          {bottom > 0 && <tr aria-hidden style={{ height: bottom }} />}
        </tbody>
      </table>
    </div>
  );
}

/** What the load does in one mode, in every mode; a reading belongs to its own mode and stays there. */
export function fillAcross(act: ReturnType<typeof useDispatch>["act"], load: Load, modes: readonly Mode[], from: number): void {
  const cell = load.cells[modes[from]?.id ?? ""];
  if (!cell) return;
  const { measured: _own, ...state } = "measured" in cell ? cell : { ...cell, measured: undefined };
  act({
    type: "batch",
    label: `${load.name}: ${cellWords(load, cell)} in every mode`,
    commands: modes.flatMap((mode, m) =>
      m === from ? [] : [{ type: "setCell" as const, loadId: load.id, modeId: mode.id, cell: state as Cell }],
    ),
  });
}
