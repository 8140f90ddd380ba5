"use client";
import { useState } from "react";
import { toast } from "sonner";
import type { Objective } from "@/core/sizing/weigh";
import { FigureTable } from "../grid/FigureTable";
import { BrokeOff } from "../kit/BrokeOff";
import { Button } from "../kit/Button";
import { SelectField } from "../kit/Select";
import { SeverityMark } from "../kit/Severity";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { across, useQuestion } from "../workbench/useQuestion";
import { StockFields } from "./StockFields";

const OBJECTIVES: readonly { value: Objective; label: string }[] = [
  { value: "mass", label: "least mass to carry" },
  { value: "cost", label: "lowest usual price" },
];

/** Sizes every feed, or one, under the chosen schools: a before/after list to take whole or line by line. */
export function SizeView({ only, onAll }: { only: string | null; onAll: () => void }) {
  const { sources } = useWorkbenchContext();
  const { act } = useDispatch();
  const machine = useWorkbench((state) => state.machine);
  const select = useWorkbench((state) => state.select);
  const [objective, setObjective] = useState<Objective>("mass");
  const [off, setOff] = useState<ReadonlySet<string>>(new Set());
  const [taken, setTaken] = useState<object | null>(null);
  const sizing = useQuestion({
    key: `${objective} ${only ?? "all"}`,
    version: machine,
    pauseMs: 300,
    ask: (told) =>
      sources.ask(
        (service) => service.size(machine, { objective, ...(only ? { only: [only] } : {}) }, across(told)),
        Number.POSITIVE_INFINITY,
      ),
  });
  const plan = sizing.value !== null && sizing.value !== taken ? sizing.value : null;
  const progress = sizing.asking ? (sizing.progress ?? { done: 0, of: 1 }) : null;

  const stale = plan !== null && sizing.stale;
  const changes = plan?.changes ?? [];
  const chosen = changes.filter(({ id }) => !off.has(id));
  const take = () => {
    if (chosen.length === 0) return;
    const done = act({
      type: "batch",
      label: chosen.length === 1 ? `Size ${chosen[0]?.name.toLowerCase()}` : `Size ${chosen.length} feeds`,
      commands: chosen.map(({ command }) => command),
    });
    if (done) {
      toast.success(`${chosen.length} ${chosen.length === 1 ? "line" : "lines"} taken. One Undo takes all of it back.`);
      setTaken(plan);
    }
  };
  const name = only ? machine.wires.find(({ id }) => id === only) : undefined;
  const target = name ? machine.parts.find(({ id }) => id === (name.role === "return" ? name.from.part : name.to.part))?.name : undefined;
  return (
    <div className="min-h-0 flex-1 overflow-auto px-3 py-2" tabIndex={-1}>
      <div className="flex flex-wrap items-baseline gap-x-6 gap-y-1 text-sm">
        <p className="mr-auto max-w-[46ch]">
          {target ? (
            <>
              Sizes the feed of <b>{target}</b>, and leaves the rest.{" "}
              <button type="button" className="link" onClick={onAll}>
                All of them instead
              </button>
            </>
          ) : (
            "Gauge, parallel conductors, fuse and plugs of every feed that is not kept as it is, under every rule and your schools."
          )}
        </p>
        <div className="w-[300px]">
          <SelectField label="Aim" value={objective} options={OBJECTIVES} onChange={(next) => setObjective(next ?? "mass")} />
        </div>
        {progress ? (
          <span className="flex items-baseline gap-3">
            <progress aria-label="Sizing" value={progress.done} max={progress.of} className="w-28" />
            <button type="button" className="link" onClick={sizing.stop}>
              Stop
            </button>
          </span>
        ) : null}
      </div>
      {objective === "cost" && (
        <p className="text-xs text-soft">
          Usual prices only rank the choices against each other (typical, from memory): no sum is claimed.
        </p>
      )}
      <StockFields />
      {sizing.failed && <BrokeOff what="The sizes" again={sizing.start} />}
      {plan && (
        <>
          <div className="mt-3 flex flex-wrap items-baseline gap-x-6 border-t border-ink pt-2 text-sm">
            <p className="mr-auto">
              <b className="text-lg">
                {changes.length === 0 ? "Nothing to change" : `${changes.length} ${changes.length === 1 ? "change" : "changes"}`}
              </b>
              {changes.length > 0 && (
                <span className="pl-3 text-soft">
                  copper <span className="fig text-ink">{plan.beforeKg.toFixed(2)} kg</span> now,{" "}
                  <span className="fig text-ink">{plan.afterKg.toFixed(2)} kg</span> with all of them
                </span>
              )}
              {stale && <span className="pl-3 text-ask">The plan has been edited since: sizing again…</span>}
            </p>
            {changes.length > 0 && (
              <Button onClick={take} disabled={stale || chosen.length === 0}>
                {chosen.length === changes.length ? "Take all of it" : `Take ${chosen.length} of ${changes.length}`}
              </Button>
            )}
          </div>
          {plan.left.length > 0 && (
            <div className="mt-1 text-sm">
              <p>No choice of wire, fuse or plug settles this:</p>
              <ul>
                {plan.left.map(({ id, headline, severity }) => (
                  <li key={id} className="py-0.5">
                    <SeverityMark severity={severity} /> <span className="pl-1">{headline}</span>
                  </li>
                ))}
              </ul>
            </div>
          )}
          {plan.unknown.length > 0 && (
            <p className="mt-1 text-sm">
              {plan.unknown.map(({ id, name: what, said }) => (
                <span key={id} className="mr-4 inline-block">
                  <SeverityMark severity="ask" /> {what}: <span className="text-soft">{said}</span>
                </span>
              ))}
            </p>
          )}
          {changes.length > 0 && (
            <FigureTable
              className="mt-2"
              caption="Changes, before and after"
              rows={changes}
              keyOf={({ id }) => id}
              columns={[
                {
                  label: "Take",
                  hidden: true,
                  cell: ({ id, name: what }) => (
                    <input
                      type="checkbox"
                      aria-label={`Take the change of ${what}`}
                      checked={!off.has(id)}
                      onChange={(event) => setOff((before) => withOrWithout(before, id, !event.target.checked))}
                    />
                  ),
                },
                {
                  label: "What",
                  cellClass: "!whitespace-normal",
                  cell: (change) => (
                    <button
                      type="button"
                      className="text-left font-semibold"
                      onClick={() => {
                        const wire = machine.wires.find(({ id }) => id === change.id);
                        select(wire ? (wire.role === "return" ? wire.from.part : wire.to.part) : change.id);
                      }}
                    >
                      {change.name}
                    </button>
                  ),
                },
                { label: "Now", cellClass: "!whitespace-normal text-soft", cell: ({ before }) => before },
                { label: "Sized", cellClass: "!whitespace-normal font-semibold", cell: ({ after }) => after },
                {
                  label: "Copper",
                  num: true,
                  cellClass: "fig",
                  cell: ({ copperG }) => (copperG === 0 ? "–" : `${copperG > 0 ? "+" : "−"}${Math.round(Math.abs(copperG))} g`),
                },
                { label: "Why", cellClass: "!whitespace-normal text-xs", cell: ({ why }) => why },
              ]}
            />
          )}
        </>
      )}
    </div>
  );
}

function withOrWithout(set: ReadonlySet<string>, id: string, add: boolean): ReadonlySet<string> {
  const next = new Set(set);
  if (add) next.add(id);
  else next.delete(id);
  return next;
}
