"use client";
import { useState } from "react";
import { freshId } from "@/core/machine/defaults";
import type { LinkKind } from "@/core/machine/schema";
import { LINK_KINDS } from "@/core/machine/signal-schema";
import { isConsumer } from "@/core/machine/terminals";
import { channelFeeds } from "@/core/network/circuit";
import { LINK_WORDS } from "@/core/returns/link-words";
import { listens } from "@/core/returns/shared";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { always, SelectField } from "../kit/Select";
import { PlaceField } from "../parts/PlaceField";
import { useDispatch, useWorkbench } from "../workbench/context";

/** A new link; what its levels are is asked for afterwards. */
export function AddLinkDialog({ onClose }: { onClose: (made: string | null) => void }) {
  const machine = useWorkbench((state) => state.machine);
  const { dispatch } = useDispatch();
  // Boards first: they are what talks.
  const behindDriver = channelFeeds(machine);
  const ends = machine.parts
    .filter((part) => isConsumer(part) && !behindDriver.has(part.id))
    .sort((a, b) => Number(listens(b)) - Number(listens(a)));
  const places = ends.map(({ id, name }) => ({ at: { part: id, terminal: "-" }, name }));
  const [fromAt, setFrom] = useState(0);
  const [toAt, setTo] = useState(
    Math.max(
      1,
      ends.findIndex((part) => part.kind === "driver"),
    ),
  );
  const [kind, setKind] = useState<LinkKind>("logic");
  const [error, setError] = useState<string | null>(null);
  const add = () => {
    const [from, to] = [ends[fromAt]?.id, ends[toAt]?.id];
    if (!from || !to || from === to) return setError("A link cannot end where it begins. Choose another board.");
    const id = freshId("s", machine.signals ?? []);
    const result = dispatch({ type: "addSignal", signal: { id, from, to, kind } });
    if (!result.ok) return setError(result.message);
    onClose(id);
  };
  return (
    <Dialog
      open
      onOpenChange={() => onClose(null)}
      title="Add a link"
      description="One board sends, another one reads against its own ground."
    >
      <form
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <PlaceField label="From" places={places} value={fromAt} onChange={setFrom} />
        <PlaceField label="To" places={places} value={toAt} error={error} onChange={setTo} />
        <SelectField
          label="Kind"
          wide
          value={kind}
          options={LINK_KINDS.map((each) => ({ value: each, label: LINK_WORDS[each] }))}
          onChange={always((chosen) => setKind(chosen ?? "logic"))}
        />
        <Button type="submit" kind="main" className="mt-3">
          Add the link
        </Button>
      </form>
    </Dialog>
  );
}
