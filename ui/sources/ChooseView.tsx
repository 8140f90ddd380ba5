"use client";
import { useCallback, useEffect, useMemo, useState } from "react";
import { toast } from "sonner";
import type { LowPoint, SourceCandidate } from "@/core/choosing/packs";
import { partsOnShelf, type ShelfItem } from "@/core/machine/shelf";
import { say, sayDuration } from "@/core/quantity/format";
import type { RailDemand } from "@/core/sources/demand";
import { changeOnShelf, fetchShelf, takeOffShelf } from "@/state/api";
import { analysedOf } from "@/state/findings";
import { FigureTable, type TableColumn } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { Button } from "../kit/Button";
import { RailTag } from "../kit/RailTag";
import { always, Select } from "../kit/Select";
import { PlanIt } from "../parts/PlanIt";
import { useDispatch, useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { across, useQuestion, useSourcesAnswer } from "../workbench/useQuestion";

const NONE: readonly SourceCandidate[] = [];

/** Rows shown before anybody asks for more. */
const FIRST_ROWS = 40;

/** What a rail asks for, and everything that could feed it, side by side. */
export function ChooseView() {
  const ledger = useLedger();
  const machine = useWorkbench((state) => state.machine);
  const selected = useWorkbench((state) => state.selected);
  const [origin, setOrigin] = useState<string | null>(null);
  const wanted = origin ?? selected;
  // Onboard regulators come with their board: there is nothing to choose.
  const rails = ledger.rails.filter((rail) => {
    const kind = machine.parts.find(({ id }) => id === rail.origin)?.kind;
    return kind === "pack" || kind === "supply" || kind === "converter";
  });
  const rail = rails.find((each) => each.origin === wanted) ?? rails[0];
  const { value: demands, failed, start } = useSourcesAnswer("demands", (service, at) => service.demands(at));
  if (!rail) return <p className="p-6 text-sm text-soft">No rail yet: add a source first.</p>;
  const demand = demands?.find((each) => each.rail.origin === rail.origin);
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-hidden">
      <div className="flex shrink-0 items-start gap-4 border-b border-hair px-3 py-2">
        <label className="text-sm whitespace-nowrap">
          For{" "}
          <Select
            aria-label="Rail to feed"
            value={rail.origin}
            options={rails.map((each) => ({
              value: each.origin,
              label: `${each.tag} · ${machine.parts.find(({ id }) => id === each.origin)?.name}`,
            }))}
            onChange={always((chosen) => setOrigin(chosen))}
          />
        </label>
        {failed && <BrokeOff what="What the rail asks for" again={start} />}
        {demand && <Demand demand={demand} />}
      </div>
      <Candidates key={rail.origin} origin={rail.origin} unsure={demand?.peakAtLeast ?? false} />
    </div>
  );
}

/** The demand of a rail in one line: the number to size by first. */
function Demand({ demand }: { demand: RailDemand }) {
  const modes = useWorkbench((state) => state.machine.modes);
  const wish = useWorkbench((state) => state.machine.settings.wantedRunS);
  const { openDialog } = useWorkbenchContext();
  const peak = modes[demand.peakMode]?.name;
  return (
    <div className="min-w-0 text-sm">
      <p>
        <RailTag rail={demand.rail} /> asks{" "}
        <span className="fig text-lg font-bold">
          {demand.continuousAtLeast && "≥ "}
          {say(demand.continuousA, "current", "up")}
        </span>{" "}
        continuously<span className="text-soft"> in {modes[demand.continuousMode]?.name}</span>,{" "}
        <span className="fig font-bold">
          {demand.peakAtLeast && "≥ "}
          {say(demand.peakA, "current", "up")}
        </span>{" "}
        at most
        <span className="text-soft">
          {" "}
          in {peak}
          {demand.peakS !== null && ` for ${say(demand.peakS, "time")}`}
        </span>
        {demand.rmsA !== null && (
          <>
            , <span className="fig">{say(demand.rmsA, "current", "up")}</span> r.m.s. over the mission
          </>
        )}
      </p>
      <p className="text-xs text-soft">
        Everything on it accepts{" "}
        {demand.least ? (
          <>
            from <span className="fig text-ink">{say(demand.least.volts, "voltage", "up")}</span> ({demand.least.part})
          </>
        ) : (
          "no known least volts"
        )}
        {demand.most ? (
          <>
            {" "}
            to <span className="fig text-ink">{say(demand.most.volts, "voltage", "down")}</span> ({demand.most.part})
          </>
        ) : (
          ", no known most"
        )}
        {". "}
        <button type="button" className="link" onClick={() => openDialog({ kind: "settings" })}>
          {wish === undefined ? "Say how long it should run" : `Run wanted: ${sayDuration(wish)}`}
        </button>
      </p>
    </div>
  );
}

