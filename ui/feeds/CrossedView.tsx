"use client";
import { useMemo } from "react";
import type { FaultWalk } from "@/core/faults/walk";
import { say } from "@/core/quantity/format";
import { ranThroughOf } from "@/state/findings";
import { BrokeOff } from "../kit/BrokeOff";
import { RailTag } from "../kit/RailTag";
import { Explained } from "../words/Explained";
import { useWorkbench, useWorkbenchContext } from "../workbench/context";
import { useQuestion } from "../workbench/useQuestion";

/** The faults builders really make with a plug or a wire in hand: two rails joined, plus and minus swapped. */
export function CrossedView({ faults }: { faults: FaultWalk }) {
  const { sources } = useWorkbenchContext();
  const machine = useWorkbench(ranThroughOf);
  const parts = useWorkbench((state) => state.machine.parts);
  const version = useMemo(() => (machine ? { machine, faults } : null), [machine, faults]);
  const {
    value: crossed,
    failed,
    start,
  } = useQuestion({
    key: "crossed",
    version,
    ask: () => (version ? sources.ask((service) => service.crossed(version.machine, version.faults)) : undefined),
  });
  if (failed)
    return (
      <div className="px-3">
        <BrokeOff what="Crossed wires" again={start} />
      </div>
    );
  if (!crossed) return <p className="px-3 py-2 text-sm text-soft">Crossing wires…</p>;
  const name = (id: string) => parts.find((part) => part.id === id)?.name ?? "a part that is gone";
  const list = (ids: readonly string[]) => `${ids.slice(0, 4).map(name).join(", ")}${ids.length > 4 ? ` and ${ids.length - 4} more` : ""}`;
  return (
    <div className="grid gap-x-8 border-t border-ink px-3 py-2 lg:grid-cols-2">
      <section aria-label="Two rails joined">
        <h2 className="text-sm font-bold">
          <Explained>Two rails joined</Explained>
        </h2>
        {crossed.joined.length === 0 && (
          <p className="text-sm text-soft">No two rails share a minus: joining two of them makes no circuit.</p>
        )}
        <ul className="text-sm">
          {crossed.joined.map((each) => (
            <li key={`${each.high.tag} ${each.low.tag}`} className="border-b border-hair py-1">
              <RailTag rail={each.high} /> <span aria-hidden>→</span> <RailTag rail={each.low} />{" "}
              {each.killed.length > 0 ? (
                <>
                  <b>{list(each.killed)}</b> {each.killed.length > 1 ? "see" : "sees"}{" "}
                  <span className="fig">{say(each.volts, "voltage", "up")}</span> and {each.killed.length > 1 ? "die" : "dies"}.
                </>
              ) : each.unsaid.length === 0 ? (
                "Nothing there minds."
              ) : (
                ""
              )}{" "}
              {each.unsaid.length > 0 && (
                <span className="text-ask">
                  {list(each.unsaid)}: nobody told what {each.unsaid.length > 1 ? "they bear" : "it bears"}.
                </span>
              )}{" "}
              {each.amps > 1 && (
                <>
                  <span className="fig">{say(each.amps, "current", "up")}</span> flow into {name(each.low.origin)}
                  {each.opens ? `; a fuse opens within ${say(each.opens.slowestS, "time", "up")}.` : "; nothing opens."}
                </>
              )}
            </li>
          ))}
        </ul>
      </section>
      <section aria-label="Plus and minus swapped">
        <h2 className="text-sm font-bold">
          <Explained>Plus and minus swapped at a part</Explained>
        </h2>
        <p className="text-xs text-soft">What sits in its input then conducts almost like a short, unless the part is made to bear it.</p>
        <ul className="text-sm">
          {crossed.reversed.map((each) => (
            <li key={each.part} className="flex gap-3 border-b border-hair py-1">
              <span className="min-w-0 flex-1 truncate font-semibold">{name(each.part)}</span>
              <span className="text-right">
                {each.safe ? (
                  "bears it"
                ) : (
                  <>
                    up to <span className="fig">{say(each.amps, "current", "up")}</span>,{" "}
                    {each.opens ? (
                      <>
                        a fuse opens within <span className="fig">{say(each.opens.slowestS, "time", "up")}</span>; the part is likely gone
                      </>
                    ) : (
                      <b>no fuse opens</b>
                    )}
                  </>
                )}
              </span>
            </li>
          ))}
        </ul>
      </section>
    </div>
  );
}
