"use client";
import { ArrowDown, ArrowUp, Trash2 } from "lucide-react";
import { useState } from "react";
import { toast } from "sonner";
import { PRESETS, presetCommand } from "@/core/loads/presets";
import type { Mode } from "@/core/machine/schema";
import { editText } from "@/core/quantity/format";
import { parseQuantity } from "@/core/quantity/parse";
import { EditCell } from "../grid/EditCell";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { always, Select } from "../kit/Select";
import { TextInput } from "../kit/TextInput";
import { Explained } from "../words/Explained";
import { useDispatch, useWorkbench, useWorkbenchContext } from "./context";

const parseLasts = (text: string) =>
  /^(|-|for good|goes on|always|continuous(ly)?)$/i.test(text.trim()) ? { ok: true as const, value: null } : parseQuantity(text, "time");

function ModeRow({ mode, first, last }: { mode: Mode; first: boolean; last: boolean }) {
  const { dispatch, act } = useDispatch();
  const update = (changes: Partial<Omit<Mode, "id">>) => dispatch({ type: "updateMode", id: mode.id, changes });
  const lasts = mode.lastsS === null ? "" : editText(mode.lastsS, "time");
  return (
    <tr>
      <td>
        <TextInput label={`Name of ${mode.name}`} value={mode.name} onCommit={(name) => update({ name })} />
      </td>
      <td>
        <EditCell
          initial={lasts}
          label={`How long ${mode.name} lasts`}
          parse={parseLasts}
          commit={(lastsS) => update({ lastsS })}
          placeholder="0.8 s, empty: it goes on"
        >
          <span className={mode.lastsS === null ? "text-soft" : "fig"}>{mode.lastsS === null ? "goes on" : lasts}</span>
        </EditCell>
      </td>
      <td className="text-right">
        <button
          type="button"
          className="p-1.5 disabled:opacity-30"
          aria-label={`Move ${mode.name} up`}
          disabled={first}
          onClick={() => act({ type: "moveMode", id: mode.id, by: -1 })}
        >
          <ArrowUp size={15} aria-hidden />
        </button>
        <button
          type="button"
          className="p-1.5 disabled:opacity-30"
          aria-label={`Move ${mode.name} down`}
          disabled={last}
          onClick={() => act({ type: "moveMode", id: mode.id, by: 1 })}
        >
          <ArrowDown size={15} aria-hidden />
        </button>
        <button type="button" className="p-1.5" aria-label={`Delete ${mode.name}`} onClick={() => act({ type: "removeMode", id: mode.id })}>
          <Trash2 size={15} aria-hidden />
        </button>
      </td>
    </tr>
  );
}

/** Modes by what the machine does, each with a state for every load there is. */
function Patterns() {
  const { store } = useWorkbenchContext();
  const { act } = useDispatch();
  const [id, setId] = useState(PRESETS[0]?.id ?? "");
  const preset = PRESETS.find((each) => each.id === id);
  return (
    <section className="mt-4 border-t border-hair pt-2">
      <h3 className="text-sm font-bold">
        <Explained>Modes from a pattern</Explained>
      </h3>
      <div className="mt-1 flex flex-wrap items-baseline gap-3 text-sm">
        <Select
          aria-label="Pattern"
          value={id}
          options={PRESETS.map((each) => ({ value: each.id, label: each.name }))}
          onChange={always((chosen) => setId(chosen))}
        />
        <Button
          onClick={() => {
            const command = preset && presetCommand(store.getState().machine, preset);
            if (command) act(command);
            else toast.error("A machine has 24 modes at most. Delete some first.");
          }}
        >
          Add {preset?.modes.length} modes
        </Button>
      </div>
      <p className="mt-1 text-xs text-soft">
        {preset?.what} Each load gets a state that fits its kind; currents it does not have yet are asked for.
      </p>
    </section>
  );
}

export function ModesDialog({ onClose }: { onClose: () => void }) {
  const modes = useWorkbench((state) => state.machine.modes);
  const { dispatch } = useDispatch();
  const [name, setName] = useState("");
  const [copyFrom, setCopyFrom] = useState("");
  const [error, setError] = useState<string | null>(null);
  const add = () => {
    if (name.trim() === "") return setError("Give the mode a name, such as Cruise or Blade jammed.");
    const result = dispatch({ type: "addMode", name, lastsS: null, ...(copyFrom ? { copyFrom } : {}) });
    if (!result.ok) return setError(result.message);
    setName("");
    setError(null);
  };
  return (
    <Dialog
      open
      onOpenChange={onClose}
      title="Modes"
      description="States the machine can be in. One that lasts a stated time is judged by what wires and fuses bear that long; the others by continuous ratings."
    >
      <table className="ledger">
        <thead>
          <tr>
            <th scope="col">Name</th>
            <th scope="col">Lasts</th>
            <th scope="col">
              <span className="sr-only">Order and delete</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {modes.map((mode, index) => (
            <ModeRow key={mode.id} mode={mode} first={index === 0} last={index === modes.length - 1} />
          ))}
        </tbody>
      </table>
      <form
        className="mt-4 flex flex-wrap items-end gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <label className="text-sm">
          New mode
          <input
            className="field ml-2 w-40"
            value={name}
            maxLength={80}
            aria-invalid={Boolean(error)}
            onChange={(event) => setName(event.target.value)}
          />
        </label>
        <label className="text-sm">
          Currents from
          <Select
            className="field ml-2"
            value={copyFrom}
            options={modes.map((mode) => ({ value: mode.id, label: mode.name }))}
            none="nothing yet"
            onChange={(chosen) => setCopyFrom(chosen ?? "")}
          />
        </label>
        <Button type="submit" kind="main">
          Add mode
        </Button>
      </form>
      <Patterns />
      {error && (
        <p role="alert" className="mt-2 text-xs font-semibold text-stop dark:text-fix">
          {error}
        </p>
      )}
    </Dialog>
  );
}