const CAUTIONS: Readonly<Record<string, string>> = {
  pack: "Lithium: a charger made for the chemistry and cell count, never charged unattended or below freezing, a fuse at the plus. Lead-acid gives off hydrogen on charge: ventilate, no sparks. Every battery welds a tool dropped across it.",
  supply: "Mains is live on the screws inside: local codes and licensed people decide that side. Unplug and wait before touching.",
  converter: "A shorted switch puts the input voltage on everything behind it: fuse its input.",
};

/** `unsure`: a load of the rail has no figure yet, so nothing can be said to fit for certain. */
function Candidates({ origin, unsure }: { origin: string; unsure: boolean }) {
  const { sources } = useWorkbenchContext();
  const { act } = useDispatch();
  const machine = useWorkbench(analysedOf);
  const part = useWorkbench((state) => state.machine.parts.find(({ id }) => id === origin));
  const [shelf, setShelf] = useState<readonly ShelfItem[] | null>(null);
  const [fitsOnly, setFitsOnly] = useState(false);
  const [all, setAll] = useState(false);
  const refresh = useCallback(() => fetchShelf().then((items) => setShelf(items ?? [])), []);
  useEffect(() => void refresh(), [refresh]);
  const version = useMemo(() => (machine && shelf ? { machine, shelf: partsOnShelf(shelf) } : null), [machine, shelf]);
  const search = useQuestion({
    key: origin,
    version,
    ask: (told) =>
      version
        ? sources.ask((service) => service.candidates(version.machine, origin, version.shelf, across(told)), Number.POSITIVE_INFINITY)
        : undefined,
  });
  const done = search.value !== null;
  const { progress } = search;
  const found = search.value ?? NONE;
  const rows = fitsOnly ? found.filter(({ refused, from }) => refused.length === 0 || from === "plan") : found;
  const fitting = found.filter(({ refused }) => refused.length === 0).length;
  const battery = part?.kind === "pack";
  const heats = part?.kind === "converter";
  const take = (candidate: SourceCandidate) => {
    if (candidate.changes && act({ type: "updatePart", id: origin, changes: { ...candidate.changes } }))
      toast(`${part?.name} is planned as ${candidate.name}. Undo brings the other back; nothing was rewired.`);
  };
  const takeOff = async (candidate: SourceCandidate) => {
    const item = shelf?.find(({ id }) => id === candidate.id);
    if (!(await takeOffShelf(candidate.id))) return toast.error("It stays on the shelf: the server does not answer.");
    await refresh();
    toast(`${candidate.name} is off the shelf`, {
      ...(item ? { action: { label: "Undo", onClick: () => void changeOnShelf(item).then(refresh) } } : {}),
    });
  };
  return (
    <section aria-label="Candidates" className="flex min-h-0 flex-1 flex-col">
      <div className="flex shrink-0 flex-wrap items-baseline gap-x-4 px-3 py-1 text-sm">
        {search.asking && !done && (
          <p role="status" className="flex items-center gap-3">
            Weighing {progress ? `${progress.done} of ${progress.of}` : "…"}
            {progress && <progress className="h-2 w-40 accent-accent" value={progress.done} max={progress.of} aria-label="Packs weighed" />}
            <Button kind="quiet" onClick={search.stop}>
              Stop
            </Button>
          </p>
        )}
        {!search.asking && !search.failed && !done && version && (
          <p className="text-soft">
            Stopped.{" "}
            <button type="button" className="link" onClick={search.start}>
              Start anew
            </button>
          </p>
        )}
        {search.failed && <BrokeOff what="The candidates" again={search.start} />}
        {done && (
          <>
            <p role="status">
              <span className="fig text-lg font-bold">{fitting}</span> of {found.length} fit{unsure ? " so far" : ""}.
              {unsure && <span className="pl-2 text-xs text-ask">? a load here has no figure yet</span>}
            </p>
            <label>
              <input type="checkbox" className="mr-1.5" checked={fitsOnly} onChange={(event) => setFitsOnly(event.target.checked)} />
              only what fits
            </label>
          </>
        )}
        <p className="ml-auto max-w-[56ch] text-xs text-soft">{CAUTIONS[part?.kind ?? ""]}</p>
      </div>
      {done && (
        <div className="min-h-0 flex-1 overflow-auto">
          <FigureTable
            sticky
            className="[&_td]:py-1 [&_td]:align-top"
            caption="Candidates for this rail"
            rows={rows}
            most={all ? undefined : FIRST_ROWS}
            keyOf={({ from, id }) => `${from} ${id}`}
            rowClass={({ from }) => from === "plan" && "bg-tint"}
            columns={[
              nameColumn(takeOff),
              ...(battery ? packColumns(unsure) : heats ? [...SUPPLY_COLUMNS, HEAT_COLUMN] : SUPPLY_COLUMNS),
              fitColumn(unsure),
              {
                label: "Plan",
                hidden: true,
                cell: (each) => each.changes && <PlanIt name={each.name} onTake={() => take(each)} />,
              },
            ]}
          />
          {!all && rows.length > FIRST_ROWS && (
            <p className="p-3 text-sm">
              <button type="button" className="link" onClick={() => setAll(true)}>
                Show the other {rows.length - FIRST_ROWS}
              </button>
            </p>
          )}
          <p className="p-3 text-xs text-soft">
            Classes and composed packs are typical figures from memory: they narrow the search, the sheet of the real part decides. Room is
            what is left of its tightest limit.
          </p>
        </div>
      )}
    </section>
  );
}

