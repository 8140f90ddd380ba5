"use client";
import { useState } from "react";
import { type Created, createBlank, createFromExample } from "@/state/api";
import { Button } from "../kit/Button";
import { Dialog } from "../kit/Dialog";
import { Field } from "../kit/Field";

interface Props {
  examples: { key: string; name: string }[];
  onClose: () => void;
  open: (result: Created) => boolean;
}

/** A new machine: from blank or from an example. */
export function NewDialog({ examples, onClose, open }: Props) {
  const [name, setName] = useState("");
  const [error, setError] = useState<string | null>(null);
  const create = async () => {
    if (name.trim() === "") return setError("Give the machine a name, such as Reedcutter.");
    const result = await createBlank(name.trim());
    if (!open(result) && !result.ok) setError(result.detail);
  };
  return (
    <Dialog open onOpenChange={onClose} title="New machine">
      <form
        onSubmit={(event) => {
          event.preventDefault();
          void create();
        }}
      >
        <Field label="Name" error={error}>
          {(props) => (
            <input
              {...props}
              className="field w-full"
              value={name}
              maxLength={80}
              onChange={(event) => {
                setName(event.target.value);
                setError(null);
              }}
            />
          )}
        </Field>
        <Button type="submit" kind="main" className="mt-2">
          Start from blank
        </Button>
      </form>
      <h3 className="mt-6 text-sm font-bold">Or from an example</h3>
      <ul className="mt-1">
        {examples.map((example) => (
          <li key={example.key} className="border-b border-hair py-1">
            <button type="button" className="link text-sm" onClick={async () => open(await createFromExample(example.key))}>
              {example.name}
            </button>
          </li>
        ))}
      </ul>
    </Dialog>
  );
}
