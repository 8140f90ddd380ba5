"use client";
import { useState } from "react";
import type { Machine } from "@/core/machine/schema";
import { say, sayDuration } from "@/core/quantity/format";
import { endWords, wishedRun } from "@/core/sources/end";
import type { Run } from "@/core/sources/run";
import type { SagPicture } from "@/core/sources/sag";
import { analysedOf, lateOf, ranThroughOf } from "@/state/findings";
import { type CellPlace, FigureTable, None } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { RailTag } from "../kit/RailTag";
import { always, Select } from "../kit/Select";
import { Explained } from "../words/Explained";
import { useLedger, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { useSourcesAnswer } from "../workbench/useQuestion";
import { SagChart } from "./SagChart";

function words(machine: Machine, run: Run): string {
  return endWords(
    run.end,
    (id) => machine.parts.find((part) => part.id === id)?.name ?? "a part",
    (mode) => machine.modes[mode]?.name ?? "a mode",
  );
}

/** How long the machine runs, what ends it, and how each mode pulls the pack down over its charge. */
export function RunView() {
  const machine = useWorkbench((state) => state.machine);
  const late = useWorkbench(lateOf);
  const stale = useWorkbench((state) => ranThroughOf(state) !== analysedOf(state));
  const ledger = useLedger();
  const packs = machine.parts.filter((part) => part.kind === "pack");
  const [chosen, setChosen] = useState<string | null>(null);
  const pack = packs.find(({ id }) => id === chosen) ?? packs[0];
  const { value: picture, failed, start } = useSourcesAnswer(`sag ${pack?.id}`, (service, at) => service.sag(at, pack?.id ?? ""));
  if (!pack) {
    return (
      <p className="p-6 text-sm text-soft">
        No battery in this machine: its supplies do not run down. Their limits are on Rails and Choose.
      </p>
    );
  }
  return (
    <div className="grid min-h-0 flex-1 grid-cols-[minmax(236px,0.72fr)_minmax(0,1.8fr)] overflow-hidden">
      <RunTimes machine={machine} late={late} stale={stale} />
      <section aria-label="Sag picture" className="flex min-h-0 flex-col overflow-auto px-3 py-2">
        <div className="flex items-baseline gap-3">
          <h2 className="text-sm font-bold">
            <Explained>Volts over charge</Explained>
          </h2>
          {packs.length > 1 && (
            <Select
              aria-label="Pack"
              className="field text-sm"
              value={pack.id}
              options={packs.map(({ id, name }) => ({ value: id, label: name }))}
              onChange={always((chosen) => setChosen(chosen))}
            />
          )}
          <p className="text-xs text-soft">
            <RailTag rail={ledger.rails.find(({ origin }) => origin === pack.id) ?? null} /> {pack.name}: terminal volts in each mode, and
            the lines under which things stop
          </p>
        </div>
        {failed && <BrokeOff what="The picture" again={start} />}
        {picture === null && !failed && <NoPicture />}
        {picture && <Picture picture={picture} machine={machine} />}
      </section>
    </div>
  );
}

function NoPicture() {
  const missing = useWorkbench((state) => lateOf(state)?.times.missing);
  if (!missing || missing.length === 0) return <p className="py-4 text-sm text-soft">Solving the network over the charge…</p>;
  return (
    <p className="py-4 text-sm">
      {missing.map(({ name, figures }) => `${name}: ${figures.join(", ")}`).join("; ")}
      <span className="text-soft"> would be needed. Choose the pack on Rails and say what it is made of.</span>
    </p>
  );
}

function RunTimes({ machine, late, stale }: { machine: Machine; late: ReturnType<typeof useLate>; stale: boolean }) {
  const { openDialog } = useWorkbenchContext();
  const wish = machine.settings.wantedRunS;
  const wished = late ? wishedRun(late.times) : null;
  return (
    <section aria-label="Run time" aria-busy={stale} className="overflow-auto border-r border-hair px-3 py-2">
      <h2 className="text-sm font-bold">
        Run time <span className="font-normal text-soft">from full, {machine.mission ? "through the mission" : "no mission planned"}</span>
      </h2>
      {!late && <p className="mt-2 text-sm text-soft">Running through it…</p>}
      {late && late.times.missing.length > 0 && (
        <p className="mt-2 text-sm">
          <span className="font-bold text-ask">? </span>
          {late.times.missing.map(({ name, figures }) => `${name}: ${figures.join(", ")}`).join("; ")}. Without{" "}
          {late.times.missing.length > 1 ? "them" : "it"} no run can be worked out.
        </p>
      )}
      {wished && (
        <>
          <p className={`mt-1 text-2xl leading-tight font-bold ${stale ? "text-soft" : ""}`}>
            <RunFigure run={wished.run} mode={wished.mode} label="Run time" />
            <span className="pl-2 text-xs font-normal text-soft">
              {wish === undefined ? (
                <button type="button" className="link" onClick={() => openDialog({ kind: "settings" })}>
                  say how long is wanted
                </button>
              ) : (
                `${sayDuration(wish)} wanted`
              )}
            </span>
          </p>
          <p className="text-xs">
            Ends {wished.run.end.seconds < 1 && "at once "}because {words(machine, wished.run)}.
            {wished.run.rounds > 0 && ` The mission was gone through ${wished.run.rounds} time${wished.run.rounds > 1 ? "s" : ""} whole.`}
          </p>
          <FigureTable
            className="mt-2"
            caption="What each pack gave"
            rows={Object.entries(wished.run.left)}
            keyOf={([id]) => id}
            columns={[
              { label: "Pack", cell: ([id]) => machine.parts.find((part) => part.id === id)?.name },
              { label: "Gave", num: true, cellClass: "fig", cell: ([id]) => say(wished.run.usedAh[id] ?? 0, "capacity") },
              { label: "Left", num: true, cellClass: "fig", cell: ([, charge]) => `${Math.round(charge * 100)} %` },
            ]}
          />
        </>
      )}
      {late && late.times.alone.length > 0 && (
        <FigureTable
          headless
          className="mt-3 [&_td]:align-top [&_td]:!whitespace-normal"
          caption={
            <caption className="pb-0.5 text-left text-sm font-bold">
              One mode alone <span className="font-normal text-soft">from full</span>
            </caption>
          }
          rows={late.times.alone}
          keyOf={({ mode }) => `${mode}`}
          columns={[
            { label: "Mode", cell: ({ mode }) => machine.modes[mode]?.name },
            {
              label: "Run time",
              num: true,
              cellClass: "font-bold !whitespace-nowrap",
              cell: ({ mode, run }, place) => (
                <RunFigure run={run} mode={mode} label={`Run time in ${machine.modes[mode]?.name}`} place={place} />
              ),
            },
            { label: "Ends because", cellClass: "text-xs text-soft", cell: ({ run }) => words(machine, run) },
          ]}
        />
      )}
      <p className="mt-3 text-xs text-soft">
        At every charge the whole network is solved, so what keeps its power draws more as the pack sags. Cold and age are taken off the
        capacity; Peukert's count runs beside it and the shorter one holds.
      </p>
    </section>
  );
}

/** A run time with its working behind it; "at most" where loads are unknown. */
function RunFigure({ run, mode, label, place }: { run: Run; mode: number | null; label: string; place?: CellPlace }) {
  const { showWorking } = useWorkbenchContext();
  const text = run.end.cause === "endless" ? "no end" : sayDuration(run.end.seconds);
  return (
    <button
      type="button"
      aria-haspopup="dialog"
      aria-label={`${label}: ${run.atMost ? "at most " : ""}${text}. Show the working`}
      data-r={place?.r}
      data-c={place?.c}
      className="fig decoration-dotted underline-offset-4 hover:underline"
      onClick={(event) => showWorking({ of: { kind: "run", mode }, label, anchor: event.currentTarget })}
    >
      {run.atMost && <span className="text-ask">≤ </span>}
      {text}
    </button>
  );
}

function useLate() {
  return useWorkbench(lateOf);
}

function Picture({ picture, machine }: { picture: SagPicture; machine: Machine }) {
  const nameOf = (id: string) => machine.parts.find((part) => part.id === id)?.name ?? "a part";
  const rows = picture.curves.map((curve) => ({ ...curve, end: picture.ends.find(({ mode }) => mode === curve.mode) }));
  const held = (volts: number | null | undefined) => (volts == null ? "collapses" : say(volts, "voltage", "down"));
  return (
    <>
      <div className="relative min-h-[220px] flex-1">
        <SagChart picture={picture} modes={machine.modes.map(({ name }) => name)} />
      </div>
      <FigureTable
        className="mt-1 [&_td]:py-0.5"
        caption="Where the first thing stops, by mode"
        rows={rows}
        keyOf={({ mode }) => `${mode}`}
        columns={[
          { label: "Mode", cell: ({ mode }) => machine.modes[mode]?.name },
          { label: "When full", num: true, cellClass: "fig", cell: ({ volts }) => held(volts.at(-1)) },
          {
            label: `At its reserve, ${Math.round(picture.reserve * 100)} %`,
            num: true,
            cellClass: "fig",
            cell: ({ volts }) => held(volts[Math.round(picture.reserve * (volts.length - 1))]),
          },
          {
            label: "First to stop",
            cell: ({ end }) => (end ? `${nameOf(end.part)}, at ${say(end.leastV, "voltage")}` : <None>nothing</None>),
          },
          {
            label: "Below",
            num: true,
            cellClass: ({ end }) => `fig ${end && end.charge > picture.reserve ? "font-bold" : ""}`,
            cell: ({ end }) => (end ? (end.charge >= 1 ? "even full" : `${Math.ceil(end.charge * 100)} %`) : "–"),
          },
        ]}
      />
    </>
  );
}
