"use client";

import { useState } from "react";
import { hangingOn, upstreamOf } from "@/core/machine/apply";
import type { Machine, Part, TerminalRef } from "@/core/machine/schema";
import { sameTerminal, terminalName, terminalsOf } from "@/core/machine/terminals";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { useDispatch, useWorkbench } from "../workbench/context";
import { PlaceField } from "./PlaceField";

/** Terminals of the same side that could take over what hangs on a part, first the one the part itself hangs on: behind the same fuse, switch and stop. */
function takers(machine: Machine, part: Part): { at: TerminalRef; name: string }[] {
  const own = upstreamOf(machine, part);
  const outputs = (each: Part) =>
    each.kind === "bar"
      ? ["bar"]
      : terminalsOf(each).filter(
          (terminal) => terminal === "out" || terminal === "+" || terminal === "out+" || terminal === "-" || terminal === "out-",
        );
  const negative = part.kind === "bar" && part.side === "negative";
  const places = machine.parts
    .filter((each) => each.id !== part.id && each.kind !== "load")
    .flatMap((each) =>
      outputs(each)
        .filter((terminal) => (each.kind === "bar" ? (each.side === "negative") === negative : terminal.endsWith("-") === negative))
        .map((terminal) => ({ at: { part: each.id, terminal }, name: terminalName(each, terminal) })),
    );
  const isOwn = ({ at }: { at: TerminalRef }) => own !== null && sameTerminal(at, own);
  return [...places.filter(isOwn), ...places.filter((place) => !isOwn(place))];
}

/** Removing a part that others hang on: says which, and offers to move them first. */
export function RemovePartDialog({ partId, onClose }: { partId: string; onClose: () => void }) {
  const machine = useWorkbench((state) => state.machine);
  const select = useWorkbench((state) => state.select);
  const { act } = useDispatch();
  const part = machine.parts.find(({ id }) => id === partId);
  const [target, setTarget] = useState(0);
  if (!part) return null;
  const hanging = hangingOn(machine, partId);
  const places = takers(machine, part);
  const remove = (moveTo?: TerminalRef) => {
    if (!act({ type: "removePart", id: partId, ...(moveTo ? { moveTo } : {}) })) return;
    select(null);
    onClose();
  };
  const place = places[target];
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title={`Remove ${part.name}?`}
      description={
        hanging.length === 0
          ? "Its own wires go with it. Undo brings all of it back."
          : `${hanging.length} ${hanging.length === 1 ? "part hangs" : "parts hang"} on it:`
      }
    >
      {hanging.length > 0 && (
        <>
          <ul className="mb-3 max-h-40 list-disc overflow-auto pl-5 text-sm">
            {hanging.map((each) => (
              <li key={each.id}>{each.name}</li>
            ))}
          </ul>
          {places.length > 0 ? (
            <PlaceField label="Move their wires to" places={places} value={target} onChange={setTarget} />
          ) : (
            <p className="text-sm">There is no other place their wires could go. Remove or move them first.</p>
          )}
        </>
      )}
      <div className="mt-4 flex gap-2">
        {hanging.length === 0 ? (
          <Button kind="main" onClick={() => remove()}>
            Remove {part.name}
          </Button>
        ) : (
          place && (
            <Button kind="main" onClick={() => remove(place.at)}>
              Move them to {place.name}, then remove
            </Button>
          )
        )}
        <Button onClick={onClose}>Keep it</Button>
      </div>
    </Dialog>
  );
}
