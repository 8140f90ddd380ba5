import type { Edit } from "@/core/machine/changes";
import { saveEdits } from "./api";
import { ownWindow } from "./windows";

/** What became of edits that a closed window left behind. */
export interface LeftBehind {
  readonly machine: string;
  readonly edits: number;
  /** When the first of them was made, as ISO text. */
  readonly at: string;
  /** `asks`: they meet other edits and somebody has to say which stands. `waits`: the server does not answer. */
  readonly became: "saved" | "asks" | "waits" | "gone";
}

/** Saves what closed windows left behind of machines that are not open here. */
export async function saveLeftBehind(except: string | null): Promise<LeftBehind[]> {
  const own = ownWindow();
  const { journal, name } = own;
  const open = await own.alive();
  const done: LeftBehind[] = [];
  for (const machine of await journal.machines()) {
    if (machine === except) continue;
    const { entries, drafts } = await journal.take(machine, open);
    // What this very window made is on its way.
    const unsaved = entries.filter((entry) => !entry.saved && entry.window !== name);
    const edits: Edit[] = [
      ...unsaved.map(({ id, at, label, changes }) => ({ id, at, label, changes })),
      ...drafts.flatMap(({ edit }) => edit ?? []),
    ];
    const [first] = edits;
    if (!first) continue;
    const result = await saveEdits(machine, unsaved[0]?.base ?? drafts[0]?.base ?? 1, edits, name);
    const ids = edits.map(({ id }) => id);
    if (result.ok) journal.saved(ids);
    else if (result.kind === "conflict") journal.saved(result.known);
    const became = result.ok ? "saved" : result.kind === "conflict" ? "asks" : result.kind === "missing" ? "gone" : "waits";
    done.push({ machine, edits: edits.length, at: first.at, became });
  }
  return done;
}
