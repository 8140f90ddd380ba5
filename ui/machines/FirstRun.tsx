"use client";
import { type Created, createFromExample } from "@/state/api";
import { Button } from "../kit/Button";

interface Props {
  examples: readonly { key: string; name: string }[];
  onBlank: () => void;
  onImport: () => void;
  open: (result: Created) => boolean;
}

/** A ledger without a machine says how one comes to a first verdict, and offers the ways to begin. */
export function FirstRun({ examples, onBlank, onImport, open }: Props) {
  const asDrawn = examples.filter(({ key }) => !key.endsWith("-corrected"));
  return (
    <section className="grid gap-x-12 gap-y-6 py-8 md:grid-cols-[minmax(0,3fr)_minmax(0,2fr)]" aria-label="How to begin">
      <div>
        <h2 className="text-lg font-bold">Your first machine, in two minutes</h2>
        <ol className="mt-2 list-decimal pl-5 text-sm [&>li]:py-1">
          <li>
            <b>Name it.</b> It is kept on this computer alone.
          </li>
          <li>
            <b>Say what feeds it:</b> a pack or a DC supply, and its volts. What you do not know stays open.
          </li>
          <li>
            <b>Say what it moves:</b> paste a list from a spreadsheet, or add one motor with the amps on its label.
          </li>
          <li>
            <b>Read the verdict</b> at the right. It says what is wrong where and why, offers what settles it, and asks for the one figure
            that matters most.
          </li>
        </ol>
        <div className="mt-3 flex flex-wrap gap-3">
          <Button kind="main" onClick={onBlank}>
            Begin with a name
          </Button>
          <Button onClick={onImport}>Import a machine file</Button>
        </div>
      </div>
      <div>
        <h2 className="text-lg font-bold">Or look at one first</h2>
        <ul className="mt-2 text-sm">
          {asDrawn.map(({ key, name }) => (
            <li key={key} className="border-b border-hair py-1.5">
              <button type="button" className="link" onClick={() => void createFromExample(key).then(open)}>
                {name}
              </button>
              <span className="block text-xs text-soft">an example with the mistakes builders make, to try things on</span>
            </li>
          ))}
        </ul>
      </div>
    </section>
  );
}
