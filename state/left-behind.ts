import { saveEdits } from "./api";
import { unsavedOf } from "./journal";
import { batchOf, waitAfter } from "./saving";
import { ownWindow } from "./windows";

/** What became of edits that a closed window left behind. */
export interface LeftBehind {
  readonly machine: string;
  readonly edits: number;
  /** When the first of them was made, as ISO text. */
  readonly at: string;
  /** `asks`: they meet other edits and somebody has to say which stands. `waits`: they are tried again. `gone`: the machine is deleted. */
  readonly became: "saved" | "asks" | "waits" | "gone";
  /** Gives them up for good. */
  readonly letGo: () => void;
}

/**
 * Saves what closed windows left behind of machines that are not open here, and tells what became of it; what the server does
 * not take yet is told once and tried again until it does.
 */
export async function saveLeftBehind(except: string | null, tell: (left: LeftBehind) => void, ended: AbortSignal): Promise<void> {
  const own = ownWindow();
  const open = await own.alive();
  const machines = (await own.journal.machines()).filter((machine) => machine !== except);
  await Promise.all(
    machines.map(async (machine) => {
      const { entries, drafts } = await own.journal.take(machine, open);
      // What this very window made is on its way.
      const theirs = entries.filter(({ window }) => window !== own.name);
      const edits = unsavedOf({ entries: theirs, drafts });
      const [first] = edits;
      if (!first) return;
      const ids = edits.map(({ id }) => id);
      const base = [...theirs.filter(({ saved }) => !saved), ...drafts][0]?.base ?? 1;
      let sent = 0;
      for (let failures = 0; !ended.aborted; ) {
        const batch = batchOf(edits.slice(sent));
        const result = await saveEdits(machine, base, batch, own.name);
        if (result.ok) {
          own.journal.saved(batch.map(({ id }) => id));
          sent += batch.length;
          if (sent < edits.length) continue;
        } else if (result.kind === "conflict") own.journal.saved(result.known);
        const became = result.ok ? "saved" : result.kind === "conflict" ? "asks" : result.kind === "missing" ? "gone" : "waits";
        if (became !== "waits" || failures === 0)
          tell({ machine, edits: edits.length, at: first.at, became, letGo: () => own.journal.drop(ids) });
        if (became !== "waits") return;
        const ms = waitAfter(++failures);
        await new Promise((resolve) => setTimeout(resolve, ms));
      }
    }),
  );
}
