"use client";
import * as Comlink from "comlink";
import { useCallback, useEffect, useRef, useState } from "react";
import { toast } from "sonner";
import type { LowPoint, SourceCandidate } from "@/core/choosing/packs";
import type { ShelfItem } from "@/core/machine/shelf";
import { say, sayDuration } from "@/core/quantity/format";
import type { RailDemand } from "@/core/sources/demand";
import { fetchShelf, putOnShelf, takeOffShelf } from "@/state/api";
import { type SortColumn, SortHead, useSorted } from "../grid/SortHead";
import { Button } from "../kit/Button";
import { RailTag } from "../kit/RailTag";
import { useDispatch, useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { useAnswer } from "./useAnswer";

type Search =
  | { state: "idle" }
  | { state: "weighing"; done: number; of: number }
  | { state: "done"; found: SourceCandidate[] }
  | { state: "failed" };

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
  const { value: demands } = useAnswer("demands", (service, at) => service.demands(at));
  if (!rail) return <p className="p-6 text-sm text-soft">No rail yet: add a source first.</p>;
  const demand = demands?.find((each) => each.rail.origin === rail.origin);
  return (
    <div className="flex min-h-0 flex-1 flex-col overflow-hidden">
      <div className="flex shrink-0 items-start gap-4 border-b border-hair px-3 py-2">
        <label className="text-sm whitespace-nowrap">
          For{" "}
          <select aria-label="Rail to feed" className="field" value={rail.origin} onChange={(event) => setOrigin(event.target.value)}>
            {rails.map((each) => (
              <option key={each.origin} value={each.origin}>
                {each.tag} · {machine.parts.find(({ id }) => id === each.origin)?.name}
              </option>
            ))}
          </select>
        </label>
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
        for good<span className="text-soft"> in {modes[demand.continuousMode]?.name}</span>,{" "}
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
  const machine = useWorkbench((state) => state.analysed);
  const part = useWorkbench((state) => state.machine.parts.find(({ id }) => id === origin));
  const [search, setSearch] = useState<Search>({ state: "idle" });
  const [shelf, setShelf] = useState<ShelfItem[] | null>(null);
  const [fitsOnly, setFitsOnly] = useState(false);
  const [all, setAll] = useState(false);
  const wanted = useRef(0);
  const refresh = useCallback(() => fetchShelf().then((items) => setShelf(items ?? [])), []);
  useEffect(() => void refresh(), [refresh]);
  useEffect(() => {
    if (!machine || !shelf) return;
    const mine = ++wanted.current;
    setSearch((now) => (now.state === "done" ? now : { state: "weighing", done: 0, of: 0 }));
    const progress = async (done: number, of: number) => {
      if (wanted.current !== mine) return false;
      setSearch((now) => (now.state === "done" ? now : { state: "weighing", done, of }));
      return true;
    };
    sources.service.candidates(machine, origin, shelf, Comlink.proxy(progress)).then(
      (found) => {
        if (wanted.current === mine && found) setSearch({ state: "done", found });
      },
      () => {
        if (wanted.current === mine) setSearch({ state: "failed" });
      },
    );
  }, [sources, machine, origin, shelf]);
  useEffect(
    () => () => {
      wanted.current = -1;
    },
    [],
  );
  const found = search.state === "done" ? search.found : [];
  const { rows, sort, setSort } = useSorted(
    fitsOnly ? found.filter(({ refused, from }) => refused.length === 0 || from === "plan") : found,
    sortValue,
  );
  const fitting = found.filter(({ refused }) => refused.length === 0).length;
  const shown = all ? rows : rows.slice(0, FIRST_ROWS);
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
      ...(item ? { action: { label: "Undo", onClick: () => void putOnShelf(item.part).then(refresh) } } : {}),
    });
  };
  return (
    <section aria-label="Candidates" className="flex min-h-0 flex-1 flex-col">
      <div className="flex shrink-0 flex-wrap items-baseline gap-x-4 px-3 py-1 text-sm">
        {search.state === "weighing" && (
          <p role="status" className="flex items-center gap-3">
            Weighing {search.of > 0 ? `${search.done} of ${search.of}` : "…"}
            {search.of > 0 && (
              <progress className="h-2 w-40 accent-accent" value={search.done} max={search.of} aria-label="Packs weighed" />
            )}
            <Button
              kind="quiet"
              onClick={() => {
                wanted.current++;
                setSearch({ state: "idle" });
              }}
            >
              Stop
            </Button>
          </p>
        )}
        {search.state === "idle" && machine && shelf && (
          <p className="text-soft">Stopped. Any edit, or choosing the rail again, starts anew.</p>
        )}
        {search.state === "failed" && <p className="text-stop dark:text-fix">They could not be weighed. Edit anything to try again.</p>}
        {search.state === "done" && (
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
      {search.state === "done" && (
        <div className="min-h-0 flex-1 overflow-auto">
          <table className="ledger [&_td]:py-1 [&_td]:align-top">
            <SortHead
              columns={battery ? PACK_COLUMNS : heats ? CONVERTER_COLUMNS : SUPPLY_COLUMNS}
              sort={sort}
              setSort={setSort}
              last="Plan"
            />
            <tbody>
              {shown.map((each) => (
                <Row
                  key={`${each.from} ${each.id}`}
                  candidate={each}
                  battery={battery}
                  heats={heats}
                  unsure={unsure}
                  onTake={take}
                  onTakeOff={takeOff}
                />
              ))}
            </tbody>
          </table>
          {rows.length > shown.length && (
            <p className="p-3 text-sm">
              <button type="button" className="link" onClick={() => setAll(true)}>
                Show the other {rows.length - shown.length}
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

const PACK_COLUMNS: readonly SortColumn[] = [
  { key: "name", label: "Candidate" },
  { key: "margin", label: "Room", num: true },
  { key: "run", label: "Runs", num: true },
  { key: "worst", label: "At worst", num: true },
  { key: "full", label: "Full", num: true },
  { key: "good", label: "For good", num: true },
  { key: "mass", label: "Mass", num: true },
  { key: "fit", label: "Against this rail" },
];

const SUPPLY_COLUMNS: readonly SortColumn[] = [
  { key: "name", label: "Candidate" },
  { key: "margin", label: "Room", num: true },
  { key: "good", label: "For good", num: true },
  { key: "worst", label: "Volts at peak", num: true },
  { key: "fit", label: "Against this rail" },
];

const CONVERTER_COLUMNS: readonly SortColumn[] = [
  ...SUPPLY_COLUMNS.slice(0, 4),
  { key: "heat", label: "Heat", num: true },
  ...SUPPLY_COLUMNS.slice(4),
];

function sortValue(candidate: SourceCandidate, key: string): number | string {
  switch (key) {
    case "margin":
      return -candidate.margin;
    case "run":
      return -(candidate.runS ?? 0);
    case "worst":
      return -(candidate.worstV ?? 0);
    case "full":
      return candidate.fullV ?? 0;
    case "good":
      return -(candidate.continuousA ?? 0);
    case "mass":
      return candidate.massKg ?? Number.MAX_VALUE;
    case "heat":
      return candidate.heatW ?? Number.MAX_VALUE;
    case "fit":
      return candidate.refused.length;
    default:
      return candidate.name;
  }
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

function Row({
  candidate: each,
  battery,
  heats,
  unsure,
  onTake,
  onTakeOff,
}: {
  candidate: SourceCandidate;
  battery: boolean;
  heats: boolean;
  unsure: boolean;
  onTake: (candidate: SourceCandidate) => void;
  onTakeOff: (candidate: SourceCandidate) => void;
}) {
  const volts = (value: number | null, rounding: "up" | "down") => (value === null ? "–" : say(value, "voltage", rounding));
  return (
    <tr className={each.from === "plan" ? "bg-tint" : undefined}>
      <td className="min-w-[168px] !whitespace-normal">
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
      </td>
      <td className="num fig font-bold">{Number.isFinite(each.margin) ? `${Math.floor(each.margin * 100)} %`.replace("-", "−") : "–"}</td>
      {battery && <td className="num fig">{each.runS === null ? "–" : `${unsure ? "≤ " : ""}${sayDuration(each.runS)}`}</td>}
      {battery && <td className="num fig">{volts(each.worstV, "down")}</td>}
      {battery && <td className="num fig">{volts(each.fullV, "up")}</td>}
      <td className="num fig">{each.continuousA === null ? "?" : say(each.continuousA, "current", "down")}</td>
      {!battery && <td className="num fig">{volts(each.worstV, "down")}</td>}
      {heats && <td className="num fig">{each.heatW === null ? "–" : say(each.heatW, "power", "up")}</td>}
      {battery && <td className="num fig">{each.massKg === null ? "–" : say(each.massKg, "mass")}</td>}
      <td className="min-w-[220px] !whitespace-normal text-xs">
        {each.refused.length > 0 ? (
          <>
            <span className="font-bold text-fix">Fails</span> {each.refused.join("; ")}
          </>
        ) : (
          <>
            <span className={unsure ? "font-bold text-ask" : "font-bold"}>{unsure ? "Fits so far" : "Fits"}</span>
            {each.lows[0] && <Low low={each.lows[0]} />}
            {each.runEnds && `; ends because ${each.runEnds}`}
          </>
        )}
        {each.lows.length > 1 && (
          <details>
            <summary className="cursor-pointer text-soft">each part at its worst moment</summary>
            <ul>
              {each.lows.map(({ part, volts: least, leastV }) => (
                <li key={`${part} ${leastV}`}>
                  {part} <span className="fig">{say(least, "voltage", "down")}</span>
                  <span className="text-soft"> needs {say(leastV, "voltage", "up")}</span>
                </li>
              ))}
            </ul>
          </details>
        )}
      </td>
      <td>
        {each.changes && (
          <button type="button" className="link text-xs whitespace-nowrap" onClick={() => onTake(each)} aria-label={`Plan ${each.name}`}>
            Plan it
          </button>
        )}
      </td>
    </tr>
  );
}
