"use client";
import { useId, useState } from "react";
import { toast } from "sonner";
import { isQuiet, spoken } from "@/core/drafting/read-list";
import type { LeftOut } from "@/core/drafting/sorted";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { useDispatch, useWorkbench, useWorkbenchContext } from "../workbench/context";
import { showRow } from "../workbench/showRow";
import { across } from "../workbench/useQuestion";
import { Understood } from "./Understood";
import { useList } from "./useList";

/** More from a list, later: lines of text become parts of the open machine, hung where parts like them hang, wired and sized. */
export function MoreDialog({ first, onClose }: { first: string; onClose: () => void }) {
  const empty = useWorkbench((state) => state.machine.parts.length === 0);
  return (
    <Dialog
      open
      wide
      onOpenChange={onClose}
      title={empty ? "What is in the machine?" : "What comes to it?"}
      description={
        empty
          ? "One thing a line, as you would tell a friend. A table from a spreadsheet works too."
          : "One thing a line. Loads hang where loads like them hang, with their own driver, return and sizes; nothing else is touched."
      }
    >
      <LineField first={first} onDone={onClose} />
    </Dialog>
  );
}

interface Props {
  /** What stands in the field at first. */
  first: string;
  onDone: () => void;
}

/** The field of lines with what was understood below it, and the button that plans them in one step. */
function LineField({ first, onDone }: Props) {
  const { store, drafting } = useWorkbenchContext();
  const { dispatch } = useDispatch();
  const { text, setText, setLine, list } = useList(drafting, first);
  const [busy, setBusy] = useState<number | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const [left, setLeft] = useState<readonly LeftOut[]>([]);
  const id = useId();
  const lines = list ? spoken(list) : [];
  const good = lines.filter(({ reading, troubles }) => reading !== null && !isQuiet(reading) && troubles.length === 0).length;

  const add = async () => {
    const { machine } = store.getState();
    setRefused(null);
    setBusy(0);
    const told = across(async (done, of) => {
      setBusy(done / Math.max(1, of));
      return store.getState().machine === machine;
    });
    const found = await drafting.ask((service) => service.more(machine, text, told), Number.POSITIVE_INFINITY).catch(() => null);
    setBusy(null);
    if (!found) return setRefused("That broke off. The lines are still here; try once more.");
    setLeft(found.left);
    if (!found.command) return setRefused(found.left[0]?.why ?? "No line of it is something that can be added.");
    const done = dispatch(found.command);
    if (!done.ok) return setRefused(done.message);
    toast(found.command.type === "batch" ? found.command.label : "Added", {
      action: { label: "Undo", onClick: () => store.getState().undo() },
    });
    const [first] = found.added;
    if (first !== undefined) showRow(store, first);
    if (found.left.length === 0) return onDone();
    // What is not in the plan stays in the field.
    setText(found.left.map((each) => each.text).join("\n"));
  };

  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void add();
      }}
    >
      <label htmlFor={id} className="sr-only">
        Lines
      </label>
      <textarea
        id={id}
        data-first
        rows={6}
        spellCheck={false}
        className="fig w-full border border-rule bg-sheet p-2 text-[13px] leading-[1.7]"
        placeholder="2 more servos 6 V 1 A stall"
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={(event) => {
          // Enter is a new line; with Ctrl the list is done.
          if (event.key !== "Enter" || (!event.ctrlKey && !event.metaKey)) return;
          event.preventDefault();
          if (good > 0) void add();
        }}
      />
      {list && <Understood lines={list.lines} onLine={setLine} />}
      {left.map(({ number, text: of, why }) => (
        <p key={`${number} ${of}`} className="text-xs text-fix">
          {of.trim().slice(0, 80)}: {why}
        </p>
      ))}
      {refused && (
        <p role="alert" className="mt-1 text-sm font-semibold text-stop dark:text-fix">
          {refused}
        </p>
      )}
      <p className="mt-2 flex items-baseline gap-3">
        <Button type="submit" kind="main" disabled={good === 0 || busy !== null}>
          {busy !== null ? `working it out ${Math.round(busy * 100)} %` : `Add ${good} line${good === 1 ? "" : "s"}`}
        </Button>
        <span className="text-xs text-soft">Ctrl Enter</span>
      </p>
    </form>
  );
}
