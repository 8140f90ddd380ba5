"use client";
import { ArrowDown, ArrowUp, Trash2 } from "lucide-react";
import { missionFigures, missionOf } from "@/core/loads/mission";
import type { Mission } from "@/core/machine/schema";
import { editText, say } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import { ampacityOf } from "@/core/wires/ampacity";
import { analysisOf } from "@/state/findings";
import { EditCell } from "../grid/EditCell";
import { FigureTable, figure, RowName } from "../grid/FigureTable";
import { RailTag } from "../kit/RailTag";
import { always, Select } from "../kit/Select";
import { useDispatch, useLedger, useWorkbench } from "../workbench/context";

/** Time a mode gets when it enters a mission: its own, else a minute. */
const MINUTE_S = 60;

/** Modes in sequence with their times, and what that does to wires, sources and loads. */
export function MissionView() {
  const mission = useWorkbench((state) => state.machine.mission);
  const modes = useWorkbench((state) => state.machine.modes);
  const { act, dispatch } = useDispatch();
  const steps = mission?.steps ?? [];
  const put = (next: Partial<Mission>) => {
    const made = { steps, repeats: mission?.repeats ?? true, ...next };
    return { type: "setMission" as const, mission: made.steps.length === 0 ? null : made };
  };
  const add = (modeId: string) => {
    const lasts = modes.find(({ id }) => id === modeId)?.lastsS;
    act(put({ steps: [...steps, { mode: modeId, seconds: lasts ?? MINUTE_S }] }));
  };
  const move = (i: number, by: -1 | 1) => {
    const next = [...steps];
    const [step] = next.splice(i, 1);
    if (step) next.splice(i + by, 0, step);
    act(put({ steps: next }));
  };
  const cycle = steps.reduce((sum, step) => sum + step.seconds, 0);
  // The same mode may come twice, so a step is known by its place.
  const keyed = steps.map((step, i) => ({ ...step, key: `${i}` }));
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(260px,0.8fr)_minmax(0,1.6fr)] overflow-hidden">
      <section aria-label="Mission" className="overflow-auto border-r border-hair px-3 py-2">
        <h2 className="text-sm font-bold">
          Mission {cycle > 0 && <span className="fig font-normal text-soft">{say(cycle, "time")} in all</span>}
        </h2>
        {steps.length === 0 && (
          <p className="mt-1 text-xs text-soft">
            Put modes in the order they happen. What heats a wire over a cycle, and what drains the battery, is then worked out from it.
          </p>
        )}
        <table className="ledger mt-1">
          <caption className="sr-only">Steps of the mission</caption>
          <tbody>
            {keyed.map((step, i) => (
              <tr key={step.key}>
                <td>
                  <Select
                    aria-label={`Mode of step ${i + 1}`}
                    className="field w-full"
                    value={step.mode}
                    options={modes.map(({ id, name }) => ({ value: id, label: name }))}
                    onChange={always((chosen) => act(put({ steps: steps.map((each, k) => (k === i ? { ...each, mode: chosen } : each)) })))}
                  />
                </td>
                <td className="num">
                  <EditCell
                    initial={editText(step.seconds, "time")}
                    label={`Time of step ${i + 1}`}
                    parse={(text) => parseQuantity(text, "time")}
                    commit={(seconds) => dispatch(put({ steps: steps.map((each, k) => (k === i ? { ...each, seconds } : each)) }))}
                    placeholder="40 s, 5 min"
                  >
                    <span className="fig">{say(step.seconds, "time")}</span>
                  </EditCell>
                </td>
                <td className="text-right whitespace-nowrap">
                  <button
                    type="button"
                    className="p-1 disabled:opacity-30"
                    aria-label={`Step ${i + 1} earlier`}
                    disabled={i === 0}
                    onClick={() => move(i, -1)}
                  >
                    <ArrowUp size={14} aria-hidden />
                  </button>
                  <button
                    type="button"
                    className="p-1 disabled:opacity-30"
                    aria-label={`Step ${i + 1} later`}
                    disabled={i === steps.length - 1}
                    onClick={() => move(i, 1)}
                  >
                    <ArrowDown size={14} aria-hidden />
                  </button>
                  <button
                    type="button"
                    className="p-1"
                    aria-label={`Remove step ${i + 1}`}
                    onClick={() => act(put({ steps: steps.filter((_, k) => k !== i) }))}
                  >
                    <Trash2 size={14} aria-hidden />
                  </button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        <label className="mt-2 block text-sm">
          <Select
            aria-label="Add a step"
            value={""}
            options={modes.map(({ id, name }) => ({ value: id, label: name }))}
            none="Add a step…"
            onChange={(chosen) => chosen && add(chosen)}
          />
        </label>
        {mission && (
          <label className="mt-2 block text-sm">
            <input
              type="checkbox"
              className="mr-2"
              checked={mission.repeats}
              onChange={(event) => act(put({ repeats: event.target.checked }))}
            />
            over and over, not once
          </label>
        )}
      </section>
      <MissionFiguresTable />
    </div>
  );
}

function MissionFiguresTable() {
  const ledger = useLedger();
  const machine = useWorkbench((state) => state.machine);
  const analysis = useWorkbench(analysisOf);
  const plan = missionOf(machine);
  if (!plan || !analysis) {
    return (
      <p className="p-4 text-xs text-soft">
        The r.m.s. current of each feed appears here, beside the largest and what really heats the wire.
      </p>
    );
  }
  const rows = ledger.rows.flatMap((row) => {
    const feed = row.feed;
    const wire = feed ? analysis.wires[feed.id] : undefined;
    if (!feed || !wire) return [];
    const tau = ampacityOf(feed, machine.settings)?.tauS;
    return [{ row, wire, tau, found: missionFigures(plan, wire.amps, null, tau ?? 1e-3) }];
  });
  const sources = machine.parts.flatMap((part) => {
    const figures = part.kind === "pack" || part.kind === "supply" ? analysis.parts[part.id] : undefined;
    return figures ? [{ name: part.name, found: missionFigures(plan, figures.amps, null, 1e-3) }] : [];
  });
  return (
    <section aria-label="What the mission does" className="overflow-auto px-3 py-2">
      <div className="flex flex-wrap gap-x-8">
        {sources.map(({ name, found }) => (
          <p key={name} className="text-xs text-soft">
            {name} gives on average <span className="fig text-xl font-bold text-ink">{say(found.meanA, "current", "up")}</span>, r.m.s.{" "}
            {say(found.rmsA, "current", "up")}, at most {say(found.peakA, "current", "up")}
          </p>
        ))}
      </div>
      <FigureTable
        className="mt-1"
        caption="Currents of each feed over the mission"
        rows={rows}
        keyOf={({ row }) => row.part.id}
        partOf={({ row }) => row.part.id}
        columns={[
          {
            label: "Feed",
            cellClass: "truncate",
            cell: ({ row }, place) => (
              <RowName place={place}>
                <RailTag rail={row.rail} /> <span className="pl-1">{row.part.name}</span>
              </RowName>
            ),
          },
          {
            label: "Heats as",
            num: true,
            cellClass: ({ wire, found }) => `fig font-bold ${wire.limitA !== null && found.heatingA > wire.limitA ? "text-fix" : ""}`,
            cell: ({ found }) => say(found.heatingA, "current", "up"),
          },
          { label: "R.m.s.", num: true, cellClass: "fig", cell: ({ found }) => say(found.rmsA, "current", "up") },
          { label: "Average", num: true, cellClass: "fig", cell: ({ found }) => say(found.meanA, "current") },
          { label: "Largest", num: true, cellClass: "fig", cell: ({ found }) => say(found.peakA, "current", "up") },
          {
            label: "May carry",
            num: true,
            cell: figure(({ row, wire }) => ({
              value: wire.limitA,
              dimension: "current",
              rounding: "down",
              label: `${row.part.name}, wire may carry continuously`,
              of: { kind: "wireLimit", wire: wire.id },
            })),
          },
          {
            label: "Judged by",
            cellClass: "text-xs text-soft",
            cell: ({ tau, found }) =>
              tau === undefined
                ? "the largest: its size is not known"
                : found.rmsHolds
                  ? "r.m.s.: the cycle is short"
                  : `heating over its ${say(tau, "time")}`,
          },
        ]}
      />
      <p className="mt-1 text-xs text-soft">
        The r.m.s. is only right while a cycle is shorter than a fifth of the wire&apos;s thermal time constant (from memory). Otherwise the
        hottest moment of the cycle counts: the steady current that would heat the wire as far. All at the planned charge; verdicts take the
        lower one too. Modes without a time limit are judged continuously whatever the mission says.
      </p>
    </section>
  );
}