/** The part with the least room, in the line of what fits. */
function Low({ low }: { low: LowPoint }) {
  return (
    <>
      ; {low.part} keeps {say(low.volts, "voltage", "down")}, needs {say(low.leastV, "voltage", "up")}
    </>
  );
}

const FROM_WORDS = { plan: "the one planned now", shelf: "on your shelf", class: "class, typical", composed: "composed, typical" } as const;

type CandidateColumn = TableColumn<SourceCandidate>;

function volts(value: number | null, rounding: "up" | "down"): string {
  return value === null ? "–" : say(value, "voltage", rounding);
}

function nameColumn(onTakeOff: (candidate: SourceCandidate) => void): CandidateColumn {
  return {
    label: "Candidate",
    sortBy: ({ name }) => name,
    cellClass: "min-w-[168px] !whitespace-normal",
    cell: (each) => (
      <>
        <span className="font-semibold">{each.name}</span>
        <span className="block text-xs text-soft">
          {FROM_WORDS[each.from]}
          {each.cost !== null && `, costs ${each.cost}`}
          {each.from === "shelf" && (
            <>
              {" · "}
              <button type="button" className="link" onClick={() => onTakeOff(each)} aria-label={`Take ${each.name} off the shelf`}>
                take off
              </button>
            </>
          )}
        </span>
      </>
    ),
  };
}

const ROOM_COLUMN: CandidateColumn = {
  label: "Room",
  num: true,
  sortBy: ({ margin }) => -margin,
  cellClass: "fig font-bold",
  cell: ({ margin }) => (Number.isFinite(margin) ? `${Math.floor(margin * 100)} %`.replace("-", "−") : "–"),
};

const GOOD_COLUMN: CandidateColumn = {
  label: "Continuous",
  num: true,
  sortBy: ({ continuousA }) => -(continuousA ?? 0),
  cellClass: "fig",
  cell: ({ continuousA }) => (continuousA === null ? "?" : say(continuousA, "current", "down")),
};

const worstColumn = (label: string): CandidateColumn => ({
  label,
  num: true,
  sortBy: ({ worstV }) => -(worstV ?? 0),
  cellClass: "fig",
  cell: ({ worstV }) => volts(worstV, "down"),
});

const HEAT_COLUMN: CandidateColumn = {
  label: "Heat",
  num: true,
  sortBy: ({ heatW }) => heatW ?? Number.MAX_VALUE,
  cellClass: "fig",
  cell: ({ heatW }) => (heatW === null ? "–" : say(heatW, "power", "up")),
};

const SUPPLY_COLUMNS: readonly CandidateColumn[] = [ROOM_COLUMN, GOOD_COLUMN, worstColumn("Volts at peak")];

function packColumns(unsure: boolean): CandidateColumn[] {
  return [
    ROOM_COLUMN,
    {
      label: "Runs",
      num: true,
      sortBy: ({ runS }) => -(runS ?? 0),
      cellClass: "fig",
      cell: ({ runS }) => (runS === null ? "–" : `${unsure ? "≤ " : ""}${sayDuration(runS)}`),
    },
    worstColumn("At worst"),
    { label: "Full", num: true, sortBy: ({ fullV }) => fullV ?? 0, cellClass: "fig", cell: ({ fullV }) => volts(fullV, "up") },
    GOOD_COLUMN,
    {
      label: "Mass",
      num: true,
      sortBy: ({ massKg }) => massKg ?? Number.MAX_VALUE,
      cellClass: "fig",
      cell: ({ massKg }) => (massKg === null ? "–" : say(massKg, "mass")),
    },
  ];
}

function fitColumn(unsure: boolean): CandidateColumn {
  return {
    label: "Against this rail",
    sortBy: ({ refused }) => refused.length,
    cellClass: "min-w-[220px] !whitespace-normal text-xs",
    cell: ({ refused, lows, runEnds }) => (
      <>
        {refused.length > 0 ? (
          <>
            <span className="font-bold text-fix">Fails</span> {refused.join("; ")}
          </>
        ) : (
          <>
            <span className={unsure ? "font-bold text-ask" : "font-bold"}>{unsure ? "Fits so far" : "Fits"}</span>
            {lows[0] && <Low low={lows[0]} />}
            {runEnds && `; ends because ${runEnds}`}
          </>
        )}
        {lows.length > 1 && (
          <details>
            <summary className="cursor-pointer text-soft">each part at its worst moment</summary>
            <ul>
              {lows.map(({ part, volts: least, leastV }) => (
                <li key={`${part} ${leastV}`}>
                  {part} <span className="fig">{say(least, "voltage", "down")}</span>
                  <span className="text-soft"> needs {say(leastV, "voltage", "up")}</span>
                </li>
              ))}
            </ul>
          </details>
        )}
      </>
    ),
  };
}
