"use client";
import { useState } from "react";
import { freshId } from "@/core/machine/defaults";
import type { LinkKind } from "@/core/machine/schema";
import { LINK_KINDS } from "@/core/machine/signal-schema";
import { isConsumer } from "@/core/machine/terminals";
import { channelFeeds } from "@/core/network/circuit";
import { listens } from "@/core/returns/shared";
import { LINK_WORDS } from "@/core/verdicts/link-words";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";
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
  const [from, setFrom] = useState(ends[0]?.id ?? "");
  const [to, setTo] = useState((ends.find((part) => part.kind === "driver") ?? ends[1])?.id ?? "");
  const [kind, setKind] = useState<LinkKind>("logic");
  const [error, setError] = useState<string | null>(null);
  const add = () => {
    if (from === to) return setError("A link cannot end where it begins. Choose another board.");
    const id = freshId("s", machine.signals ?? []);
    const result = dispatch({ type: "addSignal", signal: { id, from, to, kind } });
    if (!result.ok) return setError(result.message);
    onClose(id);
  };
  const choose = (label: string, value: string, set: (value: string) => void, wrong: string | null) => (
    <Field label={label} error={wrong}>
      {(props) => (
        <select {...props} className="field" value={value} onChange={(event) => set(event.target.value)}>
          {ends.map((part) => (
            <option key={part.id} value={part.id}>
              {part.name}
            </option>
          ))}
        </select>
      )}
    </Field>
  );
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
        {choose("From", from, setFrom, null)}
        {choose("To", to, setTo, error)}
        <Field label="Kind">
          {(props) => (
            <select
              {...props}
              className="field"
              value={kind}
              onChange={(event) => setKind(LINK_KINDS.find((each) => each === event.target.value) ?? "logic")}
            >
              {LINK_KINDS.map((each) => (
                <option key={each} value={each}>
                  {LINK_WORDS[each]}
                </option>
              ))}
            </select>
          )}
        </Field>
        <Button type="submit" kind="main" className="mt-3">
          Add the link
        </Button>
      </form>
    </Dialog>
  );
}
