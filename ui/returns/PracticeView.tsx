"use client";
import { useState } from "react";
import { freshId, newPart } from "@/core/machine/defaults";
import type { Machine } from "@/core/machine/schema";
import { say, sayDuration } from "@/core/quantity/format";
import type { Slip } from "@/core/returns/chassis";
import type { Advice } from "@/core/returns/practice";
import type { Practice } from "@/workers/sources.worker";
import { FigureTable } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { Button } from "../kit/Button";
import { useDispatch, useWorkbench } from "../workbench/context";
import { useSourcesAnswer } from "../workbench/useQuestion";
import { AddBondDialog } from "./AddBondDialog";

/** The frame and what a slipped tool does; what practice fits against noise. */
export function PracticeView() {
  const { value, stale, failed, start } = useSourcesAnswer("practice", (service, machine) => service.practice(machine));
  const machine = useWorkbench((state) => state.machine);
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2" tabIndex={-1}>
      {failed && <BrokeOff what="Frames and advice" again={start} />}
      <Chassis machine={machine} practice={value} stale={stale} />
      <section aria-label="Against noise" className="pt-5 pb-3">
        <h2 className="text-sm font-bold">
          Against noise <span className="font-normal text-soft">common practice, no standard; the numbers are this machine&apos;s</span>
        </h2>
        {value && <AdviceTable machine={machine} advice={value.advice} />}
      </section>
    </div>
  );
}

function partName(machine: Machine, id: string): string {
  return machine.parts.find((part) => part.id === id)?.name ?? "?";
}

const ENDS: Readonly<Record<Slip["ends"], string>> = {
  posts: "nothing: these are the source's own posts, before any fuse",
  held: "its source's own limit holds the current",
  never: "nothing is sure to open",
  slow: "a fuse, slowly",
  clears: "a fuse, quickly",
};

function Chassis({ machine, practice, stale }: { machine: Machine; practice: Practice | null; stale: boolean }) {
  const { act } = useDispatch();
  const [bonding, setBonding] = useState<string | null>(null);
  const mains = machine.parts.some((part) => part.kind === "supply" && part.usbPort === undefined);
  const frames = machine.parts.filter((part) => part.kind === "bar" && part.form === "chassis");
  const addFrame = () => {
    const id = freshId("p", machine.parts);
    act({ type: "addPart", part: newPart("bar", id, "Chassis", { side: "negative", form: "chassis" }) });
  };
  return (
    <section aria-label="Chassis">
      <div className="flex items-baseline gap-4">
        <h2 className="mr-auto text-sm font-bold">
          Chassis{stale && practice && <span className="font-normal text-soft"> · being worked out again</span>}
        </h2>
        <Button onClick={addFrame}>Add a frame</Button>
      </div>
      {mains && (
        <p className="mt-1 border-l-2 border-ink pl-2 text-xs">
          A supply of this machine may be fed from the mains. Protective earth, its conductor to the frame and everything before the DC
          output are for local codes and licensed people. This plan holds the DC side only; it records where the minus is bonded.
        </p>
      )}
      {frames.length === 0 && (
        <p className="mt-1 text-sm text-soft">
          The plan has no frame yet. With it the plan tells how often the frame is bonded, what flows in it, and what a tool slipped from
          plus to it does.
        </p>
      )}
      {practice?.frames
        .filter(({ frame }) => frames.some(({ id }) => id === frame.id))
        .map(({ frame, bonds, landed, worst, bleeds, slips }) => (
          <div key={frame.id} className="pt-1">
            <p className="text-sm">
              <span className="font-bold">{frame.name}</span>:{" "}
              {bonds.length === 0
                ? "floats"
                : `bonded at ${bonds.map((wire) => partName(machine, wire.from.part === frame.id ? wire.to.part : wire.from.part)).join(" and ")}`}
              {bleeds && bonds.length > 0 && ", only to bleed static"}
              {landed.length > 0 && `, ${landed.length} returns land on it`}
              {worst && worst.amps > 0.001 && `, up to ${say(worst.amps, "current", "up")} in it (${machine.modes[worst.mode]?.name})`}.{" "}
              <button type="button" className="link text-xs" onClick={() => setBonding(frame.id)}>
                Add a bond
              </button>
            </p>
            {slips.length > 0 ? (
              <Slips machine={machine} slips={slips} frame={frame.name} />
            ) : (
              <p className="text-xs text-soft">
                A plus that touches it closes no circuit: the first fault is silent. Look for it with a meter at service.
              </p>
            )}
          </div>
        ))}
      {bonding && <AddBondDialog frame={bonding} onClose={() => setBonding(null)} />}
    </section>
  );
}

