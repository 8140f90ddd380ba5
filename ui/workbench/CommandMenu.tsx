"use client";
import { Command } from "cmdk";
import { useMemo } from "react";
import { causesOf } from "@/core/verdicts/causes";
import { openAndDecided } from "@/core/verdicts/decided";
import { SEVERITY_WORDS } from "@/core/verdicts/types";
import { analysedOf, analysisOf } from "@/state/findings";
import { Dialog } from "../kit/Dialog";
import { LOAD_KIND_NAMES } from "../parts/KindFields";
import { rowIndex, rowsOf } from "../verdicts/rows";
import { useWorkbench, useWorkbenchContext } from "./context";
import { showRow } from "./showRow";
import { openStep, TABS } from "./step-names";
import { saySteps } from "./useShortcuts";

const GROUP =
  "[&_[cmdk-group-heading]]:border-b [&_[cmdk-group-heading]]:border-hair [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:pb-0.5 [&_[cmdk-group-heading]]:text-xs [&_[cmdk-group-heading]]:font-bold [&_[cmdk-group-heading]]:text-soft";
const ITEM = "flex cursor-default items-baseline justify-between gap-3 px-2 py-1 text-sm data-[selected=true]:bg-tint";

/** Whether every word that was typed stands in it: half a word is enough, scattered letters are not. */
function holdsAll(value: string, search: string): number {
  const text = value.toLowerCase();
  return search
    .toLowerCase()
    .split(/\s+/)
    .every((word) => text.includes(word))
    ? 1
    : 0;
}

/** Steps, parts, verdicts and commands by name: type a few letters, Enter goes there or does it. */
export function CommandMenu({ onClose }: { onClose: () => void }) {
  const { store, openDialog } = useWorkbenchContext();
  const machine = useWorkbench((state) => state.machine);
  const analysed = useWorkbench(analysedOf);
  const verdicts = useWorkbench((state) => analysisOf(state)?.verdicts);
  const causes = useMemo(() => (analysed && verdicts ? causesOf(analysed, openAndDecided(verdicts).open) : []), [analysed, verdicts]);
  const { id } = machine && store.getState();
  const then = (what: () => void) => () => {
    onClose();
    // The menu gives the focus back first, then what was chosen may take it.
    requestAnimationFrame(() => requestAnimationFrame(what));
  };
  const commands: readonly { name: string; keys?: string; act: () => void }[] = [
    { name: "Add a part", keys: "A", act: () => openDialog({ kind: "add", under: store.getState().selected }) },
    { name: "More from a list or a spreadsheet", keys: "+", act: () => openDialog({ kind: "more" }) },
    { name: "Edit several feeds at once: length, size", act: () => openDialog({ kind: "several" }) },
    { name: "Words: what the trade words mean", act: () => window.open("/words", "_self") },
    { name: "Modes", keys: "M", act: () => openDialog({ kind: "modes" }) },
    { name: "Settings: schools, limits, surroundings", act: () => openDialog({ kind: "settings" }) },
    { name: "History of the plan", keys: "H", act: () => openDialog({ kind: "history" }) },
    { name: "Undo", keys: "Ctrl Z", act: () => saySteps(store.getState().undo(), false) },
    { name: "Redo", keys: "Ctrl Y", act: () => saySteps(store.getState().redo(), true) },
    { name: "Worst of all modes", keys: "W", act: () => store.getState().setMode("worst") },
    { name: "Find in verdicts", keys: "/", act: () => document.getElementById("find-verdict")?.focus() },
    { name: "Keys", keys: "?", act: () => openDialog({ kind: "keys" }) },
  ];
  return (
    <Dialog open onOpenChange={onClose} title="Go to, find, do">
      <Command label="Go to, find, do" loop filter={holdsAll} className="-mt-2">
        <Command.Input data-first placeholder="a step, a part, a verdict, a command" className="field w-full" />
        <Command.List className="mt-2 max-h-[56vh] overflow-y-auto">
          <Command.Empty className="py-4 text-sm text-soft">
            Nothing of that name. Parts, verdicts, steps and commands are found by words in them.
          </Command.Empty>
          <Command.Group heading="Steps" className={GROUP}>
            {TABS.map(({ step, label }, i) => (
              <Command.Item key={step} value={`step ${label}`} className={ITEM} onSelect={then(() => openStep(id, step))}>
                {label} <span className="fig text-xs text-soft">{i + 1}</span>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="Commands" className={GROUP}>
            {commands.map(({ name, keys, act }) => (
              <Command.Item key={name} value={`command ${name}`} className={ITEM} onSelect={then(act)}>
                {name} {keys && <span className="fig text-xs text-soft">{keys}</span>}
              </Command.Item>
            ))}
            {machine.modes.map((mode, m) => (
              <Command.Item
                key={mode.id}
                value={`mode ${mode.name} ${m}`}
                className={ITEM}
                onSelect={then(() => store.getState().setMode(m))}
              >
                Mode {mode.name}
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="Parts" className={GROUP}>
            {machine.parts.map((part) => (
              <Command.Item
                key={part.id}
                value={`part ${part.name} ${part.id}`}
                className={ITEM}
                onSelect={then(() => showRow(store, part.id))}
              >
                {part.name} <span className="text-xs text-soft">{part.kind === "load" ? LOAD_KIND_NAMES[part.loadKind] : part.kind}</span>
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="Verdicts" className={GROUP}>
            {causes.map(({ id: cause, headline, severity, head }) => (
              <Command.Item
                key={cause}
                value={`verdict ${headline} ${cause}`}
                className={ITEM}
                onSelect={then(() => {
                  const row = rowsOf(head, rowIndex(store.getState().machine))[0];
                  if (head.step !== undefined) openStep(id, head.step);
                  if (row !== undefined) showRow(store, row);
                })}
              >
                {headline} <span className="text-xs text-soft">{SEVERITY_WORDS[severity]}</span>
              </Command.Item>
            ))}
          </Command.Group>
        </Command.List>
      </Command>
    </Dialog>
  );
}