function Slips({ machine, slips, frame }: { machine: Machine; slips: readonly Slip[]; frame: string }) {
  const order: readonly Slip["ends"][] = ["never", "slow", "posts", "clears", "held"];
  const sorted = [...slips].sort((a, b) => order.indexOf(a.ends) - order.indexOf(b.ends) || b.mostA - a.mostA);
  return (
    <>
      <FigureTable
        className="mt-1"
        caption={`A tool slipped from plus to ${frame}`}
        rows={sorted}
        keyOf={({ place }) => place}
        columns={[
          { label: "A tool slips from", cell: ({ part }) => partName(machine, part) },
          {
            label: "Amps, weak to strong",
            num: true,
            cellClass: "fig",
            cell: ({ leastA, mostA }) => `${say(leastA, "current", "down")} – ${say(mostA, "current", "up")}`,
          },
          {
            label: "What ends it",
            cellClass: ({ ends }) => (ends === "never" ? "font-bold text-stop dark:text-fix" : ends === "slow" && "font-bold text-fix"),
            cell: ({ ends, opens }) => (opens ? `${ENDS[ends]}: ${opens.ratingA} A` : ENDS[ends]),
          },
          {
            label: "Within",
            num: true,
            cellClass: "fig",
            cell: ({ opens }) => (opens ? (opens.slowestS < 60 ? say(opens.slowestS, "time", "up") : sayDuration(opens.slowestS)) : "–"),
          },
        ]}
      />
      <p className="pt-1 text-xs">
        Cover every plus stud and bar. Take the minus off first and refit it last; rings off, insulated tools: a small pack drives thousands
        of amps through a spanner.
      </p>
    </>
  );
}

/** Advice that is the same for several parts, and is done at the bench, as one row. */
function grouped(advice: readonly Advice[]): { parts: string[]; advice: Advice }[] {
  const groups = new Map<string, { parts: string[]; advice: Advice }>();
  for (const each of advice) {
    const key = each.command === null ? `${each.what} ${each.why}` : each.id;
    const group = groups.get(key) ?? { parts: [], advice: each };
    group.parts.push(each.part);
    groups.set(key, group);
  }
  return [...groups.values()];
}

function AdviceTable({ machine, advice }: { machine: Machine; advice: readonly Advice[] }) {
  const { act } = useDispatch();
  const shown = advice.filter(({ part }) => machine.parts.some(({ id }) => id === part));
  if (shown.length === 0) return <p className="text-sm text-soft">No driver, motor or board in the plan yet.</p>;
  return (
    <FigureTable
      className="mt-1 [&_td]:align-top"
      caption="What practice fits against noise"
      rows={grouped(shown)}
      keyOf={({ advice: { id } }) => id}
      columns={[
        {
          label: "At",
          cellClass: "max-w-[210px] !whitespace-normal",
          cell: ({ parts }) => parts.map((each) => partName(machine, each)).join(", "),
        },
        { label: "Fit", cellClass: "max-w-[260px] !whitespace-normal", cell: ({ advice: { what } }) => what },
        { label: "Why", cellClass: "max-w-[420px] text-xs !whitespace-normal text-soft", cell: ({ advice: { why } }) => why },
        {
          label: "In the plan",
          cell: ({ advice: { part, what, done, command } }) =>
            done ? (
              "yes"
            ) : command ? (
              <button
                type="button"
                className="link text-xs"
                onClick={() => act(command)}
                aria-label={`Put into the plan: ${what}, at ${partName(machine, part)}`}
              >
                Put it in
              </button>
            ) : (
              <span className="text-xs text-soft">at the bench</span>
            ),
        },
      ]}
    />
  );
}
